package api

import (
	"context"
	"net/http"

	"ergasia/app"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// GearPath is the gear that an operation is about.
type GearPath struct {
	CrewPath
	Gear uuid.UUID `path:"gear" format:"uuid"`
}

func (s *Server) registerGear() {
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "add-gear", Method: http.MethodPost, Path: "/api/crews/{crew}/gear", Summary: "Add gear; it is on the quay"},
		func(ctx context.Context, actor app.Actor, in *struct {
			CrewPath
			Idempotent
			Body app.GearInput
		}) (*Body[app.GearView], error) {
			return body(s.app.SaveGear(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "change-gear", Method: http.MethodPut, Path: "/api/crews/{crew}/gear/{gear}", Summary: "Change gear"},
		func(ctx context.Context, actor app.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				app.GearInput
				Version int `json:"version"`
			}
		}) (*Body[app.GearView], error) {
			return body(s.app.SaveGear(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.GearInput))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "remove-gear", Method: http.MethodDelete, Path: "/api/crews/{crew}/gear/{gear}",
		Summary: "Take gear off the list", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor app.Actor, in *GearPath) (*struct{}, error) {
			return nil, s.app.RemoveGear(ctx, actor, in.Gear)
		})
}
