package days

import (
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/power"
	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/store"
	"ergasia/store/model"
)

// wired reads her electrics, as old as they are on the trip's first day.
func (o *Outing) wired(tx *store.Tx) error {
	e, err := power.Of(tx, o.Laden, o.Trip.StartsOn)
	if err != nil {
		return err
	}
	if len(e.Input.Banks) > 0 {
		o.Wired = e
	}
	return nil
}

// mostPower is more than a small boat has circuits, and bounds what one plan keeps.
const mostPower = 200

func checkPower(fs *check.Faults, p *model.DayPower) {
	if p == nil {
		return
	}
	if len(p.Starts) > mostPower {
		fs.Add("plan.power.starts", len(p.Starts), fmt.Sprintf("%d at most", mostPower))
	}
	for i, s := range p.Starts {
		fs.Within(fmt.Sprintf("plan.power.starts[%d].soc", i), s.SoC, 0, 1)
	}
	if p.Night != nil {
		fs.Within("plan.power.night_charge_h", *p.Night, 0, 24)
	}
}

func checkPhasePower(fs *check.Faults, at string, p *model.PhasePower) {
	if p == nil {
		return
	}
	if n := max(len(p.Off), len(p.Turned), len(p.Settings)); n > mostPower {
		fs.Add(at, n, fmt.Sprintf("%d of a kind at most", mostPower))
	}
	for i, t := range p.Turned {
		fs.OneOf(fmt.Sprintf("%s.turned[%d].to", at, i), t.To, "1", "2", "both", "on", "off")
	}
	for i, s := range p.Settings {
		fs.Within(fmt.Sprintf("%s.settings[%d].share", at, i), s.Share, 0, 1)
	}
}

// power is what becomes of her banks on the trip; nil where nothing is known of them.
func (o *Outing) power() *power.Day {
	if o.Wired == nil {
		return nil
	}
	if o.banked == nil {
		o.banked = o.powerOf(o.Wired, o.Plan)
	}
	return o.banked
}

// powerOf is the same with other electrics or another plan of the day.
func (o *Outing) powerOf(e *power.Electrics, plan model.DayPlan) *power.Day {
	out := power.Outgoing{Power: plan.Power, Celsius: plan.Air, Days: o.days()}
	light, begins := o.light(), o.Begins()
	for i, p := range plan.Phases {
		speed, hours, _ := o.speedOf(p)
		s := power.Stretch{
			Kind:  p.Kind,
			Hours: hours,
			Speed: speed,
			Power: p.Power,
		}
		s.Runs = speed > 0 && !slices.Contains(ashore, p.Kind)
		s.Dark = o.dusk(light, begins[i], begins[i+1])
		out.Stretches = append(out.Stretches, s)
	}
	return e.Day(out)
}

// days is over how many the trip goes.
func (o *Outing) days() int {
	return 1 + int(math.Round(o.Trip.EndsOn.Sub(o.Trip.StartsOn).Hours()/24))
}

// dusk is what share of a time lies after sunset or before sunrise.
func (o *Outing) dusk(l *LightView, from, to float64) float64 {
	switch {
	case l == nil || l.Rise == nil || l.Set == nil:
		if l != nil && l.Kind == "up" || l == nil && o.Trip.Kind != "night" {
			return 0
		}
		return 1
	case to <= from:
		return 0
	}
	light := 0.0
	for day := -1.0; day <= 14; day++ {
		light += max(0, min(to, *l.Set+day*24*60)-max(from, *l.Rise+day*24*60))
	}
	return 1 - min(1, light/(to-from))
}

// addPower tells the banks on the time line, and whether they last and she starts.
func (o *Outing) addPower(a *DayAnswer) {
	d := o.power()
	if d == nil {
		return
	}
	lows := d.Lows()
	for i, b := range d.Banks() {
		kept := slices.ContainsFunc(lows, func(l power.Low) bool { return l.Bank.Key == b.Key && lasts(l) })
		a.Banks = append(a.Banks, BankOfDay{Key: b.Key, Name: b.Name, Left: d.Left()[i], Kept: kept})
	}
	if !lasts(lows[0]) && o.days() > 1 {
		day, _, _ := d.Between(lows[0].From)
		a.BanksDay = day + 1
	}
	hours := make([]float64, len(a.Moments))
	for i := range a.Moments {
		hours[i] = (a.Moments[i].At-o.Begins()[0])/60 + 24*float64(max(0, a.BanksDay-1))
	}
	bands := d.System.Bands(hours)
	for i := range a.Moments {
		a.Moments[i].Charge, a.Moments[i].Spread = d.At(hours[i]), bands[i]
	}
	a.Readings = append(a.Readings, o.lowReading(a, d, lows[0]))
	if c, ok := d.Start(); ok {
		a.Readings = append(a.Readings, o.startReading(a, d, c))
	}
}

func lasts(l power.Low) bool { return math.IsNaN(l.From) }

