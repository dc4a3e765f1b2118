package capacity

import (
	"math"
	"testing"

	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// box is a flat boat of 4.5 by 1.8 by 0.5 m, 150 kg with a motor of 60 kg.
func box() Boat {
	half := []hull.Point{{}, {Y: 0.9}, {Y: 0.9, Z: 0.5}}
	return Boat{
		Hull: hull.Hull{Stations: []hull.Station{{X: 0, Half: half}, {X: 4.5, Half: half}},
			FloodPoints: []hull.FloodPoint{{Name: "notch", At: r3.Vec{Z: 0.4}}}},
		Load: float.Load{WaterDensity: 1000, Masses: []float.Mass{
			{Name: "hull", Kg: 150, At: r3.Vec{X: 2.25, Z: 0.2}}, {Name: "motor", Kg: 60, At: r3.Vec{X: 2.25, Z: 0.2}}}},
		BoatKg: 150, MotorKg: 60, Propulsion: Outboard, Kind: "monohull", FlatBottom: true, TransomBeam: 1.8,
		Edge: r3.Vec{X: 2.25, Y: 0.8, Z: 0.3},
	}
}

// 33 CFR 183 by hand (memory of the rule). Power: 14.76 x 5.91 ft = 87, flat
// 0.5 x 87 - 15 = 28.5, raised to 30. Maximum displacement 4.5 x 1.8 x 0.4 x 999.6
// = 3238.7 kg = 7140.1 lb; (7140.1 - 330.7)/5 = 1361.9 lb; less 310 lb of a motor
// of 30 hp by the table 1051.9 lb, which is over 550, so no side-load test;
// (1051.9 + 32)/141 = 7.69, eight persons.
func TestABoxByHand(t *testing.T) {
	b := box()
	require.NoError(t, b.Check())
	f, err := Work(b)
	require.NoError(t, err)
	require.True(t, f.Applies, f.Why)
	assert.InEpsilon(t, 3240*0.9996, f.MaximumKg, 1e-9)
	assert.InDelta(t, 1361.9*units.PoundKg, f.WeightKg, 0.05)
	assert.InDelta(t, 1051.9*units.PoundKg, f.PersonsKg, 0.05)
	assert.Equal(t, 8, f.Persons)
	assert.True(t, math.IsNaN(f.SideLoadKg))
	assert.Equal(t, 87.0, f.PowerFactor)
	assert.Equal(t, 30.0, f.Horsepower)
}

// A light boat goes through the side-load test. The box is level along, so the
// weight w at the edge brings the corner of the sheer to the water where, by the
// heeled box's closed form, moments about the centre of the waterplane balance.
func TestTheSideLoadIsFoundByClosedForm(t *testing.T) {
	b := box()
	b.Hull.FloodPoints = nil
	b.Load.Masses[0].Kg = 2300
	for i := range b.Load.Masses { // tender, so that the test decides
		b.Load.Masses[i].At.Z = 0.92
	}
	b.BoatKg = 2250 // on paper, so that persons come under 550 lb
	f, err := Work(b)
	require.NoError(t, err)
	require.False(t, math.IsNaN(f.SideLoadKg))
	assert.Equal(t, "sheer", f.SideAt)
	// Heeled box with both bilges wet: draft T amidships, sheer corner at the water
	// when T + 0.9 tan φ = 0.5.
	w := f.SideLoadKg
	total := 2360 + w
	draft := total / freshWater / 4.5 / 1.8
	tan := (0.5 - draft) / 0.9
	require.Less(t, tan*0.9, draft, "both bilges are wet")
	// Buoyancy at y = B² tan/12T, z = T/2 + B² tan²/24T; weight at its own centre.
	by, bz := 1.8*1.8*tan/12/draft, draft/2+1.8*1.8*tan*tan/24/draft
	gy, gz := w*0.8/total, (2360*0.92+w*0.3)/total
	assert.InDelta(t, 0, (by-gy)+(bz-gz)*tan, 1e-4, "buoyancy stands right under the weight")
	assert.InDelta(t, w/0.6, f.PersonsKg, 0.01)
}

// By hand: a permanent tank is boat weight, a fifth of it off; a motor heavier
// than the table's counts as it is; salt water carries no more; a rowed boat has
// three tenths of what is over her weight, nine tenths of that for persons.
func TestWhatIsCountedIsOnTheSafeSide(t *testing.T) {
	work := func(change func(*Boat)) Figures {
		b := box()
		change(&b)
		require.NoError(t, b.Check())
		f, err := Work(b)
		require.NoError(t, err)
		return f
	}
	plain := work(func(*Boat) {})
	fuel := work(func(b *Boat) { b.FuelKg = 50 })
	assert.InDelta(t, 10, plain.WeightKg-fuel.WeightKg, 1e-6)
	assert.InDelta(t, 10, plain.PersonsKg-fuel.PersonsKg, 1e-6)
	assert.InDelta(t, 310*units.PoundKg, plain.MotorKg, 1e-6)
	heavy := work(func(b *Boat) { b.MotorKg = 200 })
	assert.InDelta(t, 200, heavy.MotorKg, 1e-9)
	assert.Less(t, heavy.PersonsKg, plain.PersonsKg)
	small := work(func(b *Boat) { b.RatedHP = 15 })
	assert.InDelta(t, 230*units.PoundKg, small.MotorKg, 1e-6, "by her rating")
	salt := work(func(b *Boat) { b.Load.WaterDensity = 1025 })
	assert.Equal(t, plain.WeightKg, salt.WeightKg)
	over := plain.MaximumKg - 150
	rowed := work(func(b *Boat) { b.Propulsion = Manual })
	assert.InDelta(t, 0.3*over, rowed.WeightKg, 1e-6)
	assert.InDelta(t, 0.27*over, rowed.PersonsKg, 1e-6)
	two := work(func(b *Boat) { b.RatedHP, b.MotorKg = 2, 5 })
	assert.InDelta(t, 0.27*over-25*units.PoundKg, two.PersonsKg, 1e-6)
	assert.Equal(t, []float64{25, 40, 575}, []float64{tableLb(2), tableLb(2.1), tableLb(300)})
}

func TestNumberOfPersonsRoundsHalvesUp(t *testing.T) {
	for lb, n := range map[float64]int{0: 0, 109: 1, 179.4: 1, 179.5: 2, 320.5: 3, 532: 4} {
		assert.Equal(t, n, Persons(lb), "%g lb", lb)
	}
}

// The table and formulas of 33 CFR 183.53 (memory).
func TestPowerByTheTableAndTheFormulas(t *testing.T) {
	for _, c := range []struct {
		length, width float64
		flat, remote  bool
		hp            float64
	}{
		{7, 5, false, false, 3}, {9, 4, false, false, 5}, {10, 4.2, false, false, 7.5}, {11, 4, false, false, 10},
		{13, 4, false, false, 15},
		{13, 4, true, false, 10}, {7, 5, true, false, 3},
		{16, 6, false, true, 105}, {16, 6, true, false, 35}, {16, 6, false, false, 55},
	} {
		_, hp := Power(c.length, c.width, c.flat, c.remote)
		assert.Equal(t, c.hp, hp, "%+v", c)
	}
}

func TestInboardsCountTheirMachinery(t *testing.T) {
	w, p := weigh(Inboard, 6000, 2000, 400)
	assert.InDelta(t, math.Max((6000-2000-1600)/5.0, 4000/7.0), w, 1e-9)
	assert.Equal(t, w, p)
}

func TestBoatsOutsideTheRuleAreToldSo(t *testing.T) {
	b := box()
	b.Kind = "watercraft"
	f, err := Work(b)
	require.NoError(t, err)
	assert.False(t, f.Applies)
	assert.Contains(t, f.Why, "watercraft")
	b = box()
	b.Hull.Stations[1].X = 6.2
	f, err = Work(b)
	require.NoError(t, err)
	assert.Contains(t, f.Why, "under 20 ft; she is 20.3 ft")
	b.Kind, b.BoatKg = "barge", -1
	assert.ErrorContains(t, b.Check(), "kind is \"barge\"")
	assert.ErrorContains(t, b.Check(), "boat_kg is -1")
}

// A lower notch never gives a greater capacity, and the capacity never exceeds a
// fifth of what the boat displaces with the water at it.
func TestALowerNotchNeverGivesMore(t *testing.T) {
	last := 0.0
	for _, notch := range []float64{0.2, 0.25, 0.3, 0.35, 0.4, 0.45} {
		b := box()
		b.Hull.FloodPoints[0].At.Z = notch
		f, err := Work(b)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, f.WeightKg, last)
		assert.LessOrEqual(t, f.WeightKg, f.MaximumKg/5)
		last = f.WeightKg
	}
	b := box()
	b.BoatKg = 4000 // heavier than what she displaces
	f, err := Work(b)
	require.NoError(t, err)
	assert.Zero(t, f.WeightKg)
	assert.Zero(t, f.Persons)
}
