package fitting

import (
	"math"

	"ergasia/core/check"
)

// Drag coefficients, by Hoerner (memory).
const (
	PoleDrag = 1.2 // of a round pole across the flow
	FootDrag = 1.1 // of what hangs at its foot, over its frontal area
)

// Pole hangs in the water from a clamp: a sonar's, an anchor's, a paddle's.
type Pole struct {
	Wet          float64 // m, under water
	Diameter     float64 // m
	ClampToWater float64 // m, from the clamp down to the water
	FootArea     float64 // m², frontal, of what is at its foot
	Speed        float64 // m/s through the water
	Density      float64 // kg/m³
	Holds        float64 // N·m that clamp and brace hold before it folds; nought where nobody pulled
}

// Pulled is what the water does to a pole.
type Pulled struct {
	Drag    float64 // N, pole and foot
	Moment  float64 // N·m about the clamp
	FoldsAt float64 // m/s; infinite where it never does or nothing is known of the clamp
}

// Check says what is wrong with a pole.
func (p Pole) Check() error {
	var fs check.Faults
	fs.Within("wet_m", p.Wet, 0, 10)
	fs.Within("diameter_m", p.Diameter, 0.001, 0.5)
	fs.Within("clamp_to_water_m", p.ClampToWater, 0, 10)
	fs.Within("foot_area_m2", p.FootArea, 0, 1)
	fs.Within("speed_m_s", p.Speed, 0, 60)
	fs.Within("density_kg_m3", p.Density, 900, 1300)
	fs.Within("holds_n_m", p.Holds, 0, 100000)
	return fs.Err()
}

// perSpeed2 is the drag of pole and foot, and their moment, at 1 m/s.
func (p Pole) perSpeed2() (drag, moment float64) {
	q := p.Density / 2
	pole, foot := q*PoleDrag*p.Diameter*p.Wet, q*FootDrag*p.FootArea
	return pole + foot, pole*(p.ClampToWater+p.Wet/2) + foot*(p.ClampToWater+p.Wet)
}

// Pull gives drag, moment and the speed at which the moment is what the clamp
// holds: D = ½ ρ C A v², the pole's at the middle of what is wet, the foot's at
// its end.
func (p Pole) Pull() Pulled {
	drag, moment := p.perSpeed2()
	v2 := p.Speed * p.Speed
	out := Pulled{Drag: drag * v2, Moment: moment * v2, FoldsAt: math.Inf(1)}
	if p.Holds > 0 && moment > 0 {
		out.FoldsAt = math.Sqrt(p.Holds / moment)
	}
	return out
}

// Braced is a pole that a brace takes hold of between clamp and water, down metres
// below the clamp. The brace is a second support: what remains hangs below it.
func (p Pole) Braced(down float64) Pole {
	p.ClampToWater = max(p.ClampToWater-down, 0)
	return p
}
