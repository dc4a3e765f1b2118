package power

import (
	"fmt"
	"slices"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store/model"
)

// check says what of electrics can't be. A circuit's thing and a bank's batteries must be
// the crew's: what is not in the laden boat is none.
func (e *Electrics) check() error {
	var fs check.Faults
	batteries := map[string]string{}
	for i, b := range e.Input.Banks {
		e.checkBank(&fs, fmt.Sprintf("banks[%d].", i), b, batteries)
	}
	for i, p := range e.Input.Parts {
		e.checkPart(&fs, fmt.Sprintf("parts[%d].", i), p)
	}
	for i, c := range e.Input.Circuits {
		e.checkCircuit(&fs, fmt.Sprintf("circuits[%d].", i), c)
	}
	for i, c := range e.Input.Chargers {
		at := fmt.Sprintf("chargers[%d].", i)
		fs.OneOf(at+"kind", c.Kind, words.ChargerKinds.Keys()...)
		fs.Text(at+"name", c.Name, 1, 60)
		fs.Within(at+"amps", c.Amps, 0.01, 500)
		if e.bankOf(c.Bank) == nil {
			fs.Add(at+"bank", c.Bank, "must be a bank of this boat")
		}
	}
	e.checkWells(&fs)
	fs.Within("starter_a", e.Input.Starter, 0, 2000)
	if net, ok := e.net.Check().(check.Faults); ok {
		fs = append(fs, renumbered(net, len(e.Input.Banks))...)
	}
	if len(fs) == 0 {
		e.checkFuses(&fs)
	}
	return refuse.Faulty(fs.Err())
}

// renumbered tells the net's faults by the lists that the input has: banks come first there.
func renumbered(fs check.Faults, banks int) (list check.Faults) {
	for _, f := range fs {
		var n int
		var rest string
		if _, err := fmt.Sscanf(f.Field, "parts[%d].%s", &n, &rest); err == nil {
			if n < banks {
				f.Field = fmt.Sprintf("banks[%d].%s", n, rest)
			} else {
				f.Field = fmt.Sprintf("parts[%d].%s", n-banks, rest)
			}
		}
		list = append(list, f)
	}
	return list
}

func (e *Electrics) checkBank(fs *check.Faults, at string, b model.BankInput, taken map[string]string) {
	fs.OneOf(at+"role", b.Role, words.BankRoles.Keys()...)
	fs.Within(at+"usable", b.Usable, 0, 1)
	fs.Within(at+"holds", b.Holds, 0, 1.3)
	if !fs.Within(at+"series", float64(b.Series), 1, 12) {
		return
	}
	if b.Fixed != nil {
		e.checkFixed(fs, at+"fixed.", b)
		return
	}
	if len(b.Batteries) > 0 && len(b.Batteries)%b.Series != 0 {
		fs.Add(at+"series", b.Series, fmt.Sprintf("must divide its %d batteries", len(b.Batteries)))
	}
	var first *model.Gear
	for i, id := range b.Batteries {
		field := fmt.Sprintf("%sbatteries[%d]", at, i)
		g := e.laden.Thing(id)
		if g == nil {
			fs.Add(field, b.Name, "has a battery that is off the list: must be gear of this crew")
			continue
		}
		if other, twice := taken[id.String()]; twice {
			fs.Add(field, g.Name, "is in "+other+" already: a battery is in one bank")
		}
		taken[id.String()] = b.Name
		if first == nil {
			first = g
			continue
		}
		switch {
		case g.Chemistry != first.Chemistry:
			fs.Add(
				field,
				g.Name,
				fmt.Sprintf(
					"is %s and %s %s: a bank has one chemistry",
					chemistryOf(g),
					first.Name,
					chemistryOf(first),
				),
			)
		case g.Volts != first.Volts:
			fs.Add(
				field,
				g.Name,
				fmt.Sprintf("has %g V and %s %g V: a bank has batteries alike", g.Volts, first.Name, first.Volts),
			)
		}
	}
}

func (e *Electrics) checkFixed(fs *check.Faults, at string, b model.BankInput) {
	f := b.Fixed
	if len(b.Batteries) > 0 {
		fs.Add(at+"count", f.Count, "a bank is gear, or batteries fixed in her, not both")
	}
	if fs.Within(at+"count", float64(f.Count), 1, 12) && f.Count%b.Series != 0 {
		fs.Add(at+"count", f.Count, fmt.Sprintf("must be so many times the %d in series", b.Series))
	}
	fs.OneOf(at+"chemistry", f.Chemistry, words.Chemistries.Keys()...)
	fs.Within(at+"volts", f.Volts, 1, 100)
	fs.Within(at+"amp_hours", f.AmpHours, 0.1, 2000)
	fs.Within(at+"cranking_a", f.Cranking, 0, 3000)
	var d kernel.Date
	if f.Since != "" && d.UnmarshalText([]byte(f.Since)) != nil {
		fs.Add(at+"in_use_since", f.Since, "must be a date, written as 2024-04-01")
	}
	named := func(m model.FixedMass) bool { return m.Name == f.Mass }
	if f.Mass != "" && !slices.ContainsFunc(e.laden.Craft.Input.Outfit.Masses, named) {
		fs.Add(at+"mass", f.Mass, "must be one of her masses")
	}
}

