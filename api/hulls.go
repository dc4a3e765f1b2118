package api

import (
	"context"
	"fmt"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// File is an answer that is a file.
type File struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func file(kind, name string, text []byte, err error) (*File, error) {
	if err != nil {
		return nil, err
	}
	return &File{ContentType: kind, Disposition: fmt.Sprintf("inline; filename=%q", name), Body: text}, nil
}

// registerHulls adds the shapes of boats: forms, previews, offsets, the sheet.
func (s *Server) registerHulls() {
	read(s, kernel.See, op("hull-forms", "/api/crews/{crew}/hull-forms",
		"The forms of hull that can be measured with a tape, and usual layouts"),
		func(_ context.Context, _ kernel.Actor, _ *CrewPath) (fleet.HullChoices, error) {
			return fleet.Choices(), nil
		})
	ask(s, kernel.ChangeBoat, op("preview-hull", "/api/crews/{crew}/hull-preview",
		"The hull that measures make, and which of them look wrong; nothing is kept"),
		func(_ context.Context, _ kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Hull  model.HullInput `json:"hull"`
				Water float64         `json:"water_density_kg_m3" minimum:"900" maximum:"1300"`
			}
		}) (fleet.HullPreview, error) {
			return fleet.PreviewHull(in.Body.Hull, in.Body.Water), nil
		})
	ask(s, kernel.ChangeBoat, op("read-offsets", "/api/crews/{crew}/offsets",
		"Stations from a CSV table of offsets; nothing is kept"),
		func(_ context.Context, _ kernel.Actor, in *struct {
			CrewPath
			Body struct {
				CSV   string  `json:"csv" maxLength:"1000000"`
				Water float64 `json:"water_density_kg_m3" minimum:"900" maximum:"1300"`
			}
		}) (fleet.Offsets, error) {
			return fleet.ReadOffsets(in.Body.CSV, in.Body.Water)
		})
	readFile(s, kernel.See, op("get-offsets", boatPath+"offsets",
		"A boat's hull as a CSV table of offsets").files("text/csv"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*File, error) {
			text, err := s.app.Fleet.OffsetsOf(ctx, actor, in.Boat)
			return file("text/csv; charset=utf-8", "offsets.csv", text, err)
		})
	readFile(s, kernel.See, op("get-sheet", boatPath+"sheet", "A boat drawn for paper").files("image/svg+xml",
		"application/pdf"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Kind       string `query:"kind" enum:"svg,pdf" default:"pdf"`
			Dimensions bool   `query:"dimensions"`
		}) (*File, error) {
			text, err := s.app.Floating.Sheet(ctx, actor, in.Boat, in.Kind, in.Dimensions)
			kind := map[string]string{"svg": "image/svg+xml", "pdf": "application/pdf"}[in.Kind]
			return file(kind, "boat."+in.Kind, text, err)
		})
	s.registerPhotos()
}

type photoPath struct {
	BoatPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (s *Server) registerPhotos() {
	read(s, kernel.See, op("get-photos", boatPath+"photos", "Pictures of a boat and her places"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) ([]fleet.PhotoView, error) {
			return s.app.Fleet.Photos(ctx, actor, fleet.PhotoOf{Boat: &in.Boat})
		})
	create(s, kernel.Move, op("add-photo", boatPath+"photos",
		"Add a picture, JPEG or PNG; it is made anew, without its metadata").upTo(fleet.MaxPhotoBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Place   uuid.UUID `query:"place" format:"uuid" doc:"The place it shows; none for the boat"`
			RawBody []byte    `contentType:"application/octet-stream"`
		}) (uuid.UUID, error) {
			var place *uuid.UUID
			if in.Place != uuid.Nil {
				place = &in.Place
			}
			return s.app.Fleet.AddPhoto(ctx, actor, in.Key, fleet.PhotoOf{Boat: &in.Boat, Place: place}, in.RawBody)
		})
	readFile(s, kernel.See, op("get-photo", boatPath+"photos/{photo}", "A picture").files("image/jpeg"),
		func(ctx context.Context, actor kernel.Actor, in *photoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, fleet.PhotoOf{Boat: &in.Boat}, in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	remove(s, kernel.ChangeBoat, op("remove-photo", boatPath+"photos/{photo}", "Take a picture away"),
		func(ctx context.Context, actor kernel.Actor, in *photoPath) error {
			return s.app.Fleet.RemovePhoto(ctx, actor, fleet.PhotoOf{Boat: &in.Boat}, in.Photo)
		})
}
