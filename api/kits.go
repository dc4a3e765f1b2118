package api

import (
	"context"
	"net/http"

	"ergasia/app"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// KitPath is the kit that an operation is about.
type KitPath struct {
	CrewPath
	Kit uuid.UUID `path:"kit" format:"uuid"`
}

func (s *Server) registerKits() {
	crewOperation(s, app.See, huma.Operation{OperationID: "list-kits", Method: http.MethodGet, Path: crewPath + "kits", Summary: "The kits, with how much of each is missing"},
		func(ctx context.Context, actor app.Actor, _ *CrewPath) (*Body[[]app.KitView], error) {
			return body(s.app.Kits(ctx, actor))
		})
	crewOperation(s, app.See, huma.Operation{OperationID: "get-kit", Method: http.MethodGet, Path: crewPath + "kits/{kit}", Summary: "A kit held against what the crew has, for a trip or a party"},
		func(ctx context.Context, actor app.Actor, in *struct {
			KitPath
			Trip    uuid.UUID `query:"trip" format:"uuid"`
			Boat    uuid.UUID `query:"boat" format:"uuid"`
			Persons int       `query:"persons" minimum:"1" maximum:"20" default:"2"`
			Rods    int       `query:"rods" minimum:"0" maximum:"60" default:"4"`
			Days    int       `query:"days" minimum:"1" maximum:"60" default:"1"`
		}) (*Body[app.KitAnswer], error) {
			return body(s.app.Kit(ctx, actor, in.Kit, app.KitFor{Trip: optional(in.Trip), Boat: optional(in.Boat), Persons: in.Persons, Rods: in.Rods, Days: in.Days}))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "add-kit", Method: http.MethodPost, Path: crewPath + "kits", Summary: "Add a kit"},
		func(ctx context.Context, actor app.Actor, in *struct {
			CrewPath
			Idempotent
			Body app.KitInput
		}) (*Body[Made], error) {
			return made(s.app.SaveKit(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "change-kit", Method: http.MethodPut, Path: crewPath + "kits/{kit}", Summary: "Change a kit"},
		func(ctx context.Context, actor app.Actor, in *struct {
			KitPath
			Idempotent
			Body struct {
				app.KitInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.SaveKit(ctx, actor, in.Key, in.Kit, in.Body.Version, in.Body.KitInput))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "remove-kit", Method: http.MethodDelete, Path: crewPath + "kits/{kit}", Summary: "Take a kit away; the gear stays", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor app.Actor, in *KitPath) (*struct{}, error) {
			return nil, s.app.RemoveKit(ctx, actor, in.Kit)
		})
}
