package lists

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// OwnLineInput is a line of the crew's own.
type OwnLineInput struct {
	Stage  string     `json:"stage" words:"list_stages"`
	Text   string     `json:"text"`
	Holds  bool       `json:"holds"`
	Sort   int        `json:"sort,omitempty" doc:"Among the crew's own lines of its stage, the smallest first"`
	BoatID *uuid.UUID `json:"boat_id,omitempty" format:"uuid" doc:"Only in this boat"`
	TripID *uuid.UUID `json:"trip_id,omitempty" format:"uuid" doc:"Only on this trip"`
}

const mostOwn = 300

// SaveLine makes a line of the crew's own (no id), or changes one.
func (a *Wing) SaveLine(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in OwnLineInput) (uuid.UUID, error) {
	var fs check.Faults
	fs.OneOf("stage", in.Stage, words.ListStages.Keys()...)
	fs.Text("text", strings.TrimSpace(in.Text), 1, 200)
	fs.Within("sort", float64(in.Sort), -10000, 10000)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return id, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"list line", id, version, in}, func() (uuid.UUID, error) {
			if err := in.refers(tx); err != nil {
				return id, err
			}
			if n, err := store.Count[model.ListLine](tx, ""); err != nil || id == uuid.Nil && n >= mostOwn {
				return id, errors.Join(err, &refuse.Error{Kind: refuse.Refused,
					Sentence: fmt.Sprintf("There are %d lines of your own, the most that are kept.", n)})
			}
			row := model.ListLine{
				ID:      kernel.IDOr(id),
				CrewID:  actor.Crew,
				BoatID:  in.BoatID,
				TripID:  in.TripID,
				Stage:   in.Stage,
				Text:    strings.TrimSpace(in.Text),
				Holds:   in.Holds,
				Sort:    in.Sort,
				Version: version + 1,
			}
			return row.ID, kernel.Keep(tx, &row, id, version, "line", in.Text)
		})
		id = made
		return err
	})
	return id, err
}

func (in OwnLineInput) refers(tx *store.Tx) error {
	if in.BoatID != nil {
		if err := store.Exists[model.Boat](tx, "id = ?", *in.BoatID); err != nil {
			return kernel.Absent(err, "boat")
		}
	}
	if in.TripID != nil {
		return kernel.Absent(store.Exists[model.Trip](tx, "id = ?", *in.TripID), "trip")
	}
	return nil
}

// RemoveLine takes a line of the crew's own away.
func (a *Wing) RemoveLine(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.ListLine
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "line")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "list_line"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, "“"+row.Text+"” was taken off the list.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.ListLine](tx, "id = ?", id), "line")
	})
}
