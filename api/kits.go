package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/kits"

	"github.com/google/uuid"
)

// KitPath is the kit that an operation is about.
type KitPath struct {
	CrewPath
	Kit uuid.UUID `path:"kit" format:"uuid"`
}

func (s *Server) registerKits() {
	read(s, kernel.See, op("list-kits", crewPath+"kits", "The kits, with how much of each is missing"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) ([]kits.KitView, error) {
			return s.app.Kits.Kits(ctx, actor)
		})
	read(s, kernel.See, op("get-kit", crewPath+"kits/{kit}",
		"A kit held against what the crew has, for a trip or a party"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			KitPath
			Trip    uuid.UUID `query:"trip" format:"uuid"`
			Boat    uuid.UUID `query:"boat" format:"uuid"`
			Persons int       `query:"persons" minimum:"1" maximum:"20" default:"2"`
			Rods    int       `query:"rods" minimum:"0" maximum:"60" default:"4"`
			Days    int       `query:"days" minimum:"1" maximum:"60" default:"1"`
		}) (kits.KitAnswer, error) {
			return s.app.Kits.Kit(ctx, actor, in.Kit, kits.KitFor{Trip: optional(in.Trip), Boat: optional(in.Boat),
				Persons: in.Persons, Rods: in.Rods, Days: in.Days})
		})
	create(s, kernel.ChangeGear, op("add-kit", crewPath+"kits", "Add a kit"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body kits.KitInput
		}) (uuid.UUID, error) {
			return s.app.Kits.SaveKit(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeGear, op("change-kit", crewPath+"kits/{kit}", "Change a kit"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			KitPath
			Idempotent
			Body struct {
				kits.KitInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Kits.SaveKit(ctx, actor, in.Key, in.Kit, in.Body.Version, in.Body.KitInput)
		})
	remove(s, kernel.ChangeGear, op("remove-kit", crewPath+"kits/{kit}", "Take a kit away; the gear stays"),
		func(ctx context.Context, actor kernel.Actor, in *KitPath) error {
			return s.app.Kits.RemoveKit(ctx, actor, in.Kit)
		})
}
