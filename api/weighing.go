package api

import (
	"context"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/weighing"

	"github.com/google/uuid"
)

func (s *Server) registerWeighing() {
	read(s, kernel.See, op("read-scale", crewPath+"scale", "What the hanging scale shows"),
		func(_ context.Context, _ kernel.Actor, in *struct {
			CrewPath
			Tare float64 `query:"tare_kg" minimum:"-100" maximum:"500" default:"0"`
		}) (weighing.ScaleView, error) {
			return s.app.Weighing.Weight(in.Tare), nil
		})
	doing(s, kernel.ChangeGear, op("hang-on-scale", crewPath+"scale", "Hang gear on the simulated scale, or nothing"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Gear *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
			}
		}) error {
			return s.app.Weighing.Pretend(ctx, actor, in.Body.Gear)
		})
	read(s, kernel.See, op("list-unweighed", boatPath+"weighing",
		"Unweighed gear, what matters most to this boat's balance first"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) ([]weighing.ToWeigh, error) {
			return s.app.Weighing.Weighing(ctx, actor, in.Boat)
		})
	act(s, kernel.ChangeGear, op("weigh-gear", gearPath+"/mass", "Keep what the scale showed"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				Version int     `json:"version"`
				Kg      float64 `json:"kg" doc:"Of all that hung, the tare taken off"`
			}
		}) (gear.GearView, error) {
			return s.app.Weighing.Weighed(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.Kg)
		})
}
