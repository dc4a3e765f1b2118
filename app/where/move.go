package where

import (
	"context"
	"errors"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/stow"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Trial is what would become of the boat.
type Trial struct {
	Refused []string        `json:"refused" doc:"Why the move would be refused; empty where it may be made"`
	Then    *aboard.Figures `json:"then,omitempty"`
	Now     aboard.Figures  `json:"now"`
	Anyway  bool            `json:"anyway" doc:"It is refused, and may still be noted where it lies"`
}

// Try works a move out without making it.
func (a *Wing) Try(ctx context.Context, actor kernel.Actor, boat uuid.UUID, in aboard.MoveInput) (Trial, error) {
	if err := in.Check(); err != nil {
		return Trial{}, err
	}
	var s *aboard.Laden
	var e model.Event
	var refusals []stow.Refusal
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		if s, err = a.Laden(tx, actor, boat); err == nil {
			e, refusals, err = judge(tx, s, in)
		}
		return err
	})
	if err != nil {
		return Trial{}, err
	}
	trial := Trial{Refused: aboard.Sentences(refusals), Now: s.Figures()}
	trial.Anyway = len(refusals) > 0 && in.Lay == nil && aboard.MayBeNoted(refusals)
	if len(refusals) == 0 || trial.Anyway && in.Anyway {
		then := s.Moved(e, e.Became).Figures()
		trial.Then = &then
	}
	return trial, nil
}

// judge finds the event that a move would be on a boat, and why it would be refused.
func judge(tx *store.Tx, s *aboard.Laden, in aboard.MoveInput) (model.Event, []stow.Refusal, error) {
	to, err := destination(tx, in)
	if err != nil {
		return model.Event{}, nil, err
	}
	if err := Fetch(tx, s, in.GearID, to.InsideID); err != nil {
		return model.Event{}, nil, err
	}
	e, refusals, err := s.Try(in, to)
	if err != nil {
		return e, nil, err
	}
	if e.BoatID = e.Was.BoatID; s.Boat.ID != uuid.Nil { // whose page, and whose undo, it is on
		e.BoatID = &s.Boat.ID
	}
	if e.Was.Kind == "lent" {
		refusals = append(refusals, stow.Refusal{Rule: aboard.RuleLent, Sentence: "It is lent: note its return first."})
	}
	return e, refusals, nil
}

// destination finds the whereabouts that a command names.
func destination(tx *store.Tx, in aboard.MoveInput) (to model.Whereabouts, err error) {
	switch {
	case in.MemberID != nil && in.PostID != nil:
		var p model.Post
		err = kernel.Absent(store.One(tx, &p, "id = ?", *in.PostID), "post")
		to = model.Whereabouts{BoatID: &p.BoatID, PostID: in.PostID, Seated: in.Seated}
	case in.MemberID != nil: // ashore
	case in.PlaceID != nil:
		var p model.Place
		err = kernel.Absent(store.One(tx, &p, "id = ?", *in.PlaceID), "place")
		to = model.Whereabouts{Kind: "boat", BoatID: &p.BoatID, PlaceID: in.PlaceID}
	case in.ShedID != nil:
		err = kernel.Absent(store.Exists[model.Shed](tx, "id = ?", *in.ShedID), "place ashore")
		to = model.Whereabouts{Kind: "shed", ShedID: in.ShedID}
	case in.HolderID != nil:
		err = kernel.Absent(store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *in.HolderID), "person")
		to = model.Whereabouts{Kind: "person", HeldBy: in.HolderID}
	case in.BoxID != nil:
		return insideOf(tx, *in.BoxID)
	default:
		to = model.Whereabouts{Kind: "quay"}
	}
	return to, err
}

func insideOf(tx *store.Tx, box uuid.UUID) (model.Whereabouts, error) {
	var at model.Stowage
	if err := store.One(tx, &at, "gear_id = ?", box); err != nil {
		return model.Whereabouts{}, kernel.Absent(err, "box")
	}
	if at.Kind == "lent" {
		return model.Whereabouts{}, &refuse.Error{Kind: refuse.Refused, Sentence: "That box is lent: note its return first."}
	}
	to := at.At()
	to.InsideID, to.Laid = &box, nil
	return to, nil
}

