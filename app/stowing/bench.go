package stowing

import (
	"context"

	"ergasia/app/crew"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/where"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// PlaceView is a place on the drawing.
type PlaceView struct {
	fleet.PlaceRef
	Level    string  `json:"level" words:"levels" doc:"How high it stands: under the sole, in a locker, on deck or overhead"`
	LeavesBy float64 `json:"leaves_hull_by_m" doc:"How far it stands out of the hull; 0 inside"`
	Leaves   string  `json:"leaves_hull,omitempty" doc:"Where, such as: through the side"`
}

// PostView is a post on the drawing.
type PostView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	fleet.PostInput
}

// Bench is the stowing bench: the boat, what may go aboard, and how she sits.
type Bench struct {
	ID      uuid.UUID          `json:"id" format:"uuid"`
	Version int                `json:"version"`
	Name    string             `json:"name"`
	Water   float64            `json:"water_density_kg_m3"`
	Plate   model.Plate        `json:"plate"`
	Limits  model.Limits       `json:"limits"`
	Lines   hull.Lines         `json:"lines"`
	Floods  []model.FloodInput `json:"flood_points"`
	Places  []PlaceView        `json:"places"`
	Posts   []PostView         `json:"posts"`
	Gear    []gear.GearView    `json:"gear"`
	Members []crew.MemberView  `json:"members"`
	State   where.State        `json:"state"`
}

// Bench gives the stowing bench of a boat.
func (a *Wing) Bench(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (Bench, error) {
	var b Bench
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		b = laden{Laden: s}.bench(actor)
		b.State, err = where.StateOf(tx, actor, s)
		return err
	})
	return b, err
}

func (s laden) bench(actor kernel.Actor) Bench {
	in := s.Craft.Input
	b := Bench{ID: s.Boat.ID, Version: s.Boat.Version, Name: s.Boat.Name, Water: in.Water, Plate: in.Plate,
		Limits: in.Limits,
		Lines:  s.Craft.Lines, Floods: []model.FloodInput{}, Places: []PlaceView{}, Posts: []PostView{},
		Gear: []gear.GearView{}, Members: []crew.MemberView{}}
	for _, p := range s.Craft.Hull.FloodPoints {
		b.Floods = append(b.Floods, model.FloodInput{Name: p.Name, At: model.VecOf(p.At), Space: p.Space})
	}
	for _, p := range s.Places {
		v := PlaceView{PlaceRef: fleet.PlaceRef{ID: p.ID, Version: p.Version, PlaceInput: fleet.PlaceInputOf(p)},
			Level: s.Level(p)}
		v.LeavesBy, v.Leaves = s.Craft.Hull.Leaves(r3.Vec{X: p.X, Y: p.Y, Z: p.Z},
			r3.Vec{X: p.X + p.Length, Y: p.Y + p.Breadth, Z: p.Z + p.Height})
		b.Places = append(b.Places, v)
	}
	for _, p := range s.Posts {
		b.Posts = append(b.Posts, PostView{ID: p.ID, Version: p.Version, PostInput: fleet.PostInput{Name: p.Name,
			At: model.Vec{p.X, p.Y, p.Z}}})
	}
	for _, g := range s.Gear {
		if !s.Called(g.ID) {
			b.Gear = append(b.Gear, gear.ViewGear(g))
		}
	}
	for _, m := range s.Members {
		b.Members = append(b.Members, crew.SeenBy(actor, crew.ViewMember(m)))
	}
	return b
}
