package where

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// pile draws boxes of whole decimetres that do not overlap: each is dropped
// onto what is below it, as things are.
func pile(t *rapid.T) []Lying {
	var all []Lying
	for i := range rapid.IntRange(1, 8).Draw(t, "boxes") {
		l := Lying{ID: fmt.Sprint(i), Name: fmt.Sprint("n", i), Shape: "box",
			At:   r3.Vec{X: float64(rapid.IntRange(0, 4).Draw(t, "x")), Y: float64(rapid.IntRange(0, 3).Draw(t, "y"))},
			Size: r3.Vec{X: float64(rapid.IntRange(1, 3).Draw(t, "l")), Y: float64(rapid.IntRange(1, 2).Draw(t, "b")), Z: 1}}
		for _, o := range all {
			if l.At.X < o.At.X+o.Size.X && o.At.X < l.At.X+l.Size.X && l.At.Y < o.At.Y+o.Size.Y && o.At.Y < l.At.Y+l.Size.Y {
				l.At.Z = max(l.At.Z, o.At.Z+o.Size.Z)
			}
		}
		all = append(all, l)
	}
	return all
}

// reference finds what stands on a box by looking at every column of the pile,
// a decimetre square, and at what stands on that in turn.
func reference(all []Lying, one Lying) []string {
	columns := map[[2]int][]Lying{}
	for _, l := range all {
		for x := int(l.At.X); x < int(l.At.X+l.Size.X); x++ {
			for y := int(l.At.Y); y < int(l.At.Y+l.Size.Y); y++ {
				columns[[2]int{x, y}] = append(columns[[2]int{x, y}], l)
			}
		}
	}
	on := map[string]bool{one.ID: true}
	for grew := true; grew; {
		grew = false
		for _, column := range columns {
			for _, low := range column {
				for _, high := range column {
					if on[low.ID] && high.At.Z > low.At.Z && !on[high.ID] {
						on[high.ID], grew = true, true
					}
				}
			}
		}
	}
	var names []string
	for id := range on {
		if id != one.ID {
			names = append(names, "n"+id)
		}
	}
	slices.Sort(names)
	return names
}

func TestWhatMustBeLiftedOffIsAllThatStandsOnIt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		all := pile(t)
		for _, one := range all {
			got := Above(all, one.ID)
			sorted := slices.Clone(got)
			slices.Sort(sorted)
			if want := reference(all, one); !slices.Equal(sorted, want) {
				t.Fatalf("on %s: %v, not %v\n%+v", one.ID, sorted, want, all)
			}
			heights := map[string]float64{}
			for _, l := range all {
				heights[l.Name] = l.At.Z
			}
			for i := 1; i < len(got); i++ {
				if heights[got[i]] > heights[got[i-1]] {
					t.Fatalf("%v is not from the top down", got)
				}
			}
		}
	})
}

func TestTheNearerEndCounts(t *testing.T) {
	var row []Lying
	for i := range 9 {
		row = append(row, Lying{ID: fmt.Sprint(i), Name: fmt.Sprint(i), Shape: "rod", At: r3.Vec{X: float64(i)},
			Size: r3.Vec{X: 0.9, Y: 0.1, Z: 0.1}})
	}
	want := []string{"first rod from the stern", "second rod from the stern", "third rod from the stern",
		"fourth rod from the stern", "fifth rod from the stem",
		"fourth rod from the stem", "third rod from the stem", "second rod from the stem", "first rod from the stem"}
	for i, w := range want {
		assert.Equal(t, w, Among(row, fmt.Sprint(i)))
	}
	assert.Empty(t, Among(row, "none"))
	assert.Empty(t, Among(row[:1], "0"))
}
