package fleet

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// SaveBoat makes a boat (no id) or changes one. It gives the boat's id.
func (a *Wing) SaveBoat(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in aboard.BoatInput) (uuid.UUID, error) {
	if err := in.Check(); err != nil {
		return uuid.Nil, err
	}
	row := model.Boat{CrewID: actor.Crew, Name: in.Name, Water: in.Water, Hull: in.Hull, Outfit: in.Outfit,
		Plate:  in.Plate,
		Limits: in.Limits, Setup: in.Setup}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{id, version, in}, func() (uuid.UUID, error) {
			if err := seats(tx, id, &row.Outfit); err != nil {
				return uuid.Nil, err
			}
			if id == uuid.Nil {
				row.ID, row.Version = store.NewID(), 1
				return row.ID, kernel.Taken(store.Add(tx, &row), "name", in.Name)
			}
			return id, updateBoat(tx, id, version, row)
		})
		id = made
		return err
	})
	return id, err
}

// seats looks whether guests' seats are posts of the boat. One that was a post when it was
// chosen and is gone by now is dropped: it is nobody's error.
func seats(tx *store.Tx, boat uuid.UUID, out *model.Outfit) error {
	if out.Brief == nil || len(out.Brief.Seats) == 0 {
		return nil
	}
	var was model.Boat
	if boat != uuid.Nil {
		if err := store.One(tx, &was, "id = ?", boat); err != nil {
			return kernel.Absent(err, "boat")
		}
	}
	told := *out.Brief
	if b := was.Outfit.Brief; b != nil {
		told.Seats = nil
		for _, post := range out.Brief.Seats {
			err := Seated(tx, boat, "seats", []uuid.UUID{post})
			if err == nil || !slices.Contains(b.Seats, post) {
				told.Seats = append(told.Seats, post)
			}
		}
	}
	out.Brief = &told
	return Seated(tx, boat, "outfit.brief.seats", told.Seats)
}

// Seated refuses what is none of the boat's posts.
func Seated(tx *store.Tx, boat uuid.UUID, field string, posts []uuid.UUID) error {
	for i, post := range posts {
		err := store.Exists[model.Post](tx, "id = ? AND boat_id = ?", post, boat)
		if errors.Is(err, store.ErrNone) {
			return refuse.Faulty(check.Faults{{Field: fmt.Sprintf("%s[%d]", field, i), Value: post,
				Want: "must be a post of this boat"}})
		}
		if err != nil {
			return fmt.Errorf("looking for a seat: %w", err)
		}
	}
	return nil
}

func updateBoat(tx *store.Tx, id uuid.UUID, version int, row model.Boat) error {
	return kernel.Taken(ChangeBoat(tx, id, version, map[string]any{"name": row.Name, "hull": row.Hull,
		"outfit": row.Outfit,
		"plate":  row.Plate, "limits": row.Limits, "setup": row.Setup, "water": row.Water}), "name", row.Name)
}

// ChangeBoat sets columns of a boat unless someone changed her since.
func ChangeBoat(tx *store.Tx, id uuid.UUID, version int, columns map[string]any) error {
	err := store.Change[model.Boat](tx, id, version, columns)
	if !errors.Is(err, store.ErrStale) {
		return kernel.Absent(err, "boat")
	}
	var now model.Boat
	if err := store.One(tx, &now, "id = ?", id); err != nil {
		return err
	}
	return refuse.Stale(now.Name, viewBoat(now))
}

// BoatView is a boat as entered, to be changed.
type BoatView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	aboard.BoatInput
}

func viewBoat(b model.Boat) BoatView {
	return BoatView{ID: b.ID, Version: b.Version, BoatInput: aboard.InputOf(b)}
}

// Boat gives a boat as entered.
func (a *Wing) Boat(ctx context.Context, actor kernel.Actor, id uuid.UUID) (BoatView, error) {
	var b model.Boat
	err := a.In(ctx, actor, func(tx *store.Tx) error { return kernel.Absent(store.One(tx, &b, "id = ?", id), "boat") })
	return viewBoat(b), err
}

// Craft is a boat made ready.
func (a *Wing) Craft(tx *store.Tx, id uuid.UUID) (model.Boat, *aboard.Craft, error) {
	var b model.Boat
	if err := store.One(tx, &b, "id = ?", id); err != nil {
		return b, nil, kernel.Absent(err, "boat")
	}
	c, err := a.boats.Get(b)
	return b, c, err
}

// Rigged is a boat made ready with what is fastened to her.
func Rigged(tx *store.Tx, boat uuid.UUID, c *aboard.Craft) (*aboard.Craft, error) {
	var fittings []model.Fitting
	if err := store.All(tx, &fittings, "name, id", "boat_id = ?", boat); err != nil {
		return nil, fmt.Errorf("loading what is fastened to her: %w", err)
	}
	return c.Rigged(aboard.Docked(fittings)), nil
}
