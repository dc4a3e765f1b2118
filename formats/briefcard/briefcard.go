// Package briefcard sets what guests are told of a boat on one A5 page as PDF: the boat
// from above with numbers where things are, short sentences to read aloud, the distress
// call, and a code that opens the same on a phone. Black on white; lengths are millimetres
// on paper, metres in the boat.
package briefcard

import (
	"fmt"
	"image"
	"math"

	"ergasia/formats/paper"

	"codeberg.org/go-pdf/fpdf"
	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"
)

// Card is what goes on the page.
type Card struct {
	Boat    string
	Outline [][2]float64 // x and half breadth, aft to fore
	Points  []Point
	Call    []string
	Relief  []string
	Own     []string
	Link    string // opens the same on a phone; empty is no code
}

// Point is a numbered thing: what is said of it, and where it is: x forward, y to port.
type Point struct {
	Number int
	Title  string
	Said   string
	At     [][2]float64
}

const (
	width, height = 148.0, 210.0
	margin        = 9.0
	column        = 32.0 // of the drawing
	code          = 26.0
)

// The sizes of letters that are tried, points: the largest with which all fits is taken.
var sizes = []float64{10.5, 10, 9.5, 9, 8.5, 8, 7.5, 7, 6.5, 6}

// Write sets the card. What does not fit on one page at the smallest letters is an error:
// a card of two pages is none.
func Write(c Card) ([]byte, error) {
	for _, size := range sizes {
		p := &page{Doc: paper.New("P", "A5", "Aboard "+c.Boat), size: size}
		p.AddPage()
		if p.set(c) <= height-margin {
			return p.Bytes()
		}
	}
	return nil, fmt.Errorf("%s: there is more to say than fits on one page", c.Boat)
}

type page struct {
	*paper.Doc
	size float64
}

// step from line to line.
func (p *page) step() float64 { return p.size * 0.43 }

// set sets everything, and says where it ends.
func (p *page) set(c Card) float64 {
	p.Face(true, 19)
	p.Text(margin, margin+6, p.Cut("Aboard "+c.Boat, width-2*margin))
	top := margin + 11.0
	bottom := p.boat(c, top)
	if c.Link != "" {
		bottom = p.code(c.Link, bottom+4)
	}
	left := margin + column + 6
	y := top
	for _, q := range c.Points {
		y = p.point(q, left, y)
	}
	if len(c.Own) > 0 {
		y = p.block("And", c.Own, left, y)
	}
	y = p.block("If the skipper is hurt", c.Relief, left, y+1)
	y = p.call(c.Call, margin, max(y, bottom)+3)
	return y
}

func (p *page) point(q Point, left, y float64) float64 {
	p.Face(true, p.size)
	p.number(q.Number, left+1.9, y+p.step()*0.62)
	p.Text(left+6, y+p.step(), q.Title)
	return p.lines(q.Said, left+6, y+p.step())
}

func (p *page) number(n int, x, y float64) {
	p.SetFillColor(0, 0, 0)
	p.Circle(x, y, 2, "F")
	p.SetTextColor(255, 255, 255)
	p.Face(true, 7.5)
	text := fmt.Sprint(n)
	p.Text(x-p.GetStringWidth(text)/2, y+0.95, text)
	p.SetTextColor(0, 0, 0)
	p.Face(true, p.size)
}

func (p *page) lines(text string, left, y float64) float64 {
	p.Face(false, p.size)
	for _, l := range p.SplitText(paper.Printable(text), width-margin-left) {
		y += p.step()
		p.Text(left, y, l)
	}
	return y + p.step()*0.45
}

func (p *page) block(title string, list []string, left, y float64) float64 {
	p.Face(true, p.size)
	y += p.step()
	p.Text(left, y, title)
	for _, l := range list {
		y = p.lines(l, left, y) - p.step()*0.45
	}
	return y + p.step()*0.3
}

// call is in a box of its own, large enough to be read out by someone in fear.
func (p *page) call(list []string, left, y float64) float64 {
	top := y
	p.Face(true, p.size+1)
	y += p.step() * 1.5
	p.Text(left+3, y, "In danger to life: the distress call")
	for _, l := range list {
		p.Face(l == upper(l), p.size)
		for _, part := range p.SplitText(paper.Printable(l), width-2*margin-6) {
			y += p.step()
			p.Text(left+3, y, part)
		}
	}
	y += p.step() * 0.7
	p.SetLineWidth(0.6)
	p.Rect(left, top, width-2*margin, y-top, "D")
	return y
}

func upper(s string) string {
	for _, r := range s {
		if r >= 'a' && r <= 'z' {
			return ""
		}
	}
	return s
}

// boat draws her from above, bow up, with the numbers where things are.
func (p *page) boat(c Card, top float64) float64 {
	if len(c.Outline) < 2 {
		return top
	}
	long, half := c.Outline[len(c.Outline)-1][0], 0.0
	for _, o := range c.Outline {
		half = max(half, o[1])
	}
	if long <= 0 || half <= 0 {
		return top
	}
	scale := min(column/(2*half), 92/long)
	x := func(y float64) float64 { return margin + column/2 - y*scale } // y is to port, so to the left
	y := func(along float64) float64 { return top + 4 + (long-along)*scale }
	var points []fpdf.PointType
	for _, o := range c.Outline {
		points = append(points, fpdf.PointType{X: x(-o[1]), Y: y(o[0])})
	}
	for i := len(c.Outline) - 1; i >= 0; i-- {
		points = append(points, fpdf.PointType{X: x(c.Outline[i][1]), Y: y(c.Outline[i][0])})
	}
	p.Face(false, 7)
	p.Text(margin+column/2-p.GetStringWidth("bow")/2, top+2, "bow")
	p.SetLineWidth(0.5)
	p.Polygon(points, "D")
	for _, m := range spread(c.Points, x, y) {
		p.number(m.n, m.x, m.y)
	}
	return y(0)
}

type mark struct {
	n    int
	x, y float64
}

// spread moves numbers that would lie on one another apart, downwards.
func spread(points []Point, x, y func(float64) float64) (list []mark) {
	const apart = 4.2
	for _, q := range points {
		for _, at := range q.At {
			m := mark{n: q.Number, x: x(at[1]), y: y(at[0])}
			for range 40 {
				hit := false
				for _, o := range list {
					if math.Hypot(o.x-m.x, o.y-m.y) < apart {
						hit = true
					}
				}
				if !hit {
					break
				}
				m.y += apart / 2
			}
			list = append(list, m)
		}
	}
	return list
}

// code draws the QR code of a link.
func (p *page) code(link string, top float64) float64 {
	c, err := qr.Encode(link, qr.M, qr.Auto)
	if err != nil {
		return top
	}
	modules(p, c, margin+(column-code)/2, top)
	p.Face(false, 7)
	said := "on your phone"
	p.Text(margin+column/2-p.GetStringWidth(said)/2, top+code+3, said)
	return top + code + 4
}

func modules(p *page, c barcode.Barcode, left, top float64) {
	n := c.Bounds().Dx()
	side := code / float64(n)
	p.SetFillColor(0, 0, 0)
	for i := range n {
		for j := range n {
			if dark(c, i, j) {
				p.Rect(left+float64(i)*side, top+float64(j)*side, side+0.02, side+0.02, "F")
			}
		}
	}
}

func dark(c image.Image, i, j int) bool {
	r, _, _, _ := c.At(i, j).RGBA()
	return r < 0x8000
}
