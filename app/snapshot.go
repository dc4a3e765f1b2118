package app

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"ergasia/core/float"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/core/units"
	"ergasia/store"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
	"gorm.io/gorm"
)

// quayShown is how many pieces on the quay a boat's pages show; more than that
// nobody stows in one go, and a crew may own thousands.
const quayShown = 300

// snapshot is a boat with everything and everyone that may be aboard, as one
// transaction saw it: the gear aboard of her, what her people wear or carry, and
// what is on the quay. Moves are tried on it before they are made.
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
	holds    map[uuid.UUID][]store.Gear  // by container: what lies in it
	table    reach.Table                 // how long things take in this crew
	still    []uuid.UUID                 // gear whose layout is to be kept as it is; see holdStill
	called   map[uuid.UUID]bool          // gear that was asked for by id, wherever it is
}

func (a *App) snapshot(tx *gorm.DB, actor Actor, boat uuid.UUID) (*snapshot, error) {
	s := ashore(actor)
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, boat).Take(&s.boat).Error; err != nil {
		return nil, absent(err, "boat")
	}
	var err error
	if s.craft, err = a.boats.get(s.boat); err != nil {
		return nil, err
	}
	if s.table, _, err = timesOf(tx, actor); err != nil {
		return nil, err
	}
	var stations []store.Station
	var near []uuid.UUID
	for _, q := range []*gorm.DB{
		tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Order("x, y, id").Find(&s.places),
		tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Order("x, y, id").Find(&s.posts),
		tx.Where("crew_id = ?", actor.Crew).Order("created_at, id").Find(&s.members),
		tx.Where("crew_id = ?", actor.Crew).Find(&stations),
		tx.Raw(`SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id = @boat
			UNION ALL SELECT gear_id FROM stowage WHERE crew_id = @crew AND held_by IN (SELECT member_id FROM station WHERE crew_id = @crew AND boat_id = @boat)
			UNION ALL (SELECT gear_id FROM stowage WHERE crew_id = @crew AND kind = 'quay' AND inside_id IS NULL ORDER BY since DESC, gear_id LIMIT @most)`,
			map[string]any{"crew": actor.Crew, "boat": boat, "most": quayShown}).Scan(&near),
	} {
		if q.Error != nil {
			return nil, fmt.Errorf("loading the boat: %w", q.Error)
		}
	}
	for _, r := range stations {
		s.stations[r.MemberID] = r
	}
	return s, s.add(tx, actor, near)
}

// ashore is a snapshot of no boat, for moves that no boat is in.
func ashore(actor Actor) *snapshot {
	return &snapshot{table: reach.DefaultTable(), units: units.SystemNamed(actor.Units), stowage: map[uuid.UUID]store.Stowage{}, stations: map[uuid.UUID]store.Station{},
		called: map[uuid.UUID]bool{}}
}

// call loads gear by id, wherever it is: it may have been asked for, or be what
// an event was about. It is not of the boat by that.
func (s *snapshot) call(tx *gorm.DB, actor Actor, ids ...*uuid.UUID) error {
	var missing []uuid.UUID
	for _, id := range ids {
		if id != nil && s.thing(*id) == nil {
			missing = append(missing, *id)
			s.called[*id] = true
		}
	}
	return s.add(tx, actor, missing)
}

// add loads gear and what it holds.
func (s *snapshot) add(tx *gorm.DB, actor Actor, ids []uuid.UUID) error {
	outer := ids
	for len(ids) > 0 {
		var rows []store.Stowage
		if err := tx.Where("crew_id = ? AND gear_id IN ?", actor.Crew, ids).Find(&rows).Error; err != nil {
			return fmt.Errorf("loading where gear is: %w", err)
		}
		var gear []store.Gear
		if err := tx.Where("crew_id = ? AND id IN ?", actor.Crew, ids).Find(&gear).Error; err != nil {
			return fmt.Errorf("loading gear: %w", err)
		}
		ids = nil
		for _, r := range rows {
			s.stowage[r.GearID] = r
		}
		for _, r := range rows { // what a piece lies in says where it can be
			if r.InsideID != nil && s.stowage[*r.InsideID].GearID == uuid.Nil && !slices.Contains(ids, *r.InsideID) {
				ids = append(ids, *r.InsideID)
				s.called[*r.InsideID] = true
			}
		}
		s.gear = append(s.gear, gear...)
		var containers []uuid.UUID
		for _, g := range gear {
			if g.Container() {
				containers = append(containers, g.ID)
			}
		}
		if len(containers) > 0 {
			var inside []uuid.UUID
			err := tx.Model(&store.Stowage{}).Where("crew_id = ? AND inside_id IN ?", actor.Crew, containers).Pluck("gear_id", &inside).Error
			if err != nil {
				return fmt.Errorf("loading what boxes hold: %w", err)
			}
			for _, id := range inside {
				if _, loaded := s.stowage[id]; !loaded && !slices.Contains(ids, id) {
					ids = append(ids, id)
				}
			}
		}
	}
	if len(outer) > 0 {
		slices.SortFunc(s.gear, byName)
		s.fill()
	}
	return nil
}

func byName(a, b store.Gear) int {
	if a.Name != b.Name {
		return strings.Compare(a.Name, b.Name)
	}
	return strings.Compare(a.ID.String(), b.ID.String())
}

// fill says anew what each container holds.
func (s *snapshot) fill() {
	s.holds = map[uuid.UUID][]store.Gear{}
	for _, g := range s.gear {
		if in := s.stowage[g.ID].InsideID; in != nil {
			s.holds[*in] = append(s.holds[*in], g)
		}
	}
}

func (s *snapshot) place(id uuid.UUID) *store.Place {
	return first(s.places, func(p store.Place) bool { return p.ID == id })
}

