package power

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// one is a bank with one load through one phase.
func one(b Bank, amps, hours float64) System {
	return System{Banks: []Bank{b}, Loads: []Load{{ID: "load"}},
		Phases: []Phase{{Name: "day", Hours: hours, Draws: []Draw{{Amps: amps, Banks: []int{0}}}}}}
}

func TestWithoutPeukertItIsAmpereHours(t *testing.T) {
	b := Usual("house", AGM, 12, 100)
	b.Peukert = 1
	r := one(b, 7.3, 5.1).Run()
	assert.InDelta(t, 1-7.3*5.1/100, r.Banks[0].End, 1e-9)
	assert.InDelta(t, 7.3*5.1, r.Banks[0].Drawn, 1e-9)
	assert.InDelta(t, 0, r.Banks[0].Lost, 1e-9)
	assert.True(t, math.IsNaN(r.Banks[0].EmptyAt))
}

func TestTheRatedCurrentTakesTheRatedHours(t *testing.T) {
	for _, c := range Chemistries {
		b := Usual("x", c, 12, 90)
		r := one(b, 90./20, 25).Run()
		assert.InDelta(t, 20, r.Banks[0].FlatAt, 1e-9, c)
		assert.InDelta(t, 20*b.Usable, r.Banks[0].EmptyAt, 1e-9, c)
		assert.InDelta(t, 90, r.Banks[0].Drawn, 1e-9)
		assert.InDelta(t, 90./20*5, r.Banks[0].Short, 1e-9)
		assert.Zero(t, r.Banks[0].End)
	}
}

func TestPeukertAsWorkedByHand(t *testing.T) {
	// 100 Ah at 20 h, k 1.2, 25 A: 25/100 × (25 × 20/100)^0.2 = 0.25 × 1.37973 = 0.344932 an
	// hour, so flat after 2.89912 h, as t = H (C/(I H))^k = 20 × 0.2^1.2 has it.
	r := one(Usual("motor", Flooded, 12, 100), 25, 4).Run()
	assert.InDelta(t, 20*math.Pow(0.2, 1.2), r.Banks[0].FlatAt, 1e-9)
	assert.InDelta(t, 2.8991, r.Banks[0].FlatAt, 1e-4)
}

func TestTwoHalfCurrentsEqualOne(t *testing.T) {
	a, b := Usual("1", Gel, 12, 80), Usual("2", Gel, 12, 80)
	both := System{Banks: []Bank{a, b}, Loads: []Load{{ID: "load"}},
		Phases: []Phase{{Hours: 3, Draws: []Draw{{Amps: 16, Banks: []int{0, 1}}}}}}
	alone := one(a, 8, 3).Run().Banks[0].End
	for _, bank := range both.Run().Banks {
		assert.InDelta(t, alone, bank.End, 1e-12)
	}
	double := Usual("double", Gel, 12, 160)
	assert.InDelta(t, alone, one(double, 16, 3).Run().Banks[0].End, 1e-12)
}

func TestTheOtherBankCarriesOnWhereOneIsFlat(t *testing.T) {
	a, b := Usual("1", AGM, 12, 50), Usual("2", AGM, 12, 50)
	a.Peukert, b.Peukert, a.SoC = 1, 1, 0.2
	s := System{Banks: []Bank{a, b}, Loads: []Load{{ID: "load"}},
		Phases: []Phase{{Hours: 3, Draws: []Draw{{Amps: 20, Banks: []int{0, 1}}}}}}
	r := s.Run()
	// 10 A each until the first is flat after 1 h; 20 A from the second for 2 h.
	assert.InDelta(t, 1, r.Banks[0].EmptyAt+1, 1e-9, "it had less than should stay from the start")
	assert.Zero(t, r.Banks[0].End)
	assert.InDelta(t, 1-(10+40)/50., r.Banks[1].End, 1e-9)
	assert.InDelta(t, 60, r.Banks[0].Drawn+r.Banks[1].Drawn, 1e-9)
	assert.InDelta(t, 0.8, r.At(1)[1], 1e-9)
	assert.InDelta(t, 0.4, r.At(2)[1], 1e-9)
}

func TestACurrentThatIsNoneIsNone(t *testing.T) {
	b := Usual("x", LiFePO4, 12, 100)
	b.SoC = 0
	r := one(b, 1e-320, 3).Run()
	assert.Zero(t, r.Banks[0].Drawn)
	assert.Zero(t, r.Banks[0].Short)
}

