// Package day carries a boat's load through a whole day and says how she floats at each
// moment of it.
//
// Frame: the boat's, as in core/float. Hours count from the start of the day. Masses in
// kilograms, fuel in litres.
//
// Method: within a phase everything changes evenly (fuel burns, a tank fills, ice melts,
// fish come aboard), so the load is known in closed form at any hour; no time steps.
// She is floated at the start and end of each phase, and often enough between.
package day

import (
	"fmt"
	"math"

	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/ice"

	"gonum.org/v1/gonum/spatial/r3"
)

// Day is a boat, what is in her at its start, and what happens then.
type Day struct {
	Boat    *float.Boat
	Start   float.Load // she herself, her gear, her tanks as they are at the start
	Fuel    []int      // her tanks of fuel in the order in which they are used
	Spare   float64    // litres in cans: kept, and not burnt
	Coolers []Cooler
	Plate   Plate
	Phases  []Phase
}

// Plate is what of the load the builder's plate counts.
type Plate struct {
	Base   float64 // kg, of what is in her at the start beside tanks
	People bool
	Catch  bool
	Tanks  []bool // by tank; a short list counts no more
}

// Phase is a stretch of the day.
type Phase struct {
	Name   string
	Hours  float64
	Ashore bool         // on the road or at home: she does not float
	People []float.Mass // where they are meanwhile
	Flow   float64      // litres of fuel an hour
	Pours  []Pour
	Catch  []Catch
}

// Pour fills or empties a tank evenly to a share of it by the end of the phase; at once
// where it is said so.
type Pour struct {
	Tank   int
	Fill   float64
	AtOnce bool
}

// Catch comes aboard evenly through a phase and stays. In a well that is full to its
// overflow fish take the place of as much water: she gets no heavier.
type Catch struct {
	Kg     float64
	Well   bool
	At     r3.Vec
	Cooler int     // that it lies in and is chilled by; -1 is none
	Temp   float64 // °C, of the fish
}

// Cooler is a box with ice. Water from it stays, unless it drains.
type Cooler struct {
	Name   string
	At     r3.Vec
	Ice    float64 // kg at the start
	UA     float64 // W/K
	Air    float64 // °C around it
	Drains bool
}

// Most of what a day may have.
const (
	MostPhases  = 40
	mostHours   = 14 * 24
	mostMoments = 400
)

// Check lists what is wrong with a day.
func (d Day) Check() error {
	var fs check.Faults
	if len(d.Phases) == 0 {
		fs.Add("phases", nil, "name at least one phase")
	}
	if n := len(d.Phases); n > MostPhases {
		fs.Add("phases", n, fmt.Sprintf("at most %d", MostPhases))
		return fs
	}
	total := 0.0
	for i, p := range d.Phases {
		at := fmt.Sprintf("phases[%d].", i)
		if fs.Within(at+"h", p.Hours, 0, mostHours) {
			total += p.Hours
		}
		fs.Within(at+"flow_l_per_h", p.Flow, 0, 1000)
		for k, pour := range p.Pours {
			fs.Within(fmt.Sprintf("%spours[%d].tank", at, k), float64(pour.Tank), 0, float64(len(d.Start.Tanks)-1))
			fs.Within(fmt.Sprintf("%spours[%d].fill", at, k), pour.Fill, 0, 1)
		}
		for k, c := range p.Catch {
			fs.Within(fmt.Sprintf("%scatch[%d].kg", at, k), c.Kg, 0, 5000)
			fs.Within(fmt.Sprintf("%scatch[%d].temp", at, k), c.Temp, -5, 40)
			fs.Within(fmt.Sprintf("%scatch[%d].cooler", at, k), float64(c.Cooler), -1, float64(len(d.Coolers)-1))
		}
	}
	fs.Within("h", total, 0, mostHours)
	for i, c := range d.Coolers {
		at := fmt.Sprintf("coolers[%d].", i)
		fs.Within(at+"ice_kg", c.Ice, 0, 1000)
		fs.Within(at+"ua_w_k", c.UA, 0, 50)
		fs.Within(at+"air_c", c.Air, -30, 60)
	}
	if load, ok := d.Start.Check().(check.Faults); ok {
		fs = append(fs, load...)
	}
	return fs.Err()
}

