package day

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"ergasia/core/float"
	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

func boat(t testing.TB) *float.Boat {
	vee, _ := hull.FormNamed("vee")
	b, err := float.NewCraft(
		vee.Hull(hull.Tape{"length_m": 5.4, "beam_m": 2.12, "transom_beam_m": 1.96, "chine_beam_m": 1.72,
			"transom_deadrise_deg": 12, "amidships_deadrise_deg": 15, "depth_aft_m": 0.72, "depth_amidships_m": 0.76,
			"depth_forward_m": 1.0, "forefoot_m": 1.9, "notch_m": 0.55, "rake_deg": 0}),
	)
	require.NoError(t, err)
	return b
}

func load(pieces int) float.Load {
	l := float.Load{WaterDensity: float.SeaWater, Masses: []float.Mass{
		{Name: "hull", Kg: 390, At: r3.Vec{X: 2.3, Z: 0.4}}, {Name: "motor", Kg: 118, At: r3.Vec{X: -0.15, Z: 0.7}}},
		Tanks: []float.Tank{
			{
				Name:    "fuel",
				Size:    r3.Vec{X: 0.8, Y: 0.6, Z: 0.125},
				Corner:  r3.Vec{X: 1.2, Y: -0.3, Z: 0.1},
				Fill:    0.8,
				Density: float.Petrol,
			},
			{
				Name:    "livewell",
				Size:    r3.Vec{X: 0.5, Y: 0.5, Z: 0.4},
				Corner:  r3.Vec{X: 0.3, Y: -0.25, Z: 0.35},
				Density: float.SeaWater,
			}}}
	for i := range pieces {
		l.Masses = append(
			l.Masses,
			float.Mass{Kg: 2, At: r3.Vec{X: 0.3 + 0.045*float64(i), Y: 0.4 - 0.009*float64(i), Z: 0.4}},
		)
	}
	return l
}

func at(x, y float64) float.Mass {
	return float.Mass{Name: "somebody", Kg: 85, At: r3.Vec{X: x, Y: y, Z: 1.2}}
}

// codDay is a day as the demo's cod run: out, fish in three places, home.
func codDay(t testing.TB, phases, pieces, people int) Day {
	d := Day{Boat: boat(t), Start: load(pieces), Fuel: []int{0},
		Coolers: []Cooler{{Name: "cooler", At: r3.Vec{X: 0.6, Y: 0.4, Z: 0.5}, Ice: 10, UA: 1, Air: 15}},
		Plate:   Plate{Base: 2 * float64(pieces), People: true, Catch: true, Tanks: []bool{true}}}
	for i := range phases {
		p := Phase{Name: fmt.Sprint("phase ", i), Hours: 0.75, Flow: float64(6 * (i % 2))}
		for k := range people {
			p.People = append(p.People, at(0.6+float64((i+k)%4), 0.35*float64(1-2*(k%2))))
		}
		if i%3 == 1 {
			p.Catch = []Catch{{Kg: 6, At: r3.Vec{X: 0.6, Y: 0.4, Z: 0.5}, Cooler: 0, Temp: 12}}
			p.Pours = []Pour{{Tank: 1, Fill: 0.9, AtOnce: i > 4}}
		}
		d.Phases = append(d.Phases, p)
	}
	require.NoError(t, d.Check())
	return d
}

func TestFuelClosesAndWhatIsMissingIsSaid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := Day{Start: load(0), Fuel: []int{0}}
		d.Start.Tanks[0].Fill = rapid.Float64Range(0, 1).Draw(t, "fill")
		burnt := 0.0
		for i := range rapid.IntRange(1, 12).Draw(t, "phases") {
			p := Phase{
				Hours:  rapid.Float64Range(0, 3).Draw(t, "h"),
				Flow:   rapid.Float64Range(0, 20).Draw(t, "flow"),
				Ashore: i%2 == 0,
			}
			d.Phases, burnt = append(d.Phases, p), burnt+p.Hours*p.Flow
		}
		moments := d.loads(0.25)
		last := moments[len(moments)-1]
		had := d.Start.Tanks[0].Volume() * 1000 * d.Start.Tanks[0].Fill
		assert.InDelta(t, had-burnt, last.Fuel-last.Short, 1e-6)
		assert.InDelta(
			t,
			last.Fuel,
			last.Load.Tanks[0].Volume()*1000*last.Load.Tanks[0].Fill,
			1e-6,
			"what burns is no longer in her",
		)
	})
}

