package wire

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestGaugesAreAsTheirDefinitionHasThem(t *testing.T) {
	// ASTM B258: No. 36 is 0.0050 in and No. 4/0 is 0.4600 in across, with 39 equal ratios between.
	inch := 25.4
	for n, across := range map[int]float64{36: 0.005 * inch, -3: 0.46 * inch} {
		assert.InEpsilon(t, math.Pi/4*across*across, AWGArea(n), 1e-6)
	}
	// Diameters of the handbook's table, mm, to its digits.
	for n, across := range map[int]float64{18: 1.024, 14: 1.628, 10: 2.588, 6: 4.115, 2: 6.544, 0: 8.251} {
		assert.InDelta(t, across, math.Sqrt(AWGArea(n)*4/math.Pi), 5.1e-4, n)
	}
	assert.InEpsilon(t, 1/58., Resistivity(20), 1e-12, "IEC 60028")
	assert.InEpsilon(t, 0.5067075e-3, MilMM2, 1e-6)
}

func TestBothMethodsAgreeNear29Degrees(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		amps, way := rapid.Float64Range(0.1, 300).Draw(t, "A"), rapid.Float64Range(0.1, 30).Draw(t, "m")
		volts := rapid.Float64Range(0.1, 4).Draw(t, "V")
		assert.InEpsilon(t, CircularMils(amps, way, volts)*MilMM2, AreaFor(amps, way, volts, 29.3), 1e-4)
	})
	ratio := AreaFor(10, 3, 0.36, UsualConductor) / (CircularMils(10, 3, 0.36) * MilMM2)
	assert.InDelta(t, 1.0027, ratio, 1e-4, "at 30 °C the first asks for a quarter of a percent more")
}

// handbook has rows of the table for 12 V and a loss of 3 %: amperes, feet there and back,
// gauge. ABYC E-11, from memory, worked again by hand from CM = 10.75 I L/E against the
// areas of ASTM B258. Rows where the table asks for one gauge more, since it reckons with
// the smaller SAE areas, are left out.
var handbook = []struct {
	amps, feet float64
	awg        string
}{
	{5, 10, "18"}, {5, 15, "16"}, {5, 20, "14"}, {5, 30, "12"}, {10, 10, "14"}, {10, 15, "12"}, {10, 25, "10"},
	{10, 30, "10"}, {10, 40, "8"}, {10, 60, "6"}, {15, 10, "12"}, {15, 15, "10"}, {15, 20, "10"}, {15, 25, "8"},
	{15, 40, "6"}, {20, 15, "10"}, {20, 20, "8"}, {20, 30, "6"}, {25, 30, "6"}, {25, 40, "4"}, {30, 40, "4"},
	{40, 30, "4"}, {40, 40, "2"}, {50, 20, "4"}, {50, 30, "2"},
}

func TestRowsOfTheHandbook(t *testing.T) {
	for _, row := range handbook {
		c := Usual(row.amps, row.feet/2*metresPerFoot, 12)
		c.Conductor = 29.3
		a, err := c.Answer()
		require.NoError(t, err)
		assert.Equal(t, row.awg, a.AWG.Name, "%v A over %v ft", row.amps, row.feet)
		assert.Equal(t, ByDrop, a.Decided)
		assert.LessOrEqual(t, a.Drop, 0.36)
	}
}

func TestAShortWireIsDecidedByWhatItMayCarry(t *testing.T) {
	// ABYC E-11, from memory: 10 AWG carries 60 A at 105 °C, 51 A in an engine space, 36 A
	// among five conductors.
	c := Usual(50, 0.3, 12)
	for _, x := range []struct {
		engine bool
		bundle int
		awg    string
		may    float64
	}{{false, 1, "10", 60}, {true, 1, "10", 51}, {false, 5, "6", 72}, {true, 5, "6", 61.2}} {
		c.Engine, c.Bundle = x.engine, x.bundle
		a, err := c.Answer()
		require.NoError(t, err)
		assert.Equal(t, x.awg, a.AWG.Name)
		assert.InDelta(t, x.may, a.Ampacity, 1e-9)
		assert.Equal(t, ByAmpacity, a.Decided)
		assert.Equal(t, 70., a.Fuse, "1.25 × 50 = 62.5")
	}
}

