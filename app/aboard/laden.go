// Package aboard is a boat with all that is in her, and what the rules say of it:
// what goes in where and why not, what she weighs, how she floats with it, how
// long a hand takes. It knows rows (store/model) and engines (core), and no
// database: who loads and saves is package where.
package aboard

import (
	"cmp"
	"maps"
	"slices"

	"ergasia/core/float"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/core/units"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Laden is a boat with everything and everyone that may be aboard, as one
// transaction saw it: the gear aboard of her, what her people wear or carry, and
// what is on the quay. Moves are tried on it before they are made.
//
// It works things out when they are first asked for, and remembers them: she is
// laid and floated once. A change makes another Laden (Moved, Branch); only Add
// adds to one. It is not for use by several goroutines.
type Laden struct {
	Units    units.System // of who looks
	Boat     model.Boat
	Craft    *Craft
	Places   []model.Place
	Posts    []model.Post
	Members  []model.Member
	Table    reach.Table                 // how long things take in this crew
	Gear     []model.Gear                // by name
	Stowage  map[uuid.UUID]model.Stowage // by gear
	Stations map[uuid.UUID]model.Station // by member
	Caught   []float.Mass                // fish that came aboard today

	// Stop says that the request's time is up: laying then gives up, and what is asked
	// of the boat from then on says nothing. Nil is never.
	Stop func() bool

	called map[uuid.UUID]bool         // gear that was asked for by id, wherever it is
	holds  map[uuid.UUID][]model.Gear // by container: what lies in it
	still  []uuid.UUID                // gear whose layout is to be kept as it is; see holdStill
	memo   memo
}

// memo is what was worked out already.
type memo struct {
	lies    map[uuid.UUID][]Lying // by place
	ledger  *Ledger
	solved  *Solved
	rummage *Rummaged
}

// Ashore is a Laden of no boat, for moves that no boat is in.
func Ashore(system units.System) *Laden {
	return &Laden{Table: reach.DefaultTable(), Units: system, Stowage: map[uuid.UUID]model.Stowage{},
		Stations: map[uuid.UUID]model.Station{}, called: map[uuid.UUID]bool{}}
}

// Add takes in gear and where it is.
func (s *Laden) Add(gear []model.Gear, stowage []model.Stowage) {
	for _, row := range stowage {
		s.Stowage[row.GearID] = row
	}
	s.Gear = append(s.Gear, gear...)
	slices.SortFunc(s.Gear, byName)
	s.fill()
}

// Replace is Add of pieces that may be known already, as other rows.
func (s *Laden) Replace(gear []model.Gear, stowage []model.Stowage) {
	anew := make(map[uuid.UUID]bool, len(gear))
	for _, g := range gear {
		anew[g.ID] = true
	}
	s.Gear = slices.DeleteFunc(s.Gear, func(o model.Gear) bool { return anew[o.ID] })
	s.Add(gear, stowage)
}

func byName(a, b model.Gear) int {
	return cmp.Or(cmp.Compare(a.Name, b.Name), slices.Compare(a.ID[:], b.ID[:]))
}

// Call notes that gear was asked for by id: it is not of the boat by that.
func (s *Laden) Call(id uuid.UUID) { s.called[id] = true }

// Take notes that gear which was asked for by id is to come aboard.
func (s *Laden) Take(id uuid.UUID) { delete(s.called, id) }

// Called says whether gear is known only since it was asked for by id.
func (s *Laden) Called(id uuid.UUID) bool { return s.called[id] }

// fill says anew what each container holds, and forgets what was worked out.
func (s *Laden) fill() {
	s.memo = memo{}
	s.holds = map[uuid.UUID][]model.Gear{}
	for _, g := range s.Gear {
		if in := s.Stowage[g.ID].InsideID; in != nil {
			s.holds[*in] = append(s.holds[*in], g)
		}
	}
}

// Branch is a copy in which things may be carried elsewhere.
func (s *Laden) Branch() *Laden {
	c := *s
	c.memo = memo{}
	c.Stowage, c.still = maps.Clone(s.Stowage), nil
	return &c
}

// Unmanned is a copy with nobody aboard.
func (s *Laden) Unmanned() *Laden {
	c := *s
	c.memo = memo{lies: s.memo.lies}
	c.Stations = map[uuid.UUID]model.Station{}
	return &c
}

// Place finds a place by id, or nil.
func (s *Laden) Place(id uuid.UUID) *model.Place {
	return First(s.Places, func(p model.Place) bool { return p.ID == id })
}

// Level says how high a place stands, against the sole: the lowest post's.
func (s *Laden) Level(p model.Place) string {
	sole := p.Z // without posts nothing is known of it
	for i, post := range s.Posts {
		if i == 0 || post.Z < sole {
			sole = post.Z
		}
	}
	return stow.LevelOf(p.Z, p.Z+p.Height, sole, !slices.Contains([]string{"", "none", "soft"}, p.Lid))
}

// Post finds a post by id, or nil.
func (s *Laden) Post(id uuid.UUID) *model.Post {
	return First(s.Posts, func(p model.Post) bool { return p.ID == id })
}

// Thing finds gear by id, or nil.
func (s *Laden) Thing(id uuid.UUID) *model.Gear {
	return First(s.Gear, func(g model.Gear) bool { return g.ID == id })
}

// Member finds a person by id, or nil.
func (s *Laden) Member(id uuid.UUID) *model.Member {
	return First(s.Members, func(m model.Member) bool { return m.ID == id })
}

// First is the first of a list that meets the condition, or nil.
func First[T any](list []T, is func(T) bool) *T {
	if i := slices.IndexFunc(list, is); i >= 0 {
		return &list[i]
	}
	return nil
}

// Holds is what lies in a container.
func (s *Laden) Holds(box uuid.UUID) []model.Gear { return s.holds[box] }

// LieIn lists what lies in a place itself, not in a box there.
func (s *Laden) LieIn(place uuid.UUID) (list []model.Gear) {
	for _, g := range s.Gear {
		if at := s.Stowage[g.ID]; at.PlaceID != nil && *at.PlaceID == place && at.InsideID == nil {
			list = append(list, g)
		}
	}
	return list
}

// PlaceOf is the place aboard that a thing lies in itself, not in a box; or nil.
func (s *Laden) PlaceOf(gear uuid.UUID) *model.Place {
	at := s.Stowage[gear]
	if at.PlaceID == nil || at.InsideID != nil {
		return nil
	}
	return s.Place(*at.PlaceID)
}