func (o *Outing) lowReading(a *DayAnswer, d *power.Day, l power.Low) ReadingView {
	at := l.At
	if !lasts(l) {
		at = l.From
	}
	v := o.reads(a, d, "power", at)
	v.Kept, v.Limit = lasts(l), fmt.Sprintf("%.0f %% to stay in it, by practice", l.Left*100)
	sure := float.Sure(l.Soc, l.Sigma, l.Left)
	v.Sure, v.Certain = &sure, aboard.Certainty(sure)
	name := "the " + l.Bank.Name
	if v.Kept {
		v.Sentence = fmt.Sprintf(
			"%s has %.0f ± %.0f %% left at its lowest, %s.",
			kernel.Capital(name),
			l.Soc*100,
			l.Sigma*100,
			o.when(a, d, l.At),
		)
		return v
	}
	v.Sentence = fmt.Sprintf(
		"%s: %s is down to %.0f %%, and to %.0f ± %.0f %% at its lowest.",
		kernel.Capital(o.when(a, d, at)),
		name,
		l.Left*100,
		l.Soc*100,
		l.Sigma*100,
	)
	if !math.IsNaN(l.Flat) {
		v.Sentence += " It is flat " + o.when(a, d, l.Flat) + "."
	}
	short := fmt.Sprintf("%.0f Ah are short", l.Short)
	if l.Charge > 0 {
		short += fmt.Sprintf(", %s of its charger", span(l.Short/l.Charge))
	}
	v.Because = append(v.Because, short+".")
	return v
}

func (o *Outing) startReading(a *DayAnswer, d *power.Day, c power.Cranks) ReadingView {
	v := o.reads(a, d, "start", c.At)
	v.Kept, v.Limit = c.Why == "", fmt.Sprintf(
		"%.1f V while it cranks and %.0f %% in it, by practice",
		c.Least,
		c.Left*100,
	)
	when := o.when(a, d, c.At)
	switch {
	case !v.Kept:
		v.Sentence = fmt.Sprintf("%s: her engine does not start: %s.", kernel.Capital(when), c.Why)
	case c.Volts > 0:
		v.Sentence = fmt.Sprintf(
			"Her engine starts each time; the hardest is %s, with %.1f V while it cranks.",
			when,
			c.Volts,
		)
	default:
		v.Sentence = fmt.Sprintf("The %s has %.0f %% left to start her with, %s.", c.Bank.Name, c.Soc*100, when)
	}
	return v
}

// reads is a reading at an hour of the trip, shown at that time of its first day.
func (o *Outing) reads(a *DayAnswer, d *power.Day, key string, hour float64) ReadingView {
	_, of, _ := d.Between(hour)
	begin := o.Begins()[0]
	v := ReadingView{Key: key, Moment: max(0, len(a.Moments)-1), From: begin + hour*60, Because: []string{}}
	for i := range a.Moments {
		if a.Moments[i].At >= begin+of*60-1e-6 {
			v.Moment = i
			break
		}
	}
	return v
}

// when words an hour of the trip: the time, the day where there are several, the phase.
func (o *Outing) when(a *DayAnswer, d *power.Day, hour float64) string {
	day, of, afloat := d.Between(hour)
	begin := o.Begins()[0]
	text := "at " + Clock(begin+of*60)
	if o.days() > 1 {
		text += fmt.Sprintf(" on day %d", day+1)
	}
	if !afloat {
		return text + ", in the night between"
	}
	for _, p := range a.Phases {
		if begin+of*60 <= p.To+1e-6 {
			return text + ", " + p.Name
		}
	}
	return text
}

// addWell says whether her livewells keep the fish that are planned to swim in them.
func (o *Outing) addWell(a *DayAnswer) {
	if o.Wired == nil {
		return
	}
	keeps, known := o.Wired.Keeps(o.Plan.Water)
	if !known {
		return
	}
	planned, v := 0.0, ReadingView{Key: "well", Kept: true, Because: []string{}}
	for i, p := range o.Plan.Phases {
		for _, c := range p.Catch {
			if c.Place != nil {
				continue
			}
			if planned += c.Kg; planned > keeps && v.Kept {
				v.Kept, v.From = false, a.Phases[i].From
			}
		}
	}
	for i := range a.Moments {
		if v.Moment = i; v.Kept || a.Moments[i].At >= v.From {
			break
		}
	}
	mass := o.Laden.MassText
	at := o.Laden.Units.Temperature(o.Plan.Water)
	v.Limit = fmt.Sprintf("%s at %s, the lesser of litres and oxygen, by practice", mass(keeps), at)
	v.Sentence = fmt.Sprintf("Her livewell keeps %s of fish at %s.", mass(keeps), at)
	if !v.Kept {
		v.Sentence = fmt.Sprintf("%s of fish are planned for her livewell, and at %s it keeps %s.", mass(planned),
			at, mass(keeps))
	}
	a.Readings = append(a.Readings, v)
}