// Make makes a move on a boat that the crew's lock was taken for, and gives her as
// she is then.
func Make(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, in aboard.MoveInput) (*aboard.Laden, error) {
	e, refusals, err := judge(tx, s, in)
	switch {
	case err != nil:
		return s, err
	case s.Version(e) != in.Version:
		return s, Stale()
	case len(refusals) > 0 && !(in.Anyway && aboard.MayBeNoted(refusals)):
		return s, refuse.Noting(aboard.Sentences(refusals), in.Lay == nil && aboard.MayBeNoted(refusals))
	case s.Whereabouts(e).Same(e.Became) && in.Lay == nil:
		return s, nil // it is there already
	}
	if in.Lay == nil {
		e.Became.Anyway = len(refusals) > 0
	}
	return Write(tx, actor, s, e)
}

// MakeAll makes one move after another, as of a plan. What is refused on the way is
// looked at again once all is where it goes: a place may be full, or hold what must
// lie apart, until something else has left it.
func MakeAll(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, moves []aboard.MoveInput) (*aboard.Laden, error) {
	var doubtful []model.Event
	step := store.NewID() // all of it is taken back as one
	for _, m := range moves {
		e, refusals, err := judge(tx, s, m)
		e.Step = &step
		switch {
		case err != nil:
			return s, err
		case s.Version(e) != m.Version:
			return s, Stale()
		case s.Whereabouts(e).Same(e.Became):
			continue
		case e.Was.Kind == "lent":
			return s, refuse.Because(aboard.Sentences(refusals))
		case m.Anyway && aboard.MayBeNoted(refusals):
			e.Became.Anyway = len(refusals) > 0
		case len(refusals) > 0:
			doubtful = append(doubtful, e)
		}
		if s, err = Write(tx, actor, s, e); err != nil {
			return s, err
		}
	}
	for _, e := range doubtful {
		if !s.Whereabouts(e).Same(e.Became) {
			continue
		}
		refusals, err := s.Refuse(e, e.Became)
		if err != nil {
			return s, err
		}
		if len(refusals) > 0 {
			return s, refuse.Because(aboard.Sentences(refusals))
		}
	}
	return s, nil
}

// Move makes a move on a boat's page, and gives what it changed.
func (a *Wing) Move(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in aboard.MoveInput) (State, error) {
	if err := in.Check(); err != nil {
		return State{}, err
	}
	return a.Changing(ctx, actor, key, boat, in, func(tx *store.Tx, s *aboard.Laden) (*aboard.Laden, error) {
		return Make(tx, actor, s, in)
	})
}

// Moved is where a piece is now, and what a crew should know of that.
type Moved struct {
	Spot Spot             `json:"spot"`
	Back aboard.MoveInput `json:"back" doc:"What would take it back"`
	Said []string         `json:"said" doc:"What is not as it should be, though it was done"`
}

// MoveGear moves one piece, with all that it holds, from wherever to wherever.
// Aboard, the rules of places hold; ashore, what does not suit a shelf is said but
// not refused: a crew must be able to note where a thing is.
func (a *Wing) MoveGear(ctx context.Context, actor kernel.Actor, key uuid.UUID, in aboard.MoveInput) (Moved, error) {
	answer := Moved{Said: []string{}}
	if err := in.Check(); err != nil {
		return answer, err
	}
	if in.GearID == nil || in.Lay != nil {
		return answer, &refuse.Error{Kind: refuse.Invalid,
			Sentence: "This moves a whole thing: people, and single pieces, are moved on the boat's page."}
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"move", in}, func() (uuid.UUID, error) {
			var err error
			answer.Said, answer.Back, err = a.MoveIn(tx, actor, in)
			return *in.GearID, err
		})
		if err == nil {
			answer.Spot, err = a.spotOf(tx, *in.GearID)
		}
		return err
	})
	return answer, err
}

// MoveIn is MoveGear within a transaction that holds the crew's lock.
func (a *Wing) MoveIn(tx *store.Tx, actor kernel.Actor, in aboard.MoveInput) (said []string, back aboard.MoveInput,
	err error) {
	said = []string{}
	var row model.Stowage
	if err := store.One(tx, &row, "gear_id = ?", *in.GearID); err != nil {
		return said, back, kernel.Absent(err, "gear")
	}
	to, err := destination(tx, in)
	if err != nil {
		return said, back, err
	}
	s, err := a.LadenOf(tx, actor, to.BoatID)
	if err != nil {
		return said, back, err
	}
	s, err = Make(tx, actor, s, in)
	if refusal := (*refuse.Error)(nil); errors.As(err, &refusal) && refusal.Kind == refuse.Conflict {
		now, spotErr := a.spotOf(tx, *in.GearID)
		refusal.State = now
		return said, back, errors.Join(refusal, spotErr)
	}
	if err == nil && to.ShedID != nil && to.InsideID == nil {
		var refusals []stow.Refusal
		refusals, err = shelfSays(tx, s, *in.GearID, *to.ShedID)
		said = append(said, aboard.Sentences(refusals)...)
	}
	if err == nil && in.Anyway {
		said = append(said, s.Against(*s.Thing(*in.GearID))...)
	}
	return said, aboard.Back(*in.GearID, row), err
}

