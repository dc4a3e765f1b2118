// Package sheet draws a boat for paper: plan, profile and a section on one A4
// sheet, to scale, with lockers named, a scale bar and, where asked for, the
// dimensions. The same drawing goes out as SVG and as PDF; lengths on the sheet
// are millimetres.
package sheet

import (
	"fmt"
	"math"
	"slices"
	"strconv"

	"ergasia/core/hull"
	"ergasia/core/stow"
	"ergasia/core/units"
)

// Box is a place aboard: corner of least x, y, z and size, metres.
type Box struct {
	Name         string
	Level        string // of core/stow: how high it stands
	Corner, Size [3]float64
}

// Spot is a named point aboard, metres.
type Spot struct {
	Name string
	At   [3]float64
}

// Sheet is what is drawn.
type Sheet struct {
	Boat       string
	Note       string // under the name, such as when it was drawn
	Lines      hull.Lines
	Places     []Box
	Posts      []Spot
	Floods     []Spot
	Water      *[2]float64 // height of the water over the keel at x = 0 and at the bow; nil for none
	Dimensions bool
	Units      units.System
}

// The page, millimetres: A4 lying.
const (
	pageWidth  = 297.0
	pageHeight = 210.0
	margin     = 12.0
)

// pen is how a line is drawn.
type pen struct {
	width float64 // mm
	dash  []float64
	grey  float64 // 0 black to 1 white
}

var (
	hullPen   = pen{width: 0.5}
	placePen  = pen{width: 0.22}
	chinePen  = pen{width: 0.18, dash: []float64{2, 1.2}}
	centrePen = pen{width: 0.15, dash: []float64{6, 1.5, 1.2, 1.5}, grey: 0.35}
	dimPen    = pen{width: 0.13, grey: 0.2}
	waterPen  = pen{width: 0.3, grey: 0.4}
)

// levelPens draw places by how high they stand: what is under the sole in dashes,
// as hidden edges are drawn, what is overhead in dots and dashes (ISO 128).
var levelPens = map[string]pen{
	stow.UnderSole: {width: 0.22, dash: []float64{1.2, 0.8}},
	stow.InLocker:  placePen,
	stow.OnDeck:    {width: 0.35},
	stow.Overhead:  {width: 0.22, dash: []float64{3, 0.8, 0.5, 0.8}},
	"":             placePen,
}

const (
	postRadius = 1.1  // mm
	namesUnder = 10.0 // mm under the plan for names on leaders
)

// canvas is what either format can draw.
type canvas interface {
	line(points [][2]float64, p pen, closed bool)
	text(x, y, size float64, anchor, s string, bold bool)
}

// view places one projection on the sheet.
type view struct {
	scale float64 // mm a metre
	x, y  float64 // of the view's zero
	flip  float64 // +1 when the second axis goes up the sheet
}

func (v view) at(a, b float64) [2]float64 { return [2]float64{v.x + a*v.scale, v.y - v.flip*b*v.scale} }

func (v view) all(points [][2]float64) [][2]float64 {
	out := make([][2]float64, len(points))
	for i, p := range points {
		out[i] = v.at(p[0], p[1])
	}
	return out
}

type extent struct{ aft, fore, half, top float64 }

func (s Sheet) extent() extent {
	var e extent
	for _, p := range s.Lines.PlanSheer {
		e.aft, e.fore, e.half = min(e.aft, p[0]), max(e.fore, p[0]), max(e.half, p[1])
	}
	for _, p := range s.Lines.ProfileSheer {
		e.top = max(e.top, p[1])
	}
	for _, b := range s.Places {
		e.top = max(e.top, b.Corner[2]+b.Size[2])
	}
	return e
}

// sectionShare is how large the section is drawn beside the profile.
const sectionShare = 0.7

