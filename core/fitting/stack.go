package fitting

import (
	"fmt"

	"ergasia/core/check"
)

// ThreadsProud is how many threads stand out of a nut that is on far enough.
// Practice.
const ThreadsProud = 2

// Stack is what lies between the head of a screw and its nut.
type Stack struct {
	Layers  []float64 // mm: base, gasket, panel, plate
	Washer  float64   // mm, under the nut
	Nut     float64   // mm, its height; of a blind fixing the thread it needs
	Pitch   float64   // mm
	Behind  *float64  // mm, free behind the last layer; nil where nothing is near
	Lengths []float64 // mm that there are
}

// Stacked is the screw for it.
type Stacked struct {
	Needed float64  // mm
	Length *float64 // mm, the next usual length up; nil where all are too short
	Fouls  float64  // mm that it, or the length needed, stands into what is behind
}

// Check says what is wrong with a stack.
func (s Stack) Check() error {
	var fs check.Faults
	if n := len(s.Layers); n < 1 || n > 20 {
		fs.Add("layers_mm", n, "give from 1 to 20 layers")
	}
	for i, l := range s.Layers {
		fs.Within(fmt.Sprintf("layers_mm[%d]", i), l, 0, 1000)
	}
	fs.Within("washer_mm", s.Washer, 0, 50)
	fs.Within("nut_mm", s.Nut, 0, 100)
	fs.Within("pitch_mm", s.Pitch, 0.1, 10)
	if s.Behind != nil {
		fs.Within("behind_mm", *s.Behind, 0, 10000)
	}
	if n := len(s.Lengths); n < 1 || n > 100 {
		fs.Add("lengths_mm", n, "give from 1 to 100 lengths")
	}
	for i, l := range s.Lengths {
		fs.Within(fmt.Sprintf("lengths_mm[%d]", i), l, 1, 2000)
	}
	return fs.Err()
}

// Thick is all layers together, mm.
func (s Stack) Thick() (sum float64) {
	for _, l := range s.Layers {
		sum += l
	}
	return sum
}

// Up adds the layers, washer, nut and two threads, and takes the next length up.
func (s Stack) Up() Stacked {
	out := Stacked{Needed: s.Thick() + s.Washer + s.Nut + ThreadsProud*s.Pitch}
	long := out.Needed
	for _, l := range s.Lengths {
		if l >= out.Needed-1e-9 && (out.Length == nil || l < *out.Length) {
			out.Length, long = &l, l
		}
	}
	if s.Behind != nil {
		out.Fouls = max(0, long-s.Thick()-*s.Behind)
	}
	return out
}
