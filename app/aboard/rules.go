package aboard

import (
	"fmt"
	"slices"

	"ergasia/app/refuse"
	"ergasia/core/stow"
	"ergasia/store/model"
)

// Refuse lists why the event's subject may not go there.
func (s *Laden) Refuse(e model.Event, to model.Whereabouts) ([]stow.Refusal, error) {
	if to.PostID != nil && s.Post(*to.PostID) == nil {
		return nil, refuse.Missing("post")
	}
	if to.InsideID != nil {
		return s.refuseBox(*e.GearID, *to.InsideID)
	}
	if to.PlaceID == nil {
		return nil, nil
	}
	p := s.Place(*to.PlaceID)
	if p == nil {
		return nil, refuse.Missing("place")
	}
	if now := s.PlaceOf(*e.GearID); now != nil && now.ID == p.ID && to.Laid != nil {
		return s.refuseLaid(*p, *e.GearID, to.Laid), nil
	}
	g := *s.Thing(*e.GearID)
	refusals := stow.Refuse(s.StowPlace(*p), s.In(p.ID, g.ID), s.Piece(g), s.Units)
	return append(s.KeptOut(*p, g), refusals...), nil
}

// Against lists why a thing should not lie where it was noted all the same; nothing
// where it was moved by the rules, or where they allow it by now.
func (s *Laden) Against(g model.Gear) []string {
	at := s.Stowage[g.ID]
	if !at.Anyway {
		return nil
	}
	to := at.At()
	to.Laid = nil
	refusals, err := s.Refuse(model.Event{GearID: &g.ID}, to)
	if err != nil {
		return nil // its place is on another boat
	}
	return Sentences(refusals)
}

// MayBeNoted says whether a thing can lie where it is refused: a rule forbids it,
// but nature does not.
func MayBeNoted(refusals []stow.Refusal) bool {
	return !slices.ContainsFunc(refusals, func(r stow.Refusal) bool { return r.Rule == RuleBox || r.Rule == RuleLent })
}

// What no note can change: a box that holds nothing, or would hold itself; a thing
// that is with others.
const (
	RuleBox  = "box"
	RuleLent = "lent"
)

// KeptOut lists what of a place's own keeps a thing out: for whom it is kept, and
// what may not lie together.
func (s *Laden) KeptOut(p model.Place, g model.Gear) (refusals []stow.Refusal) {
	if keptForAnother(p, g) {
		if m := s.Member(*p.KeptForOwner); m != nil {
			refusals = append(refusals, stow.Refusal{Rule: stow.RuleReserved,
				Sentence: fmt.Sprintf("%s is kept for %s's things; %s is not %[2]s's.", p.Name, m.Name, g.Name)})
		}
	}
	if keptForTag(p, g) {
		refusals = append(refusals, stow.Refusal{Rule: stow.RuleReserved,
			Sentence: fmt.Sprintf("%s is kept for what is tagged %s; %s is not.", p.Name, p.KeptForTag, g.Name)})
	}
	for _, o := range s.LieIn(p.ID) {
		if o.ID != g.ID {
			refusals = append(refusals, s.apart(g, o)...)
		}
	}
	return refusals
}

// Kept says whether a place is kept for others' things.
func Kept(p model.Place, g model.Gear) bool { return keptForAnother(p, g) || keptForTag(p, g) }

func keptForAnother(p model.Place, g model.Gear) bool {
	return p.KeptForOwner != nil && (g.OwnerID == nil || *g.OwnerID != *p.KeptForOwner)
}

func keptForTag(p model.Place, g model.Gear) bool {
	return p.KeptForTag != "" && !slices.Contains(g.Tags, p.KeptForTag)
}

// apart says why two things, with what they hold, may not lie together.
func (s *Laden) apart(g, o model.Gear) []stow.Refusal {
	a, b, apart := stow.Apart(s.Hazards(g), s.Hazards(o))
	if !apart {
		return nil
	}
	return []stow.Refusal{{Rule: stow.RuleHazard, Sentence: fmt.Sprintf("%s (%s) may not lie with %s (%s).", g.Name, a,
		o.Name, b)}}
}

