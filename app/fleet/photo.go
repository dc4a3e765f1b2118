package fleet

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Bounds of pictures. Practice: a phone's picture passes.
const (
	MaxPhotoBytes = 12 << 20
	photosOfBoat  = 60
	photosOfGear  = 6
	photosOfTrip  = 24
)

// How long one picture may take. Practice: the largest take two to four seconds.
const pictureTime = 8 * time.Second

// PhotoView is a picture of a boat or a place.
type PhotoView struct {
	ID      uuid.UUID  `json:"id" format:"uuid"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	By      string     `json:"by"`
	At      time.Time  `json:"at"`
	Width   int        `json:"width"`
	Height  int        `json:"height"`
}

// PhotoOf says what a picture is of: a boat, a place of hers, gear, or a trip. On is the boat
// that a fitting or a job must be of.
type PhotoOf struct {
	Boat, Place, Gear, Trip, Fitting, Paper, Job *uuid.UUID
	On                                           *uuid.UUID
}

// column is where a picture says what it is of, and the id there.
func (of PhotoOf) column() (string, uuid.UUID) {
	if of.Gear != nil {
		return "photo.gear_id", *of.Gear
	}
	if of.Trip != nil {
		return "photo.trip_id", *of.Trip
	}
	if of.Fitting != nil {
		return "photo.fitting_id", *of.Fitting
	}
	if of.Paper != nil {
		return "photo.paper_id", *of.Paper
	}
	if of.Job != nil {
		return "photo.job_id", *of.Job
	}
	return "photo.boat_id", *of.Boat
}

// exists says whether what the picture is of is there.
func (of PhotoOf) exists(tx *store.Tx, actor kernel.Actor) error {
	if of.Gear != nil {
		return kernel.Absent(store.Exists[model.Gear](tx, "id = ?", *of.Gear), "gear")
	}
	if of.Trip != nil {
		return kernel.Absent(store.Exists[model.Trip](tx, "id = ?", *of.Trip), "trip")
	}
	if of.Fitting != nil {
		return kernel.Absent(store.Exists[model.Fitting](tx, "id = ? AND (boat_id = ? OR unit)", *of.Fitting, of.On), "fitting")
	}
	if of.Paper != nil {
		return kernel.Absent(store.Exists[model.Paper](tx, "id = ?", *of.Paper), "paper")
	}
	if of.Job != nil {
		return kernel.Absent(store.Exists[model.Job](tx, "id = ? AND boat_id = ?", *of.Job, of.On), "job")
	}
	return BoatExists(tx, *of.Boat)
}

// most pictures of it that are kept.
func (of PhotoOf) most() int64 {
	switch {
	case of.Gear != nil || of.Fitting != nil || of.Paper != nil || of.Job != nil:
		return photosOfGear
	case of.Trip != nil:
		return photosOfTrip
	}
	return photosOfBoat
}

// AddPhoto keeps a picture.
func (a *Wing) AddPhoto(ctx context.Context, actor kernel.Actor, key uuid.UUID, of PhotoOf, raw []byte) (uuid.UUID,
	error) {
	text, width, height, err := a.drawn(ctx, actor, raw)
	if err != nil {
		return uuid.Nil, err
	}
	var id uuid.UUID
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"photo", of, sha256.Sum256(raw)}, func() (uuid.UUID, error) {
			if err := of.exists(tx, actor); err != nil {
				return uuid.Nil, err
			}
			column, id := of.column()
			n, err := store.Count[model.Photo](tx, column+" = ?", id)
			if err != nil {
				return uuid.Nil, fmt.Errorf("counting the pictures: %w", err)
			}
			if n >= of.most() {
				return uuid.Nil, &refuse.Error{Kind: refuse.Refused,
					Sentence: fmt.Sprintf("There are %d pictures, the most that are kept: take one away first.", n)}
			}
			row := model.Photo{ID: store.NewID(), CrewID: actor.Crew, BoatID: of.Boat, PlaceID: of.Place, GearID: of.Gear, TripID: of.Trip,
				FittingID: of.Fitting, PaperID: of.Paper, JobID: of.Job,
				ByMember: actor.Member, At: a.Now(),
				Width: width, Height: height, JPEG: text}
			err = store.Add(tx, &row)
			if errors.Is(err, store.ErrReferred) {
				return uuid.Nil, refuse.Missing("place")
			}
			return row.ID, err
		})
		id = made
		return err
	})
	return id, err
}

// drawn makes the picture that is kept, in the crew's turn.
func (a *Wing) drawn(ctx context.Context, actor kernel.Actor, raw []byte) (text []byte, width, height int, err error) {
	done, err := a.drawing.Take(ctx, actor.Crew)
	if err != nil {
		return nil, 0, 0, err
	}
	defer done()
	mine, stop := context.WithTimeout(ctx, pictureTime)
	defer stop()
	text, width, height, err = Reencode(mine, raw)
	if errors.Is(err, context.DeadlineExceeded) && ctx.Err() == nil {
		err = refusePicture("The picture takes too long to open: send it smaller.")
	}
	return text, width, height, err
}

// Photos lists the pictures of a boat or a trip, newest first.
func (a *Wing) Photos(ctx context.Context, actor kernel.Actor, of PhotoOf) ([]PhotoView, error) {
	list := []PhotoView{}
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		if err := of.exists(tx, actor); err != nil {
			return err
		}
		column, id := of.column()
		list, err = PhotosOf(tx, column, id)
		return err
	})
	return list, err
}

// PhotosOf lists the pictures whose column has the id, newest first.
func PhotosOf(tx *store.Tx, column string, id uuid.UUID) ([]PhotoView, error) {
	list := []PhotoView{}
	rows := []struct {
		model.Photo
		Name string
	}{}
	err := tx.Read(&rows, `SELECT photo.id, photo.place_id, photo.at, photo.width, photo.height, member.name
		FROM photo JOIN member ON member.crew_id = photo.crew_id AND member.id = photo.by_member
		WHERE photo.crew_id = @crew AND `+column+` = @id ORDER BY photo.at DESC, photo.id`, store.Args{"id": id})
	for _, r := range rows {
		list = append(list, PhotoView{ID: r.ID, PlaceID: r.PlaceID, By: r.Name, At: r.At, Width: r.Width, Height: r.Height})
	}
	return list, err
}

// Photo gives the JPEG of a picture.
func (a *Wing) Photo(ctx context.Context, actor kernel.Actor, of PhotoOf, id uuid.UUID) ([]byte, error) {
	var row model.Photo
	column, whose := of.column()
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		if err := of.exists(tx, actor); err != nil {
			return err
		}
		return kernel.Absent(store.One(tx, &row, "id = ? AND "+column+" = ?", id, whose), "picture")
	})
	return row.JPEG, err
}

// RemovePhoto takes a picture away.
func (a *Wing) RemovePhoto(ctx context.Context, actor kernel.Actor, of PhotoOf, id uuid.UUID) error {
	column, whose := of.column()
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		if err := of.exists(tx, actor); err != nil {
			return err
		}
		if err := store.Exists[model.Photo](tx, "id = ? AND "+column+" = ?", id, whose); err != nil {
			return kernel.Absent(err, "picture")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "photo"); err != nil {
			return err
		}
		may := kernel.ChangeBoat
		if of.Gear != nil || of.Trip != nil {
			may = kernel.ChangeGear
		}
		if err := a.Undoable(tx, actor, may, "A picture was removed.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Photo](tx, "id = ? AND "+column+" = ?", id, whose), "picture")
	})
}
