package api

import (
	"context"
	"net/http"

	"ergasia/app/brief"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/danielgtaylor/huma/v2"
)

func (s *Server) registerBrief() {
	read(s, kernel.See, op("get-brief", boatPath+"brief", "What guests are told of a boat, from where things lie now"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (brief.BriefView, error) {
			return s.app.Brief.OfBoat(ctx, actor, in.Boat)
		})
	setting(s, kernel.ChangeBoat, op("set-brief", boatPath+"brief", "What guests are told, in the crew's own words"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				model.BriefInput
				Version int `json:"version" doc:"Of the boat"`
			}
		}) error {
			return s.app.Safety.SetBrief(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.BriefInput)
		})
	printFile(
		s,
		kernel.See,
		op("print-brief", boatPath+"brief/card", "The brief on one A5 page").files("application/pdf"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body struct {
				Link string `json:"link,omitempty" doc:"What the code on it opens; none where it is left out"`
			}
		}) (*File, error) {
			v, err := s.app.Brief.OfBoat(ctx, actor, in.Boat)
			if err != nil {
				return nil, err
			}
			text, err := v.Card(in.Body.Link)
			return file("application/pdf", "brief.pdf", text, err)
		},
	)
	act(
		s,
		kernel.ChangeBoat,
		op(
			"make-boat-link",
			boatPath+"brief/link",
			"Make the link by which guests see a boat's brief; an older one ends",
		),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
		}) (brief.BoatLink, error) {
			return s.app.Brief.MakeLink(ctx, actor, in.Boat)
		},
	)
	remove(s, kernel.ChangeBoat, op("end-boat-link", boatPath+"brief/link", "End a boat's link"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) error {
			return s.app.Brief.EndLink(ctx, actor, in.Boat)
		})
	s.registerHeldBrief()
	s.registerDrill()
}

func (s *Server) registerHeldBrief() {
	open(
		s,
		huma.Operation{
			OperationID: "get-held-brief",
			Method:      http.MethodGet,
			Path:        "/api/aboard",
			Summary:     "What the holder of a boat's link is shown",
		},
		func(ctx context.Context, in *struct {
			Token string `header:"X-Link-Token" required:"true" minLength:"20" maxLength:"100"`
		}) (*Body[brief.BriefView], error) {
			return wrapped(s.app.Brief.Held(ctx, in.Token))
		},
	)
}

func (s *Server) registerDrill() {
	const drill = boatPath + "drill"
	read(s, kernel.See, op("get-drill", drill, "The find drill of a boat, and who knows where things are"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (brief.DrillView, error) {
			return s.app.Brief.Drill(ctx, actor, in.Boat)
		})
	doing(s, kernel.Move, op("tried-drill", drill, "Keep one try of the find drill"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body brief.DrillTry
		}) error {
			return s.app.Brief.Tried(ctx, actor, in.Key, in.Boat, in.Body)
		})
	remove(s, kernel.ChangeBoat, op("forget-drill", drill, "Forget all tries of the find drill"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) error {
			return s.app.Brief.Forget(ctx, actor, in.Boat)
		})
}
