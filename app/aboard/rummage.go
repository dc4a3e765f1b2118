package aboard

import (
	"encoding/binary"
	"hash/fnv"
	"math"
	"slices"

	"ergasia/core/reach"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// Decks is the boat as people walk on her, and the ways from every post to
// every place.
type Decks struct {
	Boat reach.Boat
	Ways [][]reach.Way
}

// decksKept is how many ways over a boat are remembered: they change with her
// places and with who stands where, not with gear.
const decksKept = 32

// Decks of the snapshot, from memory where nothing that matters changed.
func (s *Laden) Decks() *Decks {
	h := fnv.New64a()
	_, _ = h.Write(s.Boat.ID[:])
	number := func(v float64) { _ = binary.Write(h, binary.LittleEndian, v) }
	number(float64(s.Boat.Version))
	_ = binary.Write(h, binary.LittleEndian, s.Table)
	for _, p := range s.Places {
		_, _ = h.Write(p.ID[:])
		number(float64(p.Version))
	}
	manned := map[uuid.UUID]bool{}
	for _, at := range s.Stations {
		if at.PostID != nil && at.BoatID != nil && *at.BoatID == s.Boat.ID {
			manned[*at.PostID] = true
		}
	}
	for _, p := range s.Posts {
		_, _ = h.Write(p.ID[:])
		number(float64(p.Version))
		if manned[p.ID] {
			number(1)
		}
	}
	d, _ := s.Craft.decks.get(h.Sum64(), func() (*Decks, error) { return s.walk(manned), nil }) // walking never fails
	return d
}

func (s *Laden) walk(manned map[uuid.UUID]bool) *Decks {
	sheer := s.Craft.Lines.PlanSheer
	b := reach.Boat{Length: sheer[len(sheer)-1][0], HalfBreadth: reach.Sheer(sheer)}
	for _, p := range s.Posts {
		b.Posts = append(b.Posts, reach.Post{Name: p.Name, At: r3.Vec{X: p.X, Y: p.Y, Z: p.Z}, Manned: manned[p.ID]})
	}
	for _, p := range s.Places {
		inside := -1
		if p.ParentID != nil {
			inside = slices.IndexFunc(s.Places, func(o model.Place) bool { return o.ID == *p.ParentID })
		}
		b.Places = append(b.Places, reach.Place{ID: key(p.ID), Name: p.Name, Corner: r3.Vec{X: p.X, Y: p.Y, Z: p.Z},
			Size: r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height}, Opening: r3.Vec{X: p.OpeningLength, Y: p.OpeningBreadth},
			Lid: p.Lid, Latched: p.Latched, Locks: p.Locks, Inside: inside})
	}
	return &Decks{Boat: b, Ways: b.Ways(s.Table)}
}

// postsOf are the posts from which a thing is fetched: the one it is used at, or
// those where people are, alike; all where nobody said.
func (d *Decks) postsOf(usedFrom string, manned []uuid.UUID, posts []model.Post) []int {
	var all, theirs []int
	for i, p := range d.Boat.Posts {
		if p.Name == usedFrom {
			return []int{i}
		}
		if all = append(all, i); len(manned) > 0 && slices.Contains(manned, posts[i].ID) {
			theirs = append(theirs, i)
		}
	}
	if len(theirs) > 0 {
		return theirs
	}
	return all
}

// Fetch is a mean over posts of fetching a thing that lies in a place.
func (d *Decks) Fetch(t reach.Table, usedFrom string, place int, l reach.Lying) (reach.Fetch, bool) {
	return d.fetch(t, d.postsOf(usedFrom, nil, nil), place, l)
}

func (d *Decks) fetch(t reach.Table, posts []int, place int, l reach.Lying) (reach.Fetch, bool) {
	var mean reach.Fetch
	for _, i := range posts {
		w := d.Ways[i][place]
		if !w.Reachable() {
			return mean, false
		}
		f := t.Fetch(w, d.Boat.Places[place], l)
		mean.Seconds += f.Seconds / float64(len(posts))
		mean.Back += f.Back / float64(len(posts))
		mean.Parts = f.Parts
	}
	return mean, len(posts) > 0
}

