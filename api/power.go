package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/power"
	"ergasia/store/model"
)

func (s *Server) registerPower() {
	const path = boatPath + "power"
	read(
		s,
		kernel.See,
		op("get-power", path, "A boat's batteries and circuits: wire, fuses, what is not right, the diagram"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (power.PowerView, error) {
			return s.app.Power.Boat(ctx, actor, in.Boat)
		},
	)
	ask(s, kernel.Try, op("try-power", path+"/try", "Work other electrics out; nothing is kept"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body model.NetInput
		}) (power.PowerView, error) {
			return s.app.Power.Try(ctx, actor, in.Boat, in.Body)
		})
	setting(s, kernel.ChangeBoat, op("set-power", path, "Keep a boat's electrics"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				model.NetInput
				Version int `json:"version" doc:"Of her electrics; 0 where there are none yet"`
			}
		}) error {
			return s.app.Power.Save(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.NetInput)
		})
	readFile(
		s,
		kernel.See,
		op("print-power", path+"/sheet", "A sheet of a boat's electrics, for paper").files("application/pdf"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Kind string `query:"kind" enum:"diagram,fuses,labels,labels-night,flags" default:"diagram"`
		}) (*File, error) {
			text, err := s.app.Power.Sheet(ctx, actor, in.Boat, in.Kind)
			return file("application/pdf", in.Kind+".pdf", text, err)
		},
	)
}
