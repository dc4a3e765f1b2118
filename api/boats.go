package api

import (
	"context"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"

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

func (s *Server) registerBoats() {
	create(s, kernel.ChangeBoat, op("add-boat", "/api/crews/{crew}/boats", "Add a boat"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body aboard.BoatInput
		}) (uuid.UUID, error) {
			return s.app.Fleet.SaveBoat(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	read(s, kernel.See, op("get-boat", "/api/crews/{crew}/boats/{boat}", "A boat as it was entered"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (fleet.BoatView, error) {
			return s.app.Fleet.Boat(ctx, actor, in.Boat)
		})
	change(s, kernel.ChangeBoat, op("change-boat", "/api/crews/{crew}/boats/{boat}", "Change a boat"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				aboard.BoatInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Fleet.SaveBoat(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.BoatInput)
		})
	s.registerPlaces()
}

func (s *Server) registerPlaces() {
	create(s, kernel.ChangeBoat, op("add-place", "/api/crews/{crew}/boats/{boat}/places", "Add a place"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body fleet.PlaceInput
		}) (uuid.UUID, error) {
			return s.app.Fleet.SavePlace(ctx, actor, in.Key, in.Boat, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeBoat, op("change-place", "/api/crews/{crew}/boats/{boat}/places/{place}", "Change a place"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PlacePath
			Idempotent
			Body struct {
				fleet.PlaceInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Fleet.SavePlace(ctx, actor, in.Key, in.Boat, in.Place, in.Body.Version, in.Body.PlaceInput)
		})
	create(s, kernel.ChangeBoat, op("mirror-place", "/api/crews/{crew}/boats/{boat}/places/{place}/mirror",
		"Copy a place, with what stands in it, to the other side"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PlacePath
			Idempotent
		}) (uuid.UUID, error) {
			return s.app.Fleet.MirrorPlace(ctx, actor, in.Key, in.Boat, in.Place)
		})
	doing(s, kernel.ChangeBoat, op("lay-out", "/api/crews/{crew}/boats/{boat}/layout",
		"Make the places and posts of a usual layout"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				Layout string `json:"layout" maxLength:"40"`
			}
		}) error {
			return s.app.Fleet.LayOut(ctx, actor, in.Key, in.Boat, in.Body.Layout)
		})
	remove(s, kernel.ChangeBoat, op("remove-place", "/api/crews/{crew}/boats/{boat}/places/{place}",
		"Remove an empty place"),
		func(ctx context.Context, actor kernel.Actor, in *PlacePath) error {
			return s.app.Fleet.RemovePlace(ctx, actor, in.Boat, in.Place)
		})
	create(s, kernel.ChangeBoat, op("add-post", "/api/crews/{crew}/boats/{boat}/posts", "Add a post"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body fleet.PostInput
		}) (uuid.UUID, error) {
			return s.app.Fleet.AddPost(ctx, actor, in.Key, in.Boat, in.Body)
		})
	change(s, kernel.ChangeBoat, op("change-post", "/api/crews/{crew}/boats/{boat}/posts/{post}", "Rename or move a post"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Post uuid.UUID `path:"post" format:"uuid"`
			Body struct {
				fleet.PostInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Fleet.ChangePost(ctx, actor, in.Key, in.Boat, in.Post, in.Body.Version, in.Body.PostInput)
		})
	remove(s, kernel.ChangeBoat, op("remove-post", "/api/crews/{crew}/boats/{boat}/posts/{post}",
		"Remove a post that nobody is at"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Post uuid.UUID `path:"post" format:"uuid"`
		}) error {
			return s.app.Fleet.RemovePost(ctx, actor, in.Boat, in.Post)
		})
}
