package float

import (
	"math"
	"testing"

	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

func shellOf(t require.TestingT, h hull.Hull) *hull.Shell {
	require.NoError(t, h.Check(""))
	s, err := h.Shell()
	require.NoError(t, err)
	return s
}

func prism(length float64, half ...hull.Point) hull.Hull {
	return hull.Hull{Stations: []hull.Station{{X: 0, Half: half}, {X: length, Half: half}}}
}

func boxHull(length, beam, depth float64) hull.Hull {
	return prism(length, hull.Point{}, hull.Point{Y: beam / 2}, hull.Point{Y: beam / 2, Z: depth})
}

func one(kg, x, y, z float64) Load {
	return Load{WaterDensity: SeaWater, Masses: []Mass{{Name: "all", Kg: kg, At: r3.Vec{X: x, Y: y, Z: z}}}}
}

// Closed form of a box: draft Δ/(ρLB), KB T/2, BM B²/12T, GM_L L²/12T + KB - KG.
func TestABoxFloatsAtItsClosedForm(t *testing.T) {
	const length, beam, depth, kg, kgz = 5.0, 2.0, 0.7, 1845.0, 0.4
	r := NewBoat(shellOf(t, boxHull(length, beam, depth)), nil).Solve(one(kg, 2.5, 0, kgz), nil)
	require.Equal(t, Afloat, r.Status)
	f, draft := r.Figures, kg/SeaWater/length/beam
	assert.InEpsilon(t, draft, f.DraftAft, 1e-9)
	assert.InEpsilon(t, draft, f.DraftFwd, 1e-9)
	assert.InEpsilon(t, draft/2, f.KB, 1e-9)
	assert.InEpsilon(t, beam*beam/12/draft+draft/2-kgz, f.GMT, 1e-9)
	assert.InEpsilon(t, length*length/12/draft+draft/2-kgz, f.GML, 1e-9)
	assert.InEpsilon(t, length*beam, f.Waterplane, 1e-9)
	assert.InEpsilon(t, SeaWater*length*beam/100, f.KgPerCm, 1e-9)
	assert.InDelta(t, 2.5, f.LCF, 1e-9)
	assert.InDelta(t, 2.5, f.LCB, 1e-9)
	assert.InDelta(t, 0, f.HeelDeg, 1e-9)
	assert.InDelta(t, 0, f.TrimDeg, 1e-9)
	assert.Equal(t, "sheer", f.Lowest.Name)
	assert.InDelta(t, depth-draft, f.Lowest.M, 1e-9)
}

// Wall-sided formula GZ = sin φ (GM + ½ BM tan² φ), until the bilge of this
// box leaves the water at atan(0.36/2) = 10.2°.
func TestABoxRightsByTheWallSidedFormula(t *testing.T) {
	const kg, kgz = 1845.0, 0.4
	heels := []float64{-8, 0.01, 2, 5, 8, 10}
	r := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil).Solve(one(kg, 2.5, 0, kgz), heels)
	f := r.Figures
	bm := 4.0 / 12 / 0.18
	for i, deg := range heels {
		sin, tan := math.Sin(deg*math.Pi/180), math.Tan(deg*math.Pi/180)
		assert.InEpsilon(t, sin*(f.GMT+bm*tan*tan/2), r.Levers[i].GZ, 1e-9, "at %g°", deg)
	}
}

// A weight w at y heels a wall-sided box until w y cos φ = Δ GZ(φ).
func TestAWeightOffTheCentreHeelsTheBoxAsTheFormulaSays(t *testing.T) {
	l := one(1745, 2.5, 0, 0.4)
	l.Masses = append(l.Masses, Mass{Name: "one man", Kg: 100, At: r3.Vec{X: 2.5, Y: -0.8, Z: 0.4}})
	f := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil).Solve(l, nil).Figures
	bm := 4.0 / 12 / 0.18
	gm := bm + 0.09 - 0.4
	phi := f.HeelDeg * math.Pi / 180
	assert.InEpsilon(t, 80*math.Cos(phi), 1845*math.Sin(phi)*(gm+bm*math.Pow(math.Tan(phi), 2)/2), 1e-9)
	assert.Greater(t, f.HeelDeg, 0.0, "starboard down is positive")
	assert.Less(t, f.Lowest.At.Y, 0.0, "the starboard sheer is lowest")
}

