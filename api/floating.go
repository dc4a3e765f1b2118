package api

import (
	"context"

	"ergasia/app/floating"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/google/uuid"
)

const boatPath = "/api/crews/{crew}/boats/{boat}/"

// registerFloating adds how a boat floats: the report, and the checks of it.
func (s *Server) registerFloating() {
	read(s, kernel.See, op("get-float", boatPath+"float",
		"Stability, crew tests, wind, swamped flotation and capacity, as she is laden"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Wind  float64 `query:"wind_m_s" minimum:"0" maximum:"60"`
			Bilge float64 `query:"bilge_l" minimum:"0" maximum:"20000"`
		}) (floating.FloatReport, error) {
			return s.app.Floating.Float(ctx, actor, in.Boat, floating.WhatIf{WindMS: in.Wind, BilgeLitres: in.Bilge})
		})
	read(s, kernel.See, op("get-checks", boatPath+"checks",
		"Float checks and inclining checks that were kept, and where to hold the tape"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (floating.Surveys, error) {
			return s.app.Floating.Surveys(ctx, actor, in.Boat)
		})
	type check struct {
		Float   *floating.FloatCheckInput `json:"float,omitempty"`
		Incline *floating.InclineInput    `json:"incline,omitempty"`
	}
	ask(s, kernel.Try, op("try-check", boatPath+"checks/try", "What readings say, without keeping them"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body check
		}) (floating.SurveyResult, error) {
			return s.app.Floating.TrySurvey(ctx, actor, in.Boat, in.Body.Float, in.Body.Incline)
		})
	create(s, kernel.Move, op("keep-check", boatPath+"checks", "Keep a check as a record"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body check
		}) (uuid.UUID, error) {
			return s.app.Floating.KeepSurvey(ctx, actor, in.Key, in.Boat, in.Body.Float, in.Body.Incline)
		})
	doing(s, kernel.ChangeBoat, op("accept-check", boatPath+"checks/{check}/accept",
		"Change the boat as a kept check proposes"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Check uuid.UUID `path:"check" format:"uuid"`
			Body  struct {
				Kind    string `json:"kind" enum:"mass,hull,height"`
				Version int    `json:"version" doc:"Of the boat"`
			}
		}) error {
			return s.app.Floating.AcceptSurvey(ctx, actor, in.Boat, in.Check, in.Body.Version, in.Body.Kind)
		})
	s.registerRoad()
}

func (s *Server) registerRoad() {
	read(s, kernel.See, op("get-road", boatPath+"road", "Trailer, what rides in what, and the loads on hitch and axle"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (floating.Road, error) {
			return s.app.Floating.Road(ctx, actor, in.Boat)
		})
	setting(s, kernel.ChangeBoat, op("set-trailer", boatPath+"trailer", "Keep a boat's trailer"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				model.TrailerInput
				Version int `json:"version" doc:"Of the boat"`
			}
		}) error {
			return s.app.Floating.SetTrailer(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.TrailerInput)
		})
	setting(s, kernel.Move, op("ride", boatPath+"rides/{gear}", "In what a piece that belongs aboard rides on the road"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Gear uuid.UUID `path:"gear" format:"uuid"`
			Body struct {
				Rides string `json:"rides" words:"rides"`
			}
		}) error {
			return s.app.Floating.Ride(ctx, actor, in.Boat, in.Gear, in.Body.Rides)
		})
}
