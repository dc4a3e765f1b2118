// Package due works out what runs out and when: by date, by hours run, or by
// trips, against the outings that are ahead. Days are counted from any day the
// caller likes; the core has no clock.
//
// A thing that runs out during an outing is due before it: nobody changes an
// impeller at sea.
package due

import (
	"cmp"
	"fmt"
	"slices"

	"ergasia/core/check"
	"ergasia/core/words"
)

// Day is a day, counted from one of the caller's choosing.
type Day int

// Rule is a service that comes round: every so many days, hours or trips,
// whichever is first. Nought means that it is not counted so.
type Rule struct {
	What       string
	EveryDays  int
	EveryHours float64
	EveryTrips int
	LastDay    Day     // when it was done last
	LastHours  float64 // of the thing's own count, then
	LastTrips  int
}

// Check says what is wrong with a rule.
func (r Rule) Check() error {
	var fs check.Faults
	fs.Text("what", r.What, 1, 80)
	fs.Within("every_days", float64(r.EveryDays), 0, 20000)
	fs.Within("every_hours", r.EveryHours, 0, 100000)
	fs.Within("every_trips", float64(r.EveryTrips), 0, 10000)
	if r.EveryDays == 0 && r.EveryHours == 0 && r.EveryTrips == 0 {
		fs.Add("every_days", nil, "say how often: in days, hours or trips")
	}
	return fs.Err()
}

// Thing is gear with what it has run and what it goes on.
type Thing struct {
	ID      string
	Hours   float64
	Trips   int
	Expires *Day // its last good day
	Back    *Day // when it is due back, lent or borrowed
	Rules   []Rule
	Outings []Outing // those it goes on, soonest first
}

// Outing is a trip that is ahead.
type Outing struct {
	Name       string
	Start, End Day
	Hours      float64 // of running, expected
}

// When says how urgent a thing is.
type When string

// The whens, most urgent first.
const (
	Now    When = "now"    // it has run out
	Before When = "before" // it runs out before the next trip, or on it
	After  When = "after"  // it runs out after the next trip
)

var urgency = map[When]int{Now: 0, Before: 1, After: 2}

// Kind is by what something runs out.
type Kind string

// The kinds.
const (
	Expiry  Kind = "expiry"
	Service Kind = "service"
	Return  Kind = "return"
)

// Due is one thing that runs out.
type Due struct {
	Thing string
	Kind  Kind
	Rule  int    // of the thing's rules, where it is a service
	What  string // in words
	When  When
	On    *Day   // the day, where one can be told
	Trip  string // the outing on which the count runs out
	Left  string // what is left, in words
}

// List gives everything that runs out, most urgent first, then soonest. next is
// the crew's next outing, or nil.
func List(today Day, next *Outing, things []Thing) []Due {
	var list []Due
	for _, t := range things {
		if t.Expires != nil {
			what := "goes out of date"
			if *t.Expires < today {
				what = "out of date"
			}
			list = append(list, t.byDay(today, next, Expiry, what, *t.Expires))
		}
		if t.Back != nil {
			list = append(list, t.byDay(today, next, Return, "due back", *t.Back))
		}
		for i, r := range t.Rules {
			d := t.service(today, next, r)
			d.Rule = i
			list = append(list, d)
		}
	}
	slices.SortStableFunc(list, func(a, b Due) int {
		return cmp.Or(cmp.Compare(urgency[a.When], urgency[b.When]), compareDays(a.On, b.On))
	})
	return list
}

func compareDays(a, b *Day) int {
	switch {
	case a == nil && b == nil:
		return 0
	case a == nil:
		return 1
	case b == nil:
		return -1
	}
	return cmp.Compare(*a, *b)
}

// byDay judges a last good day.
func (t Thing) byDay(today Day, next *Outing, kind Kind, what string, last Day) Due {
	d := Due{Thing: t.ID, Kind: kind, What: what, On: &last, When: after(today, next, last),
		Left: inDays(int(last - today))}
	if d.When == Before && next != nil && last >= next.Start {
		d.Trip = next.Name
	}
	return d
}

// after says where a last good day lies against the next outing. One whose last
// good day is the outing's last is good for all of it.
func after(today Day, next *Outing, last Day) When {
	switch {
	case last < today:
		return Now
	case next != nil && last < next.End:
		return Before
	}
	return After
}

// service judges a rule: the soonest of its counts.
func (t Thing) service(today Day, next *Outing, r Rule) Due {
	best := Due{Thing: t.ID, Kind: Service, What: r.What, When: After}
	set := false
	offer := func(d Due) {
		if !set || urgency[d.When] < urgency[best.When] || urgency[d.When] == urgency[best.When] &&
			compareDays(d.On, best.On) < 0 {
			best, set = d, true
		}
	}
	if r.EveryDays > 0 {
		d := t.byDay(today, next, Service, r.What, r.LastDay+Day(r.EveryDays))
		offer(d)
	}
	if r.EveryHours > 0 {
		left := r.LastHours + r.EveryHours - t.Hours
		offer(t.byCount(next, r.What, left, fmt.Sprintf("%.0f h", left), func(o Outing) float64 { return o.Hours }))
	}
	if r.EveryTrips > 0 {
		left := r.LastTrips + r.EveryTrips - t.Trips
		offer(t.byCount(next, r.What, float64(left), words.HowMany(left, "trip"), func(Outing) float64 { return 1 }))
	}
	return best
}

// byCount finds the outing on which a count runs out.
func (t Thing) byCount(next *Outing, what string, left float64, words string, takes func(Outing) float64) Due {
	d := Due{Thing: t.ID, Kind: Service, What: what, When: After, Left: words + " left"}
	if left <= 0 {
		d.When, d.Left = Now, "nothing left"
		return d
	}
	for _, o := range t.Outings {
		if left -= takes(o); left < -1e-9 {
			start := o.Start
			d.On, d.Trip = &start, o.Name
			if next != nil && o.Start <= next.Start {
				d.When = Before
			}
			return d
		}
	}
	return d
}

func inDays(n int) string {
	switch {
	case n < -1:
		return fmt.Sprintf("%d days over", -n)
	case n == -1:
		return "a day over"
	case n == 0:
		return "today is the last day"
	case n == 1:
		return "1 day left"
	}
	return fmt.Sprintf("%d days left", n)
}
