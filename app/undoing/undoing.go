// Package undoing takes back what was done in one stroke: things taken away come
// back, what a layout or a table made goes.
package undoing

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/app/where"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	where *where.Wing
	gear  *gear.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, w *where.Wing, g *gear.Wing) *Wing {
	return &Wing{Kernel: k, where: w, gear: g}
}

// Undoable is the last that the actor did in one stroke.
type Undoable struct {
	ID   uuid.UUID `json:"id" format:"uuid"`
	At   time.Time `json:"at"`
	Said string    `json:"said" doc:"What was done, as a sentence"`
}

// Last is what can be taken back; its id is absent where there is nothing.
type Last struct {
	Undoable *Undoable `json:"undoable,omitempty"`
}

// offered is for how long the last stroke is offered.
const offered = time.Hour

// Last tells what the actor did last that can be taken back.
func (a *Wing) Last(ctx context.Context, actor kernel.Actor) (Last, error) {
	var last Last
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var rows []struct {
			ID   uuid.UUID
			At   time.Time
			Said string
		}
		err := tx.Read(
			&rows,
			`SELECT id, at, said FROM undoable WHERE crew_id = @crew AND by_member = @me AND undone_at IS NULL
			AND at > @since ORDER BY at DESC, id DESC LIMIT 1`,
			store.Args{"me": actor.Member, "since": a.Now().Add(-offered)},
		)
		if err != nil {
			return fmt.Errorf("looking what can be taken back: %w", err)
		}
		for _, r := range rows {
			last.Undoable = &Undoable{ID: r.ID, At: r.At, Said: r.Said}
		}
		return nil
	})
	return last, err
}

// Undone says what is not as it was.
type Undone struct {
	Said []string `json:"said"`
}

// Undo takes a stroke of the actor's own back.
func (a *Wing) Undo(ctx context.Context, actor kernel.Actor, key, id uuid.UUID) (Undone, error) {
	done := Undone{Said: []string{}}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"take back", id}, func() (uuid.UUID, error) {
			var row model.Undoable
			if err := store.Locked(tx, &row, "id = ? AND by_member = ?", id, actor.Member); err != nil {
				return uuid.Nil, kernel.Absent(err, "change of yours")
			}
			if row.UndoneAt != nil {
				return uuid.Nil, &refuse.Error{Kind: refuse.Refused, Sentence: "That was taken back already."}
			}
			if !kernel.Allowed(actor.Role, kernel.Action(row.Action)) {
				return uuid.Nil, &refuse.Error{
					Kind:     refuse.Forbidden,
					Sentence: "Your role does not allow that any more.",
				}
			}
			var s kernel.Stroke
			if err := json.Unmarshal(row.Kept, &s); err != nil {
				return uuid.Nil, fmt.Errorf("reading what was kept: %w", err)
			}
			if err := a.takeBack(tx, actor, s, &done); err != nil {
				return uuid.Nil, err
			}
			return id, store.Set[model.Undoable](
				tx,
				map[string]any{"undone_at": a.Now(), "kept": json.RawMessage("{}")},
				"id = ?",
				id,
			)
		})
		return err
	})
	return done, err
}

func (a *Wing) takeBack(tx *store.Tx, actor kernel.Actor, s kernel.Stroke, done *Undone) error {
	if err := a.remove(tx, actor, s); err != nil {
		return err
	}
	if s.Table != "" {
		if err := a.gear.BringBack(tx, actor, []byte(s.Table)); err != nil {
			return err
		}
	}
	if err := fishAgain(tx, s); err != nil {
		return err
	}
	if err := cmp.Or(refit(tx, s), rewire(tx, s)); err != nil {
		return err
	}
	stayed, err := a.where.Return(tx, actor, s.Were)
	if err != nil {
		return err
	}
	for _, name := range stayed {
		done.Said = append(done.Said, name+" was moved on since: it stays where it is.")
	}
	var were []model.Stowage
	for _, r := range s.Rows {
		if r.Table == "stowage" { // it comes to the quay, and from there where it was, if that still goes
			var err error
			if were, r, err = onTheQuay(r); err != nil {
				return err
			}
		}
		if r.Table == "booking" {
			if err := promiseAgain(tx, r, done); err != nil {
				return err
			}
			continue
		}
		err := store.PutBack(tx, r)
		if errors.Is(err, store.ErrTaken) {
			return &refuse.Error{
				Kind:     refuse.Conflict,
				Sentence: "Something else has its name or place by now, so it can't come back: rename that first.",
			}
		}
		if errors.Is(err, store.ErrReferred) {
			return &refuse.Error{Kind: refuse.Conflict, Sentence: "What it belonged to is gone, so it can't come back."}
		}
		if err != nil {
			return err
		}
	}
	for _, at := range were {
		if err := a.backTo(tx, actor, at, done); err != nil {
			return err
		}
	}
	for box, spares := range s.Spares {
		of, err := uuid.Parse(box)
		if err != nil {
			return fmt.Errorf("reading what was kept: %w", err)
		}
		if err := store.Set[model.Gear](tx, map[string]any{"spares_for": of}, "id IN ? AND spares_for IS NULL", spares); err != nil {
			return fmt.Errorf("joining spares again: %w", err)
		}
	}
	for _, held := range s.Held {
		if err := a.into(tx, actor, held, were); err != nil {
			return err
		}
	}
	return nil
}

