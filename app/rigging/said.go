package rigging

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/core/clear"
	"ergasia/store/model"
)

// FindingView is something that a fitting is in the way of, or does not bear.
type FindingView struct {
	Kind    string `json:"kind"`
	Fitting string `json:"fitting_id"`
	Other   string `json:"other_id,omitempty" doc:"A fitting, a place or a post that it meets"`
	Note    bool   `json:"note" doc:"Good to know, and not in the way"`
	Said    string `json:"said"`
	Helps   string `json:"helps,omitempty" doc:"What would settle it"`
}

// teller says findings in words, in the reader's units.
type teller struct {
	s     *aboard.Laden
	names map[string]string // of fittings, places and posts by id
	scene clear.Scene
}

func tell(s *aboard.Laden, fittings []model.Fitting, sc clear.Scene) teller {
	t := teller{s: s, scene: sc, names: map[string]string{"road": "the road", "bridge": "the bridge"}}
	for _, f := range fittings {
		t.names[f.ID.String()] = f.Name
	}
	for _, p := range s.Places {
		t.names[p.ID.String()] = p.Name
	}
	for _, p := range s.Posts {
		t.names[p.ID.String()] = p.Name
	}
	for _, k := range s.Craft.Input.Outfit.Tanks {
		t.names[tankID(k)] = k.Name
	}
	return t
}

// tank says whether what a finding names is a tank.
func (t teller) tank(id string) bool {
	return slices.ContainsFunc(t.scene.Tanks, func(k clear.Tank) bool { return k.ID == id })
}

func (t teller) small(m float64) string { return t.s.Small(m) }

// bearing says where something is seen ahead.
func bearing(b float64) string {
	switch {
	case b > 0.5:
		return fmt.Sprintf("%.0f° to port", b)
	case b < -0.5:
		return fmt.Sprintf("%.0f° to starboard", -b)
	}
	return "straight ahead"
}

func between(f clear.Finding) string {
	if f.From == f.To {
		return bearing(f.From)
	}
	return "from " + bearing(f.From) + " to " + bearing(f.To)
}

// finding is one in words.
func (t teller) finding(f clear.Finding) FindingView {
	v := FindingView{Kind: f.Kind, Fitting: f.Thing, Other: f.Other, Note: f.Note}
	a, b := t.names[f.Thing], t.names[f.Other]
	switch f.Kind {
	case clear.Overlap:
		v.Said = fmt.Sprintf("%s and %s claim one space, %s deep.", a, b, t.small(f.By))
		if t.tank(f.Other) {
			v.Said = fmt.Sprintf("%s stands %s in the tank %s: drill nothing there.", a, t.small(f.By), b)
		}
	case clear.Room:
		v.Said = fmt.Sprintf("%s stands %s into %s: that much less goes in there.", a, t.small(f.By), b)
		if t.wholly(f) {
			v.Said = fmt.Sprintf("%s stands in %s: that much less goes in there.", a, b)
		}
	case clear.Lid:
		v.Said = fmt.Sprintf("The lid of %s opens to %.0f° only: %s is in its way.", b, f.By, a)
		if f.Note {
			v.Said = fmt.Sprintf("The lid of %s opens to %.0f°, then meets %s.", b, f.By, a)
		}
	case clear.Turn:
		v.Said = fmt.Sprintf("%s can't turn all round: it meets %s by %s.", a, b, t.small(f.By))
	case clear.Body:
		v.Said = fmt.Sprintf("%s stands where someone stands at the post %s.", a, b)
	case clear.Elbow:
		v.Said = fmt.Sprintf("%s is at the elbows of whoever is at %s.", a, b)
	case clear.Knee:
		v.Said = fmt.Sprintf("%s is at the knees of whoever is at %s.", a, b)
	case clear.RodHits:
		v.Said = fmt.Sprintf("The rod in %s meets %s, %s up.", a, b, t.small(f.By))
	case clear.RodSight:
		v.Said = fmt.Sprintf("The rod in %s stands across the view from %s, %s.", a, b, between(f))
	case clear.Sight:
		v.Said = fmt.Sprintf("%s hides the water ahead from %s, %s, from %s on.", a, b, between(f), t.s.LengthText(f.Near))
	case clear.Screen:
		v.Said = t.screen(f, a, b)
	case clear.Eyes:
		v.Said = fmt.Sprintf("%s shines into the eyes at %s, %s away.", a, b, t.small(f.By))
	case clear.Glare:
		v.Said = fmt.Sprintf("%s is mirrored in %s, seen from %s.", a, b, t.names[f.Post])
	case clear.Control:
		v.Said = fmt.Sprintf("%s is %s out of reach from %s without letting go of the wheel.", a, t.small(f.By), b)
	case clear.Outboard:
		v.Said = fmt.Sprintf("%s stands %s out over the gunwale: mind quays, fenders and the trailer.", a, t.small(f.By))
	case clear.TooHigh:
		v.Said = fmt.Sprintf("%s is %s too high for %s.", a, t.small(f.By), b)
	}
	v.Said = capital(v.Said)
	return v
}

// wholly says whether a thing stands in another with all of it.
func (t teller) wholly(f clear.Finding) bool {
	i := slices.IndexFunc(t.scene.Things, func(o clear.Thing) bool { return o.ID == f.Thing })
	if i < 0 {
		return false
	}
	size := t.scene.Things[i].Size
	return f.By >= min(size.X, size.Y, size.Z)
}

// screen says why a screen is not read from its post.
func (t teller) screen(f clear.Finding, name, post string) string {
	switch {
	case f.Before != "":
		return fmt.Sprintf(
			"%s is not seen from %s: %s stands before it.",
			name,
			post,
			cmp.Or(t.names[f.Before], "something"),
		)
	case f.Off > 90:
		return fmt.Sprintf("%s is seen from behind at %s.", name, post)
	case f.Off > clear.ReadsOff:
		return fmt.Sprintf("%s is hardly read from %s: it is %.0f° off its axis.", name, post, f.Off)
	}
	return fmt.Sprintf("%s is too far from %s to be read: %s.", name, post, t.small(f.By))
}

// ahead says from where on the water is seen over the bow from where one steers.
func (t teller) ahead(sc clear.Scene) string {
	for _, p := range sc.Posts {
		if !p.Steers {
			continue
		}
		near := 0.0
		for _, r := range clear.Ahead(p.Eyes(), sc.Water, sc.Sheer, nil) {
			near = math.Max(near, r.Near)
		}
		if near > 0 && !math.IsInf(near, 1) {
			return fmt.Sprintf("From %s the water ahead is seen from %s on.", p.Name, t.s.LengthText(near))
		}
		if math.IsInf(near, 1) {
			return fmt.Sprintf("From %s her own bow hides the horizon.", p.Name)
		}
	}
	return ""
}
