package api

import (
	"context"

	"ergasia/app/fuel"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/google/uuid"
)

func (s *Server) registerFuel() {
	const trip = crewPath + "trips/{trip}/fuel"
	read(s, kernel.See, op("get-fuel", trip, "A trip's fuel: what its way takes, what is kept, what goes into each tank"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (fuel.FuelView, error) {
			return s.app.Fuel.Fuel(ctx, actor, in.Trip)
		})
	ask(s, kernel.Try, op("try-fuel", trip+"/try", "Reckon a trip's fuel with another plan; nothing is kept"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Body struct {
				Plan model.FuelPlan `json:"plan"`
			}
		}) (fuel.FuelView, error) {
			return s.app.Fuel.Try(ctx, actor, in.Trip, in.Body.Plan)
		})
	change(s, kernel.ChangeGear, op("save-fuel", trip, "Keep a trip's plan of fuel"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Plan    model.FuelPlan `json:"plan"`
				Version int            `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Fuel.Save(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.Plan)
		})
	ask(s, kernel.Try, op("read-track", crewPath+"tracks", "The tracks and routes of a GPX file, with their lengths; nothing is kept").
		upTo(fuel.MaxTrackBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			RawBody []byte `contentType:"application/gpx+xml"`
		}) ([]fuel.Track, error) {
			return s.app.Fuel.ReadTrack(ctx, actor, in.RawBody)
		})
	change(s, kernel.ChangeBoat, op("set-rates", "/api/crews/{crew}/boats/{boat}/rates", "Keep what a boat's motor takes at some speeds"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				Rates   []model.RateInput `json:"rates" maxItems:"20"`
				Version int               `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Fuel.SetRates(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.Rates)
		})
}