func TestSeveralTanksBurnInOrder(t *testing.T) {
	d := Day{Start: load(0), Fuel: []int{1, 0}, Phases: []Phase{{Hours: 1, Flow: 30}}}
	d.Start.Tanks[1].Fill = 0.2 // 20 L
	m := d.loads(0)
	assert.Zero(t, m[1].Load.Tanks[1].Fill)
	assert.InDelta(t, 0.8-10.0/60, m[1].Load.Tanks[0].Fill, 1e-9)
}

// What a phase does it does evenly: two halves of it are the same as the whole.
func TestAPhaseInTwoIsTheSameDay(t *testing.T) {
	whole := codDay(t, 3, 5, 2)
	halves := whole
	halves.Phases = nil
	for _, p := range whole.Phases {
		first, second := p, p
		first.Hours, second.Hours = p.Hours/2, p.Hours/2
		first.Catch, second.Catch, first.Pours = nil, nil, nil
		for _, c := range p.Catch {
			c.Kg /= 2
			first.Catch, second.Catch = append(first.Catch, c), append(second.Catch, c)
		}
		for _, pour := range p.Pours {
			pour.Fill /= 2
			first.Pours = append(first.Pours, pour)
		}
		halves.Phases = append(halves.Phases, first, second)
	}
	a, b := whole.Moments(0, nil), halves.Moments(0, nil)
	require.Len(t, b, 2*len(a))
	one, two := a[len(a)-1], b[len(b)-1]
	assert.InDelta(t, one.Fuel, two.Fuel, 1e-9)
	assert.InDelta(t, one.Ice[0], two.Ice[0], 1e-9)
	assert.InDelta(t, one.Catch, two.Catch, 1e-9)
	assert.InDelta(t, one.Result.Figures.Lowest.M, two.Result.Figures.Lowest.M, 1e-6)
}

func TestAMomentIsFloatedAsItsLoadAlone(t *testing.T) {
	d := codDay(t, 6, 20, 3)
	for _, m := range d.Moments(0.25, nil) {
		alone := d.Boat.Solve(m.Load, nil).Figures
		assert.InDelta(t, alone.Lowest.M, m.Result.Figures.Lowest.M, 1e-5)
		assert.InDelta(t, alone.TrimDeg, m.Result.Figures.TrimDeg, 1e-4)
	}
}

// By hand: 1 W/K at 15 °C melts 0.162 kg an hour; 6 kg of fish from 12 °C take 0.722 kg.
func TestIceMeltsByTheWallsAndTheCatch(t *testing.T) {
	d := codDay(t, 2, 0, 0)
	m := d.loads(0)
	last := m[len(m)-1]
	assert.InDelta(t, 10-1.5*0.1617-0.7222, last.Ice[0], 1e-3)
	stays := last.Load.Total().Kg
	d.Coolers[0].Drains = true
	m = d.loads(0)
	assert.InDelta(t, stays-(10-last.Ice[0]), m[len(m)-1].Load.Total().Kg, 1e-9, "melt water runs out")
}

func TestThePlateCountsWhatItSays(t *testing.T) {
	d := codDay(t, 2, 10, 2)
	m := d.loads(0)
	fuel := 60 * 0.8 * 0.74
	assert.InDelta(t, 20+2*85+fuel, m[0].Plate, 1e-6)
	burnt := 6 * 0.75 * 0.74
	assert.InDelta(t, 20+2*85+fuel-burnt+6, m[len(m)-1].Plate, 1e-6)
}

func TestTheRoadFloatsNobody(t *testing.T) {
	d := codDay(t, 2, 0, 1)
	d.Phases[0].Ashore = true
	m := d.Moments(0.25, nil)
	assert.Nil(t, m[0].Result.Figures)
	assert.NotNil(t, m[len(m)-1].Result.Figures)
	assert.NoError(t, d.Check())
}

