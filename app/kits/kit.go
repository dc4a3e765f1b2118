package kits

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/check"
	"ergasia/core/find"
	"ergasia/core/kit"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// KitInput is a kit as it is written.
type KitInput struct {
	Name  string          `json:"name"`
	Sort  string          `json:"sort" words:"kit_sorts"`
	Lines []model.KitLine `json:"lines" minItems:"1" maxItems:"100"`
}

func (in KitInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.OneOf("sort", in.Sort, words.KitSorts.Keys()...)
	if len(in.Lines) == 0 {
		fs.Add("lines", nil, "a kit needs a line")
	}
	for i, l := range in.Lines {
		for j, c := range l.Choices {
			if (c.GearID != nil) == (c.Tag != "") {
				fs.Add(fmt.Sprintf("lines[%d].choices[%d]", i, j), nil, "name either a piece of gear or a tag")
			}
			fs.Text(fmt.Sprintf("lines[%d].choices[%d].tag", i, j), c.Tag, 0, 40)
		}
	}
	if err := fs.Err(); err != nil {
		return refuse.Faulty(err)
	}
	return refuse.Faulty(kit.Check(coreLines(in.Lines)))
}

func coreLines(lines []model.KitLine) []kit.Line {
	var list []kit.Line
	for _, l := range lines {
		one := kit.Line{What: l.What, Amount: l.Amount, Per: kit.Per(l.Per), Nice: l.Nice}
		for _, c := range l.Choices {
			choice := kit.Choice{Tag: c.Tag}
			if len(gear.TidyTags([]string{c.Tag})) == 1 {
				choice.Tag = gear.TidyTags([]string{c.Tag})[0]
			}
			if c.GearID != nil {
				choice.Gear = c.GearID.String()
			}
			one.Choices = append(one.Choices, choice)
		}
		list = append(list, one)
	}
	return list
}

// KitView is a kit with how much of it is ready.
type KitView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	KitInput
	Missing int `json:"missing" doc:"Pieces that can't go, for one boat, two people, four rods and a day"`
}

// usual is what kits are reckoned for where no trip is chosen. Practice.
var usual = kit.Outing{Persons: 2, Rods: 4, Days: 1}

// Kits lists the kits.
func (a *Wing) Kits(ctx context.Context, actor kernel.Actor) ([]KitView, error) {
	list := []KitView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var rows []model.Kit
		if err := store.Some(tx, &rows, 200, "sort, name", ""); err != nil {
			return fmt.Errorf("loading the kits: %w", err)
		}
		var all []model.KitLine
		for _, r := range rows {
			list, all = append(list, viewKit(r)), append(all, r.Lines...)
		}
		pieces, _, err := kitPieces(tx, all, a.Today(), a.Today(), uuid.Nil)
		for i := range list {
			for _, f := range kit.Answer(coreLines(list[i].Lines), pieces, usual) {
				list[i].Missing += f.Missing
			}
		}
		return err
	})
	return list, err
}

func viewKit(r model.Kit) KitView {
	return KitView{ID: r.ID, Version: r.Version, KitInput: KitInput{Name: r.Name, Sort: r.Sort, Lines: r.Lines}}
}

// SaveKit makes a kit (no id) or changes one.
func (a *Wing) SaveKit(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in KitInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return id, err
	}
	for i := range in.Lines {
		for j := range in.Lines[i].Choices {
			in.Lines[i].Choices[j].Name = "" // told, never kept: gear may be renamed
		}
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"kit", id, version, in}, func() (uuid.UUID, error) {
			if err := refers(tx, in.Lines); err != nil {
				return id, err
			}
			row := model.Kit{ID: kernel.IDOr(id), CrewID: actor.Crew, Name: in.Name, Sort: in.Sort, Lines: in.Lines,
				Version: version + 1}
			return row.ID, kernel.Keep(tx, &row, id, version, "kit", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

// refers looks whether the gear that a kit names is the crew's.
func refers(tx *store.Tx, lines []model.KitLine) error {
	var fs check.Faults
	for i, l := range lines {
		for j, c := range l.Choices {
			if c.GearID == nil {
				continue
			}
			err := store.Exists[model.Gear](tx, "id = ?", *c.GearID)
			if errors.Is(err, store.ErrNone) {
				fs.Add(fmt.Sprintf("lines[%d].choices[%d].gear_id", i, j), *c.GearID, "must be gear of this crew")
			} else if err != nil {
				return fmt.Errorf("finding the gear of the kit: %w", err)
			}
		}
	}
	return refuse.Faulty(fs.Err())
}

// RemoveKit takes a kit away; the gear stays.
func (a *Wing) RemoveKit(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Kit
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "kit")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "kit"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, "The kit "+row.Name+" was removed.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Kit](tx, "id = ?", id), "kit")
	})
}

