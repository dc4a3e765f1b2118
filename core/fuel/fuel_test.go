package fuel

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

const kmh = 1 / 3.6

// day is a table of 10 l/h at 10 km/h and 30 l/h at 40 km/h, and a tank of 60 litres half full.
func day(legs ...Leg) Day {
	return Day{Legs: legs, Rates: []Rate{{Speed: 40 * kmh, Flow: 30}, {Speed: 10 * kmh, Flow: 10}},
		Tanks:  []Tank{{ID: "main", Capacity: 60, Now: 30, Unusable: 2}, {ID: "can", Capacity: 20, Portable: true}},
		School: Thirds, AirGap: AirGap}
}

// By hand: 50 km at 25 km/h are two hours at 20 l/h.
func TestADayByHand(t *testing.T) {
	d := day(Leg{Distance: 50_000, Speed: 25 * kmh})
	require.NoError(t, d.Check())
	a := Plan(d)
	assert.InDelta(t, 40, a.Burn, 1e-9)
	assert.InDelta(t, 20, a.Reserve, 1e-9, "half of the burn is a third of all")
	assert.InDelta(t, 62, a.Need, 1e-9)
	assert.True(t, a.Fits, "57 and 19 litres")
	assert.Equal(t, []Fill{{Tank: "main", Add: 27}, {Tank: "can", Add: 5}}, rounded(a.Fill))
	assert.InDelta(t, (57+19-2-20)/0.8*1000, a.Range, 1e-6, "at 0.8 litres a kilometre")
	assert.InDelta(t, 25_000, a.Return, 1e-6, "with what is needed aboard, half of the way")

	d.School, d.FixedL, d.PerLitre = Fixed, 15, 2
	a = Plan(d)
	assert.InDelta(t, 57, a.Need, 1e-9)
	assert.InDelta(t, 54, a.Cost, 1e-9)
	d.School, d.Percent = Percent, 30
	assert.InDelta(t, 12, Plan(d).Reserve, 1e-9)
	d.School = Full
	a = Plan(d)
	assert.InDelta(t, 34, a.Reserve, 1e-9)
	assert.Equal(t, []Fill{{Tank: "main", Add: 27}, {Tank: "can", Add: 19}}, rounded(a.Fill))

	d.School, d.FixedL = Fixed, 60
	a = Plan(d)
	assert.False(t, a.Fits)
	assert.InDelta(t, 102-57-19, a.Short, 1e-9)
}

func rounded(list []Fill) []Fill {
	for i := range list {
		list[i].Add = float64(int(list[i].Add*1e6+0.5)) / 1e6
	}
	return list
}

func TestASpeedOutsideTheTableIsAFault(t *testing.T) {
	for _, speed := range []float64{9, 41, 0, -5} {
		assert.ErrorContains(t, day(Leg{Distance: 1, Speed: speed * kmh}).Check(), "legs[0].speed")
	}
	assert.ErrorContains(t, Day{School: "hope"}.Check(), "school")
	d := day(Leg{Distance: 1, Speed: 20 * kmh})
	d.Rates = append(d.Rates, d.Rates[0])
	assert.ErrorContains(t, d.Check(), "twice")
	d.Tanks[0].Now = 61
	assert.ErrorContains(t, d.Check(), "tanks[0].now")
}

// Fuel closes: what was in the tanks and what is added is burn, reserve and rests, or
// short by what is said; no tank goes over its gap, and what is portable is filled last.
func TestFuelCloses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := func(low, high float64, name string) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		d := Day{School: rapid.SampledFrom(Schools).Draw(t, "school"), FixedL: f(0, 40, "fixed"), Percent: f(0, 60, "percent"),
			AirGap: f(0, 0.1, "gap"), Rates: []Rate{{Speed: 2, Flow: f(1, 9, "slow")}, {Speed: 15, Flow: f(9, 60, "fast")}}}
		for range rapid.IntRange(1, 4).Draw(t, "legs") {
			d.Legs = append(d.Legs, Leg{Distance: f(0, 40_000, "way"), Speed: f(2, 15, "speed"), Factor: f(0.5, 2, "factor")})
		}
		for range rapid.IntRange(1, 4).Draw(t, "tanks") {
			tank := Tank{Capacity: f(1, 80, "capacity"), Portable: rapid.Bool().Draw(t, "portable")}
			tank.Now, tank.Unusable = f(0, tank.Capacity, "now"), f(0, tank.Capacity/10, "unusable")
			d.Tanks = append(d.Tanks, tank)
		}
		require.NoError(t, d.Check())
		a := Plan(d)
		now, unusable, full, legs := 0.0, 0.0, 0.0, 0.0
		for _, tank := range d.Tanks {
			now, unusable = now+tank.Now, unusable+tank.Unusable
			full += max(tank.Now, tank.Capacity*(1-d.AirGap))
		}
		for i, l := range d.Legs { // in small steps of time, apart from the closed form
			hours := l.Distance / l.Speed / 3600
			litres := 0.0
			for range 100 {
				flow := d.Rates[0].Flow + (d.Rates[1].Flow-d.Rates[0].Flow)*(l.Speed-2)/13
				litres += flow * l.Factor * hours / 100
			}
			legs += litres
			assert.InDelta(t, litres, a.PerLeg[i], 1e-9*max(1, litres))
		}
		assert.InEpsilon(t, legs+1, a.Burn+1, 1e-9)
		total := now + a.added() + a.Short
		assert.InDelta(t, max(now, a.Need), total, 1e-6)
		assert.Equal(t, a.Fits, a.Short < 1e-6)
		assert.LessOrEqual(t, now+a.added(), full+1e-6)
		if a.Return > 0 { // there and back to it takes no more than there is
			back := d
			back.School, back.FixedL = Fixed, a.Reserve
			assert.GreaterOrEqual(t, max(now, min(full, a.Need))-unusable-a.Reserve+1e-6, 2*along(d, a.Return))
		}
	})
}

// along is what the first metres of the legs take.
func along(d Day, metres float64) (litres float64) {
	for _, l := range d.Legs {
		part := min(metres, l.Distance)
		litres += part * perMetre(d.Rates, l)
		metres -= part
	}
	return litres
}

// A year of trips with a tenth of noise gives the true rate back: within 5 % nearly
// always, and within the interval that it names in 93 to 97 of a hundred years.
func TestARateIsLearnedWithAnHonestError(t *testing.T) {
	const years = 2000
	near, covered := 0, 0
	for year := range uint64(years) {
		r := rand.New(rand.NewPCG(year, 4))
		truth := 0.7 + r.Float64()
		var trips []Trip
		for range 20 {
			litres := 10 + 60*r.Float64()
			trips = append(trips, Trip{Expected: litres, Filled: truth * litres * (1 + 0.1*r.NormFloat64())})
		}
		l, ok := Learn(trips)
		require.True(t, ok)
		if l.Factor > 0.95*truth && l.Factor < 1.05*truth {
			near++
		}
		if l.Within[0] <= truth && truth <= l.Within[1] {
			covered++
		}
	}
	assert.Greater(t, float64(near), 0.95*years)
	assert.InDelta(t, 0.95, float64(covered)/years, 0.02)
	_, ok := Learn([]Trip{{Expected: 10, Filled: 11}, {Expected: 10, Filled: 9}, {Filled: 5}})
	assert.False(t, ok)
}
