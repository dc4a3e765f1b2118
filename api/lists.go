package api

import (
	"context"

	"ergasia/app/fleet"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/lists"

	"github.com/google/uuid"
)

// ListLinePath is the line of a checklist that an operation is about.
type ListLinePath struct {
	CrewPath
	Line uuid.UUID `path:"line" format:"uuid"`
}

func (s *Server) registerLists() {
	const trip = crewPath + "trips/{trip}"
	read(s, kernel.See, op("get-lists", trip+"/lists", "A trip's checklists, with who ticked what"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (lists.ListsView, error) {
			return s.app.Lists.Lists(ctx, actor, in.Trip)
		})
	doing(s, kernel.Move, op("tick", trip+"/ticks", "Tick a line of a trip's checklists, or take the tick away"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body lists.TickInput
		}) error {
			return s.app.Lists.Tick(ctx, actor, in.Key, in.Trip, in.Body)
		})
	setting(s, kernel.Move, op("assign-line", trip+"/ticks", "Say whose line it is"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Line string     `json:"line"`
				Who  *uuid.UUID `json:"who,omitempty" format:"uuid" doc:"A member; nobody where it is left out"`
			}
		}) error {
			return s.app.Lists.Assign(ctx, actor, in.Key, in.Trip, in.Body.Line, in.Body.Who)
		})
	doing(s, kernel.Move, op("begin-lists", trip+"/lists/begin", "Begin a trip's checklists again"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
		}) error {
			return s.app.Lists.Begin(ctx, actor, in.Key, in.Trip)
		})
	stream(s, kernel.See, op("watch-lists", trip+"/live", "What happens on a trip's checklists, as server-sent events"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (string, error) {
			return s.app.Lists.Topic(ctx, actor, in.Trip)
		})
	s.registerListLines()
}

func (s *Server) registerListLines() {
	const lines = crewPath + "list-lines"
	create(s, kernel.ChangeGear, op("add-list-line", lines, "Put a line of the crew's own on the checklists"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body lists.OwnLineInput
		}) (uuid.UUID, error) {
			return s.app.Lists.SaveLine(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeGear, op("change-list-line", lines+"/{line}", "Change a line of the crew's own"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			ListLinePath
			Idempotent
			Body struct {
				lists.OwnLineInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Lists.SaveLine(ctx, actor, in.Key, in.Line, in.Body.Version, in.Body.OwnLineInput)
		})
	remove(
		s,
		kernel.ChangeGear,
		op("remove-list-line", lines+"/{line}", "Take a line of the crew's own off the checklists"),
		func(ctx context.Context, actor kernel.Actor, in *ListLinePath) error {
			return s.app.Lists.RemoveLine(ctx, actor, in.Line)
		},
	)
}

// JobPath is the job that an operation is about.
type JobPath struct {
	BoatPath
	Job uuid.UUID `path:"job" format:"uuid"`
}

func (s *Server) registerJobs() {
	const list = boatPath + "jobs"
	read(s, kernel.See, op("get-jobs", list, "What went wrong aboard, and what was done about it"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) ([]jobs.JobView, error) {
			return s.app.Jobs.Jobs(ctx, actor, in.Boat)
		})
	create(s, kernel.Move, op("report-job", list, "Note a defect or an incident aboard"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body jobs.JobInput
		}) (uuid.UUID, error) {
			return s.app.Jobs.Report(ctx, actor, in.Key, in.Boat, in.Body)
		})
	change(s, kernel.ChangeGear, op("change-job", list+"/{job}", "Say how far a job is, and what was done"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			JobPath
			Idempotent
			Body jobs.JobChange
		}) (uuid.UUID, error) {
			return s.app.Jobs.Change(ctx, actor, in.Key, in.Boat, in.Job, in.Body)
		})
	remove(s, kernel.ChangeGear, op("remove-job", list+"/{job}", "Take a job off the list"),
		func(ctx context.Context, actor kernel.Actor, in *JobPath) error {
			return s.app.Jobs.Remove(ctx, actor, in.Boat, in.Job)
		})
	s.registerJobPhotos()
}

type jobPhotoPath struct {
	JobPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (p JobPath) pictured() fleet.PhotoOf { return fleet.PhotoOf{Job: &p.Job, On: &p.Boat} }

func (s *Server) registerJobPhotos() {
	const list = boatPath + "jobs/{job}/photos"
	read(s, kernel.See, op("get-job-photos", list, "Pictures of what went wrong"),
		func(ctx context.Context, actor kernel.Actor, in *JobPath) ([]fleet.PhotoView, error) {
			return s.app.Fleet.Photos(ctx, actor, in.pictured())
		})
	create(s, kernel.Move, op(
		"add-job-photo",
		list,
		"Add a picture of what went wrong, JPEG or PNG; it is made anew, without its metadata",
	).upTo(fleet.MaxPhotoBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			JobPath
			Idempotent
			RawBody []byte `contentType:"application/octet-stream"`
		}) (uuid.UUID, error) {
			return s.app.Fleet.AddPhoto(ctx, actor, in.Key, in.pictured(), in.RawBody)
		})
	readFile(s, kernel.See, op("get-job-photo", list+"/{photo}", "A picture of what went wrong").files("image/jpeg"),
		func(ctx context.Context, actor kernel.Actor, in *jobPhotoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, in.pictured(), in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	remove(s, kernel.ChangeGear, op("remove-job-photo", list+"/{photo}", "Take a picture of what went wrong away"),
		func(ctx context.Context, actor kernel.Actor, in *jobPhotoPath) error {
			return s.app.Fleet.RemovePhoto(ctx, actor, in.pictured(), in.Photo)
		})
}
