package float

import (
	"math"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/spatial/r3"
)

// A box cut by the plane z = T + x tan θ + y tan φ (x, y from its middle), which
// leaves neither bottom nor sides: volume L B T; centre of buoyancy by the moments
// of the prism and of the wedges, tan θ L²/12T along, tan φ B²/12T across,
// T/2 + (tan² θ L² + tan² φ B²)/24T up; waterplane L B over the cosine.
func TestABoxHeeledAndTrimmedHasItsClosedForm(t *testing.T) {
	const length, beam, draft = 5.0, 2.0, 0.3
	b := newBody(newSolid(shellOf(t, boxHull(length, beam, 0.9)).Mesh))
	for _, deg := range [][2]float64{{0, 7}, {3, 0}, {-2, 9}, {2.5, -6}} {
		trim, heel := deg[0]*math.Pi/180, deg[1]*math.Pi/180
		f := attitude(trim, heel)
		tanT, tanH := -f.up.X/f.up.Z, -f.up.Y/f.up.Z
		middle := r3.Vec{X: length / 2, Z: draft}
		im := b.immerse(f, middle, 0)
		v := length * beam * draft
		assert.InEpsilon(t, v, im.volume, 1e-12)
		c := r3.Add(middle, r3.Scale(1/im.volume, im.moment))
		assert.InDelta(t, length/2+tanT*length*length/12/draft, c.X, 1e-12)
		assert.InDelta(t, tanH*beam*beam/12/draft, c.Y, 1e-12)
		assert.InDelta(t, draft/2+(tanT*tanT*length*length+tanH*tanH*beam*beam)/24/draft, c.Z, 1e-12)
		assert.InEpsilon(t, length*beam/f.up.Z, im.area, 1e-12)
	}
}

// A V prism heeled within its sides: the wet part is the triangle between keel
// and the surface, whose area and centroid are closed form.
func TestAVeeHeeledHasItsClosedForm(t *testing.T) {
	const length, draft = 4.0, 0.4
	b := newBody(newSolid(shellOf(t, prism(length, hull.Point{}, hull.Point{Y: 1, Z: 1})).Mesh))
	for _, deg := range []float64{5, -12, 25} {
		f := attitude(0, deg*math.Pi/180)
		tan := -f.up.Y / f.up.Z // the surface is z = T + y tan
		port, starboard := draft/(1-tan), draft/(1+tan)
		im := b.immerse(f, r3.Vec{Z: draft}, 0)
		area := port * starboard // half the cross product of (p,p) and (-s,s)
		assert.InEpsilon(t, area*length, im.volume, 1e-12)
		c := r3.Scale(1/im.volume, im.moment)
		assert.InDelta(t, (port-starboard)/3, c.Y, 1e-12)
		assert.InDelta(t, (port+starboard)/3-draft, c.Z, 1e-12)
	}
}

// Wigley's hull heeled and trimmed, by quadrature of its own formula (gonum's
// Gauss-Legendre along, across each section's wetted area in slices of height)
// as a second opinion: volume, centres and waterplane within 0.1 %.
func TestWigleysHullHeeledAndTrimmedIsWithinATenthOfAPercent(t *testing.T) {
	const length, beam, draft = 6.0, 2.0, 0.5
	b := newBody(newSolid(shellOf(t, wigley(61, 25, length, beam, draft)).Mesh))
	half := func(x, z float64) float64 {
		u, w := 2*x/length-1, 1-z/draft
		if w < 0 {
			w = 0 // straight sides over the design waterline
		}
		return beam / 2 * (1 - u*u) * (1 - w*w)
	}
	for _, deg := range [][2]float64{{0, 10}, {1.5, 0}, {1, -12}} {
		f := attitude(deg[0]*math.Pi/180, deg[1]*math.Pi/180)
		ref := r3.Vec{X: length / 2, Z: draft * 0.9}
		im := b.immerse(f, ref, 0)
		moment := func(of func(x, y0, y1, z float64) float64) float64 {
			return quad.Fixed(func(x float64) float64 {
				return quad.Fixed(func(z float64) float64 {
					y := half(x, z)
					// wet where up·(p-ref) < 0
					rest := -(f.up.X*(x-ref.X) + f.up.Z*(z-ref.Z))
					low, high := -y, y
					if f.up.Y > 1e-12 {
						high = min(high, rest/f.up.Y)
					} else if f.up.Y < -1e-12 {
						low = max(low, rest/f.up.Y)
					} else if rest < 0 {
						return 0
					}
					if high <= low {
						return 0
					}
					return of(x, low, high, z)
				}, 0, 1.5*draft, 800, nil, 0)
			}, 0, length, 120, nil, 0)
		}
		v := moment(func(_, a, b, _ float64) float64 { return b - a })
		require.InEpsilon(t, v, im.volume, 1e-3)
		c := r3.Add(ref, r3.Scale(1/im.volume, im.moment))
		assert.InDelta(t, moment(func(x, a, b, _ float64) float64 { return x * (b - a) })/v, c.X, 1e-3*length/10)
		assert.InDelta(t, moment(func(_, a, b, _ float64) float64 { return (b*b - a*a) / 2 })/v, c.Y, 1e-3*beam/2)
		assert.InDelta(t, moment(func(_, a, b, z float64) float64 { return z * (b - a) })/v, c.Z, 1e-3*draft)
	}
}

