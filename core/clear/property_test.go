package clear_test

import (
	"fmt"
	"slices"
	"testing"

	"ergasia/core/clear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// drawn things stand on or near a boat of five metres.
func drawnThing(t *rapid.T, id string) clear.Thing {
	f := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, id+name) }
	kind := rapid.SampledFrom([]string{"rod-holder", "seat", "display", "light", "control", "cleat", "other", "roof"}).
		Draw(t, id+"kind")
	out := clear.Thing{ID: id, Kind: kind, Stands: rapid.SampledFrom([]string{"up", "down", "out"}).Draw(t, id+"stands"),
		At: r3.Vec{
			X: f("x", 0, 5),
			Y: f("y", -1, 1),
			Z: f("z", 0.3, 1.5),
		}, Size: r3.Vec{X: f("a", 0.02, 0.8), Y: f("b", 0.02, 0.8), Z: f("c", 0.02, 0.8)},
		Turn: f("turn", -180, 180), Lean: f("lean", -60, 60)}
	switch kind {
	case "rod-holder":
		out.Rod = 2
	case "seat":
		out.Swing = 0.4
	case "display":
		out.Screen = 0.25
	case "light":
		out.Beam = 60
	}
	return out
}

func drawnScene(t *rapid.T) clear.Scene {
	s := clear.Scene{Water: clear.Water{Up: r3.Vec{Z: 1}, Level: 0.2}, Over: 0.5, Road: 2, Bridge: 2.5,
		Sheer: []r3.Vec{
			{X: 0, Y: 1, Z: 0.7},
			{X: 3, Y: 1, Z: 0.75},
			{X: 5, Y: 0.1, Z: 1},
			{X: 5, Y: -0.1, Z: 1},
			{X: 3, Y: -1, Z: 0.75},
			{X: 0, Y: -1, Z: 0.7},
		},
		Posts: []clear.Post{{ID: "helm", At: r3.Vec{X: 1.5, Z: 0.3}, Steers: true}, {ID: "bow", At: r3.Vec{X: 4, Z: 0.5}}}}
	for i := range rapid.IntRange(1, 8).Draw(t, "things") {
		s.Things = append(s.Things, drawnThing(t, fmt.Sprint("t", i)))
	}
	for i, hinge := range []string{"aft", "fore", "port", "starboard"} {
		x := 0.3 + float64(i)
		s.Places = append(
			s.Places,
			clear.Place{
				ID:    "p" + hinge,
				Low:   r3.Vec{X: x, Y: -0.3, Z: 0.3},
				High:  r3.Vec{X: x + 0.6, Y: 0.3, Z: 0.7},
				Hinge: hinge,
			},
		)
	}
	return s
}

// other is a scene seen in a mirror along the middle line.
func other(s clear.Scene) clear.Scene {
	flip := func(v r3.Vec) r3.Vec { return r3.Vec{X: v.X, Y: -v.Y, Z: v.Z} }
	out := s
	out.Things, out.Places, out.Sheer = slices.Clone(s.Things), slices.Clone(s.Places), slices.Clone(s.Sheer)
	for i, t := range out.Things {
		out.Things[i].At, out.Things[i].Turn = flip(t.At), -t.Turn
	}
	for i, p := range out.Places {
		out.Places[i].Low.Y, out.Places[i].High.Y = -p.High.Y, -p.Low.Y
		out.Places[i].Hinge = map[string]string{"aft": "aft", "fore": "fore", "port": "starboard", "starboard": "port"}[p.Hinge]
	}
	for i, v := range out.Sheer {
		out.Sheer[i] = flip(v)
	}
	return out
}

type what struct {
	kind, thing, other string
	note               bool
}

func found(s clear.Scene, only string) map[what]float64 {
	all := map[what]float64{}
	for _, f := range clear.Look(s, only) {
		all[what{f.Kind, f.Thing, f.Other, f.Note}] = f.By
	}
	return all
}

// The same boat in a mirror has the same in her way.
func TestWhatIsInTheWayIsSoInTheMirror(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawnScene(t)
		here, there := found(s, ""), found(other(s), "")
		require.Len(t, there, len(here))
		for f, by := range here {
			mirrored, told := there[f]
			require.True(t, told, "%v", f)
			assert.InDelta(t, by, mirrored, 0.6, "%v", f) // a lid is turned to half a degree
		}
	})
}

// Asking for one thing tells what the whole list says of it, and nothing else.
func TestOneThingAloneIsToldAsInTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawnScene(t)
		one := s.Things[0].ID
		alone, whole := found(s, one), found(s, "")
		for f, by := range alone {
			all, told := whole[f]
			require.True(t, told, "%v", f)
			assert.InDelta(t, all, by, 1e-9)
		}
		for f := range whole {
			if f.thing == one {
				assert.Contains(t, alone, f)
			}
		}
	})
}

// Two bodies stand as deep in each other whichever is asked first, and moving both
// changes nothing.
func TestDepthIsOfTwoBodiesAndNotOfTheirPlace(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := drawnThing(t, "a"), drawnThing(t, "b")
		depth := clear.Depth(a.Body(), b.Body())
		assert.InDelta(t, depth, clear.Depth(b.Body(), a.Body()), 1e-9)
		by := r3.Vec{X: 3, Y: -2, Z: 1}
		a.At, b.At = r3.Add(a.At, by), r3.Add(b.At, by)
		assert.InDelta(t, depth, clear.Depth(a.Body(), b.Body()), 1e-9)
		assert.Positive(t, clear.Depth(a.Body(), a.Body()))
		far := a
		far.At.X += 20
		assert.Zero(t, clear.Depth(a.Body(), far.Body()))
	})
}

// A larger thing is in the way of no less.
func TestALargerThingIsInTheWayOfNoLess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := drawnThing(t, "a"), drawnThing(t, "b")
		a.Stands = "up"
		small := clear.Depth(a.Body(), b.Body())
		a.Size = r3.Add(a.Size, r3.Vec{X: 0.1, Y: 0.1, Z: 0.1})
		assert.GreaterOrEqual(t, clear.Depth(a.Body(), b.Body())+1e-9, min(small, 1e9))
	})
}

// The part of a line that lies in a body is what sampling along it finds.
func TestALinesWayThroughABodyIsWhatSamplingFinds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a := drawnThing(t, "a")
		f := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		from := r3.Vec{X: f("x1", -1, 6), Y: f("y1", -2, 2), Z: f("z1", 0, 2)}
		to := r3.Vec{X: f("x2", -1, 6), Y: f("y2", -2, 2), Z: f("z2", 0, 2)}
		body, within := a.Body(), inside(a, 0)
		enters, leaves, meets := body.Within(from, to)
		for i := range 200 {
			share := (float64(i) + 0.5) / 200
			p := r3.Add(from, r3.Scale(share, r3.Sub(to, from)))
			in := meets && share > enters && share < leaves
			if edge := min(abs(share-enters), abs(share-leaves)); edge > 1e-6 || !meets {
				require.Equal(t, within(p), in, "%v", share)
			}
		}
	})
}

func abs(v float64) float64 {
	if v < 0 {
		return -v
	}
	return v
}
