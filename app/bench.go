package app

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/stow"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// Figures are what decides: how she sits and what she carries.
type Figures struct {
	Status       float.Status `json:"status" enum:"afloat,swamped,unstable"`
	Why          string       `json:"why,omitempty" doc:"Why there is no attitude"`
	Attitude     *Attitude    `json:"attitude,omitempty"`
	Displacement float64      `json:"displacement_kg"`
	PlateKg      float64      `json:"plate_kg" doc:"Of what the plate counts"`
	SigmaKg      float64      `json:"sigma_kg" doc:"One standard deviation of the displacement"`
	GearKg       float64      `json:"gear_kg"`
	Persons      int          `json:"persons"`
	Awash        []AwashView  `json:"awash" doc:"Spaces in which the sea stands; the figures are with it"`
	Rummage      float64      `json:"rummage_min_per_day" doc:"Minutes a day that fetching and stowing back what is aboard takes"`
}

// AwashView is a space in which the sea stands.
type AwashView struct {
	Space   string  `json:"space"`
	Through string  `json:"through"`
	DepthM  float64 `json:"depth_m"`
}

func (s *snapshot) figures(laid map[uuid.UUID][]stow.Laid) Figures {
	f := s.figuresOf(s.ledger(laid))
	f.Rummage = s.rummage(laid).minutes
	return f
}

func (s *snapshot) figuresOf(l ledger) Figures {
	r := s.craft.float.Solve(l.load, nil)
	total := l.load.Total()
	f := Figures{Status: r.Status, Why: r.Why, Displacement: total.Kg, SigmaKg: total.Sigma, PlateKg: l.plateKg, GearKg: l.gearKg, Persons: l.persons, Awash: []AwashView{}}
	if g := r.Figures; g != nil {
		f.Attitude = s.craft.attitude(g)
		for _, a := range g.Awash {
			f.Awash = append(f.Awash, AwashView{a.Space, a.Through, a.Depth})
		}
	}
	return f
}

