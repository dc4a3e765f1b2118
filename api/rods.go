package api

import (
	"context"
	"net/http"

	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerRods() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-rods", Method: http.MethodGet, Path: boat + "rods", Summary: "Who lies where, in which order rods are pulled, and what does not go in"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Bridge float64 `query:"bridge_m" minimum:"0" maximum:"100" doc:"Clear height over the water on the way; 0 is none"`
			Road   float64 `query:"road_m" minimum:"0" maximum:"100" doc:"Clear height on the road; 0 is none"`
			Keel   float64 `query:"keel_m" default:"0.5" minimum:"0" maximum:"3" doc:"Of the keel over the ground on the trailer"`
		}) (*Body[stowing.RodsView], error) {
			return body(s.app.Stowing.Rods(ctx, actor, in.Boat, stowing.RodsInput{Bridge: in.Bridge, Road: in.Road, Keel: in.Keel}))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "lay-anew", Method: http.MethodPost, Path: boat + "places/{place}/lay-anew", Summary: "Forget what was laid by hand in a place"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PlacePath
			Idempotent
		}) (*Body[where.State], error) {
			return body(s.app.Where.LayAnew(ctx, actor, in.Key, in.Boat, in.Place))
		})
}