// draw lays the views out and draws them.
func (s Sheet) draw(c canvas) {
	e := s.extent()
	width, height := pageWidth-2*margin-14, pageHeight-2*margin-2*namesUnder-44
	scale := math.Min((width-16)/(e.fore-e.aft+2*e.half*sectionShare), height/(2*e.half+e.top))
	scale = niceScale(scale)
	left := margin + 10 - e.aft*scale
	plan := view{scale: scale, x: left, y: margin + 14 + namesUnder + e.half*scale, flip: 1}
	profile := view{scale: scale, x: left, y: plan.y + e.half*scale + namesUnder + 14 + e.top*scale, flip: 1}
	section := view{scale: scale * sectionShare, x: pageWidth - margin - e.half*scale*sectionShare - 4, y: profile.y,
		flip: 1}
	c.text(margin, margin+6, 7, "start", s.Boat, true)
	c.text(margin, margin+11, 3, "start", s.Note, false)
	c.text(pageWidth-margin, margin+6, 3.4, "end", fmt.Sprintf("scale 1 : %.0f on A4", 1000/scale), false)
	s.plan(c, plan, e)
	s.profile(c, profile, e)
	s.section(c, section, e)
	s.scaleBar(c, margin+10, pageHeight-margin-4, scale)
	c.text(pageWidth/2, pageHeight-5, 2.6, "middle",
		"Drawn from her measures. The builder's plate and the law where you are come first.", false)
}

// niceScale is a scale that people have rulers for, millimetres a metre.
func niceScale(most float64) float64 {
	for _, n := range []float64{5, 7.5, 10, 12.5, 15, 20, 25, 30, 40, 50, 75, 100} {
		if 1000/n <= most {
			return 1000 / n
		}
	}
	return 5
}

func mirrored(points [][2]float64) [][2]float64 {
	out := make([][2]float64, len(points))
	for i, p := range points {
		out[len(points)-1-i] = [2]float64{p[0], -p[1]}
	}
	return out
}

func (s Sheet) plan(c canvas, v view, e extent) {
	c.text(margin, v.at(0, e.half)[1], 2.6, "start", "PLAN", true)
	c.line(v.all([][2]float64{{e.aft - 0.1, 0}, {e.fore + 0.1, 0}}), centrePen, false)
	c.line(v.all(append(append([][2]float64{}, s.Lines.PlanSheer...), mirrored(s.Lines.PlanSheer)...)), hullPen, true)
	for _, chine := range s.Lines.PlanChines {
		c.line(v.all(chine), chinePen, false)
		c.line(v.all(mirrored(chine)), chinePen, false)
	}
	for _, b := range s.Places {
		a, z := v.at(b.Corner[0], b.Corner[1]+b.Size[1]), v.at(b.Corner[0]+b.Size[0], b.Corner[1])
		c.line([][2]float64{a, {z[0], a[1]}, z, {a[0], z[1]}}, levelPens[b.Level], true)
	}
	for _, p := range s.Posts {
		circle(c, v.at(p.At[0], p.At[1]), postRadius)
	}
	s.names(c, v, e)
	if s.Dimensions {
		y := v.at(0, -e.half)[1] + namesUnder + 4
		s.dimension(c, [2]float64{v.at(e.aft, 0)[0], y}, [2]float64{v.at(e.fore, 0)[0], y}, e.fore-e.aft, false)
		x := v.at(e.aft, 0)[0] - 5
		s.dimension(c, [2]float64{x, v.at(0, e.half)[1]}, [2]float64{x, v.at(0, -e.half)[1]}, 2*e.half, false)
	}
}