// promiseAgain promises gear again that nobody else was promised since, and says of the rest
// that it was.
func promiseAgain(tx *store.Tx, r store.Rows, done *Undone) error {
	back, err := store.PutBackFree(tx, r, "gear_id")
	if err != nil {
		return err
	}
	var were []struct {
		GearID uuid.UUID `json:"gear_id"`
	}
	if err := json.Unmarshal(r.Rows, &were); err != nil {
		return fmt.Errorf("reading what was kept: %w", err)
	}
	for _, w := range were {
		if slices.Contains(back, w.GearID.String()) {
			continue
		}
		var g model.Gear
		err := store.One(tx, &g, "id = ?", w.GearID)
		if errors.Is(err, store.ErrNone) {
			continue // the thing itself is gone
		}
		if err != nil {
			return fmt.Errorf("looking what was promised: %w", err)
		}
		done.Said = append(done.Said, kernel.Capital(g.Name)+" was promised to another trip or lent since: it does not come back with this.")
	}
	return nil
}

// fishAgain puts fish back on their trip's list, where it is still open.
func fishAgain(tx *store.Tx, s kernel.Stroke) error {
	if len(s.Fish) == 0 {
		return nil
	}
	t, err := trips.Open(tx, s.Trip)
	if err != nil {
		return err
	}
	version := t.Version
	t.Catch, t.Version = append(slices.Clone(t.Catch), s.Fish...), version+1
	return kernel.Keep(tx, &t, t.ID, version, "trip", t.Name)
}

// refit puts fittings back as they were, unless someone changed them since.
func refit(tx *store.Tx, s kernel.Stroke) error {
	for _, f := range s.Refit {
		changed := f.Version + 1
		f.Version = changed + 1
		if err := kernel.Keep(tx, &f, f.ID, changed, "fitting", f.Name); err != nil {
			return err
		}
	}
	return nil
}

// rewire puts electrics back as they were, unless someone changed them since.
func rewire(tx *store.Tx, s kernel.Stroke) error {
	for _, was := range s.Wired {
		was.Version += 2
		if err := store.PutNext(tx, &was); err != nil {
			return refuse.Stale("The electrics", nil)
		}
	}
	return nil
}

// onTheQuay gives where things were, and the rows that put them on the quay.
func onTheQuay(r store.Rows) (were []model.Stowage, quay store.Rows, err error) {
	var rows []map[string]any
	if err := json.Unmarshal(r.Rows, &rows); err != nil {
		return nil, r, fmt.Errorf("reading what was kept: %w", err)
	}
	id := func(v any) *uuid.UUID {
		text, _ := v.(string)
		if one, err := uuid.Parse(text); err == nil {
			return &one
		}
		return nil
	}
	for _, row := range rows {
		gear := id(row["gear_id"])
		if gear == nil {
			continue
		}
		kind, _ := row["kind"].(string)
		were = append(
			were,
			model.Stowage{GearID: *gear, Kind: kind, InsideID: id(row["inside_id"]), PlaceID: id(row["place_id"]),
				ShedID: id(row["shed_id"]), HeldBy: id(row["held_by"]), Anyway: row["anyway"] == true},
		)
		row["anyway"] = false
		if kind == "lent" {
			continue // its loan comes back with it
		}
		row["kind"] = "quay"
		for _, column := range []string{"inside_id", "boat_id", "place_id", "shed_id", "held_by", "laid"} {
			row[column] = nil
		}
	}
	text, err := json.Marshal(rows)
	return were, store.Rows{Table: r.Table, Rows: text}, err
}