// The same along: a weight at the stern trims the bow up, tan θ from the
// wall-sided formula with BM_L = L²/12T.
func TestAWeightAtTheSternTrimsTheBowUp(t *testing.T) {
	l := one(1745, 2.5, 0, 0.4)
	l.Masses = append(l.Masses, Mass{Name: "one man", Kg: 100, At: r3.Vec{X: 1.0, Y: 0, Z: 0.4}})
	f := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil).Solve(l, nil).Figures
	bm := 25.0 / 12 / 0.18
	theta := f.TrimDeg * math.Pi / 180
	assert.InEpsilon(t, 150*math.Cos(theta), 1845*math.Sin(theta)*(bm+0.09-0.4+bm*math.Pow(math.Tan(theta), 2)/2), 1e-9)
	assert.Greater(t, f.TrimDeg, 0.0)
	assert.Greater(t, f.DraftAft, f.DraftFwd)
	assert.InDelta(t, math.Tan(theta)*5, f.DraftAft-f.DraftFwd, 1e-9)
}

// A V of half-breadth h at height h (90° in all): area T², KB 2T/3, BM I/∇ with
// breadth 2T: (2T)³/12 / T² = 2T/3.
func TestAVeeFloatsAtItsClosedForm(t *testing.T) {
	const length, draft = 4.0, 0.5
	v := prism(length, hull.Point{}, hull.Point{Y: 1, Z: 1})
	f := NewBoat(shellOf(t, v), nil).Solve(one(SeaWater*draft*draft*length, 2, 0, 0.3), nil).Figures
	assert.InEpsilon(t, draft, f.DraftAft, 1e-9)
	assert.InEpsilon(t, 2*draft/3, f.KB, 1e-9)
	assert.InEpsilon(t, 2*draft/3+2*draft/3-0.3, f.GMT, 1e-9)
}

// A cylinder's metacentre is its axis at every heel: GZ = (R - KG) sin φ.
func TestACylinderRightsAboutItsAxis(t *testing.T) {
	const radius, points = 1.0, 160
	var half []hull.Point
	for i := 0; i <= points; i++ {
		a := math.Pi * 0.9 * float64(i) / points
		half = append(half, hull.Point{Y: radius * math.Sin(a), Z: radius - radius*math.Cos(a)})
	}
	s := shellOf(t, prism(4, half...))
	r := NewBoat(s, nil).Solve(one(SeaWater*math.Pi/2*4, 2, 0, 0.6), []float64{5, 10, 20, 30})
	assert.InEpsilon(t, 0.4, r.Figures.GMT, 1e-3)
	for _, l := range r.Levers {
		assert.InEpsilon(t, 0.4*math.Sin(l.HeelDeg*math.Pi/180), l.GZ, 1e-3)
	}
}

// wigley is y = B/2 (1-(2x/L)²)(1-(z/T)²) with z down from the water, and
// straight sides above it. Wigley, Trans. INA 76 (1934), from memory.
func wigley(stations, points int, length, beam, draft float64) hull.Hull {
	var h hull.Hull
	for i := range stations {
		x := 2*float64(i)/float64(stations-1) - 1
		s := hull.Station{X: (x + 1) * length / 2}
		for k := range points {
			z := 1 - float64(k)/float64(points-1)
			s.Half = append(s.Half, hull.Point{Y: beam / 2 * (1 - x*x) * (1 - z*z), Z: draft * (1 - z)})
		}
		s.Half = append(s.Half, hull.Point{Y: beam / 2 * (1 - x*x), Z: 1.6 * draft})
		h.Stations = append(h.Stations, s)
	}
	return h
}

// ∇ = 4/9 LBT, KB = 5/8 T, A = 2/3 LB, BM = 3/35 B²/T.
func wigleyErrors(t *testing.T, stations, points int) [4]float64 {
	const length, beam, draft = 6.0, 0.8, 0.4
	s := shellOf(t, wigley(stations, points, length, beam, draft))
	b := newBody(newSolid(s.Mesh))
	im := b.immerse(attitude(0, 0), r3.Vec{}, draft)
	return [4]float64{
		im.volume/(4.0/9*length*beam*draft) - 1,
		im.moment.Z/im.volume/(5.0/8*draft) - 1,
		im.area/(2.0/3*length*beam) - 1,
		im.iPP/im.volume/(3.0/35*beam*beam/draft) - 1,
	}
}

func TestWigleysHullIsWithinATenthOfAPercent(t *testing.T) {
	for i, e := range wigleyErrors(t, 61, 25) {
		assert.Less(t, math.Abs(e), 1e-3, "figure %d", i)
	}
}

func TestWigleysHullConvergesWithTheSquareOfTheSpacing(t *testing.T) {
	coarse, fine := wigleyErrors(t, 31, 13), wigleyErrors(t, 61, 25)
	for i := range coarse {
		assert.InDelta(t, 4, coarse[i]/fine[i], 0.5, "figure %d", i)
	}
}