// Hazards of a thing and of what it holds.
func (s *Laden) Hazards(g model.Gear) []string {
	list := slices.Clone([]string(g.Hazards))
	for _, held := range s.holds[g.ID] {
		list = append(list, s.Hazards(held)...)
	}
	return list
}

// Valuable says whether a thing, or one that it holds, is to be locked away.
func (s *Laden) Valuable(g model.Gear) bool {
	return slices.Contains(g.Tags, "lock") || slices.ContainsFunc(s.holds[g.ID], s.Valuable)
}

// slowest are the seconds within which gear with a tag must be in a hand.
// Defaults, practice, no source.
var slowest = map[string]float64{"throwable": 5, "extinguisher": 10, "drain plug": 10, "safety": 15}

// Slowest is within how many seconds a thing must be in a hand by its tags; 0 is no
// limit.
func Slowest(g model.Gear) (limit float64) {
	for _, tag := range g.Tags {
		if l := slowest[tag]; l > 0 && (limit == 0 || l < limit) {
			limit = l
		}
	}
	return limit
}

// classByTag is what a thing is as safety equipment by a tag, where nobody said more.
var classByTag = map[string]string{"lifejacket": "lifejacket", "throwable": "throwable", "extinguisher": "extinguisher",
	"flares": "flare day and night", "horn": "horn", "whistle": "whistle", "firstaid": "first aid", "first aid": "first aid",
	"radio": "radio", "beacon": "beacon", "paddle": "paddle", "anchor": "anchor", "knife": "knife", "lamp": "lamp",
	"drain plug": "spare plug", "bailer": "bailer"}

// ClassOf is what a thing is as safety equipment, and whether somebody said so; else it is
// taken from its tags.
func ClassOf(g model.Gear) (class string, said bool) {
	if g.SafetyClass != "" {
		return g.SafetyClass, true
	}
	for _, tag := range g.Tags {
		if class := classByTag[tag]; class != "" {
			return class, false
		}
	}
	return "", false
}

// UrgentUses is as how often a day a thing counts that is fetched seldom, and in
// need: it lies near and on top. Practice, no source.
const UrgentUses = 15

// urgentClasses are fetched seldom and in need.
var urgentClasses = []string{"throwable", "extinguisher", "extinguisher 5-B", "extinguisher 10-B", "extinguisher 20-B",
	"extinguisher B-I", "extinguisher B-II", "spare plug", "grab bag"}

// Wanted is as how often a day a thing counts when it is decided where it lies.
func Wanted(g model.Gear) float64 {
	if Slowest(g) > 0 || slices.Contains(urgentClasses, g.SafetyClass) {
		return max(g.UsesPerDay, UrgentUses)
	}
	return g.UsesPerDay
}

// neverAshore are tags of what no one is told to leave behind to save weight.
var neverAshore = []string{"lifejacket", "flares", "firstaid", "radio", "beacon", "paddle", "anchor", "knife", "lamp"}

// Safety says whether a thing, or one that it holds, is for need: it is never proposed to
// stay ashore.
func (s *Laden) Safety(g model.Gear) bool {
	return g.SafetyClass != "" || slices.ContainsFunc(g.Tags, func(tag string) bool {
		_, urgent := slowest[tag]
		return urgent || slices.Contains(neverAshore, tag)
	}) || slices.ContainsFunc(s.holds[g.ID], s.Safety)
}

// Sentences of refusals.
func Sentences(refusals []stow.Refusal) []string {
	list := []string{}
	for _, r := range refusals {
		list = append(list, r.Sentence)
	}
	return list
}

// TagsOf are the tags from which a class is taken, with the class.
func TagsOf() map[string]string { return classByTag }