// Moment is one instant of the day. Result is of her afloat; on the road it has no
// figures.
type Moment struct {
	Phase  int
	Hour   float64 // from the start of the day
	Ashore bool
	Load   float.Load
	Result float.Result
	Fuel   float64   // litres in her tanks, and in cans
	Short  float64   // litres that the tanks did not have
	Ice    []float64 // kg left, by cooler
	Catch  float64   // kg aboard
	Plate  float64   // kg, of what the plate counts
}

// state is what has changed since the start of the day.
type state struct {
	fills  []float64 // of the tanks
	litres []float64 // of fuel, by d.Fuel
	short  float64
	ice    []float64
	water  []float64 // melted and still there
	catch  []float.Mass
	caught float64 // kg, with what swims in wells
}

// Moments are the loads of a day that passed Check, and how she floats with each. About
// every stepHours within a phase, its start and its end. A stop of true ends it early.
func (d Day) Moments(stepHours float64, stop func() bool) []Moment {
	list := d.loads(stepHours)
	d.floatThem(list, stop)
	return list
}

// floatThem floats her at each moment afloat, each from where the last one rested.
func (d Day) floatThem(list []Moment, stop func() bool) {
	const together = 16 // between two looks at the stop
	var afloat []int
	for i, m := range list {
		if !m.Ashore {
			afloat = append(afloat, i)
		}
	}
	for len(afloat) > 0 && (stop == nil || !stop()) {
		n := min(together, len(afloat))
		loads := make([]float.Load, n)
		for k, i := range afloat[:n] {
			loads[k] = list[i].Load
		}
		for k, r := range d.Boat.Steps(loads) {
			list[afloat[k]].Result = r
		}
		afloat = afloat[n:]
	}
}

func (d Day) loads(stepHours float64) (list []Moment) {
	s := d.begin()
	hour := 0.0
	for i, p := range d.Phases {
		s.pour(p)
		for _, t := range d.steps(p, stepHours) {
			m := d.after(s, p, t)
			m.Phase, m.Hour = i, hour+t*p.Hours
			list = append(list, m)
		}
		d.advance(&s, p, 1)
		hour += p.Hours
	}
	return list
}

// steps are the shares of a phase at which she is looked at: its start, its end and
// evenly between. A phase in which nothing changes needs no more than its start and end.
func (d Day) steps(p Phase, stepHours float64) []float64 {
	n := 1
	if stepHours > 0 && !p.Ashore {
		most := max(1, mostMoments/len(d.Phases))
		n = max(1, min(most, int(math.Ceil(p.Hours/stepHours-1e-9))))
	}
	list := make([]float64, n+1)
	for k := range list {
		list[k] = float64(k) / float64(n)
	}
	return list
}

func (d Day) begin() state {
	s := state{ice: make([]float64, len(d.Coolers)), water: make([]float64, len(d.Coolers))}
	for _, t := range d.Start.Tanks {
		s.fills = append(s.fills, t.Fill)
	}
	for _, i := range d.Fuel {
		t := d.Start.Tanks[i]
		s.litres = append(s.litres, t.Volume()*1000*t.Fill)
	}
	for i, c := range d.Coolers {
		s.ice[i] = c.Ice
	}
	return s
}

// pour does what is done at once at the start of a phase.
func (s *state) pour(p Phase) {
	for _, pour := range p.Pours {
		if pour.AtOnce {
			s.fills[pour.Tank] = pour.Fill
		}
	}
}

