package safety

import (
	"strings"

	"ergasia/app/aboard"
	"ergasia/store/model"
)

// spot is a named spot of any boat: how far forward of the transom it is, as a part of her
// length, and how far to port, as a part of her half breadth there. For the drawing only.
type spot struct{ forward, port float64 }

var spots = map[string]spot{"bow": {0.92, 0}, "side_port": {0.5, 0.8}, "side_starboard": {0.5, -0.8},
	"stern_port": {0.04, 0.75}, "stern": {0.04, 0}, "stern_starboard": {0.04, -0.75}}

// Helm is the post that is called so, or the first.
func Helm(s *aboard.Laden) *model.Post {
	p := aboard.First(s.Posts, func(p model.Post) bool { return strings.Contains(strings.ToLower(p.Name), "helm") })
	if p == nil && len(s.Posts) > 0 {
		return &s.Posts[0]
	}
	return p
}

// spotted is where something built in is on the drawing; nil where nobody said.
func spotted(s *aboard.Laden, name string) *model.Vec {
	if name == "helm" { // the wheel is before who stands there
		if p := Helm(s); p != nil {
			return &model.Vec{p.X + 0.3, p.Y, p.Z}
		}
		return nil
	}
	at, is := spots[name]
	sheer := s.Craft.Lines.PlanSheer
	if !is || len(sheer) == 0 {
		return nil
	}
	x := at.forward * sheer[len(sheer)-1][0]
	return &model.Vec{x, at.port * along(sheer, x), along(s.Craft.Lines.ProfileSheer, x)}
}

// along is a line's second figure at x, by straight lines between its points.
func along(line [][2]float64, x float64) float64 {
	for i := 1; i < len(line); i++ {
		a, b := line[i-1], line[i]
		if x <= b[0] && b[0] > a[0] {
			return a[1] + (b[1]-a[1])*(x-a[0])/(b[0]-a[0])
		}
	}
	if len(line) == 0 {
		return 0
	}
	return line[len(line)-1][1]
}