// KitFor says for what a kit is reckoned: a trip, or a party that is told.
type KitFor struct {
	Trip    *uuid.UUID
	Boat    *uuid.UUID
	Persons int
	Rods    int
	Days    int
}

// KitAnswer is a kit held against what the crew has.
type KitAnswer struct {
	KitView
	Persons int        `json:"persons"`
	Rods    int        `json:"rods"`
	Days    int        `json:"days"`
	Boat    string     `json:"boat,omitempty"`
	Found   []KitFound `json:"found"`
	Kg      float64    `json:"kg" doc:"Of what can go"`
}

// KitFound is how a line fares.
type KitFound struct {
	Wanted  int       `json:"wanted"`
	Ready   int       `json:"ready"`
	Missing int       `json:"missing"`
	Picks   []KitPick `json:"picks"`
	Because []string  `json:"because" doc:"Why pieces don't count"`
}

// KitPick is a piece that was chosen for a line.
type KitPick struct {
	GearID      uuid.UUID `json:"gear_id" format:"uuid"`
	Name        string    `json:"name"`
	Count       int       `json:"count"`
	State       string    `json:"state" enum:"aboard,ashore,in another boat,lent,worn,broken,out of date,promised"`
	Alternative bool      `json:"alternative"`
	Where       string    `json:"where"`
}

// Kit holds a kit against what the crew has, for a trip or a party.
func (a *Wing) Kit(ctx context.Context, actor kernel.Actor, id uuid.UUID, party KitFor) (KitAnswer, error) {
	var answer KitAnswer
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var row model.Kit
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "kit")
		}
		var err error
		answer, err = a.answerKit(tx, viewKit(row), party)
		return err
	})
	return answer, err
}

// ForTrip holds the kits of a trip against what the crew has; one that is gone is left out.
func (a *Wing) ForTrip(tx *store.Tx, t model.Trip) (list []KitAnswer, err error) {
	for _, id := range t.Kits {
		var row model.Kit
		if err := store.One(tx, &row, "id = ?", id); errors.Is(err, store.ErrNone) {
			continue
		} else if err != nil {
			return nil, fmt.Errorf("loading a kit of the trip: %w", err)
		}
		answer, err := a.answerKit(tx, viewKit(row), KitFor{Trip: &t.ID})
		if err != nil {
			return nil, err
		}
		list = append(list, answer)
	}
	return list, nil
}

// Take holds a kit against a trip from now on and promises to it what is at hand; a
// sentence for each piece that is promised elsewhere.
func (a *Wing) Take(ctx context.Context, actor kernel.Actor, key, trip, id uuid.UUID) (refused []string, err error) {
	refused = []string{}
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"take-kit", trip, id}, func() (uuid.UUID, error) {
			t, err := trips.Open(tx, trip)
			if err != nil {
				return trip, err
			}
			var row model.Kit
			if err := store.One(tx, &row, "id = ?", id); err != nil {
				return trip, kernel.Absent(err, "kit")
			}
			answer, err := a.answerKit(tx, viewKit(row), KitFor{Trip: &trip})
			if err != nil {
				return trip, err
			}
			if !slices.Contains(t.Kits, id) {
				t.Kits = append(slices.Clone(t.Kits), id)
			}
			refused, err = a.trips.PromiseAll(tx, actor, t, answer.atHand())
			if err != nil {
				return trip, err
			}
			version := t.Version
			t.Version++
			return trip, kernel.Keep(tx, &t, trip, version, "trip", t.Name)
		})
		return err
	})
	return refused, err
}

// Drop holds a kit against a trip no more; what was promised for it stays promised.
func (a *Wing) Drop(ctx context.Context, actor kernel.Actor, trip, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		t, err := trips.Open(tx, trip)
		if err != nil {
			return err
		}
		if !slices.Contains(t.Kits, id) {
			return refuse.Missing("kit of this trip")
		}
		version := t.Version
		t.Kits, t.Version = slices.DeleteFunc(slices.Clone(t.Kits), func(k uuid.UUID) bool { return k == id }), version+1
		return kernel.Keep(tx, &t, trip, version, "trip", t.Name)
	})
}

// atHand are the pieces that can go.
func (k KitAnswer) atHand() (gear []uuid.UUID) {
	for _, f := range k.Found {
		for _, p := range f.Picks {
			if p.State == string(kit.Aboard) || p.State == string(kit.Ashore) {
				gear = append(gear, p.GearID)
			}
		}
	}
	return gear
}

