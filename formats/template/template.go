// Package template prints a fitting's drilling template at true scale: as PDF over
// as many pages as it takes, with marks where they are joined and a ruler to verify
// the print, and as SVG on one sheet.
package template

import (
	"fmt"
	"html"
	"math"
	"strings"

	"ergasia/core/fitting"
	"ergasia/formats/paper"
)

// Sheet is a template with what is written on it.
type Sheet struct {
	fitting.Template
	Name  string
	Notes []string // what to drill, what to look out for
	Paper string   // A4 or Letter
}

// Sizes of paper, mm.
var sizes = map[string][2]float64{"A4": {210, 297}, "Letter": {215.9, 279.4}}

// Of a page, mm: what printers don't reach, what is kept for words and ruler, and how
// far pages overlap.
const (
	margin  = 12.0
	foot    = 34.0
	overlap = 10.0
	ruler   = 100.0
)

// Tile is what one page shows: the corner of least x and y, and its size, mm.
type Tile struct {
	Column, Row int
	At, Size    [2]float64
}

// Tiles parts the template into pages.
func (s Sheet) Tiles() (list []Tile, columns, rows int) {
	size := s.page()
	use := [2]float64{size[0] - 2*margin, size[1] - margin - foot}
	count := func(k int) int {
		long := s.High[k] - s.Low[k]
		return max(1, int(math.Ceil((long-overlap)/(use[k]-overlap)-1e-9)))
	}
	columns, rows = count(0), count(1)
	for row := range rows {
		for column := range columns {
			at := [2]float64{s.Low[0] + float64(column)*(use[0]-overlap), s.Low[1] + float64(row)*(use[1]-overlap)}
			list = append(list, Tile{Column: column, Row: row, At: at, Size: use})
		}
	}
	return list, columns, rows
}

func (s Sheet) page() [2]float64 {
	if size, known := sizes[s.Paper]; known {
		return size
	}
	return sizes["A4"]
}

// PDF prints all pages.
func (s Sheet) PDF() ([]byte, error) {
	name := s.Paper
	if _, known := sizes[name]; !known {
		name = "A4"
	}
	f := paper.New("P", name, "Template of "+s.Name)
	tiles, columns, rows := s.Tiles()
	for i, t := range tiles {
		f.AddPage()
		s.draw(f, t)
		s.words(
			f,
			t,
			fmt.Sprintf("Page %d of %d, column %d of %d, row %d of %d", i+1, len(tiles), t.Column+1, columns, t.Row+1, rows),
		)
		joins(f, t, columns, rows)
	}
	return f.Bytes()
}

// draw shows what of the template lies on a tile; up is up.
func (s Sheet) draw(f *paper.Doc, t Tile) {
	at := func(p [2]float64) (x, y float64) {
		return margin + p[0] - t.At[0], margin + t.Size[1] - (p[1] - t.At[1])
	}
	f.ClipRect(margin, margin, t.Size[0], t.Size[1], false)
	outline := func(points [][2]float64, width float64) {
		f.SetLineWidth(width)
		for i, p := range points {
			x1, y1 := at(p)
			x2, y2 := at(points[(i+1)%len(points)])
			f.Line(x1, y1, x2, y2)
		}
	}
	f.SetDashPattern([]float64{3, 1.5}, 0)
	outline(s.Foot, 0.25)
	f.SetDashPattern(nil, 0)
	outline(s.Cut, 0.4)
	f.SetLineWidth(0.2)
	for _, h := range s.Holes {
		x, y := at(h)
		f.Circle(x, y, s.Drill/2, "D")
		f.Line(x-s.Drill, y, x+s.Drill, y)
		f.Line(x, y-s.Drill, x, y+s.Drill)
	}
	f.SetDashPattern([]float64{6, 1.5, 1, 1.5}, 0)
	x, y := at([2]float64{0, 0})
	f.Line(margin, y, margin+t.Size[0], y)
	f.Line(x, margin, x, margin+t.Size[1])
	f.SetDashPattern(nil, 0)
	f.ClipEnd()
}

