package where

import (
	"errors"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Write keeps an event: where its subject is now, and the event itself in the
// crew's log. It gives the boat as she is then. Nothing else writes whereabouts.
//
// Whoever calls it holds the crew's lock (store.Tx.Lock) since before looking, so
// that no two can fill the same place, or put two boxes into each other.
func Write(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, e model.Event) (*aboard.Laden, error) {
	next := s.Moved(e, e.Became)
	var err error
	if e.GearID != nil {
		err = writeStowage(tx, actor, next, *e.GearID)
	} else {
		at := next.Stations[*e.MemberID]
		at.CrewID = actor.Crew
		err = movedMeanwhile(store.PutNext(tx, &at))
	}
	if err != nil {
		return s, err
	}
	if e.Kind == "move" && e.State == "done" { // what was undone before can't be done again after it
		if err := dropUndone(tx, actor, e.BoatID); err != nil {
			return s, err
		}
	}
	return next, appendLog(tx, actor, []model.Event{e})
}

func writeStowage(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, gear uuid.UUID) error {
	row := s.Stowage[gear]
	row.CrewID, row.Since = actor.Crew, tx.Now()
	if err := movedMeanwhile(store.PutNext(tx, &row)); err != nil {
		return err
	}
	if err := takeAlong(tx, row); err != nil {
		return err
	}
	for _, id := range s.Still() {
		if err := store.Set[model.Stowage](tx, map[string]any{"laid": s.Stowage[id].Laid}, "gear_id = ?", id); err != nil {
			return fmt.Errorf("keeping how the rest lies: %w", err)
		}
	}
	if err := store.Set[model.Gear](tx, map[string]any{"used_at": row.Since}, "id = ?", gear); err != nil {
		return fmt.Errorf("noting the use: %w", err)
	}
	return nil
}

// movedMeanwhile says so where a row is not the one that was seen.
func movedMeanwhile(err error) error {
	switch {
	case errors.Is(err, store.ErrStale):
		return Stale()
	case err != nil:
		return fmt.Errorf("keeping the move: %w", err)
	}
	return nil
}

// Stale says that someone else moved it first.
func Stale() error {
	return &refuse.Error{Kind: refuse.Conflict, Sentence: "Someone else moved it meanwhile: look where it is now."}
}

func dropUndone(tx *store.Tx, actor kernel.Actor, boat *uuid.UUID) error {
	err := store.Set[model.Event](tx, map[string]any{"state": "dropped"},
		"boat_id = ? AND by_member = ? AND state = 'undone'", boat, actor.Member)
	if err != nil {
		return fmt.Errorf("forgetting what was undone: %w", err)
	}
	return nil
}

// appendLog gives events the crew's next numbers and keeps them.
func appendLog(tx *store.Tx, actor kernel.Actor, events []model.Event) error {
	if len(events) == 0 {
		return nil
	}
	first, err := nextNumbers(tx, len(events))
	if err != nil {
		return err
	}
	for i := range events {
		e := &events[i]
		e.ID, e.CrewID, e.ByMember, e.Seq, e.At = store.NewID(), actor.Crew, actor.Member, first+int64(i), tx.Now()
	}
	if err := store.AddAll(tx, events); err != nil {
		return fmt.Errorf("keeping the event: %w", err)
	}
	return nil
}

// Begin keeps where new gear is.
func Begin(tx *store.Tx, actor kernel.Actor, rows []model.Stowage) error {
	if err := store.AddAll(tx, rows); err != nil {
		return fmt.Errorf("noting where it is: %w", err)
	}
	events := make([]model.Event, len(rows))
	for i, r := range rows {
		events[i] = model.Event{BoatID: r.BoatID, GearID: &r.GearID, Kind: "new", State: "log", Became: r.At()}
	}
	return appendLog(tx, actor, events)
}

// Send moves gear where no rule can refuse: lent, back, or as a table says that
// was checked as a whole.
func Send(tx *store.Tx, actor kernel.Actor, gear uuid.UUID, to model.Whereabouts) error {
	s := Ashore(actor)
	if err := Fetch(tx, s, &gear); err != nil {
		return err
	}
	return send(tx, actor, s, gear, to)
}

func send(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, gear uuid.UUID, to model.Whereabouts) error {
	was := s.Stowage[gear].At()
	e := model.Event{GearID: &gear, Kind: "move", State: "log", Was: was, Became: to, BoatID: was.BoatID}
	_, err := Write(tx, actor, s, e)
	return err
}

// Empty takes out of a box what lies in it, to where the box is.
func Empty(tx *store.Tx, actor kernel.Actor, box uuid.UUID) error {
	s := Ashore(actor)
	if err := Fetch(tx, s, &box); err != nil {
		return err
	}
	to := s.Stowage[box].At()
	to.Laid = nil
	for _, g := range s.Holds(box) {
		if err := send(tx, actor, s, g.ID, to); err != nil {
			return err
		}
	}
	return nil
}

// Disembark takes a person ashore who is aboard, whatever for.
func Disembark(tx *store.Tx, actor kernel.Actor, member uuid.UUID) error {
	var at model.Station
	err := store.One(tx, &at, "member_id = ?", member)
	if errors.Is(err, store.ErrNone) || err == nil && at.BoatID == nil {
		return nil
	}
	if err != nil {
		return fmt.Errorf("finding where they are: %w", err)
	}
	s := Ashore(actor)
	s.Stations[member] = at
	e := model.Event{MemberID: &member, Kind: "move", State: "log", BoatID: at.BoatID}
	e.Was = s.Whereabouts(e)
	_, err = Write(tx, actor, s, e)
	return err
}
