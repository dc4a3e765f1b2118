package fleet

import (
	"context"
	"encoding/json"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// SaveBoat makes a boat (no id) or changes one. It gives the boat's id.
func (a *Wing) SaveBoat(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int, in aboard.BoatInput) (uuid.UUID, error) {
	if err := in.Check(); err != nil {
		return uuid.Nil, err
	}
	if in.Setup == nil {
		in.Setup = []string{}
	}
	row := model.Boat{CrewID: actor.Crew, Name: in.Name, Water: in.Water}
	for _, part := range []struct {
		from any
		into *json.RawMessage
	}{{in.Hull, &row.Hull}, {in.Outfit, &row.Outfit}, {in.Plate, &row.Plate}, {in.Limits, &row.Limits}, {in.Setup, &row.Setup}} {
		text, err := json.Marshal(part.from)
		if err != nil {
			return uuid.Nil, fmt.Errorf("writing the boat: %w", err)
		}
		*part.into = text
	}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.Once(tx, actor, key, []any{id, version, in}, func() (uuid.UUID, error) {
			if id == uuid.Nil {
				row.ID, row.Version = store.NewID(), 1
				return row.ID, kernel.Taken(tx.Create(&row).Error, "name", in.Name)
			}
			return id, updateBoat(tx, actor, id, version, row)
		})
		id = made
		return err
	})
	return id, err
}

func updateBoat(tx *gorm.DB, actor kernel.Actor, id uuid.UUID, version int, row model.Boat) error {
	return kernel.Taken(ChangeBoat(tx, actor, id, version, map[string]any{"name": row.Name, "hull": row.Hull, "outfit": row.Outfit, "plate": row.Plate,
		"limits": row.Limits, "setup": row.Setup, "water": row.Water}), "name", row.Name)
}

// ChangeBoat sets columns of a boat unless someone changed her since.
func ChangeBoat(tx *gorm.DB, actor kernel.Actor, id uuid.UUID, version int, columns map[string]any) error {
	columns["version"] = version + 1
	done := tx.Model(&model.Boat{}).Where("crew_id = ? AND id = ? AND version = ?", actor.Crew, id, version).Updates(columns)
	if done.Error != nil || done.RowsAffected == 1 {
		return done.Error
	}
	var now model.Boat
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&now).Error; err != nil {
		return kernel.Absent(err, "boat")
	}
	c, err := aboard.NewCraft(now)
	if err != nil {
		return err
	}
	return refuse.Stale(now.Name, BoatView{ID: now.ID, Version: now.Version, BoatInput: c.Input})
}

// BoatView is a boat as entered, to be changed.
type BoatView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	aboard.BoatInput
}

// Boat gives a boat as entered.
func (a *Wing) Boat(ctx context.Context, actor kernel.Actor, id uuid.UUID) (BoatView, error) {
	var v BoatView
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		b, c, err := a.boatAndCraft(tx, actor, id)
		if err != nil {
			return err
		}
		v = BoatView{ID: b.ID, Version: b.Version, BoatInput: c.Input}
		return nil
	})
	return v, err
}

// Craft is a boat made ready.
func (a *Wing) Craft(tx *gorm.DB, actor kernel.Actor, id uuid.UUID) (*aboard.Craft, error) {
	_, c, err := a.boatAndCraft(tx, actor, id)
	return c, err
}

func (a *Wing) boatAndCraft(tx *gorm.DB, actor kernel.Actor, id uuid.UUID) (model.Boat, *aboard.Craft, error) {
	var b model.Boat
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&b).Error; err != nil {
		return b, nil, kernel.Absent(err, "boat")
	}
	c, err := a.Boats.Get(b)
	return b, c, err
}
