package float

import (
	"math"
)

// Curve is the righting arms to one side, with trim free, from where she rests.
type Curve struct {
	Side   float64 // +1 to starboard, -1 to port
	Levers []Lever
	// Flood is the least heel at which water comes in, over the sheer or through a
	// flood point, degrees; NaN where none is reached on the curve. Scupper is the
	// same of an opening that leads into a space only.
	Flood, Scupper               float64
	FloodThrough, ScupperThrough string
	// Vanishes is the heel at which she no longer rights, degrees; NaN where
	// she still does at the end of the curve.
	Vanishes  float64
	Greatest  float64 // righting arm, metres
	AtDeg     float64
	AreaToEnd float64 // metre radians, from rest to the first of flooding, vanishing and the curve's end
	Awash     bool    // the sea stands in a space; the levers are with it
}

// Range is the heel, degrees to the curve's side, up to which she rights and
// stays dry: the lesser of flooding and vanishing.
func (c Curve) Range() float64 {
	end := c.Levers[len(c.Levers)-1].HeelDeg * c.Side
	for _, v := range []float64{c.Flood, c.Vanishes} {
		if v < end { // NaN never is
			end = v
		}
	}
	return end
}

// Curves finds the righting arms to starboard and to port, from upright to limit
// degrees in as many steps. It gives none where she does not rest. The load must
// have passed Check; steps must be at least 1.
func (boat *Boat) Curves(l Load, limitDeg float64, steps int) []Curve {
	s := newSolver(boat, l)
	r, rest := s.result(nil)
	s = s.awash(&r, &rest)
	if r.Figures == nil {
		return nil
	}
	var curves []Curve
	for _, side := range []float64{1, -1} {
		c := s.curve(rest, side, limitDeg, steps)
		c.Awash = len(r.Figures.Awash) > 0
		curves = append(curves, c)
	}
	return curves
}

func (s *solver) curve(rest pose, side, limitDeg float64, steps int) Curve {
	c := Curve{Side: side, Flood: math.NaN(), Scupper: math.NaN(), Vanishes: math.NaN()}
	last := rest
	var trail []pose
	for i := range steps + 1 {
		l := s.lever(rest, &last, side*limitDeg*float64(i)/float64(steps))
		c.Levers, trail = append(c.Levers, l), append(trail, last)
		if gz := side * l.GZ; gz > c.Greatest {
			c.Greatest, c.AtDeg = gz, side*l.HeelDeg
		}
	}
	restDeg := side * rest.heel * 180 / math.Pi
	s.events(&c, rest, trail, max(restDeg, 0))
	c.AreaToEnd = s.areaUnder(c, rest, restDeg)
	return c
}

// events finds, between the steps of the curve, where water comes in and where
// the arm vanishes.
func (s *solver) events(c *Curve, rest pose, trail []pose, restDeg float64) {
	side := c.Side
	c.Flood = s.crossing(c, rest, trail, 0, func(l Lever, _ pose) float64 { return l.Lowest.M })
	if !math.IsNaN(c.Flood) {
		last := rest
		c.FloodThrough = s.lever(rest, &last, side*(c.Flood+0.02)).Lowest.Name
	}
	for _, p := range s.floods {
		if p.Space == "" {
			continue
		}
		deg := s.crossing(c, rest, trail, 0, func(_ Lever, q pose) float64 { // how far the opening is over water
			f := attitude(q.trim, q.heel)
			return dot(f.up, p.At) - q.h - dot(f.up, s.ref)
		})
		if !math.IsNaN(deg) && !(deg >= c.Scupper) {
			c.Scupper, c.ScupperThrough = deg, p.Name
		}
	}
	from := 0
	for from < len(c.Levers) && !(c.Levers[from].HeelDeg*side > restDeg) {
		from++
	}
	c.Vanishes = s.crossing(c, rest, trail, max(from-1, 0), func(l Lever, _ pose) float64 {
		if l.HeelDeg*side <= restDeg+0.05 { // at rest the arm is nought, and grows from there
			return 1
		}
		return side * l.GZ
	})
}

// crossing gives the heel at which a value that was positive falls to nought,
// within a hundredth of a degree: first by the steps, then by halving.
func (s *solver) crossing(c *Curve, rest pose, trail []pose, from int, value func(Lever, pose) float64) float64 {
	for i := from; i < len(c.Levers); i++ {
		if math.IsNaN(c.Levers[i].GZ) || value(c.Levers[i], trail[i]) > 0 {
			continue
		}
		if i == from {
			return c.Side * c.Levers[i].HeelDeg
		}
		low, high := c.Levers[i-1].HeelDeg, c.Levers[i].HeelDeg
		for math.Abs(high-low) > 0.01 {
			p := trail[i-1]
			l := s.lever(rest, &p, (low+high)/2)
			if math.IsNaN(l.GZ) || value(l, p) > 0 {
				low = l.HeelDeg
			} else {
				high = l.HeelDeg
			}
		}
		return c.Side * (low + high) / 2
	}
	return math.NaN()
}

// areaUnder is the area under the arm from rest, on whichever side of upright that
// is, to the end of her range: by Simpson's rule over twice as many steps until
// that changes it by less than half a thousandth.
func (s *solver) areaUnder(c Curve, rest pose, restDeg float64) float64 {
	end := c.Range()
	if !(end > restDeg) {
		return 0
	}
	const least, most = 16, 256
	was := 0.0
	for n := least; ; n *= 2 {
		step := (end - restDeg) / float64(n)
		sum, last := 0.0, rest
		for i := range n + 1 {
			weight := 2.0 + 2*float64(i%2)
			if i == 0 || i == n {
				weight = 1
			}
			if arm := c.Side * s.lever(rest, &last, c.Side*(restDeg+float64(i)*step)).GZ; !math.IsNaN(arm) {
				sum += weight * arm
			}
		}
		now := sum * step / 3 * math.Pi / 180
		if n > least && math.Abs(now-was) <= 5e-4*math.Abs(now) || n == most {
			return now
		}
		was = now
	}
}

// Steps solves a day's loads one after the other, each from where the last one
// rested, which costs less than each by itself. Loads must have passed Check.
func (boat *Boat) Steps(loads []Load) []Result {
	results := make([]Result, len(loads))
	var last *pose
	for i, l := range loads {
		s := newSolver(boat, l)
		r, rest := s.result(s.from(last))
		if r.Figures == nil && last != nil {
			r, rest = s.result(nil)
		}
		if s.awash(&r, &rest); r.Figures != nil {
			kept := rest
			kept.h += dot(attitude(rest.trim, rest.heel).up, s.ref) // of the origin, since ref moves with the load
			last = &kept
		} else {
			last = nil
		}
		results[i] = r
	}
	return results
}

// from puts a pose, its level over the origin, over this load's reference.
func (s *solver) from(last *pose) *pose {
	if last == nil {
		return nil
	}
	p := *last
	p.h -= dot(attitude(p.trim, p.heel).up, s.ref)
	return &p
}
