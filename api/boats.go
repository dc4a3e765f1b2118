package api

import (
	"context"
	"net/http"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
)

// BoatPath is the boat that an operation is about.
type BoatPath struct {
	CrewPath
	Boat uuid.UUID `path:"boat" format:"uuid"`
}

// PlacePath is the place that an operation is about.
type PlacePath struct {
	BoatPath
	Place uuid.UUID `path:"place" format:"uuid"`
}

// Made is the id of what a write made or changed.
type Made struct {
	ID uuid.UUID `json:"id" format:"uuid"`
}

func made(id uuid.UUID, err error) (*Body[Made], error) { return body(Made{ID: id}, err) }

func (s *Server) registerBoats() {
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "add-boat", Method: http.MethodPost, Path: "/api/crews/{crew}/boats", Summary: "Add a boat"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body aboard.BoatInput
		}) (*Body[Made], error) {
			return made(s.app.Fleet.SaveBoat(ctx, actor, in.Key, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, kernel.See, huma.Operation{OperationID: "get-boat", Method: http.MethodGet, Path: "/api/crews/{crew}/boats/{boat}", Summary: "A boat as it was entered"},
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (*Body[fleet.BoatView], error) {
			return body(s.app.Fleet.Boat(ctx, actor, in.Boat))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "change-boat", Method: http.MethodPut, Path: "/api/crews/{crew}/boats/{boat}", Summary: "Change a boat"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				aboard.BoatInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.Fleet.SaveBoat(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.BoatInput))
		})
	s.registerPlaces()
}

func (s *Server) registerPlaces() {
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "add-place", Method: http.MethodPost, Path: "/api/crews/{crew}/boats/{boat}/places", Summary: "Add a place"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body fleet.PlaceInput
		}) (*Body[Made], error) {
			return made(s.app.Fleet.SavePlace(ctx, actor, in.Key, in.Boat, uuid.Nil, 0, in.Body))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "change-place", Method: http.MethodPut, Path: "/api/crews/{crew}/boats/{boat}/places/{place}", Summary: "Change a place"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PlacePath
			Idempotent
			Body struct {
				fleet.PlaceInput
				Version int `json:"version"`
			}
		}) (*Body[Made], error) {
			return made(s.app.Fleet.SavePlace(ctx, actor, in.Key, in.Boat, in.Place, in.Body.Version, in.Body.PlaceInput))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "mirror-place", Method: http.MethodPost, Path: "/api/crews/{crew}/boats/{boat}/places/{place}/mirror",
		Summary: "Copy a place, with what stands in it, to the other side"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PlacePath
			Idempotent
		}) (*Body[Made], error) {
			return made(s.app.Fleet.MirrorPlace(ctx, actor, in.Key, in.Boat, in.Place))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "lay-out", Method: http.MethodPost, Path: "/api/crews/{crew}/boats/{boat}/layout",
		Summary: "Make the places and posts of a usual layout", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				Layout string `json:"layout" maxLength:"40"`
			}
		}) (*struct{}, error) {
			return nil, s.app.Fleet.LayOut(ctx, actor, in.Key, in.Boat, in.Body.Layout)
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "remove-place", Method: http.MethodDelete, Path: "/api/crews/{crew}/boats/{boat}/places/{place}",
		Summary: "Remove an empty place", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *PlacePath) (*struct{}, error) {
			return nil, s.app.Fleet.RemovePlace(ctx, actor, in.Boat, in.Place)
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "add-post", Method: http.MethodPost, Path: "/api/crews/{crew}/boats/{boat}/posts", Summary: "Add a post"},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body fleet.PostInput
		}) (*Body[Made], error) {
			return made(s.app.Fleet.AddPost(ctx, actor, in.Key, in.Boat, in.Body))
		})
	crewOperation(s, kernel.ChangeBoat, huma.Operation{OperationID: "remove-post", Method: http.MethodDelete, Path: "/api/crews/{crew}/boats/{boat}/posts/{post}",
		Summary: "Remove a post that nobody is at", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Post uuid.UUID `path:"post" format:"uuid"`
		}) (*struct{}, error) {
			return nil, s.app.Fleet.RemovePost(ctx, actor, in.Boat, in.Post)
		})
}