// shelfSays tells what does not suit a place ashore.
func shelfSays(tx *store.Tx, s *aboard.Laden, gear, shed uuid.UUID) (said []stow.Refusal, err error) {
	var row model.Shed
	if err := store.One(tx, &row, "id = ?", shed); err != nil {
		return said, kernel.Absent(err, "place ashore")
	}
	p := aboard.StowShed(row)
	there := stow.Piece{Count: 1}
	if there.Kg, err = kgOnShelf(tx, shed, gear); err != nil {
		return said, err
	}
	measured := p.Size.X > 0 && p.Size.Y > 0 && p.Size.Z > 0
	for _, r := range stow.Refuse(p, []stow.Piece{there}, s.Piece(*s.Thing(gear)), s.Units) {
		switch r.Rule {
		case stow.RuleRoom: // shelves are not packed like lockers
		case stow.RuleSize, stow.RuleOpening:
			if measured {
				said = append(said, r)
			}
		default:
			said = append(said, r)
		}
	}
	return said, nil
}

// Changing runs one or several changes of a boat's stowage, all or none of them:
// lock, look, make them, look again. A conflict carries the present state; a
// repeated key changes nothing.
func (a *Wing) Changing(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, input any,
	change func(*store.Tx, *aboard.Laden) (*aboard.Laden, error)) (State, error) {
	var st State
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		s, err := a.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		_, _, err = a.Once(tx, actor, key, []any{boat, input}, func() (uuid.UUID, error) {
			next, err := change(tx, s)
			if err == nil {
				s = next
			}
			return boat, err
		})
		if refusal := (*refuse.Error)(nil); errors.As(err, &refusal) && refusal.Kind == refuse.Conflict {
			if s, err = a.Laden(tx, actor, boat); err == nil { // the piece may have left for another boat
				refusal.State, err = StateOf(tx, actor, s)
			}
			return errors.Join(refusal, err) // rolls back; the state was only read
		}
		if err == nil {
			st, err = StateOf(tx, actor, s)
		}
		return err
	})
	return st, err
}

// Undo takes the actor's own last move of this boat back.
func (a *Wing) Undo(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID) (State, error) {
	return a.turnBack(ctx, actor, key, boat, "undo", "done", "undone", "seq DESC")
}

// Redo makes the move again that the actor undid last.
func (a *Wing) Redo(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID) (State, error) {
	return a.turnBack(ctx, actor, key, boat, "redo", "undone", "done", "seq")
}

func (a *Wing) turnBack(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, kind, from, to,
	order string) (State, error) {
	return a.Changing(ctx, actor, key, boat, kind, func(tx *store.Tx, s *aboard.Laden) (*aboard.Laden, error) {
		var found []model.Event
		err := store.Some(tx, &found, 1, order, "boat_id = ? AND by_member = ? AND kind = 'move' AND state = ?", boat,
			actor.Member, from)
		if err != nil {
			return s, fmt.Errorf("finding the move to %s: %w", kind, err)
		}
		if len(found) == 0 {
			return s, &refuse.Error{Kind: refuse.Refused, Sentence: "There is nothing of yours to " + kind + " on this boat."}
		}
		if found[0].Step != nil { // the moves of a plan are one step, the last first
			err := store.All(tx, &found, order, "boat_id = ? AND by_member = ? AND kind = 'move' AND state = ? AND step = ?", boat,
				actor.Member, from, *found[0].Step)
			if err != nil {
				return s, fmt.Errorf("finding the moves to %s: %w", kind, err)
			}
		}
		return turnAllBack(tx, actor, s, found, boat, kind, to)
	})
}

