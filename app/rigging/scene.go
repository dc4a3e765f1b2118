package rigging

import (
	"math"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/core/clear"
	"ergasia/store/model"

	"gonum.org/v1/gonum/spatial/r3"
)

// scene is a boat as what is in whose way is asked of her.
func scene(s *aboard.Laden, fittings []model.Fitting) clear.Scene {
	out := clear.Scene{Water: clear.Water{Up: r3.Vec{Z: 1}}}
	if f := s.Solved().Figures; f != nil {
		out.Water = clear.Water{Up: f.Up, Level: f.Level}
	}
	for _, f := range fittings {
		out.Things = append(out.Things, aboard.ThingOf(f))
	}
	for _, p := range s.Places {
		out.Places = append(out.Places, placeOf(s, p))
	}
	for _, t := range s.Craft.Input.Outfit.Tanks {
		out.Tanks = append(out.Tanks, clear.Tank{ID: tankID(t), Low: t.Corner.R3(), High: addVec(t.Corner, t.Size)})
	}
	helm := steers(s)
	for _, p := range s.Posts {
		post := clear.Post{ID: p.ID.String(), Name: p.Name, At: r3.Vec{X: p.X, Y: p.Y, Z: p.Z}, Steers: p.ID == helm.ID}
		for _, at := range s.Stations {
			post.Seated = post.Seated || at.PostID != nil && *at.PostID == p.ID && at.Seated
		}
		out.Posts = append(out.Posts, post)
	}
	out.Sheer = sheer(s)
	if r := s.Craft.Input.Outfit.Rigging; r != nil {
		out.Over, out.Road, out.Bridge = r.Over, r.Road, r.Bridge
	}
	return out
}

// tankID names a tank among what a fitting may meet; tanks have no id of their own.
func tankID(t model.TankInput) string { return "tank " + t.Name }

// sheer is the edge of the hull, port side forward and back on the other.
func sheer(s *aboard.Laden) []r3.Vec {
	edge := s.Craft.Float.Shell.Sheer // by station, port and starboard
	var port, starboard []r3.Vec
	for i := 0; i+1 < len(edge); i += 2 {
		port, starboard = append(port, edge[i]), append(starboard, edge[i+1])
	}
	slices.Reverse(starboard)
	return append(port, starboard...)
}

// helmWords are how crews call the post where one steers.
var helmWords = []string{"helm", "wheel", "tiller", "steer", "driver"}

// steers is the post where one steers: by its name, else the aftmost.
func steers(s *aboard.Laden) model.Post {
	var aftmost model.Post
	for i, p := range s.Posts {
		for _, w := range helmWords {
			if strings.Contains(strings.ToLower(p.Name), w) {
				return p
			}
		}
		if i == 0 || p.X < aftmost.X {
			aftmost = p
		}
	}
	return aftmost
}

func placeOf(s *aboard.Laden, p model.Place) clear.Place {
	low := r3.Vec{X: p.X, Y: p.Y, Z: p.Z}
	out := clear.Place{
		ID:      p.ID.String(),
		Name:    p.Name,
		Low:     low,
		High:    r3.Add(low, r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height}),
		Opening: [2]float64{p.OpeningLength, p.OpeningBreadth},
		Hinge:   hinge(s, p),
		Open:    p.Form != "box",
	}
	if p.ParentID != nil {
		out.Inside = p.ParentID.String()
	}
	return out
}

// longer is by how much one side of a lid must be the longer to be the hinged one for
// sure. Practice.
const longer = 1.3

// hinge is the edge on which a place's lid turns: the crew's word, else a long one, away
// from the nearest post, since people lift a lid towards themselves. Empty where no lid
// swings.
func hinge(s *aboard.Laden, p model.Place) string {
	if p.Lid != "hinged" {
		return ""
	}
	if p.Hinge != "" || len(s.Posts) == 0 {
		return orAft(p.Hinge)
	}
	x, y := p.X+p.Length/2, p.Y+p.Breadth/2
	near := slices.MinFunc(s.Posts, func(a, b model.Post) int {
		return int(math.Copysign(1, math.Hypot(a.X-x, a.Y-y)-math.Hypot(b.X-x, b.Y-y)))
	})
	dx, dy := near.X-x, near.Y-y
	across := math.Abs(dx) >= math.Abs(dy) // its hinge lies across the boat
	if p.Breadth > longer*p.Length || p.Length > longer*p.Breadth {
		across = p.Breadth > p.Length
	}
	switch {
	case across && dx >= 0:
		return "aft"
	case across:
		return "fore"
	case dy > 0:
		return "starboard"
	}
	return "port"
}

func orAft(h string) string {
	if h == "" {
		return "aft"
	}
	return h
}