// A well open to the sea carries nothing: the box with a well across her stern is
// the box less the well, in closed form by moments.
func TestTheSeaInAWellCarriesNothing(t *testing.T) {
	h := boxHull(5, 2, 0.7)
	h.Spaces = []hull.Space{{Name: "well", Low: r3.Vec{X: 0, Y: -1, Z: 0.1}, High: r3.Vec{X: 1, Y: 1, Z: 1}}}
	h.FloodPoints = []hull.FloodPoint{{Name: "notch", At: r3.Vec{Z: 0.12}, Space: "well"}}
	require.NoError(t, h.Check(""))
	b, err := NewCraft(h)
	require.NoError(t, err)
	// The centre of gravity is over the centre of buoyancy of the box without the
	// well at a draft of 0.2 m: 10 m² x 0.2 less 2 m² x 0.1.
	v := 10*0.2 - 2*0.1
	x := (10*0.2*2.5 - 2*0.1*0.5) / v
	r := b.Solve(one(SeaWater*v, x, 0, 0.3), nil)
	require.Equal(t, Afloat, r.Status)
	assert.InEpsilon(t, 0.2, r.Figures.DraftAft, 1e-9)
	assert.InEpsilon(t, 0.2, r.Figures.DraftFwd, 1e-9)
	require.Len(t, r.Figures.Awash, 1)
	assert.InDelta(t, 0.1, r.Figures.Awash[0].Depth, 1e-9)
	assert.Equal(t, "notch", r.Figures.Awash[0].Through)
	assert.Equal(t, "sheer", r.Figures.Lowest.Name, "an opening into a space does not swamp her")

	light := b.Solve(one(900, 2.5, 0, 0.3), nil)
	assert.Empty(t, light.Figures.Awash)
	assert.InEpsilon(t, 900/SeaWater/10, light.Figures.DraftAft, 1e-9)
}

// Bilge water in the hull's own shape: in a box's bilge it acts as a box tank does.
func TestBilgeWaterInABoxActsAsATank(t *testing.T) {
	s := shellOf(t, boxHull(5, 2, 0.7))
	b := NewBoat(s, nil)
	bilge := s.Within(r3.Vec{X: 1, Y: -1, Z: 0}, r3.Vec{X: 4, Y: 1, Z: 0.1})
	own, tank := one(900, 2.4, 0.05, 0.3), one(900, 2.4, 0.05, 0.3)
	own.Tanks = []Tank{{Name: "bilge", Shape: &bilge, Fill: 0.3, Density: SeaWater}}
	tank.Tanks = []Tank{{Name: "bilge", Size: r3.Vec{X: 3, Y: 2, Z: 0.1}, Corner: r3.Vec{X: 1, Y: -1}, Fill: 0.3,
		Density: SeaWater}}
	require.NoError(t, own.Check())
	assert.InDelta(t, tank.Total().CG.Z, own.Total().CG.Z, 1e-9)
	f, g := b.Solve(own, nil).Figures, b.Solve(tank, nil).Figures
	assert.InDelta(t, g.HeelDeg, f.HeelDeg, 1e-7)
	assert.InDelta(t, g.TrimDeg, f.TrimDeg, 1e-7)
	assert.InDelta(t, g.FreeSurface, f.FreeSurface, 1e-9)
	assert.Greater(t, f.FreeSurface, 0.01)
}

// KM of Wigley's hull heeled (its GM, for a weight at the keel): the second moment of the waterplane in its own plane
// about the axis through its centroid, over the volume. Each chord's ends are found
// by halving on Wigley's formula, and the chords added by Gauss-Legendre (gonum).
func TestWigleysMetacentreHeeledIsWithinATenthOfAPercent(t *testing.T) {
	const length, beam, draft = 6.0, 2.0, 0.5
	b := newBody(newSolid(shellOf(t, wigley(61, 25, length, beam, draft)).Mesh))
	half := func(x, z float64) float64 {
		u, w := 2*x/length-1, max(1-z/draft, 0)
		return beam / 2 * (1 - u*u) * (1 - w*w)
	}
	for _, deg := range []float64{0, 6, -12} {
		f := attitude(0, deg*math.Pi/180)
		ref := r3.Vec{X: length / 2, Z: draft}
		im := b.immerse(f, ref, 0)
		end := func(x, side float64) float64 { // of the chord, from ref along the surface
			low, high := 0.0, beam
			for range 60 {
				p := (low + high) / 2
				at := r3.Add(ref, r3.Scale(side*p, f.port))
				if math.Abs(at.Y) < half(x, at.Z) {
					low = p
				} else {
					high = p
				}
			}
			return side * low
		}
		sum := func(of func(a, b float64) float64) float64 {
			return quad.Fixed(func(x float64) float64 { return of(end(x, -1), end(x, 1)) }, 0, length, 400, nil, 0)
		}
		area := sum(func(a, b float64) float64 { return b - a })
		first := sum(func(a, b float64) float64 { return (b*b - a*a) / 2 })
		second := sum(func(a, b float64) float64 { return (b*b*b - a*a*a) / 3 })
		require.InEpsilon(t, area, im.area, 1e-3)
		// The metacentre over the keel, along the world's vertical: BM and the height
		// of B, both of the engine, against the same with BM by quadrature.
		keel := r3.Dot(f.up, r3.Vec{X: length / 2}) - r3.Dot(f.up, ref)
		kb := r3.Dot(f.up, im.moment)/im.volume - keel
		km := (im.iPP-im.sPort*im.sPort/im.area)/im.volume + kb
		assert.InEpsilon(t, (second-first*first/area)/im.volume+kb, km, 1e-3, "at %g°", deg)
	}
}
