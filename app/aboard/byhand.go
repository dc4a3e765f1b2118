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
		return nil, nil, nil, &refuse.Error{Kind: refuse.Refused,
			Sentence: "It lies in no place of this boat: put it into one first."}
	}
	if p.Form != "box" {
		return nil, nil, nil, &refuse.Error{Kind: refuse.Refused,
			Sentence: "Rods in " + p.Name + " lie by their length and their guides: they are not laid by hand."}
	}
	place, pieces := s.LaidPlace(*p), s.In(p.ID, uuid.Nil)
	laid, ok := stow.Lay(place, pieces)
	lies := lyingOf(laid, s.LieIn(p.ID))
	order := s.ofGear(lies, gear)
	if !ok || in.Index >= len(order) {
		return nil, nil, nil, &refuse.Error{Kind: refuse.Refused,
			Sentence: "What is in " + p.Name + " has no layout: take something out first."}
	}
	next := stow.Put(place, pieces, laid, order[in.Index], in.At[0], in.At[1], in.Turn)
	was = s.boxesOf(lies, gear)
	is = slices.Clone(was)
	is[in.Index] = boxOf(next[len(next)-1])
	return was, is, stow.CheckLaid(place, pieces, next, s.Units), nil
}

func boxOf(l stow.Laid) model.Box { return model.Box{At: model.VecOf(l.At), Size: model.VecOf(l.Size)} }

// laidOf are the pieces of a thing as they were laid by hand.
func laidOf(gear uuid.UUID, boxes model.Boxes) (laid []stow.Laid) {
	for _, b := range boxes {
		laid = append(laid, stow.Laid{ID: key(gear), At: model.Vec(b.At).R3(), Size: model.Vec(b.Size).R3()})
	}
	return laid
}

// ofGear are the pieces of a thing in a layout, by index: first those laid by
// hand, in the order in which they are kept, so that each keeps its number.
func (s *Laden) ofGear(lies []Lying, gear uuid.UUID) (order []int) {
	for _, b := range s.Stowage[gear].Laid {
		i := slices.IndexFunc(lies, func(l Lying) bool { return l.Gear == gear && boxOf(l.Laid) == b })
		if i >= 0 && !slices.Contains(order, i) {
			order = append(order, i)
		}
	}
	for i, l := range lies {
		if l.Gear == gear && !slices.Contains(order, i) {
			order = append(order, i)
		}
	}
	return order
}

func (s *Laden) boxesOf(lies []Lying, gear uuid.UUID) (boxes model.Boxes) {
	for _, i := range s.ofGear(lies, gear) {
		boxes = append(boxes, boxOf(lies[i].Laid))
	}
	return boxes
}

// refuseLaid lists why the pieces of a thing may not lie so in the place that it is in.
func (s *Laden) refuseLaid(p model.Place, gear uuid.UUID, boxes model.Boxes) []stow.Refusal {
	var laid []stow.Laid
	for _, l := range s.LiesIn(p.ID) {
		if l.Gear != gear {
			laid = append(laid, l.Laid)
		}
	}
	return stow.CheckLaid(s.LaidPlace(p), s.In(p.ID, uuid.Nil), append(laid, laidOf(gear, boxes)...), s.Units)
}

// holdStill notes for all else in a place where it lies, so that nothing shifts
// when one piece is laid by hand.
func (s *Laden) holdStill(before *Laden, p model.Place, but uuid.UUID) {
	lies := before.LiesIn(p.ID)
	for _, g := range s.LieIn(p.ID) {
		at := s.Stowage[g.ID]
		if g.ID == but || len(at.Laid) > 0 {
			continue
		}
		at.Laid = before.boxesOf(lies, g.ID)
		s.Stowage[g.ID] = at
		s.still = append(s.still, g.ID)
	}
}

// Still lists gear that a move noted to lie where it lay.
func (s *Laden) Still() []uuid.UUID { return s.still }
