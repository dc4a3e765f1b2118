package power

import (
	"fmt"
	"math"

	"ergasia/core/check"
)

// Load is something that draws.
type Load struct {
	ID    string
	Sigma float64 // of its draw, one standard deviation as a share
}

// Draw is what a load takes in a phase, on the mean, and from which banks: from several in
// parallel by what each holds.
type Draw struct {
	Load  int
	Amps  float64
	Banks []int
}

// Phase is a stretch of steady currents.
type Phase struct {
	Name   string
	Hours  float64
	Draws  []Draw
	Charge []float64 // A into each bank, by its number; a short list charges no more
}

// System is banks, what draws from them, and the day.
type System struct {
	Banks  []Bank
	Loads  []Load
	Phases []Phase
}

// Most of what a day may have.
const (
	MostBanks  = 20
	MostLoads  = 400
	MostPhases = 1000
	mostHours  = 24 * 365
	mostAmps   = 2000
)

// Check lists what is wrong with a system.
func (s System) Check() error {
	var fs check.Faults
	if len(s.Banks) == 0 || len(s.Banks) > MostBanks {
		fs.Add("banks", len(s.Banks), fmt.Sprintf("must be 1 to %d", MostBanks))
	}
	if len(s.Phases) == 0 || len(s.Phases) > MostPhases {
		fs.Add("phases", len(s.Phases), fmt.Sprintf("must be 1 to %d", MostPhases))
	}
	if len(s.Loads) > MostLoads {
		fs.Add("loads", len(s.Loads), fmt.Sprintf("must be at most %d", MostLoads))
	}
	if len(fs) > 0 {
		return fs
	}
	seen := map[string]bool{}
	for i, b := range s.Banks {
		at := fmt.Sprintf("banks[%d].", i)
		b.check(&fs, at)
		if seen[b.ID] {
			fs.Add(at+"id", b.ID, "must be an id of its own")
		}
		seen[b.ID] = true
	}
	for i, p := range s.Phases {
		s.checkPhase(&fs, fmt.Sprintf("phases[%d].", i), p)
	}
	return fs.Err()
}

func (s System) checkPhase(fs *check.Faults, at string, p Phase) {
	fs.Within(at+"h", p.Hours, 0, mostHours)
	for k, a := range p.Charge {
		fs.Within(fmt.Sprintf("%scharge_a[%d]", at, k), a, 0, mostAmps)
	}
	for k, d := range p.Draws {
		field := fmt.Sprintf("%son[%d]", at, k)
		fs.Within(field, d.Amps, 0, mostAmps)
		if d.Load < 0 || d.Load >= len(s.Loads) {
			fs.Add(field, d.Load, "must be a load that is there")
		}
		if len(d.Banks) == 0 {
			fs.Add(field, nil, "must be fed by a bank")
		}
		for _, b := range d.Banks {
			if b < 0 || b >= len(s.Banks) {
				fs.Add(field, b, "must be fed by a bank that is there")
			}
		}
	}
}

// Through is what became of a bank in a day.
type Through struct {
	End     float64 // state of charge
	Drawn   float64 // Ah of net discharge, while there was something to draw
	Charged float64 // Ah of net charge that it took, before losses
	Lost    float64 // Ah that drawing fast cost beside what was drawn; under nought where it was drawn slowly
	Short   float64 // Ah asked for when it was flat
	EmptyAt float64 // hours from the start at which it first has only what should stay in it; NaN is never
	FlatAt  float64 // hours at which nothing was left; NaN is never
}

// stretch is a part of a phase with one set of currents.
type stretch struct {
	phase    int
	from, to float64
	soc      []float64 // at its beginning
	net      []float64 // A, discharge positive
}

// Result is a day's.
type Result struct {
	Banks     []Through
	Phases    [][]float64 // state of charge at the end of each, by bank
	system    System
	stretches []stretch
}

// Run carries a system that passed Check through its day.
func (s System) Run() Result {
	r := Result{Banks: make([]Through, len(s.Banks)), system: s}
	soc := make([]float64, len(s.Banks))
	for i, b := range s.Banks {
		soc[i] = b.SoC
		r.Banks[i].EmptyAt, r.Banks[i].FlatAt = math.NaN(), math.NaN()
		if soc[i] <= b.Left() {
			r.Banks[i].EmptyAt = 0
		}
	}
	hour := 0.0
	for i, p := range s.Phases {
		end := hour + p.Hours
		for hour < end || p.Hours == 0 {
			st := stretch{phase: i, from: hour, soc: append([]float64(nil), soc...), net: s.net(p, soc)}
			st.to = min(end, hour+s.until(p, soc, st.net))
			if end-st.to < 1e-9 {
				st.to = end
			}
			r.advance(st, soc)
			hour = st.to
			if p.Hours == 0 {
				break
			}
		}
		r.Phases = append(r.Phases, append([]float64(nil), soc...))
	}
	for i := range soc {
		r.Banks[i].End = soc[i]
	}
	return r
}

