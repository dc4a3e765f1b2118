package app

import (
	"fmt"

	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// boxesDeep is how many containers may lie in one another. Practice.
const boxesDeep = 5

// boxPlace is the inside of a container as a place.
func boxPlace(g store.Gear) stow.Place {
	return stow.Place{Name: g.Name, Size: r3.Vec{X: g.InsideLength, Y: g.InsideBreadth, Z: g.InsideHeight}, MaxKg: g.HoldsKg, Dry: g.KeepsDry}
}

// refuseBox lists why gear may not go into a container: it must fit there, and
// so must the heavier container where it stands.
func (s *snapshot) refuseBox(gear, box uuid.UUID) ([]stow.Refusal, error) {
	g, b := s.thing(gear), s.thing(box)
	if g == nil || b == nil {
		return nil, notFound("gear")
	}
	rule := func(format string, values ...any) []stow.Refusal {
		return []stow.Refusal{{Rule: "box", Sentence: fmt.Sprintf(format, values...)}}
	}
	switch {
	case !b.Container():
		return rule("%s holds nothing: give it a size inside first.", b.Name), nil
	case b.Count != 1:
		return rule("There are %d of %s: split one off before something goes into it.", b.Count, b.Name), nil
	case gear == box || s.within(*b, gear):
		return rule("%s can't go into itself, or into what it holds.", g.Name), nil
	case s.depth(*b)+s.height(*g) > boxesDeep:
		return rule("%d boxes in one another are the most.", boxesDeep), nil
	}
	inside := boxPlace(*b)
	p := s.piece(*g)
	if at := s.stowage[box]; !b.KeepsDry && p.NeedsDry {
		inside.Dry = true // it is as dry as where the container is
		if where := s.dryAt(at); !where {
			return rule("%s must stay dry, and %s neither keeps water out nor is in a dry place.", g.Name, b.Name), nil
		}
	}
	refusals := stow.Refuse(inside, s.inBox(box, gear), p, s.units)
	near := s.holds[box]
	if place := s.placeOf(box); place != nil && !s.sameRoot(gear, box) { // the box among them, with what it holds
		near = s.lieIn(place.ID)
	}
	for _, o := range near {
		if o.ID != gear {
			refusals = append(refusals, s.apart(*g, o)...)
		}
	}
	if at := s.stowage[box]; len(refusals) == 0 && at.PlaceID != nil && !s.sameRoot(gear, box) {
		if place := s.place(*at.PlaceID); place != nil {
			refusals = s.overloaded(*place, p)
		}
	}
	return refusals, nil
}

// overloaded says where a place's limit is passed by a piece that comes into
// one of its boxes.
func (s *snapshot) overloaded(p store.Place, more stow.Piece) []stow.Refusal {
	load := more.Kg * float64(more.Count)
	for _, there := range s.in(p.ID, uuid.Nil) {
		load += there.Kg * float64(there.Count)
	}
	if p.MaxKg <= 0 || load <= p.MaxKg+1e-9 {
		return nil
	}
	return []stow.Refusal{{Rule: stow.RuleLimit, Sentence: fmt.Sprintf("%s carries %.1f %s at most; with %s it would hold %.1f %[3]s.",
		p.Name, s.units.Mass.FromSI(p.MaxKg), s.units.Mass.Symbol, more.Name, s.units.Mass.FromSI(load))}}
}

// dryAt says whether a stowage is a dry one. The quay and a person are not; a
// shed is judged where it is known.
func (s *snapshot) dryAt(at store.Stowage) bool {
	for at.InsideID != nil {
		box := s.thing(*at.InsideID)
		if box == nil || box.KeepsDry {
			return box != nil
		}
		at = s.stowage[*at.InsideID]
	}
	if at.PlaceID != nil {
		p := s.place(*at.PlaceID)
		return p != nil && p.Dryness == "dry"
	}
	return true
}

// within says whether g lies, at any depth, in the box.
func (s *snapshot) within(g store.Gear, box uuid.UUID) bool {
	for in := s.stowage[g.ID].InsideID; in != nil; in = s.stowage[*in].InsideID {
		if *in == box {
			return true
		}
	}
	return false
}

// root is the outermost container that gear lies in, or the gear itself.
func (s *snapshot) root(gear uuid.UUID) uuid.UUID {
	for in := s.stowage[gear].InsideID; in != nil; in = s.stowage[gear].InsideID {
		gear = *in
	}
	return gear
}

func (s *snapshot) sameRoot(a, b uuid.UUID) bool { return s.root(a) == s.root(b) }

// depth is how many containers gear lies in, and height how many it is high.
func (s *snapshot) depth(g store.Gear) int {
	n := 0
	for in := s.stowage[g.ID].InsideID; in != nil; in = s.stowage[*in].InsideID {
		n++
	}
	return n
}

func (s *snapshot) height(g store.Gear) int {
	n := 0
	for _, held := range s.holds[g.ID] {
		n = max(n, s.height(held))
	}
	return n + 1
}