func TestWigleysHullFloatsAtItsDraftWithItsGM(t *testing.T) {
	const length, beam, draft = 6.0, 0.8, 0.4
	s := shellOf(t, wigley(61, 25, length, beam, draft))
	f := NewBoat(s, nil).Solve(one(SeaWater*4/9*length*beam*draft, 3, 0, 0.2), nil).Figures
	assert.InDelta(t, draft, f.DraftAft, 0.0005)
	assert.InDelta(t, 0, f.TrimDeg, 0.01)
	assert.InEpsilon(t, 5.0/8*draft+3.0/35*beam*beam/draft-0.2, f.GMT, 1e-3)
}

// Free surface of a box tank: i = l b³/12, so GM falls by ρ i/Δ.
func TestSlackLiquidTakesItsFreeSurfaceOffGM(t *testing.T) {
	s := shellOf(t, boxHull(5, 2, 0.7))
	tank := Tank{Name: "livewell", Size: r3.Vec{X: 0.6, Y: 0.5, Z: 0.4}, Corner: r3.Vec{X: 2.2, Y: -0.25, Z: 0.1},
		Density: SeaWater}
	l := one(1500, 2.5, 0, 0.4)
	with := func(fill float64) *Figures {
		tank.Fill = fill
		l.Tanks = []Tank{tank}
		return NewBoat(s, nil).Solve(l, nil).Figures
	}
	half := with(0.5)
	assert.InEpsilon(t, SeaWater*0.6*0.125/12/half.DisplacementKg, half.FreeSurface, 1e-9)
	assert.InEpsilon(t, 1500+SeaWater*0.06, half.DisplacementKg, 1e-12)
	draft := half.DisplacementKg / SeaWater / 10
	kg := (1500*0.4 + SeaWater*0.06*0.2) / half.DisplacementKg
	assert.InEpsilon(t, 4.0/12/draft+draft/2-kg-half.FreeSurface, half.GMT, 1e-9)
	assert.Zero(t, with(1).FreeSurface)
	assert.Zero(t, with(0).FreeSurface)
	assert.InEpsilon(t, 1500, with(0).DisplacementKg, 1e-12)
}

func TestSlackLiquidRunsToTheLowSide(t *testing.T) {
	s := shellOf(t, boxHull(5, 2, 0.7))
	l := one(1500, 2.5, -0.05, 0.4)
	dry := NewBoat(s, nil).Solve(l, nil).Figures
	l.Tanks = []Tank{{Name: "bilge", Size: r3.Vec{X: 1, Y: 1.6, Z: 0.3}, Corner: r3.Vec{X: 2, Y: -0.8, Z: 0.02},
		Fill: 0.2, Density: SeaWater}}
	wet := NewBoat(s, nil).Solve(l, nil).Figures
	assert.Greater(t, wet.HeelDeg, dry.HeelDeg)
	assert.Less(t, wet.CG.Y, -0.05*1500/wet.DisplacementKg-0.003, "the liquid lies to starboard")
}

func TestGMIsTheSlopeOfTheRightingArmAtNought(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, s, l := drawBoat(t)
		r := NewBoat(s, nil).Solve(l, []float64{-0.01, 0.01})
		if r.Status != Afloat || math.Abs(r.Figures.HeelDeg) > 1e-6 {
			t.Skip("she swamps or lolls")
		}
		// A degree of heel turns her about the level axis by cos(trim) of a degree.
		slope := (r.Levers[1].GZ - r.Levers[0].GZ) / (0.02 * math.Pi / 180) / math.Cos(r.Figures.TrimDeg*math.Pi/180)
		assert.InDelta(t, r.Figures.UprightGMT, slope, 1e-4*math.Max(0.1, math.Abs(slope)))
	})
}

// Negative GM of a wall-sided box: she lolls to tan² φ = -2GM/BM.
func TestNegativeGMIsUnstableAndFoundOnTheLoll(t *testing.T) {
	bm, kb := 4.0/12/0.18, 0.09
	kgz := bm + kb + 0.01
	for _, y := range []float64{0, 1e-5} {
		r := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil).Solve(one(1845, 2.5, y, kgz), []float64{1})
		require.Equal(t, Unstable, r.Status)
		f := r.Figures
		assert.InDelta(t, -0.01, f.UprightGMT, 1e-9)
		assert.Positive(t, f.GMT, "at the loll she is stable")
		assert.Negative(t, r.Levers[0].GZ)
		phi := f.HeelDeg * math.Pi / 180
		if y == 0 {
			assert.InEpsilon(t, 2*0.01/bm, math.Pow(math.Tan(phi), 2), 1e-6)
			assert.Positive(t, f.HeelDeg, "the loll is given to starboard")
		} else {
			assert.Negative(t, f.HeelDeg, "she falls to the side of the weight")
		}
	}
}

