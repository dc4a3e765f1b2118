package pump

import (
	"math"

	"ergasia/core/check"
)

const (
	gravity = 9.80665
	// friction of a corrugated or rough hose, and what a bend costs, in heads of velocity.
	// Darcy and Weisbach; the coefficients are practice, no source.
	friction = 0.03
	perBend  = 0.9
	// orifice is the coefficient of a sharp-edged hole. Memory: handbooks of hydraulics.
	orifice = 0.61
)

// Usual is the head at which a small pump gives nothing, where nobody said, metres.
// Practice, no source.
const Usual = 3.0

// Pump with its hose.
type Pump struct {
	Open  float64 // litres an hour against no head
	Shut  float64 // metres of head at which it gives nothing
	Lift  float64 // metres from the water to the highest point of the hose
	Hose  float64 // metres
	Bore  float64 // of the hose, metres; 0 is as wide as it need be
	Bends int
}

// Check lists what is wrong with a pump.
func (p Pump) Check(fs *check.Faults, at string) {
	fs.Within(at+"open_l_h", p.Open, 0, 100000)
	fs.Within(at+"shut_m", p.Shut, 0.1, 50)
	fs.Within(at+"lift_m", p.Lift, -2, 10)
	fs.Within(at+"hose_m", p.Hose, 0, 50)
	fs.Within(at+"bore_m", p.Bore, 0, 0.2)
	fs.Within(at+"bends", float64(p.Bends), 0, 50)
}

// Flow through its hose, litres an hour: Shut (1 - (Q/Open)²) = Lift + r Q².
func (p Pump) Flow() float64 {
	if p.Open <= 0 || p.Lift >= p.Shut {
		return 0
	}
	open := p.Open / 1000 / 3600 // m³/s
	q := math.Sqrt((p.Shut - p.Lift) / (p.Shut/(open*open) + p.resistance()))
	return min(q, open) * 1000 * 3600
}

// resistance of the hose, metres of head over (m³/s)².
func (p Pump) resistance() float64 {
	if p.Bore <= 0 {
		return 0
	}
	area := math.Pi / 4 * p.Bore * p.Bore
	heads := friction*p.Hose/p.Bore + perBend*float64(p.Bends)
	return heads / (2 * gravity * area * area)
}

// Leak is what comes through a hole so far under water, litres an hour.
func Leak(bore, depth float64) float64 {
	return orifice * math.Pi / 4 * bore * bore * math.Sqrt(2*gravity*max(0, depth)) * 1000 * 3600
}

// HoleFor is the hole so far under water through which so many litres an hour come, metres
// across.
func HoleFor(litres, depth float64) float64 {
	if depth <= 0 {
		return math.Inf(1)
	}
	area := litres / 1000 / 3600 / (orifice * math.Sqrt(2*gravity*depth))
	return math.Sqrt(4 / math.Pi * area)
}

// Drains is how many hours a tank with upright sides takes to run empty through a hole in
// its floor. Torricelli.
func Drains(litres, deep, bore float64) float64 {
	if deep <= 0 || bore <= 0 {
		return math.Inf(1)
	}
	floor := litres / 1000 / deep
	hole := orifice * math.Pi / 4 * bore * bore
	return 2 * floor * math.Sqrt(deep) / (hole * math.Sqrt(2*gravity)) / 3600
}

// scooped is the share of what meets a scoop that goes in. Practice, no source.
const scooped = 0.5

// Scoop is what a scoop of a bore takes in at a speed over a lift, litres an hour: the
// water's own head drives it.
func Scoop(bore, speed, lift float64) float64 {
	left := speed*speed - 2*gravity*lift
	if left <= 0 {
		return 0
	}
	return scooped * math.Pi / 4 * bore * bore * math.Sqrt(left) * 1000 * 3600
}
