package days

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/catch"
	"ergasia/core/check"
	"ergasia/core/ice"
	"ergasia/core/units"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gonum.org/v1/gonum/spatial/r3"
)

// CatchView is what was caught on a trip, what of it is kept, and what goes back.
type CatchView struct {
	Fish     []CaughtFish    `json:"fish" doc:"The heaviest first"`
	Kept     float64         `json:"kept_kg" doc:"Of the best"`
	All      float64         `json:"all_kg" doc:"Aboard, the best and the others"`
	BestOf   int             `json:"best_of" doc:"How many count; 0 is all"`
	Goes     string          `json:"goes,omitempty" doc:"Which goes back, as a sentence"`
	Species  []catch.Species `json:"species"`
	Own      bool            `json:"own" doc:"The crew changed the table of species"`
	Holds    []FishBox       `json:"holds" doc:"How long a fish each box and bag takes, the longest first"`
	StartsOn kernel.Date     `json:"starts_on"`
	Until    string          `json:"until,omitempty" doc:"The mark that counts: the weigh-in"`
	UntilAt  *float64        `json:"until_min,omitempty" doc:"Minutes after midnight of the first day"`
	Ice      string          `json:"ice,omitempty" doc:"What chilling the catch takes, as a sentence"`
	Places   []DayBox        `json:"places" doc:"Where fish can lie"`
}

// CaughtFish is a fish with whether it counts.
type CaughtFish struct {
	model.Fish
	Counts bool   `json:"counts"`
	In     string `json:"in"`
}

// FishBox is a box, a bag or a place, and the longest fish that lies in it.
type FishBox struct {
	Name    string  `json:"name"`
	Longest float64 `json:"longest_m" doc:"From corner to corner inside; a thick fish takes less"`
}

// mostFish of a trip: each is a line of it.
const mostFish = 500

// Catch is what was caught on a trip.
func (a *Wing) Catch(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (v CatchView, err error) {
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		o, err := a.Load(tx, actor, trip, nil)
		if err != nil {
			return err
		}
		table, own, err := speciesOf(tx)
		if err != nil {
			return err
		}
		v = o.catch(table)
		v.Own = own
		return nil
	})
	return v, err
}

// speciesOf is what the crew's fish weigh, and whether it changed the usual table.
func speciesOf(tx *store.Tx) ([]catch.Species, bool, error) {
	var crew model.Crew
	if err := store.One(tx, &crew, ""); err != nil {
		return nil, false, kernel.Absent(err, "crew")
	}
	if len(crew.Species) == 0 {
		return catch.Usual, false, nil
	}
	return crew.Species, true, nil
}

func (o *Outing) catch(table []catch.Species) CatchView {
	v := CatchView{
		StartsOn: kernel.DayOf(o.Trip.StartsOn),
		Fish:     []CaughtFish{},
		BestOf:   o.Plan.BestOf,
		Species:  table,
		Holds:    o.holds(),
		Places:   []DayBox{},
	}
	var aboardNow []catch.Fish
	for _, f := range o.Trip.Catch {
		if !f.Back {
			aboardNow = append(aboardNow, catch.Fish{ID: f.ID.String(), Kg: f.Kg})
			v.All += f.Kg
		}
	}
	kept, back, total := catch.Best(aboardNow, v.BestOf)
	v.Kept = total
	for _, f := range o.Trip.Catch {
		one := CaughtFish{
			Fish:   f,
			In:     "the livewell",
			Counts: slices.ContainsFunc(kept, func(k catch.Fish) bool { return k.ID == f.ID.String() }),
		}
		if f.Place != nil && o.Laden != nil {
			if p := o.Laden.Place(*f.Place); p != nil {
				one.In = p.Name
			}
		}
		v.Fish = append(v.Fish, one)
	}
	slices.SortStableFunc(v.Fish, func(a, b CaughtFish) int { return cmp.Compare(b.Kg, a.Kg) })
	v.Goes = o.goesBack(back)
	if o.Laden != nil {
		v.Places = o.boat().Places
		v.Ice = o.iceWords(v.All)
	}
	begins := o.Begins()
	for i, p := range o.Plan.Phases {
		if p.Kind == "weigh-in" {
			v.Until, v.UntilAt = nameOf(p), &begins[i]
		}
	}
	return v
}

