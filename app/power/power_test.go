package power

import (
	"errors"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"ergasia/app/aboard/aboardtest"
	"ergasia/app/refuse"
	"ergasia/core/wire"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var today = time.Date(2027, 5, 1, 0, 0, 0, 0, time.UTC)

// fixed is a bank that is no gear.
func fixed(key, role, chemistry string, ah float64) model.BankInput {
	return model.BankInput{Key: key, Name: key + " battery", Role: role, Series: 1, HeldDown: true,
		Fixed: &model.FixedBatteries{Count: 1, Chemistry: chemistry, Volts: 12, AmpHours: ah}}
}

// sound is electrics with nothing to find fault with.
func sound() model.NetInput {
	at := func(x, y float64) *model.Vec { return &model.Vec{x, y, 0.6} }
	return model.NetInput{
		Banks: []model.BankInput{fixed("start", "start", "flooded", 75), fixed("house", "house", "agm", 100)},
		Parts: []model.PartInput{
			{
				Key:    "main",
				Kind:   "breaker",
				Name:   "main breaker",
				From:   []string{"house"},
				Rating: 40,
				At:     at(0.6, 0),
				Near:   0.1,
			},
			{Key: "panel", Kind: "panel", Name: "panel", From: []string{"main"}, Ways: 4, At: at(1.5, 0)}},
		Circuits: []model.CircuitInput{
			{Key: "sonar", Name: "sonar", Kind: "sonar", From: "panel", Amps: 3, Known: "plate", Fuse: 5, Wire: 2.08,
				Route: []model.Vec{{1.5, 0, 0.6}, {2.5, 0, 0.6}}},
			{
				Key:    "bilge",
				Name:   "bilge pump",
				Kind:   "bilge",
				From:   "house",
				Amps:   3,
				Known:  "plate",
				Fuse:   5,
				Near:   0.1,
				Wire:   2.08,
				OneWay: 1.2,
			}}}
}

// of makes electrics of a boat ready without a database.
func of(b *aboardtest.Boat, in model.NetInput) *Electrics {
	return &Electrics{Input: in, laden: b.Laden, net: netOf(in, b.Laden), today: today}
}

// said are the findings that want a hand.
func said(e *Electrics) (list []string) {
	for _, f := range e.findings() {
		if !f.Note {
			list = append(list, f.Name+": "+f.Said+" | "+f.Settle)
		}
	}
	return list
}

func TestSoundElectricsHaveNoFindings(t *testing.T) {
	e := of(aboardtest.New(t), sound())
	require.NoError(t, e.check())
	assert.Empty(t, said(e))
}

func TestWhatIsFoundSaysWhereAndWhatSettlesIt(t *testing.T) {
	for says, spoil := range map[string]func(*aboardtest.Boat, *model.NetInput){
		"sonar: It hangs on the start battery: it resets when the engine cranks": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[0].From = "start"
		},
		"| Hang it on the house battery.": func(_ *aboardtest.Boat, n *model.NetInput) { n.Circuits[0].From = "start" },
		"bilge pump: Nothing protects its wire": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[1].Fuse = 0
		},
		"| A fuse of 5 A within 180 mm of where it hangs on.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[1].Fuse = 0
		},
		"400 mm of wire lie unprotected between its source and the fuse. | Within 180 mm of it, or within 1800 mm with its wire in a sheath.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[1].Near = 0.4
		},
		"main breaker: 300 mm of wire lie unprotected": func(_ *aboardtest.Boat, n *model.NetInput) { n.Parts[0].Near = 0.3 },
		"sonar: Its wire of 0.5 mm² loses": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[0].Wire, n.Circuits[0].OneWay = 0.5, 6
		},
		"sonar: 40 A protect it (main breaker), and its wire stands 30 A: the wire burns first.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[0].Fuse, n.Circuits[0].Wire = 0, wire.AWG[0].MM2
		},
		"sonar: It draws 8 A through a fuse of 5 A: that blows. | 10 A": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[0].Amps = 8
		},
		"Its plug is 22 mm across and a hole on its way 16 mm: the plug does not pass.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[0].Plug, n.Circuits[0].Hole = 22, 16
		},
		"bilge pump: Its lowest connection is 310 mm over the keel and the sole 300 mm: it gets wet.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[1].Height = 0.31
		},
		"start battery: Nobody said that it is held down.": func(_ *aboardtest.Boat, n *model.NetInput) { n.Banks[0].HeldDown = false },
		"start battery: Nobody said what its batteries are": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Banks[0].Fixed.AmpHours = 0
		},
		"panel: 40 A protect the wire to it (main breaker), and it stands 30 A: it burns first.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Parts[1].Wire = wire.AWG[0].MM2
		},
		"main breaker: Nobody said what it is rated for.": func(_ *aboardtest.Boat, n *model.NetInput) { n.Parts[0].Rating = 0 },
		"main breaker: No hand comes to the tray afloat, to set it again.": func(b *aboardtest.Boat, n *model.NetInput) {
			b.Laden.Places[1].X = 40
			n.Parts[0].PlaceID = &b.Tray
		},
		"house battery: AGM is not aboard.": func(b *aboardtest.Boat, n *model.NetInput) {
			n.Banks[1].Fixed = nil
			n.Banks[1].Batteries = []uuid.UUID{b.Gear("AGM", 28, battery("agm"))}
		},
		"sonar: It runs beside windlass for 1.0 m: the motor is heard in the picture.": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits = append(n.Circuits, model.CircuitInput{Key: "w", Name: "windlass", Kind: "windlass", From: "main",
				Amps: 30, Known: "plate", Fuse: 40, Wire: 21, Route: []model.Vec{{1.4, 0.1, 0.6}, {4, 0.1, 0.6}}})
		},
	} {
		b, n := aboardtest.New(t), sound()
		spoil(b, &n)
		all := said(of(b, n))
		require.NotEmpty(t, all, says)
		found := false
		for _, one := range all {
			found = found || strings.Contains(one, says)
		}
		assert.True(t, found, "%s\n%v", says, all)
	}
}

