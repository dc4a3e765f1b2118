package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/stowing"
	"ergasia/app/where"
)

func (s *Server) registerRods() {
	const boat = "/api/crews/{crew}/boats/{boat}/"
	read(s, kernel.See, op("get-rods", boat+"rods",
		"Who lies where, in which order rods are pulled, and what does not go in"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Bridge float64 `query:"bridge_m" minimum:"0" maximum:"100" doc:"Clear height over the water on the way; 0 is none"`
			Road   float64 `query:"road_m" minimum:"0" maximum:"100" doc:"Clear height on the road; 0 is none"`
			Keel   float64 `query:"keel_m" default:"0.5" minimum:"0" maximum:"3" doc:"Of the keel over the ground on the trailer"`
		}) (stowing.RodsView, error) {
			return s.app.Stowing.Rods(ctx, actor, in.Boat, stowing.RodsInput{Bridge: in.Bridge, Road: in.Road, Keel: in.Keel})
		})
	act(s, kernel.Move, op("lay-anew", boat+"places/{place}/lay-anew", "Forget what was laid by hand in a place"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PlacePath
			Idempotent
		}) (where.State, error) {
			return s.app.Where.LayAnew(ctx, actor, in.Key, in.Boat, in.Place)
		})
}