// backTo moves a thing from the quay to where it was; where that does not go any
// more it stays, and that is said.
func (a *Wing) backTo(tx *store.Tx, actor kernel.Actor, was model.Stowage, done *Undone) error {
	in := aboard.MoveInput{GearID: &was.GearID, PlaceID: was.PlaceID, ShedID: was.ShedID, HolderID: was.HeldBy,
		Anyway: was.Anyway}
	if was.InsideID != nil {
		in.PlaceID, in.ShedID, in.HolderID, in.BoxID = nil, nil, nil, was.InsideID
	}
	if was.Kind == "lent" || in.PlaceID == nil && in.ShedID == nil && in.HolderID == nil && in.BoxID == nil {
		return nil
	}
	var now model.Stowage
	if err := store.One(tx, &now, "gear_id = ?", was.GearID); err != nil {
		return kernel.Absent(err, "gear")
	}
	in.Version = now.Version
	_, _, err := a.where.MoveIn(tx, actor, in)
	if refusal := (*refuse.Error)(nil); errors.As(err, &refusal) {
		var g model.Gear
		if err := store.One(tx, &g, "id = ?", was.GearID); err != nil {
			return kernel.Absent(err, "gear")
		}
		done.Said = append(done.Said, fmt.Sprintf("%s is back, on the quay: %s", g.Name, refusal.Sentence))
		return nil
	}
	return err
}

// into puts a thing back into the box that it lay in, where it is still where the
// box left it.
func (a *Wing) into(tx *store.Tx, actor kernel.Actor, held uuid.UUID, were []model.Stowage) error {
	if len(were) != 1 {
		return nil
	}
	var at model.Stowage
	err := store.One(tx, &at, "gear_id = ?", held)
	if errors.Is(err, store.ErrNone) || err == nil && at.InsideID != nil {
		return nil
	}
	if err != nil {
		return fmt.Errorf("looking where it is: %w", err)
	}
	_, _, err = a.where.MoveIn(tx, actor, aboard.MoveInput{GearID: &held, BoxID: &were[0].GearID, Version: at.Version})
	if refusal := (*refuse.Error)(nil); errors.As(err, &refusal) {
		return nil
	}
	return err
}

// remove takes away what a stroke made. What was used since stays, and keeps the
// rest: a stroke is taken back whole.
func (a *Wing) remove(tx *store.Tx, actor kernel.Actor, s kernel.Stroke) error {
	used := &refuse.Error{
		Kind:     refuse.Conflict,
		Sentence: "Some of it was changed or used since, so it can't be taken back whole: remove what you don't want.",
	}
	if len(s.Gear) > 0 {
		n, err := store.Count[model.Gear](tx, "id IN ? AND version > 1", s.Gear)
		if err == nil && n == 0 {
			n, err = store.Count[model.Event](tx, "gear_id IN ? AND kind <> 'new'", s.Gear)
		}
		if err != nil {
			return fmt.Errorf("looking what was changed since: %w", err)
		}
		if n > 0 {
			return used
		}
		for some := range slices.Chunk(s.Gear, 2000) {
			if err := store.Remove[model.Gear](tx, "id IN ?", some); err != nil && !errors.Is(err, store.ErrNone) {
				return fmt.Errorf("taking gear away: %w", err)
			}
		}
	}
	err := errors.Join(gone(store.Remove[model.Arrangement](tx, "id IN ?", append(s.Over, uuid.Nil))),
		gone(store.Remove[model.Place](tx, "id IN ?", append(s.Places, uuid.Nil))),
		gone(store.Remove[model.Post](tx, "id IN ?", append(s.Posts, uuid.Nil))),
		gone(store.Remove[model.Fitting](tx, "id IN ?", append(s.Fitted, uuid.Nil))))
	if errors.Is(err, store.ErrReferred) {
		return used
	}
	return err
}

func gone(err error) error {
	if errors.Is(err, store.ErrNone) {
		return nil
	}
	return err
}
