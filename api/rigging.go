package api

import (
	"context"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/rigging"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// FittingPath is the fitting that an operation is about.
type FittingPath struct {
	BoatPath
	Fitting uuid.UUID `path:"fitting" format:"uuid"`
}

func (s *Server) registerRigging() {
	const one = boatPath + "fittings/{fitting}"
	read(s, kernel.See, op("get-rigging", boatPath+"rigging", "What is fastened to a boat, and what is in whose way"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (rigging.Rigging, error) {
			return s.app.Rigging.Rigging(ctx, actor, in.Boat)
		})
	read(s, kernel.See, op("get-spaces", boatPath+"spaces", "The largest boxes inside the hull that nothing takes"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) ([]rigging.SpaceView, error) {
			return s.app.Rigging.Spaces(ctx, actor, in.Boat)
		})
	ask(
		s,
		kernel.Try,
		op(
			"try-fitting",
			boatPath+"rigging/try",
			"The dry run of a mount: what it is in the way of, what it must bear, how it might be held",
		),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body struct {
				ID      *uuid.UUID           `json:"id,omitempty" format:"uuid" doc:"Of a fitting that is there already, and in hand"`
				Fitting rigging.FittingInput `json:"fitting"`
			}
		}) (rigging.Tried, error) {
			return s.app.Rigging.Try(ctx, actor, in.Boat, in.Body.ID, in.Body.Fitting)
		},
	)
	ask(s, kernel.Try, op("read-fittings", boatPath+"rigging/lines", "Fittings from lines of text; nothing is kept"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Body struct {
				Text string `json:"text" maxLength:"30000"`
			}
		}) ([]rigging.ReadFitting, error) {
			return s.app.Rigging.Read(ctx, actor, in.Boat, in.Body.Text)
		})
	act(s, kernel.ChangeBoat, op("mount", boatPath+"fittings", "List what is fastened to a boat, all or none"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				Fittings []rigging.FittingInput `json:"fittings" minItems:"1" maxItems:"300"`
			}
		}) ([]uuid.UUID, error) {
			return s.app.Rigging.Mount(ctx, actor, in.Key, in.Boat, in.Body.Fittings)
		})
	change(s, kernel.ChangeBoat, op("change-fitting", one, "Change a fitting"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			FittingPath
			Idempotent
			Body struct {
				rigging.FittingInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Rigging.Change(ctx, actor, in.Key, in.Boat, in.Fitting, in.Body.Version, in.Body.FittingInput)
		})
	remove(s, kernel.ChangeBoat, op("remove-fitting", one, "Take a fitting off the list"),
		func(ctx context.Context, actor kernel.Actor, in *FittingPath) error {
			return s.app.Rigging.Remove(ctx, actor, in.Boat, in.Fitting)
		})
	doing(
		s,
		kernel.ChangeGear,
		op("did-fitting", one+"/done", "Note what was done to a fitting, or that it was looked at"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			FittingPath
			Idempotent
			Body struct {
				What    string `json:"what,omitempty" maxLength:"200"`
				Looked  bool   `json:"looked,omitempty" doc:"It was looked at: that is counted anew from today"`
				Version int    `json:"version"`
			}
		}) error {
			return s.app.Rigging.Done(ctx, actor, in.Key, in.Boat, in.Fitting, in.Body.Version, in.Body.What, in.Body.Looked)
		},
	)
	setting(
		s,
		kernel.ChangeBoat,
		op("set-rigging", boatPath+"rigging", "How a boat's fittings are used, and how high she may be"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				model.RiggingInput
				Version int `json:"version" doc:"Of the boat"`
			}
		}) error {
			return s.app.Rigging.Set(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.RiggingInput)
		},
	)
	readFile(
		s,
		kernel.See,
		op(
			"get-template",
			one+"/template",
			"A fitting's drilling template at true scale",
		).files("application/pdf", "image/svg+xml"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			FittingPath
			Mirrored bool   `query:"mirrored" doc:"For the other side"`
			Format   string `query:"format" enum:"pdf,svg" default:"pdf"`
		}) (*File, error) {
			sheet, err := s.app.Rigging.Template(ctx, actor, in.Boat, in.Fitting, in.Mirrored)
			if err != nil {
				return nil, err
			}
			if in.Format == "svg" {
				return file("image/svg+xml", "template.svg", sheet.SVG(), nil)
			}
			text, err := sheet.PDF()
			return file("application/pdf", "template.pdf", text, err)
		},
	)
	s.registerFittingPhotos()
	s.registerRigSets()
}

