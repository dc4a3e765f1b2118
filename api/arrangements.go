package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"

	"github.com/google/uuid"
)

// ArrangementPath is the arrangement of a boat that an operation is about.
type ArrangementPath struct {
	BoatPath
	Arrangement uuid.UUID `path:"arrangement" format:"uuid"`
}

func (s *Server) registerArrangements() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	const one = boat + "arrangements/{arrangement}"
	read(s, kernel.See, op("list-arrangements", boat+"arrangements", "How she was stowed, kept under names to come back to"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) ([]stowing.ArrangementView, error) {
			return s.app.Stowing.Arrangements(ctx, actor, in.Boat)
		})
	create(s, kernel.Move, op("keep-arrangement", boat+"arrangements", "Keep how she lies now under a name"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body stowing.ArrangementInput
		}) (uuid.UUID, error) {
			return s.app.Stowing.SaveArrangement(ctx, actor, in.Key, in.Boat, in.Body)
		})
	change(s, kernel.Move, op("change-arrangement", one, "Rename an arrangement, or keep how its things lie now"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ArrangementPath
			Idempotent
			Body stowing.ArrangementChange
		}) (uuid.UUID, error) {
			return s.app.Stowing.ChangeArrangement(ctx, actor, in.Key, in.Boat, in.Arrangement, in.Body)
		})
	remove(s, kernel.Move, op("remove-arrangement", one, "Forget an arrangement; nothing is moved"),
		func(ctx context.Context, actor kernel.Actor, in *ArrangementPath) error {
			return s.app.Stowing.RemoveArrangement(ctx, actor, in.Boat, in.Arrangement)
		})
	read(s, kernel.Try, op("way-back", one+"/way", "What coming back to an arrangement takes, without changing anything"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ArrangementPath
			Rest bool      `query:"rest" doc:"What is aboard and it does not name goes off her"`
			Off  bool      `query:"off" doc:"Its own things go off her instead: nothing is laid"`
			Shed uuid.UUID `query:"shed" format:"uuid" doc:"The place ashore to which things go off her; absent: the quay"`
		}) (stowing.WayBack, error) {
			return s.app.Stowing.WayBack(ctx, actor, in.Boat, in.Arrangement,
				stowing.Back{Rest: in.Rest, Off: in.Off, Shed: optional(in.Shed)})
		})
	act(s, kernel.Move, op("move-many", crewPath+"gear-moves", "Move many pieces to one spot: all of them or none").slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body where.ManyInput
		}) (where.ManyMoved, error) {
			return s.app.Where.MoveMany(ctx, actor, in.Key, in.Body)
		})
}
