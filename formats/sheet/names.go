package sheet

import (
	"cmp"
	"math"
	"slices"
	"strings"
	"unicode/utf8"
)

// Names on the plan never collide and never hide what they name. The method is
// the greedy one of Christensen, Marks and Shieber, "An empirical study of
// algorithms for point-feature label placement", ACM Transactions on Graphics 14
// (1995): each name takes the cheapest free one of its candidate positions, those
// with the least room first. What finds no room within its box stands beside it
// on a leader line. web/src/drawing/labels.ts does the same on the screen.

// block is a rectangle on the sheet, millimetres, y downward.
type block struct{ x, y, w, h float64 }

func (b block) meets(o block, gap float64) bool {
	return b.x < o.x+o.w+gap && o.x < b.x+b.w+gap && b.y < o.y+o.h+gap && o.y < b.y+b.h+gap
}

// named is a name that wants a position.
type named struct {
	lines []string // the name, in one or more
	size  string   // dimensions, written under it; may be empty
	box   block    // what it names
}

// placed is where a name stands; to is the end of its leader, nil within its box.
type placed struct {
	named
	at   block
	from [2]float64
	to   *[2]float64
}

// clear is what names keep off.
type clear struct {
	bounds  block
	solids  []block        // places
	strokes [][][2]float64 // the hull's outline and chines, and the centre line
}

const (
	letter   = 0.52 // breadth of a letter as a share of its size, on average
	nameSize = 2.3  // mm
	sizeSize = 1.8  // mm, of dimensions under a name
	spacing  = 1.15 // of the letters' size, from line to line
	nameGap  = 0.6  // mm between a name and what it must not touch
	nameStep = 1.5  // mm between candidates beside the box
	crossing = 15.0 // mm of leader that crossing another leader is worth
)

// line is one line of a name and the size of its letters, mm.
type line struct {
	text string
	size float64
}

// all are the lines of the name, and its dimensions.
func (n named) all() (all []line) {
	for _, text := range n.lines {
		all = append(all, line{text: text, size: nameSize})
	}
	if n.size != "" {
		all = append(all, line{text: n.size, size: sizeSize})
	}
	return all
}

func (n named) extent() (w, h float64) {
	for _, l := range n.all() {
		w = math.Max(w, letter*l.size*float64(utf8.RuneCountInString(l.text)))
		h += l.size * spacing
	}
	return w, h
}

// place gives each name the cheapest free position. A name for which there is
// none is left out.
func place(names []named, off clear) []placed {
	order := slices.Clone(names)
	slices.SortStableFunc(order, func(a, b named) int { return cmp.Compare(a.box.w*a.box.h, b.box.w*b.box.h) })
	var done []placed
	for _, n := range order {
		if p, ok := inside(n, off, done); ok {
			done = append(done, p)
		} else if p, ok := beside(n, off, done); ok {
			done = append(done, p)
		}
	}
	return done
}

// inside is the middle of the box, or over or under it, where the whole name has
// room there.
func inside(n named, off clear, done []placed) (placed, bool) {
	for _, lines := range [][]string{n.lines, halves(n.lines[0])} {
		n.lines = lines
		w, h := n.extent()
		spare := n.box.h - h - nameGap
		if w > n.box.w-2*nameGap || spare < 0 {
			continue
		}
		for _, share := range []float64{0.5, 0.1, 0.9} {
			at := block{x: n.box.x + (n.box.w-w)/2, y: n.box.y + nameGap/2 + share*spare, w: w, h: h}
			hides := func(o block) bool { return o != n.box && at.meets(o, 0) && !contains(o, n.box) }
			if !slices.ContainsFunc(off.solids, hides) && !taken(at, done) && !struck(at, off) {
				return placed{named: n, at: at}, true
			}
		}
	}
	return placed{}, false
}

func contains(outer, inner block) bool {
	return outer.x <= inner.x && outer.y <= inner.y && outer.x+outer.w >= inner.x+inner.w &&
		outer.y+outer.h >= inner.y+inner.h
}

func taken(at block, done []placed) bool {
	return slices.ContainsFunc(done, func(p placed) bool {
		return at.meets(p.at, nameGap) || p.to != nil && cuts(p.from, *p.to, at)
	})
}

