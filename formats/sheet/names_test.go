package sheet

import (
	"math"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// crowd is a deck of places, in rows that may touch but don't overlap.
func crowd(t *rapid.T) ([]named, clear) {
	off := clear{bounds: block{x: 0, y: 0, w: 260, h: 110}, strokes: [][][2]float64{{{20, 25}, {240, 25}, {240, 85},
		{20, 85}, {20, 25}}}}
	var names []named
	for row := range 3 {
		x := 25.0
		for x < 200 && len(names) < 25 {
			w := rapid.Float64Range(1, 40).Draw(t, "breadth")
			box := block{x: x, y: 28 + 19*float64(row), w: w, h: rapid.Float64Range(2, 17).Draw(t, "height")}
			text := rapid.SampledFrom([]string{"step", "seat holders", "starboard fore locker", "well",
				"console front seat"}).Draw(t, "name")
			names = append(names, named{lines: []string{text}, size: "40 x 30 x 20 cm", box: box})
			off.solids = append(off.solids, box)
			x += w + rapid.Float64Range(0, 8).Draw(t, "gap")
		}
	}
	return names, off
}

func TestNamesNeverCollideNorHideWhatTheyName(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		names, off := crowd(t)
		done := place(names, off)
		for i, p := range done {
			w, h := p.extent()
			require.GreaterOrEqual(t, p.at.w, w-1e-9, "the whole name has room")
			require.GreaterOrEqual(t, p.at.h, h-1e-9)
			for _, q := range done[:i] {
				require.False(t, p.at.meets(q.at, 0), "%v and %v collide", p.lines, q.lines)
				require.False(t, p.to != nil && cuts(p.from, *p.to, q.at), "a leader of %v runs through %v", p.lines, q.lines)
				require.False(t, q.to != nil && cuts(q.from, *q.to, p.at), "a leader of %v runs through %v", q.lines, p.lines)
			}
			if p.to == nil {
				require.True(t, contains(p.box, p.at), "%v stands within what it names", p.lines)
				continue
			}
			require.True(t, p.to[0] >= p.box.x && p.to[0] <= p.box.x+p.box.w && p.to[1] >= p.box.y && p.to[1] <= p.box.y+p.box.h,
				"the leader of %v ends in what it names", p.lines)
			for _, o := range off.solids {
				require.False(t, p.at.meets(o, 0), "%v hides a place", p.lines)
			}
		}
	})
}

func TestEveryPlaceOfEveryUsualLayoutIsNamed(t *testing.T) {
	for _, f := range hull.Forms() {
		s := usual(t, f.Name)
		text := string(s.SVG())
		for _, b := range s.Places {
			for _, part := range halves(b.Name) {
				assert.Contains(t, text, part, f.Name)
			}
		}
	}
}

// Two segments by hand: they cross at their middles, or only touch a corner.
func TestLinesCrossAndCut(t *testing.T) {
	assert.True(t, cross([2]float64{0, 0}, [2]float64{2, 2}, [2]float64{0, 2}, [2]float64{2, 0}))
	assert.False(t, cross([2]float64{0, 0}, [2]float64{1, 1}, [2]float64{2, 2}, [2]float64{3, 0}))
	box := block{x: 1, y: 1, w: 2, h: 2}
	assert.True(t, cuts([2]float64{0, 2}, [2]float64{5, 2}, box))
	assert.True(t, cuts([2]float64{2, 2}, [2]float64{2, 9}, box), "from within")
	assert.False(t, cuts([2]float64{0, 0}, [2]float64{0.9, 9}, box))
	assert.False(t, cuts([2]float64{0, 0}, [2]float64{math.SmallestNonzeroFloat64, 9}, box))
}
