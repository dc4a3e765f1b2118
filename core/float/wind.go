package float

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

const (
	airDensity = 1.225 // kg/m³ at 15 °C, ICAO standard atmosphere (memory)
	dragBroad  = 1.1   // of a hull's side and of people, near a flat plate's 1.1 to 1.2. Hoerner (memory)
	standardG  = 9.80665
)

// Sail is something that stands over the sheer and catches the wind from
// abeam: a person, a console, a canopy. Area in m², Z the height of its middle.
type Sail struct {
	Name string
	Area float64
	Z    float64
}

// Wind is what a steady wind from abeam does.
type Wind struct {
	HeelDeg float64 // to the lee side; NaN where she is blown over
	Lowest  float64 // freeboard then, metres; NaN where she is blown over
	Through string
	Area    float64 // m² over water, upright
	Arm     float64 // metres from the middle of the area to half the draft
	Moment  float64 // N m, upright
}

// Abeam finds the heel in a steady wind, metres a second, on her weak side. The
// moment ½ ρ C A v² times the arm falls with the square of the heel's cosine.
// Gusts and waves do more. It gives no wind where the boat does not rest.
func (boat *Boat) Abeam(l Load, speed float64, sails []Sail) (Wind, bool) {
	s := newSolver(boat, l)
	r, rest := s.result(nil)
	s = s.awash(&r, &rest)
	if r.Figures == nil {
		return Wind{}, false
	}
	w := s.side(r.Figures, sails)
	w.Moment = airDensity / 2 * dragBroad * w.Area * speed * speed * w.Arm
	lee := 1.0
	if rest.heel < 0 {
		lee = -1
	}
	last := rest
	blown := func(deg float64) (float64, Lever) { // righting less heeling arm
		lever := s.lever(rest, &last, deg)
		cos := math.Cos(deg * math.Pi / 180)
		return lee*lever.GZ - w.Moment*cos*cos/s.mass/standardG, lever
	}
	w.HeelDeg = math.NaN()
	low := rest.heel * 180 / math.Pi
	for deg := low + lee*1; math.Abs(deg) <= 60; deg += lee {
		over, lever := blown(deg)
		if !(over >= 0) {
			low = deg
			continue
		}
		high := deg
		for range 30 {
			if over, lever = blown((low + high) / 2); over >= 0 {
				high = (low + high) / 2
			} else {
				low = (low + high) / 2
			}
		}
		w.HeelDeg, w.Lowest, w.Through = math.Abs(high), lever.Lowest.M, lever.Lowest.Name
		return w, true
	}
	w.Lowest = math.NaN()
	return w, true
}

// side is the area over water seen from abeam, with its arm to half the draft.
func (s *solver) side(f *Figures, sails []Sail) Wind {
	water := func(x float64) float64 { return (f.Level - f.Up.X*x) / f.Up.Z }
	var area, moment float64
	for i := 0; i+3 < len(s.Shell.Sheer); i += 2 {
		a, b := s.Shell.Sheer[i], s.Shell.Sheer[i+2]
		ha, hb := max(a.Z-water(a.X), 0), max(b.Z-water(b.X), 0)
		part := (ha + hb) / 2 * (b.X - a.X)
		area += part
		moment += part * ((water(a.X)+water(b.X))/2 + (ha+hb)/4)
	}
	for _, sail := range sails {
		area += sail.Area
		moment += sail.Area * sail.Z
	}
	middle := (s.Shell.Low.X + s.Shell.High.X) / 2
	return Wind{Area: area, Arm: moment/area - water(middle)/2}
}

// LongestArm is where a person hauled in over the side hangs: on the sheer where
// she is broadest, to port (+1) or starboard (-1).
func (boat *Boat) LongestArm(side float64) r3.Vec {
	var best r3.Vec
	for _, p := range boat.Shell.Sheer {
		if p.Y*side > best.Y*side {
			best = p
		}
	}
	return best
}