// RigSetPath is the set that an operation is about.
type RigSetPath struct {
	BoatPath
	Set uuid.UUID `path:"set" format:"uuid"`
}

func (s *Server) registerRigSets() {
	const sets = boatPath + "rig-sets"
	doing(
		s,
		kernel.ChangeGear,
		op(
			"dock-fitting",
			boatPath+"fittings/{fitting}/dock",
			"Dock a unit in a base of this boat, put a fitting on, or take either off",
		),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			FittingPath
			Idempotent
			Body struct {
				BaseID  *uuid.UUID `json:"base_id,omitempty" format:"uuid"`
				On      bool       `json:"on"`
				Version int        `json:"version"`
			}
		}) error {
			return s.app.Rigging.Dock(ctx, actor, in.Key, in.Boat, in.Fitting, in.Body.Version, in.Body.BaseID, in.Body.On)
		},
	)
	create(s, kernel.ChangeBoat, op("add-rig-set", sets, "Keep a set of fittings that are on together"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body rigging.SetInput
		}) (uuid.UUID, error) {
			return s.app.Rigging.SaveSet(ctx, actor, in.Key, in.Boat, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeBoat, op("change-rig-set", sets+"/{set}", "Change a set of fittings"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			RigSetPath
			Idempotent
			Body struct {
				rigging.SetInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Rigging.SaveSet(ctx, actor, in.Key, in.Boat, in.Set, in.Body.Version, in.Body.SetInput)
		})
	remove(s, kernel.ChangeBoat, op("remove-rig-set", sets+"/{set}", "Remove a set; what is on stays on"),
		func(ctx context.Context, actor kernel.Actor, in *RigSetPath) error {
			return s.app.Rigging.RemoveSet(ctx, actor, in.Boat, in.Set)
		})
	doing(
		s,
		kernel.ChangeGear,
		op("put-on-rig-set", sets+"/{set}/put-on", "Rig her with a set: what other sets have on comes off"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			RigSetPath
			Idempotent
		}) error {
			return s.app.Rigging.PutOn(ctx, actor, in.Key, in.Boat, in.Set)
		},
	)
	doing(
		s,
		kernel.ChangeGear,
		op("leave-boat", boatPath+"rigging/leave", "Take off all that is taken off when she is left alone"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
		}) error {
			return s.app.Rigging.Leave(ctx, actor, in.Key, in.Boat)
		},
	)
}

type fittingPhotoPath struct {
	FittingPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (p FittingPath) pictured() fleet.PhotoOf { return fleet.PhotoOf{Fitting: &p.Fitting, On: &p.Boat} }

func (s *Server) registerFittingPhotos() {
	const list = boatPath + "fittings/{fitting}/photos"
	read(s, kernel.See, op("get-fitting-photos", list, "Pictures of a fitting"),
		func(ctx context.Context, actor kernel.Actor, in *FittingPath) ([]fleet.PhotoView, error) {
			return s.app.Fleet.Photos(ctx, actor, in.pictured())
		})
	create(s, kernel.ChangeBoat, op("add-fitting-photo", list,
		"Add a picture of a fitting, JPEG or PNG; it is made anew, without its metadata").upTo(fleet.MaxPhotoBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			FittingPath
			Idempotent
			RawBody []byte `contentType:"application/octet-stream"`
		}) (uuid.UUID, error) {
			return s.app.Fleet.AddPhoto(ctx, actor, in.Key, in.pictured(), in.RawBody)
		})
	readFile(s, kernel.See, op("get-fitting-photo", list+"/{photo}", "A picture of a fitting").files("image/jpeg"),
		func(ctx context.Context, actor kernel.Actor, in *fittingPhotoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, in.pictured(), in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	remove(s, kernel.ChangeBoat, op("remove-fitting-photo", list+"/{photo}", "Take a picture of a fitting away"),
		func(ctx context.Context, actor kernel.Actor, in *fittingPhotoPath) error {
			return s.app.Fleet.RemovePhoto(ctx, actor, in.pictured(), in.Photo)
		})
}
