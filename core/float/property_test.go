package float

import (
	"math"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// afloat draws a boat that floats with all edges dry, and her figures.
func afloat(t *rapid.T) (hull.Hull, *Boat, Load, *Figures) {
	h, s, l := drawBoat(t)
	l.Masses[0].At.Y = rapid.Float64Range(-0.08, 0.08).Draw(t, "y")
	b := NewBoat(s, h.FloodPoints)
	r := b.Solve(l, nil)
	if r.Status != Afloat {
		t.Skip("she swamps or lolls")
	}
	return h, b, l, r.Figures
}

func TestAMirroredLoadHeelsHerTheOtherWay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, b, l, f := afloat(t)
		l.Masses[0].At.Y = -l.Masses[0].At.Y
		g := b.Solve(l, nil).Figures
		assert.InDelta(t, -f.HeelDeg, g.HeelDeg, 1e-6)
		assert.InDelta(t, f.TrimDeg, g.TrimDeg, 1e-6)
		assert.InDelta(t, f.Lowest.M, g.Lowest.M, 1e-8)
	})
}

// Froude's scaling: a boat k times as long with k³ the mass sits at the same
// angles, and every length is k times.
func TestABoatOfAnotherScaleSitsAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h, _, l, f := afloat(t)
		k := rapid.Float64Range(0.5, 2).Draw(t, "scale")
		big := hull.Hull{}
		for _, s := range h.Stations {
			st := hull.Station{X: s.X * k}
			for _, p := range s.Half {
				st.Half = append(st.Half, hull.Point{Y: p.Y * k, Z: p.Z * k})
			}
			big.Stations = append(big.Stations, st)
		}
		l.Masses[0].Kg *= k * k * k
		l.Masses[0].At = r3.Scale(k, l.Masses[0].At)
		g := NewBoat(shellOf(t, big), nil).Solve(l, nil).Figures
		assert.InDelta(t, f.HeelDeg, g.HeelDeg, 1e-5)
		assert.InDelta(t, f.TrimDeg, g.TrimDeg, 1e-5)
		assert.InEpsilon(t, f.DraftAft*k, g.DraftAft, 1e-7)
		assert.InEpsilon(t, f.GMT*k, g.GMT, 1e-6)
	})
}

// A small weight on the centre of flotation sinks her evenly, by what a
// centimetre weighs; one elsewhere trims her by its moment over Δ·GM_L.
func TestSmallWeightsActByTheFirstOrderFormulas(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, b, l, _ := afloat(t)
		l.Masses[0].At.Y = 0
		f := b.Solve(l, nil).Figures
		if math.Abs(f.TrimDeg) > 3 || math.Abs(f.HeelDeg) > 1e-6 {
			t.Skip("the formulas are for a boat near level")
		}
		const kg = 0.05
		flotation := r3.Vec{X: f.LCF, Z: f.Level}
		even := l
		even.Masses = append([]Mass{{Kg: kg, At: flotation}}, l.Masses...)
		g := b.Solve(even, nil).Figures
		sunk := (g.FreeboardAt(flotation) - f.FreeboardAt(flotation)) * -100
		assert.InEpsilon(t, kg/f.KgPerCm, sunk, 0.02)
		assert.InDelta(t, f.TrimDeg, g.TrimDeg, 2e-4)

		shifted := l
		shifted.Masses = []Mass{l.Masses[0]}
		shift := 1e-3
		shifted.Masses[0].At.X -= shift
		aft := b.Solve(shifted, nil).Figures
		want := shift / f.GML * 180 / math.Pi
		assert.InEpsilon(t, want, aft.TrimDeg-f.TrimDeg, 0.03)
	})
}

// The righting arm is the slope of the potential energy at constant mass.
func TestRightingArmsAreTheSlopeOfTheEnergy(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, b, l, _ := afloat(t)
		s := newSolver(b, l)
		heel := rapid.Float64Range(-12, 12).Draw(t, "heel") * math.Pi / 180
		energy := func(heel float64) float64 { // of the trim that balances her
			p := pose{heel: heel}
			s.float(&p)
			q, bal, ok := s.newton(p, true)
			if !ok {
				t.Skip("no trim balances her")
			}
			_ = q
			return -bal.up / s.mass
		}
		const d = 1e-4
		slope := (energy(heel+d) - energy(heel-d)) / (2 * d)
		rest := pose{h: math.NaN()}
		s.float(&rest)
		last := rest
		arm := s.lever(rest, &last, heel*180/math.Pi).GZ
		assert.InDelta(t, slope, arm*math.Cos(trimAt(s, heel)), 1e-4*math.Max(0.05, math.Abs(arm)))
	})
}

func trimAt(s *solver, heel float64) float64 {
	p := pose{heel: heel}
	s.float(&p)
	q, _, _ := s.newton(p, true)
	return q.trim
}

// A tank that is as good as fixed, since it is full, acts as a weight; and a
// slack one never makes her stiffer.
func TestSlackTanksNeverStiffen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, b, l, _ := afloat(t)
		tank := Tank{Size: r3.Vec{X: 0.4, Y: 0.6, Z: 0.2}, Corner: r3.Vec{X: 1, Y: -0.3, Z: 0.1}, Density: SeaWater,
			Fill: rapid.Float64Range(0.05, 0.95).Draw(t, "fill")}
		slack, frozen := l, l
		slack.Tanks = []Tank{tank}
		total := Load{Tanks: []Tank{tank}}.Total()
		frozen.Masses = append([]Mass{{Kg: total.Kg, At: total.CG}}, l.Masses...)
		a, c := b.Solve(slack, nil), b.Solve(frozen, nil)
		if a.Figures == nil || c.Figures == nil {
			t.Skip("she sinks")
		}
		assert.Positive(t, a.Figures.FreeSurface)
		assert.GreaterOrEqual(t, math.Abs(a.Figures.HeelDeg), math.Abs(c.Figures.HeelDeg)-0.02)
	})
}

func TestEverythingUnderWaterAddsUpWithTheLid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, s, _ := drawBoat(t)
		b := newBody(newSolid(s.Mesh))
		f := attitude(rapid.Float64Range(-1, 1).Draw(t, "trim"), rapid.Float64Range(-3, 3).Draw(t, "heel"))
		low, high := b.levels(f, r3.Vec{})
		whole := b.immerse(f, r3.Vec{}, high+1)
		assert.InEpsilon(t, s.Holds, whole.volume, 1e-9)
		assert.Zero(t, b.immerse(f, r3.Vec{}, low-1).volume)
		// What is under one side of a plane and under its other side is all of her.
		h := low + (high-low)*rapid.Float64Range(0.05, 0.95).Draw(t, "share")
		over := frame{up: r3.Scale(-1, f.up), forward: f.forward, port: r3.Scale(-1, f.port)}
		under, above := b.immerse(f, r3.Vec{}, h), b.immerse(over, r3.Vec{}, -h)
		assert.InEpsilon(t, s.Holds, under.volume+above.volume, 1e-9)
		assert.InDelta(t, under.area, above.area, 1e-9)
		level, again := b.fill(f, r3.Vec{}, under.volume, math.NaN(), 1e-12)
		assert.InDelta(t, under.volume, again.volume, 1e-9)
		assert.InDelta(t, h, level, 1e-6)
	})
}
