package float

import (
	"math"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// bounds of a random load: share of what the hull holds, and where its masses
// may lie in her box.
type bounds struct{ share, x, y, z [2]float64 }

// anywhere in her or a little over her; calm is a load as a crew would stow it.
var (
	anywhere = bounds{share: [2]float64{0.02, 0.98}, x: [2]float64{0.1, 0.9}, y: [2]float64{0.1, 0.9},
		z: [2]float64{0, 1.5}}
	calm = bounds{share: [2]float64{0.12, 0.35}, x: [2]float64{0.38, 0.5}, y: [2]float64{0.44, 0.56},
		z: [2]float64{0.1, 0.6}}
)

// drawAny is a hull of any form with odd measures, and a load within bounds.
func drawAny(t *rapid.T, in bounds) (*Boat, Load) {
	f := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
	form := hull.Forms()[rapid.IntRange(0, len(hull.Forms())-1).Draw(t, "form")]
	m := form.Usual()
	scale := f("scale", 0.6, 1.6)
	for _, q := range form.Measures {
		k := f(q.Key, 0.8, 1.25)
		if q.Unit == "m" {
			k *= scale
		}
		m[q.Key] *= k
	}
	if form.Check("", m) != nil {
		t.Skip("these contradict each other")
	}
	boat, err := NewCraft(form.Hull(m))
	require.NoError(t, err)
	s := boat.Shell
	size := r3.Sub(s.High, s.Low)
	l := Load{WaterDensity: f("water", 990, 1030)}
	kg := l.WaterDensity * s.Holds * f("share", in.share[0], in.share[1])
	n := rapid.IntRange(1, 5).Draw(t, "masses")
	for range n {
		l.Masses = append(l.Masses, Mass{Kg: kg / float64(n), At: r3.Add(s.Low,
			r3.Vec{X: size.X * f("x", in.x[0], in.x[1]), Y: size.Y * f("y", in.y[0], in.y[1]),
				Z: size.Z * f("z", in.z[0], in.z[1])})})
	}
	if rapid.Bool().Draw(t, "tank") {
		l.Tanks = []Tank{{Size: r3.Vec{X: 0.2 * size.X, Y: 0.3 * size.Y, Z: 0.3 * size.Z}, Density: 1000,
			Fill:   f("fill", 0, 1),
			Corner: r3.Add(s.Low, r3.Vec{X: size.X * f("tx", 0.1, 0.7), Y: 0.3 * size.Y, Z: 0.1 * size.Z})}}
	}
	return boat, l
}

// From any sane start there is an answer for any hull and load: figures that are
// at rest and stable by a fresh computation, or a reason why there are none. Some
// loads here lie far out or high, so that some of the boats do capsize; `make
// bench` draws many thousands.
func TestEveryHullAndLoadComesToRestOrIsToldWhyNot(t *testing.T) {
	none, all := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		boat, l := drawAny(t, anywhere)
		all++
		r := boat.Solve(l, nil)
		if r.Figures == nil {
			require.NotEmpty(t, r.Why)
			require.Equal(t, Swamped, r.Status)
			if r.Why != capsizes {
				none++
				return
			}
			over := r.Over
			require.NotNil(t, over)
			r, _ = newSolver(boat, l).result(nil) // where she lies then has no figures, but is drawn
			if len(boat.spaces) == 0 {
				assert.Equal(t, Over{Up: r.Figures.Up, Level: r.Figures.Level}, *over)
			}
		} else {
			assert.Nil(t, r.Over)
		}
		atRest(t, boat, l, r.Figures)

		// From another start she comes to rest too, if not always at the same attitude.
		s := newSolver(boat, l)
		start := pose{trim: rapid.Float64Range(-0.15, 0.15).Draw(t, "trim"), heel: rapid.Float64Range(-0.5, 0.5).Draw(t,
			"heel"), h: math.NaN()}
		if p, ok := s.descend(start, false); ok {
			b := s.at(p)
			arm := math.Hypot(b.forward, b.port) / s.mass
			assert.Less(t, arm, 2e-6*s.length, "from another start")
		}
	})
	t.Logf("%d of %d have no attitude, each with its reason", none, all)
	assert.Less(t, float64(none), 0.1*float64(all)+3)
}

// atRest checks figures by clipping the shell anew: buoyancy carries the weight,
// lies right under it, and any small turn raises the centre of gravity over it.
func atRest(t *rapid.T, boat *Boat, l Load, f *Figures) {
	s := newSolver(boat, l)
	p := pose{trim: math.Asin(f.Up.X), heel: math.Atan2(f.Up.Y, f.Up.Z), h: f.Level - r3.Dot(f.Up, s.ref)}
	b := s.at(p)
	require.InEpsilon(t, s.mass, s.rho*b.wet.volume, 1e-6)
	require.Less(t, math.Hypot(b.forward, b.port)/s.mass, 2e-6*s.length)
	energy := func(trim, heel float64) float64 {
		q := pose{trim: p.trim + trim, heel: p.heel + heel, h: p.h}
		return -s.float(&q).up / s.mass
	}
	const d = 2e-3
	at := energy(0, 0)
	for _, turn := range [][2]float64{{d, 0}, {-d, 0}, {0, d}, {0, -d}} {
		require.Greater(t, energy(turn[0], turn[1]), at-1e-7*s.length, "a small turn must not go downhill")
	}
}
