// Package wiring sets a boat's electrics on paper as PDF: the diagram on one line, the
// schedule of fuses, labels for panels that are read in the dark, and flags for wires.
// Lengths are millimetres on paper.
package wiring

import (
	"cmp"
	"fmt"
	"math"

	"ergasia/core/circuits"
	"ergasia/formats/paper"
)

// Net is what is set.
type Net struct {
	Boat     string
	Diagram  circuits.Diagram
	Parts    []Part
	Circuits []Circuit
	Foot     string // cautions
}

// Part is a bank, or what stands between banks and circuits.
type Part struct {
	Key, Name string
	Says      string // a few figures
	Kind      circuits.Kind
}

// Circuit is a line of the schedule and a label.
type Circuit struct {
	Key, Name string
	Panel     string // what it hangs on
	Fuse      string // such as 5 A; empty is none
	Wire      string
	Amps      string
	Feeds     string
}

const (
	pageWidth, pageHeight = 210.0, 297.0 // upright
	margin                = 12.0
	top                   = 30.0 // of what stands under the title
	foot                  = 12.0
)

func begin(n Net, orientation, title string) *paper.Doc {
	f := paper.New(orientation, "A4", title+", "+n.Boat)
	page(f, n, title)
	return f
}

func page(f *paper.Doc, n Net, title string) {
	f.AddPage()
	width, height := f.GetPageSize()
	f.Face(true, 20)
	f.Text(margin, 20, f.Cut(n.Boat+": "+title, width-2*margin))
	f.Face(false, 8)
	f.Text(margin, height-6, f.Cut(n.Foot, width-2*margin))
}

// rows of a height that a page has.
func rows(height float64) int { return int(math.Floor((pageHeight - top - 2*foot) / height)) }

// label is a text with the box that it takes.
type label struct {
	x, y, width, height float64 // of least x and y, y down the page
	name, says          string
	points              float64 // size of the name
}

// drawn is the diagram as it lies on the page.
type drawn struct {
	boxes  map[string]label // parts
	leaves map[string]label // circuits
	row    float64
	column float64
	box    float64 // breadth of a part
}

const (
	leafWidth = 62.0
	mostRow   = 12.0
	mostBox   = 36.0
	gutter    = 9.0
)

// lay finds the place of everything: a row for each circuit, as high as the page allows.
func lay(f *paper.Doc, n Net) drawn {
	d := drawn{boxes: map[string]label{}, leaves: map[string]label{}}
	width, height := f.GetPageSize()
	d.row = min(mostRow, (height-top-2*foot)/float64(max(1, n.Diagram.Rows)))
	d.column = (width - 2*margin - leafWidth) / float64(max(1, n.Diagram.Columns-1))
	d.box = min(mostBox, d.column-gutter)
	spots := map[string]circuits.Spot{}
	for _, s := range append(append([]circuits.Spot{}, n.Diagram.Parts...), n.Diagram.Circuits...) {
		spots[s.Key] = s
	}
	place := func(key, name, says string, width float64) label {
		s := spots[key]
		l := label{
			x:      margin + float64(s.Column)*d.column,
			y:      top + s.Row*d.row + d.row*0.06,
			height: d.row * 0.88,
			width:  width,
		}
		l.points = fitting(f, name, width-2, min(10, d.row*1.2))
		l.name = f.Cut(name, width-2)
		f.Face(false, l.points*0.85)
		l.says = f.Cut(says, width-2)
		return l
	}
	for _, p := range n.Parts {
		d.boxes[p.Key] = place(p.Key, p.Name, p.Says, d.box)
	}
	for _, c := range n.Circuits {
		l := place(c.Key, c.Name, c.says(), leafWidth-4)
		l.x += 4
		d.leaves[c.Key] = l
	}
	return d
}

const leastPoints = 6.5 // that are read at arm's length

// fitting is the size at which a name goes into a width: as large as may be, and no smaller
// than can be read. It sets the face.
func fitting(f *paper.Doc, name string, width, points float64) float64 {
	for {
		f.Face(true, points)
		if points <= leastPoints || f.GetStringWidth(name) <= width {
			return points
		}
		points = max(leastPoints, points-0.5)
	}
}

func (c Circuit) says() string {
	said := ""
	for _, part := range []string{c.Fuse, c.Amps, c.Wire} {
		if part != "" && said != "" {
			said += ", "
		}
		said += part
	}
	return said
}

// mostAcross is how many rows a page has that lies on its side: names have more room there.
const mostAcross = 17

// Diagram sets the one-line diagram on one A4 page.
func Diagram(n Net) ([]byte, error) {
	orientation := "L"
	if n.Diagram.Rows > mostAcross {
		orientation = "P"
	}
	f := begin(n, orientation, "on one line")
	d := lay(f, n)
	f.SetLineWidth(0.25)
	for _, l := range n.Diagram.Lines {
		d.line(f, l)
	}
	for _, p := range n.Parts {
		d.part(f, p)
	}
	for _, c := range n.Circuits {
		l := d.leaves[c.Key]
		f.Circle(l.x-1.5, l.middle(), 0.8, "F")
		l.write(f, 0.5)
	}
	return f.Bytes()
}

func (l label) middle() float64 { return l.y + l.height/2 }

// write sets the name over what is said, in the label's box.
func (l label) write(f *paper.Doc, inset float64) {
	f.Face(true, l.points)
	f.Text(l.x+inset, l.y+l.height*0.46, l.name)
	f.Face(false, l.points*0.85)
	f.Text(l.x+inset, l.y+l.height*0.92, l.says)
}

