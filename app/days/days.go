// Package days is how a trip's day goes: phases on a time line, how the boat floats
// through them with what the trip takes along, what is wrong and what would help.
package days

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/fuel"
	"ergasia/app/kernel"
	"ergasia/app/power"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/day"
	"ergasia/core/sun"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Wing of the days of trips.
type Wing struct {
	*kernel.Kernel
	where *where.Wing
	turns *kernel.Turns
}

// New makes the wing. Trying what would help takes a core: turns share that out.
func New(k *kernel.Kernel, w *where.Wing, turns *kernel.Turns) *Wing {
	return &Wing{Kernel: k, where: w, turns: turns}
}

// Outing is a trip as it goes out: its boat with what goes along, who come, its fuel,
// and how the day goes.
type Outing struct {
	Trip     model.Trip
	Laden    *aboard.Laden // nobody aboard; nil where the trip has no boat
	People   []Person
	Fuel     fuel.Reckoned
	Plan     model.DayPlan
	Saved    bool         // somebody wrote the plan; else it is the usual one
	Unstowed []model.Gear // goes along, and has no place aboard yet
	Promised map[uuid.UUID]bool
	Stowed   *model.Arrangement // how she is to be stowed for it; nil where nobody said
	Moves    int                // from how she lies now to that
	last     *model.DayPlan     // the day of the last trip of this kind in this boat
	Wired    *power.Electrics   // her electrics; nil where she has none
	banked   *power.Day         // what becomes of her banks, once it was asked
	actor    kernel.Actor       // who looks
	minutes  map[string]float64 // of fetching, by who is at which posts
	ua       float64            // what the walls of its cooler let in, by the log; 0 is not known
}

// Person is somebody who comes, with what they weigh dressed and what they carry.
type Person struct {
	model.TripPerson
	Mark  string
	Known string
	Worn  float64 // kg of gear
	// Guessed says that nobody wrote who comes: the trip only has a number of people.
	Guessed bool
}

// guessedKg is a person of whom nothing is known, clothed. Practice, no source.
const guessedKg = 85

// Load reads a trip as it goes out, with another plan where one is given.
func (a *Wing) Load(tx *store.Tx, actor kernel.Actor, trip uuid.UUID, plan *model.DayPlan) (*Outing, error) {
	o := &Outing{actor: actor}
	if err := store.One(tx, &o.Trip, "id = ?", trip); err != nil {
		return nil, kernel.Absent(err, "trip")
	}
	if o.Trip.BoatID == nil {
		o.Plan, o.Saved = shaped(o, plan)
		return o, nil
	}
	s, err := a.where.Laden(tx, actor, *o.Trip.BoatID)
	if err != nil {
		return nil, err
	}
	o.party(s.Members)
	if err := o.goesAlong(tx, s); err != nil {
		return nil, err
	}
	if o.Fuel, err = fuel.Reckon(tx, s, o.Trip); err != nil {
		return nil, err
	}
	if err := o.wired(tx); err != nil {
		return nil, err
	}
	if plan == nil && o.Trip.Day == nil {
		if err := o.learn(tx); err != nil {
			return nil, err
		}
	}
	o.Plan, o.Saved = shaped(o, plan)
	return o, nil
}

func shaped(o *Outing, plan *model.DayPlan) (model.DayPlan, bool) {
	switch {
	case plan != nil:
		return *plan, o.Trip.Day != nil
	case o.Trip.Day != nil:
		return *o.Trip.Day, true
	}
	return Usual(o), false
}

// party is who come: as written, with what the crew knows of its members; or as many as
// the trip says.
func (o *Outing) party(members []model.Member) {
	for _, p := range o.Trip.People {
		one := Person{TripPerson: p, Known: "guess"}
		one.Kg = crew.BodyFor(o.actor, p.MemberID, p.Kg)
		if p.MemberID != nil {
			if m := aboard.First(members, func(m model.Member) bool { return m.ID == *p.MemberID }); m != nil {
				one.Name, one.Kg, one.Known, one.Mark = m.Name, crew.BodyFor(o.actor, &m.ID, m.Kg), m.MassKnown, m.Mark
			}
		}
		o.People = append(o.People, one)
	}
	if len(o.People) == 0 {
		for i := range o.Trip.Persons {
			role := "crew"
			if i == 0 {
				role = "skipper"
			}
			id := o.Trip.ID // a stable id for each, so that a plan can name them
			id[15], id[14] = byte(i), id[14]^0xa5
			o.People = append(o.People, Person{Guessed: true, Known: "guess", TripPerson: model.TripPerson{ID: id,
				Name: fmt.Sprintf("person %d", i+1), Kg: guessedKg, Role: role}})
		}
	}
	taken := map[string]bool{}
	for i := range o.People {
		if m := o.People[i].Mark; m != "" {
			taken[m] = true
		}
	}
	for i := range o.People {
		if o.People[i].Mark == "" {
			o.People[i].Mark = markFor(o.People[i].Name, taken)
		}
	}
}

