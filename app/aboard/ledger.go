package aboard

import (
	"cmp"
	"math"
	"slices"

	"ergasia/core/float"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// Ledger is everything aboard as masses, and what the plate counts of it.
type Ledger struct {
	Load          float.Load
	PlateKg       float64
	PlateVariance float64 // kg², of PlateKg
	GearKg        float64
	Persons       int
}

// Ledger adds up what is aboard. What is appended to its load is the caller's own.
func (s *Laden) Ledger() Ledger {
	if s.memo.ledger == nil {
		l := s.addUp()
		s.memo.ledger = &l
	}
	l := *s.memo.ledger
	l.Load.Masses, l.Load.Tanks = slices.Clip(l.Load.Masses), slices.Clip(l.Load.Tanks)
	return l
}

func (s *Laden) addUp() Ledger {
	input := s.Craft.Input
	l := Ledger{Load: s.Craft.Ledger()}
	count := func(kind string, kg, sigma float64) {
		if slices.Contains(input.Plate.Includes, kind) {
			l.PlateKg += kg
			l.PlateVariance += sigma * sigma
		}
	}
	kinds := map[string]string{}
	for i, m := range input.Outfit.Masses {
		kinds[m.Name] = m.Kind
		count(m.Kind, l.Load.Masses[i].Kg, l.Load.Masses[i].Sigma)
	}
	for i, f := range s.Craft.Rigging { // a fitting counts as what it was counted in
		kind := cmp.Or(kinds[f.PartOf], map[string]string{"bow-motor": "motor"}[f.Kind], "fitting")
		count(kind, f.Kg, l.Load.Masses[len(input.Outfit.Masses)+i].Sigma)
	}
	for i, t := range input.Outfit.Tanks {
		count(t.Kind, l.Load.Tanks[i].Kg(), l.Load.Tanks[i].Sigma)
	}
	for _, p := range s.People() {
		l.Load.Masses = append(l.Load.Masses, p.Body)
		l.Persons++
		count("persons", p.Body.Kg, p.Body.Sigma)
	}
	for _, g := range append(s.Aboard(), s.Carried()...) {
		l.Load.Masses = append(l.Load.Masses, g.Mass)
		l.GearKg += g.Mass.Kg
		count("gear", g.Mass.Kg, g.Mass.Sigma)
	}
	for _, m := range s.Caught {
		l.Load.Masses = append(l.Load.Masses, m)
		count("gear", m.Kg, m.Sigma)
	}
	return l
}

// GearAboard is gear in its place aboard this boat. Its mass is of all its pieces
// and of what they hold, where they lie.
type GearAboard struct {
	model.Gear
	Place *model.Place // nil where someone wears or carries it
	Rides string
	Mass  float.Mass
}

// Aboard lists the gear aboard, in the order of the gear list. A container
// stands for what it holds.
func (s *Laden) Aboard() []GearAboard {
	var list []GearAboard
	for _, g := range s.Gear {
		at := s.Stowage[g.ID]
		if at.BoatID == nil || *at.BoatID != s.Boat.ID || at.InsideID != nil {
			continue
		}
		p := s.Place(*at.PlaceID)
		if p == nil {
			continue // what was a place of hers is gone, and with it what it held
		}
		list = append(list, GearAboard{Gear: g, Place: p, Rides: at.Rides, Mass: s.mass(g, middle(g, *p, s.LiesIn(p.ID)))})
	}
	return list
}

// Carried lists what people aboard wear or carry: it is where they are.
func (s *Laden) Carried() []GearAboard {
	var list []GearAboard
	for _, p := range s.People() {
		for _, g := range s.Gear {
			if at := s.Stowage[g.ID]; at.HeldBy != nil && *at.HeldBy == p.Member.ID && at.InsideID == nil {
				list = append(list, GearAboard{Gear: g, Rides: "boat", Mass: s.mass(g, p.Body.At)})
			}
		}
	}
	return list
}

func (s *Laden) mass(g model.Gear, at r3.Vec) float.Mass {
	kg, variance := s.Weight(g)
	return float.Mass{Name: g.Name, Kg: kg, Sigma: math.Sqrt(variance), At: at}
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

// middle is the centre of a thing where it lies, or of its place's floor where
// no layout was found.
func middle(g model.Gear, p model.Place, lies []Lying) r3.Vec {
	corner := r3.Vec{X: p.X, Y: p.Y, Z: p.Z}
	var sum r3.Vec
	n := 0
	for _, l := range lies {
		if l.Gear == g.ID {
			sum = r3.Add(sum, l.Centre())
			n++
		}
	}
	if n == 0 {
		return r3.Add(corner, r3.Vec{X: p.Length / 2, Y: p.Breadth / 2, Z: math.Min(p.Height, g.Height) / 2})
	}
	return r3.Add(corner, r3.Scale(1/float64(n), sum))
}

// Person is someone at a post.
type Person struct {
	Member model.Member
	At     model.Station
	Post   model.Post
	Body   float.Mass
}

// People aboard, in the order of the crew's list.
func (s *Laden) People() []Person {
	var list []Person
	for _, m := range s.Members {
		at := s.Stations[m.ID]
		if at.BoatID != nil && *at.BoatID == s.Boat.ID {
			if post := s.Post(*at.PostID); post != nil {
				list = append(list, Person{Member: m, At: at, Post: *post, Body: Body(m, at, *post)})
			}
		}
	}
	return list
}

// Dressed are the people aboard with what they wear or carry: it walks with them.
func (s *Laden) Dressed() []Person {
	people := s.People()
	at := map[uuid.UUID]*Person{}
	for i := range people {
		at[people[i].Member.ID] = &people[i]
	}
	for _, g := range s.Carried() {
		who := at[*s.Stowage[g.ID].HeldBy]
		if who == nil {
			continue
		}
		body := &who.Body
		body.Kg, body.Sigma = body.Kg+g.Mass.Kg, math.Hypot(body.Sigma, g.Mass.Sigma)
	}
	return people
}

// Body is a person's mass at a post.
func Body(m model.Member, at model.Station, post model.Post) float.Mass {
	height := float.StandingCG
	if at.Seated {
		height = float.SeatedCG
	}
	return float.Mass{Name: m.Name, Kg: m.Kg, Sigma: m.Kg * math.Hypot(float.BodySigma, float.KnownSigma[m.MassKnown]),
		At: r3.Vec{X: post.X, Y: post.Y, Z: post.Z + height}}
}
