package power

import (
	"math"

	"ergasia/core/power"
	"ergasia/core/wire"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// WireView is what a circuit's wire is asked to do, what it needs, and what is there.
type WireView struct {
	Volts    float64 `json:"volts"`
	Amps     float64 `json:"amps" doc:"While it draws"`
	Guess    bool    `json:"guess" doc:"Of its draw"`
	OneWay   float64 `json:"one_way_m"`
	Length   string  `json:"length" enum:"measured,route,guess,unknown" doc:"How its length is known"`
	Buy      float64 `json:"buy_m" doc:"Wire of both conductors, with slack"`
	Needs    float64 `json:"needs_mm2,omitempty" doc:"Copper, for the drop alone"`
	Mils     float64 `json:"circular_mils,omitempty" doc:"by the second method"`
	MilsMM2  float64 `json:"circular_mils_mm2,omitempty" doc:"those in mm²"`
	AWG      string  `json:"awg,omitempty"`
	Metric   float64 `json:"metric_mm2,omitempty"`
	Decided  string  `json:"decided_by,omitempty" enum:"drop,ampacity"`
	Fuse     float64 `json:"fuse_a,omitempty" doc:"The usual one"`
	Within   float64 `json:"fuse_within_m" doc:"How far from its source its fuse may be"`
	Allowed  float64 `json:"allowed" doc:"Share of the volts that may be lost"`
	Drop     float64 `json:"drop_v,omitempty" doc:"In the wire that is there; else in the one that is needed"`
	Ampacity float64 `json:"ampacity_a,omitempty" doc:"likewise"`
	FuseMost float64 `json:"fuse_max_a,omitempty" doc:"likewise"`
	Why      string  `json:"why,omitempty" doc:"Why no wire can be told"`
}

// asked is what a circuit's wire is asked to do; the length may be 0.
func (e *Electrics) asked(c model.CircuitInput) (wire.Circuit, string) {
	length, known := e.length(c)
	one := wire.Usual(e.amps(c), length, e.volts(c.From))
	if usual := power.UsualLoads[c.Kind]; c.Loses == "other" || c.Loses == "" && !usual.Must {
		one.Drop = wire.DropOther
	}
	if c.Insul > 0 {
		one.Insulation = c.Insul
	}
	one.Bundle, one.Engine = max(1, c.Bundle), c.Engine
	one.Continuous = !power.UsualLoads[c.Kind].Brief
	return one, known
}

// length of a circuit's wire, one way, with its slack, and how it is known: as measured,
// along its route, or guessed from where its ends are, along the boat's edges.
func (e *Electrics) length(c model.CircuitInput) (metres float64, known string) {
	switch {
	case c.OneWay > 0:
		return c.OneWay, "measured"
	case len(c.Route) > 1:
		sum := c.Slack
		for i := 1; i < len(c.Route); i++ {
			sum += r3.Norm(r3.Sub(c.Route[i].R3(), c.Route[i-1].R3()))
		}
		return sum, "route"
	}
	from, there := e.at(c.From)
	to, known2 := e.loadAt(c)
	if !there || !known2 {
		return 0, "unknown"
	}
	d := r3.Sub(to, from)
	return math.Abs(d.X) + math.Abs(d.Y) + math.Abs(d.Z) + c.Slack, "guess"
}

// measuredSlack is what a measured length has not in it.
func (e *Electrics) measuredSlack(c model.CircuitInput) float64 {
	if c.OneWay > 0 {
		return c.Slack
	}
	return 0
}

// at is where a part or bank stands: as said, or where the bank's first battery lies; a
// part of which nobody said it, where what feeds it is.
func (e *Electrics) at(key string) (r3.Vec, bool) {
	if p := e.part(key); p != nil {
		if p.At != nil {
			return p.At.R3(), true
		}
		if len(p.From) > 0 {
			return e.at(p.From[0])
		}
		return r3.Vec{}, false
	}
	b := e.bankOf(key)
	if b == nil {
		return r3.Vec{}, false
	}
	if b.Fixed != nil {
		for _, m := range e.laden.Craft.Input.Outfit.Masses {
			if m.Name == b.Fixed.Mass {
				return m.At.R3(), true
			}
		}
		return r3.Vec{}, false
	}
	for _, g := range batteriesOf(*b, e.laden) {
		if at := e.laden.MiddleOf(g); at != nil {
			return at.R3(), true
		}
	}
	return r3.Vec{}, false
}

// loadAt is where the thing on a circuit is.
func (e *Electrics) loadAt(c model.CircuitInput) (r3.Vec, bool) {
	if n := len(c.Route); n > 0 {
		return c.Route[n-1].R3(), true
	}
	if c.FittingID != nil {
		for _, f := range e.laden.Craft.Rigging {
			if f.ID == *c.FittingID {
				return f.Lies.At.R3(), true
			}
		}
	}
	if c.GearID != nil {
		if g := e.laden.Thing(*c.GearID); g != nil {
			if at := e.laden.MiddleOf(*g); at != nil {
				return at.R3(), true
			}
		}
	}
	return r3.Vec{}, false
}

// wireOf is what a circuit needs and has.
func (e *Electrics) wireOf(c model.CircuitInput) WireView {
	ask, known := e.asked(c)
	v := WireView{
		Volts:   ask.Volts,
		Amps:    ask.Amps,
		Guess:   c.Amps <= 0 || c.Known == "guess",
		OneWay:  ask.OneWay,
		Length:  known,
		Buy:     2 * (ask.OneWay + e.measuredSlack(c)),
		Allowed: ask.Drop,
		Within:  wire.FuseWithin(c.Sheathed, e.bankOf(c.From) != nil),
	}
	if v.Volts <= 0 {
		v.Why = "No battery feeds it yet."
		return v
	}
	if known == "unknown" {
		v.Why = "Nobody measured its way or drew it."
		return v
	}
	ask.OneWay = max(0.01, ask.OneWay)
	a, err := ask.Answer()
	if err != nil {
		v.Why = "No usual wire or fuse serves it: use more volts, two wires in parallel, or a shorter way."
		return v
	}
	v.Needs, v.Mils, v.MilsMM2, v.Fuse = a.Needs, a.Mils, a.Mils*wire.MilMM2, a.Fuse
	v.AWG, v.Metric, v.Decided = a.AWG.Name, a.Metric.MM2, string(a.Decided)
	v.Drop, v.Ampacity, v.FuseMost = a.Drop, a.Ampacity, a.FuseMost
	if c.Wire > 0 {
		v.Drop, v.Ampacity, v.FuseMost = ask.Has(c.Wire)
	}
	return v
}
