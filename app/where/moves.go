package where

import (
	"context"
	"errors"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Trial is what would become of the boat.
type Trial struct {
	Refused []string        `json:"refused" doc:"Why the move would be refused; empty where it may be made"`
	Then    *aboard.Figures `json:"then,omitempty"`
	Now     aboard.Figures  `json:"now"`
}

// Try works a move out without making it.
func (a *Wing) Try(ctx context.Context, actor kernel.Actor, boat uuid.UUID, in aboard.MoveInput) (Trial, error) {
	if err := in.Check(); err != nil {
		return Trial{}, err
	}
	var s *aboard.Laden
	err := a.In(ctx, actor, func(tx *gorm.DB) (err error) {
		if s, err = a.Snapshot(tx, actor, boat); err != nil {
			return err
		}
		return Fetch(tx, actor, s, in.GearID)
	})
	if err != nil {
		return Trial{}, err
	}
	e, refusals, err := s.Try(in)
	if err != nil {
		return Trial{}, err
	}
	laid := s.Lies()
	trial := Trial{Refused: aboard.Sentences(refusals), Now: s.Figures(laid)}
	if len(refusals) == 0 {
		next := s.Moved(e, e.Became)
		then := next.Figures(next.Relaid(laid, e))
		trial.Then = &then
	}
	return trial, nil
}

// Move makes a move, and gives what it changed. Moves of one crew wait for
// one another.
func (a *Wing) Move(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in aboard.MoveInput) (State, error) {
	if err := in.Check(); err != nil {
		return State{}, err
	}
	return a.change(ctx, actor, key, boat, in, func(tx *gorm.DB, s *aboard.Laden) (*model.Event, error) {
		if err := Fetch(tx, actor, s, in.GearID); err != nil {
			return nil, err
		}
		e, refusals, err := s.Try(in)
		if err != nil {
			return nil, err
		}
		if s.Version(e) != in.Version {
			return nil, MovedMeanwhile()
		}
		if len(refusals) > 0 {
			return nil, &refuse.Error{Kind: refuse.Refused, Sentence: refusals[0].Sentence, Details: aboard.Sentences(refusals)}
		}
		if s.Whereabouts(e).Same(e.Became) && in.Lay == nil {
			return nil, nil // it is there already
		}
		err = tx.Model(&model.Event{}).Where("crew_id = ? AND boat_id = ? AND by_member = ? AND state = 'undone'", actor.Crew, boat, actor.Member).
			Update("state", "dropped").Error
		return &e, err
	})
}

func MovedMeanwhile() error {
	return &refuse.Error{Kind: refuse.Conflict, Sentence: "Someone else moved it meanwhile: look where it is now."}
}

// Undo takes the actor's own last move of this boat back.
func (a *Wing) Undo(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID) (State, error) {
	return a.turnBack(ctx, actor, key, boat, "undo", "done", "undone", "seq DESC")
}

// Redo makes the move again that the actor undid last.
func (a *Wing) Redo(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID) (State, error) {
	return a.turnBack(ctx, actor, key, boat, "redo", "undone", "done", "seq")
}

func (a *Wing) turnBack(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, kind, from, to, order string) (State, error) {
	return a.change(ctx, actor, key, boat, kind, func(tx *gorm.DB, s *aboard.Laden) (*model.Event, error) {
		var e model.Event
		err := tx.Where("crew_id = ? AND boat_id = ? AND by_member = ? AND kind = 'move' AND state = ?", actor.Crew, boat, actor.Member, from).
			Order(order).Take(&e).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil, &refuse.Error{Kind: refuse.Refused, Sentence: "There is nothing of yours to " + kind + " on this boat."}
		}
		if err != nil {
			return nil, fmt.Errorf("finding the move to %s: %w", kind, err)
		}
		if err := Fetch(tx, actor, s, e.GearID); err != nil {
			return nil, err
		}
		source, target := e.Became, e.Was
		if kind == "redo" {
			source, target = e.Was, e.Became
		}
		if !s.Whereabouts(e).SameLaid(source) {
			return nil, &refuse.Error{Kind: refuse.Conflict, Sentence: "It was moved again since, so this can't be taken back: move it yourself."}
		}
		refusals, err := s.Refuse(e, target)
		if err != nil || len(refusals) > 0 {
			return nil, &refuse.Error{Kind: refuse.Conflict, Sentence: "It doesn't go back there now.", Details: aboard.Sentences(refusals)}
		}
		if err := tx.Model(&model.Event{}).Where("crew_id = ? AND id = ?", actor.Crew, e.ID).Update("state", to).Error; err != nil {
			return nil, fmt.Errorf("marking the move: %w", err)
		}
		return &model.Event{BoatID: &boat, GearID: e.GearID, MemberID: e.MemberID, Kind: kind, State: "log", Was: source, Became: target}, nil
	})
}