// faults are what a refusal says of the input.
func faults(err error) string {
	var r *refuse.Error
	if errors.As(err, &r) {
		return r.Faults.Error()
	}
	return err.Error()
}

func battery(chemistry string) func(*model.Gear) {
	return func(g *model.Gear) { g.Chemistry, g.Volts, g.AmpHours = chemistry, 12, 50 }
}

func TestALeadBatteryUnderTwoSealedLidsIsFound(t *testing.T) {
	b, n := aboardtest.New(t), sound()
	lead := b.Gear("lead", 8, battery("flooded"))
	box := b.Gear("battery box", 1, aboardtest.Box, func(g *model.Gear) { g.KeepsDry, g.InsideLength = true, 0.5 })
	boat := b.Boat.ID
	b.Carry(box, model.Whereabouts{Kind: "boat", BoatID: &boat, PlaceID: &b.Tray})
	b.Carry(lead, model.Whereabouts{Kind: "boat", BoatID: &boat, PlaceID: &b.Tray, InsideID: &box})
	n.Banks[1].Fixed, n.Banks[1].Batteries = nil, []uuid.UUID{lead}
	require.Len(t, said(of(b, n)), 1)
	assert.Contains(t, said(of(b, n))[0], "lead is under 2 sealed lids, the battery box and the tray: hydrogen")
	n.Banks[1].Vented = true
	assert.Empty(t, said(of(b, n)))
}