// FetchOf is fetching out of a thing that lies in a place, so many boxes deep, as it lies
// there now: from the post of a name, or the mean of all.
func (s *Laden) FetchOf(root model.Gear, place uuid.UUID, usedFrom string, boxes int) (reach.Fetch, bool) {
	j := slices.IndexFunc(s.Places, func(p model.Place) bool { return p.ID == place })
	if j < 0 {
		return reach.Fetch{}, false
	}
	d := s.Decks()
	l := s.lying(root, s.Places[j], s.LieIn(place))
	l.Boxes = boxes
	return d.fetch(s.Table, d.postsOf(usedFrom, nil, nil), j, l)
}

// Used is a thing that is fetched, alone or out of the box it lies in.
type Used struct {
	Gear  model.Gear
	Boxes int
}

// UsedIn lists a thing and all that it holds, with how many boxes deep.
func (s *Laden) UsedIn(g model.Gear) []Used { return s.usedIn(g, 0) }

func (s *Laden) usedIn(g model.Gear, boxes int) []Used {
	list := []Used{{Gear: g, Boxes: boxes}}
	for _, held := range s.holds[g.ID] {
		list = append(list, s.usedIn(held, boxes+1)...)
	}
	return list
}

// Rummaged is what all fetching takes, and each thing once.
type Rummaged struct {
	Minutes float64
	Fetch   map[uuid.UUID]reach.Fetch // of things in places
}

// Rummage adds up what fetching everything aboard takes in a day. What no hand
// comes to is not counted: the picture of reach says so.
func (s *Laden) Rummage() Rummaged {
	if s.memo.rummage == nil {
		r := s.addFetching(nil)
		s.memo.rummage = &r
	}
	return *s.memo.rummage
}

// RummageFrom is Rummage with people at these posts all day: what is used at a post of
// its own is fetched from there all the same.
func (s *Laden) RummageFrom(posts []uuid.UUID) float64 { return s.addFetching(posts).Minutes }

func (s *Laden) addFetching(manned []uuid.UUID) Rummaged {
	r := Rummaged{Fetch: map[uuid.UUID]reach.Fetch{}}
	if len(s.Posts) == 0 || len(s.Places) == 0 {
		return r
	}
	d := s.Decks()
	for j, p := range s.Places {
		here := s.LieIn(p.ID)
		for _, g := range here {
			l := s.lying(g, p, here)
			for _, u := range s.UsedIn(g) {
				l.Boxes = u.Boxes
				f, ok := d.fetch(s.Table, d.postsOf(u.Gear.UsedFrom, manned, s.Posts), j, l)
				if !ok {
					continue
				}
				r.Minutes += u.Gear.UsesPerDay * f.Use(u.Gear.Brought) / 60
				if u.Boxes == 0 {
					r.Fetch[g.ID] = f
				}
			}
		}
	}
	return r
}

// lying says how one thing lies among those of its place: the first of several
// alike that is free, as a hand would take it.
func (s *Laden) lying(g model.Gear, p model.Place, here []model.Gear) reach.Lying {
	l := reach.Lying{HandZ: p.Z + p.Height/2, Others: len(here) - 1}
	fewest := math.MaxInt
	lies := s.LiesIn(p.ID)
	for _, one := range lies {
		if one.Gear != g.ID {
			continue
		}
		over := []float64{}
		for _, o := range lies {
			if o.Gear != one.Gear && o.Over(one.Laid) {
				top := s.Thing(o.Gear)
				kg, _ := s.Weight(*top)
				over = append(over, kg/float64(max(top.Count, 1)))
			}
		}
		if len(over) < fewest {
			fewest = len(over)
			l.Over, l.HandZ = over, p.Z+one.At.Z+one.Size.Z/2
		}
	}
	return l
}
