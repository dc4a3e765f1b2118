package power

import (
	"cmp"
	"math"
	"slices"

	"ergasia/core/circuits"
	"ergasia/core/power"
	"ergasia/store/model"
)

// Stretch is a phase of a day as her electrics see it.
type Stretch struct {
	Kind  string
	Hours float64
	Dark  float64 // share of it after sunset
	Speed float64 // metres a second, by her engine; 0 is lying still, or by the bow motor
	Runs  bool    // her engine does
	Power *model.PhasePower
}

// Outgoing is how she goes out.
type Outgoing struct {
	Stretches []Stretch
	Power     *model.DayPower
	Celsius   float64
	Days      int // that the same day is gone through, with a night between
}

// Day is what becomes of her banks on a trip.
type Day struct {
	e      *Electrics
	out    Outgoing
	banks  []model.BankInput // those of which enough is known, in the order of System.Banks
	System power.System
	Result power.Result
	legs   []leg
}

// leg is which day and stretch a phase of the system is; stretch -1 is the night between.
type leg struct{ day, stretch int }

// Charging by the engine: a share at idle, all of it from a speed on. Practice, no source.
const (
	idleShare = 0.3
	fullSpeed = 5.0 // metres a second
)

// sunShare is what a solar panel gives of its peak by day. Practice, no source.
const sunShare = 0.35

// UsualNight is how many hours she is on the charger between two days.
const UsualNight = 8

// Day carries her banks through a trip's days; nil where nothing is known of any bank.
func (e *Electrics) Day(out Outgoing) *Day {
	d := &Day{e: e, out: out}
	for _, b := range e.Input.Banks {
		one, known := e.bank(b, out.Celsius)
		if !known {
			continue
		}
		if out.Power != nil {
			for _, at := range out.Power.Starts {
				if at.Bank == b.Key {
					one.SoC = at.SoC
				}
			}
		}
		d.banks, d.System.Banks = append(d.banks, b), append(d.System.Banks, one)
	}
	if len(d.banks) == 0 || len(out.Stretches) == 0 {
		return nil
	}
	for _, c := range e.Input.Circuits {
		d.System.Loads = append(d.System.Loads, power.Load{ID: c.Key, Sigma: power.Sigmas[c.Known]})
		if c.Amps <= 0 {
			d.System.Loads[len(d.System.Loads)-1].Sigma = power.Sigmas["guess"]
		}
	}
	d.phases()
	d.Result = d.System.Run()
	return d
}

// phases are those of each day, and of the nights between.
func (d *Day) phases() {
	turned := map[string]circuits.Position{}
	long := 0.0
	for _, s := range d.out.Stretches {
		long += s.Hours
	}
	days := max(1, d.out.Days)
	if long > 24 {
		days = 1
	}
	for n := range days {
		for i, s := range d.out.Stretches {
			d.add(leg{day: n, stretch: i}, d.phase(s, turned))
		}
		if n == days-1 {
			break
		}
		rest := 24 - long
		charges := min(rest, d.night())
		night := Stretch{Kind: "road", Power: &model.PhasePower{Shore: true}}
		night.Hours = charges
		d.add(leg{day: n, stretch: -1}, d.phase(night, turned))
		night.Hours, night.Power = rest-charges, nil
		d.add(leg{day: n, stretch: -1}, d.phase(night, turned))
	}
}

func (d *Day) night() float64 {
	if p := d.out.Power; p != nil && p.Night != nil {
		return *p.Night
	}
	return UsualNight
}

func (d *Day) add(l leg, p power.Phase) {
	d.legs, d.System.Phases = append(d.legs, l), append(d.System.Phases, p)
}

func (d *Day) phase(s Stretch, turned map[string]circuits.Position) power.Phase {
	for _, t := range powerOf(s).Turned {
		if turned[t.Part] = circuits.Position(t.To); t.To == "on" {
			delete(turned, t.Part)
		}
	}
	p := power.Phase{Name: s.Kind, Hours: s.Hours, Charge: make([]float64, len(d.banks))}
	for i, c := range d.e.Input.Circuits {
		amps := d.draws(c, s)
		if amps <= 0 {
			continue
		}
		if banks := d.feeding(c.From, turned); len(banks) > 0 {
			p.Draws = append(p.Draws, power.Draw{Load: i, Amps: amps, Banks: banks})
		}
	}
	for _, c := range d.e.Input.Chargers {
		if b := d.bank(c.Bank); b >= 0 {
			p.Charge[b] += c.Amps * charging(c.Kind, s)
		}
	}
	return p
}

