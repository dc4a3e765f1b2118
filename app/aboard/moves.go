package aboard

import (
	"fmt"
	"maps"

	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// MoveInput puts one thing in a place or one person at a post. Without a place
// the thing goes to the quay; without a post the person goes ashore.
type MoveInput struct {
	GearID   *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	MemberID *uuid.UUID `json:"member_id,omitempty" format:"uuid"`
	PostID   *uuid.UUID `json:"post_id,omitempty" format:"uuid"`
	Seated   bool       `json:"seated,omitempty"`
	Lay      *LayInput  `json:"lay,omitempty" doc:"Lays one of its pieces elsewhere within the place that it is in; place_id is then that place"`
	Version  int        `json:"version" doc:"Of the stowage or station that the mover saw; 0 where there was none"`
}

func (in MoveInput) Check() error {
	var fs check.Faults
	if (in.GearID == nil) == (in.MemberID == nil) {
		fs.Add("gear_id", nil, "give either gear_id or member_id")
	}
	if in.GearID != nil && (in.PostID != nil || in.Seated) {
		fs.Add("post_id", nil, "gear goes to a place, not to a post")
	}
	if in.MemberID != nil && in.PlaceID != nil {
		fs.Add("place_id", nil, "a person goes to a post, not into a place")
	}
	if in.Lay != nil {
		if in.GearID == nil || in.PlaceID == nil {
			fs.Add("lay", nil, "give gear_id, and the place_id that it is in")
		}
		in.Lay.check(&fs)
	}
	return refuse.Faulty(fs.Err())
}

// target is where a move leads, aboard this boat.
func (in MoveInput) target(boat uuid.UUID) model.Whereabouts {
	w := model.Whereabouts{PlaceID: in.PlaceID, PostID: in.PostID, Seated: in.Seated && in.PostID != nil}
	if in.GearID != nil {
		w.Kind = "quay"
	}
	if w.PlaceID != nil || w.PostID != nil {
		w.BoatID = &boat
	}
	if w.PlaceID != nil {
		w.Kind = "boat"
	}
	return w
}

// Whereabouts of the event's subject now.
func (s *Laden) Whereabouts(e model.Event) model.Whereabouts {
	if e.GearID != nil {
		return s.Stowage[*e.GearID].At()
	}
	at := s.Stations[*e.MemberID]
	return model.Whereabouts{BoatID: at.BoatID, PostID: at.PostID, Seated: at.Seated}
}

// Moved is the snapshot with the event's subject elsewhere; the original stays.
func (s *Laden) Moved(e model.Event, to model.Whereabouts) *Laden {
	c := *s
	if e.GearID != nil && to.Kind == "" { // an event of before there were sheds
		to.Kind = "quay"
		if to.BoatID != nil {
			to.Kind = "boat"
		}
	}
	if e.GearID != nil {
		c.Stowage = maps.Clone(s.Stowage)
		c.Carry(*e.GearID, to)
		row := c.Stowage[*e.GearID]
		row.InsideID, row.Rides, row.Version = to.InsideID, "boat", s.Stowage[*e.GearID].Version+1
		c.Stowage[*e.GearID] = row
		c.Fill()
		if p := c.PlaceOf(*e.GearID); p != nil && to.Laid != nil {
			c.holdStill(s, *p, *e.GearID)
		}
	} else {
		c.Stations = maps.Clone(s.Stations)
		c.Stations[*e.MemberID] = model.Station{MemberID: *e.MemberID, BoatID: to.BoatID, PostID: to.PostID, Seated: to.Seated,
			Version: s.Stations[*e.MemberID].Version + 1}
	}
	return &c
}

// Carry takes gear and all that it holds elsewhere.
func (s *Laden) Carry(gear uuid.UUID, to model.Whereabouts) {
	row := s.Stowage[gear]
	row.Laid, to.Laid = to.Laid, nil
	row.GearID, row.Kind, row.BoatID, row.PlaceID, row.ShedID, row.HeldBy = gear, to.Kind, to.BoatID, to.PlaceID, to.ShedID, to.HeldBy
	s.Stowage[gear] = row
	for _, held := range s.holds[gear] {
		s.Carry(held.ID, to)
	}
}

// Try finds the event that a move would be, and why it would be refused.
func (s *Laden) Try(in MoveInput) (model.Event, []stow.Refusal, error) {
	e := model.Event{BoatID: &s.Boat.ID, GearID: in.GearID, MemberID: in.MemberID, Kind: "move", State: "done",
		Became: in.target(s.Boat.ID)}
	if in.GearID != nil && s.Thing(*in.GearID) == nil {
		return e, nil, refuse.Missing("gear")
	}
	if in.MemberID != nil && s.Member(*in.MemberID) == nil {
		return e, nil, refuse.Missing("person")
	}
	e.Was = s.Whereabouts(e)
	if in.Lay != nil {
		if p := s.PlaceOf(*in.GearID); p == nil || p.ID != *in.PlaceID {
			return e, nil, &refuse.Error{Kind: refuse.Refused, Sentence: "It does not lie in that place: look where it is now."}
		}
		was, is, refusals, err := s.lay(*in.GearID, *in.Lay)
		e.Was.Laid, e.Became.Laid = was, is
		return e, refusals, err
	}
	refusals, err := s.Refuse(e, e.Became)
	return e, refusals, err
}

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
	refusals := stow.Refuse(StowPlace(*p), s.In(p.ID, g.ID), s.Piece(g), s.Units)
	return append(s.KeptOut(*p, g), refusals...), nil
}

// KeptOut lists what of a place's own keeps a thing out: for whom it is kept, and
// what may not lie together.
func (s *Laden) KeptOut(p model.Place, g model.Gear) (refusals []stow.Refusal) {
	if keptForAnother(p, g) {
		if m := s.Member(*p.KeptForOwner); m != nil {
			refusals = append(refusals, stow.Refusal{Rule: stow.RuleReserved, Sentence: fmt.Sprintf("%s is kept for %s's things; %s is not %[2]s's.", p.Name, m.Name, g.Name)})
		}
	}
	if keptForTag(p, g) {
		refusals = append(refusals, stow.Refusal{Rule: stow.RuleReserved, Sentence: fmt.Sprintf("%s is kept for what is tagged %s; %s is not.", p.Name, p.KeptForTag, g.Name)})
	}
	for _, o := range s.LieIn(p.ID) {
		if o.ID != g.ID {
			refusals = append(refusals, s.apart(g, o)...)
		}
	}
	return refusals
}

// LieIn lists what lies in a place itself, not in a box there.
func (s *Laden) LieIn(place uuid.UUID) (list []model.Gear) {
	for _, g := range s.Gear {
		if at := s.Stowage[g.ID]; at.PlaceID != nil && *at.PlaceID == place && at.InsideID == nil {
			list = append(list, g)
		}
	}
	return list
}

// apart says why two things, with what they hold, may not lie together.
func (s *Laden) apart(g, o model.Gear) []stow.Refusal {
	a, b, apart := stow.Apart(s.Hazards(g), s.Hazards(o))
	if !apart {
		return nil
	}
	return []stow.Refusal{{Rule: stow.RuleHazard, Sentence: fmt.Sprintf("%s (%s) may not lie with %s (%s).", g.Name, a, o.Name, b)}}
}

func Sentences(refusals []stow.Refusal) []string {
	list := []string{}
	for _, r := range refusals {
		list = append(list, r.Sentence)
	}
	return list
}

func (s *Laden) Version(e model.Event) int {
	if e.GearID != nil {
		return s.Stowage[*e.GearID].Version
	}
	return s.Stations[*e.MemberID].Version
}