func TestADayThatIsNoneIsRefused(t *testing.T) {
	d := codDay(t, 3, 0, 1)
	d.Phases[1].Hours, d.Phases[2].Flow = math.NaN(), -1
	d.Phases[0].Catch = []Catch{{Kg: 3, Cooler: 7}}
	err := d.Check()
	for _, field := range []string{"phases[1].h", "phases[2].flow_l_per_h", "phases[0].catch[0].cooler"} {
		assert.ErrorContains(t, err, field)
	}
	assert.Error(t, Day{Start: load(0)}.Check())
}

var held3 = Limits{Freeboard: 0.25, Heel: 2, TrimLow: -0.5, TrimHigh: 2, PlateKg: 600, Reserve: 15}

func TestTheWorstMomentIsTheWorst(t *testing.T) {
	d := codDay(t, 8, 20, 4)
	moments := d.Moments(0.25, nil)
	low, _ := Find(held3.Read(d, moments), Freeboard)
	for _, m := range moments {
		assert.GreaterOrEqual(t, m.Result.Figures.Lowest.M, low.Value)
	}
	assert.Equal(t, low.Value, moments[low.Moment].Result.Figures.Lowest.M)
	fuel, _ := Find(held3.Read(d, moments), Fuel)
	assert.Equal(t, len(moments)-1, fuel.Moment, "fuel is least at the end")
}

func TestABoatThatSinksIsSaidToSink(t *testing.T) {
	d := codDay(t, 1, 0, 0)
	d.Phases[0].People = []float.Mass{{Kg: 9000, At: r3.Vec{X: 2, Z: 1}}}
	list := held3.Read(d, d.Moments(0, nil))
	r, ok := Find(list, Swamps)
	assert.True(t, ok)
	assert.False(t, r.Kept())
	assert.Greater(t, Cost(list), 1000.0)
}

// trials are changes drawn by chance: somebody elsewhere in a phase, or a tank's level.
func trials(d Day, n int) (list []Change) {
	chance := rand.New(rand.NewPCG(1, 2))
	for range n {
		i, x, y := chance.IntN(len(d.Phases)), 0.3+4*chance.Float64(), 1.2*chance.Float64()-0.6
		list = append(list, func(d Day) Day {
			d.Phases = append([]Phase(nil), d.Phases...)
			people := append([]float.Mass(nil), d.Phases[i].People...)
			people[0].At.X, people[0].At.Y = x, y
			d.Phases[i].People = people
			return d
		})
	}
	return list
}

// Giving up early loses nothing: what is found is what carrying every change through the
// whole day finds.
func TestTryingFindsWhatTryingEverythingFinds(t *testing.T) {
	d := codDay(t, 6, 20, 3)
	changes := trials(d, 60)
	found := held3.Try(d, changes, nil)
	require.NotEmpty(t, found)
	was := Cost(held3.Read(d, d.Moments(0, nil)))
	better, best := 0, math.Inf(1)
	for _, c := range changes {
		other := c(d)
		cost := Cost(held3.Read(other, other.Moments(0, nil)))
		if cost <= was-least {
			better, best = better+1, math.Min(best, cost)
		}
	}
	assert.Len(t, found, better)
	assert.InDelta(t, best, found[0].Cost, 1e-3)
	assert.Empty(t, Limits{Freeboard: 0, Heel: 90, TrimLow: -90, TrimHigh: 90}.Try(d, changes, nil), "nothing to better")
	assert.Empty(t, held3.Try(d, changes, func() bool { return true }), "a stop ends it")
}

// A day of 12 phases, 90 pieces, four people. The issue of it is under 50 ms.
func BenchmarkDay(b *testing.B) {
	d := codDay(b, 12, 90, 4)
	for b.Loop() {
		held3.Read(d, d.Moments(0.25, nil))
	}
}

// One equilibrium of the same, the reference that BenchmarkDay is read against.
func BenchmarkOneMoment(b *testing.B) {
	d := codDay(b, 12, 90, 4)
	l := d.loads(0)[5].Load
	for b.Loop() {
		d.Boat.Solve(l, nil)
	}
}

// Three hundred single changes. The issue of it is under 1 s.
func BenchmarkRemedies(b *testing.B) {
	d := codDay(b, 10, 90, 4)
	changes := trials(d, 300)
	n := 0
	for b.Loop() {
		n = len(held3.Try(d, changes, nil))
	}
	b.ReportMetric(float64(n), "help")
}
