// Package weigh makes readings of a hanging scale into masses: it waits until
// the load hangs still, takes the tare off, and says how sure the result is. It
// also says which unweighed gear matters most to how the boat floats.
package weigh

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
)

// Window is how many readings must agree before a load counts as still. At ten
// a second that is about a second and a half. Practice, no source.
const Window = 15

// Reading is a mass that a scale showed, in kg.
type Reading = float64

// Still is a load that hangs still.
type Still struct {
	Kg    float64
	Sigma float64 // kg, of Kg: what noise leaves after the mean, and half the scale's step
}

// Steady says whether the last readings agree, and what they come to. step is
// the scale's smallest division, kg. They agree where they neither drift (the
// slope of a straight line through them, over the window, is within its own
// error three times or two steps) nor swing (their spread is within five steps
// or 1 % of the load).
func Steady(readings []Reading, step float64) (Still, bool) {
	if len(readings) < Window {
		return Still{}, false
	}
	last := readings[len(readings)-Window:]
	mean, sd := stat.MeanStdDev(last, nil)
	at := make([]float64, Window)
	for i := range at {
		at[i] = float64(i)
	}
	_, slope := stat.LinearRegression(at, last, nil, false)
	drift := math.Abs(slope) * (Window - 1)
	// The standard error of a slope over n even steps is sd / sqrt(sum of squares of the steps).
	slopeError := sd / math.Sqrt(float64(Window*(Window*Window-1))/12) * (Window - 1)
	if sd > math.Max(5*step, 0.01*math.Abs(mean)) || drift > math.Max(2*step, 3*slopeError) {
		return Still{}, false
	}
	return Still{Kg: mean, Sigma: math.Hypot(sd/math.Sqrt(Window), step/math.Sqrt(12))}, true
}

// Net takes the tare off a load; both errors add.
func Net(gross, tare Still) Still {
	return Still{Kg: gross.Kg - tare.Kg, Sigma: math.Hypot(gross.Sigma, tare.Sigma)}
}

// Unweighed is gear whose mass is not sure.
type Unweighed struct {
	ID    string
	Kg    float64 // all of it
	Sigma float64 // kg
	X, Y  float64 // m from where she floats level; nought where it is ashore
	Away  bool    // ashore: it moves nothing now
}

// Stiffness is what it takes to move a boat.
type Stiffness struct {
	KgPerM  float64 // sinkage: waterplane area times density
	Pitch   float64 // kg m per radian of trim
	Roll    float64 // kg m per radian of heel
	HalfLen float64 // m, from the centre of flotation to the end whose freeboard counts
	HalfB   float64 // m, to the side
}

// Effect is how far, in metres of freeboard at the worst corner, one standard
// deviation of the thing's mass moves the boat.
func (s Stiffness) Effect(u Unweighed) float64 {
	if u.Away || s.KgPerM <= 0 || s.Pitch <= 0 || s.Roll <= 0 {
		return 0
	}
	sink := u.Sigma / s.KgPerM
	pitch := u.Sigma * math.Abs(u.X) / s.Pitch * s.HalfLen
	roll := u.Sigma * math.Abs(u.Y) / s.Roll * s.HalfB
	return sink + pitch + roll
}

// Order puts gear that matters most to the balance first; what is ashore comes
// after, the most uncertain mass first.
func Order(s Stiffness, list []Unweighed) []Unweighed {
	list = slices.Clone(list)
	slices.SortStableFunc(list, func(a, b Unweighed) int {
		return cmp.Or(cmp.Compare(s.Effect(b), s.Effect(a)), cmp.Compare(b.Sigma, a.Sigma))
	})
	return list
}