func TestWhatCantBeIsRefusedByName(t *testing.T) {
	for says, spoil := range map[string]func(*aboardtest.Boat, *model.NetInput){
		"circuits[0].fuse_a is 40: sonar: its wire of 0.823 mm² stands 30 A": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Circuits[0].Fuse, n.Circuits[0].Wire = 40, wire.AWG[0].MM2
		},
		"banks[1].batteries[1] is \"B\": is lithium iron phosphate and A AGM: a bank has one chemistry": func(b *aboardtest.Boat, n *model.NetInput) {
			n.Banks[1].Fixed = nil
			n.Banks[1].Batteries = []uuid.UUID{b.Gear("A", 20, battery("agm")), b.Gear("B", 9, battery("lifepo4"))}
		},
		"is in start battery already: a battery is in one bank": func(b *aboardtest.Boat, n *model.NetInput) {
			one := []uuid.UUID{b.Gear("A", 20, battery("agm"))}
			n.Banks[0].Fixed, n.Banks[1].Fixed, n.Banks[0].Batteries, n.Banks[1].Batteries = nil, nil, one, one
		},
		"circuits[1].name is \"bilge pump\": hangs on sonar too": func(b *aboardtest.Boat, n *model.NetInput) {
			id := b.Gear("thing", 1)
			n.Circuits[0].GearID, n.Circuits[1].GearID = &id, &id
		},
		"feed one another in a circle: main breaker ← panel ← main breaker": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Parts[0].From = []string{"panel"}
		},
		"circuits[0].duty is -0.1: must be from 0 to 1": func(_ *aboardtest.Boat, n *model.NetInput) { n.Circuits[0].Duty = -0.1 },
		"parts[1].from is \"panel\": must be fed by one part, not by 2": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Parts[1].From = []string{"main", "start"}
		},
		"parts[0].place_id": func(_ *aboardtest.Boat, n *model.NetInput) { id := uuid.New(); n.Parts[0].PlaceID = &id },
		"must be gear of this crew": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Banks[1].Fixed, n.Banks[1].Batteries = nil, []uuid.UUID{uuid.New()}
		},
		"circuits[1].fitting_id": func(_ *aboardtest.Boat, n *model.NetInput) { id := uuid.New(); n.Circuits[1].FittingID = &id },
		"chargers[0].bank is \"sun\"": func(_ *aboardtest.Boat, n *model.NetInput) {
			n.Chargers = []model.ChargerInput{{Kind: "solar", Name: "panel", Bank: "sun", Amps: 2}}
		},
		"banks[0].fixed.mass":  func(_ *aboardtest.Boat, n *model.NetInput) { n.Banks[0].Fixed.Mass = "ballast" },
		"banks[0].series is 0": func(_ *aboardtest.Boat, n *model.NetInput) { n.Banks[0].Series = 0 },
	} {
		b, n := aboardtest.New(t), sound()
		spoil(b, &n)
		err := of(b, n).check()
		require.Error(t, err, says)
		assert.True(t, strings.Contains(faults(err), says), "%s\n%s", says, faults(err))
	}
	n := sound()
	n.Circuits[0].Fuse, n.Circuits[0].Wire, n.Circuits[0].Anyway = 40, wire.AWG[0].MM2, true
	e := of(aboardtest.New(t), n)
	require.NoError(t, e.check(), "a crew may note what is")
	assert.Len(t, said(e), 1, "and reads that it is wrong")
}

func TestALengthIsMeasuredDrawnOrGuessed(t *testing.T) {
	b, n := aboardtest.New(t), sound()
	b.Laden.Boat.Outfit.Masses = append(
		b.Laden.Boat.Outfit.Masses,
		model.FixedMass{Name: "cell", Kind: "battery", Kg: 20,
			At: model.Vec{0.5, 0.2, 0.4}, Known: "plate"},
	)
	b.Shape(t)
	n.Banks[1].Fixed.Mass = "cell"
	e := of(b, n)
	length, known := e.length(e.Input.Circuits[0])
	assert.Equal(t, "route", known)
	assert.InDelta(t, 1, length, 1e-9)
	id := b.Gear("lamp", 1)
	boat := b.Boat.ID
	b.Carry(id, model.Whereabouts{Kind: "boat", BoatID: &boat, PlaceID: &b.Tray})
	c := e.Input.Circuits[1]
	c.OneWay, c.GearID, c.Slack = 0, &id, 0.5
	length, known = e.length(c)
	assert.Equal(t, "guess", known)
	at := b.MiddleOf(*b.Thing(id))
	require.NotNil(t, at)
	assert.InDelta(t, (at[0]-0.5)+(0.2-at[1])+(at[2]-0.4)+0.5, length, 1e-9, "along her edges from the battery")
	c.OneWay = 3
	assert.InDelta(t, 7, e.wireOf(c).Buy, 1e-9, "there and back, with slack for both")
	c.OneWay, c.GearID = 0, nil
	_, known = e.length(c)
	assert.Equal(t, "unknown", known)
	assert.NotEmpty(t, e.wireOf(c).Why)
}