func (s Sheet) profile(c canvas, v view, e extent) {
	caption(c, v.at(e.aft, e.top), "PROFILE")
	outline := append([][2]float64{}, s.Lines.Keel...)
	for i := len(s.Lines.ProfileSheer) - 1; i >= 0; i-- {
		outline = append(outline, s.Lines.ProfileSheer[i])
	}
	for _, b := range s.Places {
		rectangle(c, v.at(b.Corner[0], b.Corner[2]+b.Size[2]), v.at(b.Corner[0]+b.Size[0], b.Corner[2]))
	}
	if s.Water != nil {
		c.line(v.all([][2]float64{{e.aft - 0.25, s.Water[0] + (s.Water[0]-s.Water[1])*0.25/e.fore},
			{e.fore + 0.05, s.Water[1]}}), waterPen, false)
	}
	c.line(v.all(outline), hullPen, true)
	for _, chine := range s.Lines.Chines {
		c.line(v.all(chine), chinePen, false)
	}
	for i, p := range s.Floods {
		at := v.at(p.At[0], p.At[2])
		c.line([][2]float64{{at[0] - 1.4, at[1] - 1.4}, at, {at[0] + 1.4, at[1] - 1.4}}, placePen, false)
		hidden := slices.ContainsFunc(s.Floods[:i], func(q Spot) bool { return q.At[0] == p.At[0] && q.At[2] == p.At[2] })
		if !hidden { // its twin on the other side stands behind it
			c.text(at[0]-2, at[1]-0.4, 2.1, "end", p.Name, false)
		}
	}
	if s.Dimensions {
		aft, fore := s.Lines.ProfileSheer[0], s.Lines.ProfileSheer[len(s.Lines.ProfileSheer)-1]
		x := v.at(e.aft, 0)[0] - 5
		s.dimension(c, [2]float64{x, v.at(0, aft[1])[1]}, [2]float64{x, v.at(0, 0)[1]}, aft[1], true)
		x = v.at(e.fore, 0)[0] + 5
		s.dimension(c, [2]float64{x, v.at(0, fore[1])[1]}, [2]float64{x, v.at(0, 0)[1]}, fore[1], false)
	}
}

// section is the one nearest amidships, seen from astern: port on the left.
func (s Sheet) section(c canvas, v view, e extent) {
	if len(s.Lines.Sections) == 0 {
		return
	}
	mid := s.Lines.Sections[len(s.Lines.Sections)/2]
	caption(c, v.at(-e.half, e.top), "SECTION AT "+s.length(mid.X)+", FROM ASTERN")
	var port [][2]float64
	for _, p := range mid.Half {
		port = append(port, [2]float64{-p[0], p[1]})
	}
	var all [][2]float64
	for i := len(port) - 1; i >= 0; i-- {
		all = append(all, port[i])
	}
	for _, p := range mid.Half {
		all = append(all, [2]float64{p[0], p[1]})
	}
	c.line(v.all(all), hullPen, false)
	c.line(v.all([][2]float64{{0, -0.05}, {0, e.top}}), centrePen, false)
	for _, b := range s.Places {
		if b.Corner[0] <= mid.X && b.Corner[0]+b.Size[0] >= mid.X {
			rectangle(c, v.at(-b.Corner[1]-b.Size[1], b.Corner[2]+b.Size[2]), v.at(-b.Corner[1], b.Corner[2]))
		}
	}
	if s.Water != nil {
		z := s.Water[0] + (s.Water[1]-s.Water[0])*mid.X/e.fore
		c.line(v.all([][2]float64{{-e.half * 1.08, z}, {e.half * 1.08, z}}), waterPen, false)
	}
}

func caption(c canvas, at [2]float64, text string) { c.text(at[0], at[1]-3, 2.6, "start", text, true) }

func rectangle(c canvas, a, z [2]float64) {
	c.line([][2]float64{a, {z[0], a[1]}, z, {a[0], z[1]}}, placePen, true)
}

func circle(c canvas, at [2]float64, r float64) {
	var ring [][2]float64
	for i := range 24 {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 24)
		ring = append(ring, [2]float64{at[0] + r*cos, at[1] + r*sin})
	}
	c.line(ring, placePen, true)
}

