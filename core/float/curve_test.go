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

// A box's notch on the centreline is under when the surface through the middle of
// the waterplane reaches it; a point at the side, when (h - T) = y tan φ.
func TestTheFloodingAngleOfABoxIsItsClosedForm(t *testing.T) {
	const kg, draft = 1845.0, 0.18
	side := hull.FloodPoint{Name: "side port", At: r3.Vec{X: 2.5, Y: -1, Z: 0.30}}
	b := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), []hull.FloodPoint{side})
	curves := b.Curves(one(kg, 2.5, 0, 0.4), 60, 12)
	require.Len(t, curves, 2)
	starboard, port := curves[0], curves[1]
	assert.InDelta(t, math.Atan(0.12/1)*180/math.Pi, starboard.Flood, 0.011)
	assert.Equal(t, "side port", starboard.FloodThrough)
	// To port the edge goes under first, with the bilge already dry: past atan(0.52).
	assert.Equal(t, "sheer", port.FloodThrough)
	assert.Greater(t, port.Flood, math.Atan(0.52)*180/math.Pi)
	assert.InDelta(t, starboard.Flood, starboard.Range(), 1e-9)
}

// The wall-sided box with its CG high: GZ = sin φ (GM + ½BM tan² φ) has its area
// in closed form, ∫ = GM (1 - cos φ) + ½ BM (sec φ + cos φ - 2).
func TestTheAreaUnderTheArmOfABoxIsItsClosedForm(t *testing.T) {
	const kg = 1845.0
	b := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil)
	c := b.Curves(one(kg, 2.5, 0, 0.4), 10, 40)[0]
	bm, phi := 4.0/12/0.18, 10*math.Pi/180
	gm := bm + 0.09 - 0.4
	want := gm*(1-math.Cos(phi)) + bm/2*(1/math.Cos(phi)+math.Cos(phi)-2)
	assert.InEpsilon(t, want, c.AreaToEnd, 1e-3)
	assert.InDelta(t, 10, c.AtDeg, 1e-9)
}

// A cylinder rights by (R - KG) sin φ, whatever the heel, so its arm vanishes at
// 180° only; with a weight at the side it vanishes where sin φ is that of rest again.
func TestTheArmOfACylinderVanishesWhereTheSineReturns(t *testing.T) {
	const radius, points = 1.0, 200
	var half []hull.Point
	for i := 0; i <= points; i++ {
		a := math.Pi * 0.98 * float64(i) / points
		half = append(half, hull.Point{Y: radius * math.Sin(a), Z: radius - radius*math.Cos(a)})
	}
	b := NewBoat(shellOf(t, prism(4, half...)), nil)
	// GZ = (R-KG) sin φ + y cos φ with y to port: rests at φ to port, vanishes a half turn on.
	l := one(SeaWater*math.Pi/2*4, 2, -0.2, 0.8)
	curves := b.Curves(l, 170, 34)
	rest := math.Atan2(0.2, 0.2) * 180 / math.Pi
	assert.InDelta(t, rest, b.Solve(l, nil).Figures.HeelDeg, 0.2)
	// The area under the arm begins at rest, 45° to the other side of upright, not there.
	for _, c := range curves {
		from, to := c.Side*rest*math.Pi/180, c.Range()*math.Pi/180
		want := 0.2*(math.Cos(from)-math.Cos(to)) - c.Side*0.2*(math.Sin(to)-math.Sin(from))
		assert.InEpsilon(t, want, c.AreaToEnd, 2e-3, "side %g", c.Side)
	}
	assert.True(t, math.IsNaN(curves[0].Vanishes), "to starboard she still rights at 170°")
	assert.InDelta(t, 180-rest, curves[1].Vanishes, 0.3)
}

// A steady wind heels a box until its moment is met by the wall-sided formula.
func TestTheWindHeelsABoxAsTheFormulaSays(t *testing.T) {
	const kg, draft = 1845.0, 0.18
	b := NewBoat(shellOf(t, boxHull(5, 2, 0.7)), nil)
	w, ok := b.Abeam(one(kg, 2.5, 0, 0.4), 15, []Sail{{Name: "canopy", Area: 3, Z: 1.6}})
	require.True(t, ok)
	hullArea := 5 * (0.7 - draft)
	area := hullArea + 3
	arm := (hullArea*(0.7+draft)/2+3*1.6)/area - draft/2
	moment := 1.225 / 2 * 1.1 * area * 15 * 15 * arm
	assert.InEpsilon(t, area, w.Area, 1e-9)
	assert.InEpsilon(t, moment, w.Moment, 1e-9)
	phi, bm := w.HeelDeg*math.Pi/180, 4.0/12/draft
	gm := bm + draft/2 - 0.4
	righting := kg * 9.80665 * math.Sin(phi) * (gm + bm/2*math.Pow(math.Tan(phi), 2))
	assert.InEpsilon(t, moment*math.Cos(phi)*math.Cos(phi), righting, 1e-4)
	gone, _ := b.Abeam(one(kg, 2.5, 0, 0.4), 120, []Sail{{Name: "canopy", Area: 30, Z: 3}})
	assert.True(t, math.IsNaN(gone.HeelDeg), "blown over")
}

