package api

import (
	"context"
	"net/http"

	"ergasia/app/kernel"
	"ergasia/app/kits"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// KitPath is the kit that an operation is about.
type KitPath struct {
	CrewPath
	Kit uuid.UUID `path:"kit" format:"uuid"`
}

func (s *Server) registerKits() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-kits", Method: http.MethodGet, Path: crewPath + "kits", Summary: "The kits, with how much of each is missing"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[[]kits.KitView], error) {
			return body(s.app.Kits.Kits(ctx, actor))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-kit", Method: http.MethodGet, Path: crewPath + "kits/{kit}", Summary: "A kit held against what the crew has, for a trip or a party"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			KitPath
			Trip    uuid.UUID `query:"trip" format:"uuid"`
			Boat    uuid.UUID `query:"boat" format:"uuid"`
			Persons int       `query:"persons" minimum:"1" maximum:"20" default:"2"`
			Rods    int       `query:"rods" minimum:"0" maximum:"60" default:"4"`
			Days    int       `query:"days" minimum:"1" maximum:"60" default:"1"`
		}) (*Body[kits.KitAnswer], error) {
			return body(s.app.Kits.Kit(ctx, actor, in.Kit, kits.KitFor{Trip: optional(in.Trip), Boat: optional(in.Boat), Persons: in.Persons, Rods: in.Rods, Days: in.Days}))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "add-kit", Method: http.MethodPost, Path: crewPath + "kits", Summary: "Add a kit"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body kits.KitInput
		}) (*Body[Made], error) {
			return made(s.app.Kits.SaveKit(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "change-kit", Method: http.MethodPut, Path: crewPath + "kits/{kit}", Summary: "Change a kit"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			KitPath
			Idempotent
			Body struct {
				kits.KitInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.Kits.SaveKit(ctx, actor, in.Key, in.Kit, in.Body.Version, in.Body.KitInput))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "remove-kit", Method: http.MethodDelete, Path: crewPath + "kits/{kit}", Summary: "Take a kit away; the gear stays", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *KitPath) (*struct{}, error) {
			return nil, s.app.Kits.RemoveKit(ctx, actor, in.Kit)
		})
}
