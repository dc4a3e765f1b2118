package carriage

import (
	"fmt"
	"slices"

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

// holding is a condition after the other held against facts: why it does not hold, or what
// nobody said.
type holding struct {
	why    string
	unsaid []string
}

// judge takes in one condition: whether it is given, whether the fact is known, and whether
// it holds.
func (h *holding) judge(given, known, holds bool, what, why string) {
	switch {
	case !given || h.why != "":
	case !known:
		h.unsaid = append(h.unsaid, what)
	case !holds:
		h.why = why
	}
}

func (h *holding) number(r *Range, v float64, known bool, what, why string) {
	h.judge(r != nil, known, r != nil && r.has(v), what, why)
}

func (h *holding) among(list []string, v, what, why string) {
	h.judge(len(list) > 0, v != "", slices.Contains(list, v), what, why)
}

func (h *holding) is(want *bool, v, known bool, what, why string) {
	h.judge(want != nil, known, want != nil && *want == v, what, why)
}

// applies says whether a rule is asked; else why not. What nobody said is told.
func (w When) applies(f facts) (why string, unsaid []string) {
	var h holding
	h.among(w.Country, f.Country, "the country", "the rule is of another country")
	w.suitsBoat(&h, f.Boat)
	w.suitsTrip(&h, f.Trip)
	if h.why != "" {
		return h.why, nil
	}
	return "", h.unsaid
}

func (w When) suitsBoat(h *holding, b Boat) {
	power, closed := 0.0, false
	if b.Power != nil {
		power = *b.Power
	}
	if b.Closed != nil {
		closed = *b.Closed
	}
	h.number(w.Length, b.Length, b.Length > 0, "her length", fmt.Sprintf("she is %.1f m long", b.Length))
	h.among(
		w.Propulsion,
		b.Propulsion,
		"her propulsion",
		"she is driven by "+words.CarriagePropulsion.Label(b.Propulsion),
	)
	h.number(w.Power, power, b.Power != nil, "the power of her motor", fmt.Sprintf("her motor has %.1f kW", power))
	h.among(w.Fuel, b.Fuel, "her fuel", "her fuel is "+words.CarriageFuels.Label(b.Fuel))
	h.is(w.Closed, closed, b.Closed != nil, "whether she has closed spaces", closedSaid(closed))
	h.number(
		w.Built,
		float64(b.Built),
		b.Built > 0,
		"the year she was built",
		fmt.Sprintf("she was built in %d", b.Built),
	)
}

func (w When) suitsTrip(h *holding, t Trip) {
	guests := slices.ContainsFunc(t.Persons, func(p Person) bool { return p.Guest || p.child() })
	h.among(w.Water, t.Water, "the water", "the water is "+words.CarriageWaters.Label(t.Water))
	h.among(w.Use, t.Use, "the use", "the trip is "+words.CarriageUses.Label(t.Use))
	h.is(w.Night, t.Night, true, "", nightSaid(t.Night))
	h.is(w.Guests, guests, true, "", guestsSaid(guests))
	h.number(w.Persons, float64(len(t.Persons)), true, "", fmt.Sprintf("%d are aboard", len(t.Persons)))
	if w.Ages != nil {
		aged := slices.ContainsFunc(t.Persons, func(p Person) bool { return p.Age != nil && w.Ages.has(*p.Age) })
		h.judge(true, true, aged, "", "nobody aboard is "+w.Ages.ages())
	}
}

func guestsSaid(guests bool) string {
	if guests {
		return "guests or children are aboard"
	}
	return "nobody aboard is a guest or a child"
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
