package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/ready"
	"ergasia/app/stowing"

	"github.com/google/uuid"
)

func (s *Server) registerReady() {
	const trip = crewPath + "trips/{trip}"
	read(s, kernel.See, op("get-trip", trip, "A trip with its stages, what each waits for, and the verdict"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (ready.TripPage, error) {
			return s.app.Ready.Page(ctx, actor, in.Trip)
		})
	act(s, kernel.ChangeGear, op("settle-stage", trip+"/settled", "Call a stage of a trip settled as it stands, or take that back"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Stage   string `json:"stage" words:"stages"`
				Settled bool   `json:"settled"`
			}
		}) (ready.TripPage, error) {
			return s.app.Ready.Settle(ctx, actor, in.Key, in.Trip, in.Body.Stage, in.Body.Settled)
		})
	act(s, kernel.ChangeBoat, op("accept-line", trip+"/accepted", "Take a line of a trip's verdict upon oneself, as it says, or take that back"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Key      string `json:"key" maxLength:"400"`
				Said     string `json:"said" maxLength:"1000" doc:"What the line said when it was read"`
				Accepted bool   `json:"accepted"`
			}
		}) (ready.TripPage, error) {
			return s.app.Ready.Accept(ctx, actor, in.Key, in.Trip, in.Body.Key, in.Body.Said, in.Body.Accepted)
		})
	act(s, kernel.ChangeGear, op("take-kit", trip+"/kits/{kit}", "Hold a kit against a trip, and promise to it what is at hand"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Kit uuid.UUID `path:"kit" format:"uuid"`
		}) (Refusals, error) {
			refused, err := s.app.Kits.Take(ctx, actor, in.Key, in.Trip, in.Kit)
			return Refusals{Refused: refused}, err
		})
	act(s, kernel.Move, op("stow-for-trip", trip+"/stow", "Look for a place for all that goes along, and keep it with the trip; nothing is moved").slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				School string `json:"school" words:"schools"`
			}
		}) (stowing.ForTrip, error) {
			return s.app.Stowing.StowForTrip(ctx, actor, in.Key, in.Trip, in.Body.School)
		})
	remove(s, kernel.ChangeGear, op("drop-kit", trip+"/kits/{kit}", "Hold a kit against a trip no more; what was promised stays"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Kit uuid.UUID `path:"kit" format:"uuid"`
		}) error {
			return s.app.Kits.Drop(ctx, actor, in.Trip, in.Kit)
		})
}
