package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/shed"

	"github.com/google/uuid"
)

// ShedPath is the place ashore that an operation is about.
type ShedPath struct {
	CrewPath
	Shed uuid.UUID `path:"shed" format:"uuid"`
}

func (s *Server) registerShed() {
	read(s, kernel.See, op("list-shed", crewPath+"shed", "The places ashore, with what they hold in figures"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) ([]shed.ShedView, error) {
			return s.app.Shed.Shed(ctx, actor)
		})
	create(s, kernel.ChangeGear, op("add-shed", crewPath+"shed", "Add a place ashore"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body shed.ShedInput
		}) (uuid.UUID, error) {
			return s.app.Shed.SaveShed(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeGear, op("change-shed", crewPath+"shed/{shed}", "Change a place ashore"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ShedPath
			Idempotent
			Body struct {
				shed.ShedInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Shed.SaveShed(ctx, actor, in.Key, in.Shed, in.Body.Version, in.Body.ShedInput)
		})
	remove(s, kernel.ChangeGear, op("remove-shed", crewPath+"shed/{shed}", "Take an empty place ashore away"),
		func(ctx context.Context, actor kernel.Actor, in *ShedPath) error {
			return s.app.Shed.RemoveShed(ctx, actor, in.Shed)
		})
}