// net are the currents of the banks: what is drawn less what is charged.
func (s System) net(p Phase, soc []float64) []float64 {
	net := make([]float64, len(s.Banks))
	for _, d := range p.Draws {
		all := 0.0
		for _, b := range d.Banks {
			all += s.gives(p, b, soc)
		}
		for _, b := range d.Banks {
			switch {
			case all > 0:
				net[b] += d.Amps * s.gives(p, b, soc) / all
			default: // all are flat: each is asked alike
				net[b] += d.Amps / float64(len(d.Banks))
			}
		}
	}
	for b, amps := range p.Charge {
		if b < len(net) {
			net[b] -= amps
		}
	}
	for b := range net {
		if math.Abs(net[b]) < nothing {
			net[b] = 0
		}
	}
	return net
}

// nothing is a current so small that what it does to a bank can't be divided by, A.
const nothing = 1e-9

// gives is a bank's part of a load that several feed: what it holds, nothing where it is flat.
func (s System) gives(p Phase, b int, soc []float64) float64 {
	if soc[b] <= 0 && (b >= len(p.Charge) || p.Charge[b] <= 0) {
		return 0
	}
	return s.Banks[b].holds()
}

// until is how many hours it takes until a bank runs flat that shares a load: the others
// have it alone from then.
func (s System) until(p Phase, soc, net []float64) float64 {
	hours := math.Inf(1)
	var shares [MostBanks]bool
	for _, d := range p.Draws {
		for _, b := range d.Banks {
			shares[b] = shares[b] || len(d.Banks) > 1
		}
	}
	for b := range soc {
		if shares[b] && soc[b] > 0 && net[b] > 0 {
			hours = min(hours, soc[b]/s.Banks[b].rate(net[b]))
		}
	}
	return hours
}

func (r *Result) advance(st stretch, soc []float64) {
	for i, b := range r.system.Banks {
		t, hours, amps := &r.Banks[i], st.to-st.from, st.net[i]
		was := soc[i]
		soc[i] = b.after(was, amps, hours)
		switch {
		case amps > 0:
			t.discharge(b, was, amps, hours, st.from)
		case amps < 0:
			t.Charged += b.took(was, soc[i])
		}
	}
	r.stretches = append(r.stretches, st)
}

// after is the state of charge after so many hours of a net current, discharge positive.
func (b Bank) after(soc, amps, hours float64) float64 {
	switch {
	case amps > 0:
		left := soc - b.rate(amps)*hours
		if left < 1e-12 {
			return 0
		}
		return left
	case amps < 0:
		return b.charged(soc, -amps, hours)
	}
	return soc
}

// took is how many Ah of charge it took to go from one state to another.
func (b Bank) took(was, soc float64) float64 { return (soc - was) * b.holds() / b.Efficiency }

func (t *Through) discharge(b Bank, soc, amps, hours, from float64) {
	rate := b.rate(amps)
	if left := b.Left(); math.IsNaN(t.EmptyAt) && soc-rate*hours <= left+1e-12 {
		t.EmptyAt = from + max(0, (soc-left)/rate)
	}
	lasts := min(hours, soc/rate)
	if lasts < hours-1e-9 && math.IsNaN(t.FlatAt) {
		t.FlatAt = from + lasts
	}
	t.Drawn += amps * lasts
	t.Lost += (rate*b.holds() - amps) * lasts
	t.Short += amps * (hours - lasts)
}

// At gives the states of charge at an hour of the day, by bank.
func (r Result) At(hour float64) []float64 {
	soc := make([]float64, len(r.system.Banks))
	if len(r.stretches) == 0 {
		return soc
	}
	at := r.stretches[0]
	for _, st := range r.stretches {
		if st.from <= hour {
			at = st
		}
	}
	for i, b := range r.system.Banks {
		soc[i] = b.after(at.soc[i], at.net[i], min(max(0, hour-at.from), at.to-at.from))
	}
	return soc
}

// Bands are one standard deviation of the states of charge at some hours, by hour and
// bank: the errors of draws and of what the banks hold, each carried through the day.
func (s System) Bands(hours []float64) [][]float64 {
	bands := make([][]float64, len(hours))
	base := s.Run()
	for i := range hours {
		bands[i] = make([]float64, len(s.Banks))
	}
	add := func(other System) {
		r := other.Run()
		for i, h := range hours {
			was, is := base.At(h), r.At(h)
			for b := range is {
				bands[i][b] += (is[b] - was[b]) * (is[b] - was[b])
			}
		}
	}
	for i, l := range s.Loads {
		if l.Sigma > 0 {
			add(s.scaled(i, 1+l.Sigma))
		}
	}
	for i, b := range s.Banks {
		if b.Sigma > 0 {
			other := s
			other.Banks = append([]Bank(nil), s.Banks...)
			other.Banks[i].Factor *= 1 - min(0.9, b.Sigma)
			add(other)
		}
	}
	for i := range bands {
		for b := range bands[i] {
			bands[i][b] = math.Sqrt(bands[i][b])
		}
	}
	return bands
}

// scaled is the system with one load's draws multiplied.
func (s System) scaled(load int, by float64) System {
	s.Phases = append([]Phase(nil), s.Phases...)
	for i := range s.Phases {
		draws := append([]Draw(nil), s.Phases[i].Draws...)
		for k := range draws {
			if draws[k].Load == load {
				draws[k].Amps *= by
			}
		}
		s.Phases[i].Draws = draws
	}
	return s
}
