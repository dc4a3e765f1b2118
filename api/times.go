package api

import (
	"context"
	"net/http"

	"ergasia/app/crew"
	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerTimes() {
	const path = "/api/crews/{crew}/times"
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-times", Method: http.MethodGet, Path: path, Summary: "How long things take in this crew"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[crew.Times], error) {
			return body(s.app.Crew.Times(ctx, actor))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "set-times", Method: http.MethodPut, Path: path, Summary: "Set the crew's own times; the usual ones forget them"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body crew.TimeTable
		}) (*Body[crew.Times], error) {
			return body(s.app.Crew.SetTimes(ctx, actor, in.Body))
		})
}