// markFor is a letter or figure that nobody aboard has.
func markFor(name string, taken map[string]bool) string {
	for _, r := range name + "123456789abcdefghijkl" {
		if mark := kernel.Capital(string(r)); r > ' ' && !taken[mark] {
			taken[mark] = true
			return mark
		}
	}
	return "?"
}

// goesAlong makes the boat as she goes out: what is aboard but for what stays ashore,
// and what is promised to the trip.
func (o *Outing) goesAlong(tx *store.Tx, s *aboard.Laden) error {
	var booked []model.Booking
	if err := store.All(tx, &booked, "gear_id", "trip_id = ? AND way = 'trip'", o.Trip.ID); err != nil {
		return fmt.Errorf("reading what goes along: %w", err)
	}
	ids := []*uuid.UUID{}
	o.Promised = map[uuid.UUID]bool{}
	for _, b := range booked {
		ids = append(ids, &b.GearID)
		o.Promised[b.GearID] = true
	}
	worn, err := wornBy(tx, o.People)
	if err != nil {
		return err
	}
	for gear := range worn {
		ids = append(ids, &gear)
	}
	if err := where.Fetch(tx, s, ids...); err != nil {
		return err
	}
	for gear, person := range worn {
		if g := s.Thing(gear); g != nil && s.Stowage[gear].InsideID == nil {
			kg, _ := s.Weight(*g)
			o.People[person].Worn += kg
		}
	}
	c := s.Unmanned().Branch()
	c.Caught = nil // the plan of the day has a catch of its own
	if err := o.asUsed(tx, c); err != nil {
		return err
	}
	c.Add(nil, o.leftAshore(s))
	if err := o.stowedFor(tx, s, c); err != nil {
		return err
	}
	for _, b := range booked {
		g, at := c.Thing(b.GearID), c.Stowage[b.GearID]
		aboardNow := at.BoatID != nil && *at.BoatID == s.Boat.ID
		_, carried := worn[b.GearID]
		if g != nil && !aboardNow && !carried && !slices.Contains(o.Trip.Ashore, b.GearID) && !o.inside(c, at, booked) {
			o.Unstowed = append(o.Unstowed, *g)
		}
	}
	o.Laden = c
	return nil
}

// leastTold is how many trips must say whether a thing was used before that counts.
const leastTold = 3

// asUsed corrects how often things are fetched by the log: what was used on some of the
// trips of this kind only is fetched as much less often. What is for need stays as it is.
func (o *Outing) asUsed(tx *store.Tx, c *aboard.Laden) error {
	uses, err := trips.UsesOf(tx, o.Trip.Kind)
	if err != nil {
		return err
	}
	c.Gear = slices.Clone(c.Gear)
	for i, g := range c.Gear {
		if u := uses[g.ID]; u.Along >= leastTold && !c.Safety(g) {
			c.Gear[i].UsesPerDay *= float64(u.Used) / float64(u.Along)
		}
	}
	return o.asItTook(tx, c)
}

// asItTook corrects the crew's seconds by how long fetching took on the boat's last trips
// against what was reckoned, once enough of them say so.
func (o *Outing) asItTook(tx *store.Tx, c *aboard.Laden) error {
	var rows []model.Trip
	if err := store.Some(tx, &rows, lastDays, "starts_on DESC, id", "boat_id = ? AND logged_at IS NOT NULL AND log IS NOT NULL",
		c.Boat.ID); err != nil {
		return fmt.Errorf("reading how long fetching took: %w", err)
	}
	sum, n := 0.0, 0
	for _, t := range rows {
		if t.Log != nil && t.Log.Fetching > 0 {
			sum, n = sum+t.Log.Fetching, n+1
		}
	}
	if n >= leastTold {
		c.Table.Sea *= sum / float64(n)
	}
	return nil
}

