package reach

import (
	"math"
	"testing"

	"ergasia/core/check"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/graph/path"
	"gonum.org/v1/gonum/graph/simple"
	"gonum.org/v1/gonum/spatial/r3"
)

// skiff is five metres of flat sole with a console amidships, a box aft and a
// locker in a raised fore deck.
func skiff() Boat {
	return Boat{Length: 5, HalfBreadth: func(x float64) float64 { return 1 },
		Posts: []Post{{Name: "helm", At: r3.Vec{X: 1.5, Y: 0, Z: 0.3}}, {Name: "fore deck", At: r3.Vec{X: 4.5, Z: 0.7}}},
		Places: []Place{
			{ID: "box", Name: "aft box", Corner: r3.Vec{X: 0.2, Y: -0.3, Z: 0.3}, Size: r3.Vec{X: 0.5, Y: 0.6, Z: 0.4},
				Lid: "hinged", Inside: -1},
			{ID: "console", Name: "console", Corner: r3.Vec{X: 2.2, Y: -0.5, Z: 0.3}, Size: r3.Vec{X: 0.6, Y: 1, Z: 0.9},
				Lid: "hinged", Inside: -1},
			{ID: "fore", Name: "fore locker", Corner: r3.Vec{X: 3.6, Y: -0.4, Z: 0.3}, Size: r3.Vec{X: 0.5, Y: 0.8, Z: 0.4},
				Lid: "hinged", Latched: true, Inside: -1},
			{ID: "tray", Name: "tray", Corner: r3.Vec{X: 3.6, Y: -0.4, Z: 0.5}, Size: r3.Vec{X: 0.3, Y: 0.3, Z: 0.1}, Inside: 2},
		}}
}

// MTM-1 (from memory): a pace of 0.86 m, obstructed, takes 17.0 TMU of 0.036 s.
func TestWalkingTakesThePacesOfMTM(t *testing.T) {
	b := Boat{Length: 9, HalfBreadth: func(float64) float64 { return 1 }, Posts: []Post{{At: r3.Vec{X: 0.05}}}}
	f := b.From(0, DefaultTable())
	row := f.Rows / 2
	assert.InDelta(t, 10*17.0*0.036, f.Seconds[row*f.Cols+86], 1e-9, "8.6 m are ten paces")
	table := DefaultTable()
	assert.InDelta(t, 2.19, table.Bend, 0.01, "bend 29.0 and arise 31.9 TMU")
	assert.InDelta(t, 5.26, table.Kneel, 0.01, "on both knees 69.4, arise 76.7 TMU")
}

// Every walk is as short as a general library of graphs finds it.
func TestWalksAreTheShortest(t *testing.T) {
	b, table := skiff(), DefaultTable()
	f := b.From(0, table)
	g := simple.NewWeightedUndirectedGraph(0, math.Inf(1))
	for i, z := range f.Ground {
		if math.IsNaN(z) {
			continue
		}
		for j := range i {
			dc, dr := abs(i%f.Cols-j%f.Cols), abs(i/f.Cols-j/f.Cols)
			if rise := math.Abs(z - f.Ground[j]); dc <= 1 && dr <= 1 && rise <= step {
				g.SetWeightedEdge(g.NewWeightedEdge(simple.Node(i), simple.Node(j),
					0.1*math.Hypot(float64(dc), float64(dr))*table.WalkPerM+rise*table.Rise))
			}
		}
	}
	start := -1
	for i, s := range f.Seconds {
		if s == 0 {
			start = i
		}
	}
	require.GreaterOrEqual(t, start, 0)
	shortest := path.DijkstraFrom(simple.Node(start), g)
	walked := 0
	for i, s := range f.Seconds {
		if math.IsNaN(f.Ground[i]) || g.Node(int64(i)) == nil {
			continue
		}
		if want := shortest.WeightTo(int64(i)); math.IsInf(want, 1) {
			assert.True(t, math.IsInf(s, 1))
		} else {
			assert.InDelta(t, want, s, 1e-9)
			walked++
		}
	}
	assert.Greater(t, walked, 500)
}

func abs(n int) int { return max(n, -n) }

func TestNobodyWalksThroughAConsole(t *testing.T) {
	b := skiff()
	across := b.Ways(DefaultTable())[0][2]
	b.Places[1].Corner.Z = -0.6 // sunk under the sole, her console is no obstacle
	assert.Less(t, b.Ways(DefaultTable())[0][2].Seconds, across.Seconds)
}