func TestTooMuchLoadSinksHerAndSaysSo(t *testing.T) {
	r := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil).Solve(one(7200, 2.5, 0, 0.3), []float64{0, 10})
	assert.Equal(t, Swamped, r.Status)
	assert.Nil(t, r.Figures)
	assert.Contains(t, r.Why, "more than her whole hull")
}

func TestAFloodPointUnderWaterIsSwampedWithFigures(t *testing.T) {
	floods := []hull.FloodPoint{{Name: "notch", At: r3.Vec{Z: 0.17}}, {Name: "scupper", At: r3.Vec{X: 1, Z: 0.3}}}
	r := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), floods).Solve(one(1845, 2.5, 0, 0.3), nil)
	assert.Equal(t, Swamped, r.Status)
	assert.InDelta(t, -0.01, r.Figures.Lowest.M, 1e-9)
	assert.Equal(t, "notch", r.Figures.Lowest.Name)
	assert.InDelta(t, 0.12, r.Figures.Freeboards[1].M, 1e-9)
}

// drawBoat is a random small boat of straight faces, and a load she may carry.
func drawBoat(t *rapid.T) (hull.Hull, *hull.Shell, Load) {
	f := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
	length, aft, deadrise := f("length", 3, 8), f("aft", 0.5, 1.1), f("deadrise", 5, 20)
	beam := length * f("beam", 0.3, 0.45)
	m := hull.Tape{"length_m": length, "beam_m": beam, "transom_beam_m": 0.9 * beam, "chine_beam_m": 0.85 * beam,
		"transom_deadrise_deg": deadrise, "amidships_deadrise_deg": deadrise, "depth_aft_m": aft,
		"depth_amidships_m": aft * 1.05,
		"depth_forward_m":   aft * 1.4, "forefoot_m": f("forefoot", 0.5, 2), "notch_m": aft * 0.8, "rake_deg": 0}
	vee, _ := hull.FormNamed("vee")
	if vee.Check("", m) != nil {
		t.Skip("these measures contradict each other")
	}
	h := vee.Hull(m)
	s := shellOf(t, h)
	kg := SeaWater * s.Holds * f("share", 0.1, 0.4)
	return h, s, one(kg, length*f("x", 0.38, 0.5), 0, f("z", 0.1, 0.8)*aft)
}

// At rest the buoyancy found by other means must carry the weight and lie
// right under it. Other means: Gauss-Legendre quadrature (gonum) over sections
// cut by the same surface.
func TestAtRestBuoyancyByQuadratureLiesUnderTheWeight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h, s, l := drawBoat(t)
		l.Masses[0].At.Y = rapid.Float64Range(-0.1, 0.1).Draw(t, "y")
		r := NewBoat(s, nil).Solve(l, nil)
		if r.Status != Afloat || math.Abs(r.Figures.HeelDeg) > 25 {
			t.Skip("she swamps or falls over")
		}
		f := r.Figures
		volume := wettedVolume(h, f)
		assert.InEpsilon(t, f.DisplacementKg/SeaWater, volume, 3e-4)
		arm := r3.Sub(r3.Vec{X: f.LCB, Y: f.TCB, Z: f.KB}, f.CG)
		sideways := r3.Sub(arm, r3.Scale(r3.Dot(arm, f.Up), f.Up))
		assert.Less(t, r3.Norm(sideways), 1e-7, "buoyancy is right under the weight")
	})
}

// wettedVolume integrates the wetted areas of sections along the boat, from
// station to station.
func wettedVolume(h hull.Hull, f *Figures) float64 {
	area := func(x float64) float64 {
		half, _ := h.SectionAt(x)
		var ring []hull.Point
		for i := len(half) - 1; i >= 0; i-- {
			ring = append(ring, hull.Point{Y: -half[i].Y, Z: half[i].Z})
		}
		ring = append(ring, half...)
		return wettedArea(ring, func(p hull.Point) float64 { return f.Level - f.Up.X*x - f.Up.Y*p.Y - f.Up.Z*p.Z })
	}
	volume := 0.0
	for i := 1; i < len(h.Stations); i++ {
		volume += quad.Fixed(area, h.Stations[i-1].X, h.Stations[i].X, 24, quad.Legendre{}, 0)
	}
	return volume
}