// copied is a state that can be changed without the first.
func (s state) copied() state {
	clone := func(v []float64) []float64 { return append([]float64(nil), v...) }
	return state{
		fills:  clone(s.fills),
		litres: clone(s.litres),
		short:  s.short,
		ice:    clone(s.ice),
		water:  clone(s.water),
		caught: s.caught,
		catch:  append([]float.Mass(nil), s.catch...),
	}
}

// advance carries the state through a share of a phase.
func (d Day) advance(s *state, p Phase, share float64) {
	d.burn(s, p.Flow*p.Hours*share)
	for _, pour := range p.Pours {
		if !pour.AtOnce {
			s.fills[pour.Tank] += (pour.Fill - s.fills[pour.Tank]) * share
		}
	}
	chilled := make([]float64, len(d.Coolers))
	for _, c := range p.Catch {
		if c.Kg <= 0 {
			continue
		}
		if s.caught += c.Kg * share; !c.Well {
			s.catch = append(s.catch, float.Mass{Name: "catch", Kg: c.Kg * share, At: c.At, Sigma: c.Kg * share * catchSigma})
		}
		if c.Cooler >= 0 && !c.Well {
			chilled[c.Cooler] += ice.Chills(c.Kg*share, c.Temp)
		}
	}
	for i, c := range d.Coolers {
		melted := min(s.ice[i], ice.Melts(c.UA, c.Air)*p.Hours*share+chilled[i])
		s.ice[i] -= melted
		if !c.Drains {
			s.water[i] += melted
		}
	}
}

// catchSigma is how well a catch is foreseen, one standard deviation as a share of it.
// Practice, no source: nobody knows beforehand.
const catchSigma = 0.5

// burn takes litres out of the tanks in their order.
func (d Day) burn(s *state, litres float64) {
	for k := range d.Fuel {
		taken := min(litres, s.litres[k])
		s.litres[k] -= taken
		litres -= taken
	}
	if litres > 1e-9 {
		s.short += litres
	}
}

// after is the load at a share of a phase.
func (d Day) after(s state, p Phase, share float64) Moment {
	s = s.copied()
	d.advance(&s, p, share)
	m := Moment{Ashore: p.Ashore, Ice: s.ice, Short: s.short, Fuel: d.Spare}
	l := float.Load{WaterDensity: d.Start.WaterDensity, Tanks: append([]float.Tank(nil), d.Start.Tanks...)}
	l.Masses = append(l.Masses, d.Start.Masses...)
	l.Masses = append(append(l.Masses, p.People...), s.catch...)
	for i := range l.Tanks {
		l.Tanks[i].Fill = min(1, max(0, s.fills[i]))
		if l.Tanks[i].Fill == 0 {
			l.Tanks[i].Sigma = 0 // empty is easy to see
		}
	}
	for k, i := range d.Fuel {
		m.Fuel += s.litres[k]
		if volume := l.Tanks[i].Volume() * 1000; volume > 0 {
			l.Tanks[i].Fill = s.litres[k] / volume
		}
	}
	for i, c := range d.Coolers {
		if kg := s.ice[i] + s.water[i]; kg > 0 {
			l.Masses = append(l.Masses, float.Mass{Name: "ice in " + c.Name, Kg: kg, At: c.At})
		}
	}
	weighs := 0.0
	for _, c := range s.catch {
		weighs += c.Kg
	}
	m.Load, m.Catch, m.Plate = l, s.caught, d.counted(p, l, weighs)
	return m
}

// counted is what the plate counts of a load.
func (d Day) counted(p Phase, l float.Load, catch float64) float64 {
	kg := d.Plate.Base
	for _, m := range p.People {
		if d.Plate.People {
			kg += m.Kg
		}
	}
	for i, t := range l.Tanks {
		if i < len(d.Plate.Tanks) && d.Plate.Tanks[i] {
			kg += t.Kg()
		}
	}
	if d.Plate.Catch {
		kg += catch
	}
	return kg
}