// stowedFor lays what goes along as it is to lie on this trip. What it no longer has a
// place for stays where it is.
func (o *Outing) stowedFor(tx *store.Tx, now, c *aboard.Laden) error {
	var rows []model.Arrangement
	if err := store.Some(tx, &rows, 1, "id", "trip_id = ? AND boat_id = ?", o.Trip.ID, c.Boat.ID); err != nil {
		return fmt.Errorf("reading how she is to be stowed: %w", err)
	}
	if len(rows) == 0 {
		return nil
	}
	o.Stowed = &rows[0]
	for _, l := range rows[0].Lines {
		if c.Thing(l.GearID) == nil || slices.Contains(o.Trip.Ashore, l.GearID) {
			continue
		}
		at := now.Stowage[l.GearID]
		if l.Lies(at) && at.BoatID != nil {
			continue
		}
		o.Moves++
		if l.PlaceID != nil && c.Place(*l.PlaceID) != nil {
			c.Carry(l.GearID, model.Whereabouts{Kind: "boat", BoatID: &c.Boat.ID, PlaceID: l.PlaceID})
		}
	}
	return nil
}

// inside says whether a thing lies in a box that is promised too: it comes with that.
func (o *Outing) inside(s *aboard.Laden, at model.Stowage, booked []model.Booking) bool {
	for at.InsideID != nil {
		box := *at.InsideID
		if slices.ContainsFunc(booked, func(b model.Booking) bool { return b.GearID == box }) {
			return true
		}
		at = s.Stowage[box]
	}
	return false
}

// leftAshore are the stowages of what stays ashore of the boat's own things.
func (o *Outing) leftAshore(s *aboard.Laden) (rows []model.Stowage) {
	for _, id := range o.Trip.Ashore {
		at, ok := s.Stowage[id]
		if ok && at.BoatID != nil && *at.BoatID == s.Boat.ID {
			rows = append(rows, model.Stowage{GearID: id, CrewID: at.CrewID, Kind: "quay", Version: at.Version})
		}
	}
	return rows
}

// wornBy says what the crew's own people carry, and who of them.
func wornBy(tx *store.Tx, people []Person) (map[uuid.UUID]int, error) {
	of, ids := map[uuid.UUID]int{}, []uuid.UUID{uuid.Nil}
	for i, p := range people {
		if p.MemberID != nil {
			of[*p.MemberID] = i
			ids = append(ids, *p.MemberID)
		}
	}
	var rows []model.Stowage
	if err := store.All(tx, &rows, "", "held_by IN ?", ids); err != nil {
		return nil, fmt.Errorf("reading what people carry: %w", err)
	}
	worn := map[uuid.UUID]int{}
	for _, r := range rows {
		worn[r.GearID] = of[*r.HeldBy]
	}
	return worn, nil
}

// Save keeps how a trip's day goes.
func (a *Wing) Save(
	ctx context.Context,
	actor kernel.Actor,
	key, trip uuid.UUID,
	version int,
	plan model.DayPlan,
) (uuid.UUID, error) {
	if err := checkPlan(plan); err != nil {
		return trip, err
	}
	return trip, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"day", trip, version, plan}, func() (uuid.UUID, error) {
			t, err := trips.Open(tx, trip)
			if err != nil {
				return trip, err
			}
			t.Day, t.Version = &plan, version+1
			return trip, kernel.Keep(tx, &t, trip, version, "trip", t.Name)
		})
		return err
	})
}

// LeaveAshore says what of the boat's things stays ashore on a trip.
func (a *Wing) LeaveAshore(
	ctx context.Context,
	actor kernel.Actor,
	key, trip uuid.UUID,
	version int,
	gear []uuid.UUID,
) (uuid.UUID, error) {
	return trip, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"ashore", trip, version, gear}, func() (uuid.UUID, error) {
			t, err := trips.Open(tx, trip)
			if err != nil {
				return trip, err
			}
			slices.SortFunc(gear, func(a, b uuid.UUID) int { return slices.Compare(a[:], b[:]) })
			t.Ashore, t.Version = slices.Compact(gear), version+1
			return trip, kernel.Keep(tx, &t, trip, version, "trip", t.Name)
		})
		return err
	})
}

