package stowing

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// An arrangement is how a boat was stowed, kept under a name to come back to: all that
// was aboard ("pike, two aboard"), or some things that come and go together ("ice").

// ArrangementInput keeps how she lies now under a name.
type ArrangementInput struct {
	Name string      `json:"name"`
	Gear []uuid.UUID `json:"gear,omitempty" maxItems:"500" doc:"Only where these lie; absent: all that is aboard"`
}

// ArrangementChange names it anew, and may keep how its things lie now.
type ArrangementChange struct {
	Name    string `json:"name"`
	Again   bool   `json:"again,omitempty" doc:"How she lies now takes the place of how she lay"`
	Version int    `json:"version"`
}

// ArrangementView is a kept arrangement, and how far she is from it.
type ArrangementView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	Name    string    `json:"name"`
	Whole   bool      `json:"whole" doc:"All that was aboard; else only the things it names"`
	SavedAt time.Time `json:"saved_at"`
	SavedBy string    `json:"saved_by"`
	Things  int       `json:"things" doc:"That it names"`
	Lie     int       `json:"lie" doc:"Of those, how many lie so now"`
	Astray  []Spread  `json:"astray" doc:"Where those are that don't lie so, most of them first"`
}

// Spread is how many things are in one place.
type Spread struct {
	Where string `json:"where"`
	Count int    `json:"count"`
}

// mostArrangements of a boat: each lists all that is aboard.
const mostArrangements = 60

// Arrangements lists those of a boat.
func (a *Wing) Arrangements(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]ArrangementView, error) {
	list := []ArrangementView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		if err := kernel.Absent(store.Exists[model.Boat](tx, "id = ?", boat), "boat"); err != nil {
			return err
		}
		var rows []model.Arrangement
		var people []model.Member
		if err := store.Some(tx, &rows, mostArrangements, "name, id", "boat_id = ?", boat); err != nil {
			return fmt.Errorf("loading the arrangements: %w", err)
		}
		if err := store.All(tx, &people, "", ""); err != nil {
			return fmt.Errorf("reading who kept them: %w", err)
		}
		for _, r := range rows {
			v, err := viewArrangement(tx, r)
			if err != nil {
				return err
			}
			if m := aboard.First(people, func(m model.Member) bool { return m.ID == r.SavedBy }); m != nil {
				v.SavedBy = m.Name
			}
			list = append(list, v)
		}
		return nil
	})
	return list, err
}

func viewArrangement(tx *store.Tx, r model.Arrangement) (ArrangementView, error) {
	v := ArrangementView{ID: r.ID, Version: r.Version, Name: r.Name, Whole: r.Whole, SavedAt: r.SavedAt, Astray: []Spread{}}
	ids := []uuid.UUID{uuid.Nil}
	for _, l := range r.Lines {
		ids = append(ids, l.GearID)
	}
	var rows []model.Stowage
	if err := store.All(tx, &rows, "", "gear_id IN ?", ids); err != nil {
		return v, fmt.Errorf("looking where its things are: %w", err)
	}
	names, err := where.Names(tx, rows)
	if err != nil {
		return v, err
	}
	v.Things = len(rows)
	for _, at := range rows {
		l := aboard.First(r.Lines, func(l model.SavedSpot) bool { return l.GearID == at.GearID })
		if at.BoatID != nil && *at.BoatID == r.BoatID && l.Lies(at) { // what is in its box may be ashore with it
			v.Lie++
		} else {
			v.count(names.Ground(at))
		}
	}
	slices.SortStableFunc(v.Astray, func(a, b Spread) int { return cmp.Or(b.Count-a.Count, cmp.Compare(a.Where, b.Where)) })
	return v, nil
}

func (v *ArrangementView) count(spot string) {
	if s := aboard.First(v.Astray, func(s Spread) bool { return s.Where == spot }); s != nil {
		s.Count++
		return
	}
	v.Astray = append(v.Astray, Spread{Where: spot, Count: 1})
}

