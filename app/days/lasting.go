package days

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/app/kernel"
	"ergasia/app/power"
	corepower "ergasia/core/power"
	"ergasia/store/model"
)

// attempt is a change that may help her batteries last.
type attempt struct {
	Remedy
	about string
	day   func() *power.Day
}

// spared are the kinds that a crew can do without; what keeps fish and bait alive is none.
var spared = []string{"stereo", "socket", "fridge", "deck-light", "lamps", "plotter", "sonar", "scanner"}

// timed are the kinds that a timer may run half of the time.
var timed = []string{"livewell", "bait", "aerator", "fridge"}

// lasting tries single changes of what draws, charges and feeds, each through the whole
// trip, and tells the best with what they do. None is told that does nothing.
func (o *Outing) lasting(stop func() bool) (list []Remedy, tried int) {
	base := o.power()
	if base == nil {
		return nil, 0
	}
	wrong, key := o.failing(base)
	if key == "" {
		return nil, 0
	}
	type helped struct {
		Remedy
		about  string
		margin float64
	}
	var all []helped
	was, others := o.marginOf(base, wrong, key), o.othersHold()
	for _, a := range o.attempts(base, wrong) {
		if stop() {
			break
		}
		tried++
		d := a.day()
		if d == nil {
			continue
		}
		with := o.marginOf(d, wrong, key)
		if with < was+leastCharge {
			continue
		}
		one := a.Remedy
		_, still := o.failing(d)
		one.For, one.Holds, one.Effect = key, still == "" && others, o.chargeEffect(d, wrong, key)
		all = append(all, helped{Remedy: one, about: a.about, margin: with})
	}
	slices.SortStableFunc(all, func(a, b helped) int { // the mildest that is enough, then what helps most
		if enough := a.margin >= 0; enough != (b.margin >= 0) {
			return map[bool]int{true: -1, false: 1}[enough]
		} else if enough {
			return cmp.Compare(a.margin, b.margin)
		}
		return cmp.Compare(b.margin, a.margin)
	})
	told := map[string]bool{}
	for _, h := range all {
		if len(list) < mostForOne && !told[h.about] {
			told[h.about] = true
			list = append(list, h.Remedy)
		}
	}
	return list, tried
}

// leastCharge is by how much more must be left in a bank for a change to be worth a word.
const leastCharge = 0.01

// failing says which bank fails and as what: it runs down, or does not start her.
func (o *Outing) failing(d *power.Day) (bank, key string) {
	if low := d.Lows()[0]; !lasts(low) {
		return low.Bank.Key, "power"
	}
	if c, ok := d.Start(); ok && c.Why != "" {
		return c.Bank.Key, "start"
	}
	return "", ""
}

// marginOf is how far a bank is from failing: its charge over what should stay, or the
// volts while it cranks over those that it takes.
func (o *Outing) marginOf(d *power.Day, bank, key string) float64 {
	if key == "start" {
		c, _ := d.Start()
		return c.Margin()
	}
	for _, l := range d.Lows() {
		if l.Bank.Key == bank {
			return l.Soc - l.Left
		}
	}
	return math.Inf(-1)
}

// othersHold says whether everything but her batteries holds.
func (o *Outing) othersHold() bool {
	readings := o.Limits().Read(o.Day(), o.Day().Moments(0, nil))
	for _, r := range readings {
		if !r.Kept() {
			return false
		}
	}
	return true
}

func (o *Outing) chargeEffect(d *power.Day, bank, key string) []string {
	if key == "start" {
		if c, _ := d.Start(); c.Why == "" {
			return []string{"she starts"}
		}
	}
	for _, l := range d.Lows() {
		if l.Bank.Key != bank {
			continue
		}
		if lasts(l) {
			return []string{fmt.Sprintf("the %s lasts: %.0f %% left at its lowest", l.Bank.Name, l.Soc*100)}
		}
		return []string{
			fmt.Sprintf("%.0f %% left in the %s at the end, %.0f Ah short", l.Soc*100, l.Bank.Name, l.Short),
		}
	}
	return nil
}

// attempts are what may help a bank: what draws from it off, at half its time or at less
// of its setting, hung on another bank, a selector turned, a longer charge.
func (o *Outing) attempts(base *power.Day, bank string) (list []attempt) {
	for _, c := range o.Wired.Input.Circuits {
		if !slices.Contains(o.Wired.Feeding(c.From), bank) {
			continue
		}
		list = append(list, o.lessOf(c)...)
		list = append(list, o.hungElsewhere(c, bank)...)
	}
	list = append(list, o.turnedOver(bank)...)
	return append(list, o.charged(base, bank)...)
}

// withPower is the plan with one thing otherwise in each phase.
func (o *Outing) withPower(change func(p *model.PhasePower)) model.DayPlan {
	plan := o.Plan
	plan.Phases = slices.Clone(plan.Phases)
	for i := range plan.Phases {
		var p model.PhasePower
		if was := plan.Phases[i].Power; was != nil {
			p = *was
			p.Off, p.Settings = slices.Clone(was.Off), slices.Clone(was.Settings)
		}
		change(&p)
		plan.Phases[i].Power = &p
	}
	return plan
}

