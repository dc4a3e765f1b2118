package api

import (
	"context"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/safety"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// PackPath is the pack of rules that an operation is about.
type PackPath struct {
	CrewPath
	Pack uuid.UUID `path:"pack" format:"uuid"`
}

// PackSaved is a pack that was saved.
type PackSaved struct {
	Said []string `json:"said" doc:"What became otherwise on which trip ahead"`
}

// packBytes is the longest request with a pack: its file is written as text in JSON.
const packBytes = 1 << 20

func (s *Server) registerSafety() {
	read(
		s,
		kernel.See,
		op("get-boat-safety", boatPath+"safety", "A boat's safety equipment: where it lies, seconds, dates and gaps"),
		func(ctx context.Context, actor kernel.Actor, in *BoatPath) (safety.BoatSafety, error) {
			return s.app.Safety.Boat(ctx, actor, in.Boat)
		},
	)
	setting(
		s,
		kernel.ChangeBoat,
		op("set-carriage", boatPath+"carriage", "What rules ask of a boat, and what is built into her"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			BoatPath
			Idempotent
			Body struct {
				model.CarriageInput
				Version int `json:"version" doc:"Of the boat"`
			}
		}) error {
			return s.app.Safety.SetCarriage(ctx, actor, in.Key, in.Boat, in.Body.Version, in.Body.CarriageInput)
		},
	)
	read(
		s,
		kernel.See,
		op(
			"check-trip",
			crewPath+"trips/{trip}/check",
			"What must be aboard on a trip, and what is missing, out of date or too slow",
		),
		func(ctx context.Context, actor kernel.Actor, in *TripPath) (safety.CheckView, error) {
			return s.app.Safety.Check(ctx, actor, in.Trip)
		},
	)
	setting(s, kernel.ChangeGear, op("set-trip-rules", crewPath+"trips/{trip}/rules", "Where a trip is, for the rules"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			TripPath
			Idempotent
			Body struct {
				model.TripRules
				Version int `json:"version" doc:"Of the trip"`
			}
		}) error {
			return s.app.Safety.SetTripRules(ctx, actor, in.Key, in.Trip, in.Body.Version, in.Body.TripRules)
		})
	s.registerPacks()
}

func (s *Server) registerPacks() {
	const packs = crewPath + "packs"
	read(s, kernel.See, op("get-packs", packs, "All packs of rules, and which of them trips are held against"),
		func(ctx context.Context, actor kernel.Actor, in *CrewPath) (safety.RulesView, error) {
			return s.app.Safety.Rules(ctx, actor)
		})
	setting(s, kernel.ChangeBoat, op("choose-packs", packs, "Which packs trips are held against, and the country"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body struct {
				Country string   `json:"country"`
				Packs   []string `json:"packs" maxItems:"40"`
				Version int      `json:"version"`
			}
		}) error {
			return s.app.Safety.ChoosePacks(ctx, actor, in.Key, in.Body.Version, in.Body.Country, in.Body.Packs)
		})
	act(s, kernel.ChangeBoat, op("add-pack", packs, "Make a pack of the crew's own").upTo(packBytes),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body struct {
				Pack string `json:"pack" doc:"As a file, by the schema"`
			}
		}) (PackSaved, error) {
			said, err := s.app.Safety.SavePack(ctx, actor, in.Key, uuid.Nil, 0, in.Body.Pack)
			return PackSaved{Said: said}, err
		})
	replace(
		s,
		kernel.ChangeBoat,
		op("change-pack", packs+"/{pack}", "Make a new version of a pack of the crew's own").upTo(packBytes),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PackPath
			Idempotent
			Body struct {
				Pack    string `json:"pack"`
				Version int    `json:"version"`
			}
		}) (PackSaved, error) {
			said, err := s.app.Safety.SavePack(ctx, actor, in.Key, in.Pack, in.Body.Version, in.Body.Pack)
			return PackSaved{Said: said}, err
		},
	)
	remove(s, kernel.ChangeBoat, op("remove-pack", packs+"/{pack}", "Take a pack of the crew's own away"),
		func(ctx context.Context, actor kernel.Actor, in *PackPath) error {
			return s.app.Safety.RemovePack(ctx, actor, in.Pack)
		})
	readFile(
		s,
		kernel.See,
		op("get-pack-schema", packs+"/schema", "The JSON Schema of a pack").files("application/schema+json"),
		func(ctx context.Context, actor kernel.Actor, in *CrewPath) (*File, error) {
			return file("application/schema+json", "rulepack.schema.json", safety.Schema(), nil)
		},
	)
}

