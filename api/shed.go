package api

import (
	"context"
	"net/http"

	"ergasia/app/kernel"
	"ergasia/app/shed"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// ShedPath is the place ashore that an operation is about.
type ShedPath struct {
	CrewPath
	Shed uuid.UUID `path:"shed" format:"uuid"`
}

func (s *Server) registerShed() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-shed", Method: http.MethodGet, Path: crewPath + "shed", Summary: "The places ashore, with what they hold in figures"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[[]shed.ShedView], error) {
			return body(s.app.Shed.Shed(ctx, actor))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "add-shed", Method: http.MethodPost, Path: crewPath + "shed", Summary: "Add a place ashore"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body shed.ShedInput
		}) (*Body[Made], error) {
			return made(s.app.Shed.SaveShed(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "change-shed", Method: http.MethodPut, Path: crewPath + "shed/{shed}", Summary: "Change a place ashore"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ShedPath
			Idempotent
			Body struct {
				shed.ShedInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.Shed.SaveShed(ctx, actor, in.Key, in.Shed, in.Body.Version, in.Body.ShedInput))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "remove-shed", Method: http.MethodDelete, Path: crewPath + "shed/{shed}", Summary: "Take an empty place ashore away", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *ShedPath) (*struct{}, error) {
			return nil, s.app.Shed.RemoveShed(ctx, actor, in.Shed)
		})
}
