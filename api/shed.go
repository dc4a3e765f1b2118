package api

import (
	"context"
	"net/http"

	"ergasia/app"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// ShedPath is the place ashore that an operation is about.
type ShedPath struct {
	CrewPath
	Shed uuid.UUID `path:"shed" format:"uuid"`
}

func (s *Server) registerShed() {
	crewOperation(s, app.See, huma.Operation{OperationID: "list-shed", Method: http.MethodGet, Path: crewPath + "shed", Summary: "The places ashore, with what they hold in figures"},
		func(ctx context.Context, actor app.Actor, _ *CrewPath) (*Body[[]app.ShedView], error) {
			return body(s.app.Shed(ctx, actor))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "add-shed", Method: http.MethodPost, Path: crewPath + "shed", Summary: "Add a place ashore"},
		func(ctx context.Context, actor app.Actor, in *struct {
			CrewPath
			Idempotent
			Body app.ShedInput
		}) (*Body[Made], error) {
			return made(s.app.SaveShed(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "change-shed", Method: http.MethodPut, Path: crewPath + "shed/{shed}", Summary: "Change a place ashore"},
		func(ctx context.Context, actor app.Actor, in *struct {
			ShedPath
			Idempotent
			Body struct {
				app.ShedInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.SaveShed(ctx, actor, in.Key, in.Shed, in.Body.Version, in.Body.ShedInput))
		})
	crewOperation(s, app.ChangeGear, huma.Operation{OperationID: "remove-shed", Method: http.MethodDelete, Path: crewPath + "shed/{shed}", Summary: "Take an empty place ashore away", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor app.Actor, in *ShedPath) (*struct{}, error) {
			return nil, s.app.RemoveShed(ctx, actor, in.Shed)
		})
}
