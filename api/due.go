package api

import (
	"context"
	"net/http"

	"ergasia/app/due"
	"ergasia/app/gear"
	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// Feed is the secret address of a calendar; it is shown once.
type Feed struct {
	Path string `json:"path"`
}

const calendarKind = "text/calendar; charset=utf-8"

// ServicePath is the service that an operation is about.
type ServicePath struct {
	GearPath
	Service uuid.UUID `path:"service" format:"uuid"`
}

func (s *Server) registerDue() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-due", Method: http.MethodGet, Path: crewPath + "due", Summary: "What runs out, what to restock and what to mend"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[due.DueList], error) {
			return body(s.app.Due.Due(ctx, actor))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-calendar", Method: http.MethodGet, Path: crewPath + "due.ics", Summary: "The due list as iCalendar", Responses: fileAnswer("text/calendar")},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*File, error) {
			text, err := s.app.Due.CalendarFile(ctx, actor)
			return file(calendarKind, "due.ics", text, err)
		})
	crewOperation(s, kernel.OwnSettings, huma.Operation{OperationID: "make-calendar", Method: http.MethodPost, Path: crewPath + "calendar", Summary: "Make the secret address of one's own calendar; an older one ends"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[Feed], error) {
			token, err := s.app.Due.MakeCalendar(ctx, actor)
			return body(Feed{Path: "/api/calendars/" + token + "/due.ics"}, err)
		})
	open(s, huma.Operation{OperationID: "read-calendar", Method: http.MethodGet, Path: "/api/calendars/{token}/due.ics", Summary: "The calendar at a secret address", Responses: fileAnswer("text/calendar")},
		func(ctx context.Context, in *struct {
			Token string `path:"token" minLength:"43" maxLength:"43"`
		}) (*File, error) {
			text, err := s.app.Due.Calendar(ctx, in.Token)
			return file(calendarKind, "due.ics", text, err)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "add-service", Method: http.MethodPost, Path: gearPath + "/services", Summary: "Add a service that comes round"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body gear.ServiceInput
		}) (*Body[Made], error) {
			return made(s.app.Due.AddService(ctx, actor, in.Key, in.Gear, in.Body))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "done-service", Method: http.MethodPost, Path: gearPath + "/services/{service}/done", Summary: "Note that a service was done today", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ServicePath
			Idempotent
			Body struct {
				Version int `json:"version"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Due.DoneService(ctx, actor, in.Key, in.Gear, in.Service, in.Body.Version)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "remove-service", Method: http.MethodDelete, Path: gearPath + "/services/{service}", Summary: "Take a service away", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *ServicePath) (*struct{}, error) {
			return nil, s.app.Due.RemoveService(ctx, actor, in.Gear, in.Service)
		})
}
