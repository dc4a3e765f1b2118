package app

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/stow"
	"ergasia/core/units"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// snapshot is a boat with everything and everyone that may be aboard, as one
// transaction saw it. Moves are tried on it before they are made.
type snapshot struct {
	units    units.System // of who looks
	boat     store.Boat
	craft    *craft
	places   []store.Place
	posts    []store.Post
	gear     []store.Gear
	members  []store.Member
	stowage  map[uuid.UUID]store.Stowage // by gear
	stations map[uuid.UUID]store.Station // by member
}

func (a *App) snapshot(tx *gorm.DB, actor Actor, boat uuid.UUID) (*snapshot, error) {
	s := &snapshot{units: units.SystemNamed(actor.Units), stowage: map[uuid.UUID]store.Stowage{}, stations: map[uuid.UUID]store.Station{}}
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, boat).Take(&s.boat).Error; err != nil {
		return nil, absent(err, "boat")
	}
	var err error
	if s.craft, err = a.boats.get(s.boat); err != nil {
		return nil, err
	}
	var stowage []store.Stowage
	var stations []store.Station
	for _, q := range []*gorm.DB{
		tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Order("x, y, id").Find(&s.places),
		tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Order("x, y, id").Find(&s.posts),
		tx.Where("crew_id = ?", actor.Crew).Order("name, id").Find(&s.gear),
		tx.Where("crew_id = ?", actor.Crew).Order("created_at, id").Find(&s.members),
		tx.Where("crew_id = ?", actor.Crew).Find(&stowage),
		tx.Where("crew_id = ?", actor.Crew).Find(&stations),
	} {
		if q.Error != nil {
			return nil, fmt.Errorf("loading the boat: %w", q.Error)
		}
	}
	for _, r := range stowage {
		s.stowage[r.GearID] = r
	}
	for _, r := range stations {
		s.stations[r.MemberID] = r
	}
	return s, nil
}

func (s *snapshot) place(id uuid.UUID) *store.Place {
	return find(s.places, func(p store.Place) bool { return p.ID == id })
}

func (s *snapshot) post(id uuid.UUID) *store.Post {
	return find(s.posts, func(p store.Post) bool { return p.ID == id })
}

func (s *snapshot) thing(id uuid.UUID) *store.Gear {
	return find(s.gear, func(g store.Gear) bool { return g.ID == id })
}

func (s *snapshot) member(id uuid.UUID) *store.Member {
	return find(s.members, func(m store.Member) bool { return m.ID == id })
}

func find[T any](list []T, is func(T) bool) *T {
	if i := slices.IndexFunc(list, is); i >= 0 {
		return &list[i]
	}
	return nil
}

// in lists the pieces that lie in a place, but for one gear.
func (s *snapshot) in(place, but uuid.UUID) []stow.Piece {
	var there []stow.Piece
	for _, g := range s.gear {
		if at := s.stowage[g.ID].PlaceID; at != nil && *at == place && g.ID != but {
			there = append(there, piece(g))
		}
	}
	return there
}

// lies says where each piece in each place lies; a place whose contents have
// no layout (someone measured a thing anew) has none.
func (s *snapshot) lies() map[uuid.UUID][]stow.Laid {
	laid := map[uuid.UUID][]stow.Laid{}
	for _, p := range s.places {
		if there := s.in(p.ID, uuid.Nil); len(there) > 0 {
			laid[p.ID], _ = stow.Lay(stowPlace(p), there)
		}
	}
	return laid
}

// relaid is a layout after an event: only the places that it touched are laid anew.
func (s *snapshot) relaid(laid map[uuid.UUID][]stow.Laid, e store.Event) map[uuid.UUID][]stow.Laid {
	laid = maps.Clone(laid)
	for _, id := range []*uuid.UUID{e.Was.PlaceID, e.Became.PlaceID} {
		if id == nil {
			continue
		}
		if p := s.place(*id); p != nil {
			laid[p.ID], _ = stow.Lay(stowPlace(*p), s.in(p.ID, uuid.Nil))
		}
	}
	return laid
}

// ledger is everything aboard as masses, and what the plate counts of it.
type ledger struct {
	load          float.Load
	plateKg       float64
	plateVariance float64 // kg², of plateKg
	gearKg        float64
	persons       int
}

