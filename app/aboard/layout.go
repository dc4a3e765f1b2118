package aboard

import (
	"fmt"
	"slices"

	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
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
func (s *Laden) lay(gear uuid.UUID, in LayInput) (was, is model.Boxes, refusals []stow.Refusal, err error) {
	p := s.PlaceOf(gear)
	if p == nil {
		return nil, nil, nil, &refuse.Error{Kind: refuse.Refused, Sentence: "It lies in no place of this boat: put it into one first."}
	}
	if p.Form != "box" {
		return nil, nil, nil, &refuse.Error{Kind: refuse.Refused, Sentence: "Rods in " + p.Name + " lie by their length and their guides: they are not laid by hand."}
	}
	place, pieces := s.LaidPlace(*p), s.In(p.ID, uuid.Nil)
	laid, ok := stow.Lay(place, pieces)
	order := s.ofGear(laid, gear)
	if !ok || in.Index >= len(order) {
		return nil, nil, nil, &refuse.Error{Kind: refuse.Refused, Sentence: "What is in " + p.Name + " has no layout: take something out first."}
	}
	next := stow.Put(place, pieces, laid, order[in.Index], in.At[0], in.At[1], in.Turn)
	was = s.boxesOf(laid, gear)
	is = slices.Clone(was)
	is[in.Index] = boxOf(next[len(next)-1])
	return was, is, stow.CheckLaid(place, pieces, next, s.Units), nil
}

func boxOf(l stow.Laid) model.Box { return model.Box{At: model.VecOf(l.At), Size: model.VecOf(l.Size)} }

// ofGear are the pieces of a thing in a layout, by index: first those laid by
// hand, in the order in which they are kept, so that each keeps its number.
func (s *Laden) ofGear(laid []stow.Laid, gear uuid.UUID) (order []int) {
	for _, b := range s.Stowage[gear].Laid {
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

// PlaceOf is the place aboard that a thing lies in itself, not in a box; or nil.
func (s *Laden) PlaceOf(gear uuid.UUID) *model.Place {
	at := s.Stowage[gear]
	if at.PlaceID == nil || at.InsideID != nil {
		return nil
	}
	return s.Place(*at.PlaceID)
}

func (s *Laden) boxesOf(laid []stow.Laid, gear uuid.UUID) (boxes model.Boxes) {
	for _, i := range s.ofGear(laid, gear) {
		boxes = append(boxes, boxOf(laid[i]))
	}
	return boxes
}

// refuseLaid lists why the pieces of a thing may not lie so in the place that it is in.
func (s *Laden) refuseLaid(p model.Place, gear uuid.UUID, boxes model.Boxes) []stow.Refusal {
	place, pieces := s.LaidPlace(p), s.In(p.ID, uuid.Nil)
	laid, _ := stow.Lay(place, pieces)
	laid = slices.DeleteFunc(slices.Clone(laid), func(l stow.Laid) bool { return l.ID == gear.String() })
	for _, b := range boxes {
		laid = append(laid, stow.Laid{ID: gear.String(), At: model.Vec(b.At).R3(), Size: model.Vec(b.Size).R3()})
	}
	return stow.CheckLaid(place, pieces, laid, s.Units)
}

// holdStill notes for all else in a place where it lies, so that nothing shifts
// when one piece is laid by hand.
func (s *Laden) holdStill(before *Laden, p model.Place, but uuid.UUID) {
	laid, _ := stow.Lay(before.LaidPlace(p), before.In(p.ID, uuid.Nil))
	for _, g := range s.LieIn(p.ID) {
		at := s.Stowage[g.ID]
		if g.ID == but || len(at.Laid) > 0 {
			continue
		}
		at.Laid = before.boxesOf(laid, g.ID)
		s.Stowage[g.ID] = at
		s.Still = append(s.Still, g.ID)
	}
}
