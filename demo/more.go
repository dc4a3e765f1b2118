package demo

import (
	_ "embed"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// table is the gear that is not aboard Dunlin, as the program's own table.
//
//go:embed gear.csv
var table []byte

// fleet makes the other boats.
func (l *loader) fleet() error {
	for _, f := range sisters {
		in := f.boat()
		id, err := l.app.Fleet.SaveBoat(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in)
		if err != nil {
			return fmt.Errorf("%s: %w", in.Name, told(err))
		}
		l.boats[in.Name] = id
		if err := l.app.Fleet.LayOut(l.ctx, l.actor, uuid.Nil, id, f.layout); err != nil {
			return fmt.Errorf("%s: %w", in.Name, told(err))
		}
		for _, p := range f.more {
			if _, err := l.app.Fleet.SavePlace(l.ctx, l.actor, uuid.Nil, id, uuid.Nil, 0, p); err != nil {
				return fmt.Errorf("%s: %w", p.Name, told(err))
			}
		}
		for _, p := range f.posts {
			if _, err := l.app.Fleet.AddPost(l.ctx, l.actor, uuid.Nil, id, p); err != nil {
				return fmt.Errorf("%s: %w", p.Name, told(err))
			}
		}
		bench, err := l.app.Stowing.Bench(l.ctx, l.actor, id)
		if err != nil {
			return err
		}
		for _, p := range bench.Places {
			if kg := f.limits[p.Name]; kg > 0 {
				p.MaxKg = kg
				if _, err := l.app.Fleet.SavePlace(l.ctx, l.actor, uuid.Nil, id, p.ID, p.Version, p.PlaceInput); err != nil {
					return fmt.Errorf("%s: %w", p.Name, told(err))
				}
			}
		}
	}
	return nil
}

// told has the faults of a refusal in its sentence.
func told(err error) error {
	var refusal *refuse.Error
	if errors.As(err, &refusal) {
		return fmt.Errorf("%w %v %v", err, refusal.Faults, refusal.Details)
	}
	return err
}

func (l *loader) shed() error {
	for _, s := range shelves {
		if _, err := l.app.Shed.SaveShed(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, s); err != nil {
			return fmt.Errorf("%s: %w", s.Name, told(err))
		}
	}
	return nil
}

func (l *loader) table() error {
	if _, err := l.app.Gear.Import(l.ctx, l.actor, uuid.Nil, table, nil, true); err != nil {
		return told(err)
	}
	return l.look()
}

// look reads the whole list, by name.
func (l *loader) look() error {
	after := ""
	for {
		page, err := l.app.Gear.Gear(l.ctx, l.actor, gear.GearQuery{After: after, Limit: 200})
		if err != nil {
			return err
		}
		for _, g := range page.Rows {
			l.known[g.Name] = g
		}
		if after = page.Next; after == "" {
			return nil
		}
	}
}

func (l *loader) named(name string) (gear.GearRow, error) {
	g, ok := l.known[name]
	if !ok {
		return g, fmt.Errorf("the demo has no gear called %q", name)
	}
	return g, nil
}

// trips loads the season: what was is logged, so that hours and trips are counted.
func (l *loader) trips() error {
	today := kernel.DayOf(time.Now())
	for _, o := range season {
		boat := l.boats[o.boat]
		in := trips.TripInput{Name: o.name, Water: o.water, BoatID: &boat, StartsOn: today.Add(o.in),
			EndsOn:  today.Add(o.in + o.days - 1),
			Persons: o.persons, Rods: o.rods, Hours: o.hours, Kind: o.kindOf()}
		id, err := l.app.Trips.SaveTrip(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in)
		if err != nil {
			return fmt.Errorf("%s: %w", o.name, told(err))
		}
		plan := o.way()
		if _, err := l.app.Fuel.Save(l.ctx, l.actor, uuid.Nil, id, 1, plan); err != nil {
			return fmt.Errorf("%s: %w", o.name, told(err))
		}
		if o.in >= 0 {
			if err := l.party(id, 2, o); err != nil {
				return fmt.Errorf("%s: %w", o.name, told(err))
			}
			continue
		}
		v, err := l.app.Fuel.Fuel(l.ctx, l.actor, id)
		if err != nil {
			return fmt.Errorf("%s: %w", o.name, err)
		}
		var filled *float64
		if v.Answer != nil { // what she took was a little more than her table says, more or less
			litres := math.Round(v.Answer.Burn*(1.08+0.05*math.Sin(float64(o.in)))*10) / 10
			filled = &litres
		}
		if err := l.app.Trips.LogTrip(l.ctx, l.actor, uuid.Nil, id, o.after(l, filled)); err != nil {
			return fmt.Errorf("%s: %w", o.name, err)
		}
	}
	return nil
}

// kindOf a trip: as it is written, or by where and with whom it was.
func (o outing) kindOf() string {
	switch {
	case o.kind != "":
		return o.kind
	case strings.Contains(o.name, "cup"):
		return "tournament"
	case strings.Contains(o.name, "night"):
		return "night"
	case o.boat == "Whimbrel":
		return "guiding"
	case o.boat == "Dunlin":
		return "offshore"
	}
	return "day"
}

// after is what was told after a trip: hours, fuel, and what was in a hand. Of what
// lies aboard some is used every time, some now and then, some never.
func (o outing) after(l *loader, filled *float64) trips.LogInput {
	in := trips.LogInput{Version: 2, Hours: o.hours, Filled: filled}
	in.Distance = math.Round(o.hours * 9000)
	for name, g := range l.known {
		every := 0
		for _, r := range name {
			every = (every*31 + int(r)) % 7
		}
		if g.Spot.Kind == "boat" && (every < 3 || every < 5 && (o.in+every)%4 == 0) {
			in.Used = append(in.Used, g.ID)
		}
	}
	return in
}

// party says who come on a trip ahead.
func (l *loader) party(trip uuid.UUID, version int, o outing) error {
	bench, err := l.app.Stowing.Bench(l.ctx, l.actor, l.boats[o.boat])
	if err != nil {
		return err
	}
	post := func(name string) *uuid.UUID {
		for _, p := range bench.Posts {
			if p.Name == name {
				return &p.ID
			}
		}
		return nil
	}
	var people []model.TripPerson
	for _, c := range o.party {
		p := model.TripPerson{ID: store.NewID(), Name: c.name, Kg: c.kg, Role: c.role, Sits: post(c.sits), Fishes: post(c.fishes)}
		for _, m := range bench.Members {
			if m.Mark == c.mark {
				p.MemberID, p.Name, p.Kg = &m.ID, m.Name, m.Kg
			}
		}
		people = append(people, p)
	}
	_, err = l.app.Trips.SaveParty(l.ctx, l.actor, uuid.Nil, trip, version, people)
	return err
}

// way is a trip's fuel: out and home, and the rest of its hours slowly. The cod run
// goes out against the sea, and with its reserve it is more than Dunlin's tank holds.
func (o outing) way() model.FuelPlan {
	p := model.FuelPlan{School: "thirds", Learned: o.in >= 0, PerLitre: 2.1}
	run := map[string]float64{"Dunlin": 16 * knot, "Plover": 40 * kmh, "Whimbrel": 12 * kmh}[o.boat]
	share := 0.2
	if o.days > 1 {
		share = 0.15 / float64(o.days) // the way of one of them
	}
	out := model.FuelLeg{Name: "out", Distance: math.Round(run*o.hours*3600*share/100) * 100, Speed: run}
	slow := model.FuelLeg{Name: "slowly", Distance: 5000, Speed: 8 * kmh}
	if o.boat == "Dunlin" { // at sea
		slow.Distance, slow.Speed = 3*1852, 4.5*knot
	}
	if o.nautical > 0 {
		out.Distance, out.Factor = o.nautical*1852, 1.4
		p.Line = skerries
	}
	home := out
	home.Name, home.Factor = "home", 1
	p.Legs = []model.FuelLeg{out, slow, home}
	return p
}

// services come before the season, so that its trips count.
func (l *loader) services() error {
	today := kernel.DayOf(time.Now())
	for _, s := range serviced {
		g, err := l.named(s.gear)
		if err != nil {
			return err
		}
		s.input.LastOn = today.Add(-s.ago)
		if _, err := l.app.Due.AddService(l.ctx, l.actor, uuid.Nil, g.ID, s.input); err != nil {
			return fmt.Errorf("%s: %w", s.gear, told(err))
		}
	}
	return nil
}

// wrong puts dates on things, some of them over on purpose, and weighs a box
// that makes a locker too heavy.
func (l *loader) wrong() error {
	today := kernel.DayOf(time.Now())
	for name, days := range lastGood {
		g, err := l.named(name)
		if err != nil {
			return err
		}
		last := today.Add(days)
		g.ExpiresOn = &last
		if _, err := l.app.Gear.SaveGear(l.ctx, l.actor, uuid.Nil, g.ID, g.Version, g.GearInput); err != nil {
			return fmt.Errorf("%s: %w", name, told(err))
		}
	}
	tools, err := l.named("tool box, small")
	if err != nil {
		return err
	}
	_, err = l.app.Weighing.Weighed(l.ctx, l.actor, uuid.Nil, tools.ID, tools.Version, 14.2)
	return err
}

func (l *loader) lend() error {
	today := kernel.DayOf(time.Now())
	for _, loan := range loans {
		g, err := l.named(loan.gear)
		if err != nil {
			return err
		}
		until := today.Add(loan.in)
		loan.input.UntilOn = &until
		if err := l.app.Trips.Loan(l.ctx, l.actor, uuid.Nil, g.ID, loan.input); err != nil {
			return fmt.Errorf("%s: %w", loan.gear, told(err))
		}
	}
	return nil
}

func (l *loader) kits() error {
	for _, k := range fourteen {
		in := kits.KitInput{Name: k.name, Sort: k.sort}
		for _, w := range k.lines {
			one := model.KitLine{What: w.what, Amount: w.amount, Per: w.per, Nice: w.nice}
			for _, c := range w.choices {
				if tag, is := strings.CutPrefix(c, "#"); is {
					one.Choices = append(one.Choices, model.KitChoice{Tag: tag})
					continue
				}
				g, err := l.named(c)
				if err != nil {
					return fmt.Errorf("kit %s: %w", k.name, err)
				}
				one.Choices = append(one.Choices, model.KitChoice{GearID: &g.ID})
			}
			in.Lines = append(in.Lines, one)
		}
		if _, err := l.app.Kits.SaveKit(l.ctx, l.actor, uuid.Nil, uuid.Nil, 0, in); err != nil {
			return fmt.Errorf("kit %s: %w", k.name, told(err))
		}
	}
	return nil
}

// promise promises what is at hand of some kits to the trips ahead.
func (l *loader) promise() error {
	list, err := l.app.Kits.Kits(l.ctx, l.actor)
	if err != nil {
		return err
	}
	trips, err := l.app.Trips.Trips(l.ctx, l.actor)
	if err != nil {
		return err
	}
	for _, t := range trips {
		for _, k := range list {
			if t.Logged || !slices.Contains(goes[t.Name], k.Name) {
				continue
			}
			if _, err := l.app.Kits.Take(l.ctx, l.actor, uuid.Nil, t.ID, k.ID); err != nil {
				return fmt.Errorf("%s to %s: %w", k.Name, t.Name, told(err))
			}
		}
	}
	return nil
}

// arrangements keeps how Dunlin lies, and where the things of a season lie in her.
func (l *loader) arrangements() error {
	var cod []uuid.UUID
	for _, name := range codThings {
		g, err := l.named(name)
		if err != nil {
			return err
		}
		cod = append(cod, g.ID)
	}
	for name, only := range map[string][]uuid.UUID{"sound, two aboard": nil, "cod things": cod} {
		_, err := l.app.Stowing.SaveArrangement(l.ctx, l.actor, uuid.Nil, l.boat, stowing.ArrangementInput{Name: name, Gear: only})
		if err != nil {
			return fmt.Errorf("%s: %w", name, told(err))
		}
	}
	return nil
}
