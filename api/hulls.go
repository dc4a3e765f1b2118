package api

import (
	"context"
	"fmt"
	"net/http"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/store/model"

	"github.com/danielgtaylor/huma/v2"
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

// fileAnswer describes a file in the OpenAPI document.
func fileAnswer(kinds ...string) map[string]*huma.Response {
	content := map[string]*huma.MediaType{}
	for _, k := range kinds {
		content[k] = &huma.MediaType{Schema: &huma.Schema{Type: "string", Format: "binary"}}
	}
	return map[string]*huma.Response{"200": {Description: "OK", Content: content}}
}

// registerHulls adds the shapes of boats: forms, previews, offsets, the sheet.
func (s *Server) registerHulls() {
	crewOperation(s, kernel.See, huma.Operation{OperationID: "hull-forms", Method: http.MethodGet, Path: "/api/crews/{crew}/hull-forms",
		Summary: "The forms of hull that can be measured with a tape, and usual layouts"},
		func(_ context.Context, _ kernel.Actor, _ *CrewPath) (*Body[fleet.HullChoices], error) {
			return body(fleet.Choices(), nil)
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "preview-hull", Method: http.MethodPost, Path: "/api/crews/{crew}/hull-preview",
		Summary: "The hull that measures make, and which of them look wrong; nothing is kept"},
		func(_ context.Context, _ kernel.Actor, in *struct {
			CrewPath
			Body struct {
				Hull  model.HullInput `json:"hull"`
				Water float64         `json:"water_density_kg_m3" minimum:"900" maximum:"1300"`
			}
		}) (*Body[fleet.HullPreview], error) {
			return body(fleet.PreviewHull(in.Body.Hull, in.Body.Water), nil)
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "read-offsets", Method: http.MethodPost, Path: "/api/crews/{crew}/offsets",
		Summary: "Stations from a CSV table of offsets; nothing is kept"},
		func(_ context.Context, _ kernel.Actor, in *struct {
			CrewPath
			Body struct {
				CSV   string  `json:"csv" maxLength:"1000000"`
				Water float64 `json:"water_density_kg_m3" minimum:"900" maximum:"1300"`
			}
		}) (*Body[fleet.Offsets], error) {
			return body(fleet.ReadOffsets(in.Body.CSV, in.Body.Water))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-offsets", Method: http.MethodGet, Path: boatPath + "offsets", Summary: "A boat's hull as a CSV table of offsets",
		Responses: fileAnswer("text/csv")},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*File, error) {
			text, err := s.app.Fleet.OffsetsOf(ctx, actor, in.Boat)
			return file("text/csv; charset=utf-8", "offsets.csv", text, err)
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-sheet", Method: http.MethodGet, Path: boatPath + "sheet", Summary: "A boat drawn for paper",
		Responses: fileAnswer("image/svg+xml", "application/pdf")},
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
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-photos", Method: http.MethodGet, Path: boatPath + "photos", Summary: "Pictures of a boat and her places"},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*Body[[]fleet.PhotoView], error) {
			return body(s.app.Fleet.Photos(ctx, actor, in.Boat))
		})
	crewOperation(s, kernel.Move, huma.Operation{OperationID: "add-photo", Method: http.MethodPost, Path: boatPath + "photos", MaxBodyBytes: fleet.MaxPhotoBytes,
		Summary: "Add a picture, JPEG or PNG; it is made anew, without its metadata"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Place   uuid.UUID `query:"place" format:"uuid" doc:"The place it shows; none for the boat"`
			RawBody []byte    `contentType:"application/octet-stream"`
		}) (*Body[Made], error) {
			var place *uuid.UUID
			if in.Place != uuid.Nil {
				place = &in.Place
			}
			return made(s.app.Fleet.AddPhoto(ctx, actor, in.Key, fleet.PhotoOf{Boat: &in.Boat, Place: place}, in.RawBody))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-photo", Method: http.MethodGet, Path: boatPath + "photos/{photo}", Summary: "A picture", Responses: fileAnswer("image/jpeg")},
		func(ctx context.Context, actor kernel.Actor, in *photoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, fleet.PhotoOf{Boat: &in.Boat}, in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "remove-photo", Method: http.MethodDelete, Path: boatPath + "photos/{photo}",
		Summary: "Take a picture away", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *photoPath) (*struct{}, error) {
			return nil, s.app.Fleet.RemovePhoto(ctx, actor, fleet.PhotoOf{Boat: &in.Boat}, in.Photo)
		})
}