func (o *Outing) planned(about, say string, plan model.DayPlan) attempt {
	return attempt{Remedy: Remedy{Kind: "power", Say: say, Plan: &plan}, about: about,
		day: func() *power.Day { return o.powerOf(o.Wired, plan) }}
}

// lessOf a circuit: off, a timer, a lower setting.
func (o *Outing) lessOf(c model.CircuitInput) (list []attempt) {
	name := kernel.Capital(c.Name)
	if slices.Contains(spared, c.Kind) {
		plan := o.withPower(func(p *model.PhasePower) { p.Off = append(p.Off, c.Key) })
		list = append(list, o.planned(c.Key, name+" off all day", plan))
	}
	usual := corepower.UsualLoads[c.Kind]
	duty := cmp.Or(c.Duty, usual.Duty)
	if slices.Contains(timed, c.Kind) && duty > 0.2 {
		other := o.rewired(func(c2 *model.CircuitInput) {
			if c2.Key == c.Key {
				c2.Duty = duty / 2
			}
		})
		list = append(list, attempt{about: c.Key, Remedy: Remedy{Kind: "wire", Wire: c.Key,
			Say: fmt.Sprintf("%s on a timer, %.0f %% of the time", name, duty*50)},
			day: func() *power.Day { return o.powerOf(other, o.Plan) }})
	}
	if setting := cmp.Or(c.Setting, usual.Setting); setting > 0 {
		for _, share := range []float64{0.9, 0.8, 0.7} {
			to := math.Round(setting*share*100) / 100
			plan := o.withPower(func(p *model.PhasePower) {
				p.Settings = slices.DeleteFunc(p.Settings, func(s model.Setting) bool { return s.Circuit == c.Key })
				p.Settings = append(p.Settings, model.Setting{Circuit: c.Key, Share: to})
			})
			say := fmt.Sprintf("%s at %.0f %%, not %.0f %%", name, to*100, setting*100)
			list = append(list, o.planned(c.Key, say, plan))
		}
	}
	return list
}

// rewired are her electrics with circuits changed.
func (o *Outing) rewired(change func(*model.CircuitInput)) *power.Electrics {
	in := o.Wired.Input
	in.Circuits = slices.Clone(in.Circuits)
	for i := range in.Circuits {
		change(&in.Circuits[i])
	}
	return o.Wired.With(in)
}

// hungElsewhere hangs a circuit on another bank of the same volts.
func (o *Outing) hungElsewhere(c model.CircuitInput, bank string) (list []attempt) {
	for _, b := range o.Wired.Input.Banks {
		if b.Key == bank || b.Role == "start" || c.Kind == "engine" || !o.Wired.Alike(b.Key, bank) {
			continue
		}
		other := o.rewired(func(c2 *model.CircuitInput) {
			if c2.Key == c.Key {
				c2.From = b.Key
			}
		})
		list = append(list, attempt{about: c.Key, Remedy: Remedy{Kind: "wire", Wire: c.Key,
			Say: fmt.Sprintf("Hang %s on the %s", c.Name, b.Name)},
			day: func() *power.Day { return o.powerOf(other, o.Plan) }})
	}
	return list
}

// turnedOver turns a selector that the bank hangs on, from each phase on.
func (o *Outing) turnedOver(bank string) (list []attempt) {
	for _, p := range o.Wired.Input.Parts {
		if p.Kind != "selector" || !slices.Contains(o.Wired.Feeding(p.Key), bank) {
			continue
		}
		for i, ph := range o.Plan.Phases {
			if slices.Contains(ashore, ph.Kind) {
				continue
			}
			for _, to := range []string{"1", "2", "both"} {
				plan := o.Plan
				plan.Phases = slices.Clone(plan.Phases)
				one := model.PhasePower{}
				if ph.Power != nil {
					one = *ph.Power
				}
				one.Turned = append(slices.Clone(one.Turned), model.Turned{Part: p.Key, To: to})
				plan.Phases[i].Power = &one
				say := fmt.Sprintf("%s to %s from %s on", kernel.Capital(p.Name), to, nameOf(ph))
				list = append(list, o.planned(p.Key, say, plan))
			}
		}
	}
	return list
}

// charged charges the bank for longer: before she goes out, and in the nights between.
func (o *Outing) charged(base *power.Day, bank string) (list []attempt) {
	set := model.DayPower{}
	if o.Plan.Power != nil {
		set = *o.Plan.Power
	}
	for i, b := range base.Banks() {
		if b.Key != bank || base.System.Banks[i].SoC > 0.995 {
			continue
		}
		plan, now := o.Plan, set
		now.Starts = slices.DeleteFunc(slices.Clone(set.Starts), func(l model.BankLevel) bool { return l.Bank == bank })
		plan.Power = &now
		list = append(list, o.planned("start "+bank, fmt.Sprintf("Charge the %s full before", b.Name), plan))
	}
	if o.days() < 2 {
		return list
	}
	for _, hours := range []float64{8, 10, 12, 14, 16} {
		if set.Night == nil && hours <= power.UsualNight || set.Night != nil && hours <= *set.Night {
			continue
		}
		plan, now := o.Plan, set
		now.Night = &hours
		plan.Power = &now
		list = append(
			list,
			o.planned("night", fmt.Sprintf("On the charger for %.0f h in the night between", hours), plan),
		)
	}
	return list
}
