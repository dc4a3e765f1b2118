package safety

import (
	"cmp"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/core/carriage"
	"ergasia/core/due"
	"ergasia/core/reach"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Vessel is a boat as rules see her.
func Vessel(s *aboard.Laden) carriage.Boat {
	out := s.Craft.Input.Outfit
	b := carriage.Boat{Length: s.Craft.Hull.Length()}
	b.Propulsion = map[string]string{"inboard": "inboard", "manual": "none"}[out.Propulsion]
	b.Propulsion = cmp.Or(b.Propulsion, "outboard")
	c := out.Carriage
	if c == nil {
		return b
	}
	if c.Electric && b.Propulsion != "none" {
		b.Propulsion = "electric"
	}
	if c.PowerKW > 0 {
		b.Power = &c.PowerKW
	}
	b.Fuel, b.Closed, b.Built = c.Fuel, c.Closed, c.Built
	return b
}

// usualUse is what a trip of a kind is to rules.
var usualUse = map[string]string{"tournament": "event", "guiding": "hire"}

// outing is a trip as rules see it.
func outing(o *days.Outing, crew model.CrewRules) carriage.Trip {
	said := model.TripRules{}
	if o.Trip.Rules != nil {
		said = *o.Trip.Rules
	}
	t := carriage.Trip{
		Country: cmp.Or(said.Country, crew.Country),
		Water:   cmp.Or(said.Water, usualWater(o)),
		Use:     cmp.Or(said.Use, usualUse[o.Trip.Kind], "private"),
		LastDay: kernel.DayOfTime(o.Trip.EndsOn),
	}
	if said.Night != nil {
		t.Night = *said.Night
	} else {
		t.Night = o.ByNight()
	}
	for _, p := range o.People {
		one := carriage.Person{Name: p.Name, Kg: p.Kg, Guest: p.Role == "guest" || p.Role == "child"}
		if p.Guessed {
			one.Kg = 0
		}
		switch {
		case p.Age > 0:
			age := p.Age
			one.Age = &age
		case p.Role == "child":
			age := usualChild
			one.Age = &age
		}
		t.Persons = append(t.Persons, one)
	}
	return t
}

// usualChild is the age of a child whose age nobody said: rules for children hold for it.
const usualChild = 10.0

func usualWater(o *days.Outing) string {
	switch {
	case o.Trip.Kind == "offshore":
		return "offshore"
	case o.Laden != nil && o.Laden.AtSea():
		return "coastal"
	}
	return "inland"
}

// Piece is safety equipment as it lies.
type Piece struct {
	Gear    *model.Gear // nil of what is built in
	Class   string
	Said    bool // else it is taken from its tags
	Seconds *float64
	Place   *uuid.UUID
	Where   string
	At      *model.Vec // the middle of where it is; nil where that is not known
	Aboard  bool       // of the boat, or comes along on the trip
	Item    carriage.Item
}

// Pieces are the boat's safety equipment and what comes along on the trip; carried is what
// people aboard carry.
func Pieces(s *aboard.Laden, comes func(model.Gear) bool) (list []Piece) {
	names := map[uuid.UUID]string{}
	for _, m := range s.Members {
		names[m.ID] = m.Name
	}
	for i := range s.Gear {
		g := &s.Gear[i]
		class, said := aboard.ClassOf(*g)
		at := s.Stowage[g.ID]
		here := at.BoatID != nil && *at.BoatID == s.Boat.ID
		if class == "" || g.Count == 0 || !here && !comes(*g) {
			continue
		}
		p := Piece{Gear: g, Class: class, Said: said, Aboard: true}
		if here {
			p.Place = at.PlaceID
			p.Seconds = secondsTo(s, *g)
		}
		p.Where, p.At = whereOf(s, *g), s.MiddleOf(*g)
		p.Item = itemOf(*g, class, names)
		p.Item.Seconds, p.Item.Where = p.Seconds, p.Where
		for _, box := range s.BoxesOf(*g) {
			if c, _ := aboard.ClassOf(box); c != "" {
				p.Item.Inside = append(p.Item.Inside, c)
			}
		}
		list = append(list, p)
	}
	return append(list, fixed(s)...)
}

// fixed is what is built into the boat.
func fixed(s *aboard.Laden) (list []Piece) {
	c := s.Craft.Input.Outfit.Carriage
	if c == nil {
		return nil
	}
	for _, f := range c.Fixed {
		p := Piece{Class: f.Class, Said: true, Aboard: true, Where: cmp.Or(f.Where, "built in"), At: spotted(s, f.Spot)}
		p.Item = carriage.Item{ID: "fixed " + f.Name, Name: f.Name, Class: f.Class, Count: 1, Where: p.Where}
		if day, err := time.Parse(time.DateOnly, f.Expires); err == nil {
			last := kernel.DayOfTime(day)
			p.Item.Expires = &last
		}
		list = append(list, p)
	}
	return list
}

// itemOf is a piece as rules see it. What is broken is none.
func itemOf(g model.Gear, class string, names map[uuid.UUID]string) carriage.Item {
	it := carriage.Item{ID: g.ID.String(), Name: g.Name, Class: class, Also: g.SafetyAlso, Count: g.Count}
	if g.Condition == "broken" {
		it.Class, it.Also = "broken "+class, nil
	}
	if g.FitsHigh > 0 {
		it.Fits = &[2]float64{g.FitsLow, g.FitsHigh}
	}
	if g.ExpiresOn != nil {
		day := due.Day(kernel.DayOfTime(*g.ExpiresOn))
		it.Expires = &day
	}
	if g.WornBy != nil {
		it.WornBy = names[*g.WornBy]
	}
	return it
}

// whereOf says where a thing lies: the place, and the box it is in.
func whereOf(s *aboard.Laden, g model.Gear) string {
	at := s.Stowage[g.ID]
	said := ""
	if at.PlaceID != nil {
		if p := s.Place(*at.PlaceID); p != nil {
			said = p.Name
		}
	}
	if boxes := s.BoxesOf(g); len(boxes) > 0 {
		if said != "" {
			said = ", " + said
		}
		said = "in " + boxes[0].Name + said
	}
	return said
}

// secondsTo is how long a hand takes to a thing where it really lies: from the post where
// it is used, or on the mean from where people are. Nil where no hand comes, or it has no
// place.
func secondsTo(s *aboard.Laden, g model.Gear) *float64 {
	root, boxes := g, s.BoxesOf(g)
	if len(boxes) > 0 {
		root = boxes[len(boxes)-1]
	}
	at := s.Stowage[root.ID]
	if at.PlaceID == nil || len(s.Posts) == 0 {
		return nil
	}
	f, ok := s.FetchOf(root, *at.PlaceID, g.UsedFrom, len(boxes))
	if !ok {
		return nil
	}
	return &f.Seconds
}

// fromPosts is how long a hand takes to a thing from each post, in the order of posts.
func fromPosts(s *aboard.Laden, g model.Gear) (list []float64) {
	root, boxes := g, s.BoxesOf(g)
	if len(boxes) > 0 {
		root = boxes[len(boxes)-1]
	}
	at := s.Stowage[root.ID]
	for _, p := range s.Posts {
		var f reach.Fetch
		ok := false
		if at.PlaceID != nil {
			f, ok = s.FetchOf(root, *at.PlaceID, p.Name, len(boxes))
		}
		if !ok {
			f.Seconds = -1
		}
		list = append(list, f.Seconds)
	}
	return list
}
