package aboard

import (
	"fmt"

	"ergasia/app/refuse"
	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// BoxesDeep is how many containers may lie in one another. Practice.
const BoxesDeep = 5

// refuseBox lists why gear may not go into a container: it must fit there, and
// so must the heavier container where it stands.
func (s *Laden) refuseBox(gear, box uuid.UUID) ([]stow.Refusal, error) {
	g, b := s.Thing(gear), s.Thing(box)
	if g == nil || b == nil {
		return nil, refuse.Missing("gear")
	}
	rule := func(format string, values ...any) []stow.Refusal {
		return []stow.Refusal{{Rule: RuleBox, Sentence: fmt.Sprintf(format, values...)}}
	}
	switch {
	case !b.Container():
		return rule("%s holds nothing: give it a size inside first.", b.Name), nil
	case b.Count != 1:
		return rule("There are %d of %s: split one off before something goes into it.", b.Count, b.Name), nil
	case gear == box || s.within(*b, gear):
		return rule("%s can't go into itself, or into what it holds.", g.Name), nil
	case s.depth(*b)+s.height(*g) > BoxesDeep:
		return rule("%d boxes in one another are the most.", BoxesDeep), nil
	}
	inside := BoxPlace(*b)
	p := s.Piece(*g)
	if at := s.Stowage[box]; !b.KeepsDry && p.NeedsDry {
		inside.Dry = true // it is as dry as where the container is
		if where := s.dryAt(at); !where {
			return []stow.Refusal{{Rule: stow.RuleDry, Sentence: fmt.Sprintf(
				"%s must stay dry, and %s neither keeps water out nor is in a dry place.", g.Name, b.Name)}}, nil
		}
	}
	refusals := stow.Refuse(inside, s.InBox(box, gear), p, s.Units)
	near := s.holds[box]
	if place := s.PlaceOf(box); place != nil && !s.sameRoot(gear, box) { // the box among them, with what it holds
		near = s.LieIn(place.ID)
	}
	for _, o := range near {
		if o.ID != gear {
			refusals = append(refusals, s.apart(*g, o)...)
		}
	}
	if at := s.Stowage[box]; len(refusals) == 0 && at.PlaceID != nil && !s.sameRoot(gear, box) {
		if place := s.Place(*at.PlaceID); place != nil {
			refusals = s.overloaded(*place, p)
		}
	}
	return refusals, nil
}

// overloaded says where a place's limit is passed by a piece that comes into
// one of its boxes.
func (s *Laden) overloaded(p model.Place, more stow.Piece) []stow.Refusal {
	load := more.Kg * float64(more.Count)
	for _, there := range s.In(p.ID, uuid.Nil) {
		load += there.Kg * float64(there.Count)
	}
	if p.MaxKg <= 0 || load <= p.MaxKg+1e-9 {
		return nil
	}
	return []stow.Refusal{{Rule: stow.RuleLimit,
		Sentence: fmt.Sprintf("%s carries %.1f %s at most; with %s it would hold %.1f %[3]s.",
			p.Name, s.Units.Mass.FromSI(p.MaxKg), s.Units.Mass.Symbol, more.Name, s.Units.Mass.FromSI(load))}}
}

// dryAt says whether a stowage is a dry one. The quay and a person are not; a
// shed is judged where it is known.
func (s *Laden) dryAt(at model.Stowage) bool {
	for at.InsideID != nil {
		box := s.Thing(*at.InsideID)
		if box == nil || box.KeepsDry {
			return box != nil
		}
		at = s.Stowage[*at.InsideID]
	}
	if at.PlaceID != nil {
		p := s.Place(*at.PlaceID)
		return p != nil && p.Dryness == "dry"
	}
	return true
}

// within says whether g lies, at any depth, in the box.
func (s *Laden) within(g model.Gear, box uuid.UUID) bool {
	for in := s.Stowage[g.ID].InsideID; in != nil; in = s.Stowage[*in].InsideID {
		if *in == box {
			return true
		}
	}
	return false
}

// Root is the outermost container that gear lies in, or the gear itself.
func (s *Laden) Root(gear uuid.UUID) uuid.UUID {
	for in := s.Stowage[gear].InsideID; in != nil; in = s.Stowage[gear].InsideID {
		gear = *in
	}
	return gear
}

func (s *Laden) sameRoot(a, b uuid.UUID) bool { return s.Root(a) == s.Root(b) }

// depth is how many containers gear lies in, and height how many it is high.
func (s *Laden) depth(g model.Gear) int {
	n := 0
	for in := s.Stowage[g.ID].InsideID; in != nil; in = s.Stowage[*in].InsideID {
		n++
	}
	return n
}

func (s *Laden) height(g model.Gear) int {
	n := 0
	for _, held := range s.holds[g.ID] {
		n = max(n, s.height(held))
	}
	return n + 1
}
