package api

import (
	"context"
	"net/http"

	"ergasia/app"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerTimes() {
	const path = "/api/crews/{crew}/times"
	crewOperation(s, app.See, huma.Operation{OperationID: "get-times", Method: http.MethodGet, Path: path, Summary: "How long things take in this crew"},
		func(ctx context.Context, actor app.Actor, _ *CrewPath) (*Body[app.Times], error) {
			return body(s.app.Times(ctx, actor))
		})
	crewOperation(s, app.ChangeBoat, huma.Operation{OperationID: "set-times", Method: http.MethodPut, Path: path, Summary: "Set the crew's own times; the usual ones forget them"},
		func(ctx context.Context, actor app.Actor, in *struct {
			CrewPath
			Body app.TimeTable
		}) (*Body[app.Times], error) {
			return body(s.app.SetTimes(ctx, actor, in.Body))
		})
}
