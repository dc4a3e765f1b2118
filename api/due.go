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
	read(s, kernel.See, op("list-due", crewPath+"due", "What runs out, what to restock and what to mend"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (due.DueList, error) {
			return s.app.Due.Due(ctx, actor)
		})
	readFile(s, kernel.See, op("get-calendar", crewPath+"due.ics", "The due list as iCalendar").files("text/calendar"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*File, error) {
			text, err := s.app.Due.CalendarFile(ctx, actor)
			return file(calendarKind, "due.ics", text, err)
		})
	ask(s, kernel.OwnSettings, op("make-calendar", crewPath+"calendar",
		"Make the secret address of one's own calendar; an older one ends"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (Feed, error) {
			token, err := s.app.Due.MakeCalendar(ctx, actor)
			return Feed{Path: "/api/calendars/" + token + "/due.ics"}, err
		})
	open(s, huma.Operation{OperationID: "read-calendar", Method: http.MethodGet, Path: "/api/calendars/{token}/due.ics",
		Summary: "The calendar at a secret address", Responses: fileAnswer("text/calendar")},
		func(ctx context.Context, in *struct {
			Token string `path:"token" minLength:"43" maxLength:"43"`
		}) (*File, error) {
			text, err := s.app.Due.Calendar(ctx, in.Token)
			return file(calendarKind, "due.ics", text, err)
		})
	create(s, kernel.ChangeGear, op("add-service", gearPath+"/services", "Add a service that comes round"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body gear.ServiceInput
		}) (uuid.UUID, error) {
			return s.app.Due.AddService(ctx, actor, in.Key, in.Gear, in.Body)
		})
	doing(s, kernel.ChangeGear, op("done-service", gearPath+"/services/{service}/done",
		"Note that a service was done today"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ServicePath
			Idempotent
			Body struct {
				Version int `json:"version"`
			}
		}) error {
			return s.app.Due.DoneService(ctx, actor, in.Key, in.Gear, in.Service, in.Body.Version)
		})
	remove(s, kernel.ChangeGear, op("remove-service", gearPath+"/services/{service}", "Take a service away"),
		func(ctx context.Context, actor kernel.Actor, in *ServicePath) error {
			return s.app.Due.RemoveService(ctx, actor, in.Gear, in.Service)
		})
}
