package rigging

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/core/fitting"
	"ergasia/store/model"
)

// SpreadView is the lines as they are trolled, and the working side.
type SpreadView struct {
	Lines []TrolledLine `json:"lines" doc:"From port to starboard"`
	Said  []string      `json:"said"`
	Side  []SideView    `json:"side" doc:"What the working side has"`
}

// TrolledLine is a line that is trolled.
type TrolledLine struct {
	Name string  `json:"name"`
	Y    float64 `json:"y_m"`
	Gap  float64 `json:"gap_m" doc:"To the next to starboard; 0 of the last"`
}

// SideView is something that the side where fish come in should have.
type SideView struct {
	What string `json:"what"`
	Said string `json:"said"`
	Has  bool   `json:"has"`
}

// Practice: lines nearer than this tangle in the first turn; a line sinks little before
// it is past the boat.
const (
	tangles  = 0.6 // m
	lineDrop = 0.3 // m
)

func spread(s *aboard.Laden) SpreadView {
	out := SpreadView{Lines: []TrolledLine{}, Said: []string{}, Side: workingSide(s)}
	var rods []fitting.Rigged
	names := map[string]string{}
	for _, f := range s.Craft.Rigging {
		if f.Kind == "rod-holder" && f.Lies.Rod > 0.3 {
			t := aboard.ThingOf(f)
			rods = append(rods, fitting.Rigged{ID: t.ID, Foot: t.At, At: t.Tip()})
			names[t.ID] = f.Name
		}
	}
	lines, crossed := fitting.Spread(rods)
	for i, l := range lines {
		out.Lines = append(out.Lines, TrolledLine{Name: names[l.ID], Y: l.Y, Gap: l.Gap})
		if l.Gap < tangles && i+1 < len(lines) {
			out.Said = append(
				out.Said,
				fmt.Sprintf("The lines of %s and %s run %s apart: they tangle in a turn.", names[l.ID],
					names[lines[i+1].ID], s.Small(l.Gap)),
			)
		}
	}
	for _, c := range crossed {
		out.Said = append(out.Said, fmt.Sprintf("The rods in %s and %s cross.", names[c.A], names[c.B]))
	}
	for _, r := range rods {
		out.Said = append(out.Said, runsInto(s, names[r.ID], r)...)
	}
	if len(lines) > 1 {
		out.Said = append(
			out.Said,
			fmt.Sprintf("%d lines run over %s from side to side.", len(lines), s.LengthText(fitting.Width(lines))),
		)
	}
	return out
}

// runsInto tells what a line meets on its way aft from its rod's tip.
func runsInto(s *aboard.Laden, name string, r fitting.Rigged) (said []string) {
	for _, f := range s.Craft.Rigging {
		t := aboard.ThingOf(f)
		low, high := t.Body().Bounds()
		if t.ID != r.ID && high.X < r.At.X && low.Y-0.05 < r.At.Y && high.Y+0.05 > r.At.Y && high.Z > r.At.Z-lineDrop {
			said = append(said, fmt.Sprintf("The line of %s runs into %s.", name, f.Name))
		}
	}
	for _, m := range s.Craft.Input.Outfit.Masses {
		if m.Kind == "motor" && m.At[0] < 0.3 && m.At[0] < r.At.X && math.Abs(r.At.Y-m.At[1]) < 0.25 &&
			r.At.Z < m.At[2]+0.6 {
			said = append(said, fmt.Sprintf("The line of %s runs over %s.", name, m.Name))
		}
	}
	return said
}

// beside is how far from a post on the working side a thing is at hand, m. Practice.
const beside = 1.5

// workingSide tells what the side has where fish come in: a rest, a net, a measuring
// board, light, a protected gunwale.
func workingSide(s *aboard.Laden) []SideView {
	list := []SideView{}
	r := s.Craft.Input.Outfit.Rigging
	if r == nil || r.Working == "" {
		return list
	}
	sign := map[string]float64{"port": 1, "starboard": -1}[r.Working]
	post := sidePost(s, sign)
	if post == nil {
		return append(list, SideView{What: "a post", Said: "No post is on that side."})
	}
	for _, w := range []struct {
		what  string
		kinds []string
		words []string
	}{
		{"a rest for the rod", []string{"rod-holder"}, []string{"rest"}},
		{"a net", nil, []string{"net"}},
		{"a measuring board", nil, []string{"measuring", "ruler", "bump"}},
		{"a light", nil, []string{"headlamp", "lamp", "floodlight"}},
		{"a protected gunwale", nil, []string{"pad", "pads", "padding", "mat", "guard"}},
	} {
		list = append(list, sideHas(s, w.what, w.kinds, w.words, *post, sign))
	}
	return list
}

// sidePost is the post furthest aft on a side.
func sidePost(s *aboard.Laden, sign float64) *model.Post {
	var best *model.Post
	for i, p := range s.Posts {
		if sign*p.Y > 0.1 && (best == nil || p.X < best.X) {
			best = &s.Posts[i]
		}
	}
	return best
}

// sideHas looks for one thing: fastened near the post, or aboard and quick to hand.
func sideHas(s *aboard.Laden, what string, kinds, words []string, post model.Post, sign float64) SideView {
	has := func(name string) bool {
		return slices.ContainsFunc(
			strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return r == ' ' || r == ',' }),
			func(w string) bool {
				return slices.Contains(words, w)
			},
		)
	}
	for _, f := range s.Craft.Rigging {
		near := sign*f.Lies.At[1] > 0 && math.Hypot(f.Lies.At[0]-post.X, f.Lies.At[1]-post.Y) < beside
		if near && (slices.Contains(kinds, f.Kind) || has(f.Name) && f.Kind != "hook") { // a hook for a net is no net
			return SideView{What: what, Said: fmt.Sprintf("%s is beside %s.", f.Name, post.Name), Has: true}
		}
	}
	now := s.Rummage()
	type found struct {
		name, place string
		seconds     float64
	}
	var all []found
	for _, g := range s.Aboard() {
		if f, known := now.Fetch[g.ID]; known && g.Place != nil && has(g.Name) {
			all = append(all, found{name: g.Name, place: g.Place.Name, seconds: f.Seconds})
		}
	}
	if len(all) == 0 {
		return SideView{What: what, Said: fmt.Sprintf("There is %s neither beside %s nor aboard.", what, post.Name)}
	}
	quick := slices.MinFunc(all, func(a, b found) int { return cmp.Compare(a.seconds, b.seconds) })
	return SideView{
		What: what,
		Said: fmt.Sprintf("%s, in %s, is %.0f s away.", quick.name, quick.place, quick.seconds),
		Has:  quick.seconds <= 10,
	}
}
