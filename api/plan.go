package api

import (
	"context"
	"net/http"

	"ergasia/app"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerPlan() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	crewOperation(s, app.See, huma.Operation{OperationID: "plan-schools", Method: http.MethodGet, Path: crewPath + "plan-schools", Summary: "What each school of stowing is good at"},
		func(context.Context, app.Actor, *CrewPath) (*Body[map[string]app.Weights], error) {
			return body(app.Schools, nil)
		})
	crewOperation(s, app.Try, huma.Operation{OperationID: "plan-stowage", Method: http.MethodPost, Path: boat + "plan", Summary: "Look for a better stowage, without changing anything"},
		func(ctx context.Context, actor app.Actor, in *struct {
			BoatPath
			Body app.PlanInput
		}) (*Body[app.PlanView], error) {
			return body(s.app.Plan(ctx, actor, in.Boat, in.Body))
		})
	crewOperation(s, app.Move, huma.Operation{OperationID: "accept-plan", Method: http.MethodPost, Path: boat + "plan/accept", Summary: "Make the moves of a plan: all of them or none"},
		func(ctx context.Context, actor app.Actor, in *struct {
			BoatPath
			Idempotent
			Body app.AcceptInput
		}) (*Body[app.State], error) {
			return body(s.app.Accept(ctx, actor, in.Key, in.Boat, in.Body))
		})
	crewOperation(s, app.See, huma.Operation{OperationID: "get-reach", Method: http.MethodGet, Path: boat + "reach", Summary: "Seconds from a post to everywhere aboard"},
		func(ctx context.Context, actor app.Actor, in *struct {
			BoatPath
			Post string `query:"post" format:"uuid" doc:"The first post where it is left out"`
		}) (*Body[app.ReachView], error) {
			return body(s.app.Reach(ctx, actor, in.Boat, in.Post))
		})
	crewOperation(s, app.See, huma.Operation{OperationID: "lid-cards", Method: http.MethodGet, Path: boat + "lid-cards", Summary: "A card for each lid, for paper",
		Responses: fileAnswer("application/pdf")},
		func(ctx context.Context, actor app.Actor, in *BoatPath) (*File, error) {
			text, err := s.app.LidCards(ctx, actor, in.Boat)
			return file("application/pdf", "lid-cards.pdf", text, err)
		})
}
