// Package lidcards sets a card for each lid as PDF: how things lie under it, to
// scale and layer by layer, the list of them, its code, and its mass against what
// it may carry. Two to an A4 sheet, black on white. Lengths are millimetres on
// paper, metres in the place.
package lidcards

import (
	"fmt"
	"math"

	"ergasia/formats/paper"

	"codeberg.org/go-pdf/fpdf"
)

// Card is what is printed for one lid.
type Card struct {
	Place, Boat     string
	Code            string // of its label; may be empty
	Note            string // such as: dry, 12.3 of 25 kg
	Over            bool   // it carries more than it may
	Length, Breadth float64
	Layers          [][]Box // from the floor up
	List            []string
}

// Box is one piece as it lies, from above: its corner of least x, y. Number is
// its line in the list, from 1.
type Box struct {
	X, Y, Length, Breadth float64
	Number                int
	Ends                  *[2][2]float64 // of a rod: from and to across, at its after and fore end
}

const (
	pageWidth, pageHeight = 210.0, 297.0
	margin                = 12.0
	cardHeight            = (pageHeight - 2*margin) / 2
	pictureTop            = 24.0 // from the card's top
	pictureHeight         = 58.0
	gap                   = 6.0
	mostLayers            = 3
	lineHeight            = 5.4
)

// Write sets the cards.
func Write(cards []Card) ([]byte, error) {
	f := paper.New("P", "A4", "Lid cards")
	if len(cards) == 0 {
		f.AddPage()
	}
	for i, c := range cards {
		if i%2 == 0 {
			f.AddPage()
		}
		top := margin + float64(i%2)*cardHeight
		if i%2 == 1 { // where to cut
			f.SetLineWidth(0.1)
			f.SetDashPattern([]float64{2, 2}, 0)
			f.Line(0, top-1, pageWidth, top-1)
			f.SetDashPattern(nil, 0)
		}
		c.draw(f, top+4)
	}
	return f.Bytes()
}

func (c Card) draw(f *paper.Doc, top float64) {
	right := pageWidth - margin
	f.Face(true, 22)
	f.Text(margin, top+8, f.Cut(c.Place, right-margin-40))
	f.Face(true, 13)
	f.Text(right-f.GetStringWidth(c.Code), top+8, c.Code)
	f.Face(c.Over, 11)
	f.Text(margin, top+15, f.Cut(c.Boat+" · "+c.Note, right-margin))
	c.picture(f, top+pictureTop)
	c.list(f, top+pictureTop+pictureHeight+gap+3, top+cardHeight-8)
}

// picture draws the layers side by side, all to one scale, the bow up.
func (c Card) picture(f *paper.Doc, top float64) {
	layers := c.Layers
	if len(layers) > mostLayers { // the highest are drawn as one
		last := layers[mostLayers-1]
		for _, more := range layers[mostLayers:] {
			last = append(append([]Box{}, last...), more...)
		}
		layers = append(append([][]Box{}, layers[:mostLayers-1]...), last)
	}
	n := float64(max(len(layers), 1))
	width := (pageWidth - 2*margin - (n-1)*gap) / n
	scale := min(width/c.Breadth, pictureHeight/c.Length)
	names := []string{"on the floor", "on those", "on top"}
	for i := range max(len(layers), 1) {
		left := margin + float64(i)*(width+gap)
		f.Face(false, 9)
		f.Text(left, top-1.5, names[i]+", bow up")
		f.SetLineWidth(0.5)
		f.Rect(left, top, c.Breadth*scale, c.Length*scale, "D")
		if i >= len(layers) {
			continue
		}
		f.SetLineWidth(0.2)
		for _, b := range layers[i] {
			// x is forward, so up the page; y is to port, so to the left.
			x, y := left+(c.Breadth-b.Y-b.Breadth)*scale, top+(c.Length-b.X-b.Length)*scale
			if b.Ends != nil {
				across := func(v float64) float64 { return left + (c.Breadth-v)*scale }
				aft, fore := y+b.Length*scale, y
				f.Polygon([]fpdf.PointType{{X: across(b.Ends[0][0]), Y: aft}, {X: across(b.Ends[0][1]), Y: aft},
					{X: across(b.Ends[1][1]), Y: fore}, {X: across(b.Ends[1][0]), Y: fore}}, "D")
			} else {
				f.Rect(x, y, b.Breadth*scale, b.Length*scale, "D")
			}
			text := fmt.Sprint(b.Number)
			f.Face(true, 9)
			f.Text(x+b.Breadth*scale/2-f.GetStringWidth(text)/2, y+b.Length*scale/2+1.2, text)
		}
	}
}

// list sets the names in columns, and says how many more there are.
func (c Card) list(f *paper.Doc, top, bottom float64) {
	rows := int(math.Floor((bottom-top)/lineHeight)) + 1
	const columns = 2
	list := c.List
	if len(list) > rows*columns {
		more := len(list) - rows*columns + 1
		list = append(append([]string{}, list[:rows*columns-1]...), fmt.Sprintf("and %d more", more))
	}
	width := (pageWidth - 2*margin - gap) / columns
	f.Face(false, 12)
	for i, line := range list {
		f.Text(margin+float64(i/rows)*(width+gap), top+float64(i%rows)*lineHeight, f.Cut(line, width))
	}
}
