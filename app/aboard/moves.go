package aboard

import (
	"maps"

	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// MoveInput is the one command by which gear and people change where they are:
// on a boat's pages, on a piece's page, by its label, in a plan. It names one
// thing or one person, and at most one spot where that goes. Without a spot gear
// goes to the quay, and a person ashore.
type MoveInput struct {
	GearID   *uuid.UUID `json:"gear_id,omitempty" format:"uuid" doc:"The thing that moves"`
	MemberID *uuid.UUID `json:"member_id,omitempty" format:"uuid" doc:"Or the person who does"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"Into a place aboard"`
	BoxID    *uuid.UUID `json:"box_id,omitempty" format:"uuid" doc:"Into a box, wherever that is"`
	ShedID   *uuid.UUID `json:"shed_id,omitempty" format:"uuid" doc:"To a place ashore"`
	HolderID *uuid.UUID `json:"holder_id,omitempty" format:"uuid" doc:"To a person who wears or carries it"`
	PostID   *uuid.UUID `json:"post_id,omitempty" format:"uuid" doc:"Of a person: to a post"`
	Seated   bool       `json:"seated,omitempty"`
	Lay      *LayInput  `json:"lay,omitempty" doc:"Lays one of its pieces elsewhere within the place that it is in; place_id is then that place"`
	Anyway   bool       `json:"anyway,omitempty" doc:"It lies there, though a rule says no: note it, marked as such"`
	Version  int        `json:"version" doc:"Of the stowage or station that the mover saw; 0 where there was none"`
}

// Check says what is wrong with the command by itself.
func (in MoveInput) Check() error {
	var fs check.Faults
	if (in.GearID == nil) == (in.MemberID == nil) {
		fs.Add("gear_id", nil, "name one thing or one person that moves")
	}
	spots := 0
	for field, id := range map[string]*uuid.UUID{"place_id": in.PlaceID, "box_id": in.BoxID, "shed_id": in.ShedID,
		"holder_id": in.HolderID} {
		if id == nil {
			continue
		}
		if spots++; in.MemberID != nil {
			fs.Add(field, nil, "a person goes to a post, not into a place or to a person")
		}
	}
	if spots > 1 {
		fs.Add("place_id", nil, "name one spot: a place, a box, a place ashore or a person")
	}
	if in.GearID != nil && (in.PostID != nil || in.Seated) {
		fs.Add("post_id", nil, "gear goes to a place, not to a post")
	}
	if in.Lay != nil {
		if in.GearID == nil || in.PlaceID == nil {
			fs.Add("lay", nil, "name the thing, and the place that it is in")
		}
		if in.Anyway {
			fs.Add("anyway", nil, "a piece that is laid by hand must lie as the rules allow")
		}
		in.Lay.check(&fs)
	}
	return refuse.Faulty(fs.Err())
}

// Back is the command that would take gear back to a spot.
func Back(gear uuid.UUID, at model.Stowage) MoveInput {
	in := MoveInput{GearID: &gear, Version: at.Version + 1, Anyway: at.Anyway}
	switch {
	case at.InsideID != nil:
		in.BoxID = at.InsideID
	case at.PlaceID != nil:
		in.PlaceID = at.PlaceID
	case at.ShedID != nil:
		in.ShedID = at.ShedID
	case at.HeldBy != nil:
		in.HolderID = at.HeldBy
	}
	return in
}

// Whereabouts of the event's subject now.
func (s *Laden) Whereabouts(e model.Event) model.Whereabouts {
	if e.GearID != nil {
		return s.Stowage[*e.GearID].At()
	}
	at := s.Stations[*e.MemberID]
	return model.Whereabouts{BoatID: at.BoatID, PostID: at.PostID, Seated: at.Seated}
}

// Version is how often the event's subject was moved.
func (s *Laden) Version(e model.Event) int {
	if e.GearID != nil {
		return s.Stowage[*e.GearID].Version
	}
	return s.Stations[*e.MemberID].Version
}

// Try finds the event that a move to a spot would be, and why it would be refused.
func (s *Laden) Try(in MoveInput, to model.Whereabouts) (model.Event, []stow.Refusal, error) {
	e := model.Event{GearID: in.GearID, MemberID: in.MemberID, Kind: "move", State: "done", Became: to}
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
		e.Became.Anyway = e.Was.Anyway
		return e, refusals, err
	}
	refusals, err := s.Refuse(e, to)
	return e, refusals, err
}

// Has says whether what a spot names is still there, as far as this boat knows: events
// speak of places, posts and boxes that may have been removed since.
func (s *Laden) Has(at model.Whereabouts) bool {
	if at.InsideID != nil && s.Thing(*at.InsideID) == nil {
		return false
	}
	if at.BoatID == nil || *at.BoatID != s.Boat.ID {
		return true // another boat's, or ashore
	}
	return (at.PlaceID == nil || s.Place(*at.PlaceID) != nil) && (at.PostID == nil || s.Post(*at.PostID) != nil)
}

// Moved is the boat with the event's subject elsewhere; the original stays. Into what is
// gone nothing goes: gear is on the quay then, and a person ashore.
func (s *Laden) Moved(e model.Event, to model.Whereabouts) *Laden {
	if !s.Has(to) {
		to = model.Whereabouts{}
	}
	c := s.Branch()
	c.memo.lies = maps.Clone(s.memo.lies)
	if e.GearID == nil {
		c.Stations = maps.Clone(s.Stations)
		c.Stations[*e.MemberID] = model.Station{MemberID: *e.MemberID, BoatID: to.BoatID, PostID: to.PostID,
			Seated:  to.Seated,
			Version: s.Stations[*e.MemberID].Version + 1}
		return c
	}
	lies := c.memo.lies
	c.Carry(*e.GearID, known(to))
	row := c.Stowage[*e.GearID]
	row.Rides, row.Version = "boat", s.Stowage[*e.GearID].Version+1
	c.Stowage[*e.GearID] = row
	if p := c.PlaceOf(*e.GearID); p != nil && to.Laid != nil {
		c.holdStill(s, *p, *e.GearID)
	}
	for _, place := range []*uuid.UUID{s.Stowage[*e.GearID].PlaceID, to.PlaceID} { // only these are laid anew
		if place != nil {
			delete(lies, *place)
		}
	}
	c.memo.lies = lies
	return c
}

// known is a spot as events of before there were sheds kept it, with its kind.
func known(to model.Whereabouts) model.Whereabouts {
	if to.Kind == "" {
		to.Kind = "quay"
		if to.BoatID != nil {
			to.Kind = "boat"
		}
	}
	return to
}

// Carry takes gear and all that it holds elsewhere.
func (s *Laden) Carry(gear uuid.UUID, to model.Whereabouts) {
	row := s.Stowage[gear]
	row.InsideID, row.Anyway = to.InsideID, to.Anyway
	s.Stowage[gear] = row
	s.carry(gear, to)
	s.fill()
}

// carry leaves what lies in a box in it.
func (s *Laden) carry(gear uuid.UUID, to model.Whereabouts) {
	row := s.Stowage[gear]
	row.Laid, to.Laid = to.Laid, nil
	row.GearID, row.Kind, row.BoatID, row.PlaceID, row.ShedID, row.HeldBy = gear, to.Kind, to.BoatID, to.PlaceID,
		to.ShedID, to.HeldBy
	s.Stowage[gear] = row
	for _, held := range s.holds[gear] {
		s.carry(held.ID, to)
	}
}
