package power

import (
	"math"
	"testing"

	"ergasia/app/aboard/aboardtest"
	corepower "ergasia/core/power"
	"ergasia/store/model"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fishing is a day of one run, six hours of fishing and the run home.
func fishing() Outgoing {
	return Outgoing{
		Celsius: 25,
		Stretches: []Stretch{{Kind: "run", Hours: 0.5, Speed: 8, Runs: true}, {Kind: "fish", Hours: 6},
			{Kind: "home", Hours: 0.5, Speed: 8, Runs: true}},
	}
}

// only leaves one circuit of the sound electrics, without Peukert's part being in the way.
func only(t *testing.T, c model.CircuitInput, more ...func(*model.NetInput)) *Electrics {
	n := sound()
	n.Circuits = []model.CircuitInput{c}
	for _, m := range more {
		m(&n)
	}
	return of(aboardtest.New(t), n)
}

func drawn(d *Day, bank string) float64 {
	i := d.bank(bank)
	return d.Result.Banks[i].Drawn
}

func TestALoadDrawsInItsPhasesByItsDutyAndWhileStowed(t *testing.T) {
	pump := model.CircuitInput{
		Key:   "w",
		Name:  "livewell",
		Kind:  "livewell",
		From:  "panel",
		Amps:  4,
		Known: "plate",
		Duty:  0.25,
		On:    []string{"fish"},
	}
	assert.InDelta(t, 6, drawn(only(t, pump).Day(fishing()), "house"), 1e-9, "six hours of a quarter of 4 A")
	sonar := model.CircuitInput{
		Key:      "s",
		Name:     "sonar",
		Kind:     "sonar",
		From:     "panel",
		Amps:     3,
		Known:    "plate",
		On:       []string{"fish"},
		Standing: 0.2,
	}
	assert.InDelta(t, 18.2, drawn(only(t, sonar).Day(fishing()), "house"), 1e-9, "and an hour of 0.2 A")
	out := fishing()
	out.Stretches[1].Power = &model.PhasePower{Off: []string{"s"}}
	assert.InDelta(t, 1.4, drawn(only(t, sonar).Day(out), "house"), 1e-9, "off, it is still live")
	out.Stretches[1].Power = &model.PhasePower{Turned: []model.Turned{{Part: "panel", To: "off"}}}
	assert.InDelta(t, 18.2, drawn(only(t, sonar).Day(out), "house"), 1e-9, "a panel is no switch")
	dead := only(t, sonar, func(n *model.NetInput) { n.Parts[0].Kind = "switch" }).Day(outWith("main", "off"))
	assert.InDelta(t, 0.1, drawn(dead, "house"), 1e-9, "behind a switch that is off nothing is live")
}

func outWith(part, to string) Outgoing {
	out := fishing()
	out.Stretches[1].Power = &model.PhasePower{Turned: []model.Turned{{Part: part, To: to}}}
	return out
}

func TestAMotorGoesByItsSettingAndALampByItsDimmer(t *testing.T) {
	motor := model.CircuitInput{
		Key:     "m",
		Name:    "motor",
		Kind:    "bow-motor",
		From:    "panel",
		Amps:    50,
		Known:   "plate",
		Duty:    1,
		Setting: 0.25,
		On:      []string{"fish"},
	}
	assert.InDelta(t, 50*0.125*6, drawn(only(t, motor).Day(fishing()), "house"), 1e-9)
	out := fishing()
	out.Stretches[1].Power = &model.PhasePower{Settings: []model.Setting{{Circuit: "m", Share: 0.16}}}
	assert.InDelta(t, 50*0.064*6, drawn(only(t, motor).Day(out), "house"), 1e-9)
	lamp := model.CircuitInput{Key: "l", Name: "lamps", Kind: "lamps", From: "panel", Amps: 6, Known: "plate"}
	night := fishing()
	night.Stretches[1].Dark = 0.5
	assert.InDelta(t, 18, drawn(only(t, lamp).Day(night), "house"), 1e-9, "in the dark half of it")
	night.Stretches[1].Power = &model.PhasePower{Settings: []model.Setting{{Circuit: "l", Share: 0.5}}}
	assert.InDelta(t, 9, drawn(only(t, lamp).Day(night), "house"), 1e-9)
}

func TestASelectorSaysWhichBankIsDrawnFrom(t *testing.T) {
	radio := model.CircuitInput{
		Key:      "r",
		Name:     "radio",
		Kind:     "radio",
		From:     "panel",
		Amps:     2,
		Known:    "plate",
		Standing: 0.001,
	}
	e := only(t, radio, func(n *model.NetInput) {
		n.Parts[0] = model.PartInput{Key: "main", Kind: "selector", Name: "selector", From: []string{"start", "house"}}
	})
	out := fishing()
	out.Stretches[0].Power = &model.PhasePower{Turned: []model.Turned{{Part: "main", To: "2"}}}
	out.Stretches[2].Power = &model.PhasePower{Turned: []model.Turned{{Part: "main", To: "1"}}}
	d := e.Day(out)
	assert.InDelta(t, 13, drawn(d, "house"), 1e-9, "until it is turned again")
	assert.InDelta(t, 1, drawn(d, "start"), 1e-9)
	both := e.Day(fishing())
	assert.InDelta(t, 14*100/175., drawn(both, "house"), 0.05, "at both, by what each holds")
}

func TestTheEngineTheShoreAndTheSunCharge(t *testing.T) {
	idle := model.CircuitInput{
		Key:      "r",
		Name:     "radio",
		Kind:     "radio",
		From:     "panel",
		Amps:     0.001,
		Known:    "plate",
		Standing: 0.001,
	}
	charge := func(kind string, out Outgoing) float64 {
		e := only(t, idle, func(n *model.NetInput) {
			n.Chargers = []model.ChargerInput{{Kind: kind, Name: "c", Bank: "start", Amps: 10}}
		})
		out.Power = &model.DayPower{Starts: []model.BankLevel{{Bank: "start", SoC: 0.2}}}
		d := e.Day(out)
		return d.Result.Banks[d.bank("start")].Charged
	}
	assert.InDelta(t, 10, charge("engine", fishing()), 1e-6, "an hour of it at speed")
	slow := fishing()
	slow.Stretches[0].Speed, slow.Stretches[2].Runs = 0.001, false
	assert.InDelta(t, 0.5*10*0.3, charge("engine", slow), 0.01, "idling")
	assert.InDelta(t, 0, charge("shore", fishing()), 1e-9)
	plugged := fishing()
	plugged.Stretches[1].Power = &model.PhasePower{Shore: true}
	assert.Greater(t, charge("shore", plugged), 30., "six hours of it, less as it fills")
	assert.InDelta(t, 7*3.5, charge("solar", fishing()), 1e-6)
}

func TestTheSecondDayBeginsWithWhatTheNightGave(t *testing.T) {
	motor := model.CircuitInput{
		Key:     "m",
		Name:    "motor",
		Kind:    "bow-motor",
		From:    "panel",
		Amps:    50,
		Known:   "measured",
		Duty:    1,
		Setting: 0.25,
		On:      []string{"fish"},
	}
	e := only(t, motor, func(n *model.NetInput) {
		n.Chargers = []model.ChargerInput{{Kind: "shore", Name: "c", Bank: "house", Amps: 2}}
	})
	out := fishing()
	out.Days = 2
	d := e.Day(out)
	low := d.Lows()[0]
	require.Equal(t, "house", low.Bank.Key)
	day, of, afloat := d.Between(low.From)
	assert.Equal(t, 1, day)
	assert.True(t, afloat)
	assert.InDelta(t, low.From-24, of, 1e-9)
	assert.InDelta(t, 2*0.85, low.Charge, 1e-9, "what of the 2 A stays in an AGM battery")
	assert.Positive(t, low.Short)
	assert.Positive(t, low.Sigma)
	first := e.Day(fishing())
	assert.True(t, math.IsNaN(first.Lows()[0].From), "one day it lasts")
	sixteen := 16.
	out.Power = &model.DayPower{Night: &sixteen}
	assert.Less(t, low.Soc, e.Day(out).Lows()[0].Soc, "longer on the charger")
	day, _, afloat = d.Between(12)
	assert.Equal(t, 0, day)
	assert.False(t, afloat, "the night between")
}

func TestTheHardestStartIsTold(t *testing.T) {
	pump := model.CircuitInput{
		Key:   "w",
		Name:  "livewell",
		Kind:  "livewell",
		From:  "start",
		Amps:  6,
		Known: "plate",
		Duty:  1,
	}
	e := only(t, pump, func(n *model.NetInput) { n.Banks[0].Fixed.Cranking, n.Starter = 500, 150 })
	c, ok := e.Day(fishing()).Start()
	require.True(t, ok)
	assert.InDelta(t, 7, c.At, 1e-9, "at the end she has least in it")
	assert.NotEmpty(t, c.Why)
	n := sound()
	n.Banks = n.Banks[1:]
	n.Parts, n.Circuits = nil, nil
	_, ok = of(aboardtest.New(t), n).Day(fishing()).Start()
	assert.False(t, ok, "nothing of hers starts it")
	n.Banks[0].Fixed.AmpHours = 0
	assert.Nil(t, of(aboardtest.New(t), n).Day(fishing()), "of no bank enough is known")
}

func TestChargeIsTrueAtAnyHour(t *testing.T) {
	radio := model.CircuitInput{Key: "r", Name: "radio", Kind: "radio", From: "panel", Amps: 5, Known: "plate"}
	d := only(t, radio).Day(fishing())
	i := d.bank("house")
	assert.InDelta(t, 1, d.At(0)[i], 1e-12)
	bank := corepower.Usual("", "agm", 12, 100)
	hourly := 5. / 100 * math.Pow(5*20/100., bank.Peukert-1)
	assert.InDelta(t, 1-3*hourly, d.At(3)[i], 1e-9)
}

func TestTheSmallPumpRunsByNightInTheBigOnesStead(t *testing.T) {
	pump := func(key string, amps float64, night bool) model.CircuitInput {
		return model.CircuitInput{Key: key, Name: key, Kind: "bait", From: "panel", Amps: amps, Known: "plate", On: []string{"fish"},
			Standing: 1e-12, Pump: &model.PumpInput{Open: 1000, Well: "w", Night: night}}
	}
	e := only(t, pump("big", 4, false), func(n *model.NetInput) {
		n.Wells = []model.WellInput{{Key: "w", Name: "well", Litres: 80}}
	})
	out := fishing()
	out.Stretches[1].Dark = 0.5
	assert.InDelta(t, 24, drawn(e.Day(out), "house"), 1e-6, "alone it runs all the time")
	both := only(t, pump("big", 4, false), func(n *model.NetInput) {
		n.Wells = []model.WellInput{{Key: "w", Name: "well", Litres: 80}}
		n.Circuits = append(n.Circuits, pump("small", 1, true))
	})
	assert.InDelta(t, 15, drawn(both.Day(out), "house"), 1e-6, "three hours of each")
}
