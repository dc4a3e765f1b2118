package where

import (
	"context"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/core/units"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// PutInput says where a piece of gear goes: into a place aboard, a place ashore,
// a box, to a person, or to the quay.
type PutInput struct {
	To       string     `json:"to" enum:"quay,place,shed,box,person"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	ShedID   *uuid.UUID `json:"shed_id,omitempty" format:"uuid"`
	BoxID    *uuid.UUID `json:"box_id,omitempty" format:"uuid"`
	MemberID *uuid.UUID `json:"member_id,omitempty" format:"uuid"`
	Version  int        `json:"version" doc:"Of the stowage that the mover saw"`
}

func (in PutInput) check() error {
	var fs check.Faults
	fs.OneOf("to", in.To, "quay", "place", "shed", "box", "person")
	for _, f := range []struct {
		field string
		id    *uuid.UUID
		to    string
	}{{"place_id", in.PlaceID, "place"}, {"shed_id", in.ShedID, "shed"}, {"box_id", in.BoxID, "box"}, {"member_id", in.MemberID, "person"}} {
		if (f.id != nil) != (in.To == f.to) {
			fs.Add(f.field, nil, fmt.Sprintf("is given where to is %q, and only there", f.to))
		}
	}
	return refuse.Faulty(fs.Err())
}

// PutAnswer is where the piece is now, and what a crew should know of that.
type PutAnswer struct {
	Spot Spot     `json:"spot"`
	Was  PutInput `json:"was" doc:"What would take it back"`
	Said []string `json:"said" doc:"What is not as it should be, though it was done"`
}

// Put moves one piece, with all that it holds. Aboard, the rules of places hold;
// ashore, what does not suit a shelf is said but not refused: a crew must be
// able to note where a thing is.
func (a *Wing) Put(ctx context.Context, actor kernel.Actor, key, gear uuid.UUID, in PutInput) (PutAnswer, error) {
	answer := PutAnswer{Said: []string{}}
	if err := in.check(); err != nil {
		return answer, err
	}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		if err := LockMoves(tx, actor); err != nil {
			return err
		}
		_, _, err := a.Once(tx, actor, key, []any{"put", gear, in}, func() (uuid.UUID, error) {
			var err error
			answer.Said, answer.Was, err = a.PutIn(tx, actor, gear, in)
			return gear, err
		})
		if err != nil {
			return err
		}
		answer.Spot, err = a.spotOf(tx, actor, gear)
		return err
	})
	return answer, err
}

func (a *Wing) spotOf(tx *gorm.DB, actor kernel.Actor, gear uuid.UUID) (Spot, error) {
	var row model.Stowage
	if err := tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Take(&row).Error; err != nil {
		return Spot{}, kernel.Absent(err, "gear")
	}
	n, err := a.Namer(tx, actor, []model.Stowage{row})
	if err != nil {
		return Spot{}, err
	}
	return n.Spot(row), nil
}

func (a *Wing) PutIn(tx *gorm.DB, actor kernel.Actor, gear uuid.UUID, in PutInput) (said []string, was PutInput, err error) {
	said = []string{}
	var row model.Stowage
	if err := tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Take(&row).Error; err != nil {
		return said, was, kernel.Absent(err, "gear")
	}
	if row.Version != in.Version {
		refusal := &refuse.Error{Kind: refuse.Conflict, Sentence: "Someone else moved it meanwhile: look where it is now."}
		if refusal.State, err = a.spotOf(tx, actor, gear); err != nil {
			return said, was, err
		}
		return said, was, refusal
	}
	if row.Kind == "lent" {
		return said, was, &refuse.Error{Kind: refuse.Refused, Sentence: "It is lent: note its return first."}
	}
	to, err := a.destination(tx, actor, in)
	if err != nil {
		return said, was, err
	}
	s, err := a.snapshotFor(tx, actor, to.BoatID)
	if err != nil {
		return said, was, err
	}
	if err := Fetch(tx, actor, s, &gear, to.InsideID); err != nil {
		return said, was, err
	}
	e := model.Event{GearID: &gear, Kind: "move", State: "done", Was: row.At(), Became: to, BoatID: to.BoatID}
	if e.BoatID == nil {
		e.BoatID = row.BoatID
	}
	refusals, err := s.Refuse(e, to)
	if err != nil {
		return said, was, err
	}
	if len(refusals) > 0 {
		return said, was, &refuse.Error{Kind: refuse.Refused, Sentence: refusals[0].Sentence, Details: aboard.Sentences(refusals)}
	}
	if to.ShedID != nil && to.InsideID == nil {
		if said, err = a.shelfSays(tx, actor, s, gear, *to.ShedID); err != nil {
			return said, was, err
		}
	}
	was = backTo(row)
	if s.Whereabouts(e).Same(to) {
		return said, was, nil
	}
	return said, was, Keep(tx, actor, s.Moved(e, to), &e)
}

// backTo is the input that takes a piece back to where it is now.
func backTo(row model.Stowage) PutInput {
	in := PutInput{To: "quay", Version: row.Version + 1}
	switch {
	case row.InsideID != nil:
		in.To, in.BoxID = "box", row.InsideID
	case row.PlaceID != nil:
		in.To, in.PlaceID = "place", row.PlaceID
	case row.ShedID != nil:
		in.To, in.ShedID = "shed", row.ShedID
	case row.HeldBy != nil:
		in.To, in.MemberID = "person", row.HeldBy
	}
	return in
}

// snapshotFor is of the boat, or of none.
func (a *Wing) snapshotFor(tx *gorm.DB, actor kernel.Actor, boat *uuid.UUID) (*aboard.Laden, error) {
	if boat == nil {
		return aboard.Ashore(units.SystemNamed(actor.Units)), nil
	}
	return a.Snapshot(tx, actor, *boat)
}

// destination finds the whereabouts that an input names.
func (a *Wing) destination(tx *gorm.DB, actor kernel.Actor, in PutInput) (to model.Whereabouts, err error) {
	switch in.To {
	case "place":
		var p model.Place
		err = kernel.Absent(tx.Where("crew_id = ? AND id = ?", actor.Crew, *in.PlaceID).Take(&p).Error, "place")
		to = model.Whereabouts{Kind: "boat", BoatID: &p.BoatID, PlaceID: in.PlaceID}
	case "shed":
		err = kernel.Absent(tx.Where("crew_id = ? AND id = ?", actor.Crew, *in.ShedID).Take(&model.Shed{}).Error, "place ashore")
		to = model.Whereabouts{Kind: "shed", ShedID: in.ShedID}
	case "person":
		err = kernel.Absent(tx.Where("crew_id = ? AND id = ?", actor.Crew, *in.MemberID).Take(&model.Member{}).Error, "person")
		to = model.Whereabouts{Kind: "person", HeldBy: in.MemberID}
	case "box":
		var at model.Stowage
		err = kernel.Absent(tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, *in.BoxID).Take(&at).Error, "box")
		if at.Kind == "lent" {
			return to, &refuse.Error{Kind: refuse.Refused, Sentence: "That box is lent: note its return first."}
		}
		to = at.At()
		to.InsideID = in.BoxID
	default:
		to = model.Whereabouts{Kind: "quay"}
	}
	return to, err
}

// shelfSays tells what does not suit a place ashore.
func (a *Wing) shelfSays(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden, gear, shed uuid.UUID) ([]string, error) {
	said := []string{}
	var row model.Shed
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, shed).Take(&row).Error; err != nil {
		return said, kernel.Absent(err, "place ashore")
	}
	p := aboard.StowShed(row)
	there := stow.Piece{Count: 1}
	if err := tx.Raw(`SELECT coalesce(sum(gear.kg * gear.count), 0) FROM stowage JOIN gear ON gear.crew_id = stowage.crew_id AND gear.id = stowage.gear_id
		WHERE stowage.crew_id = ? AND stowage.shed_id = ? AND stowage.gear_id <> ?`, actor.Crew, shed, gear).Scan(&there.Kg).Error; err != nil {
		return said, fmt.Errorf("weighing the shelf: %w", err)
	}
	measured := p.Size.X > 0 && p.Size.Y > 0 && p.Size.Z > 0
	for _, r := range stow.Refuse(p, []stow.Piece{there}, s.Piece(*s.Thing(gear)), s.Units) {
		switch r.Rule {
		case stow.RuleRoom: // shelves are not packed like lockers
		case stow.RuleSize, stow.RuleOpening:
			if measured {
				said = append(said, r.Sentence)
			}
		default:
			said = append(said, r.Sentence)
		}
	}
	return said, nil
}