func (d drawn) part(f *paper.Doc, p Part) {
	l := d.boxes[p.Key]
	f.SetLineWidth(0.4)
	if p.Kind == circuits.Bank {
		f.SetLineWidth(0.9)
	}
	f.Rect(l.x, l.y, l.width, l.height, "D")
	f.SetLineWidth(0.25)
	l.write(f, 1)
}

// line runs from a part to what it feeds: across, down in the gutter, across.
func (d drawn) line(f *paper.Doc, l circuits.Line) {
	from := d.boxes[l.From]
	to, part := d.boxes[l.To]
	end := to.x
	if !part {
		to = d.leaves[l.To]
		end = to.x - 1.5
	}
	bend := from.x + from.width + gutter/2
	if l.Lane > 0 {
		bend = to.x - gutter/4
	}
	f.Line(from.x+from.width, from.middle(), bend, from.middle())
	f.Line(bend, from.middle(), bend, to.middle())
	f.Line(bend, to.middle(), end, to.middle())
}

// Schedule sets the fuses as a card to hang beside the panel: circuit, fuse, wire, draw.
func Schedule(n Net) ([]byte, error) {
	f := begin(n, "P", "fuses")
	const row = 8.0
	columns := []struct {
		title string
		x     float64
		text  func(Circuit) string
	}{
		{"Circuit", margin, func(c Circuit) string { return c.Name }},
		{"Hangs on", 72, func(c Circuit) string { return c.Panel }},
		{"Fuse", 118, func(c Circuit) string { return orNone(c.Fuse) }},
		{"Wire", 142, func(c Circuit) string { return c.Wire }},
		{"Draws", 176, func(c Circuit) string { return c.Amps }},
	}
	perPage := rows(row)
	for i, c := range n.Circuits {
		if i > 0 && i%perPage == 0 {
			page(f, n, "fuses")
		}
		y := top + float64(i%perPage)*row
		if i%perPage == 0 {
			f.Face(false, 9)
			for _, col := range columns {
				f.Text(col.x, y-1, col.title)
			}
			f.Line(margin, y, pageWidth-margin, y)
		}
		for k, col := range columns {
			right := pageWidth - margin
			if k+1 < len(columns) {
				right = columns[k+1].x - 2
			}
			f.Face(k == 0 || k == 2, 12)
			f.Text(col.x, y+6, f.Cut(col.text(c), right-col.x))
		}
		f.Line(margin, y+row, pageWidth-margin, y+row)
	}
	return f.Bytes()
}

func orNone(fuse string) string {
	if fuse == "" {
		return "none"
	}
	return fuse
}

const (
	labelWidth, labelHeight = 62.0, 16.0
	labelColumns            = 3
)

// Labels sets a label for each switch and fuse, large enough to be read in the dark: black
// on white, or white on black for night.
func Labels(n Net, night bool) ([]byte, error) {
	f := begin(n, "P", "labels")
	perPage := labelColumns * rows(labelHeight)
	for i, c := range n.Circuits {
		if i > 0 && i%perPage == 0 {
			page(f, n, "labels")
		}
		at := i % perPage
		x, y := margin+float64(at%labelColumns)*labelWidth, top+float64(at/labelColumns)*labelHeight
		f.SetLineWidth(0.1)
		f.SetDrawColor(150, 150, 150) // where to cut
		if night {
			f.SetFillColor(0, 0, 0)
			f.SetTextColor(255, 255, 255)
			f.Rect(x, y, labelWidth, labelHeight, "FD")
		} else {
			f.Rect(x, y, labelWidth, labelHeight, "D")
		}
		f.Face(true, 19)
		if f.GetStringWidth(c.Name) > labelWidth-6 {
			f.Face(true, 14)
		}
		f.Text(x+3, y+8, f.Cut(c.Name, labelWidth-6))
		f.Face(true, 11)
		f.Text(x+3, y+13.5, f.Cut(orNone(c.Fuse), labelWidth-6))
		f.SetTextColor(0, 0, 0)
	}
	return f.Bytes()
}

const (
	flagWidth, flagHeight = 92.0, 10.0 // folded about the wire at the middle
	flagColumns           = 2
	wrap                  = 8.0 // that goes about the wire
)

// Flags sets two for each circuit, one for either end of its wire: folded about it, they
// read from both sides.
func Flags(n Net) ([]byte, error) {
	f := begin(n, "P", "wire flags: cut, fold about the wire at the dots, glue")
	perPage := flagColumns * rows(flagHeight)
	i := 0
	for _, c := range n.Circuits {
		for _, end := range []string{"at the " + c.Panel, "at " + cmp.Or(c.Feeds, c.Name)} {
			if i > 0 && i%perPage == 0 {
				page(f, n, "wire flags")
			}
			at := i % perPage
			c.flag(f, end, margin+float64(at%flagColumns)*flagWidth, top+float64(at/flagColumns)*flagHeight)
			i++
		}
	}
	return f.Bytes()
}

func (c Circuit) flag(f *paper.Doc, end string, x, y float64) {
	f.SetLineWidth(0.1)
	f.Rect(x, y, flagWidth, flagHeight, "D")
	half := (flagWidth - wrap) / 2
	f.SetDashPattern([]float64{0.4, 0.8}, 0)
	f.Line(x+half, y, x+half, y+flagHeight)
	f.Line(x+half+wrap, y, x+half+wrap, y+flagHeight)
	f.SetDashPattern(nil, 0)
	for _, left := range []float64{x, x + half + wrap} {
		f.Face(true, 11)
		f.Text(left+1.5, y+4.6, f.Cut(c.Name, half-3))
		f.Face(false, 8)
		f.Text(left+1.5, y+8.4, f.Cut(fmt.Sprintf("%s, %s", orNone(c.Fuse), end), half-3))
	}
}