// iceWords say what chilling the catch takes, and how long the ice then lasts.
func (o *Outing) iceWords(kg float64) string {
	said := []string{}
	chills := ice.Chills(kg, o.Plan.Water)
	if kg > 0 {
		said = append(said, fmt.Sprintf("Chilling %s from %s takes %s of ice.", o.Laden.MassText(kg),
			o.Laden.Units.Temperature(o.Plan.Water), o.Laden.Units.Mass.Text(chills, 1)))
	}
	for _, c := range o.Plan.Coolers {
		p := o.Laden.Place(c.Place)
		hours := ice.Lasts(max(0, c.Ice-chills), c.UA, o.Plan.Air)
		if p == nil || math.IsInf(hours, 0) {
			continue
		}
		said = append(said, fmt.Sprintf("%s in %s lasts %.0f h then.", o.Laden.MassText(c.Ice), p.Name, hours))
	}
	return strings.Join(said, " ")
}

// goesBack says which fish goes back, by its tag where it has one.
func (o *Outing) goesBack(back []catch.Fish) string {
	if len(back) == 0 {
		return ""
	}
	least := back[len(back)-1]
	for _, f := range o.Trip.Catch {
		if f.ID.String() != least.ID {
			continue
		}
		what := fmt.Sprintf("the %s of %s", f.Species, o.Laden.Units.Mass.Text(f.Kg, 2))
		if f.Tag > 0 {
			what = fmt.Sprintf("tag %d, %s", f.Tag, what)
		}
		return kernel.Capital(what) + " goes back: it does not count."
	}
	return ""
}

// holds is how long a fish each insulated place, box and bag along takes.
func (o *Outing) holds() []FishBox {
	list := []FishBox{}
	if o.Laden == nil {
		return list
	}
	for _, p := range o.Laden.Places {
		if p.Insulated {
			list = append(list, FishBox{Name: p.Name, Longest: catch.Longest(r3.Vec{X: p.Length, Y: p.Breadth, Z: p.Height})})
		}
	}
	for _, g := range o.Laden.Gear {
		at := o.Laden.Stowage[g.ID]
		along := at.BoatID != nil && *at.BoatID == o.Laden.Boat.ID || o.Promised[g.ID]
		if along && g.Container() && g.InsideLength >= leastBox {
			list = append(
				list,
				FishBox{Name: g.Name, Longest: catch.Longest(r3.Vec{X: g.InsideLength, Y: g.InsideBreadth, Z: g.InsideHeight})},
			)
		}
	}
	slices.SortStableFunc(list, func(a, b FishBox) int { return cmp.Compare(b.Longest, a.Longest) })
	return list
}

// leastBox is how long a box is inside that fish go into, metres; shorter ones are for
// lures. Practice, no source.
const leastBox = 0.45

