package sheet

import (
	"bytes"
	"fmt"
	"html"
	"strings"

	"ergasia/formats/paper"
)

// SVG gives the sheet as an SVG document in millimetres.
func (s Sheet) SVG() []byte {
	var c svg
	fmt.Fprintf(&c.Buffer, `<svg xmlns="http://www.w3.org/2000/svg" width="%gmm" height="%gmm" viewBox="0 0 %[1]g %[2]g" font-family="Atkinson Hyperlegible Next, Helvetica, Arial, sans-serif"><title>%[3]s</title><rect width="100%%" height="100%%" fill="#fff"/>`,
		pageWidth, pageHeight, html.EscapeString(plain(s.Boat)))
	s.draw(&c)
	c.WriteString("</svg>\n")
	return c.Bytes()
}

type svg struct{ bytes.Buffer }

func (c *svg) line(points [][2]float64, p pen, closed bool) {
	c.WriteString(`<path d="`)
	for i, q := range points {
		command := "L"
		if i == 0 {
			command = "M"
		}
		fmt.Fprintf(c, "%s%.2f %.2f", command, q[0], q[1])
	}
	if closed {
		c.WriteString("Z")
	}
	grey := int(p.grey * 255)
	fmt.Fprintf(c, `" fill="none" stroke="#%02x%02[1]x%02[1]x" stroke-width="%[2]g" stroke-linejoin="round"`, grey, p.width)
	if len(p.dash) > 0 {
		fmt.Fprintf(c, ` stroke-dasharray="%s"`, strings.Trim(fmt.Sprint(p.dash), "[]"))
	}
	c.WriteString("/>")
}

func (c *svg) text(x, y, size float64, anchor, s string, bold bool) {
	weight := ""
	if bold {
		weight = ` font-weight="700"`
	}
	fmt.Fprintf(c, `<text x="%.2f" y="%.2f" font-size="%.2f" text-anchor="%s"%s>%s</text>`, x, y, size, anchor, weight, html.EscapeString(plain(s)))
}

// plain leaves out control characters, which XML may not have.
func plain(s string) string {
	return strings.Map(func(r rune) rune {
		if r < ' ' || r == 0x7f || r == 0xfffe || r == 0xffff {
			return -1
		}
		return r
	}, strings.ToValidUTF8(s, "?"))
}

// PDF gives the sheet as a page of A4.
func (s Sheet) PDF() ([]byte, error) {
	f := paper.New("L", "A4", s.Boat)
	f.AddPage()
	s.draw(&pdf{Doc: f})
	return f.Bytes()
}

type pdf struct{ *paper.Doc }

func (c *pdf) line(points [][2]float64, p pen, closed bool) {
	grey := int(p.grey * 255)
	c.SetDrawColor(grey, grey, grey)
	c.SetLineWidth(p.width)
	c.SetDashPattern(p.dash, 0)
	c.SetLineJoinStyle("round")
	for i, q := range points {
		if i == 0 {
			c.MoveTo(q[0], q[1])
		} else {
			c.LineTo(q[0], q[1])
		}
	}
	if closed {
		c.ClosePath()
	}
	c.DrawPath("D")
}

const pointsAMillimetre = 72 / 25.4

func (c *pdf) text(x, y, size float64, anchor, s string, bold bool) {
	c.Face(bold, size*pointsAMillimetre)
	switch anchor {
	case "middle":
		x -= c.GetStringWidth(s) / 2
	case "end":
		x -= c.GetStringWidth(s)
	}
	c.Text(x, y, s)
}
