// Package paper is a page of PDF in the program's own faces. Whatever people
// have called a thing can be printed: a letter that the faces don't have has a
// stand-in.
package paper

import (
	"bytes"
	"fmt"
	"strings"
	"sync"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
)

// Doc is a document in millimetres, without margins of its own; its methods
// that take text print it as far as it can be.
type Doc struct{ *fpdf.Fpdf }

// New begins a document: orientation is P or L, size a name such as A4.
func New(orientation, size, title string) *Doc {
	f := fpdf.New(orientation, "mm", size, "")
	f.SetAutoPageBreak(false, 0)
	f.SetMargins(0, 0, 0)
	f.AddUTF8FontFromBytes("go", "", goregular.TTF)
	f.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	f.SetTitle(Printable(title), true)
	return &Doc{Fpdf: f}
}

// Face sets the size of letters, points, and whether they are bold.
func (d *Doc) Face(bold bool, points float64) {
	style := ""
	if bold {
		style = "B"
	}
	d.SetFont("go", style, points)
}

// Text writes a line from a point on its foot, millimetres.
func (d *Doc) Text(x, y float64, text string) { d.Fpdf.Text(x, y, Printable(text)) }

// GetStringWidth is how broad a line is, millimetres.
func (d *Doc) GetStringWidth(text string) float64 { return d.Fpdf.GetStringWidth(Printable(text)) }

// Cut shortens a text to a width, millimetres.
func (d *Doc) Cut(text string, width float64) string {
	if d.GetStringWidth(text) <= width {
		return text
	}
	r := []rune(text)
	for len(r) > 0 && d.GetStringWidth(string(r)+"…") > width {
		r = r[:len(r)-1]
	}
	return string(r) + "…"
}

// Bytes ends the document.
func (d *Doc) Bytes() ([]byte, error) {
	var b bytes.Buffer
	if err := d.Output(&b); err != nil {
		return nil, fmt.Errorf("writing the PDF: %w", err)
	}
	return b.Bytes(), nil
}

const standIn = '□'

// Printable has a stand-in for each letter that the faces don't have, such as
// emoji, and nothing for what has no shape of its own. The PDF's own table of
// letters ends at U+FFFF.
func Printable(text string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case shapeless(r):
			return -1
		case r > 0xffff || !drawn(r):
			return standIn
		}
		return r
	}, strings.ToValidUTF8(text, string(standIn)))
}

// shapeless are control characters, joiners, marks of direction and selectors of a variant.
func shapeless(r rune) bool {
	return r < ' ' || r >= 0x7f && r < 0xa0 || r >= 0x200b && r <= 0x200f || r >= 0x202a && r <= 0x202e ||
		r >= 0x2060 && r <= 0x206f || r >= 0xfe00 && r <= 0xfe0f || r >= 0xfff0 && r <= 0xfffb || r >= 0xfffe && r <= 0xffff ||
		r >= 0x1f3fb && r <= 0x1f3ff || r >= 0xe0000
}

var face = sync.OnceValue(func() *sfnt.Font {
	f, err := sfnt.Parse(goregular.TTF)
	if err != nil {
		panic(err) // it is compiled in
	}
	return f
})

// drawn says whether the faces have a letter.
func drawn(r rune) bool {
	i, err := face().GlyphIndex(nil, r)
	return err == nil && i != 0
}