// Bands by the Jacobian against the spread of a thousand boats whose masses were
// drawn at random with those errors.
func TestBandsAreTheSpreadOfRandomMasses(t *testing.T) {
	h, l := dayBoat(t)
	boat, err := NewCraft(h)
	require.NoError(t, err)
	for i := range l.Masses {
		l.Masses[i].Sigma = 0.1 * l.Masses[i].Kg
	}
	l.Tanks[0].Sigma = 6
	f := boat.Solve(l, nil).Figures
	bands := boat.Bands(l, f)
	random := seeded(11)
	var heel, trim, low, kg []float64
	for range 1000 {
		one := l
		one.Masses = append([]Mass{}, l.Masses...)
		one.Tanks = append([]Tank{}, l.Tanks...)
		for i := range one.Masses {
			one.Masses[i].Kg += one.Masses[i].Sigma * random.NormFloat64()
		}
		one.Tanks[0].Fill += l.Tanks[0].Fill * 6 / l.Tanks[0].Kg() * random.NormFloat64()
		g := boat.Solve(one, nil).Figures
		heel, trim, kg = append(heel, g.HeelDeg), append(trim, g.TrimDeg), append(kg, g.DisplacementKg)
		low = append(low, g.FreeboardAt(f.Lowest.At))
	}
	assert.InEpsilon(t, deviation(heel), bands.HeelDeg, 0.08)
	assert.InEpsilon(t, deviation(trim), bands.TrimDeg, 0.08)
	assert.InEpsilon(t, deviation(low), bands.Lowest, 0.08)
	assert.InEpsilon(t, deviation(kg), bands.Kg, 0.08)
	assert.Equal(t, bands.Points[0].M, maxShare(bands.Points))
}

func maxShare(list []Share) (most float64) {
	for _, s := range list {
		most = max(most, s.M)
	}
	return most
}

func TestTheChanceToKeepALimitIsTheNormalDistributions(t *testing.T) {
	assert.InDelta(t, 0.5, Sure(0.2, 0.01, 0.2), 1e-12)
	assert.InDelta(t, 0.975, Sure(0.2+0.0195996, 0.01, 0.2), 1e-6)
	assert.Equal(t, 0.0, Sure(0.1, 0, 0.2))
	assert.Equal(t, 1.0, Sure(0.3, 0, 0.2))
}

// A day solved step after step is the same day as each step by itself.
func TestStepsAreWhatEachLoadIsByItself(t *testing.T) {
	h, l := dayBoat(t)
	boat, err := NewCraft(h)
	require.NoError(t, err)
	loads := day(l, 40)
	for i, r := range boat.Steps(loads) {
		alone := boat.Solve(loads[i], nil)
		require.Equal(t, alone.Status, r.Status)
		assert.InDelta(t, alone.Figures.HeelDeg, r.Figures.HeelDeg, 1e-7)
		assert.InDelta(t, alone.Figures.TrimDeg, r.Figures.TrimDeg, 1e-7)
		assert.InDelta(t, alone.Figures.Level, r.Figures.Level, 1e-9)
	}
}

// day is a load history: fuel burns, a person walks about, fish come aboard.
func day(l Load, steps int) []Load {
	var loads []Load
	for i := range steps {
		share := float64(i) / float64(steps)
		one := l
		one.Masses = append([]Mass{}, l.Masses...)
		one.Tanks = append([]Tank{}, l.Tanks...)
		one.Tanks[0].Fill = 0.9 - 0.7*share
		one.Masses[3].At.X = 0.7 + 3*math.Abs(math.Sin(7*share))
		one.Masses[3].At.Y = 0.4 * math.Sin(23*share)
		one.Masses = append(one.Masses, Mass{Name: "fish", Kg: 60 * share, At: r3.Vec{X: 1, Z: 0.3}})
		loads = append(loads, one)
	}
	return loads
}

func BenchmarkADayOf200Steps(b *testing.B) {
	h, l := dayBoat(b)
	boat, err := NewCraft(h)
	require.NoError(b, err)
	loads := day(l, 200)
	b.ReportAllocs()
	for b.Loop() {
		boat.Steps(loads)
	}
}

