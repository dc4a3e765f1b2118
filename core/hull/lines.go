package hull

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

func hypot(a, b float64) float64   { return math.Hypot(a, b) }
func tanDeg(d float64) float64     { return math.Tan(d * math.Pi / 180) }
func lerp(a, b, t float64) float64 { return a + (b-a)*t }

// Lines are what a drawing of the hull shows; all points in metres.
type Lines struct {
	PlanSheer    [][2]float64   `json:"plan_sheer_xy_m"`  // port side; the other is its mirror
	PlanChines   [][][2]float64 `json:"plan_chines_xy_m"` // knuckles between keel and sheer
	Keel         [][2]float64   `json:"keel_xz_m"`
	ProfileSheer [][2]float64   `json:"profile_sheer_xz_m"`
	Chines       [][][2]float64 `json:"profile_chines_xz_m"`
	Sections     []Section      `json:"sections"`
}

// Section is a half-section of the drawing.
type Section struct {
	X    float64      `json:"x_m"`
	Half [][2]float64 `json:"half_yz_m"` // keel to sheer, port side
}

// maxKnuckles is how many lines between keel and sheer are still chines; with
// more points the section is a curve, and lines along it would say nothing.
const maxKnuckles = 3

// Lines gives the drawing of the hull, with its sections at count places.
func (h Hull) Lines(count int) Lines {
	// None of the lists is nil: a drawing reads them as they are.
	l := Lines{PlanChines: [][][2]float64{}, Chines: [][][2]float64{}, Sections: []Section{}}
	last := len(h.Stations[0].Half) - 1
	along := func(k int) (plan, profile [][2]float64) {
		for _, s := range h.Stations {
			p := s.at(k)
			plan = append(plan, [2]float64{p.X, p.Y})
			profile = append(profile, [2]float64{p.X, p.Z})
		}
		return plan, profile
	}
	l.PlanSheer, l.ProfileSheer = along(last)
	_, l.Keel = along(0)
	for k := 1; k < last && last <= maxKnuckles+1; k++ {
		plan, profile := along(k)
		l.PlanChines = append(l.PlanChines, plan)
		l.Chines = append(l.Chines, profile)
	}
	low, high := h.Bounds()
	for i := 0; i < count; i++ {
		x := lerp(low.X, high.X, float64(i)/float64(count-1))
		half, ok := h.SectionAt(x)
		if !ok {
			continue
		}
		s := Section{X: x}
		for _, p := range half {
			s.Half = append(s.Half, [2]float64{p.Y, p.Z})
		}
		l.Sections = append(l.Sections, s)
	}
	return l
}

// Leaves says by how many metres a box, from its low to its high corner, leaves
// the hull sideways or below at worst, and where; nought when it lies inside.
// Above the sheer only the outline in plan counts, so a console may stand up.
func (h Hull) Leaves(low, high r3.Vec) (worst float64, where string) {
	bound, top := h.Bounds()
	note := func(by float64, at string) {
		if by > worst+1e-9 {
			worst, where = by, at
		}
	}
	note(bound.X-low.X, "aft of the transom")
	note(high.X-top.X, "ahead of the stem")
	const steps = 12
	for i := 0; i <= steps; i++ {
		half, ok := h.SectionAt(lerp(max(low.X, bound.X), min(high.X, top.X), float64(i)/steps))
		if !ok {
			continue
		}
		y := max(math.Abs(low.Y), math.Abs(high.Y))
		for j := 0; j <= steps; j++ {
			z := lerp(low.Z, high.Z, float64(j)/steps)
			breadth, keel := BreadthAt(half, z)
			if z < keel {
				note(keel-z, "through the bottom")
			} else {
				note(y-breadth, "through the side")
			}
		}
	}
	return worst, where
}

// BreadthAt gives the greatest half-breadth of a section at height z (its
// sheer's, above the sheer) and the height of its lowest point.
func BreadthAt(half []Point, z float64) (breadth, keel float64) {
	sheer := half[len(half)-1]
	keel = math.Inf(1)
	for _, p := range half {
		keel = min(keel, p.Z)
	}
	if z >= sheer.Z {
		return sheer.Y, keel
	}
	for k := 0; k+1 < len(half); k++ {
		a, b := half[k], half[k+1]
		if a.Z == b.Z && z == a.Z {
			breadth = max(breadth, a.Y, b.Y)
		} else if (z-a.Z)*(z-b.Z) <= 0 && a.Z != b.Z {
			breadth = max(breadth, lerp(a.Y, b.Y, (z-a.Z)/(b.Z-a.Z)))
		}
	}
	return breadth, keel
}