// Stowed is where a thing is. No place means the quay, or another boat.
type Stowed struct {
	GearID  uuid.UUID  `json:"gear_id" format:"uuid"`
	Kind    string     `json:"kind" enum:"quay,boat,shed,person,lent"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	Inside  *uuid.UUID `json:"inside_id,omitempty" format:"uuid" doc:"The container that it lies in"`
	HeldBy  *uuid.UUID `json:"held_by,omitempty" format:"uuid"`
	Kg      float64    `json:"kg" doc:"All of it, with what it holds"`
	Boat    string     `json:"boat,omitempty" doc:"The other boat that it is in"`
	Version int        `json:"version"`
	Laid    []Laid     `json:"laid"`
	ByHand  bool       `json:"by_hand,omitempty" doc:"Laid by hand: it stays where it lies"`
}

// Laid is how one of a thing lies, in the boat's frame.
type Laid struct {
	Corner Vec      `json:"corner_m"`
	Size   Vec      `json:"size_m"`
	Layer  int      `json:"layer" doc:"0 on the floor of its place, 1 on what lies there, and so on up"`
	Rod    *RodView `json:"rod,omitempty" doc:"Of a rod in a bed, tube or holder"`
}

// Standing is where a person is. No post means ashore, or another boat.
type Standing struct {
	MemberID uuid.UUID  `json:"member_id" format:"uuid"`
	PostID   *uuid.UUID `json:"post_id,omitempty" format:"uuid"`
	Boat     string     `json:"boat,omitempty"`
	Seated   bool       `json:"seated"`
	CG       *Vec       `json:"cg_m,omitempty" doc:"Of the body, where they are aboard"`
	Version  int        `json:"version"`
}

// LastMove is the latest change, for the line under the drawing.
type LastMove struct {
	By   string    `json:"by"`
	At   time.Time `json:"at"`
	What string    `json:"what" doc:"As a sentence's end, such as: put the cooler in aft locker"`
}

// State is what a move changes.
type State struct {
	Stowage []Stowed   `json:"stowage"`
	People  []Standing `json:"people"`
	Now     Figures    `json:"now"`
	Before  *Figures   `json:"before,omitempty" doc:"As it was before the last move"`
	Last    *LastMove  `json:"last,omitempty"`
	CanUndo bool       `json:"can_undo"`
	CanRedo bool       `json:"can_redo"`
	Quay    int64      `json:"quay" doc:"How many pieces are on the quay; no more than 300 of them are listed"`
}

// PlaceView is a place on the drawing.
type PlaceView struct {
	PlaceRef
	LeavesBy float64 `json:"leaves_hull_by_m" doc:"How far it stands out of the hull; 0 inside"`
	Leaves   string  `json:"leaves_hull,omitempty" doc:"Where, such as: through the side"`
}

// PostView is a post on the drawing.
type PostView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	PostInput
}

// Bench is the stowing bench: the boat, what may go aboard, and how she sits.
type Bench struct {
	ID      uuid.UUID    `json:"id" format:"uuid"`
	Version int          `json:"version"`
	Name    string       `json:"name"`
	Water   float64      `json:"water_density_kg_m3"`
	Plate   Plate        `json:"plate"`
	Limits  Limits       `json:"limits"`
	Lines   hull.Lines   `json:"lines"`
	Floods  []FloodInput `json:"flood_points"`
	Places  []PlaceView  `json:"places"`
	Posts   []PostView   `json:"posts"`
	Gear    []GearView   `json:"gear"`
	Members []MemberView `json:"members"`
	State   State        `json:"state"`
}

// Bench gives the stowing bench of a boat.
func (a *App) Bench(ctx context.Context, actor Actor, boat uuid.UUID) (Bench, error) {
	var b Bench
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		s, err := a.snapshot(tx, actor, boat)
		if err != nil {
			return err
		}
		b = s.bench()
		b.State, err = s.state(tx, actor)
		return err
	})
	return b, err
}

func (s *snapshot) bench() Bench {
	in := s.craft.input
	b := Bench{ID: s.boat.ID, Version: s.boat.Version, Name: s.boat.Name, Water: in.Water, Plate: in.Plate, Limits: in.Limits,
		Lines: s.craft.lines, Floods: []FloodInput{}, Places: []PlaceView{}, Posts: []PostView{}, Gear: []GearView{}, Members: []MemberView{}}
	for _, p := range s.craft.hull.FloodPoints {
		b.Floods = append(b.Floods, FloodInput{p.Name, vec(p.At), p.Space})
	}
	for _, p := range s.places {
		v := PlaceView{PlaceRef: PlaceRef{p.ID, p.Version, placeInput(p)}}
		v.LeavesBy, v.Leaves = s.craft.hull.Leaves(r3.Vec{X: p.X, Y: p.Y, Z: p.Z},
			r3.Vec{X: p.X + p.Length, Y: p.Y + p.Breadth, Z: p.Z + p.Height})
		b.Places = append(b.Places, v)
	}
	for _, p := range s.posts {
		b.Posts = append(b.Posts, PostView{p.ID, p.Version, PostInput{p.Name, Vec{p.X, p.Y, p.Z}}})
	}
	for _, g := range s.gear {
		if !s.called[g.ID] {
			b.Gear = append(b.Gear, viewGear(g))
		}
	}
	for _, m := range s.members {
		b.Members = append(b.Members, viewMember(m))
	}
	return b
}

// state is what a move changes, with the figures before the last one.
func (s *snapshot) state(tx *gorm.DB, actor Actor) (State, error) {
	laid := s.lies()
	st := State{Stowage: []Stowed{}, People: []Standing{}, Now: s.figures(laid)}
	others, err := otherBoats(tx, actor, s.boat.ID)
	if err != nil {
		return st, err
	}
	for _, g := range s.gear {
		st.Stowage = append(st.Stowage, s.stowed(g, laid, others))
	}
	if err := tx.Model(&store.Stowage{}).Where("crew_id = ? AND kind = 'quay' AND inside_id IS NULL", actor.Crew).Count(&st.Quay).Error; err != nil {
		return st, fmt.Errorf("counting the quay: %w", err)
	}
	for _, m := range s.members {
		at := s.stations[m.ID]
		one := Standing{MemberID: m.ID, Seated: at.Seated, Version: at.Version}
		if at.BoatID != nil && *at.BoatID == s.boat.ID {
			one.PostID = at.PostID
			cg := vec(body(m, at, *s.post(*at.PostID)).At)
			one.CG = &cg
		} else if at.BoatID != nil {
			one.Boat = others[*at.BoatID]
		}
		st.People = append(st.People, one)
	}
	return st, s.history(tx, actor, laid, &st)
}

func (s *snapshot) stowed(g store.Gear, laid map[uuid.UUID][]stow.Laid, others map[uuid.UUID]string) Stowed {
	at := s.stowage[g.ID]
	kg, _ := s.weight(g)
	one := Stowed{GearID: g.ID, Kind: at.Kind, Inside: at.InsideID, HeldBy: at.HeldBy, Kg: kg, Version: at.Version, Laid: []Laid{}}
	if at.BoatID == nil {
		return one
	}
	if *at.BoatID != s.boat.ID {
		one.Boat = others[*at.BoatID]
		return one
	}
	one.PlaceID, one.ByHand = at.PlaceID, len(at.Laid) > 0
	p := s.place(*at.PlaceID)
	layers := stow.Layers(laid[p.ID])
	for _, i := range s.ofGear(laid[p.ID], g.ID) {
		l := laid[p.ID][i]
		one.Laid = append(one.Laid, Laid{Corner: Vec{p.X + l.At.X, p.Y + l.At.Y, p.Z + l.At.Z}, Size: vec(l.Size), Layer: layers[i], Rod: rodView(*p, l)})
	}
	return one
}

func otherBoats(tx *gorm.DB, actor Actor, but uuid.UUID) (map[uuid.UUID]string, error) {
	var boats []store.Boat
	if err := tx.Select("id", "name").Where("crew_id = ? AND id <> ?", actor.Crew, but).Find(&boats).Error; err != nil {
		return nil, fmt.Errorf("naming the other boats: %w", err)
	}
	names := map[uuid.UUID]string{}
	for _, b := range boats {
		names[b.ID] = b.Name
	}
	return names, nil
}

// history fills in the last move, the figures before it, and what the actor
// may undo and redo.
func (s *snapshot) history(tx *gorm.DB, actor Actor, laid map[uuid.UUID][]stow.Laid, st *State) error {
	var last []store.Event
	if err := tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, s.boat.ID).Order("seq DESC").Limit(1).Find(&last).Error; err != nil {
		return fmt.Errorf("reading the last move: %w", err)
	}
	var states []string
	err := tx.Model(&store.Event{}).Distinct("state").Where("crew_id = ? AND boat_id = ? AND by_member = ? AND state IN ('done', 'undone')",
		actor.Crew, s.boat.ID, actor.Member).Find(&states).Error
	if err != nil {
		return fmt.Errorf("reading what may be undone: %w", err)
	}
	st.CanUndo, st.CanRedo = slices.Contains(states, "done"), slices.Contains(states, "undone")
	if len(last) == 0 {
		return nil
	}
	e := last[0]
	if err := s.call(tx, actor, e.GearID); err != nil {
		return err
	}
	st.Last = &LastMove{At: e.At, What: s.what(e)}
	if m := s.member(e.ByMember); m != nil {
		st.Last.By = m.Name
	}
	if s.whereabouts(e).same(e.Became) { // nobody moved it on from another boat
		earlier := s.moved(e, e.Was)
		before := earlier.figures(earlier.relaid(laid, e))
		st.Before = &before
	}
	return nil
}

// what says an event in words.
func (s *snapshot) what(e store.Event) string {
	subject, to := "a thing", "the quay"
	if e.GearID != nil {
		if g := s.thing(*e.GearID); g != nil {
			subject = g.Name
		}
		switch e.Became.Kind {
		case "shed":
			to = "the shed"
		case "person":
			to = "someone"
			if m := s.member(*e.Became.HeldBy); m != nil {
				to = m.Name
			}
		}
		if e.Became.PlaceID != nil {
			to = "another boat"
			if p := s.place(*e.Became.PlaceID); p != nil {
				to = p.Name
			}
		}
	} else if m := s.member(*e.MemberID); m != nil {
		subject, to = m.Name, "ashore"
		if e.Became.PostID != nil {
			to = "another boat"
			if p := s.post(*e.Became.PostID); p != nil {
				to = p.Name
			}
		}
	}
	verb := map[string]string{"move": "", "undo": "undid: ", "redo": "did again: "}[e.Kind]
	return strings.TrimSpace(verb + subject + " → " + to)
}
