package power

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// season is so many evenings of a bank that holds a share of what it did when new, read
// with an error of 5 % of the volts between full and empty, morning and evening.
func season(
	r *rand.Rand,
	holds float64,
	loads []Load,
	draws [][2]float64,
	truth []float64,
	count int,
) (list []Evening) {
	span := OpenVolts(AGM, 12, 1) - OpenVolts(AGM, 12, 0)
	read := func(soc float64) (float64, float64) {
		return AtRest(AGM, 12, OpenVolts(AGM, 12, soc)+0.05*span*r.NormFloat64(), 0.05*span)
	}
	for range count {
		s := System{Banks: []Bank{Usual("motor", AGM, 12, 100)}, Loads: loads}
		for range 2 { // two phases, in which loads differ
			phase := Phase{Hours: 2 + r.Float64()}
			for i, d := range draws {
				if r.IntN(3) > 0 || i == 0 {
					phase.Draws = append(phase.Draws, Draw{Load: i, Amps: d[0] + d[1]*r.Float64(), Banks: []int{0}})
				}
			}
			s.Phases = append(s.Phases, phase)
		}
		real := s
		real.Banks = []Bank{s.Banks[0]}
		real.Banks[0].Factor *= holds
		real.Banks[0].SoC = 0.9 + 0.1*r.Float64()
		for i, by := range truth {
			real = real.scaled(i, by)
		}
		morning, sure := read(real.Banks[0].SoC)
		evening, also := read(real.Run().Banks[0].End)
		s.Banks[0].SoC = morning
		list = append(list, Evening{System: s, SoC: evening, Sigma: math.Hypot(sure, also)})
	}
	return list
}

func TestTwentyEveningsTellWhatABankHolds(t *testing.T) {
	r := rand.New(rand.NewPCG(15, 3))
	loads, draws := []Load{{ID: "motor"}}, [][2]float64{{5, 4}}
	const seeds = 400
	near, inside := 0, 0
	for range seeds {
		holds := 0.55 + 0.45*r.Float64()
		got, ok := Learn(season(r, holds, loads, draws, nil, 20), Prior{Factor: 0.85, Sigma: 0.3})
		require.True(t, ok)
		if math.Abs(got.Factor/holds-1) <= 0.08 {
			near++
		}
		if got.Within[0] <= holds && holds <= got.Within[1] {
			inside++
		}
	}
	t.Logf("%d of %d within 8 %%, %d inside their interval", near, seeds, inside)
	assert.GreaterOrEqual(t, near, seeds*95/100, "within 8 %% of the truth")
	assert.GreaterOrEqual(t, inside, seeds*90/100, "the interval is honest")
	assert.LessOrEqual(t, inside, seeds*995/1000, "and not so wide that it says nothing")
}

func TestWhatTheEveningsCantTellApartStaysAsItWas(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	loads := []Load{{ID: "motor", Sigma: 0.3}}
	got, ok := Learn(season(r, 0.7, loads, [][2]float64{{6, 3}}, []float64{1}, 30), Prior{Factor: 0.85, Sigma: 0.12})
	require.True(t, ok)
	assert.Greater(t, got.Sigma, 0.05, "one load alone: it may draw more, or the bank hold less")
	assert.InDelta(t, 1/0.7, got.Loads["motor"].By/got.Factor, 0.12, "their ratio is known")
}

func TestALoadThatDrawsMoreThanItsPlateIsFound(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	loads := []Load{{ID: "motor"}, {ID: "sonar", Sigma: 0.3}}
	got, ok := Learn(
		season(r, 0.8, loads, [][2]float64{{4, 4}, {3, 1}}, []float64{1, 1.5}, 80),
		Prior{Factor: 0.85, Sigma: 0.2},
	)
	require.True(t, ok)
	assert.InDelta(t, 1.5, got.Loads["sonar"].By, 2.5*got.Loads["sonar"].Sigma)
	assert.InDelta(t, 0.8, got.Factor, 2.5*got.Sigma)
	assert.NotContains(t, got.Loads, "motor", "what was measured is not doubted")
}

func TestTooFewEveningsSayNothing(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	_, ok := Learn(season(r, 0.8, []Load{{ID: "motor"}}, [][2]float64{{5, 5}}, nil, 2), Prior{Factor: 0.85, Sigma: 0.3})
	assert.False(t, ok)
	soc, sure := AtRest(Flooded, 12, 12.24, 0.001)
	assert.InDelta(t, 0.5, soc, 1e-9)
	assert.InDelta(t, leastReading, sure, 1e-12)
}