func TestOtherInsulationIsNearItsColumn(t *testing.T) {
	// 10 AWG by column of E-11, from memory: 60 °C 40 A, 80 °C 50, 90 °C 55, 125 °C 70; in
	// engine spaces × 0.58, 0.78, 0.82, 0.89.
	for insulation, row := range map[float64][2]float64{60: {40, 0.58}, 80: {50, 0.78}, 90: {55, 0.82}, 125: {70, 0.89}} {
		c := Usual(10, 1, 12)
		c.Insulation = insulation
		alone := c.Factor()
		assert.InEpsilon(t, row[0], 60*alone, 0.06, insulation)
		c.Engine = true
		assert.InEpsilon(t, row[1], c.Factor()/alone, 0.01, insulation)
	}
}

func TestTheFuseLetsTheLoadRunAndProtectsTheWire(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := Usual(rapid.Float64Range(0.1, 200).Draw(t, "A"), rapid.Float64Range(0.1, 12).Draw(t, "m"),
			rapid.SampledFrom([]float64{12, 24, 36}).Draw(t, "V"))
		c.Bundle, c.Engine = rapid.IntRange(1, 30).Draw(t, "bundle"), rapid.Bool().Draw(t, "engine")
		a, err := c.Answer()
		if err != nil {
			assert.Contains(t, err.Error(), "current_a")
			return
		}
		assert.GreaterOrEqual(t, a.Fuse, 1.25*c.Amps-1e-9)
		assert.LessOrEqual(t, a.Fuse, a.FuseMost+1e-9)
		assert.GreaterOrEqual(t, a.AWG.MM2, a.Needs)
		assert.GreaterOrEqual(t, a.Metric.MM2, a.Needs)
		assert.GreaterOrEqual(t, a.Ampacity, c.Amps)
		drop, may, most := c.Has(a.AWG.MM2)
		assert.InDelta(t, a.Drop, drop, 1e-12)
		assert.InEpsilon(t, a.Ampacity, may, 1e-9)
		assert.InEpsilon(t, a.FuseMost, most, 1e-9)
	})
}

func TestAFuseThatNoThinWireStandsTakesAThickerOne(t *testing.T) {
	// 24.5 A run on: 1.25 of it is over 30, so 40; 16 AWG, which carries 25 A, stands 37.5.
	a, err := Usual(24.5, 0.2, 12).Answer()
	require.NoError(t, err)
	assert.Equal(t, "14", a.AWG.Name)
	assert.Equal(t, 40., a.Fuse)
}

func TestMetricLiesAmongItsNeighbours(t *testing.T) {
	for _, m := range Metric {
		for _, g := range AWG {
			if g.MM2 < m.MM2 {
				assert.Less(t, g.Ampacity, m.Ampacity, "%s mm² against %s AWG", m.Name, g.Name)
			} else {
				assert.Greater(t, g.Ampacity, m.Ampacity, "%s mm² against %s AWG", m.Name, g.Name)
			}
		}
	}
}

func TestWhatNoWireServesIsSaid(t *testing.T) {
	_, err := Usual(150, 60, 12).Answer()
	assert.ErrorContains(t, err, "two in parallel")
	_, err = Usual(300, 1, 12).Answer()
	assert.ErrorContains(t, err, "the largest is 250 A")
	bad := Circuit{Amps: math.NaN(), OneWay: -1, Volts: 0, Drop: 2, Conductor: 300, Insulation: 20, Bundle: 0}
	_, err = bad.Answer()
	for _, field := range []string{"current_a", "one_way_m", "system_v", "drop", "conductor_c", "insulation_c", "bundle"} {
		assert.ErrorContains(t, err, field)
	}
}

func TestWhereAFuseMustBe(t *testing.T) {
	// ABYC E-11, from memory: 7 in bare, 40 in in a sheath, 72 in straight from the battery.
	assert.InDelta(t, 7*0.0254, FuseWithin(false, true), 0.01)
	assert.InDelta(t, 40*0.0254, FuseWithin(true, false), 0.02)
	assert.InDelta(t, 72*0.0254, FuseWithin(true, true), 0.03)
}
