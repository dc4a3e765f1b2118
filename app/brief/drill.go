package brief

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/safety"
	"ergasia/core/check"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Sought is something that is looked for in the drill.
type Sought struct {
	GearID  uuid.UUID `json:"gear_id" format:"uuid"`
	Name    string    `json:"name"`
	Class   string    `json:"class" words:"safety_classes"`
	PlaceID uuid.UUID `json:"place_id" format:"uuid" doc:"Where it lies"`
	Seconds *float64  `json:"seconds,omitempty" doc:"A hand takes to it"`
}

// Knows is how well somebody knows where things are.
type Knows struct {
	Name    string  `json:"name"`
	Tries   int     `json:"tries"`
	AtOnce  int     `json:"at_once" doc:"Found in the first place looked into"`
	Seconds float64 `json:"seconds" doc:"The middle of the times, of those found"`
}

// Mistaken is a thing that people look for in a wrong place first.
type Mistaken struct {
	GearID  uuid.UUID `json:"gear_id" format:"uuid"`
	Name    string    `json:"name"`
	PlaceID uuid.UUID `json:"place_id" format:"uuid" doc:"Into which they look first"`
	Place   string    `json:"place"`
	Lies    string    `json:"lies" doc:"Where it lies"`
	Times   int       `json:"times"`
	Of      int       `json:"of" doc:"Tries at it"`
}

// DrillView is the find drill of a boat.
type DrillView struct {
	ID       uuid.UUID        `json:"id" format:"uuid"`
	Name     string           `json:"name"`
	Lines    hull.Lines       `json:"lines"`
	Places   []fleet.PlaceRef `json:"places"`
	Sought   []Sought         `json:"sought"`
	Knows    []Knows          `json:"knows"`
	Mistaken []Mistaken       `json:"mistaken" doc:"What people look for in a wrong place first: plans of hers weigh it as a wish"`
}

// keptDrills is how many tries of a boat count. Practice, no source.
const keptDrills = 500

// Drill gives what can be looked for aboard, and what came of it so far.
func (a *Wing) Drill(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (DrillView, error) {
	var v DrillView
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		v = DrillView{
			ID:       s.Boat.ID,
			Name:     s.Boat.Name,
			Lines:    s.Craft.Lines,
			Places:   []fleet.PlaceRef{},
			Sought:   []Sought{},
			Knows:    []Knows{},
			Mistaken: []Mistaken{},
		}
		for _, p := range s.Places {
			v.Places = append(v.Places, fleet.PlaceRef{ID: p.ID, Version: p.Version, PlaceInput: fleet.PlaceInputOf(p)})
		}
		for _, p := range safety.Pieces(s, func(model.Gear) bool { return false }) {
			if p.Gear != nil && p.Place != nil {
				v.Sought = append(
					v.Sought,
					Sought{GearID: p.Gear.ID, Name: p.Gear.Name, Class: p.Class, PlaceID: *p.Place,
						Seconds: p.Seconds},
				)
			}
		}
		rows, err := drillsOf(tx, boat)
		if err != nil {
			return err
		}
		v.Knows, v.Mistaken = knows(rows), mistaken(s, rows)
		return nil
	})
	return v, err
}

func drillsOf(tx *store.Tx, boat uuid.UUID) (rows []model.Drill, err error) {
	if err := store.Some(tx, &rows, keptDrills, "at DESC, id", "boat_id = ?", boat); err != nil {
		return nil, fmt.Errorf("reading the drills: %w", err)
	}
	return rows, nil
}

func knows(rows []model.Drill) []Knows {
	list := []Knows{}
	times := map[string][]float64{}
	for _, r := range rows {
		i := slices.IndexFunc(list, func(k Knows) bool { return k.Name == r.Name })
		if i < 0 {
			list = append(list, Knows{Name: r.Name})
			i = len(list) - 1
		}
		list[i].Tries++
		if r.Found && len(r.Wrong) == 0 {
			list[i].AtOnce++
		}
		if r.Found {
			times[r.Name] = append(times[r.Name], r.Seconds)
		}
	}
	for i := range list {
		if t := times[list[i].Name]; len(t) > 0 {
			slices.Sort(t)
			list[i].Seconds = t[len(t)/2]
		}
	}
	slices.SortFunc(list, func(a, b Knows) int { return cmp.Compare(a.Name, b.Name) })
	return list
}

// leastMistaken is how often a wrong place must be looked into first before that counts.
// Practice, no source.
const leastMistaken = 2

func mistaken(s *aboard.Laden, rows []model.Drill) []Mistaken {
	list := []Mistaken{}
	for gear, places := range firstLooks(rows) {
		g := s.Thing(gear)
		at := s.Stowage[gear]
		if g == nil || at.PlaceID == nil || s.Place(*at.PlaceID) == nil {
			continue
		}
		for place, n := range places.at {
			p := s.Place(place)
			if p == nil || place == *at.PlaceID || n < leastMistaken {
				continue
			}
			list = append(
				list,
				Mistaken{GearID: gear, Name: g.Name, PlaceID: place, Place: p.Name, Lies: s.Place(*at.PlaceID).Name,
					Times: n, Of: places.tries},
			)
		}
	}
	slices.SortFunc(list, func(a, b Mistaken) int {
		return cmp.Or(cmp.Compare(b.Times, a.Times), cmp.Compare(a.Name, b.Name), cmp.Compare(a.Place, b.Place))
	})
	return list
}

