package api

import (
	"context"

	"ergasia/app/days"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/core/catch"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// CopiedTrip is a trip made like another.
type CopiedTrip struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Refused []string  `json:"refused" doc:"A sentence for each piece that is promised elsewhere then"`
}

func (s *Server) registerDays() {
	const trip = crewPath + "trips/{trip}"
	read(s, kernel.See, op("get-day", trip+"/day", "How a trip's day goes, and how the boat floats through it"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (days.DayView, error) {
			return s.app.Days.Day(ctx, actor, in.Trip)
		})
	ask(s, kernel.Try, op("try-day", trip+"/day/try", "Reckon a trip's day otherwise; nothing is kept"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Body struct {
				Plan model.DayPlan `json:"plan"`
			}
		}) (days.DayView, error) {
			return s.app.Days.Try(ctx, actor, in.Trip, in.Body.Plan)
		})
	ask(
		s,
		kernel.Try,
		op("day-remedies", trip+"/day/remedies", "What would help a day, tried through all of it; nothing is kept").slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Body struct {
				Plan model.DayPlan `json:"plan"`
			}
		}) (days.Remedies, error) {
			return s.app.Days.Remedies(ctx, actor, in.Trip, in.Body.Plan)
		},
	)
	change(s, kernel.ChangeGear, op("save-day", trip+"/day", "Keep how a trip's day goes"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Plan    model.DayPlan `json:"plan"`
				Version int           `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Days.Save(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.Plan)
		})
	read(
		s,
		kernel.See,
		op("list-along", trip+"/along", "What lies aboard and nobody asked for, what it costs and how often it was used"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (days.AlongView, error) {
			return s.app.Days.Along(ctx, actor, in.Trip)
		},
	)
	change(
		s,
		kernel.ChangeGear,
		op("leave-ashore", trip+"/ashore", "Say what of the boat's things stays ashore on a trip"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				Gear    []uuid.UUID `json:"gear" maxItems:"500" format:"uuid"`
				Version int         `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Days.LeaveAshore(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.Gear)
		},
	)
	change(s, kernel.ChangeGear, op("save-party", trip+"/people", "Say who come on a trip, and where they sit and fish"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				People  []model.TripPerson `json:"people" maxItems:"20"`
				Version int                `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Trips.SaveParty(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.People)
		})
	act(
		s,
		kernel.ChangeGear,
		op("copy-trip", trip+"/copy", "Make a trip like another, with its boat, people, way, day and gear"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body trips.TripCopy
		}) (CopiedTrip, error) {
			id, refused, err := s.app.Trips.Copy(ctx, actor, in.Key, in.Trip, in.Body)
			return CopiedTrip{ID: id, Refused: refused}, err
		},
	)
}

func (s *Server) registerCatch() {
	const list = crewPath + "trips/{trip}/catch"
	read(s, kernel.See, op("get-catch", list, "What was caught on a trip, what counts of it and which goes back"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (days.CatchView, error) {
			return s.app.Days.Catch(ctx, actor, in.Trip)
		})
	act(s, kernel.Move, op("add-fish", list, "Note a fish by its length or its mass"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body days.FishInput
		}) (days.CatchView, error) {
			return s.app.Days.AddFish(ctx, actor, in.Key, in.Trip, in.Body)
		})
	act(s, kernel.Move, op("put-back", list+"/{fish}/back", "Note that a fish went back, or that it did not"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Fish uuid.UUID `path:"fish" format:"uuid"`
			Body struct {
				Back bool `json:"back"`
			}
		}) (days.CatchView, error) {
			return s.app.Days.PutBack(ctx, actor, in.Key, in.Trip, in.Fish, in.Body.Back)
		})
	remove(s, kernel.Move, op("remove-fish", list+"/{fish}", "Take a fish off the list"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Fish uuid.UUID `path:"fish" format:"uuid"`
		}) error {
			return s.app.Days.RemoveFish(ctx, actor, in.Trip, in.Fish)
		})
	setting(
		s,
		kernel.ChangeGear,
		op("set-species", crewPath+"species", "Keep what fish of a length weigh; an empty table is the usual one"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Species []catch.Species `json:"species" maxItems:"60"`
			}
		}) error {
			return s.app.Days.SetSpecies(ctx, actor, in.Body.Species)
		},
	)
}

type tripPhotoPath struct {
	TripPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (s *Server) registerTripPhotos() {
	const list = crewPath + "trips/{trip}/photos"
	read(s, kernel.See, op("get-trip-photos", list, "Pictures of a trip"),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) ([]fleet.PhotoView, error) {
			return s.app.Fleet.Photos(ctx, actor, fleet.PhotoOf{Trip: &in.Trip})
		})
	create(s, kernel.Move, op("add-trip-photo", list,
		"Add a picture of a trip, JPEG or PNG; it is made anew, without its metadata").upTo(fleet.MaxPhotoBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			RawBody []byte `contentType:"application/octet-stream"`
		}) (uuid.UUID, error) {
			return s.app.Fleet.AddPhoto(ctx, actor, in.Key, fleet.PhotoOf{Trip: &in.Trip}, in.RawBody)
		})
	readFile(s, kernel.See, op("get-trip-photo", list+"/{photo}", "A picture of a trip").files("image/jpeg"),
		func(ctx context.Context, actor kernel.Actor, in *tripPhotoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, fleet.PhotoOf{Trip: &in.Trip}, in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	remove(s, kernel.ChangeGear, op("remove-trip-photo", list+"/{photo}", "Take a picture of a trip away"),
		func(ctx context.Context, actor kernel.Actor, in *tripPhotoPath) error {
			return s.app.Fleet.RemovePhoto(ctx, actor, fleet.PhotoOf{Trip: &in.Trip}, in.Photo)
		})
}
