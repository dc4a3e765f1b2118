package lists

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// TickInput is a tick, or the taking away of one, made at an instant.
type TickInput struct {
	Line string    `json:"line"`
	Done bool      `json:"done"`
	At   time.Time `json:"at" doc:"When it was ticked, by the phone's clock: one that waited for the network may be older than another's"`
}

// Ticked is what phones are told of a tick.
type Ticked struct {
	Line string     `json:"line"`
	Done bool       `json:"done"`
	By   string     `json:"by"`
	At   *time.Time `json:"at,omitempty"`
	Who  *uuid.UUID `json:"who,omitempty" format:"uuid"`
}

// Tick ticks a line of a trip's list. Of two that tick the same line the later one counts,
// by when it was done, not by when it came.
func (a *Wing) Tick(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, in TickInput) error {
	var fs check.Faults
	fs.Text("line", in.Line, 1, mostKey)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.WriteAside(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"tick", trip, in}, func() (uuid.UUID, error) {
			at := in.At.UTC().Truncate(time.Microsecond)
			if now := a.Now().UTC(); at.After(now) || at.IsZero() {
				at = now
			}
			return trip, a.changeTick(tx, actor, trip, in.Line, func(row *model.Tick) bool {
				if row.At != nil && row.At.After(at) {
					return false
				}
				row.Done, row.At, row.ByMember = in.Done, &at, &actor.Member
				return true
			})
		})
		return err
	})
}

// Assign says whose line it is; nobody's where there is no id.
func (a *Wing) Assign(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, line string, who *uuid.UUID) error {
	var fs check.Faults
	fs.Text("line", line, 1, mostKey)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.WriteAside(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"assign", trip, line, who}, func() (uuid.UUID, error) {
			if who != nil {
				if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *who); err != nil {
					return trip, kernel.Absent(err, "person")
				}
			}
			return trip, a.changeTick(tx, actor, trip, line, func(row *model.Tick) bool {
				row.Who = who
				return true
			})
		})
		return err
	})
}

// mostTicks of a trip. Practice: four times the longest list.
const mostTicks = 1000

// changeTick changes what is kept of a line, and tells every phone that looks at the trip.
func (a *Wing) changeTick(
	tx *store.Tx,
	actor kernel.Actor,
	trip uuid.UUID,
	line string,
	change func(*model.Tick) bool,
) error {
	if err := store.Exists[model.Trip](tx, "id = ?", trip); err != nil {
		return kernel.Absent(err, "trip")
	}
	row := model.Tick{CrewID: actor.Crew, TripID: trip, Line: line}
	err := store.Locked(tx, &row, "trip_id = ? AND line = ?", trip, line)
	if errors.Is(err, store.ErrNone) {
		if n, err := store.Count[model.Tick](tx, "trip_id = ?", trip); err != nil || n >= mostTicks {
			return errors.Join(err, tooMany(n))
		}
	} else if err != nil {
		return fmt.Errorf("reading the tick: %w", err)
	}
	if !change(&row) {
		return nil
	}
	if err := store.Put(tx, &row); err != nil {
		return fmt.Errorf("keeping the tick: %w", err)
	}
	by := ""
	if row.ByMember != nil {
		if by, err = kernel.NameOf(tx, *row.ByMember); err != nil {
			return err
		}
	}
	return Tell(tx, actor.Crew, trip, Ticked{Line: line, Done: row.Done, By: by, At: row.At, Who: row.Who})
}

func tooMany(n int64) error {
	if n < mostTicks {
		return nil
	}
	return &refuse.Error{
		Kind:     refuse.Refused,
		Sentence: fmt.Sprintf("This trip has %d ticks, the most that are kept.", n),
	}
}

// Topic is what phones that look at a trip listen to, where there is such a trip.
func (a *Wing) Topic(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (string, error) {
	return topic(actor.Crew, trip), a.In(ctx, actor, func(tx *store.Tx) error {
		return kernel.Absent(store.Exists[model.Trip](tx, "id = ?", trip), "trip")
	})
}

func topic(crew, trip uuid.UUID) string { return crew.String() + "/" + trip.String() }

// Tell tells every phone that looks at a trip, once the transaction is kept.
func Tell(tx *store.Tx, crew, trip uuid.UUID, what any) error {
	text, err := json.Marshal(what)
	if err != nil {
		return fmt.Errorf("writing what phones are told: %w", err)
	}
	return tx.Notify(topic(crew, trip), string(text))
}

// Begin begins a trip's lists again: its ticks go, and can be taken back.
func (a *Wing) Begin(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"begin lists", trip}, func() (uuid.UUID, error) {
			t, err := trips.Open(tx, trip)
			if err != nil {
				return trip, err
			}
			var s kernel.Stroke
			if err := s.Gone(tx, "trip_id = @id", store.Args{"id": trip}, "tick"); err != nil {
				return trip, err
			}
			if len(s.Rows) == 0 {
				return trip, nil
			}
			if err := a.Undoable(tx, actor, kernel.Move, "The lists of "+t.Name+" were begun again.", s); err != nil {
				return trip, err
			}
			if err := store.Remove[model.Tick](tx, "trip_id = ?", trip); err != nil {
				return trip, fmt.Errorf("taking the ticks away: %w", err)
			}
			return trip, Tell(tx, actor.Crew, trip, map[string]bool{"anew": true})
		})
		return err
	})
}