// looks are into which places people looked first for a thing.
type looks struct {
	tries int
	at    map[uuid.UUID]int
}

func firstLooks(rows []model.Drill) map[uuid.UUID]looks {
	all := map[uuid.UUID]looks{}
	for _, r := range rows {
		l, ok := all[r.GearID]
		if !ok {
			l.at = map[uuid.UUID]int{}
		}
		l.tries++
		if len(r.Wrong) > 0 {
			l.at[r.Wrong[0]]++
		}
		all[r.GearID] = l
	}
	return all
}

// Wishes are, for each thing, the places that people look into first for it, as shares of
// the tries: a plan weighs them.
func Wishes(tx *store.Tx, boat uuid.UUID) (map[uuid.UUID]map[uuid.UUID]float64, error) {
	rows, err := drillsOf(tx, boat)
	if err != nil {
		return nil, err
	}
	wishes := map[uuid.UUID]map[uuid.UUID]float64{}
	for gear, l := range firstLooks(rows) {
		for place, n := range l.at {
			if n < leastMistaken {
				continue
			}
			if wishes[gear] == nil {
				wishes[gear] = map[uuid.UUID]float64{}
			}
			wishes[gear][place] = float64(n) / float64(l.tries)
		}
	}
	return wishes, nil
}

// DrillTry is one try of the drill.
type DrillTry struct {
	Name    string      `json:"name" doc:"Who looked for it; of a member, the member's name"`
	GearID  uuid.UUID   `json:"gear_id" format:"uuid"`
	Seconds float64     `json:"seconds"`
	Found   bool        `json:"found"`
	Wrong   []uuid.UUID `json:"wrong" format:"uuid" maxItems:"40" doc:"Places that were looked into before, in order"`
}

// Tried keeps one try of the drill.
func (a *Wing) Tried(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in DrillTry) error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.Within("seconds", in.Seconds, 0, 3600)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"drill", boat, in}, func() (uuid.UUID, error) {
			var at model.Stowage
			if err := store.One(tx, &at, "gear_id = ? AND boat_id = ?", in.GearID, boat); err != nil {
				return boat, kernel.Absent(err, "gear aboard")
			}
			row := model.Drill{ID: store.NewID(), CrewID: actor.Crew, BoatID: boat, Name: in.Name, GearID: in.GearID,
				PlaceID: at.PlaceID, Seconds: in.Seconds, Found: in.Found, At: a.Now(), Wrong: []uuid.UUID{}}
			known, err := placesOf(tx, boat)
			if err != nil {
				return boat, err
			}
			for _, w := range in.Wrong {
				if known[w] && (at.PlaceID == nil || w != *at.PlaceID) && !slices.Contains(row.Wrong, w) {
					row.Wrong = append(row.Wrong, w)
				}
			}
			var m model.Member
			if err := store.One(tx, &m, "name = ? AND left_at IS NULL", in.Name); err == nil {
				row.MemberID = &m.ID
			}
			return boat, a.keep(tx, boat, row)
		})
		return err
	})
}

// keep adds a try, and lets the oldest go.
func (a *Wing) keep(tx *store.Tx, boat uuid.UUID, row model.Drill) error {
	if err := store.Add(tx, &row); err != nil {
		return fmt.Errorf("keeping the try: %w", err)
	}
	_, err := tx.Do(`DELETE FROM drill WHERE crew_id = @crew AND boat_id = @boat AND id IN (
		SELECT id FROM drill WHERE crew_id = @crew AND boat_id = @boat ORDER BY at DESC, id OFFSET @most)`,
		store.Args{"boat": boat, "most": keptDrills})
	return err
}

func placesOf(tx *store.Tx, boat uuid.UUID) (map[uuid.UUID]bool, error) {
	var ids []uuid.UUID
	if err := store.Pluck[model.Place](tx, "id", &ids, "boat_id = ?", boat); err != nil {
		return nil, fmt.Errorf("reading the places: %w", err)
	}
	known := map[uuid.UUID]bool{}
	for _, id := range ids {
		known[id] = true
	}
	return known, nil
}

// Forget takes all tries of a boat away.
func (a *Wing) Forget(ctx context.Context, actor kernel.Actor, boat uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var s kernel.Stroke
		if err := s.Gone(tx, "boat_id = @id", store.Args{"id": boat}, "drill"); err != nil {
			return err
		}
		if len(s.Rows) == 0 {
			return nil
		}
		if err := a.Undoable(tx, actor, kernel.ChangeBoat, "The drill's tries were forgotten.", s); err != nil {
			return err
		}
		return store.Remove[model.Drill](tx, "boat_id = ?", boat)
	})
}
