package api

import (
	"context"
	"net/http"

	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerPlan() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	crewOperation(s, kernel.See, huma.Operation{OperationID: "plan-schools", Method: http.MethodGet, Path: crewPath + "plan-schools", Summary: "What each school of stowing is good at"},
		func(context.Context, kernel.Actor, *CrewPath) (*Body[map[string]stowing.Weights], error) {
			return body(stowing.Schools, nil)
		})
	crewOperation(s, kernel.Try, huma.Operation{OperationID: "plan-stowage", Method: http.MethodPost, Path: boat + "plan", Summary: "Look for a better stowage, without changing anything"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body stowing.PlanInput
		}) (*Body[stowing.PlanView], error) {
			return body(s.app.Stowing.Plan(ctx, actor, in.Boat, in.Body))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "accept-plan", Method: http.MethodPost, Path: boat + "plan/accept", Summary: "Make the moves of a plan: all of them or none"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body stowing.AcceptInput
		}) (*Body[where.State], error) {
			return body(s.app.Stowing.Accept(ctx, actor, in.Key, in.Boat, in.Body))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-reach", Method: http.MethodGet, Path: boat + "reach", Summary: "Seconds from a post to everywhere aboard"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Post string `query:"post" format:"uuid" doc:"The first post where it is left out"`
		}) (*Body[stowing.ReachView], error) {
			return body(s.app.Stowing.Reach(ctx, actor, in.Boat, in.Post))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "lid-cards", Method: http.MethodGet, Path: boat + "lid-cards", Summary: "A card for each lid, for paper",
		Responses: fileAnswer("application/pdf")},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*File, error) {
			text, err := s.app.Stowing.LidCards(ctx, actor, in.Boat)
			return file("application/pdf", "lid-cards.pdf", text, err)
		})
}
