package api

import (
	"context"
	"net/http"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/where"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// GearPath is the gear that an operation is about.
type GearPath struct {
	CrewPath
	Gear uuid.UUID `path:"gear" format:"uuid"`
}

const (
	crewPath = "/api/crews/{crew}/"
	gearPath = crewPath + "gear/{gear}"
)

// gearQuery is how the list is asked for.
type gearQuery struct {
	CrewPath
	Text   string    `query:"q" maxLength:"200" doc:"Words: name, nickname, tag, place, owner"`
	Kind   string    `query:"kind" enum:"quay,boat,shed,person,lent"`
	Boat   uuid.UUID `query:"boat" format:"uuid"`
	Place  uuid.UUID `query:"place" format:"uuid"`
	Shed   uuid.UUID `query:"shed" format:"uuid"`
	Inside uuid.UUID `query:"inside" format:"uuid" doc:"The box that it lies in"`
	Owner  uuid.UUID `query:"owner" format:"uuid"`
	Tag    string    `query:"tag" maxLength:"40"`
	Only   string    `query:"only" enum:"unweighed,containers,worn,expired,restock"`
	Sort   string    `query:"sort" enum:"name,recent" default:"name"`
	After  string    `query:"after" maxLength:"400" doc:"The cursor of the page before"`
	Limit  int       `query:"limit" minimum:"1" maximum:"200" default:"50"`
}

func optional(id uuid.UUID) *uuid.UUID {
	if id == uuid.Nil {
		return nil
	}
	return &id
}

func (q *gearQuery) app() gear.GearQuery {
	return gear.GearQuery{Text: q.Text, Kind: q.Kind, Boat: optional(q.Boat), Place: optional(q.Place), Shed: optional(q.Shed), Inside: optional(q.Inside),
		Owner: optional(q.Owner), Tag: q.Tag, Only: q.Only, Sort: q.Sort, After: q.After, Limit: q.Limit}
}

func (s *Server) registerGear() {
	s.registerGearList()
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "add-gear", Method: http.MethodPost, Path: crewPath + "gear", Summary: "Add gear; it is on the quay"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body gear.GearInput
		}) (*Body[gear.GearView], error) {
			return body(s.app.Gear.SaveGear(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "change-gear", Method: http.MethodPut, Path: gearPath, Summary: "Change gear"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				gear.GearInput
				Version int `json:"version"`
			}
		}) (*Body[gear.GearView], error) {
			return body(s.app.Gear.SaveGear(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.GearInput))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "remove-gear", Method: http.MethodDelete, Path: gearPath,
		Summary: "Take gear off the list", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *GearPath) (*struct{}, error) {
			return nil, s.app.Gear.RemoveGear(ctx, actor, in.Gear)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "split-gear", Method: http.MethodPost, Path: gearPath + "/split", Summary: "Take some of several alike as gear of their own"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				Version int `json:"version"`
				Count   int `json:"count" minimum:"1"`
			}
		}) (*Body[gear.GearView], error) {
			return body(s.app.Gear.SplitGear(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.Count))
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "change-many", Method: http.MethodPost, Path: crewPath + "gear-changes", Summary: "Change one thing about many pieces, all or none",
		DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body gear.BulkInput
		}) (*struct{}, error) {
			return nil, s.app.Gear.ChangeMany(ctx, actor, in.Key, in.Body)
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "put-gear", Method: http.MethodPost, Path: gearPath + "/moves", Summary: "Move gear to a place aboard or ashore, into a box, or to a person"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body aboard.MoveInput
		}) (*Body[where.Moved], error) {
			in.Body.GearID = &in.Gear
			return body(s.app.Where.MoveGear(ctx, actor, in.Key, in.Body))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "note-gear", Method: http.MethodPost, Path: gearPath + "/notes", Summary: "Add a line to a piece's history, or note that it was seen in its place",
		DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body gear.NoteInput
		}) (*struct{}, error) {
			return nil, s.app.Gear.AddNote(ctx, actor, in.Key, in.Gear, in.Body)
		})
	s.registerGearPhotos()
}

func (s *Server) registerGearList() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "find", Method: http.MethodGet, Path: crewPath + "find", Summary: "Find gear, places and people by what someone types"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Text string `query:"q" maxLength:"200"`
		}) (*Body[[]gear.Hit], error) {
			return body(s.app.Gear.Find(ctx, actor, in.Text))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "list-gear", Method: http.MethodGet, Path: crewPath + "gear", Summary: "A page of the gear list"},
		func(ctx context.Context, actor kernel.Actor, in *gearQuery) (*Body[gear.GearPage], error) {
			return body(s.app.Gear.Gear(ctx, actor, in.app()))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "gear-summary", Method: http.MethodGet, Path: crewPath + "gear-summary", Summary: "The gear list in figures"},
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (*Body[gear.GearSummary], error) {
			return body(s.app.Gear.Summary(ctx, actor))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-gear", Method: http.MethodGet, Path: gearPath, Summary: "Everything about a piece"},
		func(ctx context.Context, actor kernel.Actor, in *GearPath) (*Body[gear.GearDetail], error) {
			return body(s.app.Gear.GearOne(ctx, actor, in.Gear))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "where-gear", Method: http.MethodGet, Path: gearPath + "/where", Summary: "Where a piece is, in words, and how to get to it"},
		func(ctx context.Context, actor kernel.Actor, in *GearPath) (*Body[where.Whereabouts], error) {
			return body(s.app.Where.Where(ctx, actor, in.Gear))
		})
}

type gearPhotoPath struct {
	GearPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (s *Server) registerGearPhotos() {
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "add-gear-photo", Method: http.MethodPost, Path: gearPath + "/photos", MaxBodyBytes: fleet.MaxPhotoBytes,
		Summary: "Add a picture of gear, JPEG or PNG; it is made anew, without its metadata"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			RawBody []byte `contentType:"application/octet-stream"`
		}) (*Body[Made], error) {
			return made(s.app.Fleet.AddPhoto(ctx, actor, in.Key, fleet.PhotoOf{Gear: &in.Gear}, in.RawBody))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-gear-photo", Method: http.MethodGet, Path: gearPath + "/photos/{photo}", Summary: "A picture of gear", Responses: fileAnswer("image/jpeg")},
		func(ctx context.Context, actor kernel.Actor, in *gearPhotoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, fleet.PhotoOf{Gear: &in.Gear}, in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	crewOperation(s, kernel.ChangeGear, huma.Operation{OperationID: "remove-gear-photo", Method: http.MethodDelete, Path: gearPath + "/photos/{photo}",
		Summary: "Take a picture of gear away", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *gearPhotoPath) (*struct{}, error) {
			return nil, s.app.Fleet.RemovePhoto(ctx, actor, fleet.PhotoOf{Gear: &in.Gear}, in.Photo)
		})
}