// names writes the names of places, of posts that no place is named after, and
// where asked for the places' dimensions.
func (s Sheet) names(c canvas, v view, e extent) {
	var wanted []named
	off := clear{bounds: block{x: margin, y: margin + 13, w: pageWidth - 2*margin,
		h: v.at(0, -e.half)[1] + namesUnder - margin - 13}}
	for _, b := range s.Places {
		a, z := v.at(b.Corner[0], b.Corner[1]+b.Size[1]), v.at(b.Corner[0]+b.Size[0], b.Corner[1])
		box := block{x: a[0], y: a[1], w: z[0] - a[0], h: z[1] - a[1]}
		n := named{lines: []string{b.Name}, box: box}
		if s.Dimensions {
			n.size = s.size(b)
		}
		off.solids = append(off.solids, box)
		wanted = append(wanted, n)
	}
	for _, p := range s.Posts {
		at := v.at(p.At[0], p.At[1])
		ring := block{x: at[0] - postRadius, y: at[1] - postRadius, w: 2 * postRadius, h: 2 * postRadius}
		off.solids = append(off.solids, ring)
		if !slices.ContainsFunc(s.Places, func(b Box) bool { return b.Name == p.Name }) { // named beside it already
			wanted = append(wanted, named{lines: []string{p.Name}, box: ring})
		}
	}
	port := v.all(s.Lines.PlanSheer)
	off.strokes = [][][2]float64{append(append([][2]float64{}, port...), v.all(mirrored(s.Lines.PlanSheer))...),
		{v.at(e.aft-0.1, 0), v.at(e.fore+0.1, 0)}}
	for _, chine := range s.Lines.PlanChines {
		off.strokes = append(off.strokes, v.all(chine), v.all(mirrored(chine)))
	}
	for _, p := range place(wanted, off) {
		if p.to != nil {
			c.line([][2]float64{p.from, *p.to}, dimPen, false)
			circle(c, *p.to, 0.25)
		}
		y := p.at.y
		for _, l := range p.all() {
			y += l.size * spacing
			c.text(p.at.x+p.at.w/2, y-0.3*l.size, l.size, "middle", l.text, false)
		}
	}
}

func (s Sheet) length(m float64) string {
	if s.Units.Name == units.US.Name {
		return units.FormatFeet(m, 8)
	}
	return fmt.Sprintf("%.2f m", m)
}

func (s Sheet) size(b Box) string {
	u := s.Units.Side
	side := func(m float64) string { return strconv.FormatFloat(u.FromSI(m), 'f', s.Units.Decimals/2, 64) }
	return side(b.Size[0]) + " x " + side(b.Size[1]) + " x " + side(b.Size[2]) + " " + u.Symbol
}

// dimension is a line with ticks and its length written beside it, or at its foot.
func (s Sheet) dimension(c canvas, a, b [2]float64, metres float64, foot bool) {
	c.line([][2]float64{a, b}, dimPen, false)
	upright := math.Abs(a[0]-b[0]) < 1e-9
	for _, p := range [][2]float64{a, b} {
		c.line([][2]float64{{p[0] - 0.9, p[1] + 0.9}, {p[0] + 0.9, p[1] - 0.9}}, dimPen, false)
	}
	if upright {
		anchor, x := "end", a[0]-0.8
		y := (a[1]+b[1])/2 + 0.8
		switch {
		case a[0] > pageWidth/2:
			anchor, x = "start", a[0]+0.8
		case foot: // beside the openings' names there is no room
			anchor, x, y = "middle", a[0], b[1]+3.2
		}
		c.text(x, y, 2.3, anchor, s.length(metres), false)
	} else {
		c.text((a[0]+b[0])/2, a[1]-0.9, 2.3, "middle", s.length(metres), false)
	}
}

// scaleBar is a metre (or three feet) in parts, to check the print with a ruler.
func (s Sheet) scaleBar(c canvas, x, y, scale float64) {
	unit, parts, name := 1.0, 10, "1 m"
	if s.Units.Name == units.US.Name {
		unit, parts, name = 3*units.FootM, 3, "3 ft"
	}
	c.line([][2]float64{{x, y}, {x + unit*scale, y}}, hullPen, false)
	for i := range parts + 1 {
		at := x + unit*scale*float64(i)/float64(parts)
		tick := 1.2
		if i == 0 || i == parts {
			tick = 2.2
		}
		c.line([][2]float64{{at, y}, {at, y - tick}}, placePen, false)
	}
	c.text(x+unit*scale+1.5, y, 2.6, "start", name, false)
}
