package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // phones and cameras send either
	"time"

	"ergasia/store"

	"github.com/disintegration/imaging"
	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Bounds of pictures. Practice: a phone's picture passes, an image made to fill
// memory does not.
const (
	MaxPhotoBytes = 12 << 20
	maxPixels     = 50_000_000
	photoSide     = 1600
	photoQuality  = 80
	photosOfBoat  = 60
	photosOfGear  = 6

	keptPhotoBytes = 1_500_000 // the table refuses 2,000,000
)

// decoding has room for as many pictures as may be decoded at once; each takes
// a few hundred megabytes at most.
var decoding = make(chan struct{}, 1)

// PhotoView is a picture of a boat or a place.
type PhotoView struct {
	ID      uuid.UUID  `json:"id" format:"uuid"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	By      string     `json:"by"`
	At      time.Time  `json:"at"`
	Width   int        `json:"width"`
	Height  int        `json:"height"`
}

// reencode makes a picture of ours of what was sent: upright, no larger than
// photoSide, with nothing of its metadata.
func reencode(raw []byte) (text []byte, width, height int, err error) {
	refuse := func(why string) error { return &Error{Kind: Refused, Sentence: why} }
	head, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "jpeg" && kind != "png" {
		return nil, 0, 0, refuse("This is no JPEG or PNG picture.")
	}
	if head.Width <= 0 || head.Height <= 0 || head.Width*head.Height > maxPixels {
		return nil, 0, 0, refuse(fmt.Sprintf("The picture has %d x %d points; %d million are the most.", head.Width, head.Height, maxPixels/1_000_000))
	}
	img, err := imaging.Decode(bytes.NewReader(raw), imaging.AutoOrientation(true))
	if err != nil {
		return nil, 0, 0, refuse("The picture is broken: send it again.")
	}
	img = imaging.Fit(img, photoSide, photoSide, imaging.Lanczos)
	var out bytes.Buffer
	for quality := photoQuality; ; quality -= 20 { // noise does not compress: coarser, until it is small enough to keep
		out.Reset()
		if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
			return nil, 0, 0, fmt.Errorf("writing the picture: %w", err)
		}
		if out.Len() <= keptPhotoBytes || quality <= 20 {
			return out.Bytes(), img.Bounds().Dx(), img.Bounds().Dy(), nil
		}
	}
}

// PhotoOf says what a picture is of: a boat, a place of hers, or gear.
type PhotoOf struct {
	Boat, Place, Gear *uuid.UUID
}

// column is where a picture says what it is of, and the id there.
func (of PhotoOf) column() (string, uuid.UUID) {
	if of.Gear != nil {
		return "photo.gear_id", *of.Gear
	}
	return "photo.boat_id", *of.Boat
}

// exists says whether what the picture is of is there.
func (of PhotoOf) exists(tx *gorm.DB, actor Actor) error {
	if of.Gear != nil {
		return absent(tx.Select("id").Where("crew_id = ? AND id = ?", actor.Crew, *of.Gear).Take(&store.Gear{}).Error, "gear")
	}
	return boatExists(tx, actor, *of.Boat)
}

// AddPhoto keeps a picture.
func (a *App) AddPhoto(ctx context.Context, actor Actor, key uuid.UUID, of PhotoOf, raw []byte) (uuid.UUID, error) {
	select {
	case decoding <- struct{}{}:
	case <-ctx.Done():
		return uuid.Nil, ctx.Err()
	}
	text, width, height, err := reencode(raw)
	<-decoding
	if err != nil {
		return uuid.Nil, err
	}
	var id uuid.UUID
	err = a.in(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.once(tx, actor, key, []any{"photo", of, len(raw)}, func() (uuid.UUID, error) {
			if err := of.exists(tx, actor); err != nil {
				return uuid.Nil, err
			}
			column, id := of.column()
			most := int64(photosOfBoat)
			if of.Gear != nil {
				most = photosOfGear
			}
			var n int64
			if err := tx.Model(&store.Photo{}).Where("crew_id = ?", actor.Crew).Where(column+" = ?", id).Count(&n).Error; err != nil {
				return uuid.Nil, fmt.Errorf("counting the pictures: %w", err)
			}
			if n >= most {
				return uuid.Nil, &Error{Kind: Refused, Sentence: fmt.Sprintf("There are %d pictures, the most that are kept: take one away first.", n)}
			}
			row := store.Photo{ID: store.NewID(), CrewID: actor.Crew, BoatID: of.Boat, PlaceID: of.Place, GearID: of.Gear, ByMember: actor.Member, At: a.now(),
				Width: width, Height: height, JPEG: text}
			err := tx.Create(&row).Error
			if errors.Is(err, gorm.ErrForeignKeyViolated) {
				return uuid.Nil, notFound("place")
			}
			return row.ID, err
		})
		id = made
		return err
	})
	return id, err
}

// Photos lists the pictures of a boat, newest first.
func (a *App) Photos(ctx context.Context, actor Actor, boat uuid.UUID) ([]PhotoView, error) {
	list := []PhotoView{}
	err := a.in(ctx, actor, func(tx *gorm.DB) (err error) {
		if err := boatExists(tx, actor, boat); err != nil {
			return err
		}
		list, err = photosOf(tx, actor, "photo.boat_id", boat)
		return err
	})
	return list, err
}

// photosOf lists the pictures whose column has the id, newest first.
func photosOf(tx *gorm.DB, actor Actor, column string, id uuid.UUID) ([]PhotoView, error) {
	list := []PhotoView{}
	rows := []struct {
		store.Photo
		Name string
	}{}
	err := tx.Table("photo").Select("photo.id, photo.place_id, photo.at, photo.width, photo.height, member.name").
		Joins("JOIN member ON member.crew_id = photo.crew_id AND member.id = photo.by_member").
		Where("photo.crew_id = ?", actor.Crew).Where(column+" = ?", id).Order("photo.at DESC, photo.id").Scan(&rows).Error
	for _, r := range rows {
		list = append(list, PhotoView{r.ID, r.PlaceID, r.Name, r.At, r.Width, r.Height})
	}
	return list, err
}

// Photo gives the JPEG of a picture.
func (a *App) Photo(ctx context.Context, actor Actor, of PhotoOf, id uuid.UUID) ([]byte, error) {
	var row store.Photo
	column, whose := of.column()
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		return absent(tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Where(column+" = ?", whose).Take(&row).Error, "picture")
	})
	return row.JPEG, err
}

// RemovePhoto takes a picture away.
func (a *App) RemovePhoto(ctx context.Context, actor Actor, of PhotoOf, id uuid.UUID) error {
	column, whose := of.column()
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Where(column+" = ?", whose).Delete(&store.Photo{})
		if done.Error == nil && done.RowsAffected == 0 {
			return notFound("picture")
		}
		return done.Error
	})
}
