// Package labels sets sheets of labels as PDF: a name that can be read at arm's
// length, a short code, and a QR code (ISO/IEC 18004, by a library) that opens
// the thing on a phone. Lengths are millimetres.
package labels

import (
	"bytes"
	"fmt"
	"image/png"
	"strings"

	"ergasia/formats/paper"

	"codeberg.org/go-pdf/fpdf"
	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"
)

// Sheet is a sheet of labels as shops sell them.
type Sheet struct {
	Key, Name     string
	Paper         string // A4 or Letter
	Across, Down  int
	Width, Height float64 // of a label
	Left, Top     float64 // of the first label
	GapX, GapY    float64
	Use           string // what it suits
}

// Sheets are usual sizes. Measures from memory: check one sheet against paper
// before printing many.
var Sheets = []Sheet{
	{Key: "a4-21", Name: "A4, 21 labels, 63.5 x 38.1", Paper: "A4", Across: 3, Down: 7, Width: 63.5, Height: 38.1,
		Left: 7.2, Top: 15.1, GapX: 2.5, GapY: 0, Use: "boxes and shelves"},
	{Key: "a4-8", Name: "A4, 8 labels, 99.1 x 67.7", Paper: "A4", Across: 2, Down: 4, Width: 99.1, Height: 67.7,
		Left: 4.7, Top: 13.1, GapX: 2.5, GapY: 0, Use: "lids"},
	{Key: "a4-65", Name: "A4, 65 labels, 38.1 x 21.2", Paper: "A4", Across: 5, Down: 13, Width: 38.1, Height: 21.2,
		Left: 4.7, Top: 10.7, GapX: 2.5, GapY: 0, Use: "rods, small things"},
	{Key: "a4-24", Name: "A4, 24 labels, 70 x 37", Paper: "A4", Across: 3, Down: 8, Width: 70, Height: 37, Left: 0,
		Top: 0.5, GapX: 0, GapY: 0, Use: "boxes and shelves"},
	{Key: "letter-30", Name: "Letter, 30 labels, 2 5/8 x 1 in", Paper: "Letter", Across: 3, Down: 10, Width: 66.7,
		Height: 25.4, Left: 4.8, Top: 12.7, GapX: 3.1, GapY: 0, Use: "boxes and rods"},
	{Key: "letter-10", Name: "Letter, 10 labels, 4 x 2 in", Paper: "Letter", Across: 2, Down: 5, Width: 101.6,
		Height: 50.8, Left: 4, Top: 12.7, GapX: 4.8, GapY: 0, Use: "lids"},
}

// SheetOf gives a sheet by its key.
func SheetOf(key string) (Sheet, bool) {
	for _, s := range Sheets {
		if s.Key == key {
			return s, true
		}
	}
	return Sheet{}, false
}

// Label is one label.
type Label struct {
	Name  string
	Lines []string // smaller, below: whose, where it lives, what it holds
	Mark  string   // the owner's
	Code  string   // to type where there is no camera
	URL   string   // in the QR code
}

// Write sets the labels, leaving the first skip places of the first sheet empty:
// they were used before.
func Write(s Sheet, labels []Label, skip int) ([]byte, error) {
	f := paper.New("P", s.Paper, "Labels")
	per := s.Across * s.Down
	for i, l := range labels {
		at := skip + i
		if i == 0 || at%per == 0 {
			f.AddPage()
		}
		at %= per
		x := s.Left + float64(at%s.Across)*(s.Width+s.GapX)
		y := s.Top + float64(at/s.Across)*(s.Height+s.GapY)
		if err := set(f, s, l, x, y, i); err != nil {
			return nil, err
		}
	}
	return f.Bytes()
}

const (
	pad       = 2.0
	pointMM   = 25.4 / 72
	smallest  = 5.0 // points
	quietZone = 4   // modules, of ISO/IEC 18004
)

// set draws a label: the code at the left, words at the right.
func set(f *paper.Doc, s Sheet, l Label, x, y float64, n int) error {
	side := min(s.Height-2*pad, s.Width*0.4)
	picture, modules, err := codePicture(l.URL)
	if err != nil {
		return fmt.Errorf("the code of %s: %w", l.Name, err)
	}
	name := fmt.Sprintf("qr%d", n)
	f.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(picture))
	quiet := side * quietZone / float64(modules+2*quietZone) / 2 // the label's own margin gives the rest
	f.ImageOptions(name, x+pad+quiet, y+(s.Height-side)/2+quiet, side-2*quiet, side-2*quiet, false, fpdf.ImageOptions{},
		0, "")

	left, width := x+pad+side+pad, s.Width-side-3*pad
	title := l.Name
	if l.Mark != "" {
		title = l.Mark + " · " + title
	}
	size := min(14, s.Height/2.6/pointMM/2.2)
	lines := wrap(f, title, &size, width, s.Height*0.55)
	top := y + pad
	for _, line := range lines {
		top += size * pointMM * 1.15
		f.Text(left, top, line)
	}
	small := max(smallest, size*0.62)
	f.Face(false, small)
	room := y + s.Height - pad - small*pointMM*1.3
	for _, line := range l.Lines {
		if top+small*pointMM*1.3 > room {
			break
		}
		top += small * pointMM * 1.3
		f.Text(left, top, f.Cut(line, width))
	}
	f.Face(true, small)
	f.Text(left, y+s.Height-pad-small*pointMM*0.2, l.Code)
	return nil
}

// codePicture is the QR code of a text as PNG, and how many modules it is wide.
// Level M of ISO/IEC 18004 restores 15 % of it where it is dirty or torn (memory).
func codePicture(text string) ([]byte, int, error) {
	code, err := qr.Encode(text, qr.M, qr.Auto)
	if err != nil {
		return nil, 0, err
	}
	modules := code.Bounds().Dx()
	large, err := barcode.Scale(code, modules*4, modules*4) // whole pixels a module
	if err != nil {
		return nil, 0, err
	}
	var picture bytes.Buffer
	if err := png.Encode(&picture, large); err != nil {
		return nil, 0, err
	}
	return picture.Bytes(), modules, nil
}

// wrap breaks a title into lines that fit, in smaller type where they don't.
func wrap(f *paper.Doc, text string, size *float64, width, height float64) []string {
	for {
		f.Face(true, *size)
		var lines []string
		line := ""
		for _, word := range strings.Fields(text) {
			longer := strings.TrimSpace(line + " " + word)
			if line != "" && f.GetStringWidth(longer) > width {
				lines, line = append(lines, line), word
			} else {
				line = longer
			}
		}
		lines = append(lines, line)
		fits := float64(len(lines))*(*size)*pointMM*1.15 <= height
		for _, l := range lines {
			fits = fits && f.GetStringWidth(l) <= width
		}
		if fits {
			return lines
		}
		if *size <= smallest {
			for i := range lines {
				lines[i] = f.Cut(lines[i], width)
			}
			return lines[:min(len(lines), max(1, int(height/(*size*pointMM*1.15))))]
		}
		*size = max(smallest, *size*0.9)
	}
}
