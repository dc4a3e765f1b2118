package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"

	"github.com/google/uuid"
)

func (s *Server) registerPlan() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	read(s, kernel.See, op("plan-schools", crewPath+"plan-schools", "What each school of stowing is good at"),
		func(context.Context, kernel.Actor, *CrewPath) (map[string]stowing.Weights, error) {
			return stowing.Schools, nil
		})
	ask(s, kernel.Try, op("plan-stowage", boat+"plan", "Look for a better stowage, without changing anything"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body stowing.PlanInput
		}) (stowing.PlanView, error) {
			return s.app.Stowing.Plan(ctx, actor, in.Boat, in.Body)
		})
	act(s, kernel.Move, op("accept-plan", boat+"plan/accept", "Make the moves of a plan: all of them or none"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body stowing.AcceptInput
		}) (where.State, error) {
			return s.app.Stowing.Accept(ctx, actor, in.Key, in.Boat, in.Body)
		})
	read(s, kernel.Try, op("get-suits", boat+"suits/{gear}", "The places that take a piece, the handiest first"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Gear uuid.UUID `path:"gear" format:"uuid"`
		}) ([]stowing.Suit, error) {
			return s.app.Stowing.Suits(ctx, actor, in.Boat, in.Gear)
		})
	read(s, kernel.See, op("get-reach", boat+"reach", "Seconds from a post to everywhere aboard"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Post string `query:"post" format:"uuid" doc:"The first post where it is left out"`
		}) (stowing.ReachView, error) {
			return s.app.Stowing.Reach(ctx, actor, in.Boat, in.Post)
		})
	readFile(s, kernel.See, op("lid-cards", boat+"lid-cards", "A card for each lid, for paper").files("application/pdf"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*File, error) {
			text, err := s.app.Stowing.LidCards(ctx, actor, in.Boat)
			return file("application/pdf", "lid-cards.pdf", text, err)
		})
}
