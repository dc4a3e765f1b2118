package fitting

import (
	"fmt"
	"math"

	"ergasia/core/check"
)

// ProofA470 is the proof stress of stainless bolts of class A4-70, MPa (ISO 3506,
// memory).
const ProofA470 = 450.0

// Bolts is a group of bolts under a moment about the x axis of its pattern and a
// shear in its plane.
type Bolts struct {
	Pattern [][2]float64 // mm, each bolt's x and y
	Size    Screw
	Moment  float64 // N·m, about the x axis; positive pulls at those of greater y
	Shear   float64 // N, shared evenly
	Pull    float64 // N straight off the panel, shared evenly
}

// Held is how bolts bear their load.
type Held struct {
	Tension []float64 // N by bolt; negative is pressed
	Shear   float64   // N on each
	Stress  float64   // MPa, of the greatest tension over the stress area
	Proof   float64   // MPa
	Factor  float64   // proof over stress; infinite where nothing pulls
}

// Check says what is wrong with the group.
func (b Bolts) Check() error {
	var fs check.Faults
	if n := len(b.Pattern); n < 1 || n > 64 {
		fs.Add("pattern_mm", n, "give from 1 to 64 bolts")
	}
	for i, p := range b.Pattern {
		fs.Within(fmt.Sprintf("pattern_mm[%d][0]", i), p[0], -5000, 5000)
		fs.Within(fmt.Sprintf("pattern_mm[%d][1]", i), p[1], -5000, 5000)
	}
	fs.Within("moment_n_m", b.Moment, -1e6, 1e6)
	fs.Within("shear_n", b.Shear, -1e6, 1e6)
	if fs.Err() == nil && b.Moment != 0 && b.leverage() < 1e-9 {
		fs.Add("pattern_mm", nil, "all bolts lie on one line along x, which holds no moment about it: place some beside it")
	}
	return fs.Err()
}

// leverage is Σ y² about the middle of the group, mm².
func (b Bolts) leverage() (sum float64) {
	middle := b.middle()
	for _, p := range b.Pattern {
		sum += (p[1] - middle) * (p[1] - middle)
	}
	return sum
}

func (b Bolts) middle() (y float64) {
	for _, p := range b.Pattern {
		y += p[1] / float64(len(b.Pattern))
	}
	return y
}

// Hold shares the load out: T_i = M y_i / Σ y² about the group's middle, and V/n.
func (b Bolts) Hold() Held {
	n := float64(len(b.Pattern))
	h := Held{Tension: make([]float64, len(b.Pattern)), Shear: b.Shear / n, Proof: ProofA470, Factor: math.Inf(1)}
	leverage, middle := b.leverage(), b.middle()
	greatest := 0.0
	for i, p := range b.Pattern {
		h.Tension[i] = b.Pull / n
		if leverage > 0 {
			h.Tension[i] += b.Moment * 1000 * (p[1] - middle) / leverage
		}
		greatest = max(greatest, h.Tension[i])
	}
	h.Stress = greatest / b.Size.Area
	if h.Stress > 0 {
		h.Factor = h.Proof / h.Stress
	}
	return h
}

// Rectangle is the usual pattern of n bolts on a foot of a by b millimetres: one
// in the middle, two along its length, three as a triangle, else along its edges.
func Rectangle(n int, along, across float64) [][2]float64 {
	x, y := along/2, across/2
	switch {
	case n <= 1:
		return [][2]float64{{0, 0}}
	case n == 2:
		return [][2]float64{{-x, 0}, {x, 0}}
	case n == 3:
		return [][2]float64{{-x, -y}, {-x, y}, {x, 0}}
	}
	pairs := min(n, mostHoles) / 2
	var list [][2]float64
	for i := range pairs {
		at := -x + 2*x*float64(i)/float64(pairs-1)
		list = append(list, [2]float64{at, -y}, [2]float64{at, y})
	}
	if n%2 == 1 {
		list = append(list, [2]float64{0, 0})
	}
	return list
}
