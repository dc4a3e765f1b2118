package circuits

import (
	"slices"
)

// Spot is where a part or a circuit stands on the drawing: columns from the banks on, rows
// from the top, both from 0. A part may stand between rows.
type Spot struct {
	Key    string
	Column int
	Row    float64
}

// Line is a wire on the drawing, from a part to what it feeds. Lane says in which of the
// lanes between its columns it turns: 0 is the usual one, those that are higher pass what
// stands between.
type Line struct {
	From, To string
	Lane     int
}

// Diagram is a net as it is drawn on one line, from the banks on the left to the circuits
// on the right.
type Diagram struct {
	Columns, Rows int
	Parts         []Spot
	Circuits      []Spot // all in the last column, a row each
	Lines         []Line
}

// Drawn lays out a net that passed Check. What is fed twice stands behind its first feed;
// the line from the second has a lane of its own.
func (n Net) Drawn() Diagram {
	d := drawing{net: n, column: map[string]int{}, row: map[string]float64{}}
	for _, p := range n.Parts {
		d.columns = max(d.columns, d.depth(p.Key)+1)
	}
	for _, p := range n.Parts {
		if len(p.From) == 0 && !d.onlySecond(p.Key) {
			d.place(p.Key)
			d.placeSeconds()
		}
	}
	for _, p := range n.Parts { // banks that feed nothing, and what is left
		if _, placed := d.row[p.Key]; !placed {
			d.place(p.Key)
		}
	}
	return d.done()
}

type drawing struct {
	net     Net
	column  map[string]int
	row     map[string]float64
	columns int
	rows    int
}

// depth is a part's column: one more than the deepest of its feeds.
func (d *drawing) depth(key string) int {
	if c, known := d.column[key]; known {
		return c
	}
	deepest := -1
	for _, from := range d.net.Part(key).From {
		deepest = max(deepest, d.depth(from))
	}
	d.column[key] = deepest + 1
	return deepest + 1
}

// parent is that behind which a part is drawn: its first feed.
func parent(p Part) string {
	if len(p.From) == 0 {
		return ""
	}
	return p.From[0]
}

// onlySecond says whether a bank feeds others as their second feed only: then it is drawn
// beside the first of those.
func (d *drawing) onlySecond(key string) bool {
	second := false
	if len(d.net.Part(key).From) > 0 {
		return false
	}
	for _, p := range d.net.Parts {
		if parent(p) == key {
			return false
		}
		second = second || slices.Contains(p.From, key)
	}
	return second && !slices.ContainsFunc(d.net.Circuits, func(c Circuit) bool { return c.From == key })
}

// place gives a part the mean of the rows of what hangs on it, or a row of its own.
func (d *drawing) place(key string) float64 {
	first, last := -1.0, -1.0
	note := func(row float64) {
		if first < 0 {
			first = row
		}
		last = row
	}
	for _, p := range d.net.Parts {
		if parent(p) == key {
			note(d.place(p.Key))
		}
	}
	for _, c := range d.net.Circuits {
		if c.From == key {
			note(d.next(c.Key))
		}
	}
	if first < 0 {
		return d.next(key)
	}
	d.row[key] = (first + last) / 2
	return d.row[key]
}

// placeSeconds puts banks that are only a second feed right below the tree that they feed.
func (d *drawing) placeSeconds() {
	for _, p := range d.net.Parts {
		_, placed := d.row[p.Key]
		for _, second := range p.From[min(1, len(p.From)):] {
			if _, already := d.row[second]; placed && !already && d.onlySecond(second) {
				d.next(second)
			}
		}
	}
}

func (d *drawing) next(key string) float64 {
	d.row[key] = float64(d.rows)
	d.rows++
	return d.row[key]
}

func (d *drawing) done() Diagram {
	out := Diagram{Columns: d.columns + 1, Rows: d.rows}
	for _, p := range d.net.Parts {
		out.Parts = append(out.Parts, Spot{Key: p.Key, Column: d.column[p.Key], Row: d.row[p.Key]})
		for i, from := range p.From {
			out.Lines = append(out.Lines, Line{From: from, To: p.Key, Lane: i})
		}
	}
	for _, c := range d.net.Circuits {
		out.Circuits = append(out.Circuits, Spot{Key: c.Key, Column: d.columns, Row: d.row[c.Key]})
		out.Lines = append(out.Lines, Line{From: c.From, To: c.Key})
	}
	return out
}