// words writes the name, the notes and the ruler under the drawing.
func (s Sheet) words(f *paper.Doc, t Tile, which string) {
	y := margin + t.Size[1] + 6
	f.Face(true, 11)
	f.Text(margin, y, f.Cut(s.Name, t.Size[0]-80))
	f.Face(false, 8)
	f.Text(margin+t.Size[0]-f.GetStringWidth(which), y, which)
	for i, n := range s.Notes[:min(len(s.Notes), 2)] {
		f.Text(margin, y+4+float64(i)*3.6, f.Cut(n, t.Size[0]))
	}
	y += 18
	f.SetLineWidth(0.3)
	f.Line(margin, y, margin+ruler, y)
	for mm := 0.0; mm <= ruler; mm += 10 {
		long := 2.0
		if math.Mod(mm, 50) == 0 {
			long = 4
		}
		f.Line(margin+mm, y, margin+mm, y-long)
	}
	f.Text(margin+ruler+3, y, "This is 100 mm. Measure it: print at 100 %, not “fit to page”.")
}

// joins marks where the next page is laid on: crosses a half overlap in from the edges
// that have a neighbour.
func joins(f *paper.Doc, t Tile, columns, rows int) {
	left, right := margin+overlap/2, margin+t.Size[0]-overlap/2
	top, bottom := margin+overlap/2, margin+t.Size[1]-overlap/2
	cross := func(x, y float64) {
		f.SetLineWidth(0.15)
		f.Line(x-4, y, x+4, y)
		f.Line(x, y-4, x, y+4)
	}
	sides := map[bool][2]float64{true: {top + 20, bottom - 20}, false: {left + 20, right - 20}}
	for _, y := range sides[true] {
		if t.Column > 0 {
			cross(left, y)
		}
		if t.Column < columns-1 {
			cross(right, y)
		}
	}
	for _, x := range sides[false] {
		if t.Row > 0 {
			cross(x, bottom)
		}
		if t.Row < rows-1 {
			cross(x, top)
		}
	}
}

// SVG is the whole template on one sheet, in millimetres.
func (s Sheet) SVG() []byte {
	const edge = 10.0
	width, height := s.High[0]-s.Low[0]+2*edge, s.High[1]-s.Low[1]+2*edge+24
	width = max(width, ruler+2*edge)
	at := func(p [2]float64) (x, y float64) { return p[0] - s.Low[0] + edge, s.High[1] - p[1] + edge }
	var b strings.Builder
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" width="%.3fmm" height="%.3fmm" viewBox="0 0 %.3f %.3f" fill="none" stroke="#000" stroke-width="0.25">`,
		width,
		height,
		width,
		height,
	)
	fmt.Fprintf(&b, `<title>%s</title>`, html.EscapeString(paper.Printable("Template of "+s.Name)))
	outline := func(points [][2]float64, style string) {
		if len(points) == 0 {
			return
		}
		b.WriteString(`<path ` + style + ` d="`)
		for i, p := range points {
			x, y := at(p)
			fmt.Fprintf(&b, "%s%.3f %.3f", map[bool]string{true: "M", false: "L"}[i == 0], x, y)
		}
		b.WriteString(`Z"/>`)
	}
	outline(s.Foot, `stroke-dasharray="3 1.5"`)
	outline(s.Cut, `stroke-width="0.4"`)
	for _, h := range s.Holes {
		x, y := at(h)
		fmt.Fprintf(&b, `<circle cx="%.3f" cy="%.3f" r="%.3f"/><path d="M%.3f %.3fh%.3fM%.3f %.3fv%.3f"/>`, x, y, s.Drill/2,
			x-s.Drill, y, 2*s.Drill, x, y-s.Drill, 2*s.Drill)
	}
	y := height - 10
	fmt.Fprintf(&b, `<path d="M%.3f %.3fh%.0fm0 -3v3m%.0f -3v3"/>`, edge, y, ruler, -ruler)
	fmt.Fprintf(
		&b,
		`<text x="%.3f" y="%.3f" font-size="4" fill="#000" stroke="none">%s: the line is 100 mm</text></svg>`,
		edge,
		y+6,
		html.EscapeString(paper.Printable(s.Name)),
	)
	return []byte(b.String())
}