func chemistryOf(g *model.Gear) string {
	if g.Chemistry == "" {
		return "of no chemistry that anybody said"
	}
	return words.Chemistries.Label(g.Chemistry)
}

func (e *Electrics) checkPart(fs *check.Faults, at string, p model.PartInput) {
	fs.OneOf(at+"kind", p.Kind, words.NetParts.Keys()...)
	fs.Within(at+"mm2", p.Wire, 0, 200)
	fs.Within(at+"from_source_m", p.Near, 0, 30)
	if p.At != nil {
		checkSpot(fs, at+"at_m", *p.At)
	}
	if p.PlaceID != nil && e.laden.Place(*p.PlaceID) == nil {
		fs.Add(at+"place_id", p.Name, "the place that it is in is gone: must be a place of this boat")
	}
}

func checkSpot(fs *check.Faults, field string, at model.Vec) {
	for k := range 3 {
		fs.Within(fmt.Sprintf("%s[%d]", field, k), at[k], -model.Farthest, model.Farthest)
	}
}

func (e *Electrics) checkCircuit(fs *check.Faults, at string, c model.CircuitInput) {
	fs.OneOf(at+"kind", c.Kind, words.LoadKinds.Keys()...)
	fs.OneOf(at+"known", c.Known, words.DrawKnown.Keys()...)
	fs.OneOf(at+"loses", c.Loses, words.WireLoses.OrNone()...)
	fs.Within(at+"amps", c.Amps, 0, 500)
	fs.Within(at+"duty", c.Duty, 0, 1)
	fs.Within(at+"standing_a", c.Standing, 0, 20)
	fs.Within(at+"setting", c.Setting, 0, 1)
	fs.Within(at+"fuse_a", c.Fuse, 0, 500)
	fs.Within(at+"from_source_m", c.Near, 0, 30)
	fs.Within(at+"mm2", c.Wire, 0, 200)
	fs.Within(at+"one_way_m", c.OneWay, 0, 60)
	fs.Within(at+"slack_m", c.Slack, 0, 10)
	if c.Insul != 0 {
		fs.Within(at+"insulation_c", c.Insul, 60, 200)
	}
	fs.Within(at+"bundle", float64(c.Bundle), 0, 100)
	fs.Within(at+"connector_z_m", c.Height, 0, 6)
	fs.Within(at+"plug_mm", c.Plug, 0, 300)
	fs.Within(at+"hole_mm", c.Hole, 0, 300)
	fs.Text(at+"connector", c.Connector, 0, 60)
	fs.Text(at+"wired_by", c.WiredBy, 0, 60)
	fs.Text(at+"checked_by", c.CheckedBy, 0, 60)
	fs.Text(at+"note", c.Note, 0, 300)
	e.checkPump(fs, at+"pump.", c.Pump)
	for k, p := range c.Route {
		checkSpot(fs, fmt.Sprintf("%sroute_m[%d]", at, k), p)
	}
	for k, phase := range c.On {
		fs.OneOf(fmt.Sprintf("%son[%d]", at, k), phase, words.PhaseKinds.Keys()...)
	}
	if c.FittingID != nil && c.GearID != nil {
		fs.Add(at+"gear_id", nil, "a circuit feeds a fitting or gear, not both")
	}
	if c.FittingID != nil &&
		!slices.ContainsFunc(e.laden.Craft.Rigging, func(f model.Fitting) bool { return f.ID == *c.FittingID }) {
		fs.Add(at+"fitting_id", c.Name, "what hangs on it is not fastened to this boat any more: must be a fitting of hers")
	}
	if c.GearID != nil && e.laden.Thing(*c.GearID) == nil {
		fs.Add(at+"gear_id", c.Name, "what hangs on it is off the list: must be gear of this crew")
	}
}

// checkFuses refuses a fuse that its wire does not stand, unless somebody says that it is so.
func (e *Electrics) checkFuses(fs *check.Faults) {
	for i, c := range e.Input.Circuits {
		if c.Fuse == 0 || c.Wire == 0 || c.Anyway {
			continue
		}
		ask, _ := e.asked(c)
		if _, _, most := ask.Has(c.Wire); c.Fuse > most+1e-9 {
			fs.Add(
				fmt.Sprintf("circuits[%d].fuse_a", i),
				c.Fuse,
				fmt.Sprintf(
					"%s: its wire of %.3g mm² stands %.0f A and burns before this fuse blows; must be at most that, "+
						"or noted as it is",
					c.Name,
					c.Wire,
					most,
				),
			)
		}
	}
}

// candidates are the gear that may be a battery of hers: what is one, aboard or on the quay,
// and what is in her banks already.
func (e *Electrics) candidates() (list []model.Gear) {
	for _, g := range e.laden.Gear {
		if g.Chemistry != "" ||
			slices.ContainsFunc(
				e.Input.Banks,
				func(b model.BankInput) bool { return slices.Contains(b.Batteries, g.ID) },
			) {
			list = append(list, g)
		}
	}
	return list
}
