package app

import (
	"context"
	"fmt"

	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// GearInput is what is said of a thing, or of some alike that go together.
type GearInput struct {
	Name      string     `json:"name"`
	OwnerID   *uuid.UUID `json:"owner_id,omitempty" format:"uuid" doc:"A member; absent when it is the crew's"`
	Size      Vec        `json:"size_m" doc:"Stowed, along x, y and z as it usually lies"`
	Kg        float64    `json:"kg" doc:"Of one"`
	MassKnown string     `json:"mass_known" enum:"weighed,plate,catalogue,guess"`
	Count     int        `json:"count"`
	NeedsDry  bool       `json:"needs_dry"`
	Turn      string     `json:"turn" enum:"none,upright,any" doc:"How it may be turned to fit"`
}

func (in GearInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	for i := range 3 {
		fs.Within(fmt.Sprintf("size_m[%d]", i), in.Size[i], 0.001, 10)
	}
	fs.Within("kg", in.Kg, 0, 500)
	fs.OneOf("mass_known", in.MassKnown, "weighed", "plate", "catalogue", "guess")
	fs.Within("count", float64(in.Count), 1, 100)
	fs.OneOf("turn", in.Turn, "none", "upright", "any")
	return invalid(fs.Err())
}

// GearView is a thing as the crew sees it.
type GearView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	GearInput
}

func viewGear(g store.Gear) GearView {
	return GearView{g.ID, g.Version, GearInput{Name: g.Name, OwnerID: g.OwnerID, Size: Vec{g.Length, g.Breadth, g.Height}, Kg: g.Kg,
		MassKnown: g.MassKnown, Count: g.Count, NeedsDry: g.NeedsDry, Turn: g.Turn}}
}

func (in GearInput) row(actor Actor) store.Gear {
	return store.Gear{CrewID: actor.Crew, Name: in.Name, OwnerID: in.OwnerID, Length: in.Size[0], Breadth: in.Size[1], Height: in.Size[2],
		Kg: in.Kg, MassKnown: in.MassKnown, Count: in.Count, NeedsDry: in.NeedsDry, Turn: in.Turn}
}

func piece(g store.Gear) stow.Piece {
	return stow.Piece{ID: g.ID.String(), Name: g.Name, Size: r3.Vec{X: g.Length, Y: g.Breadth, Z: g.Height}, Kg: g.Kg,
		Count: g.Count, NeedsDry: g.NeedsDry, Turn: stow.Turn(g.Turn)}
}

func stowPlace(p store.Place) stow.Place {
	return stow.Place{Name: p.Name, Size: r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height},
		Opening: r3.Vec{X: p.OpeningLength, Y: p.OpeningBreadth}, MaxKg: p.MaxKg, Dry: p.Dryness == "dry"}
}

// SaveGear makes a thing (no id) or changes one. New gear is on the quay.
func (a *App) SaveGear(ctx context.Context, actor Actor, key, id uuid.UUID, version int, in GearInput) (GearView, error) {
	if err := in.check(); err != nil {
		return GearView{}, err
	}
	var now store.Gear
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.once(tx, actor, key, []any{id, version, in}, func() (uuid.UUID, error) {
			if in.OwnerID != nil {
				if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, *in.OwnerID).Take(&store.Member{}).Error; err != nil {
					return id, absent(err, "person")
				}
			}
			return saveGear(tx, actor, id, version, in.row(actor))
		})
		if err != nil {
			return err
		}
		return absent(tx.Where("crew_id = ? AND id = ?", actor.Crew, made).Take(&now).Error, "gear")
	})
	return viewGear(now), err
}

func saveGear(tx *gorm.DB, actor Actor, id uuid.UUID, version int, row store.Gear) (uuid.UUID, error) {
	if id == uuid.Nil {
		row.ID, row.Version = store.NewID(), 1
		return row.ID, tx.Create(&row).Error
	}
	row.ID, row.Version = id, version+1
	done := tx.Model(&store.Gear{}).Where("crew_id = ? AND id = ? AND version = ?", actor.Crew, id, version).Select("*").Updates(&row)
	if done.Error != nil || done.RowsAffected == 1 {
		return id, done.Error
	}
	var now store.Gear
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&now).Error; err != nil {
		return id, absent(err, "gear")
	}
	return id, stale(now.Name, viewGear(now))
}

// RemoveGear takes a thing off the crew's list, and out of its place.
func (a *App) RemoveGear(ctx context.Context, actor Actor, id uuid.UUID) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Delete(&store.Gear{})
		if done.Error == nil && done.RowsAffected == 0 {
			return notFound("gear")
		}
		return done.Error
	})
}