func (s *snapshot) ledger(laid map[uuid.UUID][]stow.Laid) ledger {
	input := s.craft.input
	l := ledger{load: s.craft.ledger()}
	count := func(kind string, kg, sigma float64) {
		if slices.Contains(input.Plate.Includes, kind) {
			l.plateKg += kg
			l.plateVariance += sigma * sigma
		}
	}
	for i, m := range input.Outfit.Masses {
		count(m.Kind, m.Kg, l.load.Masses[i].Sigma)
	}
	for i, t := range input.Outfit.Tanks {
		count(t.Kind, l.load.Tanks[i].Kg(), l.load.Tanks[i].Sigma)
	}
	for _, p := range s.people() {
		l.load.Masses = append(l.load.Masses, p.body)
		l.persons++
		count("persons", p.body.Kg, p.body.Sigma)
	}
	for _, g := range s.aboard(laid) {
		m := float.Mass{Name: g.Name, Kg: g.kg, Sigma: g.kg * float.KnownSigma[g.MassKnown], At: g.middle}
		l.load.Masses = append(l.load.Masses, m)
		l.gearKg += g.kg
		count("gear", g.kg, m.Sigma)
	}
	return l
}

// gearAboard is an entry of the gear list in its place aboard this boat.
type gearAboard struct {
	store.Gear
	place  *store.Place
	rides  string
	kg     float64 // of all its pieces
	middle r3.Vec
}

// aboard lists the gear aboard, in the order of the gear list.
func (s *snapshot) aboard(laid map[uuid.UUID][]stow.Laid) []gearAboard {
	var list []gearAboard
	for _, g := range s.gear {
		at := s.stowage[g.ID]
		if at.BoatID == nil || *at.BoatID != s.boat.ID {
			continue
		}
		p := s.place(*at.PlaceID)
		list = append(list, gearAboard{g, p, at.Rides, g.Kg * float64(g.Count), middle(g, *p, laid[p.ID])})
	}
	return list
}

func body(m store.Member, at store.Station, post store.Post) float.Mass {
	height := float.StandingCG
	if at.Seated {
		height = float.SeatedCG
	}
	return float.Mass{Name: m.Name, Kg: m.Kg, Sigma: m.Kg * math.Hypot(float.BodySigma, float.KnownSigma[m.MassKnown]),
		At: r3.Vec{X: post.X, Y: post.Y, Z: post.Z + height}}
}

// middle is the centre of a thing where it lies, or of its place's floor where
// no layout was found.
func middle(g store.Gear, p store.Place, laid []stow.Laid) r3.Vec {
	corner := r3.Vec{X: p.X, Y: p.Y, Z: p.Z}
	var sum r3.Vec
	n := 0
	for _, l := range laid {
		if l.ID == g.ID.String() {
			sum = r3.Add(sum, l.Centre())
			n++
		}
	}
	if n == 0 {
		return r3.Add(corner, r3.Vec{X: p.Length / 2, Y: p.Breadth / 2, Z: math.Min(p.Height, g.Height) / 2})
	}
	return r3.Add(corner, r3.Scale(1/float64(n), sum))
}

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
}

// AwashView is a space in which the sea stands.
type AwashView struct {
	Space   string  `json:"space"`
	Through string  `json:"through"`
	DepthM  float64 `json:"depth_m"`
}

func (s *snapshot) figures(laid map[uuid.UUID][]stow.Laid) Figures {
	return s.figuresOf(s.ledger(laid))
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
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	Boat    string     `json:"boat,omitempty" doc:"The other boat that it is in"`
	Version int        `json:"version"`
	Laid    []Laid     `json:"laid"`
}

// Laid is how one of a thing lies, in the boat's frame.
type Laid struct {
	Corner Vec `json:"corner_m"`
	Size   Vec `json:"size_m"`
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
		b.Gear = append(b.Gear, viewGear(g))
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
	one := Stowed{GearID: g.ID, Version: at.Version, Laid: []Laid{}}
	if at.BoatID == nil {
		return one
	}
	if *at.BoatID != s.boat.ID {
		one.Boat = others[*at.BoatID]
		return one
	}
	one.PlaceID = at.PlaceID
	p := s.place(*at.PlaceID)
	for _, l := range laid[p.ID] {
		if l.ID == g.ID.String() {
			one.Laid = append(one.Laid, Laid{Vec{p.X + l.At.X, p.Y + l.At.Y, p.Z + l.At.Z}, vec(l.Size)})
		}
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