// beside is the nearest free position outside all places, with a leader that
// crosses as little as can be.
func beside(n named, off clear, done []placed) (best placed, found bool) {
	w, h := n.extent()
	least := math.Inf(1)
	for y := off.bounds.y; y+h <= off.bounds.y+off.bounds.h; y += nameStep {
		for x := off.bounds.x; x+w <= off.bounds.x+off.bounds.w; x += nameStep {
			at := block{x: x, y: y, w: w, h: h}
			from, to := leader(at, n.box)
			cost := math.Hypot(from[0]-to[0], from[1]-to[1])
			if cost >= least || !free(at, from, to, off, done) {
				continue
			}
			if cost += crossed(from, to, n.box, off, done); cost < least {
				best, found, least = placed{named: n, at: at, from: from, to: &to}, true, cost
			}
		}
	}
	return best, found
}

// leader runs from the name's edge to a little within the box.
func leader(at, box block) (from, to [2]float64) {
	in := math.Min(1.2, math.Min(box.w, box.h)/2)
	to = [2]float64{
		math.Min(math.Max(at.x+at.w/2, box.x+in), box.x+box.w-in),
		math.Min(math.Max(at.y+at.h/2, box.y+in), box.y+box.h-in)}
	from = [2]float64{math.Min(math.Max(to[0], at.x), at.x+at.w), math.Min(math.Max(to[1], at.y), at.y+at.h)}
	return from, to
}

func free(at block, from, to [2]float64, off clear, done []placed) bool {
	if taken(at, done) || slices.ContainsFunc(off.solids, func(o block) bool { return at.meets(o, nameGap) }) {
		return false
	}
	if slices.ContainsFunc(done, func(p placed) bool { return cuts(from, to, p.at) }) {
		return false
	}
	return !struck(block{x: at.x - nameGap, y: at.y - nameGap, w: at.w + 2*nameGap, h: at.h + 2*nameGap}, off)
}

// struck says whether a line of the drawing runs through a block.
func struck(at block, off clear) bool {
	for _, line := range off.strokes {
		for i := 1; i < len(line); i++ {
			if cuts(line[i-1], line[i], at) {
				return true
			}
		}
	}
	return false
}

// crossed is what a leader costs beside its length: other leaders that it
// crosses, and its way over other places.
func crossed(from, to [2]float64, box block, off clear, done []placed) float64 {
	cost := 0.0
	for _, p := range done {
		if p.to != nil && cross(from, to, p.from, *p.to) {
			cost += crossing
		}
	}
	const step = 1.0 // mm
	n := math.Ceil(math.Hypot(from[0]-to[0], from[1]-to[1]) / step)
	for i := range int(n) {
		x, y := from[0]+(to[0]-from[0])*float64(i)/n, from[1]+(to[1]-from[1])*float64(i)/n
		if slices.ContainsFunc(off.solids, func(o block) bool {
			return o != box && x > o.x && x < o.x+o.w && y > o.y && y < o.y+o.h
		}) {
			cost += step
		}
	}
	return cost
}

// cuts says whether a line runs through a block (Liang and Barsky's clipping).
func cuts(a, b [2]float64, box block) bool {
	enter, leave := 0.0, 1.0
	dx, dy := b[0]-a[0], b[1]-a[1]
	for _, side := range [4][2]float64{{-dx, a[0] - box.x}, {dx, box.x + box.w - a[0]}, {-dy, a[1] - box.y},
		{dy, box.y + box.h - a[1]}} {
		slope, room := side[0], side[1]
		switch {
		case slope == 0 && room < 0:
			return false
		case slope < 0:
			enter = math.Max(enter, room/slope)
		case slope > 0:
			leave = math.Min(leave, room/slope)
		}
	}
	return enter < leave
}

func cross(a, b, c, d [2]float64) bool {
	turn := func(p, q, r [2]float64) float64 { return (q[0]-p[0])*(r[1]-p[1]) - (q[1]-p[1])*(r[0]-p[0]) }
	return turn(a, b, c)*turn(a, b, d) < 0 && turn(c, d, a)*turn(c, d, b) < 0
}

// halves divides a name at the space nearest its middle.
func halves(name string) []string {
	best := -1
	for i, r := range name {
		if r == ' ' && (best < 0 || math.Abs(float64(i-len(name)/2)) < math.Abs(float64(best-len(name)/2))) {
			best = i
		}
	}
	if best < 0 {
		return []string{name}
	}
	return []string{strings.TrimSpace(name[:best]), strings.TrimSpace(name[best+1:])}
}
