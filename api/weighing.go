package api

import (
	"context"
	"net/http"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/weighing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

func (s *Server) registerWeighing() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "read-scale", Method: http.MethodGet, Path: crewPath + "scale", Summary: "What the hanging scale shows"},
		func(_ context.Context, _ kernel.Actor, in *struct {
			CrewPath
			Tare float64 `query:"tare_kg" minimum:"-100" maximum:"500" default:"0"`
		}) (*Body[weighing.ScaleView], error) {
			return body(s.app.Weighing.Weight(in.Tare), nil)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "hang-on-scale", Method: http.MethodPost, Path: crewPath + "scale", Summary: "Hang gear on the simulated scale, or nothing", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Gear *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Weighing.Pretend(ctx, actor, in.Body.Gear)
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-unweighed", Method: http.MethodGet, Path: boatPath + "weighing", Summary: "Unweighed gear, what matters most to this boat's balance first"},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*Body[[]weighing.ToWeigh], error) {
			return body(s.app.Weighing.Weighing(ctx, actor, in.Boat))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "weigh-gear", Method: http.MethodPost, Path: gearPath + "/mass", Summary: "Keep what the scale showed"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				Version int     `json:"version"`
				Kg      float64 `json:"kg" doc:"Of all that hung, the tare taken off"`
			}
		}) (*Body[gear.GearView], error) {
			return body(s.app.Weighing.Weighed(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.Kg))
		})
}
