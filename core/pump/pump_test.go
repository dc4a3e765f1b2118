package pump

import (
	"math"
	"testing"

	"ergasia/core/check"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestAPumpGivesLessThroughItsHose(t *testing.T) {
	p := Pump{Open: 2000, Shut: 3}
	assert.InDelta(t, 2000, p.Flow(), 1e-9, "against nothing it gives its open flow")
	p.Lift = 3 * 0.75
	assert.InDelta(t, 1000, p.Flow(), 1e-9, "against three quarters of its head half: H = H0 (1 - (Q/Q0)²)")
	p.Lift = 3
	assert.Zero(t, p.Flow())
	// By hand: 19 mm, 2 m, two bends: 0.03 × 2/0.019 + 1.8 = 4.958 heads of velocity; at
	// 1,419 l/h v = 1.390 m/s and the hose takes 0.489 m, with 1 m of lift 1.489 m; the pump
	// gives 3 (1 - 0.7095²) = 1.490 m.
	p = Pump{Open: 2000, Shut: 3, Lift: 1, Hose: 2, Bore: 0.019, Bends: 2}
	q := p.Flow()
	v := q / 1000 / 3600 / (math.Pi / 4 * 0.019 * 0.019)
	head := 1 + (0.03*2/0.019+1.8)*v*v/2/9.80665
	assert.InDelta(t, 3*(1-math.Pow(q/2000, 2)), head, 1e-9, "its curve and the hose's meet")
	assert.InDelta(t, 1419, q, 1)
}

func TestALongerNarrowerHigherHoseNeverGivesMore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := Pump{Open: rapid.Float64Range(100, 8000).Draw(t, "open"), Shut: rapid.Float64Range(1, 6).Draw(t, "shut"),
			Lift: rapid.Float64Range(0, 3).Draw(t, "lift"), Hose: rapid.Float64Range(0, 8).Draw(t, "hose"),
			Bore: rapid.Float64Range(0.012, 0.05).Draw(t, "bore"), Bends: rapid.IntRange(0, 6).Draw(t, "bends")}
		q := p.Flow()
		assert.LessOrEqual(t, q, p.Open+1e-9)
		for _, worse := range []func(*Pump){func(p *Pump) { p.Lift += 0.3 }, func(p *Pump) { p.Hose += 1 },
			func(p *Pump) { p.Bore *= 0.9 }, func(p *Pump) { p.Bends++ }} {
			other := p
			worse(&other)
			assert.LessOrEqual(t, other.Flow(), q+1e-9)
		}
	})
}

func TestAHoleAndThePumpThatKeepsUpWithIt(t *testing.T) {
	// A hole of 20 mm, 0.3 m under: 0.61 × 3.1416e-4 × 2.4256 = 4.648e-4 m³/s, 1,673 l/h.
	assert.InDelta(t, 1673, Leak(0.02, 0.3), 1)
	assert.InDelta(t, 0.02, HoleFor(Leak(0.02, 0.3), 0.3), 1e-12)
	assert.True(t, math.IsInf(HoleFor(100, 0), 1))
	assert.Zero(t, Leak(0.02, -1))
}

func TestATankDrainsAsTorricelliHasIt(t *testing.T) {
	// Twice what it would take at the full head all along.
	full := 100 / Leak(0.03, 0.4)
	assert.InDelta(t, 2*full, Drains(100, 0.4, 0.03), 1e-9)
	assert.True(t, math.IsInf(Drains(100, 0.4, 0), 1))
}

func TestAScoopGoesWithSpeedOnceItLifts(t *testing.T) {
	assert.Zero(t, Scoop(0.025, 2, 0.3), "2 m/s lift 0.2 m")
	assert.InDelta(t, 0.5*math.Pi/4*0.025*0.025*10*3.6e6, Scoop(0.025, 10, 0), 1e-6)
	assert.Greater(t, Scoop(0.025, 10, 0.3), 0.95*Scoop(0.025, 10, 0))
}

func TestOxygenIsNearTheTable(t *testing.T) {
	// Standard Methods, dissolved oxygen in fresh water at sea level, mg/l. Memory.
	for celsius, mg := range map[float64]float64{0: 14.62, 5: 12.77, 10: 11.29, 15: 10.08, 20: 9.09, 25: 8.26, 30: 7.56} {
		assert.InEpsilon(t, mg, Oxygen(celsius), 0.02, celsius)
	}
}

func TestAWellKeepsTheLesserOfTwoSchools(t *testing.T) {
	w := Well{Litres: 120, Flow: 600, Celsius: 10}
	assert.InDelta(t, 15, w.ByVolume(), 1e-9, "8 l a kilogram in cool water")
	assert.InDelta(t, 5, w.Turnover(), 1e-9)
	assert.InDelta(t, 600*(Oxygen(10)-5)/150, w.ByOxygen(), 1e-9)
	assert.InDelta(t, 15, w.Keeps(), 1e-9)
	w.Celsius = 25
	assert.InDelta(t, 7.5, w.ByVolume(), 1e-9)
	assert.Less(t, w.ByOxygen(), w.ByVolume(), "warm, the flow decides")
	assert.Zero(t, Well{}.Turnover())
}

func TestAPumpThatCantBeIsNamed(t *testing.T) {
	var fs check.Faults
	Pump{Open: -1, Shut: 0, Lift: 99, Hose: math.NaN(), Bore: 1, Bends: -1}.Check(&fs, "pump.")
	for _, field := range []string{"pump.open_l_h", "pump.shut_m", "pump.lift_m", "pump.hose_m", "pump.bore_m", "pump.bends"} {
		assert.Contains(t, fs.Error(), field)
	}
}
