package aboard

import (
	"maps"
	"math"
	"slices"
	"strings"

	"ergasia/core/float"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/core/units"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// Laden is a boat with everything and everyone that may be aboard, as one
// transaction saw it: the gear aboard of her, what her people wear or carry, and
// what is on the quay. Moves are tried on it before they are made.
type Laden struct {
	Units    units.System // of who looks
	Boat     model.Boat
	Craft    *Craft
	Places   []model.Place
	Posts    []model.Post
	Gear     []model.Gear
	Members  []model.Member
	Stowage  map[uuid.UUID]model.Stowage // by gear
	Stations map[uuid.UUID]model.Station // by member
	holds    map[uuid.UUID][]model.Gear  // by container: what lies in it
	Table    reach.Table                 // how long things take in this crew
	Still    []uuid.UUID                 // gear whose layout is to be kept as it is; see holdStill
	Called   map[uuid.UUID]bool          // gear that was asked for by id, wherever it is
}

// Ashore is a snapshot of no boat, for moves that no boat is in.
func Ashore(system units.System) *Laden {
	return &Laden{Table: reach.DefaultTable(), Units: system, Stowage: map[uuid.UUID]model.Stowage{}, Stations: map[uuid.UUID]model.Station{},
		Called: map[uuid.UUID]bool{}}
}

func ByName(a, b model.Gear) int {
	if a.Name != b.Name {
		return strings.Compare(a.Name, b.Name)
	}
	return strings.Compare(a.ID.String(), b.ID.String())
}

// Fill says anew what each container holds.
func (s *Laden) Fill() {
	s.holds = map[uuid.UUID][]model.Gear{}
	for _, g := range s.Gear {
		if in := s.Stowage[g.ID].InsideID; in != nil {
			s.holds[*in] = append(s.holds[*in], g)
		}
	}
}

func (s *Laden) Place(id uuid.UUID) *model.Place {
	return First(s.Places, func(p model.Place) bool { return p.ID == id })
}

func (s *Laden) Post(id uuid.UUID) *model.Post {
	return First(s.Posts, func(p model.Post) bool { return p.ID == id })
}

func (s *Laden) Thing(id uuid.UUID) *model.Gear {
	return First(s.Gear, func(g model.Gear) bool { return g.ID == id })
}

func (s *Laden) Member(id uuid.UUID) *model.Member {
	return First(s.Members, func(m model.Member) bool { return m.ID == id })
}

func First[T any](list []T, is func(T) bool) *T {
	if i := slices.IndexFunc(list, is); i >= 0 {
		return &list[i]
	}
	return nil
}

// In lists the pieces that lie in a place, but for one gear; what is in a
// container lies with it.
func (s *Laden) In(place, but uuid.UUID) []stow.Piece {
	var there []stow.Piece
	for _, g := range s.LieIn(place) {
		if g.ID != but {
			there = append(there, s.Piece(g))
		}
	}
	return there
}

// InBox lists the pieces in a container, but for one gear.
func (s *Laden) InBox(box, but uuid.UUID) []stow.Piece {
	var there []stow.Piece
	for _, g := range s.holds[box] {
		if g.ID != but {
			there = append(there, s.Piece(g))
		}
	}
	return there
}

// Weight of a piece, all of it and all that it holds, and its variance.
func (s *Laden) Weight(g model.Gear) (kg, variance float64) {
	kg = g.Kg * float64(g.Count)
	variance = math.Pow(kg*float.KnownSigma[g.MassKnown], 2)
	for _, held := range s.holds[g.ID] {
		k, v := s.Weight(held)
		kg, variance = kg+k, variance+v
	}
	return kg, variance
}

// needsDry says whether the piece or anything in it must stay dry; a container
// that keeps dry minds nothing for what it holds.
func (s *Laden) needsDry(g model.Gear) bool {
	if g.NeedsDry || g.KeepsDry {
		return g.NeedsDry
	}
	return slices.ContainsFunc(s.holds[g.ID], s.needsDry)
}

// Piece is what is laid: a container with all that it holds is one, and so is a
// bag of loose things.
func (s *Laden) Piece(g model.Gear) stow.Piece {
	p := PieceOf(g)
	kg, _ := s.Weight(g)
	p.NeedsDry = s.needsDry(g)
	p.Kg = kg / float64(max(p.Count, 1))
	for _, u := range s.UsedIn(g, 0) { // a box lies as handy as what it holds is wanted
		p.Uses += Wanted(u.Gear) / float64(max(p.Count, 1))
	}
	return p
}

// LaidPlace is a place with what was laid there by hand.
func (s *Laden) LaidPlace(p model.Place) stow.Place {
	q := StowPlace(p)
	for _, g := range s.LieIn(p.ID) {
		for _, b := range s.Stowage[g.ID].Laid {
			q.Fixed = append(q.Fixed, stow.Laid{ID: g.ID.String(), At: model.Vec(b.At).R3(), Size: model.Vec(b.Size).R3()})
		}
	}
	return q
}

// Lies says where each piece in each place lies; a place whose contents have
// no layout (someone measured a thing anew) has none.
func (s *Laden) Lies() map[uuid.UUID][]stow.Laid {
	laid := map[uuid.UUID][]stow.Laid{}
	for _, p := range s.Places {
		if there := s.In(p.ID, uuid.Nil); len(there) > 0 {
			laid[p.ID], _ = stow.Lay(s.LaidPlace(p), there)
		}
	}
	return laid
}

// Relaid is a layout after an event: only the places that it touched are laid anew.
func (s *Laden) Relaid(laid map[uuid.UUID][]stow.Laid, e model.Event) map[uuid.UUID][]stow.Laid {
	laid = maps.Clone(laid)
	for _, id := range []*uuid.UUID{e.Was.PlaceID, e.Became.PlaceID} {
		if id == nil {
			continue
		}
		if p := s.Place(*id); p != nil {
			laid[p.ID], _ = stow.Lay(s.LaidPlace(*p), s.In(p.ID, uuid.Nil))
		}
	}
	return laid
}

// Ledger is everything aboard as masses, and what the plate counts of it.
type Ledger struct {
	Load          float.Load
	PlateKg       float64
	PlateVariance float64 // kg², of plateKg
	gearKg        float64
	persons       int
}

func (s *Laden) Ledger(laid map[uuid.UUID][]stow.Laid) Ledger {
	input := s.Craft.Input
	l := Ledger{Load: s.Craft.Ledger()}
	count := func(kind string, kg, sigma float64) {
		if slices.Contains(input.Plate.Includes, kind) {
			l.PlateKg += kg
			l.PlateVariance += sigma * sigma
		}
	}
	for i, m := range input.Outfit.Masses {
		count(m.Kind, m.Kg, l.Load.Masses[i].Sigma)
	}
	for i, t := range input.Outfit.Tanks {
		count(t.Kind, l.Load.Tanks[i].Kg(), l.Load.Tanks[i].Sigma)
	}
	for _, p := range s.People() {
		l.Load.Masses = append(l.Load.Masses, p.Body)
		l.persons++
		count("persons", p.Body.Kg, p.Body.Sigma)
	}
	for _, g := range append(s.Aboard(laid), s.Carried()...) {
		m := float.Mass{Name: g.Name, Kg: g.Kg, Sigma: g.sigma, At: g.Middle}
		l.Load.Masses = append(l.Load.Masses, m)
		l.gearKg += g.Kg
		count("gear", g.Kg, m.Sigma)
	}
	return l
}

// GearAboard is gear in its place aboard this boat, with all that it holds.
type GearAboard struct {
	model.Gear
	Place  *model.Place // nil where someone wears or carries it
	Rides  string
	Kg     float64 // of all its pieces and what they hold
	sigma  float64 // kg
	Middle r3.Vec
}

// Aboard lists the gear aboard, in the order of the gear list. A container
// stands for what it holds.
func (s *Laden) Aboard(laid map[uuid.UUID][]stow.Laid) []GearAboard {
	var list []GearAboard
	for _, g := range s.Gear {
		at := s.Stowage[g.ID]
		if at.BoatID == nil || *at.BoatID != s.Boat.ID || at.InsideID != nil {
			continue
		}
		p := s.Place(*at.PlaceID)
		kg, variance := s.Weight(g)
		list = append(list, GearAboard{Gear: g, Place: p, Rides: at.Rides, Kg: kg, sigma: math.Sqrt(variance), Middle: middle(g, *p, laid[p.ID])})
	}
	return list
}

// Dressed are the people aboard with what they wear or carry: it walks with them.
func (s *Laden) Dressed() []Person {
	people := s.People()
	for _, g := range s.Carried() {
		for i := range people {
			if people[i].Member.ID == *s.Stowage[g.ID].HeldBy {
				people[i].Body.Kg += g.Kg
				people[i].Body.Sigma = math.Hypot(people[i].Body.Sigma, g.sigma)
			}
		}
	}
	return people
}

// Carried lists what people aboard wear or carry: it is where they are.
func (s *Laden) Carried() []GearAboard {
	var list []GearAboard
	for _, p := range s.People() {
		for _, g := range s.Gear {
			if at := s.Stowage[g.ID]; at.HeldBy != nil && *at.HeldBy == p.Member.ID && at.InsideID == nil {
				kg, variance := s.Weight(g)
				list = append(list, GearAboard{Gear: g, Rides: "boat", Kg: kg, sigma: math.Sqrt(variance), Middle: p.Body.At})
			}
		}
	}
	return list
}

func Body(m model.Member, at model.Station, post model.Post) float.Mass {
	height := float.StandingCG
	if at.Seated {
		height = float.SeatedCG
	}
	return float.Mass{Name: m.Name, Kg: m.Kg, Sigma: m.Kg * math.Hypot(float.BodySigma, float.KnownSigma[m.MassKnown]),
		At: r3.Vec{X: post.X, Y: post.Y, Z: post.Z + height}}
}

// middle is the centre of a thing where it lies, or of its place's floor where
// no layout was found.
func middle(g model.Gear, p model.Place, laid []stow.Laid) r3.Vec {
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