func powerOf(s Stretch) model.PhasePower {
	if s.Power == nil {
		return model.PhasePower{}
	}
	return *s.Power
}

func (d *Day) bank(key string) int {
	return slices.IndexFunc(d.banks, func(b model.BankInput) bool { return b.Key == key })
}

func (d *Day) feeding(from string, turned map[string]circuits.Position) (list []int) {
	for _, key := range d.e.net.Feeding(from, turned) {
		if i := d.bank(key); i >= 0 {
			list = append(list, i)
		}
	}
	return list
}

// draws is what a circuit takes in a stretch on the mean, A: on, with its duty and the
// dark; else what it takes while stowed.
func (d *Day) draws(c model.CircuitInput, s Stretch) float64 {
	usual, said := power.UsualLoads[c.Kind], powerOf(s)
	phases, dark := c.On, 1.0
	if len(phases) == 0 {
		if phases = usual.On; usual.Dark {
			dark = s.Dark
		}
	}
	on := slices.Contains(phases, s.Kind)
	if slices.Contains(said.On, c.Key) {
		on, dark = true, 1
	}
	if !on || slices.Contains(said.Off, c.Key) {
		return standing(c, usual)
	}
	duty := usual.Duty
	if c.Duty > 0 {
		duty = c.Duty
	}
	return d.full(c, usual, said) * duty * dark * d.byNight(c, s)
}

// byNight is the share of a stretch in which a livewell's pump runs: the small one by night
// in the big one's stead, where she has both.
func (d *Day) byNight(c model.CircuitInput, s Stretch) float64 {
	if c.Pump == nil || c.Pump.Well == "" {
		return 1
	}
	if c.Pump.Night {
		return s.Dark
	}
	for _, other := range d.e.Input.Circuits {
		if other.Pump != nil && other.Pump.Well == c.Pump.Well && other.Pump.Night {
			return 1 - s.Dark
		}
	}
	return 1
}

func standing(c model.CircuitInput, usual power.UsualLoad) float64 {
	if c.Standing > 0 {
		return c.Standing
	}
	return usual.Standing
}

// full is what a circuit takes while it draws, A, at its setting: a motor as the setting to
// 1.5, a lamp as its dimmer.
func (d *Day) full(c model.CircuitInput, usual power.UsualLoad, said model.PhasePower) float64 {
	setting := 0.0
	for _, s := range said.Settings {
		if s.Circuit == c.Key {
			setting = s.Share
		}
	}
	amps := d.e.amps(c)
	if usual.Setting == 0 {
		if setting > 0 {
			return amps * setting
		}
		return amps
	}
	return power.MotorAmps(amps, firstOver(setting, c.Setting, usual.Setting))
}

func firstOver(list ...float64) float64 {
	for _, v := range list {
		if v > 0 {
			return v
		}
	}
	return 0
}

// charging is what share of its amperes a charger gives in a stretch.
func charging(kind string, s Stretch) float64 {
	said := powerOf(s)
	switch {
	case kind == "engine" && s.Runs:
		return idleShare + (1-idleShare)*min(1, s.Speed/fullSpeed)
	case kind == "shore" && said.Shore, kind == "generator" && said.Generator:
		return 1
	case kind == "solar":
		return sunShare * (1 - s.Dark)
	}
	return 0
}

// Low is when a bank is nearest to what should stay in it, or under it.
type Low struct {
	Bank   model.BankInput
	Soc    float64
	Left   float64 // what should stay
	Sigma  float64 // of the charge then, one standard deviation
	At     float64 // hours from the start at which that is
	From   float64 // hours at which it first has only that; NaN is never
	Flat   float64 // hours at which nothing is left; NaN is never
	Short  float64 // Ah under what should stay
	Charge float64 // A that stay in it from a charger on shore
}

