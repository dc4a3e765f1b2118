package fitting

import (
	"math"

	"ergasia/core/hull"
)

// Transducer is one on the transom, its bottom face at a height and off the middle.
type Transducer struct {
	Y      float64 // m, to port
	Bottom float64 // m over the keel's level, of its face
}

// Of a transducer. Practice: its face a few millimetres under the hull, off the strakes
// by more than it is broad, off the propeller by more than its radius, level to some
// degrees.
const (
	UnderLeast, UnderMost = 0.003, 0.012 // m, of its face under the hull
	OffStrake             = 0.06         // m
	OffPropeller          = 0.38         // m, from the middle of one motor
	LevelWithin           = 5.0          // degrees
	WetLeast              = 0.05         // m under the water at rest
)

// Seated is how a transducer sits by the hull's own lines.
type Seated struct {
	Hull      float64 // m over the keel's level, of the bottom at the transom there
	Under     float64 // m, its face under the hull; negative where the hull hides it
	Strake    float64 // m to the nearest knuckle of the bottom; infinite where there is none
	Propeller float64 // m to the middle
	Deadrise  float64 // degrees, of the bottom there
	Wet       float64 // m, its face under the water at rest
	Best      float64 // m, the height of its face that is right there
	Onto      bool    // false where there is no bottom there: outside the chine
}

// Seat looks where a transducer sits. Water is the surface's height at the transom, m
// over the keel's level.
func (t Transducer) Seat(h hull.Hull, water float64) Seated {
	low, _ := h.Bounds()
	section, ok := h.SectionAt(low.X + 0.02)
	s := Seated{Strake: math.Inf(1), Propeller: math.Abs(t.Y), Wet: water - t.Bottom}
	if !ok {
		section, ok = h.SectionAt(0.1)
	}
	if !ok {
		return s
	}
	y := math.Abs(t.Y)
	for k := 0; k+1 < len(section); k++ {
		a, b := section[k], section[k+1]
		if k > 0 {
			s.Strake = min(s.Strake, math.Abs(y-a.Y))
		}
		slope := math.Atan2(b.Z-a.Z, b.Y-a.Y) * 180 / math.Pi
		if b.Y > a.Y && y >= a.Y && y <= b.Y && slope < steep {
			s.Onto, s.Deadrise = true, slope
			s.Hull = a.Z + (b.Z-a.Z)*(y-a.Y)/(b.Y-a.Y)
		}
	}
	s.Under, s.Best = s.Hull-t.Bottom, s.Hull-(UnderLeast+UnderMost)/2
	return s
}

// steep is the angle from which on a panel is a side and no bottom, degrees.
const steep = 60
