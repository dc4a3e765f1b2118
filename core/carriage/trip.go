package carriage

import (
	"fmt"
	"slices"
	"strings"

	"ergasia/core/due"
	"ergasia/core/words"
)

// Boat is what rules ask of a boat. What is not known is nil, nought or empty; a rule that
// hangs on it is asked then, to be safe.
type Boat struct {
	Length     float64 // metres
	Propulsion string
	Power      *float64 // kilowatts
	Fuel       string
	Closed     *bool // spaces where vapour can gather, or a built-in tank
	Built      int   // year
}

// Person is somebody aboard. Kg of nought and an age of nil are not known.
type Person struct {
	Name  string
	Kg    float64
	Age   *float64
	Guest bool
}

// child is under what age somebody is one. 33 CFR 175.15(c), from memory.
const child = 13

func (p Person) child() bool { return p.Age != nil && *p.Age < child }

// body is the mass that a jacket is fitted to; a child's that nobody weighed is
// guessed from the age: 2 × (age + 4), a rule of first aid for children, from memory.
func (p Person) body() float64 {
	if p.Kg == 0 && p.child() {
		return 2 * (*p.Age + 4)
	}
	return p.Kg
}

// Trip is where, when and with whom.
type Trip struct {
	Country string // two letters; empty is not said
	Water   string // inland, coastal or offshore
	Night   bool
	LastDay due.Day
	Use     string // private, hire or event
	Persons []Person
}

// Item is something aboard, or Count alike.
type Item struct {
	ID, Name, Class string
	Also            []string // what it serves as instead
	Count           int
	Fits            *[2]float64 // body masses, kg
	Expires         *due.Day    // last good day
	Seconds         *float64    // until it is in a hand
	Where           string      // in words
	WornBy          string      // a person's name
	Inside          []string    // classes of the boxes that it lies in
}

// facts are a boat and a trip as conditions are held against them.
type facts struct {
	Boat
	Trip
}

// applies says whether a rule is asked; else why not. What nobody said is told.
func (w When) applies(f facts) (why string, unsaid []string) {
	number := func(r *Range, v float64, said bool, what, why string) string {
		switch {
		case r == nil:
		case !said:
			unsaid = append(unsaid, what)
		case !r.has(v):
			return why
		}
		return ""
	}
	power, closed := 0.0, false
	if f.Power != nil {
		power = *f.Power
	}
	if f.Closed != nil {
		closed = *f.Closed
	}
	is := func(want *bool, v, said bool, what, no string) string {
		switch {
		case want == nil:
		case !said:
			unsaid = append(unsaid, what)
		case *want != v:
			return no
		}
		return ""
	}
	among := func(list []string, v, what, why string) string {
		switch {
		case len(list) == 0:
		case v == "":
			unsaid = append(unsaid, what)
		case !slices.Contains(list, v):
			return why
		}
		return ""
	}
	guests := slices.ContainsFunc(f.Persons, func(p Person) bool { return p.Guest || p.child() })
	for _, no := range []string{
		among(w.Country, f.Country, "the country", "the rule is of another country"),
		number(w.Length, f.Length, f.Length > 0, "her length", fmt.Sprintf("she is %.1f m long", f.Length)),
		among(w.Propulsion, f.Propulsion, "her propulsion", "she is driven by: "+words.CarriagePropulsion.Label(f.Propulsion)),
		number(w.Power, power, f.Power != nil, "the power of her motor", fmt.Sprintf("her motor has %.1f kW", power)),
		among(w.Fuel, f.Fuel, "her fuel", "her fuel is "+words.CarriageFuels.Label(f.Fuel)),
		is(w.Closed, closed, f.Closed != nil, "whether she has closed spaces", closedSaid(closed)),
		number(w.Built, float64(f.Built), f.Built > 0, "the year she was built", fmt.Sprintf("she was built in %d", f.Built)),
		among(w.Water, f.Water, "the water", "the water is "+words.CarriageWaters.Label(f.Water)),
		among(w.Use, f.Use, "the use", "the trip is "+words.CarriageUses.Label(f.Use)),
		is(w.Night, f.Night, true, "", nightSaid(f.Night)),
		is(w.Guests, guests, true, "", "nobody aboard is a guest or a child"),
		number(w.Persons, float64(len(f.Persons)), true, "", fmt.Sprintf("%d are aboard", len(f.Persons))),
		w.aged(f.Persons),
	} {
		if no != "" {
			return no, nil
		}
	}
	return "", unsaid
}

func closedSaid(closed bool) string {
	if closed {
		return "she has closed spaces"
	}
	return "she has no closed space where vapour gathers"
}

func nightSaid(night bool) string {
	if night {
		return "some of it is by night"
	}
	return "all of it is by day"
}

func (w When) aged(persons []Person) string {
	if w.Ages == nil || slices.ContainsFunc(persons, func(p Person) bool { return p.Age != nil && w.Ages.has(*p.Age) }) {
		return ""
	}
	return "nobody aboard is " + strings.TrimSpace(w.Ages.ages())
}

// Limit is within how many seconds so many things of some classes are to be in a hand.
type Limit struct {
	Classes []string
	Seconds float64
	Count   int // 0 is one for each person
}

// Limits are the seconds that rules ask of a boat whatever the trip is: rules that hang on
// water, use, night or people are left out.
func Limits(rules []Held, b Boat, country string) (list []Limit) {
	f := facts{Boat: b, Trip: Trip{Country: country}}
	for _, r := range rules {
		w := r.When
		if len(w.Water)+len(w.Use) > 0 || w.Night != nil || w.Guests != nil || w.Persons != nil || w.Ages != nil {
			continue
		}
		if no, _ := w.applies(f); no != "" {
			continue
		}
		for _, l := range r.Need {
			if l.Within == 0 {
				continue
			}
			one := Limit{Classes: l.Class, Seconds: l.Within, Count: max(l.Count, 1)}
			if l.perPerson() {
				one.Count = 0
			}
			list = append(list, one)
		}
	}
	return list
}