func (a *Wing) answerKit(tx *store.Tx, v KitView, party KitFor) (KitAnswer, error) {
	answer := KitAnswer{KitView: v, Found: []KitFound{}}
	o := kit.Outing{Persons: max(party.Persons, 1), Rods: party.Rods, Days: max(party.Days, 1)}
	first, last, trip := a.Today(), a.Today().AddDate(0, 0, o.Days-1), uuid.Nil
	boat := party.Boat
	if party.Trip != nil {
		var t model.Trip
		if err := store.One(tx, &t, "id = ?", *party.Trip); err != nil {
			return answer, kernel.Absent(err, "trip")
		}
		view := trips.ViewTrip(t)
		o.Persons, o.Rods, o.Days = t.Persons, t.Rods, view.Days()
		first, last, trip, boat = t.StartsOn, t.EndsOn, t.ID, t.BoatID
	}
	if boat != nil {
		var b model.Boat
		if err := store.One(tx, &b, "id = ?", *boat); err != nil {
			return answer, kernel.Absent(err, "boat")
		}
		o.Boat, answer.Boat = b.ID.String(), b.Name
	}
	answer.Persons, answer.Rods, answer.Days = o.Persons, o.Rods, o.Days
	pieces, ids, err := kitPieces(tx, v.Lines, first, last, trip)
	if err != nil {
		return answer, err
	}
	found := kit.Answer(coreLines(v.Lines), pieces, o)
	answer.Missing = 0
	where, masses, err := spots(tx, ids)
	if err != nil {
		return answer, err
	}
	for _, f := range found {
		answer.Missing += f.Missing
		one := KitFound{Wanted: f.Wanted, Ready: f.Ready, Missing: f.Missing, Picks: []KitPick{},
			Because: gear.Listed(f.Because)}
		for _, p := range f.Picks {
			g := ids[p.Piece.ID]
			one.Picks = append(one.Picks, KitPick{GearID: g, Name: p.Piece.Name, Count: p.Count, State: string(p.State),
				Alternative: p.Alternative, Where: where[g]})
			if p.State == kit.Aboard || p.State == kit.Ashore {
				answer.Kg += masses[g] * float64(p.Count)
			}
		}
		answer.Found = append(answer.Found, one)
	}
	nameChoices(answer.Lines, pieces)
	return answer, nil
}

func nameChoices(lines []model.KitLine, pieces []kit.Piece) {
	for i := range lines {
		for j, c := range lines[i].Choices {
			if c.GearID == nil {
				continue
			}
			if p := aboard.First(pieces, func(p kit.Piece) bool { return p.ID == c.GearID.String() }); p != nil {
				lines[i].Choices[j].Name = p.Name
			}
		}
	}
}

// spots words where pieces are, with the mass of one each.
func spots(tx *store.Tx, ids map[string]uuid.UUID) (map[uuid.UUID]string, map[uuid.UUID]float64, error) {
	where, masses := map[uuid.UUID]string{}, map[uuid.UUID]float64{}
	if len(ids) == 0 {
		return where, masses, nil
	}
	rows, err := gear.Rows(tx, "WHERE gear.crew_id = @crew AND gear.id IN @ids",
		store.Args{"ids": slices.Collect(maps.Values(ids))})
	if err != nil {
		return nil, nil, err
	}
	views, err := gear.ViewRows(tx, rows)
	for _, v := range views {
		where[v.ID], masses[v.ID] = v.Spot.Text, v.TotalKg/float64(max(v.Count, 1))
	}
	return where, masses, err
}

// kitPieces loads the gear that lines may choose, as it will be between two days,
// with the ids by the names that the engine has for them; what is promised to the
// trip itself is free for it.
func kitPieces(tx *store.Tx, lines []model.KitLine, from, last time.Time, trip uuid.UUID) ([]kit.Piece,
	map[string]uuid.UUID, error) {
	ids, tags := []uuid.UUID{}, []string{}
	for _, l := range lines {
		for _, c := range l.Choices {
			if c.GearID != nil {
				ids = append(ids, *c.GearID)
			} else if t := find.Tag(c.Tag); !slices.Contains(tags, t) {
				tags = append(tags, t)
			}
		}
	}
	rows, err := choosable(tx, tags, ids, from, last, trip)
	if err != nil {
		return nil, nil, err
	}
	list, of := make([]kit.Piece, len(rows)), map[string]uuid.UUID{}
	for i, r := range rows {
		p := kit.Piece{ID: r.ID.String(), Name: r.Name, Tags: r.Tags, Count: r.Count, BoatName: r.BoatName,
			Condition: r.Condition, Lent: r.Lent,
			Expired: r.ExpiresOn != nil && r.ExpiresOn.Before(last), Promised: r.Promised}
		if r.BoatID != nil {
			p.Boat = r.BoatID.String()
		}
		list[i], of[p.ID] = p, r.ID
	}
	return list, of, nil
}
