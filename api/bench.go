package api

import (
	"context"
	"net/http"

	"ergasia/app"

	"github.com/danielgtaylor/huma/v2"
)

type boatWrite struct {
	BoatPath
	Idempotent
}

type moveRequest struct {
	BoatPath
	Idempotent
	Body app.MoveInput
}

func (s *Server) registerBench() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	crewOperation(s, app.See, huma.Operation{OperationID: "get-bench", Method: http.MethodGet, Path: boat + "bench", Summary: "The boat, what may go aboard, and how she sits"},
		func(ctx context.Context, actor app.Actor, in *BoatPath) (*Body[app.Bench], error) {
			return body(s.app.Bench(ctx, actor, in.Boat))
		})
	crewOperation(s, app.Try, huma.Operation{OperationID: "try-move", Method: http.MethodPost, Path: boat + "dry-run", Summary: "What a move would do, without making it"},
		func(ctx context.Context, actor app.Actor, in *struct {
			BoatPath
			Body app.MoveInput
		}) (*Body[app.Trial], error) {
			return body(s.app.Try(ctx, actor, in.Boat, in.Body))
		})
	crewOperation(s, app.Move, huma.Operation{OperationID: "move", Method: http.MethodPost, Path: boat + "moves", Summary: "Move a thing or a person"},
		func(ctx context.Context, actor app.Actor, in *moveRequest) (*Body[app.State], error) {
			return body(s.app.Move(ctx, actor, in.Key, in.Boat, in.Body))
		})
	crewOperation(s, app.Move, huma.Operation{OperationID: "undo", Method: http.MethodPost, Path: boat + "undo", Summary: "Take one's own last move back"},
		func(ctx context.Context, actor app.Actor, in *boatWrite) (*Body[app.State], error) {
			return body(s.app.Undo(ctx, actor, in.Key, in.Boat))
		})
	crewOperation(s, app.Move, huma.Operation{OperationID: "redo", Method: http.MethodPost, Path: boat + "redo", Summary: "Make the move again that one undid"},
		func(ctx context.Context, actor app.Actor, in *boatWrite) (*Body[app.State], error) {
			return body(s.app.Redo(ctx, actor, in.Key, in.Boat))
		})
}
