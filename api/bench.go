package api

import (
	"context"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"
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
	read(s, kernel.See, op("get-bench", boat+"bench", "The boat, what may go aboard, and how she sits"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (stowing.Bench, error) {
			return s.app.Stowing.Bench(ctx, actor, in.Boat)
		})
	ask(s, kernel.Try, op("try-move", boat+"dry-run", "What a move would do, without making it"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body aboard.MoveInput
		}) (where.Trial, error) {
			return s.app.Where.Try(ctx, actor, in.Boat, in.Body)
		})
	act(s, kernel.Move, op("move", boat+"moves", "Move a thing or a person"),
		func(ctx context.Context, actor kernel.Actor, in *moveRequest) (where.State, error) {
			return s.app.Where.Move(ctx, actor, in.Key, in.Boat, in.Body)
		})
	read(s, kernel.See, op("get-diary", boat+"diary", "All that was moved on a boat, newest first"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Before int64 `query:"before" minimum:"0" doc:"Only what came before this number"`
		}) (where.Diary, error) {
			return s.app.Where.Diary(ctx, actor, in.Boat, in.Before)
		})
	act(s, kernel.Move, op("undo", boat+"undo", "Take one's own last move back"),
		func(ctx context.Context, actor kernel.Actor, in *boatWrite) (where.State, error) {
			return s.app.Where.Undo(ctx, actor, in.Key, in.Boat)
		})
	act(s, kernel.Move, op("redo", boat+"redo", "Make the move again that one undid"),
		func(ctx context.Context, actor kernel.Actor, in *boatWrite) (where.State, error) {
			return s.app.Where.Redo(ctx, actor, in.Key, in.Boat)
		})
}