// wettedArea cuts a ring of points where the depth is nought (Sutherland and
// Hodgman) and takes the area by the shoelace formula.
func wettedArea(ring []hull.Point, depth func(hull.Point) float64) float64 {
	var wet []hull.Point
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		dp, dq := depth(p), depth(q)
		if dp > 0 {
			wet = append(wet, p)
		}
		if dp > 0 != (dq > 0) {
			t := dp / (dp - dq)
			wet = append(wet, hull.Point{Y: p.Y + t*(q.Y-p.Y), Z: p.Z + t*(q.Z-p.Z)})
		}
	}
	twice := 0.0
	for i, p := range wet {
		q := wet[(i+1)%len(wet)]
		twice += p.Y*q.Z - q.Y*p.Z
	}
	return math.Abs(twice) / 2
}

// From anywhere sane there is an answer, at rest by the engine's own residual.
func TestEveryLoadComesToRestOrIsSaidToSink(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, s, l := drawBoat(t)
		at := &l.Masses[0].At
		at.X *= rapid.Float64Range(0.85, 1.15).Draw(t, "far along")
		at.Y = rapid.Float64Range(-0.25, 0.25).Draw(t, "far out")
		l.Tanks = []Tank{{Name: "bilge", Size: r3.Vec{X: 1, Y: 0.8, Z: 0.2}, Corner: r3.Vec{X: 0.5, Y: -0.4, Z: 0.05},
			Fill: rapid.Float64Range(0, 1).Draw(t, "bilge"), Density: SeaWater}}
		boat := NewBoat(s, nil)
		r, _ := newSolver(boat, l).result(nil)
		if told := boat.Solve(l, nil); r.Figures != nil && told.Figures == nil {
			assert.Equal(t, capsizes, told.Why)
			assert.Greater(t, math.Max(math.Abs(r.Figures.HeelDeg), math.Abs(r.Figures.TrimDeg)), 60.0)
		}
		if r.Figures == nil {
			total := l.Total()
			assert.Greater(t, total.Kg, SeaWater*s.Holds*0.999, "only too much load has no answer")
			return
		}
		f := r.Figures
		arm := r3.Sub(r3.Vec{X: f.LCB, Y: f.TCB, Z: f.KB}, f.CG)
		assert.Less(t, r3.Norm(r3.Sub(arm, r3.Scale(r3.Dot(arm, f.Up), f.Up))), 1e-6)
		assert.InEpsilon(t, f.DisplacementKg/SeaWater, f.Volume, 1e-9)
	})
}

func TestTotalsCarryTheErrorThrough(t *testing.T) {
	total := Load{Masses: []Mass{
		{Kg: 100, At: r3.Vec{X: 1}, Sigma: 3}, {Kg: 100, At: r3.Vec{X: 3}, Sigma: 4},
	}, Tanks: []Tank{{Size: r3.Vec{X: 1, Y: 1, Z: 0.2}, Corner: r3.Vec{X: 1.5, Y: -0.5}, Fill: 0.5,
		Density: 1000}}}.Total()
	assert.InDelta(t, 300, total.Kg, 1e-12)
	assert.InDelta(t, 5, total.Sigma, 1e-12)
	assert.InDelta(t, 2, total.CG.X, 1e-12)
	assert.InDelta(t, 100*0.05/300, total.CG.Z, 1e-12)
	assert.InDelta(t, 5.0/300, total.CGSigma.X, 1e-12)
}

func TestBadLoadsAreNamed(t *testing.T) {
	l := one(math.NaN(), 0, 0, 0)
	assert.ErrorContains(t, l.Check(), "masses[0].kg is NaN")
	l = one(-5, 0, 0, 0)
	assert.ErrorContains(t, l.Check(), "masses[0].kg is -5: must be from 0")
	l = one(5, math.Inf(1), 0, 0)
	assert.ErrorContains(t, l.Check(), "masses[0].at_m[0] is +Inf")
	l = one(5, 0, 0, 0)
	l.WaterDensity = 0
	l.Tanks = []Tank{{Fill: 1.2, Density: 1000, Size: r3.Vec{X: 1, Y: 1, Z: 0}}}
	assert.ErrorContains(t, l.Check(), "water.density_kg_m3 is 0")
	assert.ErrorContains(t, l.Check(), "tanks[0].fill is 1.2: must be from 0 to 1")
	assert.ErrorContains(t, l.Check(), "tanks[0].size_m[2] is 0")
	assert.ErrorContains(t, Load{WaterDensity: 1000}.Check(), "add up to nothing")
}