// FishInput is a fish as it is told: by its length or its mass.
type FishInput struct {
	Species string     `json:"species"`
	Length  float64    `json:"length_m,omitempty"`
	Kg      float64    `json:"kg,omitempty" doc:"Weighed; absent where only the length is known"`
	Tag     int        `json:"tag,omitempty"`
	Place   *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"Absent: into the livewell"`
}

// AddFish notes a fish. Its mass comes from its length where nobody weighed it.
func (a *Wing) AddFish(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, in FishInput) (CatchView, error) {
	var fs check.Faults
	fs.Text("species", in.Species, 1, 40)
	fs.Within("length_m", in.Length, 0, 5)
	fs.Within("kg", in.Kg, 0, 500)
	fs.Within("tag", float64(in.Tag), 0, 999)
	if in.Length == 0 && in.Kg == 0 {
		fs.Add("length_m", nil, "give a length or a mass")
	}
	if err := refuse.Faulty(fs.Err()); err != nil {
		return CatchView{}, err
	}
	err := a.changeCatch(ctx, actor, key, trip, []any{"fish", trip, in}, func(tx *store.Tx, t *model.Trip) error {
		if len(t.Catch) >= mostFish {
			return &refuse.Error{
				Kind:     refuse.Refused,
				Sentence: fmt.Sprintf("%s has %d fish, the most there can be.", t.Name, mostFish),
			}
		}
		f := model.Fish{ID: store.NewID(), Species: in.Species, Length: in.Length, Kg: in.Kg, Weighed: in.Kg > 0, Tag: in.Tag,
			Place: in.Place, At: a.Now()}
		if in.Kg == 0 {
			table, _, err := speciesOf(tx)
			if err != nil {
				return err
			}
			s := aboard.First(table, func(s catch.Species) bool { return s.Name == in.Species })
			if s == nil {
				return &refuse.Error{Kind: refuse.Refused,
					Sentence: fmt.Sprintf(
						"What a %s of that length weighs is not in the table: weigh it, or add it there.",
						in.Species,
					)}
			}
			f.Kg = s.Kg(in.Length)
		}
		if in.Place != nil {
			if err := kernel.Absent(store.Exists[model.Place](tx, "id = ? AND boat_id = ?", *in.Place, t.BoatID), "place of the trip's boat"); err != nil {
				return err
			}
		}
		t.Catch = append(slices.Clone(t.Catch), f)
		return nil
	})
	if err != nil {
		return CatchView{}, err
	}
	return a.Catch(ctx, actor, trip)
}

// PutBack notes that a fish went back, or that it did not.
func (a *Wing) PutBack(
	ctx context.Context,
	actor kernel.Actor,
	key, trip, fish uuid.UUID,
	back bool,
) (CatchView, error) {
	err := a.changeCatch(ctx, actor, key, trip, []any{"back", trip, fish, back}, func(_ *store.Tx, t *model.Trip) error {
		t.Catch = slices.Clone(t.Catch)
		for i := range t.Catch {
			if t.Catch[i].ID == fish {
				t.Catch[i].Back = back
				return nil
			}
		}
		return refuse.Missing("fish")
	})
	if err != nil {
		return CatchView{}, err
	}
	return a.Catch(ctx, actor, trip)
}

// RemoveFish takes a fish off the list: it was noted by mistake.
func (a *Wing) RemoveFish(ctx context.Context, actor kernel.Actor, trip, fish uuid.UUID) error {
	return a.changeCatch(ctx, actor, uuid.Nil, trip, nil, func(tx *store.Tx, t *model.Trip) error {
		was := aboard.First(t.Catch, func(f model.Fish) bool { return f.ID == fish })
		if was == nil {
			return refuse.Missing("fish")
		}
		stroke := kernel.Stroke{Trip: t.ID, Fish: []model.Fish{*was}}
		said := fmt.Sprintf("The %s of %s was taken off the list.", was.Species,
			units.SystemNamed(actor.Units).Mass.Text(was.Kg, 2))
		t.Catch = slices.DeleteFunc(slices.Clone(t.Catch), func(f model.Fish) bool { return f.ID == fish })
		return a.Undoable(tx, actor, kernel.Move, said, stroke)
	})
}

// changeCatch writes a trip's catch over what it is now: fish come one by one, from
// several phones.
func (a *Wing) changeCatch(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, what []any,
	edit func(*store.Tx, *model.Trip) error) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, what, func() (uuid.UUID, error) {
			t, err := trips.Open(tx, trip)
			if err != nil {
				return trip, err
			}
			if err := edit(tx, &t); err != nil {
				return trip, err
			}
			version := t.Version
			t.Version++
			return trip, kernel.Keep(tx, &t, trip, version, "trip", t.Name)
		})
		return err
	})
}

// SetSpecies keeps what the crew's fish weigh; an empty table is the usual one again.
func (a *Wing) SetSpecies(ctx context.Context, actor kernel.Actor, table []catch.Species) error {
	var fs check.Faults
	catch.Check(&fs, "species", table)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		return store.SetOne[model.Crew](tx, map[string]any{"species": table}, "id = ?", actor.Crew)
	})
}
