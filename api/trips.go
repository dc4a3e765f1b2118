package api

import (
	"context"

	"ergasia/app/kernel"
	"ergasia/app/trips"

	"github.com/google/uuid"
)

// TripPath is the trip that an operation is about.
type TripPath struct {
	CrewPath
	Trip uuid.UUID `path:"trip" format:"uuid"`
}

// Refusals are sentences about what was left out.
type Refusals struct {
	Refused []string `json:"refused"`
}

func (s *Server) registerTrips() {
	read(s, kernel.See, op("list-trips", crewPath+"trips", "The trips: those ahead, then those logged"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) ([]trips.TripView, error) {
			return s.app.Trips.Trips(ctx, actor)
		})
	create(s, kernel.ChangeGear, op("add-trip", crewPath+"trips", "Add a trip"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body trips.TripInput
		}) (uuid.UUID, error) {
			return s.app.Trips.SaveTrip(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeGear, op("change-trip", crewPath+"trips/{trip}", "Change a trip that is ahead"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				trips.TripInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Trips.SaveTrip(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.TripInput)
		})
	remove(s, kernel.ChangeGear, op("remove-trip", crewPath+"trips/{trip}", "Take a trip away"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) error {
			return s.app.Trips.RemoveTrip(ctx, actor, in.Trip)
		})
	doing(s, kernel.ChangeGear, op("log-trip", crewPath+"trips/{trip}/log", "Close a trip with what is told after it: hours, fuel, what was used, what broke"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body trips.LogInput
		}) error {
			if err := s.app.Trips.LogTrip(ctx, actor, in.Key, in.Trip, in.Body); err != nil || len(in.Body.Volts) == 0 {
				return err
			}
			return s.app.Days.LearnBanks(ctx, actor, in.Trip)
		})
	read(s, kernel.See, op("list-promised", crewPath+"trips/{trip}/gear", "What is promised to a trip"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) ([]trips.PromisedView, error) {
			return s.app.Trips.Promised(ctx, actor, in.Trip)
		})
	act(s, kernel.ChangeGear, op("promise-gear", crewPath+"trips/{trip}/gear",
		"Promise gear to a trip; what is promised elsewhere is told"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Gear []uuid.UUID `json:"gear" minItems:"1" maxItems:"500" format:"uuid"`
			}
		}) (Refusals, error) {
			refused, err := s.app.Trips.Promise(ctx, actor, in.Key, in.Trip, in.Body.Gear)
			return Refusals{Refused: refused}, err
		})
	remove(s, kernel.ChangeGear, op("unpromise-gear", crewPath+"trips/{trip}/gear/{gear}", "Take gear off a trip"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Gear uuid.UUID `path:"gear" format:"uuid"`
		}) error {
			return s.app.Trips.Unpromise(ctx, actor, in.Trip, in.Gear)
		})
	doing(s, kernel.ChangeGear, op("lend-gear", gearPath+"/loans", "Lend gear, or note from whom it is borrowed"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body trips.LoanInput
		}) error {
			return s.app.Trips.Loan(ctx, actor, in.Key, in.Gear, in.Body)
		})
	doing(s, kernel.ChangeGear, op("return-gear", gearPath+"/loans/{loan}/return", "Note that a loan ended"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Loan uuid.UUID `path:"loan" format:"uuid"`
		}) error {
			return s.app.Trips.Return(ctx, actor, in.Key, in.Gear, in.Loan)
		})
}