func TestABankHoldsWhatItsAgeLeaves(t *testing.T) {
	b, n := aboardtest.New(t), sound()
	n.Banks[1].Series = 2
	n.Banks[1].Fixed.Count, n.Banks[1].Fixed.Since = 4, "2023-05-01"
	e := of(b, n)
	v := e.bankView(e.Input.Banks[1])
	assert.InDelta(t, 24, v.Volts, 1e-9)
	assert.InDelta(t, 200, v.Ah, 1e-9, "two strings of two")
	assert.InDelta(t, 200*0.8*0.92, v.Holds, 0.1, "four years at 5 %, ten kelvin at 0.8 %")
	assert.InDelta(t, v.Holds/2, v.Usable, 1e-9)
	n.Banks[1].Holds = 0.6
	assert.InDelta(t, 200*0.6*0.92, of(b, n).bankView(n.Banks[1]).Holds, 0.1, "as measured")
}

// A livewell with its pump, and two bilge pumps, through to what is told.
func TestAWellAndThePumpsAreWorkedOut(t *testing.T) {
	b, n := aboardtest.New(t), sound()
	n.Wells = []model.WellInput{{Key: "w", Name: "well", Litres: 100, Deep: 0.4, Drain: 30, Scoop: 25}}
	n.Circuits[0] = model.CircuitInput{
		Key:    "p",
		Name:   "big pump",
		Kind:   "livewell",
		From:   "panel",
		Amps:   4,
		Known:  "plate",
		Fuse:   5,
		Wire:   2.08,
		OneWay: 2,
		Duty:   0.5,
		Pump:   &model.PumpInput{Open: 2000, Well: "w"},
	}
	n.Circuits = append(
		n.Circuits,
		model.CircuitInput{Key: "q", Name: "small pump", Kind: "bait", From: "panel", Amps: 1, Known: "plate",
			Fuse: 3, Wire: 2.08, OneWay: 2, Pump: &model.PumpInput{Open: 300, Well: "w", Night: true}},
	)
	n.Circuits[1].Pump = &model.PumpInput{Open: 3000, Height: 0.05, Float: "2025-01-01"}
	e := of(b, n)
	require.NoError(t, e.check())
	w := e.wells(10)[0]
	assert.InDelta(t, 1000, w.Flow, 1e-9, "half of the time, and the small one by night only")
	assert.InDelta(t, 10, w.Turnover, 1e-9)
	assert.InDelta(t, 0.05, w.Fills, 1e-9)
	assert.InDelta(t, 12.5, w.Volume, 1e-9)
	assert.Positive(t, w.Drains)
	require.NotNil(t, w.Night)
	assert.InDelta(t, 3, w.Night.Turnover, 1e-9)
	keeps, known := e.Keeps(10)
	assert.True(t, known)
	assert.InDelta(t, min(w.Volume, w.Oxygen), keeps, 1e-9)
	assert.InDelta(t, 3000, e.bilge()[0].Flow, 1e-9)
	assert.Equal(t, "No spare aerator is aboard for when the pump stops.", e.spareAerator())
	b.Put(b.Gear("aerator with clips", 0.4), b.Into(b.Tray))
	assert.Equal(
		t,
		"Aerator with clips is aboard, in the tray. It can hang on the start battery and house battery.",
		of(b, n).spareAerator(),
	)

	old := func(of *Electrics) bool {
		return slices.ContainsFunc(
			of.findings(),
			func(f PowerFinding) bool { return strings.Contains(f.Said, "Its float switch was tested last") },
		)
	}
	assert.True(t, old(e))
	second := n.Circuits[1]
	second.Key, second.Name = "b2", "second pump"
	n.Circuits = append(n.Circuits, second)
	assert.Contains(
		t,
		strings.Join(said(of(b, n)), "\n"),
		"second pump: It stands as low as bilge pump and hangs on the same battery",
	)
	n.Circuits[3].Pump = &model.PumpInput{Open: 3000, Height: 0.2}
	assert.Empty(t, said(of(b, n)), "higher, it is dry until it is needed")
	n.Circuits[3].Pump = &model.PumpInput{Open: 3000, Lift: 4}
	assert.Contains(t, strings.Join(said(of(b, n)), "\n"), "It does not lift water 4.0 m high")
	n.Circuits[3].Pump.Well = "pond"
	require.Error(t, of(b, n).check())
	n.Circuits[3].Pump.Well = ""
	n.Wells[0].Litres = 0
	assert.Contains(t, faults(of(b, n).check()), "wells[0].litres is 0: must be over 0 where it is no tank of hers")
}

