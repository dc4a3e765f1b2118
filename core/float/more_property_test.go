package float

import (
	"math"
	"slices"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// sane draws a boat of any form that floats dry and near upright.
func sane(t *rapid.T) (*Boat, Load, *Figures) {
	boat, l := drawAny(t, calm)
	r := boat.Solve(l, nil)
	if r.Status != Afloat || math.Abs(r.Figures.HeelDeg) > 12 || math.Abs(r.Figures.TrimDeg) > 8 {
		t.Skip("she does not float as a boat should")
	}
	return boat, l, r.Figures
}

// From exact readings the survey finds any hidden mass in any boat, where it lies.
func TestExactReadingsFindAnyMassInAnyBoat(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		boat, l, _ := sane(t)
		s := boat.Shell
		at := r3.Vec{X: s.Low.X + (s.High.X-s.Low.X)*rapid.Float64Range(0.3, 0.6).Draw(t, "x"),
			Y: s.High.Y * rapid.Float64Range(-0.3, 0.3).Draw(t, "y"), Z: 0.2}
		kg := l.Total().Kg * rapid.Float64Range(0.02, 0.08).Draw(t, "share")
		truth := l
		truth.Masses = append(slices.Clone(l.Masses), Mass{Kg: kg, At: at})
		r := boat.Solve(truth, nil)
		if r.Figures == nil || math.Abs(r.Figures.HeelDeg) > 25 {
			t.Skip("too much for her")
		}
		v := Survey{Sigma: 1e-4, Z: at.Z}
		for _, p := range sixPoints(boat) {
			v.Readings = append(v.Readings, Reading{At: p, M: r.Figures.FreeboardAt(p)})
		}
		if v.Check() != nil {
			t.Skip("beyond what is read with a tape")
		}
		found, err := boat.Survey(l, v, nil)
		require.NoError(t, err)
		assert.InEpsilon(t, kg, found.Kg, 1e-5)
		if !found.Agrees {
			assert.InDelta(t, at.X, found.At.X, 1e-3)
			assert.InDelta(t, at.Y, found.At.Y, 1e-3)
		}
	})
}

// The sea standing in a well never makes her ride higher at that end.
func TestAFloodedWellNeverLiftsHer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		boat, l, f := sane(t)
		s := boat.Shell
		box := hull.Space{Name: "well", Low: r3.Vec{X: s.Low.X, Y: s.Low.Y,
			Z: s.Low.Z + (s.High.Z-s.Low.Z)*rapid.Float64Range(0.1, 0.5).Draw(t, "floor")},
			High: r3.Vec{X: s.Low.X + (s.High.X-s.Low.X)*rapid.Float64Range(0.05, 0.3).Draw(t, "length"), Y: s.High.Y,
				Z: s.High.Z + 1}}
		well := s.Within(box.Low, box.High)
		if well.Volume() < 1e-3 {
			t.Skip("no well")
		}
		with := *boat
		with.spaces = []space{{name: "well", mesh: well}}
		with.floods = append(slices.Clone(boat.floods), hull.FloodPoint{Name: "drain",
			At: r3.Vec{X: box.Low.X, Z: s.Low.Z - 1}, Space: "well"})
		g := with.Solve(l, nil)
		if g.Figures == nil || math.Abs(g.Figures.HeelDeg) > 20 {
			t.Skip("she does not stand that")
		}
		require.Len(t, g.Figures.Awash, 1)
		stern := r3.Vec{X: s.Low.X, Z: s.High.Z}
		assert.LessOrEqual(t, g.Figures.FreeboardAt(stern), f.FreeboardAt(stern)+1e-6)
		assert.InEpsilon(t, f.DisplacementKg, g.Figures.DisplacementKg, 1e-9)
		// Bands are of the flooded boat too.
		assert.NotPanics(t, func() { with.Bands(l, g.Figures) })
	})
}

// A stronger wind heels her more, until it blows her over.
func TestAStrongerWindHeelsMore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		boat, l, f := sane(t)
		last := math.Abs(f.HeelDeg) - 1e-6
		for _, speed := range []float64{4, 9, 14} {
			w, ok := boat.Abeam(l, speed, []Sail{{Name: "people", Area: 1, Z: boat.Shell.High.Z + 0.5}})
			require.True(t, ok)
			if math.IsNaN(w.HeelDeg) {
				return
			}
			assert.GreaterOrEqual(t, w.HeelDeg, last-0.02)
			last = w.HeelDeg
		}
	})
}

// Along the curve the stated events are where they are said to be.
func TestACurvesEventsAreWhereItSaysTheyAre(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		boat, l, _ := sane(t)
		for _, c := range boat.Curves(l, 80, 16) {
			if !math.IsNaN(c.Flood) && c.Flood > 0.5 {
				under := boat.Solve(l, []float64{c.Side * (c.Flood + 0.03)}).Levers[0]
				over := boat.Solve(l, []float64{c.Side * (c.Flood - 0.03)}).Levers[0]
				assert.LessOrEqual(t, under.Lowest.M, 1e-6)
				assert.GreaterOrEqual(t, over.Lowest.M, -1e-6)
			}
			assert.LessOrEqual(t, c.Range(), 80.0)
			assert.GreaterOrEqual(t, c.AreaToEnd, -1e-9)
		}
	})
}

// More foam never leaves less to spare.
func TestMoreFoamNeverCarriesLess(t *testing.T) {
	h, _ := dayBoat(t)
	s := shellOf(t, h)
	rapid.Check(t, func(t *rapid.T) {
		in := Swamp{HullKg: rapid.Float64Range(150, 500).Draw(t, "kg"), HullCG: r3.Vec{X: 2.2, Z: 0.35}, Water: SeaWater,
			SkinDensity: SkinDensity[rapid.SampledFrom([]string{"glass", "aluminium", "plastic", "wood"}).Draw(t, "skin")]}
		last := math.Inf(-1)
		for _, wide := range []float64{0, 0.1, 0.25} {
			in.Foam = nil
			if wide > 0 {
				in.Foam = [][2]r3.Vec{{{X: 0, Y: 1.06 - wide, Z: 0.3}, {X: 3.5, Y: 1.1, Z: 0.75}},
					{{X: 0, Y: -1.1, Z: 0.3}, {X: 3.5, Y: wide - 1.06, Z: 0.75}}}
			}
			r := FullOfWater(h, s, in)
			assert.Greater(t, r.MarginKg, last)
			assert.Equal(t, r.MarginKg > 0, r.Floats)
			last = r.MarginKg
		}
		// A wooden hull floats by itself, an aluminium one does not: each skin pushes
		// away its own volume, kg over its density.
		in.Foam = nil
		bare := FullOfWater(h, s, in)
		assert.InDelta(t, in.HullKg*(SeaWater/in.SkinDensity-1), bare.MarginKg, 0.02*in.HullKg)
	})
}
