package sheet

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"ergasia/core/hull"
	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func usual(t *testing.T, name string) Sheet {
	f, ok := hull.FormNamed(name)
	require.True(t, ok)
	h := f.Hull(f.Usual())
	s := Sheet{Boat: "Dunlin <&> Ærø", Lines: h.Lines(13), Units: units.Metric, Dimensions: true,
		Water: &[2]float64{0.25, 0.24}}
	cells, posts := hull.Layouts[0].Fit(h)
	for _, c := range cells {
		s.Places = append(s.Places, Box{Name: c.Name, Corner: [3]float64{c.Low.X, c.Low.Y, c.Low.Z},
			Size: [3]float64{c.High.X - c.Low.X, c.High.Y - c.Low.Y, c.High.Z - c.Low.Z}})
	}
	for _, p := range posts {
		s.Posts = append(s.Posts, Spot{Name: p.Name, At: [3]float64{p.At.X, p.At.Y, p.At.Z}})
	}
	return s
}

func TestTheSVGIsWellFormedAndOnThePage(t *testing.T) {
	for _, f := range hull.Forms() {
		text := usual(t, f.Name).SVG()
		d := xml.NewDecoder(bytes.NewReader(text))
		for {
			_, err := d.Token()
			if errors.Is(err, io.EOF) {
				break
			}
			require.NoError(t, err)
		}
		for _, m := range regexp.MustCompile(`[ML](-?[\d.]+) (-?[\d.]+)`).FindAllStringSubmatch(string(text), -1) {
			x, _ := strconv.ParseFloat(m[1], 64)
			y, _ := strconv.ParseFloat(m[2], 64)
			assert.True(t, x >= 0 && x <= pageWidth && y >= 0 && y <= pageHeight, "%s: %s %s is off the page", f.Name, m[1],
				m[2])
		}
	}
}

// The plan is to scale: the sheer's length on paper over the boat's is the scale
// that the sheet names.
func TestThePlanIsToTheScaleItNames(t *testing.T) {
	s := usual(t, "vee")
	text := string(s.SVG())
	named := regexp.MustCompile(`scale 1 : (\d+)`).FindStringSubmatch(text)
	require.NotNil(t, named)
	n, _ := strconv.ParseFloat(named[1], 64)
	longest := 0.0
	for _, path := range regexp.MustCompile(`d="([^"]+)Z"`).FindAllStringSubmatch(text, -1) {
		low, high := 1e9, 0.0
		for _, m := range regexp.MustCompile(`[ML](-?[\d.]+) `).FindAllStringSubmatch(path[1], -1) {
			x, _ := strconv.ParseFloat(m[1], 64)
			low, high = min(low, x), max(high, x)
		}
		longest = max(longest, high-low)
	}
	e := s.extent()
	assert.InDelta(t, (e.fore-e.aft)*1000/n, longest, 0.05)
}

func TestNamesAreWholeAndDimensionsComeOnDemand(t *testing.T) {
	s := usual(t, "vee")
	text := string(s.SVG())
	for _, p := range s.Places {
		for _, part := range halves(p.Name) {
			assert.Contains(t, text, part)
		}
	}
	assert.Contains(t, text, "Dunlin &lt;&amp;&gt; Ærø")
	assert.Contains(t, text, " cm<")
	s.Dimensions = false
	assert.NotContains(t, string(s.SVG()), " cm<")
	s.Dimensions, s.Units = true, units.US
	assert.Contains(t, string(s.SVG()), "3 ft")
}

func TestThePDFIsOne(t *testing.T) {
	text, err := usual(t, "flat").PDF()
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(text), "%PDF-"))
	assert.Greater(t, len(text), 5000)
	assert.Less(t, len(text), 300000)
}