func (s *snapshot) post(id uuid.UUID) *store.Post {
	return first(s.posts, func(p store.Post) bool { return p.ID == id })
}

func (s *snapshot) thing(id uuid.UUID) *store.Gear {
	return first(s.gear, func(g store.Gear) bool { return g.ID == id })
}

func (s *snapshot) member(id uuid.UUID) *store.Member {
	return first(s.members, func(m store.Member) bool { return m.ID == id })
}

func first[T any](list []T, is func(T) bool) *T {
	if i := slices.IndexFunc(list, is); i >= 0 {
		return &list[i]
	}
	return nil
}

// in lists the pieces that lie in a place, but for one gear; what is in a
// container lies with it.
func (s *snapshot) in(place, but uuid.UUID) []stow.Piece {
	var there []stow.Piece
	for _, g := range s.lieIn(place) {
		if g.ID != but {
			there = append(there, s.piece(g))
		}
	}
	return there
}

// inBox lists the pieces in a container, but for one gear.
func (s *snapshot) inBox(box, but uuid.UUID) []stow.Piece {
	var there []stow.Piece
	for _, g := range s.holds[box] {
		if g.ID != but {
			there = append(there, s.piece(g))
		}
	}
	return there
}

// weight of a piece, all of it and all that it holds, and its variance.
func (s *snapshot) weight(g store.Gear) (kg, variance float64) {
	kg = g.Kg * float64(g.Count)
	variance = math.Pow(kg*float.KnownSigma[g.MassKnown], 2)
	for _, held := range s.holds[g.ID] {
		k, v := s.weight(held)
		kg, variance = kg+k, variance+v
	}
	return kg, variance
}

// needsDry says whether the piece or anything in it must stay dry; a container
// that keeps dry minds nothing for what it holds.
func (s *snapshot) needsDry(g store.Gear) bool {
	if g.NeedsDry || g.KeepsDry {
		return g.NeedsDry
	}
	return slices.ContainsFunc(s.holds[g.ID], s.needsDry)
}

// piece is what is laid: a container with all that it holds is one, and so is a
// bag of loose things.
func (s *snapshot) piece(g store.Gear) stow.Piece {
	p := piece(g)
	kg, _ := s.weight(g)
	p.NeedsDry = s.needsDry(g)
	p.Kg = kg / float64(max(p.Count, 1))
	for _, u := range s.usedIn(g, 0) { // a box lies as handy as what it holds is wanted
		p.Uses += wanted(u.gear) / float64(max(p.Count, 1))
	}
	return p
}

// laidPlace is a place with what was laid there by hand.
func (s *snapshot) laidPlace(p store.Place) stow.Place {
	q := stowPlace(p)
	for _, g := range s.lieIn(p.ID) {
		for _, b := range s.stowage[g.ID].Laid {
			q.Fixed = append(q.Fixed, stow.Laid{ID: g.ID.String(), At: Vec(b.At).r3(), Size: Vec(b.Size).r3()})
		}
	}
	return q
}

// lies says where each piece in each place lies; a place whose contents have
// no layout (someone measured a thing anew) has none.
func (s *snapshot) lies() map[uuid.UUID][]stow.Laid {
	laid := map[uuid.UUID][]stow.Laid{}
	for _, p := range s.places {
		if there := s.in(p.ID, uuid.Nil); len(there) > 0 {
			laid[p.ID], _ = stow.Lay(s.laidPlace(p), there)
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
			laid[p.ID], _ = stow.Lay(s.laidPlace(*p), s.in(p.ID, uuid.Nil))
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
	for _, g := range append(s.aboard(laid), s.carried()...) {
		m := float.Mass{Name: g.Name, Kg: g.kg, Sigma: g.sigma, At: g.middle}
		l.load.Masses = append(l.load.Masses, m)
		l.gearKg += g.kg
		count("gear", g.kg, m.Sigma)
	}
	return l
}

// gearAboard is gear in its place aboard this boat, with all that it holds.
type gearAboard struct {
	store.Gear
	place  *store.Place // nil where someone wears or carries it
	rides  string
	kg     float64 // of all its pieces and what they hold
	sigma  float64 // kg
	middle r3.Vec
}

// aboard lists the gear aboard, in the order of the gear list. A container
// stands for what it holds.
func (s *snapshot) aboard(laid map[uuid.UUID][]stow.Laid) []gearAboard {
	var list []gearAboard
	for _, g := range s.gear {
		at := s.stowage[g.ID]
		if at.BoatID == nil || *at.BoatID != s.boat.ID || at.InsideID != nil {
			continue
		}
		p := s.place(*at.PlaceID)
		kg, variance := s.weight(g)
		list = append(list, gearAboard{g, p, at.Rides, kg, math.Sqrt(variance), middle(g, *p, laid[p.ID])})
	}
	return list
}

// dressed are the people aboard with what they wear or carry: it walks with them.
func (s *snapshot) dressed() []aboardPerson {
	people := s.people()
	for _, g := range s.carried() {
		for i := range people {
			if people[i].member.ID == *s.stowage[g.ID].HeldBy {
				people[i].body.Kg += g.kg
				people[i].body.Sigma = math.Hypot(people[i].body.Sigma, g.sigma)
			}
		}
	}
	return people
}

// carried lists what people aboard wear or carry: it is where they are.
func (s *snapshot) carried() []gearAboard {
	var list []gearAboard
	for _, p := range s.people() {
		for _, g := range s.gear {
			if at := s.stowage[g.ID]; at.HeldBy != nil && *at.HeldBy == p.member.ID && at.InsideID == nil {
				kg, variance := s.weight(g)
				list = append(list, gearAboard{Gear: g, rides: "boat", kg: kg, sigma: math.Sqrt(variance), middle: p.body.At})
			}
		}
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
