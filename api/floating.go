package api

import (
	"context"
	"net/http"

	"ergasia/app/floating"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

const boatPath = "/api/crews/{crew}/boats/{boat}/"

// registerFloating adds how a boat floats: the report, and the checks of it.
func (s *Server) registerFloating() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-float", Method: http.MethodGet, Path: boatPath + "float",
		Summary: "Stability, crew tests, wind, swamped flotation and capacity, as she is laden"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Wind  float64 `query:"wind_m_s" minimum:"0" maximum:"60"`
			Bilge float64 `query:"bilge_l" minimum:"0" maximum:"20000"`
		}) (*Body[floating.FloatReport], error) {
			return body(s.app.Floating.Float(ctx, actor, in.Boat, floating.WhatIf{WindMS: in.Wind, BilgeLitres: in.Bilge}))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-checks", Method: http.MethodGet, Path: boatPath + "checks",
		Summary: "Float checks and inclining checks that were kept, and where to hold the tape"},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*Body[floating.Surveys], error) {
			return body(s.app.Floating.Surveys(ctx, actor, in.Boat))
		})
	type check struct {
		Float   *floating.FloatCheckInput `json:"float,omitempty"`
		Incline *floating.InclineInput    `json:"incline,omitempty"`
	}
	crewOperation(s, kernel.Try, huma.Operation{OperationID: "try-check", Method: http.MethodPost, Path: boatPath + "checks/try",
		Summary: "What readings say, without keeping them"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body check
		}) (*Body[floating.SurveyResult], error) {
			return body(s.app.Floating.TrySurvey(ctx, actor, in.Boat, in.Body.Float, in.Body.Incline))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "keep-check", Method: http.MethodPost, Path: boatPath + "checks", Summary: "Keep a check as a record"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body check
		}) (*Body[Made], error) {
			return made(s.app.Floating.KeepSurvey(ctx, actor, in.Key, in.Boat, in.Body.Float, in.Body.Incline))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "accept-check", Method: http.MethodPost, Path: boatPath + "checks/{check}/accept",
		Summary: "Change the boat as a kept check proposes", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Check uuid.UUID `path:"check" format:"uuid"`
			Body  struct {
				Kind    string `json:"kind" enum:"mass,hull,height"`
				Version int    `json:"version" doc:"Of the boat"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Floating.AcceptSurvey(ctx, actor, in.Boat, in.Check, in.Body.Version, in.Body.Kind)
		})
	s.registerRoad()
}

func (s *Server) registerRoad() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-road", Method: http.MethodGet, Path: boatPath + "road", Summary: "Trailer, what rides in what, and the loads on hitch and axle"},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*Body[floating.Road], error) {
			return body(s.app.Floating.Road(ctx, actor, in.Boat))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "set-trailer", Method: http.MethodPut, Path: boatPath + "trailer",
		Summary: "Keep a boat's trailer", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				model.TrailerInput
				Version int `json:"version" doc:"Of the boat"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Floating.SetTrailer(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.TrailerInput)
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "ride", Method: http.MethodPut, Path: boatPath + "rides/{gear}",
		Summary: "In what a piece that belongs aboard rides on the road", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Gear uuid.UUID `path:"gear" format:"uuid"`
			Body struct {
				Rides string `json:"rides" enum:"boat,car,van"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Floating.Ride(ctx, actor, in.Boat, in.Gear, in.Body.Rides)
		})
}