// SaveArrangement keeps how a boat lies now.
func (a *Wing) SaveArrangement(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in ArrangementInput) (uuid.UUID, error) {
	id := store.NewID()
	if err := checkName(in.Name); err != nil {
		return id, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"arrangement", boat, in}, func() (uuid.UUID, error) {
			s, err := a.where.Laden(tx, actor, boat)
			if err != nil {
				return id, err
			}
			row := model.Arrangement{ID: id, CrewID: actor.Crew, BoatID: boat, Name: in.Name, Whole: len(in.Gear) == 0,
				SavedAt: a.Now(), SavedBy: actor.Member, Version: 1}
			if row.Lines, err = spotsNow(s, in.Gear); err != nil {
				return id, err
			}
			n, err := store.Count[model.Arrangement](tx, "boat_id = ?", boat)
			if err != nil {
				return id, fmt.Errorf("counting the arrangements: %w", err)
			}
			if n >= mostArrangements {
				return id, &refuse.Error{Kind: refuse.Refused,
					Sentence: fmt.Sprintf("%s has %d arrangements: remove one first.", s.Boat.Name, n)}
			}
			return id, kernel.Keep(tx, &row, uuid.Nil, 0, "arrangement", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

func checkName(name string) error {
	var fs check.Faults
	fs.Text("name", name, 1, 80)
	return refuse.Faulty(fs.Err())
}

// spotsNow is where things lie aboard: all, or those that are asked for.
func spotsNow(s *aboard.Laden, only []uuid.UUID) ([]model.SavedSpot, error) {
	var list []model.SavedSpot
	for _, g := range s.Gear {
		at := s.Stowage[g.ID]
		if at.BoatID == nil || *at.BoatID != s.Boat.ID || len(only) > 0 && !slices.Contains(only, g.ID) {
			continue
		}
		one := model.SavedSpot{GearID: g.ID, Name: g.Name, BoxID: at.InsideID, Anyway: at.Anyway}
		if box := at.InsideID; box != nil {
			one.In = s.Thing(*box).Name
		} else if p := s.PlaceOf(g.ID); p != nil {
			one.PlaceID, one.In = at.PlaceID, p.Name
		} else {
			continue
		}
		list = append(list, one)
	}
	if len(list) == 0 {
		return nil, &refuse.Error{Kind: refuse.Refused, Sentence: "Nothing of that lies aboard " + s.Boat.Name + " now."}
	}
	return list, nil
}

// ChangeArrangement renames one, or keeps how the same things lie now: of a whole boat,
// all that is aboard now.
func (a *Wing) ChangeArrangement(ctx context.Context, actor kernel.Actor, key, boat, id uuid.UUID,
	in ArrangementChange) (uuid.UUID, error) {
	if err := checkName(in.Name); err != nil {
		return id, err
	}
	return id, a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"arrangement", id, in}, func() (uuid.UUID, error) {
			row, err := arrangementOf(tx, boat, id)
			if err != nil {
				return id, err
			}
			row.Name, row.Version = in.Name, in.Version+1
			if in.Again {
				if err := a.again(tx, actor, &row); err != nil {
					return id, err
				}
			}
			return id, kernel.Keep(tx, &row, id, in.Version, "arrangement", in.Name)
		})
		return err
	})
}

func (a *Wing) again(tx *store.Tx, actor kernel.Actor, row *model.Arrangement) error {
	s, err := a.where.Laden(tx, actor, row.BoatID)
	if err != nil {
		return err
	}
	var only []uuid.UUID
	if !row.Whole {
		for _, l := range row.Lines {
			only = append(only, l.GearID)
		}
	}
	row.SavedAt, row.SavedBy = a.Now(), actor.Member
	if row.Lines, err = spotsNow(s, only); err != nil {
		return err
	}
	was := kernel.Stroke{Over: []uuid.UUID{row.ID}}
	if err := was.Gone(tx, "id = @id", store.Args{"id": row.ID}, "arrangement"); err != nil {
		return err
	}
	return a.Undoable(tx, actor, kernel.Move, "The arrangement "+row.Name+" is how "+s.Boat.Name+" lies now.", was)
}

func arrangementOf(tx *store.Tx, boat, id uuid.UUID) (row model.Arrangement, err error) {
	return row, kernel.Absent(store.One(tx, &row, "id = ? AND boat_id = ?", id, boat), "arrangement")
}

// RemoveArrangement forgets one; nothing is moved.
func (a *Wing) RemoveArrangement(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		row, err := arrangementOf(tx, boat, id)
		if err != nil {
			return err
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "arrangement"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.Move, "The arrangement "+row.Name+" was removed.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Arrangement](tx, "id = ?", id), "arrangement")
	})
}