func TestAWayIsAddedUpFromItsParts(t *testing.T) {
	b, table := skiff(), DefaultTable()
	w := b.Ways(table)[0][2]
	sum := 0.0
	for _, p := range w.Parts {
		sum += p.Seconds
	}
	assert.InDelta(t, w.Seconds+w.Back, sum, 1e-9)
	var names []string
	for _, p := range w.Parts {
		names = append(names, p.What)
	}
	assert.Equal(t, []string{"walk", "turn", "the lid of fore locker", "its latch"}, names)
	f := table.Fetch(w, b.Places[2], Lying{HandZ: 0.4, Others: 3, Over: []float64{5}, Boxes: 1})
	assert.InDelta(t, w.Seconds+w.Back+table.Bend+3*table.Look+table.Shift+5*table.ShiftKg+table.Box+table.Grasp,
		f.Round(), 1e-9)
}

func TestWhatIsInAnotherPlaceOpensBoth(t *testing.T) {
	b, table := skiff(), DefaultTable()
	b.Places[3].Lid = "lift-off"
	ways := b.Ways(table)
	assert.InDelta(t, ways[0][2].Seconds+table.LiftOff/2, ways[0][3].Seconds, 1e-9)
}

func TestTheNearerPostIsQuicker(t *testing.T) {
	ways := skiff().Ways(DefaultTable())
	assert.Less(t, ways[0][0].Seconds, ways[1][0].Seconds)
	assert.Less(t, ways[1][2].Seconds, ways[0][2].Seconds)
}

func TestPeopleOnALidStandAside(t *testing.T) {
	b, table := skiff(), DefaultTable()
	b.Posts = append(b.Posts, Post{Name: "bow seat", At: r3.Vec{X: 3.8, Z: 0.7}})
	quick := b.Ways(table)[0][2].Seconds
	b.Posts[2].Manned = true
	assert.InDelta(t, quick+table.Aside, b.Ways(table)[0][2].Seconds, 1e-9)
}

func TestALabelAndACalmSeaSaveTime(t *testing.T) {
	b, table := skiff(), DefaultTable()
	w := b.Ways(table)[0][0]
	plain := table.Fetch(w, b.Places[0], Lying{HandZ: 0.4, Others: 8}).Round()
	labelled := b.Places[0]
	labelled.Labelled = true
	assert.InDelta(t, plain-4*table.Look, table.Fetch(w, labelled, Lying{HandZ: 0.4, Others: 8}).Round(), 1e-9)
	table.Sea = 2
	assert.InDelta(t, 2*plain, table.Fetch(b.Ways(table)[0][0], b.Places[0], Lying{HandZ: 0.4, Others: 8}).Round(), 1e-9)
}

func TestHandsBelowTheFeetKneelAndHighOnesReach(t *testing.T) {
	b, table := skiff(), DefaultTable()
	w := b.Ways(table)[0][0]
	at := func(z float64) float64 { return table.Fetch(w, b.Places[0], Lying{HandZ: z}).Round() }
	assert.InDelta(t, table.Kneel, at(0.2)-at(1.2), 1e-9)
	assert.InDelta(t, table.Bend, at(0.5)-at(1.2), 1e-9)
	assert.InDelta(t, table.Stretch, at(2.2)-at(1.2), 1e-9)
}

func TestWhatNoHandComesToIsSaid(t *testing.T) {
	b := skiff()
	b.Places = append(b.Places, Place{ID: "mast", Corner: r3.Vec{X: 9, Y: 0, Z: 0.3}, Size: r3.Vec{X: 0.2, Y: 0.2,
		Z: 0.2}, Inside: -1})
	assert.False(t, b.Ways(DefaultTable())[0][4].Reachable())
}

func TestATableOutOfBoundsIsRefused(t *testing.T) {
	var fs check.Faults
	DefaultTable().Check(&fs, "")
	assert.Empty(t, fs)
	table := DefaultTable()
	table.Bend, table.Labelled = -1, 2
	table.Check(&fs, "times.")
	assert.Len(t, fs, 2)
	assert.Contains(t, fs.Error(), "times.bend_s is -1: must be from 0 to 600")
}

func BenchmarkWays(b *testing.B) {
	boat := skiff()
	for b.Loop() {
		boat.Ways(DefaultTable())
	}
}
