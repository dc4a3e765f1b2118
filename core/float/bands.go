package float

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Bands is one standard deviation of each figure, from the errors of the masses
// alone, taken as independent.
type Bands struct {
	Kg, HeelDeg, TrimDeg float64
	Lowest               float64 // of the point that is lowest, metres
	Points               []Share // the masses behind Lowest, the greatest first
}

// Share is what the error of one mass does to the lowest freeboard, metres.
type Share struct {
	Name  string
	Sigma float64 // kilograms
	M     float64
}

// Bands finds how sure the figures of a result are. Each error is carried
// through the Jacobian at rest; errors so large that the response is no longer
// straight are beyond it. The result must have figures, of this load.
func (boat *Boat) Bands(l Load, f *Figures) Bands {
	s := newSolver(boat, l)
	if len(f.Awash) > 0 {
		in := map[string]bool{}
		for _, a := range f.Awash {
			in[a.Space] = true
		}
		s = s.on(boat.flooded(in))
	}
	p := pose{trim: math.Asin(f.Up.X), heel: math.Atan2(f.Up.Y, f.Up.Z), h: f.Level - r3.Dot(f.Up, s.ref)}
	b := s.at(p)
	var sum Bands
	for _, m := range l.uncertain() {
		step, ok := s.respond(b, m.Sigma, m.At)
		if !ok {
			continue
		}
		sum.Kg += m.Sigma * m.Sigma
		sum.TrimDeg += step[1] * step[1]
		sum.HeelDeg += step[2] * step[2]
		low := s.lift(b, step, f.Lowest.At)
		sum.Lowest += low * low
		sum.Points = append(sum.Points, Share{Name: m.Name, Sigma: m.Sigma, M: math.Abs(low)})
	}
	sum.Kg, sum.Lowest = math.Sqrt(sum.Kg), math.Sqrt(sum.Lowest)
	sum.TrimDeg = math.Sqrt(sum.TrimDeg) * 180 / math.Pi
	sum.HeelDeg = math.Sqrt(sum.HeelDeg) * 180 / math.Pi / math.Cos(p.trim)
	slices.SortStableFunc(sum.Points, func(a, b Share) int { return cmp.Compare(b.M, a.M) })
	return sum
}

// respond is how she moves (level, trim, heel times cos trim) when so many
// kilograms come aboard at a point, to first order.
func (s *solver) respond(b balance, kg float64, at r3.Vec) ([3]float64, bool) {
	arm := r3.Sub(at, s.ref)
	b.force, b.forward, b.port = -kg, -kg*r3.Dot(b.frame.forward, arm), -kg*r3.Dot(b.frame.port, arm)
	return s.newtonStep(b, false)
}

// lift is how far a point rises over the water in such a movement, metres.
func (s *solver) lift(b balance, step [3]float64, at r3.Vec) float64 {
	arm := r3.Sub(at, s.ref)
	return step[1]*r3.Dot(b.frame.forward, arm) + step[2]*r3.Dot(b.frame.port, arm) - step[0]
}

// Sure is the chance, nought to one, that a value with a normal error of sigma is
// at least a limit.
func Sure(value, sigma, limit float64) float64 {
	if sigma <= 0 {
		if value >= limit {
			return 1
		}
		return 0
	}
	return 0.5 * math.Erfc((limit-value)/sigma/math.Sqrt2)
}

func dot(a, b r3.Vec) float64 { return r3.Dot(a, b) }
