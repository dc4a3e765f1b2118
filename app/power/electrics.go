package power

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/where"
	"ergasia/core/circuits"
	"ergasia/core/power"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Electrics are a boat's, with what her batteries are.
type Electrics struct {
	Input   model.NetInput
	Version int // 0 where nobody wrote anything
	Learned model.LearnedList
	laden   *aboard.Laden
	net     circuits.Net
	today   time.Time
}

// Of reads a boat's electrics. The batteries come into the laden boat, wherever they are.
func Of(tx *store.Tx, s *aboard.Laden, today time.Time) (*Electrics, error) {
	row := model.Electrics{}
	err := store.One(tx, &row, "boat_id = ?", s.Boat.ID)
	if err != nil && !errors.Is(err, store.ErrNone) {
		return nil, fmt.Errorf("reading the boat's electrics: %w", err)
	}
	e, err := with(tx, s, row.Net, row.Version, today)
	if err == nil {
		e.Learned = row.Learned
	}
	return e, err
}

// with are electrics as they are said, kept or not.
func with(tx *store.Tx, s *aboard.Laden, in model.NetInput, version int, today time.Time) (*Electrics, error) {
	ids := []*uuid.UUID{}
	for _, b := range in.Banks {
		for i := range b.Batteries {
			ids = append(ids, &b.Batteries[i])
		}
	}
	for i := range in.Circuits {
		if id := in.Circuits[i].GearID; id != nil {
			ids = append(ids, id)
		}
	}
	if err := where.Fetch(tx, s, ids...); err != nil {
		return nil, err
	}
	return &Electrics{Input: in, Version: version, laden: s, net: netOf(in, s), today: today}, nil
}

// netOf is the net as core has it. A bank's volts are those of its batteries.
func netOf(in model.NetInput, s *aboard.Laden) circuits.Net {
	var n circuits.Net
	for _, b := range in.Banks {
		n.Parts = append(n.Parts, circuits.Part{Key: b.Key, Name: b.Name, Kind: circuits.Bank, Volts: voltsOf(b, s)})
	}
	for _, p := range in.Parts {
		n.Parts = append(n.Parts, circuits.Part{Key: p.Key, Name: p.Name, Kind: circuits.Kind(p.Kind), From: p.From,
			Rating: p.Rating, Ways: p.Ways})
	}
	for _, c := range in.Circuits {
		one := circuits.Circuit{Key: c.Key, Name: c.Name, From: c.From}
		switch {
		case c.FittingID != nil:
			one.Load = c.FittingID.String()
		case c.GearID != nil:
			one.Load = c.GearID.String()
		}
		n.Circuits = append(n.Circuits, one)
	}
	return n
}

// batteriesOf are the batteries of a bank that are still on the gear list, or those that
// are fixed in her, told as gear without an id.
func batteriesOf(b model.BankInput, s *aboard.Laden) (list []model.Gear) {
	if f := b.Fixed; f != nil {
		one := model.Gear{
			Name:      b.Name,
			Chemistry: f.Chemistry,
			Volts:     f.Volts,
			AmpHours:  f.AmpHours,
			Cranking:  f.Cranking,
		}
		var since kernel.Date
		if since.UnmarshalText([]byte(f.Since)) == nil {
			one.InUseSince = since.Time()
		}
		return slices.Repeat([]model.Gear{one}, max(1, f.Count))
	}
	for _, id := range b.Batteries {
		if g := s.Thing(id); g != nil {
			list = append(list, *g)
		}
	}
	return list
}

func voltsOf(b model.BankInput, s *aboard.Laden) float64 {
	list := batteriesOf(b, s)
	if len(list) == 0 {
		return 0
	}
	return list[0].Volts * float64(max(1, b.Series))
}

// usualCelsius is the temperature of batteries where no day says one.
const usualCelsius = 15

// bank is a bank as it holds today, at a temperature; false where nothing is known of its
// batteries.
func (e *Electrics) bank(b model.BankInput, celsius float64) (power.Bank, bool) {
	list := batteriesOf(b, e.laden)
	if len(list) == 0 || list[0].Chemistry == "" || list[0].AmpHours <= 0 || list[0].Volts <= 0 {
		return power.Bank{}, false
	}
	strings := float64(len(list)) / float64(max(1, b.Series))
	one := power.Usual(b.Key, power.Chemistry(list[0].Chemistry), voltsOf(b, e.laden), list[0].AmpHours*strings)
	one.Taper = true
	one.Usable = cmp.Or(b.Usable, one.Usable)
	one.Factor, one.Sigma = power.Factor(one.Chemistry, e.years(list), celsius), power.HoldsSigma
	e.warm(&one, b, celsius)
	return one, true
}

// warm puts in what a bank was measured to hold.
func (e *Electrics) warm(one *power.Bank, b model.BankInput, celsius float64) {
	if b.Holds > 0 { // measured at about room temperature: cold takes from it too
		one.Factor, one.Sigma = b.Holds*power.Factor(one.Chemistry, 0, celsius), power.HoldsSigma/2
	}
}

// years is the age of the oldest of some batteries; 0 where nobody said.
func (e *Electrics) years(list []model.Gear) float64 {
	oldest := 0.0
	for _, g := range list {
		if g.InUseSince != nil {
			oldest = max(oldest, e.today.Sub(*g.InUseSince).Hours()/24/365.25)
		}
	}
	return oldest
}

// volts of what a part or bank gives.
func (e *Electrics) volts(from string) float64 {
	for _, key := range e.net.Feeding(from, nil) {
		if p := e.net.Part(key); p.Volts > 0 {
			return p.Volts
		}
	}
	return 0
}

// Amps that a circuit draws while it draws: as said, or as usual of its kind at these volts.
func (e *Electrics) amps(c model.CircuitInput) float64 {
	if c.Amps > 0 {
		return c.Amps
	}
	usual := power.UsualLoads[c.Kind].Amps
	if v := e.volts(c.From); v > 0 && c.Kind != "bow-motor" {
		return usual * 12 / v // a load of so many watts
	}
	return usual
}

func (e *Electrics) bankOf(key string) *model.BankInput {
	return aboard.First(e.Input.Banks, func(b model.BankInput) bool { return b.Key == key })
}

func (e *Electrics) part(key string) *model.PartInput {
	return aboard.First(e.Input.Parts, func(p model.PartInput) bool { return p.Key == key })
}

// guards is what protects a circuit next: its own fuse, or the nearest fuse or breaker
// towards the battery, with its rating and its name. Nothing is 0.
func (e *Electrics) guards(c model.CircuitInput) (amps float64, name string) {
	if c.Fuse > 0 {
		return c.Fuse, "its fuse"
	}
	way := e.net.Way(c.Key)
	for _, key := range slices.Backward(way) {
		p := e.net.Part(key)
		if (p.Kind == circuits.Fuse || p.Kind == circuits.Breaker) && p.Rating > 0 {
			return p.Rating, p.Name
		}
	}
	return 0, ""
}

// Feeding are the keys of the banks that feed a part, or may.
func (e *Electrics) Feeding(from string) []string { return e.net.Feeding(from, nil) }

// Alike says whether two banks have the same volts.
func (e *Electrics) Alike(one, other string) bool { return e.volts(one) == e.volts(other) }

// With are other electrics of the same boat, of which only circuits differ.
func (e *Electrics) With(in model.NetInput) *Electrics {
	other := *e
	other.Input, other.net = in, netOf(in, e.laden)
	return &other
}
