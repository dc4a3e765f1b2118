package days

import (
	"fmt"
	"slices"
	"strings"

	"ergasia/core/ice"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// shape is a phase of a usual day.
type shape struct {
	kind, name string
	hours      float64
	run        bool // a leg of the way
	fill       bool // livewells are filled in it
}

// shapes are the usual days of each kind of trip. Practice, no source: a crew changes
// them to its own.
var shapes = map[string][]shape{
	"day": {
		{kind: "load", hours: 0.5},
		{kind: "road", hours: 0.75},
		{kind: "launch", hours: 0.4},
		{kind: "run", name: "run out", run: true},
		{
			kind:  "fish",
			name:  "fish, morning",
			hours: 2.5,
		},
		{kind: "move", run: true},
		{kind: "fish", name: "fish, noon", hours: 2.5},
		{kind: "home", run: true},
		{kind: "recover", hours: 0.6},
	},
	"tournament": {
		{kind: "load", hours: 0.5},
		{kind: "road", hours: 1},
		{kind: "launch", hours: 0.7},
		{kind: "run", name: "run out", run: true},
		{
			kind:  "fish",
			name:  "fish, first place",
			hours: 3,
			fill:  true,
		},
		{kind: "move", run: true},
		{kind: "fish", name: "fish, second place", hours: 3},
		{
			kind: "home",
			name: "run to the weigh-in",
			run:  true,
		},
		{kind: "weigh-in", hours: 0.5},
		{kind: "recover", hours: 0.6},
	},
	"guiding": {{kind: "load", hours: 0.5}, {kind: "launch", hours: 0.4}, {kind: "run", name: "run out", run: true},
		{
			kind:  "fish",
			name:  "fish",
			hours: 1.5,
		}, {kind: "anchor", name: "coffee at anchor", hours: 0.5}, {kind: "move", run: true},
		{kind: "fish", name: "fish, dusk", hours: 1.5}, {kind: "home", run: true}, {kind: "recover", hours: 0.5}},
	"offshore": {
		{kind: "load", hours: 0.75},
		{kind: "road", hours: 1},
		{kind: "launch", hours: 0.4},
		{kind: "run", name: "run out", run: true},
		{kind: "bait", hours: 0.5},
		{kind: "fish", name: "first drift", hours: 1.75},
		{kind: "move", run: true},
		{kind: "fish", name: "second drift", hours: 2},
		{kind: "home", run: true},
		{kind: "recover", hours: 0.75},
	},
	"night": {
		{kind: "load", hours: 0.5},
		{kind: "road", hours: 0.75},
		{kind: "launch", hours: 0.4},
		{kind: "run", name: "run out", run: true},
		{
			kind:  "anchor",
			name:  "lamps out",
			hours: 0.5,
		},
		{kind: "fish", name: "fish by lamps", hours: 5},
		{kind: "move", run: true},
		{kind: "home", run: true},
		{kind: "recover", hours: 0.6},
	},
	"days": {
		{kind: "load", hours: 1},
		{kind: "road", hours: 1},
		{kind: "launch", hours: 0.5},
		{kind: "run", name: "run out", run: true},
		{kind: "fish", name: "fish, first day", hours: 6},
		{kind: "sleep", name: "night at anchor", hours: 9},
		{
			kind:  "fish",
			name:  "fish, second day",
			hours: 5,
		},
		{kind: "move", run: true},
		{kind: "home", run: true},
		{kind: "recover", hours: 0.75},
	},
}

// starts are when the first phase begins, minutes after midnight. Practice.
var starts = map[string]int{
	"day":        6 * 60,
	"tournament": 5 * 60,
	"guiding":    16 * 60,
	"offshore":   4*60 + 30,
	"night":      18 * 60,
	"days":       7 * 60,
}

// usualCatch is what a day is reckoned with until somebody says otherwise, kg a person.
// Practice, no source.
const usualCatch = 4

// Usual is the day of a trip of which nobody wrote one: as the last of its kind in this
// boat, else the usual shape of its kind, with the legs of its way in it.
func Usual(o *Outing) model.DayPlan {
	if o.last != nil {
		return o.like(*o.last)
	}
	kind := o.Trip.Kind
	if shapes[kind] == nil {
		kind = "day"
	}
	p := model.DayPlan{At: starts[kind], Air: 12, Water: 10}
	if kind == "tournament" {
		p.BestOf = 5
	}
	if o.Trip.Fuel != nil && len(o.Trip.Fuel.Line) > 0 {
		at := o.Trip.Fuel.Line[0]
		p.Lat, p.Lon = &at[0], &at[1]
	}
	legs := o.legs()
	for _, s := range shapes[kind] {
		one := model.DayPhase{Kind: s.kind, Name: s.name, Hours: s.hours}
		if one.Name == "" {
			one.Name = nameOf(one)
		}
		if s.run {
			if one.Leg = legs.next(s.kind); one.Leg == 0 && s.kind == "move" {
				continue // the way has no leg for it
			}
		}
		if s.fill && o.Laden != nil {
			for _, t := range o.Laden.Craft.Input.Outfit.Tanks {
				if t.Kind == "livewell" {
					one.Tanks = append(one.Tanks, model.DayTank{Tank: t.Name, Fill: 0.9, AtOnce: true})
				}
			}
		}
		p.Phases = append(p.Phases, one)
	}
	o.usualIce(&p)
	return p
}

// lastDays is how many of the last trips the usual day learns from.
const lastDays = 10

// learn looks how the last day of this kind in this boat went, and how long its ice
// lasted on those that were logged.
func (o *Outing) learn(tx *store.Tx) error {
	var rows []model.Trip
	if err := store.Some(tx, &rows, lastDays, "starts_on DESC, id", "boat_id = ? AND kind = ? AND day IS NOT NULL AND id <> ?",
		o.Trip.BoatID, o.Trip.Kind, o.Trip.ID); err != nil {
		return fmt.Errorf("reading how such days went: %w", err)
	}
	sum, n := 0.0, 0
	for _, t := range rows {
		if t.Day == nil {
			continue
		}
		if o.last == nil {
			o.last = t.Day
		}
		if ua := wallsOf(t); ua > 0 {
			sum, n = sum+ua, n+1
		}
	}
	if n > 0 {
		o.ua = sum / float64(n)
	}
	return nil
}

// wallsOf is what the walls of a trip's one cooler let in, W/K, by the ice that was left;
// 0 where nobody said, or where there were several.
func wallsOf(t model.Trip) float64 {
	if t.Log == nil || t.Log.IceLeft <= 0 || len(t.Day.Coolers) != 1 {
		return 0
	}
	hours, chilled := 0.0, 0.0
	for _, p := range t.Day.Phases {
		hours += p.Hours
	}
	for _, f := range t.Catch {
		if !f.Back && f.Place != nil && *f.Place == t.Day.Coolers[0].Place {
			chilled += ice.Chills(f.Kg, t.Day.Water)
		}
	}
	return max(0, ice.LearnUA(t.Day.Coolers[0].Ice-t.Log.IceLeft-chilled, hours, t.Day.Air))
}

// like is the last day of this kind as a plan for this one: its phases with who was where
// left out, its hours and its ice.
func (o *Outing) like(last model.DayPlan) model.DayPlan {
	p := last
	p.Marks, p.Ashore = nil, last.Ashore
	p.Phases = slices.Clone(last.Phases)
	for i := range p.Phases {
		p.Phases[i].Posts = nil
		if p.Phases[i].Leg > len(o.Fuel.Day.Legs) {
			p.Phases[i].Leg = 0
		}
	}
	p.Coolers = slices.Clone(last.Coolers)
	for i := range p.Coolers {
		if o.ua > 0 {
			p.Coolers[i].UA = o.ua
		}
	}
	return p
}

// legs hands out the legs of a way: the first to the run out, the last to the run home,
// those between to moves.
type legs struct{ left []int }

func (o *Outing) legs() *legs {
	l := &legs{}
	for i := range o.Fuel.Day.Legs {
		l.left = append(l.left, i+1)
	}
	return l
}

func (l *legs) next(kind string) (leg int) {
	switch {
	case len(l.left) == 0:
		return 0
	case kind == "home":
		leg = l.left[len(l.left)-1]
		l.left = nil
	case kind == "move" && len(l.left) == 1: // that is the way home
		return 0
	default:
		leg = l.left[0]
		l.left = l.left[1:]
	}
	return leg
}

// usualIce puts ice into whatever is called an icebox aboard, and the catch onto it:
// a place that is insulated.
func (o *Outing) usualIce(p *model.DayPlan) {
	if o.Laden == nil {
		return
	}
	var into *model.DayCooler
	for _, place := range o.Laden.Places {
		if place.Insulated {
			into = &model.DayCooler{Place: place.ID, Ice: 8, UA: 1, Drains: place.Drained}
			p.Coolers = append(p.Coolers, *into)
			break
		}
	}
	fishing := 0
	for _, ph := range p.Phases {
		if ph.Kind == "fish" {
			fishing++
		}
	}
	if into == nil || fishing == 0 || o.Trip.Kind == "tournament" || o.Trip.Kind == "guiding" {
		return
	}
	each := float64(usualCatch*max(o.Trip.Persons, 1)) / float64(fishing)
	for i := range p.Phases {
		if p.Phases[i].Kind == "fish" {
			p.Phases[i].Catch = []model.DayCatch{{Kg: each, Place: &into.Place}}
		}
	}
}

// seatOf is where somebody is under way, where nobody said: the skipper at the helm, the
// others at the posts after it.
func (o *Outing) seatOf(person int) *model.Post {
	posts := o.Laden.Posts
	if len(posts) == 0 {
		return nil
	}
	p := o.People[person]
	if p.Sits != nil {
		if post := o.Laden.Post(*p.Sits); post != nil {
			return post
		}
	}
	return o.free(person, func(q Person) *uuid.UUID { return q.Sits })
}

// fishesAt is where somebody fishes, where nobody said: where they sit.
func (o *Outing) fishesAt(person int) *model.Post {
	if at := o.People[person].Fishes; at != nil {
		if post := o.Laden.Post(*at); post != nil {
			return post
		}
	}
	return o.seatOf(person)
}

// free gives the posts that nobody chose to those who chose none, in order: the helm to
// the skipper.
func (o *Outing) free(person int, chosen func(Person) *uuid.UUID) *model.Post {
	posts := slices.Clone(o.Laden.Posts)
	slices.SortStableFunc(posts, func(a, b model.Post) int { return helmFirst(a) - helmFirst(b) })
	taken := map[int]bool{}
	for _, q := range o.People {
		if at := chosen(q); at != nil {
			if i := slices.IndexFunc(posts, func(p model.Post) bool { return p.ID == *at }); i >= 0 {
				taken[i] = true
			}
		}
	}
	order := []int{}
	for i := range o.People {
		if o.People[i].Role == "skipper" {
			order = slices.Insert(order, 0, i)
		} else {
			order = append(order, i)
		}
	}
	at := 0
	for _, i := range order {
		if chosen(o.People[i]) != nil {
			continue
		}
		for taken[at%len(posts)] && at < 2*len(posts) {
			at++
		}
		if i == person {
			return &posts[at%len(posts)]
		}
		at++
	}
	return &posts[0]
}

func helmFirst(p model.Post) int {
	if strings.Contains(strings.ToLower(p.Name), "helm") {
		return 0
	}
	return 1
}

// Seat is where somebody sits under way.
func (o *Outing) Seat(person int) *model.Post { return o.seatOf(person) }
