package aboard

import (
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Stowed is where a thing is. No place means the quay, or another boat.
type Stowed struct {
	GearID  uuid.UUID  `json:"gear_id" format:"uuid"`
	Kind    string     `json:"kind" words:"spots"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	Inside  *uuid.UUID `json:"inside_id,omitempty" format:"uuid" doc:"The container that it lies in"`
	HeldBy  *uuid.UUID `json:"held_by,omitempty" format:"uuid"`
	Kg      float64    `json:"kg" doc:"All of it, with what it holds"`
	Boat    string     `json:"boat,omitempty" doc:"The other boat that it is in"`
	Version int        `json:"version"`
	Laid    []Laid     `json:"laid"`
	ByHand  bool       `json:"by_hand,omitempty" doc:"Laid by hand: it stays where it lies"`
	Against []string   `json:"against,omitempty" doc:"Why a rule says no, of what was noted there all the same"`
}

// Laid is how one of a thing lies, in the boat's frame.
type Laid struct {
	Corner model.Vec `json:"corner_m"`
	Size   model.Vec `json:"size_m"`
	Layer  int       `json:"layer" doc:"0 on the floor of its place, 1 on what lies there, and so on up"`
	Rod    *RodView  `json:"rod,omitempty" doc:"Of a rod in a bed, tube or holder"`
}

// RodView is how a rod lies, in the boat's frame.
type RodView struct {
	Aft      [2]float64 `json:"aft_y_m" doc:"What it takes up across at its after end, from and to"`
	Fore     [2]float64 `json:"fore_y_m"`
	Reversed bool       `json:"reversed" doc:"Butt forward"`
	Slot     int        `json:"slot" doc:"Tube or holder, from 0"`
	Doubled  bool       `json:"doubled" doc:"Tip by butt with another, or two in one tube"`
}

// Stowed says where a thing is; others are the names of the crew's other boats.
func (s *Laden) Stowed(g model.Gear, others map[uuid.UUID]string) Stowed {
	at := s.Stowage[g.ID]
	kg, _ := s.Weight(g)
	one := Stowed{GearID: g.ID, Kind: at.Kind, Inside: at.InsideID, HeldBy: at.HeldBy, Kg: kg, Version: at.Version,
		Laid: []Laid{}}
	if at.BoatID == nil {
		return one
	}
	if *at.BoatID != s.Boat.ID {
		one.Boat = others[*at.BoatID]
		return one
	}
	one.PlaceID, one.ByHand, one.Against = at.PlaceID, len(at.Laid) > 0, s.Against(g)
	if p := s.Place(*at.PlaceID); p != nil {
		lies := s.LiesIn(p.ID)
		for _, i := range s.ofGear(lies, g.ID) {
			one.Laid = append(one.Laid, laidIn(*p, lies[i]))
		}
	}
	return one
}

// LaidOf is how the pieces of a thing lie, or of the box that it is in.
func (s *Laden) LaidOf(root uuid.UUID) []Laid {
	list := []Laid{}
	if p := s.PlaceOf(root); p != nil {
		lies := s.LiesIn(p.ID)
		for _, i := range s.ofGear(lies, root) {
			list = append(list, laidIn(*p, lies[i]))
		}
	}
	return list
}

func laidIn(p model.Place, l Lying) Laid {
	v := Laid{Corner: model.Vec{p.X + l.At.X, p.Y + l.At.Y, p.Z + l.At.Z}, Size: model.VecOf(l.Size), Layer: l.Layer}
	if l.Ends != nil {
		across := func(v [2]float64) [2]float64 { return [2]float64{p.Y + v[0], p.Y + v[1]} }
		v.Rod = &RodView{
			Aft:      across(l.Ends.Aft),
			Fore:     across(l.Ends.Fore),
			Reversed: l.Ends.Reversed,
			Slot:     l.Ends.Slot,
			Doubled:  l.Ends.Doubled,
		}
	}
	return v
}

// BoxesOf are the boxes that a thing lies in, the innermost first.
func (s *Laden) BoxesOf(g model.Gear) (list []model.Gear) {
	for in := s.Stowage[g.ID].InsideID; in != nil && len(list) < BoxesDeep; in = s.Stowage[*in].InsideID {
		box := s.Thing(*in)
		if box == nil {
			break
		}
		list = append(list, *box)
	}
	return list
}

// MiddleOf is the middle of where a thing lies aboard, by its layout, or its place; nil
// where it has no place.
func (s *Laden) MiddleOf(g model.Gear) *model.Vec {
	root := g
	if boxes := s.BoxesOf(g); len(boxes) > 0 {
		root = boxes[len(boxes)-1]
	}
	place := s.PlaceOf(root.ID)
	if place == nil {
		return nil
	}
	at := model.Vec{place.X + place.Length/2, place.Y + place.Breadth/2, place.Z + place.Height/2}
	for _, l := range s.LiesIn(place.ID) {
		if l.Gear == root.ID {
			at = model.Vec{place.X + l.At.X + l.Size.X/2, place.Y + l.At.Y + l.Size.Y/2, place.Z + l.At.Z + l.Size.Z/2}
			break
		}
	}
	return &at
}
