package api

import (
	"context"
	"net/http"

	"ergasia/app/kernel"
	"ergasia/app/trips"

	"github.com/danielgtaylor/huma/v2"
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
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-trips", Method: http.MethodGet, Path: crewPath + "trips", Summary: "The trips: those ahead, then those logged"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[[]trips.TripView], error) {
			return body(s.app.Trips.Trips(ctx, actor))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "add-trip", Method: http.MethodPost, Path: crewPath + "trips", Summary: "Add a trip"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body trips.TripInput
		}) (*Body[Made], error) {
			return made(s.app.Trips.SaveTrip(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "change-trip", Method: http.MethodPut, Path: crewPath + "trips/{trip}", Summary: "Change a trip that is ahead"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				trips.TripInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.Trips.SaveTrip(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.TripInput))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "remove-trip", Method: http.MethodDelete, Path: crewPath + "trips/{trip}", Summary: "Take a trip away", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (*struct{}, error) {
			return nil, s.app.Trips.RemoveTrip(ctx, actor, in.Trip)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "log-trip", Method: http.MethodPost, Path: crewPath + "trips/{trip}/log", Summary: "Close a trip with the hours that were run", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Version int     `json:"version"`
				Hours   float64 `json:"hours"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Trips.LogTrip(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.Hours)
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-promised", Method: http.MethodGet, Path: crewPath + "trips/{trip}/gear", Summary: "What is promised to a trip"},
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (*Body[[]trips.PromisedView], error) {
			return body(s.app.Trips.Promised(ctx, actor, in.Trip))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "promise-gear", Method: http.MethodPost, Path: crewPath + "trips/{trip}/gear", Summary: "Promise gear to a trip; what is spoken for is told"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Gear []uuid.UUID `json:"gear" minItems:"1" maxItems:"500" format:"uuid"`
			}
		}) (*Body[Refusals], error) {
			refused, err := s.app.Trips.Promise(ctx, actor, in.Key, in.Trip, in.Body.Gear)
			return body(Refusals{Refused: refused}, err)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "unpromise-gear", Method: http.MethodDelete, Path: crewPath + "trips/{trip}/gear/{gear}", Summary: "Take gear off a trip", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Gear uuid.UUID `path:"gear" format:"uuid"`
		}) (*struct{}, error) {
			return nil, s.app.Trips.Unpromise(ctx, actor, in.Trip, in.Gear)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "lend-gear", Method: http.MethodPost, Path: gearPath + "/loans", Summary: "Lend gear, or note from whom it is borrowed", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body trips.LoanInput
		}) (*struct{}, error) {
			return nil, s.app.Trips.Loan(ctx, actor, in.Key, in.Gear, in.Body)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "return-gear", Method: http.MethodPost, Path: gearPath + "/loans/{loan}/return", Summary: "Note that a loan ended", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Loan uuid.UUID `path:"loan" format:"uuid"`
		}) (*struct{}, error) {
			return nil, s.app.Trips.Return(ctx, actor, in.Key, in.Gear, in.Loan)
		})
}