// turnAllBack takes moves back, or makes them again, one after the other; what does
// not go on the way is looked at again once all of them are made.
func turnAllBack(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, events []model.Event, boat uuid.UUID, kind,
	to string) (*aboard.Laden, error) {
	var doubtful []model.Event
	for _, e := range events {
		source, target := e.Became, e.Was
		if kind == "redo" {
			source, target = e.Was, e.Became
		}
		if err := Fetch(tx, s, e.GearID, target.InsideID); err != nil {
			return s, err
		}
		if s.Whereabouts(e).Kind == "lent" || !s.Whereabouts(e).SameLaid(source) {
			return s, &refuse.Error{Kind: refuse.Conflict,
				Sentence: "It was moved again since, so this can't be taken back: move it yourself."}
		}
		if err := stillThere(tx, e.MemberID, target); err != nil {
			return s, err
		}
		refusals, err := s.Refuse(e, target)
		if target.Anyway { // it lay there against the rules before
			refusals = nil
		}
		if err == nil && len(refusals) > 0 && len(events) > 1 {
			e.Became = target
			doubtful = append(doubtful, e)
		} else if err != nil || len(refusals) > 0 {
			return s, noWayBack(refusals)
		}
		if err := store.Set[model.Event](tx, map[string]any{"state": to}, "id = ?", e.ID); err != nil {
			return s, fmt.Errorf("marking the move: %w", err)
		}
		s, err = Write(tx, actor, s, model.Event{BoatID: &boat, GearID: e.GearID, MemberID: e.MemberID, Kind: kind, State: "log",
			Was: source, Became: target, Step: e.Step})
		if err != nil {
			return s, err
		}
	}
	for _, e := range doubtful {
		if refusals, err := s.Refuse(e, e.Became); err != nil || len(refusals) > 0 {
			return s, noWayBack(refusals)
		}
	}
	return s, nil
}

func noWayBack(refusals []stow.Refusal) error {
	return &refuse.Error{Kind: refuse.Conflict, Sentence: "It doesn't go back there now.", Details: aboard.Sentences(refusals)}
}

// stillThere refuses what would bring back someone who has left the crew, or put anything
// where there is nothing any more.
func stillThere(tx *store.Tx, who *uuid.UUID, to model.Whereabouts) error {
	const left = "The person has left the crew"
	for _, ask := range []struct {
		id    *uuid.UUID
		there func(*store.Tx, string, ...any) error
		where string
		gone  string
	}{
		{id: who, there: store.Exists[model.Member], where: "id = ? AND left_at IS NULL", gone: left},
		{id: to.HeldBy, there: store.Exists[model.Member], where: "id = ? AND left_at IS NULL", gone: left},
		{id: to.PlaceID, there: store.Exists[model.Place], where: "id = ?", gone: "The place was removed"},
		{id: to.PostID, there: store.Exists[model.Post], where: "id = ?", gone: "The position was removed"},
		{id: to.ShedID, there: store.Exists[model.Shed], where: "id = ?", gone: "The place ashore was removed"},
		{id: to.InsideID, there: store.Exists[model.Gear], where: "id = ?", gone: "The box was removed"},
	} {
		if ask.id == nil {
			continue
		}
		err := ask.there(tx, ask.where, *ask.id)
		if errors.Is(err, store.ErrNone) {
			return &refuse.Error{Kind: refuse.Conflict, Sentence: ask.gone + ", so this can't be undone: move it yourself."}
		}
		if err != nil {
			return fmt.Errorf("looking whether it is still there: %w", err)
		}
	}
	return nil
}

// LayAnew forgets what was laid by hand in a place: the program lays it again.
func (a *Wing) LayAnew(ctx context.Context, actor kernel.Actor, key, boat, place uuid.UUID) (State, error) {
	return a.Changing(ctx, actor, key, boat, []any{"anew", place}, func(tx *store.Tx, s *aboard.Laden) (*aboard.Laden,
		error) {
		if s.Place(place) == nil {
			return s, refuse.Missing("place")
		}
		for _, g := range s.LieIn(place) {
			at := s.Stowage[g.ID]
			if len(at.Laid) == 0 {
				continue
			}
			e := model.Event{BoatID: &boat, GearID: &g.ID, Kind: "move", State: "done", Was: at.At(), Became: at.At()}
			e.Became.Laid = nil
			var err error
			if s, err = Write(tx, actor, s, e); err != nil {
				return s, err
			}
		}
		return s, nil
	})
}
