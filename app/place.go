package app

import (
	"context"
	"errors"
	"fmt"

	"ergasia/core/check"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// PlaceInput is a box aboard that holds gear.
type PlaceInput struct {
	Name    string     `json:"name"`
	Corner  Vec        `json:"corner_m" doc:"Of least x, y and z"`
	Size    Vec        `json:"size_m" doc:"Inside, along x, y and z"`
	Opening [2]float64 `json:"opening_m" doc:"In the top, along x and y; 0, 0 for the whole top"`
	Dryness string     `json:"dryness" enum:"dry,wet"`
	MaxKg   float64    `json:"max_kg" doc:"What it may carry; 0 for no limit"`
}

const farthest = 30 // metres from the foot of the transom

func (in PlaceInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i := range 3 {
		fs.Within(fmt.Sprintf("corner_m[%d]", i), in.Corner[i], -farthest, farthest)
		fs.Within(fmt.Sprintf("size_m[%d]", i), in.Size[i], 0.01, 12)
	}
	for i := range 2 {
		fs.Within(fmt.Sprintf("opening_m[%d]", i), in.Opening[i], 0, 12)
	}
	if (in.Opening[0] == 0) != (in.Opening[1] == 0) {
		fs.Add("opening_m", in.Opening, "give both sides, or 0, 0 for the whole top")
	}
	if in.Opening[0] > in.Size[0]+1e-9 || in.Opening[1] > in.Size[1]+1e-9 {
		fs.Add("opening_m", in.Opening, fmt.Sprintf("must not be larger than the place, %g by %g", in.Size[0], in.Size[1]))
	}
	fs.OneOf("dryness", in.Dryness, "dry", "wet")
	fs.Within("max_kg", in.MaxKg, 0, 1000)
	return invalid(fs.Err())
}

func (in PlaceInput) row(actor Actor, boat uuid.UUID) store.Place {
	return store.Place{CrewID: actor.Crew, BoatID: boat, Name: in.Name, X: in.Corner[0], Y: in.Corner[1], Z: in.Corner[2],
		Length: in.Size[0], Breadth: in.Size[1], Height: in.Size[2], OpeningLength: in.Opening[0], OpeningBreadth: in.Opening[1],
		Dryness: in.Dryness, MaxKg: in.MaxKg}
}

func placeInput(p store.Place) PlaceInput {
	return PlaceInput{Name: p.Name, Corner: Vec{p.X, p.Y, p.Z}, Size: Vec{p.Length, p.Breadth, p.Height},
		Opening: [2]float64{p.OpeningLength, p.OpeningBreadth}, Dryness: p.Dryness, MaxKg: p.MaxKg}
}

// PlaceRef is a place with its version, the state of a stale edit.
type PlaceRef struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	PlaceInput
}

// SavePlace makes a place (no id) or changes one. It gives the place's id.
func (a *App) SavePlace(ctx context.Context, actor Actor, key, boat, id uuid.UUID, version int, in PlaceInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return uuid.Nil, err
	}
	row := in.row(actor, boat)
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.once(tx, actor, key, []any{boat, id, version, in}, func() (uuid.UUID, error) {
			if id == uuid.Nil {
				if err := boatExists(tx, actor, boat); err != nil {
					return uuid.Nil, err
				}
				row.ID, row.Version = store.NewID(), 1
				return row.ID, named(tx.Create(&row).Error, "name", in.Name)
			}
			row.ID, row.Version = id, version+1
			done := tx.Model(&store.Place{}).Where("crew_id = ? AND boat_id = ? AND id = ? AND version = ?", actor.Crew, boat, id, version).
				Select("*").Updates(&row)
			if done.Error != nil || done.RowsAffected == 1 {
				return id, named(done.Error, "name", in.Name)
			}
			var now store.Place
			if err := tx.Where("crew_id = ? AND boat_id = ? AND id = ?", actor.Crew, boat, id).Take(&now).Error; err != nil {
				return id, absent(err, "place")
			}
			return id, stale(now.Name, PlaceRef{now.ID, now.Version, placeInput(now)})
		})
		id = made
		return err
	})
	return id, err
}

func boatExists(tx *gorm.DB, actor Actor, boat uuid.UUID) error {
	return absent(tx.Select("id").Where("crew_id = ? AND id = ?", actor.Crew, boat).Take(&store.Boat{}).Error, "boat")
}

// RemovePlace takes an empty place away.
func (a *App) RemovePlace(ctx context.Context, actor Actor, boat, id uuid.UUID) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND boat_id = ? AND id = ?", actor.Crew, boat, id).Delete(&store.Place{})
		if errors.Is(done.Error, gorm.ErrForeignKeyViolated) {
			return &Error{Kind: Refused, Sentence: "There is gear in this place: take it out first."}
		}
		if done.Error == nil && done.RowsAffected == 0 {
			return notFound("place")
		}
		return done.Error
	})
}

// PostInput is where a person works aboard.
type PostInput struct {
	Name string `json:"name"`
	At   Vec    `json:"at_m" doc:"Of the sole there"`
}

// AddPost makes a post and gives its id.
func (a *App) AddPost(ctx context.Context, actor Actor, key, boat uuid.UUID, in PostInput) (uuid.UUID, error) {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i := range 3 {
		fs.Within(fmt.Sprintf("at_m[%d]", i), in.At[i], -farthest, farthest)
	}
	if err := invalid(fs.Err()); err != nil {
		return uuid.Nil, err
	}
	var id uuid.UUID
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.once(tx, actor, key, []any{boat, in}, func() (uuid.UUID, error) {
			if err := boatExists(tx, actor, boat); err != nil {
				return uuid.Nil, err
			}
			row := store.Post{ID: store.NewID(), CrewID: actor.Crew, BoatID: boat, Name: in.Name, X: in.At[0], Y: in.At[1], Z: in.At[2], Version: 1}
			return row.ID, named(tx.Create(&row).Error, "name", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

// RemovePost takes a post away that nobody is at.
func (a *App) RemovePost(ctx context.Context, actor Actor, boat, id uuid.UUID) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND boat_id = ? AND id = ?", actor.Crew, boat, id).Delete(&store.Post{})
		if errors.Is(done.Error, gorm.ErrForeignKeyViolated) {
			return &Error{Kind: Refused, Sentence: "Someone is at this post: put them elsewhere first."}
		}
		if done.Error == nil && done.RowsAffected == 0 {
			return notFound("post")
		}
		return done.Error
	})
}