// Most of what a plan may say.
const (
	mostMinutes = 14 * 24 * 60
	zoneMost    = 15 * 60
)

func checkPlan(plan model.DayPlan) error {
	var fs check.Faults
	if len(plan.Phases) == 0 || len(plan.Phases) > day.MostPhases {
		fs.Add("plan.phases", len(plan.Phases), fmt.Sprintf("a day has 1 to %d phases", day.MostPhases))
	}
	fs.Within("plan.fixed", float64(plan.Fixed), 0, float64(max(0, len(plan.Phases)-1)))
	fs.Within("plan.at_min", float64(plan.At), -24*60, mostMinutes)
	fs.Within("plan.zone_min", float64(plan.Zone), -zoneMost, zoneMost)
	if (plan.Lat == nil) != (plan.Lon == nil) {
		fs.Add("plan.lat", nil, "give latitude and longitude, or neither")
	} else if plan.Lat != nil {
		sun.Place{Lat: *plan.Lat, Lon: *plan.Lon}.Check(&fs, "plan")
	}
	fs.Within("plan.air_c", plan.Air, -30, 50)
	fs.Within("plan.water_c", plan.Water, -3, 40)
	if f := plan.Ashore; f != nil {
		fs.Text("plan.float_plan.looks", f.Looks, 0, 200)
		fs.Text("plan.float_plan.contact", f.Contact, 0, 120)
		fs.Text("plan.float_plan.call", f.Call, 0, 200)
		fs.Within("plan.float_plan.worry_min", float64(f.Worry), 0, 24*60)
		fs.Text("plan.float_plan.guests", f.Guests, 0, 600)
	}
	fs.Text("plan.fuel_first", plan.First, 0, 80)
	checkPower(&fs, plan.Power)
	fs.Within("plan.best_of", float64(plan.BestOf), 0, 100)
	hours := 0.0
	for i, p := range plan.Phases {
		checkPhase(&fs, fmt.Sprintf("plan.phases[%d]", i), p)
		hours += p.Hours
	}
	if hours > 14*24 {
		fs.Add("plan.phases", hours, "together they take at most 14 days")
	}
	for i, m := range plan.Marks {
		at := fmt.Sprintf("plan.marks[%d]", i)
		fs.Text(at+".name", m.Name, 1, 80)
		fs.Within(at+".at_min", float64(m.At), -24*60, mostMinutes)
	}
	for i, c := range plan.Coolers {
		at := fmt.Sprintf("plan.coolers[%d]", i)
		fs.Within(at+".ice_kg", c.Ice, 0, 500)
		fs.Within(at+".ua_w_k", c.UA, 0, 50)
	}
	return refuse.Faulty(fs.Err())
}

func checkPhase(fs *check.Faults, at string, p model.DayPhase) {
	fs.OneOf(at+".kind", p.Kind, words.PhaseKinds.Keys()...)
	fs.Text(at+".name", p.Name, 1, 80)
	fs.Within(at+".h", p.Hours, 0, 14*24)
	fs.Within(at+".leg", float64(p.Leg), 0, 60)
	fs.Within(at+".speed_m_s", p.Speed, 0, 60)
	for i, t := range p.Tanks {
		fs.Text(fmt.Sprintf("%s.tanks[%d].tank", at, i), t.Tank, 1, 80)
		fs.Within(fmt.Sprintf("%s.tanks[%d].fill", at, i), t.Fill, 0, 1)
	}
	for i, c := range p.Catch {
		fs.Within(fmt.Sprintf("%s.catch[%d].kg", at, i), c.Kg, 0, 2000)
	}
	checkPhasePower(fs, at+".power", p.Power)
}

// nameOf a phase: its own, or that of its kind.
func nameOf(p model.DayPhase) string { return cmp.Or(p.Name, words.PhaseKinds.Label(p.Kind)) }

// errNoBoat is of what can't be reckoned without one.
var errNoBoat = &refuse.Error{Kind: refuse.Refused, Sentence: "The trip has no boat yet: choose one first."}

// wrongIn says the faults of an engine's input as one sentence.
func wrongIn(err error) string {
	var fs check.Faults
	if errors.As(err, &fs) && len(fs) > 0 {
		return fmt.Sprintf("The day can't be reckoned: %s %s.", fs[0].Field, fs[0].Want)
	}
	return err.Error()
}