// fine carries a system through its day by small steps (Euler's method, second order by
// the middle), for comparing.
func fine(s System, steps int) []float64 {
	soc := make([]float64, len(s.Banks))
	for i, b := range s.Banks {
		soc[i] = b.SoC
	}
	slope := func(b Bank, soc, net float64) float64 {
		c := b.Ah * b.Factor
		switch {
		case net > 0 && soc > 0:
			return -net / c * math.Pow(net*b.RatedH/c, b.Peukert-1)
		case net < 0 && b.Taper && b.Chemistry.Lead() && soc > 0.8:
			return b.Efficiency * -net / c * (1 - soc) / 0.2
		case net < 0 && soc < 1:
			return b.Efficiency * -net / c
		}
		return 0
	}
	for _, p := range s.Phases {
		net := make([]float64, len(s.Banks))
		for _, d := range p.Draws {
			net[d.Banks[0]] += d.Amps
		}
		for i, a := range p.Charge {
			net[i] -= a
		}
		dt := p.Hours / float64(steps)
		for range steps {
			for i, b := range s.Banks {
				middle := min(1-1e-15, max(1e-15, soc[i]+slope(b, soc[i], net[i])*dt/2))
				soc[i] = min(1, max(0, soc[i]+slope(b, middle, net[i])*dt))
			}
		}
	}
	return soc
}

func randomDay(t *rapid.T) System {
	var s System
	for range rapid.IntRange(1, 4).Draw(t, "banks") {
		b := Usual(
			"",
			rapid.SampledFrom(Chemistries).Draw(t, "chemistry"),
			12,
			rapid.Float64Range(20, 200).Draw(t, "Ah"),
		)
		b.SoC, b.Factor = rapid.Float64Range(0.3, 1).Draw(t, "soc"), rapid.Float64Range(0.5, 1).Draw(t, "factor")
		b.Taper = rapid.Bool().Draw(t, "taper")
		s.Banks = append(s.Banks, b)
	}
	for range rapid.IntRange(1, 8).Draw(t, "loads") {
		s.Loads = append(s.Loads, Load{})
	}
	for range rapid.IntRange(1, 6).Draw(t, "phases") {
		p := Phase{Hours: rapid.Float64Range(0, 4).Draw(t, "h"), Charge: make([]float64, len(s.Banks))}
		for i := range s.Loads {
			if rapid.Bool().Draw(t, "on") {
				p.Draws = append(p.Draws, Draw{Load: i, Amps: rapid.Float64Range(0, 12).Draw(t, "A"),
					Banks: []int{i % len(s.Banks)}})
			}
		}
		for i := range p.Charge {
			if rapid.IntRange(0, 2).Draw(t, "charges") == 0 {
				p.Charge[i] = rapid.Float64Range(0, 30).Draw(t, "in")
			}
		}
		s.Phases = append(s.Phases, p)
	}
	return s
}

func TestTheClosedFormIsWhatFineStepsComeTo(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := randomDay(t)
		steps := fine(s, 20000)
		for i, b := range s.Run().Banks {
			assert.InDelta(t, steps[i], b.End, 1e-6, "bank %d", i)
		}
	})
}

func TestADayClosesInWhatWentInAndOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := randomDay(t)
		r := s.Run()
		for i, b := range r.Banks {
			bank := s.Banks[i]
			left := bank.SoC*bank.holds() - b.Drawn - b.Lost + bank.Efficiency*b.Charged
			assert.InDelta(t, b.End*bank.holds(), left, bank.holds()*1e-3, "bank %d", i)
		}
		asked := 0.0
		for _, p := range s.Phases {
			net := s.net(p, []float64{1, 1, 1, 1}[:len(s.Banks)])
			for _, amps := range net {
				asked += max(0, amps) * p.Hours
			}
		}
		met := 0.0
		for _, b := range r.Banks {
			met += b.Drawn + b.Short
		}
		assert.InEpsilon(t, 1+asked, 1+met, 1e-9, "what was drawn and what was missing is what was asked")
	})
}

func TestLeadTakesLessAndLessOverFourFifths(t *testing.T) {
	b := Usual("x", AGM, 12, 100)
	b.SoC, b.Taper = 0.7, true
	s := System{Banks: []Bank{b}, Phases: []Phase{{Hours: 2, Charge: []float64{20}}}}
	// 0.17 an hour: 0.8 after 0.588 h, then what is missing shrinks with exp(-0.85 t).
	assert.InDelta(t, 1-0.2*math.Exp(-0.85*(2-0.1/0.17)), s.Run().Banks[0].End, 1e-12)
	s.Banks[0].Taper = false
	assert.InDelta(t, 1, s.Run().Banks[0].End, 1e-12)
	assert.InDelta(t, 30/0.85, s.Run().Banks[0].Charged, 1e-9, "it takes no more than it holds")
}

func TestBandsAreWhatManyRandomDaysSpreadBy(t *testing.T) {
	b := Usual("motor", AGM, 24, 100)
	b.Sigma = 0.1
	s := System{Banks: []Bank{b}, Loads: []Load{{ID: "motor", Sigma: 0.2}, {ID: "sonar", Sigma: 0.3}},
		Phases: []Phase{
			{Hours: 3, Draws: []Draw{{Load: 0, Amps: 9, Banks: []int{0}}, {Load: 1, Amps: 2, Banks: []int{0}}}},
		}}
	band := s.Bands([]float64{3})[0][0]
	// To first order, with what is drawn q and k: each draw by σ k its share, what it holds by σ k.
	q := 1 - s.Run().Banks[0].End
	want := q * b.Peukert * math.Sqrt(math.Pow(0.2*9/11, 2)+math.Pow(0.3*2/11, 2)+0.1*0.1)
	assert.InEpsilon(t, want, band, 0.06)
}