// change runs one change of a boat's stowage; decide says which, nil is none.
func (a *Wing) change(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, input any,
	decide func(*gorm.DB, *aboard.Laden) (*model.Event, error)) (State, error) {
	return a.Changes(ctx, actor, key, boat, input, func(tx *gorm.DB, s *aboard.Laden) (*aboard.Laden, error) {
		e, err := decide(tx, s)
		if err != nil || e == nil {
			return s, err
		}
		next := s.Moved(*e, e.Became)
		return next, Keep(tx, actor, next, e)
	})
}

// Changes runs one or several changes of a boat's stowage, all or none of them:
// lock, look, make them, look again. A conflict carries the present state; a
// repeated key changes nothing.
func (a *Wing) Changes(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, input any, make func(*gorm.DB, *aboard.Laden) (*aboard.Laden, error)) (State, error) {
	var st State
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		if err := LockMoves(tx, actor); err != nil {
			return err
		}
		s, err := a.Snapshot(tx, actor, boat)
		if err != nil {
			return err
		}
		_, _, err = a.Once(tx, actor, key, []any{boat, input}, func() (uuid.UUID, error) {
			next, err := make(tx, s)
			if err == nil {
				s = next
			}
			return boat, err
		})
		if refusal := (*refuse.Error)(nil); errors.As(err, &refusal) && refusal.Kind == refuse.Conflict {
			if s, err = a.Snapshot(tx, actor, boat); err == nil { // the piece may have left for another boat
				refusal.State, err = StateOf(tx, actor, s)
			}
			return errors.Join(refusal, err) // rolls back; the state was only read
		}
		if err != nil {
			return err
		}
		st, err = StateOf(tx, actor, s)
		return err
	})
	return st, err
}

// LockMoves holds every other move of the crew back until this one is done, so
// that no two can fill the same place, or put two boxes into each other.
func LockMoves(tx *gorm.DB, actor kernel.Actor) error {
	err := tx.Clauses(clause.Locking{Strength: "NO KEY UPDATE"}).Select("id").Where("id = ?", actor.Crew).Take(&model.Crew{}).Error
	return kernel.Absent(err, "crew")
}

// Keep writes where the subject is now, and the event that brought it there.
func Keep(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden, e *model.Event) error {
	if e.GearID != nil {
		row := s.Stowage[*e.GearID]
		row.CrewID = actor.Crew
		if err := keepStill(tx, actor, s); err != nil {
			return err
		}
		return relocate(tx, actor, row, e)
	}
	row := s.Stations[*e.MemberID]
	row.CrewID = actor.Crew
	if err := keepRow(tx, "station", &row); err != nil {
		return err
	}
	return keepEvent(tx, actor, e)
}

// keepRow writes a stowage or station, unless it is not the one that was seen.
func keepRow(tx *gorm.DB, table string, row any) error {
	unmoved := clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: table + ".version = EXCLUDED.version - 1"}}}
	kept := tx.Clauses(clause.OnConflict{UpdateAll: true, Where: unmoved}).Create(row)
	if kept.Error != nil {
		return fmt.Errorf("keeping the move: %w", kept.Error)
	}
	if kept.RowsAffected == 0 {
		return MovedMeanwhile()
	}
	return nil
}

// relocate writes where a piece is now, takes what it holds along, and keeps the event.
func relocate(tx *gorm.DB, actor kernel.Actor, row model.Stowage, e *model.Event) error {
	row.Since = tx.NowFunc()
	if err := keepRow(tx, "stowage", &row); err != nil {
		return err
	}
	err := tx.Exec(`WITH RECURSIVE held AS (
			SELECT gear_id FROM stowage WHERE crew_id = @crew AND inside_id = @gear
			UNION SELECT s.gear_id FROM stowage s JOIN held ON s.crew_id = @crew AND s.inside_id = held.gear_id)
		UPDATE stowage SET kind = @kind, boat_id = @boat, place_id = @place, shed_id = @shed, held_by = @by, rides = @rides
		WHERE crew_id = @crew AND gear_id IN (SELECT gear_id FROM held)`,
		map[string]any{"crew": actor.Crew, "gear": row.GearID, "kind": row.Kind, "boat": row.BoatID, "place": row.PlaceID,
			"shed": row.ShedID, "by": row.HeldBy, "rides": row.Rides}).Error
	if err != nil {
		return fmt.Errorf("taking along what it holds: %w", err)
	}
	if err := tx.Exec("UPDATE gear SET used_at = ? WHERE crew_id = ? AND id = ?", row.Since, actor.Crew, row.GearID).Error; err != nil {
		return fmt.Errorf("noting the use: %w", err)
	}
	return keepEvent(tx, actor, e)
}

func keepEvent(tx *gorm.DB, actor kernel.Actor, e *model.Event) error {
	e.ID, e.CrewID, e.ByMember = store.NewID(), actor.Crew, actor.Member
	if err := tx.Omit("At").Create(e).Error; err != nil {
		return fmt.Errorf("keeping the event: %w", err)
	}
	return nil
}