// A day of the three kinds that ask most: a full day of bow motor, a night with lamps on a
// generator, an offshore night with the bait pump running.
func TestDaysThatAskMost(t *testing.T) {
	bank := func(n *model.NetInput) { n.Banks[1].Fixed.AmpHours = 200 }
	motor := model.CircuitInput{Key: "m", Name: "bow motor", Kind: "bow-motor", From: "main", Amps: 50, Known: "plate"}
	tournament := Outgoing{
		Celsius: 20,
		Stretches: []Stretch{{Kind: "run", Hours: 0.5, Speed: 11, Runs: true}, {Kind: "fish", Hours: 8},
			{Kind: "weigh-in", Hours: 0.5}},
	}
	low := only(t, motor, bank).Day(tournament).Lows()[0]
	assert.Equal(t, "house", low.Bank.Key)
	assert.InDelta(t, 0.63, low.Soc, 0.03, "8 h of 50 A at 40 %, 70 % of the time are 71 Ah of 192")

	lamps := model.CircuitInput{Key: "l", Name: "lamps", Kind: "lamps", From: "main", Amps: 20, Known: "plate"}
	night := Outgoing{Celsius: 10, Stretches: []Stretch{{Kind: "fish", Hours: 6, Dark: 1}}}
	dry := only(t, lamps, bank).Day(night).Lows()[0]
	assert.False(t, math.IsNaN(dry.From), "six hours of 20 A are too much for half of 200 Ah in the cold")
	withGenerator := func(n *model.NetInput) {
		bank(n)
		n.Chargers = []model.ChargerInput{{Kind: "generator", Name: "generator", Bank: "house", Amps: 20}}
	}
	night.Stretches[0].Power = &model.PhasePower{Generator: true}
	assert.InDelta(t, 1, only(t, lamps, withGenerator).Day(night).Lows()[0].Soc, 0.1, "the generator carries them")

	bait := model.CircuitInput{Key: "b", Name: "bait pump", Kind: "bait", From: "main", Amps: 1.5, Known: "plate"}
	offshore := Outgoing{Celsius: 12, Stretches: []Stretch{{Kind: "fish", Hours: 5}, {Kind: "sleep", Hours: 9, Dark: 1},
		{Kind: "home", Hours: 2, Speed: 9, Runs: true}}}
	d := only(t, bait, bank).Day(offshore)
	assert.InDelta(t, 24, drawn(d, "house"), 1e-9, "it runs all of the night")
	assert.True(t, math.IsNaN(d.Lows()[0].From))
}