// PaperPath is the paper that an operation is about.
type PaperPath struct {
	CrewPath
	Paper uuid.UUID `path:"paper" format:"uuid"`
}

func (s *Server) registerPapers() {
	const papers = crewPath + "papers"
	read(s, kernel.Move, op("get-papers", papers, "The crew's papers, in the order in which they are asked for"),
		func(ctx context.Context, actor kernel.Actor, in *CrewPath) ([]safety.PaperView, error) {
			return s.app.Safety.Papers(ctx, actor)
		})
	create(s, kernel.ChangeGear, op("add-paper", papers, "List a paper"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			CrewPath
			Idempotent
			Body safety.PaperInput
		}) (uuid.UUID, error) {
			return s.app.Safety.SavePaper(ctx, actor, in.Key, uuid.Nil, 0, in.Body)
		})
	change(s, kernel.ChangeGear, op("change-paper", papers+"/{paper}", "Change a paper"),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PaperPath
			Idempotent
			Body struct {
				safety.PaperInput
				Version int `json:"version"`
			}
		}) (uuid.UUID, error) {
			return s.app.Safety.SavePaper(ctx, actor, in.Key, in.Paper, in.Body.Version, in.Body.PaperInput)
		})
	remove(s, kernel.ChangeGear, op("remove-paper", papers+"/{paper}", "Take a paper off the list"),
		func(ctx context.Context, actor kernel.Actor, in *PaperPath) error {
			return s.app.Safety.RemovePaper(ctx, actor, in.Paper)
		})
	s.registerPaperPhotos()
}

type paperPhotoPath struct {
	PaperPath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

func (p PaperPath) pictured() fleet.PhotoOf { return fleet.PhotoOf{Paper: &p.Paper} }

func (s *Server) registerPaperPhotos() {
	const list = crewPath + "papers/{paper}/photos"
	read(s, kernel.Move, op("get-paper-photos", list, "Pictures of a paper"),
		func(ctx context.Context, actor kernel.Actor, in *PaperPath) ([]fleet.PhotoView, error) {
			return s.app.Fleet.Photos(ctx, actor, in.pictured())
		})
	create(s, kernel.ChangeGear, op(
		"add-paper-photo",
		list,
		"Add a picture of a paper, JPEG or PNG; it is made anew, without its metadata",
	).upTo(fleet.MaxPhotoBytes).slow(),
		func(ctx context.Context, actor kernel.Actor, in *struct {
			PaperPath
			Idempotent
			RawBody []byte `contentType:"application/octet-stream"`
		}) (uuid.UUID, error) {
			return s.app.Fleet.AddPhoto(ctx, actor, in.Key, in.pictured(), in.RawBody)
		})
	readFile(s, kernel.Move, op("get-paper-photo", list+"/{photo}", "A picture of a paper").files("image/jpeg"),
		func(ctx context.Context, actor kernel.Actor, in *paperPhotoPath) (*File, error) {
			text, err := s.app.Fleet.Photo(ctx, actor, in.pictured(), in.Photo)
			return file("image/jpeg", "picture.jpg", text, err)
		})
	remove(s, kernel.ChangeGear, op("remove-paper-photo", list+"/{photo}", "Take a picture of a paper away"),
		func(ctx context.Context, actor kernel.Actor, in *paperPhotoPath) error {
			return s.app.Fleet.RemovePhoto(ctx, actor, in.pictured(), in.Photo)
		})
}
