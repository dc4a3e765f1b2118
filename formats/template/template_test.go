package template_test

import (
	"bytes"
	"compress/zlib"
	"encoding/xml"
	"io"
	"math"
	"regexp"
	"strconv"
	"testing"

	"ergasia/core/fitting"
	"ergasia/formats/template"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const mm = 72 / 25.4 // points of PDF

// pages are the drawing commands of each page, inflated.
func pages(t *testing.T, pdf []byte) (list []string) {
	for _, m := range regexp.MustCompile(`(?s)stream\n(.*?)\nendstream`).FindAllSubmatch(pdf, -1) {
		r, err := zlib.NewReader(bytes.NewReader(m[1]))
		if err != nil {
			continue
		}
		text, err := io.ReadAll(r)
		if err == nil && bytes.Contains(text, []byte(" l S")) {
			list = append(list, string(text))
		}
	}
	return list
}

type line struct{ x1, y1, x2, y2 float64 }

// lines of a page, millimetres from its lower left corner.
func lines(t *testing.T, page string) (list []line) {
	n := `(-?[\d.]+)`
	for _, m := range regexp.MustCompile(n+" "+n+" m "+n+" "+n+" l S").FindAllStringSubmatch(page, -1) {
		var v [4]float64
		for i := range v {
			f, err := strconv.ParseFloat(m[i+1], 64)
			require.NoError(t, err)
			v[i] = f / mm
		}
		list = append(list, line{v[0], v[1], v[2], v[3]})
	}
	return list
}

func track() template.Sheet {
	d := fitting.Drawn{Foot: [2]float64{600, 30}, Holes: fitting.Screwed([2]float64{600, 30}, 6, nil), Drill: 5.5}
	return template.Sheet{Template: d.Make(), Name: "track", Paper: "A4", Notes: []string{"drill 5.5 mm"}}
}

// A track of 600 mm lies over several pages. Measured from page to page over the marks
// where they are joined, 300 mm are 300 mm to 0.2.
func TestAPrintMeasuresTrue(t *testing.T) {
	s := track()
	pdf, err := s.PDF()
	require.NoError(t, err)
	all := pages(t, pdf)
	tiles, columns, _ := s.Tiles()
	require.Len(t, all, len(tiles))
	require.Greater(t, columns, 2)
	// upright strokes of the holes' crosses, 11 mm tall, by page
	crosses := func(page string) (x []float64) {
		for _, l := range lines(t, page) {
			if math.Abs(l.x1-l.x2) < 1e-6 && math.Abs(math.Abs(l.y1-l.y2)-11) < 0.05 {
				x = append(x, l.x1)
			}
		}
		return x
	}
	// the joint marks are 8 mm tall
	marks := func(page string) (x []float64) {
		for _, l := range lines(t, page) {
			if math.Abs(l.x1-l.x2) < 1e-6 && math.Abs(math.Abs(l.y1-l.y2)-8) < 0.05 {
				x = append(x, l.x1)
			}
		}
		return x
	}
	// laid on one another by their marks, pages give each hole's place
	offset, holes := 0.0, []float64{}
	for i, page := range all {
		m := marks(page)
		if i > 0 {
			offset += maxOf(marks(all[i-1])) - minOf(m)
		}
		for _, x := range crosses(page) {
			if x > 12 && x < 198 { // on the page, and not cut off at its edge
				holes = append(holes, x+offset)
			}
		}
	}
	want := []float64{-210, 0, 210} // of Rectangle's three pairs on 600 less its edges
	for _, w := range want {
		found := math.Inf(1)
		for _, h := range holes {
			if d := math.Abs(h - holes[0] - (w - want[0])); d < found {
				found = d
			}
		}
		assert.Less(t, found, 0.2*420/300, "%v", w)
	}
}

func minOf(v []float64) float64 {
	m := math.Inf(1)
	for _, x := range v {
		m = min(m, x)
	}
	return m
}

func maxOf(v []float64) float64 {
	m := math.Inf(-1)
	for _, x := range v {
		m = max(m, x)
	}
	return m
}

func TestEachPageHasARulerOf100Millimetres(t *testing.T) {
	for _, size := range []string{"A4", "Letter"} {
		s := track()
		s.Paper = size
		pdf, err := s.PDF()
		require.NoError(t, err)
		for _, page := range pages(t, pdf) {
			found := false
			for _, l := range lines(t, page) {
				found = found || math.Abs(math.Hypot(l.x1-l.x2, l.y1-l.y2)-100) < 0.02
			}
			assert.True(t, found)
		}
	}
}

func TestTilesCoverTheTemplateAndOverlap(t *testing.T) {
	s := track()
	s.Template = fitting.Drawn{Foot: [2]float64{500, 700}}.Make()
	tiles, columns, rows := s.Tiles()
	assert.Len(t, tiles, columns*rows)
	last := tiles[len(tiles)-1]
	assert.GreaterOrEqual(t, last.At[0]+last.Size[0], s.High[0])
	assert.GreaterOrEqual(t, last.At[1]+last.Size[1], s.High[1])
	assert.InDelta(t, 10, tiles[0].At[0]+tiles[0].Size[0]-tiles[1].At[0], 1e-9)
}

func TestTheSVGIsInMillimetresAndAsksNothingOfAName(t *testing.T) {
	s := track()
	s.Name = `<script>"&'`
	var doc struct {
		Width   string `xml:"width,attr"`
		ViewBox string `xml:"viewBox,attr"`
		Circles []struct {
			X float64 `xml:"cx,attr"`
			R float64 `xml:"r,attr"`
		} `xml:"circle"`
	}
	require.NoError(t, xml.Unmarshal(s.SVG(), &doc))
	assert.Equal(t, "620.000mm", doc.Width)
	require.Len(t, doc.Circles, 6)
	assert.InDelta(t, 210, doc.Circles[2].X-doc.Circles[0].X, 1e-9)
	assert.InDelta(t, 2.75, doc.Circles[0].R, 1e-9)
	assert.NotContains(t, string(s.SVG()), "<script>")
}

// Whatever a fitting is called, and however large it is, the pages come out and are few.
func TestOddTemplatesComeOut(t *testing.T) {
	for name, d := range map[string]fitting.Drawn{
		"one hole":       {Holes: [][2]float64{{0, 0}}, Drill: 6},
		"as large as is": {Foot: [2]float64{3000, 3000}},
		"a round cut":    {Cut: [2]float64{60, 60}, Corner: 30},
		"bent":           {Foot: [2]float64{200, 100}, Curve: 150},
		"far hole":       {Foot: [2]float64{50, 50}, Holes: [][2]float64{{1400, 0}}, Drill: 5},
	} {
		require.NoError(t, d.Check(), name)
		s := template.Sheet{
			Template: d.Make(),
			Name:     "□ \u202e" + name + " \U0001F600 " + string(make([]byte, 300)),
			Paper:    "nonsense",
			Notes:    []string{name, name, name},
		}
		pdf, err := s.PDF()
		require.NoError(t, err, name)
		tiles, columns, rows := s.Tiles()
		assert.Len(t, pages(t, pdf), columns*rows, name)
		assert.Less(t, len(tiles), 300, name)
		assert.Less(t, len(pdf), 4<<20, name)
		require.NoError(t, xml.Unmarshal(s.SVG(), new(struct{})), name)
	}
}

// A template that fits one page is on one, with nothing to join.
func TestASmallTemplateIsOnOnePage(t *testing.T) {
	s := template.Sheet{
		Template: fitting.Drawn{Foot: [2]float64{120, 80}, Holes: [][2]float64{{-40, -20}, {40, 20}}, Drill: 6.6}.Make(),
		Name:     "cleat",
		Paper:    "A4",
	}
	_, columns, rows := s.Tiles()
	assert.Equal(t, []int{1, 1}, []int{columns, rows})
	pdf, err := s.PDF()
	require.NoError(t, err)
	all := pages(t, pdf)
	require.Len(t, all, 1)
	for _, l := range lines(t, all[0]) { // joint marks are strokes of 8 mm that nothing else has
		assert.False(t, math.Abs(math.Hypot(l.x1-l.x2, l.y1-l.y2)-8) < 1e-3)
	}
	// the two holes are 80 by 40 mm apart on paper
	var across []line
	for _, l := range lines(t, all[0]) {
		if math.Abs(l.y1-l.y2) < 1e-6 && math.Abs(math.Abs(l.x1-l.x2)-13.2) < 0.02 {
			across = append(across, l)
		}
	}
	require.Len(t, across, 2)
	assert.InDelta(t, 80, math.Abs(across[0].x1-across[1].x1), 0.05)
	assert.InDelta(t, 40, math.Abs(across[0].y1-across[1].y1), 0.05)
}
