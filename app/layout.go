package app

import (
	"context"
	"fmt"
	"slices"

	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// LayInput lays one piece elsewhere in its place, by hand.
type LayInput struct {
	Index int        `json:"index" doc:"Which of several alike, in the order in which they lie"`
	At    [2]float64 `json:"at_m" doc:"Where its corner of least x and y goes, from that of the place; it is let down onto what lies there"`
	Turn  int        `json:"turn" doc:"How many ways on it is turned"`
}

func (in LayInput) check(fs *check.Faults) {
	fs.Within("lay.index", float64(in.Index), 0, 120)
	fs.Within("lay.turn", float64(in.Turn), 0, 18)
	for i := range in.At {
		fs.Within(fmt.Sprintf("lay.at_m[%d]", i), in.At[i], -12, 12)
	}
}

// lay says where the pieces of a thing lie once one of them is laid by hand, and
// where they lie now; refusals where they can't lie so.
func (s *snapshot) lay(gear uuid.UUID, in LayInput) (was, is store.Boxes, refusals []stow.Refusal, err error) {
	p := s.placeOf(gear)
	if p == nil {
		return nil, nil, nil, &Error{Kind: Refused, Sentence: "It lies in no place of this boat: put it into one first."}
	}
	if p.Form != "box" {
		return nil, nil, nil, &Error{Kind: Refused, Sentence: "Rods in " + p.Name + " lie by their length and their guides: they are not laid by hand."}
	}
	place, pieces := s.laidPlace(*p), s.in(p.ID, uuid.Nil)
	laid, ok := stow.Lay(place, pieces)
	order := s.ofGear(laid, gear)
	if !ok || in.Index >= len(order) {
		return nil, nil, nil, &Error{Kind: Refused, Sentence: "What is in " + p.Name + " has no layout: take something out first."}
	}
	next := stow.Put(place, pieces, laid, order[in.Index], in.At[0], in.At[1], in.Turn)
	was = s.boxesOf(laid, gear)
	is = slices.Clone(was)
	is[in.Index] = boxOf(next[len(next)-1])
	return was, is, stow.CheckLaid(place, pieces, next, s.units), nil
}

func boxOf(l stow.Laid) store.Box { return store.Box{At: vec(l.At), Size: vec(l.Size)} }

// ofGear are the pieces of a thing in a layout, by index: first those laid by
// hand, in the order in which they are kept, so that each keeps its number.
func (s *snapshot) ofGear(laid []stow.Laid, gear uuid.UUID) (order []int) {
	for _, b := range s.stowage[gear].Laid {
		i := slices.IndexFunc(laid, func(l stow.Laid) bool { return l.ID == gear.String() && boxOf(l) == b })
		if i >= 0 && !slices.Contains(order, i) {
			order = append(order, i)
		}
	}
	for i, l := range laid {
		if l.ID == gear.String() && !slices.Contains(order, i) {
			order = append(order, i)
		}
	}
	return order
}

// placeOf is the place aboard that a thing lies in itself, not in a box; or nil.
func (s *snapshot) placeOf(gear uuid.UUID) *store.Place {
	at := s.stowage[gear]
	if at.PlaceID == nil || at.InsideID != nil {
		return nil
	}
	return s.place(*at.PlaceID)
}

func (s *snapshot) boxesOf(laid []stow.Laid, gear uuid.UUID) (boxes store.Boxes) {
	for _, i := range s.ofGear(laid, gear) {
		boxes = append(boxes, boxOf(laid[i]))
	}
	return boxes
}

// refuseLaid lists why the pieces of a thing may not lie so in the place that it is in.
func (s *snapshot) refuseLaid(p store.Place, gear uuid.UUID, boxes store.Boxes) []stow.Refusal {
	place, pieces := s.laidPlace(p), s.in(p.ID, uuid.Nil)
	laid, _ := stow.Lay(place, pieces)
	laid = slices.DeleteFunc(slices.Clone(laid), func(l stow.Laid) bool { return l.ID == gear.String() })
	for _, b := range boxes {
		laid = append(laid, stow.Laid{ID: gear.String(), At: Vec(b.At).r3(), Size: Vec(b.Size).r3()})
	}
	return stow.CheckLaid(place, pieces, laid, s.units)
}

// holdStill notes for all else in a place where it lies, so that nothing shifts
// when one piece is laid by hand.
func (s *snapshot) holdStill(before *snapshot, p store.Place, but uuid.UUID) {
	laid, _ := stow.Lay(before.laidPlace(p), before.in(p.ID, uuid.Nil))
	for _, g := range s.lieIn(p.ID) {
		at := s.stowage[g.ID]
		if g.ID == but || len(at.Laid) > 0 {
			continue
		}
		at.Laid = before.boxesOf(laid, g.ID)
		s.stowage[g.ID] = at
		s.still = append(s.still, g.ID)
	}
}

// keepStill writes what holdStill noted.
func (s *snapshot) keepStill(tx *gorm.DB, actor Actor) error {
	for _, id := range s.still {
		err := tx.Model(&store.Stowage{}).Where("crew_id = ? AND gear_id = ?", actor.Crew, id).Update("laid", s.stowage[id].Laid).Error
		if err != nil {
			return fmt.Errorf("keeping how the rest lies: %w", err)
		}
	}
	s.still = nil
	return nil
}

// LayAnew forgets what was laid by hand in a place: the program lays it again.
func (a *App) LayAnew(ctx context.Context, actor Actor, key, boat, place uuid.UUID) (State, error) {
	return a.changes(ctx, actor, key, boat, []any{"anew", place}, func(tx *gorm.DB, s *snapshot) (*snapshot, error) {
		if s.place(place) == nil {
			return s, notFound("place")
		}
		for _, g := range s.lieIn(place) {
			at := s.stowage[g.ID]
			if len(at.Laid) == 0 {
				continue
			}
			e := store.Event{BoatID: &boat, GearID: &g.ID, Kind: "move", State: "done", Was: at.At(), Became: at.At()}
			e.Became.Laid = nil
			next := s.moved(e, e.Became)
			if err := next.keep(tx, actor, &e); err != nil {
				return s, err
			}
			s = next
		}
		return s, nil
	})
}