func BenchmarkBothCurvesOf19Angles(b *testing.B) {
	h, l := dayBoat(b)
	boat, err := NewCraft(h)
	require.NoError(b, err)
	b.ReportAllocs()
	for b.Loop() {
		boat.Curves(l, 90, 18)
	}
}

// No step of a day costs more memory than the one before.
func TestALongDayAllocatesNoMoreAStepThanAShortOne(t *testing.T) {
	h, l := dayBoat(t)
	boat, err := NewCraft(h)
	require.NoError(t, err)
	per := func(n int) float64 {
		loads := day(l, n)
		return testing.AllocsPerRun(3, func() { boat.Steps(loads) }) / float64(n)
	}
	assert.InDelta(t, per(20), per(200), 2)
}

// Full of water, a box of foam alone floats with its share of density under water.
func TestAFoamBlockFloatsByItsDensity(t *testing.T) {
	h := boxHull(4, 1.6, 0.5)
	s := shellOf(t, h)
	// All of the inside is foam, and the skin weighs nothing to speak of.
	r := FullOfWater(h, s, Swamp{HullKg: 1, HullCG: r3.Vec{X: 2, Z: 0.25}, SkinDensity: 1000,
		Foam: [][2]r3.Vec{{s.Low, s.High}}, Water: 1000})
	require.True(t, r.Level, r.Why)
	assert.InEpsilon(t, 0.5*(FoamDensity*3.2+1)/3.2/1000, r.Figures.DraftAft, 0.01)
	assert.InEpsilon(t, 3200, r.FoamLitre, 1e-3)
	assert.InEpsilon(t, 3200-3200*FoamDensity/1000-1, r.MarginKg, 0.01)
}

func TestWithoutFoamAnAluminiumBoatSinksAndSaysHowMuchItTakes(t *testing.T) {
	h, _ := dayBoat(t)
	s := shellOf(t, h)
	in := Swamp{HullKg: 300, HullCG: r3.Vec{X: 2.2, Z: 0.35}, SkinDensity: SkinDensity["aluminium"], Water: SeaWater,
		Things: []Thing{{Name: "motor", Kg: 110, Density: MotorDensity, At: r3.Vec{X: -0.1, Z: 0.6},
			Size: r3.Vec{X: 0.4, Y: 0.3, Z: 0.9}}}}
	bare := FullOfWater(h, s, in)
	require.False(t, bare.Floats)
	// By hand: 410 kg, of which 300/2660 + 110/5000 m³ push water away.
	want := (410*1.1 - (300.0/2660+110.0/5000)*SeaWater) / (SeaWater - FoamDensity*1.1) * 1000
	assert.InEpsilon(t, want, bare.NeedLitre, 0.01)
	assert.InEpsilon(t, 300/2660.0/area(s)*1000, bare.SkinMM, 0.08) // the mitres of chine and keel count twice here

	in.Foam = [][2]r3.Vec{{{X: 0, Y: -1.1, Z: 0.35}, {X: 4, Y: -0.72, Z: 0.7}},
		{{X: 0, Y: 0.72, Z: 0.35}, {X: 4, Y: 1.1, Z: 0.7}}}
	foamed := FullOfWater(h, s, in)
	require.True(t, foamed.Floats, foamed.Why)
	assert.Greater(t, foamed.FoamLitre, 300.0)
	assert.Less(t, foamed.NeedLitre, bare.NeedLitre)
	assert.Less(t, foamed.Figures.Lowest.M, 0.2)
}

// area of the shell without its lid.
func area(s *hull.Shell) float64 {
	sum := 0.0
	for _, t := range s.Triangles {
		a, b, c := s.Vertices[t[0]], s.Vertices[t[1]], s.Vertices[t[2]]
		sum += r3.Norm(r3.Cross(r3.Sub(b, a), r3.Sub(c, a))) / 2
	}
	lid := 0.0
	for i := 0; i+3 < len(s.Sheer); i += 2 {
		p, q := s.Sheer[i], s.Sheer[i+2]
		lid += (p.Y + q.Y) * (q.X - p.X)
	}
	return sum - lid
}

// The longest arm is at the broadest beam.
func TestAPersonHangsWhereSheIsBroadest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, s, _ := drawBoat(t)
		b := NewBoat(s, nil)
		assert.InDelta(t, s.High.Y, b.LongestArm(1).Y, 1e-12)
		assert.InDelta(t, s.Low.Y, b.LongestArm(-1).Y, 1e-12)
	})
}
