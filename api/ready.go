package api

import (
	"context"
	"net/http"

	"ergasia/app/kernel"
	"ergasia/app/ready"
	"ergasia/app/stowing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

func (s *Server) registerReady() {
	const trip = crewPath + "trips/{trip}"
	read(s, kernel.See, op("get-trip", trip, "A trip with its stages, what each waits for, and the verdict"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (ready.TripPage, error) {
			return s.app.Ready.Page(ctx, actor, in.Trip)
		})
	act(
		s,
		kernel.ChangeGear,
		op("settle-stage", trip+"/settled", "Call a stage of a trip settled as it stands, or take that back"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Stage   string `json:"stage" words:"stages"`
				Settled bool   `json:"settled"`
			}
		}) (ready.TripPage, error) {
			return s.app.Ready.Settle(ctx, actor, in.Key, in.Trip, in.Body.Stage, in.Body.Settled)
		},
	)
	act(
		s,
		kernel.ChangeBoat,
		op("accept-line", trip+"/accepted", "Take a line of a trip's verdict upon oneself, as it says, or take that back"),
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
		},
	)
	act(
		s,
		kernel.ChangeGear,
		op("take-kit", trip+"/kits/{kit}", "Hold a kit against a trip, and promise to it what is at hand"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Kit uuid.UUID `path:"kit" format:"uuid"`
		}) (Refusals, error) {
			refused, err := s.app.Kits.Take(ctx, actor, in.Key, in.Trip, in.Kit)
			return Refusals{Refused: refused}, err
		},
	)
	act(
		s,
		kernel.Move,
		op(
			"stow-for-trip",
			trip+"/stow",
			"Look for a place for all that goes along, and keep it with the trip; nothing is moved",
		).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				School string `json:"school" words:"schools"`
			}
		}) (stowing.ForTrip, error) {
			return s.app.Stowing.StowForTrip(ctx, actor, in.Key, in.Trip, in.Body.School)
		},
	)
	remove(
		s,
		kernel.ChangeGear,
		op("drop-kit", trip+"/kits/{kit}", "Hold a kit against a trip no more; what was promised stays"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Kit uuid.UUID `path:"kit" format:"uuid"`
		}) error {
			return s.app.Kits.Drop(ctx, actor, in.Trip, in.Kit)
		},
	)
}

func (s *Server) registerSheets() {
	const trip = crewPath + "trips/{trip}"
	read(
		s,
		kernel.See,
		op(
			"get-sheets",
			trip+"/sheets",
			"What is printed of a trip: load sheet, packing list, fuel card, timetable, float plan",
		),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) ([]ready.Sheet, error) {
			return s.app.Ready.Sheets(ctx, actor, in.Trip, "")
		},
	)
	readFile(
		s,
		kernel.See,
		op("print-sheets", trip+"/sheets.pdf", "The same as PDF; one of them, or all").files("application/pdf"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Sheet string `query:"sheet" maxLength:"20"`
		}) (*File, error) {
			text, err := s.app.Ready.SheetsPDF(ctx, actor, in.Trip, in.Sheet)
			return file("application/pdf", "trip.pdf", text, err)
		},
	)
	act(
		s,
		kernel.ChangeGear,
		op("make-guest-link", trip+"/guest-link", "Make the link by which guests see what they need; an older one ends"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
		}) (ready.GuestLink, error) {
			return s.app.Ready.MakeGuestLink(ctx, actor, in.Trip)
		},
	)
	remove(s, kernel.ChangeGear, op("end-guest-link", trip+"/guest-link", "End the trip's link for guests"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) error {
			return s.app.Ready.EndGuestLink(ctx, actor, in.Trip)
		})
	open(
		s,
		huma.Operation{
			OperationID: "get-guest",
			Method:      http.MethodGet,
			Path:        "/api/guest",
			Summary:     "What a trip's guests are shown",
		},
		func(ctx context.Context, in *HeldLink) (*Body[ready.GuestView], error) {
			return wrapped(s.app.Ready.Guest(ctx, in.Token))
		},
	)
}
