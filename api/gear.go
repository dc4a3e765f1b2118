package api

import (
	"context"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/where"

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
	return gear.GearQuery{Text: q.Text, Kind: q.Kind, Boat: optional(q.Boat), Place: optional(q.Place),
		Shed: optional(q.Shed), Inside: optional(q.Inside),
		Owner: optional(q.Owner), Tag: q.Tag, Only: q.Only, Sort: q.Sort, After: q.After, Limit: q.Limit}
}

func (s *Server) registerGear() {
	s.registerGearList()
	act(s, kernel.ChangeGear, op("add-gear", crewPath+"gear", "Add gear; it is on the quay"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body gear.GearInput
		}) (gear.GearView, error) {
			return s.app.Gear.SaveGear(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	replace(s, kernel.ChangeGear, op("change-gear", gearPath, "Change gear"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				gear.GearInput
				Version int `json:"version"`
			}
		}) (gear.GearView, error) {
			return s.app.Gear.SaveGear(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.GearInput)
		})
	remove(s, kernel.ChangeGear, op("remove-gear", gearPath, "Take gear off the list"),
		func(ctx context.Context, actor kernel.Actor, in *GearPath) error {
			return s.app.Gear.RemoveGear(ctx, actor, in.Gear)
		})
	act(s, kernel.ChangeGear, op("split-gear", gearPath+"/split", "Take some of several alike as gear of their own"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body struct {
				Version int `json:"version"`
				Count   int `json:"count" minimum:"1"`
			}
		}) (gear.GearView, error) {
			return s.app.Gear.SplitGear(ctx, actor, in.Key, in.Gear, in.Body.Version, in.Body.Count)
		})
	doing(s, kernel.ChangeGear, op("change-many", crewPath+"gear-changes",
		"Change one thing about many pieces, all or none"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body gear.BulkInput
		}) error {
			return s.app.Gear.ChangeMany(ctx, actor, in.Key, in.Body)
		})
	act(s, kernel.Move, op("put-gear", gearPath+"/moves",
		"Move gear to a place aboard or ashore, into a box, or to a person"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body aboard.MoveInput
		}) (where.Moved, error) {
			in.Body.GearID = &in.Gear
			return s.app.Where.MoveGear(ctx, actor, in.Key, in.Body)
		})
	doing(s, kernel.Move, op("note-gear", gearPath+"/notes",
		"Add a line to a piece's history, or note that it was seen in its place"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			Body gear.NoteInput
		}) error {
			return s.app.Gear.AddNote(ctx, actor, in.Key, in.Gear, in.Body)
		})
	s.registerGearPhotos()
}

func (s *Server) registerGearList() {
	read(s, kernel.See, op("find", crewPath+"find", "Find gear, places and people by what someone types"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Text string `query:"q" maxLength:"200"`
		}) ([]gear.Hit, error) {
			return s.app.Gear.Find(ctx, actor, in.Text)
		})
	read(s, kernel.See, op("list-gear", crewPath+"gear", "A page of the gear list"),
		func(ctx context.Context, actor kernel.Actor, in *gearQuery) (gear.GearPage, error) {
			return s.app.Gear.Gear(ctx, actor, in.app())
		})
	read(s, kernel.See, op("gear-summary", crewPath+"gear-summary", "The gear list in figures"),
		func(ctx context.Context, actor kernel.Actor, _ *CrewPath) (gear.GearSummary, error) {
			return s.app.Gear.Summary(ctx, actor)
		})
	read(s, kernel.See, op("get-gear", gearPath, "Everything about a piece"),
		func(ctx context.Context, actor kernel.Actor, in *GearPath) (gear.GearDetail, error) {
			return s.app.Gear.GearOne(ctx, actor, in.Gear)
		})
	read(s, kernel.See, op("where-gear", gearPath+"/where", "Where a piece is, in words, and how to get to it"),
		func(ctx context.Context, actor kernel.Actor, in *GearPath) (where.Whereabouts, error) {
			return s.app.Where.Where(ctx, actor, in.Gear)
		})
}

type gearPhotoPath struct {
	GearPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (s *Server) registerGearPhotos() {
	create(s, kernel.Move, op("add-gear-photo", gearPath+"/photos",
		"Add a picture of gear, JPEG or PNG; it is made anew, without its metadata").upTo(fleet.MaxPhotoBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			GearPath
			Idempotent
			RawBody []byte `contentType:"application/octet-stream"`
		}) (uuid.UUID, error) {
			return s.app.Fleet.AddPhoto(ctx, actor, in.Key, fleet.PhotoOf{Gear: &in.Gear}, in.RawBody)
		})
	readFile(s, kernel.See, op("get-gear-photo", gearPath+"/photos/{photo}", "A picture of gear").files("image/jpeg"),
		func(ctx context.Context, actor kernel.Actor, in *gearPhotoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, fleet.PhotoOf{Gear: &in.Gear}, in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	remove(s, kernel.ChangeGear, op("remove-gear-photo", gearPath+"/photos/{photo}", "Take a picture of gear away"),
		func(ctx context.Context, actor kernel.Actor, in *gearPhotoPath) error {
			return s.app.Fleet.RemovePhoto(ctx, actor, fleet.PhotoOf{Gear: &in.Gear}, in.Photo)
		})
}
