package api

import (
	"context"
	"net/http"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"

	"github.com/danielgtaylor/huma/v2"
)

type boatWrite struct {
	BoatPath
	Idempotent
}

type moveRequest struct {
	BoatPath
	Idempotent
	Body aboard.MoveInput
}

func (s *Server) registerBench() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-bench", Method: http.MethodGet, Path: boat + "bench", Summary: "The boat, what may go aboard, and how she sits"},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*Body[stowing.Bench], error) {
			return body(s.app.Stowing.Bench(ctx, actor, in.Boat))
		})
	crewOperation(s, kernel.Try, huma.Operation{OperationID: "try-move", Method: http.MethodPost, Path: boat + "dry-run", Summary: "What a move would do, without making it"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body aboard.MoveInput
		}) (*Body[where.Trial], error) {
			return body(s.app.Where.Try(ctx, actor, in.Boat, in.Body))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "move", Method: http.MethodPost, Path: boat + "moves", Summary: "Move a thing or a person"},
		func(ctx context.Context, actor kernel.Actor, in *moveRequest) (*Body[where.State], error) {
			return body(s.app.Where.Move(ctx, actor, in.Key, in.Boat, in.Body))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "undo", Method: http.MethodPost, Path: boat + "undo", Summary: "Take one's own last move back"},
		func(ctx context.Context, actor kernel.Actor, in *boatWrite) (*Body[where.State], error) {
			return body(s.app.Where.Undo(ctx, actor, in.Key, in.Boat))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "redo", Method: http.MethodPost, Path: boat + "redo", Summary: "Make the move again that one undid"},
		func(ctx context.Context, actor kernel.Actor, in *boatWrite) (*Body[where.State], error) {
			return body(s.app.Where.Redo(ctx, actor, in.Key, in.Boat))
		})
}