// Lows are the banks, the worst first.
func (d *Day) Lows() []Low {
	hour := 0.0
	list := make([]Low, len(d.banks))
	for i, b := range d.banks {
		bank := d.System.Banks[i]
		list[i] = Low{
			Bank: b,
			Soc:  bank.SoC,
			Left: bank.Left(),
			From: d.Result.Banks[i].EmptyAt,
			Flat: d.Result.Banks[i].FlatAt,
		}
		for _, c := range d.e.Input.Chargers {
			if c.Kind == "shore" && c.Bank == b.Key {
				list[i].Charge += c.Amps * bank.Efficiency
			}
		}
	}
	for k, p := range d.System.Phases {
		hour += p.Hours
		for i, soc := range d.Result.Phases[k] {
			if soc < list[i].Soc-1e-12 {
				list[i].Soc, list[i].At = soc, hour
			}
		}
	}
	hours := make([]float64, len(list))
	for i := range list {
		hours[i] = list[i].At
		list[i].Short = max(0, list[i].Left-list[i].Soc) * d.System.Banks[i].Ah * d.System.Banks[i].Factor
	}
	for i, bands := range d.System.Bands(hours) {
		list[i].Sigma = bands[i]
	}
	slices.SortStableFunc(list, func(a, b Low) int { return cmp.Compare(a.Soc-a.Left, b.Soc-b.Left) })
	return list
}

// Cranks is a start of her engine.
type Cranks struct {
	Bank  model.BankInput
	At    float64 // hours from the start
	Volts float64 // while it cranks; 0 where its cold-cranking amperes or her starter are not known
	Least float64
	Soc   float64
	Left  float64 // what should stay in it
	Why   string  // it does not start; empty where it does
}

// Start is the worst start of her engine: at the beginnings of what it runs in, and once
// more at the end. False where no bank of hers starts it.
func (d *Day) Start() (worst Cranks, ok bool) {
	i := slices.IndexFunc(d.banks, func(b model.BankInput) bool { return b.Role == "start" })
	if i < 0 {
		return worst, false
	}
	margin := math.Inf(1)
	for _, hour := range d.starts() {
		one := d.cranks(i, hour)
		if m := one.Margin(); m < margin {
			margin, worst = m, one
		}
	}
	return worst, true
}

// starts are the hours at which her engine is started.
func (d *Day) starts() (hours []float64) {
	hour, ran := 0.0, false
	for k, l := range d.legs {
		runs := l.stretch >= 0 && d.out.Stretches[l.stretch].Runs
		if runs && !ran {
			hours = append(hours, hour)
		}
		hour += d.System.Phases[k].Hours
		ran = runs
	}
	return append(hours, hour)
}

func (d *Day) cranks(i int, hour float64) Cranks {
	bank := d.System.Banks[i]
	c := Cranks{Bank: d.banks[i], At: hour, Soc: d.Result.At(hour)[i], Left: bank.Left(),
		Least: power.LeastCranking * bank.Volts / 12}
	warm, _ := d.e.bank(d.banks[i], 25) // the cold counts in the resistance
	s := power.Start{Chemistry: bank.Chemistry, Volts: bank.Volts, SoC: c.Soc, Left: c.Left, Factor: warm.Factor,
		Celsius: d.out.Celsius, Amps: d.e.starter()}
	for _, g := range batteriesOf(d.banks[i], d.e.laden) {
		s.CCA += g.Cranking / float64(max(1, d.banks[i].Series))
	}
	if s.CCA > 0 && s.Amps > 0 {
		c.Volts = s.Cranking()
		if starts, why := s.Starts(); !starts {
			c.Why = why
		}
		return c
	}
	s.CCA, s.Amps = 1e6, 1 // only what is left in it counts
	if starts, why := s.Starts(); !starts {
		c.Why = why
	}
	return c
}

// Margin is how far a start is from failing, as a share; below 0 it fails.
func (c Cranks) Margin() float64 {
	if c.Volts > 0 {
		return min(c.Volts/c.Least-1, c.Soc-c.Left)
	}
	return c.Soc - c.Left
}

// Between says which day, from 0, an hour of the trip is in, and the hour of that day;
// false for the nights between.
func (d *Day) Between(hour float64) (day int, of float64, afloat bool) {
	at, start := 0.0, 0.0
	for k, l := range d.legs {
		if l.day != day {
			day, start = l.day, at
		}
		end := at + d.System.Phases[k].Hours
		if hour <= end+1e-9 {
			return day, hour - start, l.stretch >= 0
		}
		at = end
	}
	return day, hour - start, true
}

// Banks are the banks whose charge is told, in the order of At.
func (d *Day) Banks() []model.BankInput { return d.banks }

// At are the states of charge at an hour, by bank.
func (d *Day) At(hour float64) []float64 { return d.Result.At(hour) }

// Left is what should stay in each bank.
func (d *Day) Left() (list []float64) {
	for _, b := range d.System.Banks {
		list = append(list, b.Left())
	}
	return list
}