func TestOlderAndColderHoldsLess(t *testing.T) {
	assert.InDelta(t, 1, Factor(AGM, 0, 25), 1e-12)
	assert.InDelta(t, 1-0.008*20, Factor(AGM, 0, 5), 1e-12, "0.8 % a kelvin")
	assert.InDelta(t, 0.75, Factor(Flooded, 5, 30), 1e-12)
	assert.InDelta(t, 1, Factor(LiFePO4, 0, 12), 1e-12)
	assert.Equal(t, leastFactor, Factor(Flooded, 40, -30))
}

func TestVoltsAtRestGoThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.SampledFrom(Chemistries).Draw(t, "chemistry")
		soc := rapid.Float64Range(0, 1).Draw(t, "soc")
		back, _ := SoCOf(c, 24, OpenVolts(c, 24, soc))
		assert.InDelta(t, soc, back, 1e-9)
	})
	_, perTenth := SoCOf(Flooded, 12, 12.3)
	assert.InDelta(t, 0.25/0.21/10, perTenth, 1e-9)
}

func TestAStarterBatteryIsHeldToItsVoltsAndWhatShouldStay(t *testing.T) {
	// At its cold-cranking amperes a full new one holds about 7.2 V at -18 °C (SAE J537, memory).
	s := Start{Chemistry: Flooded, Volts: 12, SoC: 1, Left: 0.5, CCA: 600, Factor: 1, Celsius: -18, Amps: 600}
	assert.InDelta(t, 7.2, s.Cranking(), 0.1)
	s.Amps = 150
	ok, _ := s.Starts()
	assert.True(t, ok)
	assert.InDelta(t, 0.009, s.Resistance(), 1e-12, "5.4 V over 600 A")
	s.SoC = 0.3
	ok, why := s.Starts()
	assert.False(t, ok)
	assert.Equal(t, "30 % left, and 50 % should stay in it", why)
	s.SoC, s.Factor, s.Amps = 0.6, 0.4, 150
	ok, why = s.Starts()
	assert.False(t, ok)
	assert.Contains(t, why, "V while it cranks, and it takes 9.6 V")
	s.Celsius = 20
	assert.Less(t, s.Resistance(), 0.015, "warmer is easier")
	assert.ErrorContains(t, Start{}.Check(), "cca_a")
}

func TestAMotorAtHalfItsSettingDrawsAThird(t *testing.T) {
	assert.InDelta(t, 50*math.Pow(0.5, 1.5), MotorAmps(50, 0.5), 1e-12)
	assert.InDelta(t, 50, MotorAmps(50, 1.4), 1e-12)
	assert.Zero(t, MotorAmps(50, -1))
	assert.InDelta(t, 121.6, StarterAmps(44), 1e-9)
}

func TestBadInputNamesItself(t *testing.T) {
	s := one(Usual("", "zinc", -12, 0), math.NaN(), math.Inf(1))
	s.Banks[0].Peukert, s.Banks[0].SoC = 0.5, 2
	s.Phases[0].Draws = append(s.Phases[0].Draws, Draw{Load: 9}, Draw{Banks: []int{5}})
	s.Phases[0].Charge = []float64{-1}
	err := s.Check()
	for _, field := range []string{"banks[0].id", "banks[0].chemistry", "banks[0].nominal_v", "banks[0].capacity_ah",
		"banks[0].peukert", "banks[0].soc", "phases[0].h", "phases[0].on[0]", "phases[0].on[1]", "phases[0].on[2]",
		"phases[0].charge_a[0]"} {
		assert.ErrorContains(t, err, field)
	}
	assert.ErrorContains(t, System{}.Check(), "banks is 0: must be 1 to 20")
	require.NoError(t, one(Usual("a", AGM, 12, 1), 1, 1).Check())
}

// fullDay is 12 phases with 40 loads on four banks.
func fullDay() System {
	var s System
	for i, c := range Chemistries {
		b := Usual(string(rune('a'+i)), c, 12, 100)
		b.Sigma = 0.1
		s.Banks = append(s.Banks, b)
	}
	for range 40 {
		s.Loads = append(s.Loads, Load{Sigma: 0.2})
	}
	for range 12 {
		p := Phase{Hours: 1, Charge: []float64{0, 5}}
		for k := range s.Loads {
			p.Draws = append(p.Draws, Draw{Load: k, Amps: 0.4, Banks: []int{k % 4, (k + 1) % 4}})
		}
		s.Phases = append(s.Phases, p)
	}
	return s
}

func BenchmarkADayOfTwelvePhasesAndFortyLoads(b *testing.B) {
	s := fullDay()
	for b.Loop() {
		s.Run()
	}
}

func BenchmarkItsBands(b *testing.B) {
	s := fullDay()
	hours := []float64{1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12}
	for b.Loop() {
		s.Bands(hours)
	}
}
