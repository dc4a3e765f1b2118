// Package tripsheets sets the sheets of a trip as PDF: titles, lines with a figure at the
// right, boxes to tick with a pen. A4, black on white, as many pages as it takes.
package tripsheets

import (
	"fmt"

	"ergasia/formats/paper"
)

// Sheet is what goes on one sheet.
type Sheet struct {
	Key      string      `json:"key" enum:"load,packing,fuel,times,float-plan,lists"`
	Title    string      `json:"title"`
	About    string      `json:"about" doc:"Trip, boat, day"`
	Sections []SheetPart `json:"sections"`
	Foot     string      `json:"foot,omitempty"`
}

// SheetPart is a part of a sheet.
type SheetPart struct {
	Title string      `json:"title"`
	Lines []SheetLine `json:"lines"`
}

// SheetLine is a line of text, with a figure at the right.
type SheetLine struct {
	Text  string `json:"text"`
	Right string `json:"right,omitempty"`
	Tick  bool   `json:"tick,omitempty" doc:"A box to tick stands before it"`
}

const (
	width, height = 210.0, 297.0
	margin        = 15.0
	line          = 6.6
	box           = 3.6
)

// page is where the pen is.
type page struct {
	*paper.Doc
	y    float64
	n    int
	name string
}

// Write sets sheets one after the other, each from a page of its own.
func Write(sheets []Sheet) ([]byte, error) {
	title := "Sheets"
	if len(sheets) == 1 {
		title = sheets[0].Title
	}
	p := &page{Doc: paper.New("P", "A4", title)}
	for _, s := range sheets {
		p.sheet(s)
	}
	if p.n == 0 {
		p.AddPage()
	}
	return p.Bytes()
}

func (p *page) sheet(s Sheet) {
	p.name = s.Title
	p.next()
	p.Face(true, 20)
	p.Doc.Text(margin, p.y+6, p.Cut(s.Title, width-2*margin))
	p.Face(false, 11)
	p.Doc.Text(margin, p.y+13, p.Cut(s.About, width-2*margin))
	p.y += 21
	for _, sec := range s.Sections {
		p.section(sec)
	}
	if s.Foot != "" {
		p.y += 3
		p.Face(false, 9)
		for _, text := range p.wrapped(s.Foot, width-2*margin) {
			p.room(5)
			p.Doc.Text(margin, p.y+4, text)
			p.y += 4.6
		}
	}
}

func (p *page) section(s SheetPart) {
	p.room(3 * line)
	p.Face(true, 12)
	p.Doc.Text(margin, p.y+5, p.Cut(s.Title, width-2*margin))
	p.y += 7
	p.SetLineWidth(0.3)
	p.Doc.Line(margin, p.y, width-margin, p.y)
	p.y++
	for _, l := range s.Lines {
		p.line(l)
	}
	p.y += 4
}

func (p *page) line(l SheetLine) {
	left := margin
	if l.Tick {
		left += box + 2.5
	}
	p.Face(false, 11)
	right := 0.0
	if l.Right != "" {
		right = p.GetStringWidth(l.Right) + 4
	}
	for i, text := range p.wrapped(l.Text, width-margin-left-right) {
		p.room(line)
		p.Face(false, 11)
		if i == 0 && l.Tick {
			p.SetLineWidth(0.3)
			p.Rect(margin, p.y+1.2, box, box, "D")
		}
		if i == 0 && l.Right != "" {
			p.Doc.Text(width-margin-right+4, p.y+4.6, l.Right)
		}
		p.Doc.Text(left, p.y+4.6, text)
		p.y += line
	}
}

// wrapped breaks a text into lines of a width, millimetres; a word that is longer is cut.
func (p *page) wrapped(text string, width float64) (lines []string) {
	for _, w := range p.SplitText(paper.Printable(text), width) {
		lines = append(lines, p.Cut(w, width))
	}
	if len(lines) == 0 {
		lines = []string{""}
	}
	return lines
}

// room goes to the next page where there is not enough of this one.
func (p *page) room(h float64) {
	if p.y+h > height-margin {
		p.next()
	}
}

func (p *page) next() {
	p.AddPage()
	p.n++
	p.y = margin
	p.Face(false, 8)
	foot := fmt.Sprintf("%s, page %d", p.name, p.n)
	p.Doc.Text(width-margin-p.GetStringWidth(foot), height-8, foot)
}
