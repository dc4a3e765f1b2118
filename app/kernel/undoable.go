package kernel

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Stroke is what was done in one stroke, as it is kept to be taken back.
type Stroke struct {
	Rows   []store.Rows           `json:"rows,omitempty"`   // that went
	Held   []uuid.UUID            `json:"held,omitempty"`   // gear that lay in what went
	Spares map[string][]uuid.UUID `json:"spares,omitempty"` // gear that was a spare for what went, by its id
	Gear   []uuid.UUID            `json:"gear,omitempty"`   // that came
	Places []uuid.UUID            `json:"places,omitempty"`
	Posts  []uuid.UUID            `json:"posts,omitempty"`
	Table  string                 `json:"table,omitempty"`  // gear as it was before, as a table
	Were   []model.Stowage        `json:"were,omitempty"`   // where gear was that was moved
	Trip   uuid.UUID              `json:"trip,omitzero"`    // of the fish
	Fish   []model.Fish           `json:"fish,omitempty"`   // that were taken off a trip's list
	Fitted []uuid.UUID            `json:"fitted,omitempty"` // fittings that came
	Refit  []model.Fitting        `json:"refit,omitempty"`  // fittings as they were before they were changed
	Wired  []model.Electrics      `json:"wired,omitempty"`  // electrics as they were before they were changed
	Over   []uuid.UUID            `json:"over,omitempty"`   // arrangements that were written over: the rows have them as they were
}

// keepStrokes is how long a stroke can be taken back.
const keepStrokes = 7 * 24 * time.Hour

// Gone reads the rows that are about to go.
func (s *Stroke) Gone(tx *store.Tx, where string, args store.Args, tables ...string) error {
	for _, t := range tables {
		rows, err := store.Snapshot(tx, t, where, args)
		if err != nil {
			return err
		}
		if string(rows.Rows) != "[]" {
			s.Rows = append(s.Rows, rows)
		}
	}
	return nil
}

// Undoable keeps a stroke, so that whoever did it can take it back while their
// role allows the action. It belongs to the transaction that does it.
func (k *Kernel) Undoable(tx *store.Tx, actor Actor, may Action, said string, s Stroke) error {
	text, err := json.Marshal(s)
	if err != nil {
		return fmt.Errorf("writing what can be taken back: %w", err)
	}
	if r := []rune(said); len(r) > 300 {
		said = string(r[:300])
	}
	row := model.Undoable{
		ID:       store.NewID(),
		CrewID:   actor.Crew,
		ByMember: actor.Member,
		At:       k.Now(),
		Action:   string(may),
		Said:     said,
		Kept:     text,
	}
	if err := store.Add(tx, &row); err != nil {
		return fmt.Errorf("keeping what can be taken back: %w", err)
	}
	err = store.Remove[model.Undoable](tx, "at < ? OR undone_at IS NOT NULL", k.Now().Add(-keepStrokes))
	if err != nil && !errors.Is(err, store.ErrNone) {
		return fmt.Errorf("forgetting what can't be taken back any more: %w", err)
	}
	return nil
}
