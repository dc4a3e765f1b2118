package weighing

import (
	"context"
	"fmt"
	"hash/fnv"
	"math"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/units"
	"ergasia/core/weigh"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// ToWeigh is gear whose mass nobody weighed.
type ToWeigh struct {
	GearID  uuid.UUID `json:"gear_id" format:"uuid"`
	Name    string    `json:"name"`
	Count   int       `json:"count"`
	Kg      float64   `json:"kg" doc:"Of one, as it is taken to be"`
	Known   string    `json:"mass_known"`
	HeldKg  float64   `json:"held_kg" doc:"Of what it holds, which hangs with it"`
	Where   string    `json:"where"`
	Moves   float64   `json:"moves_m" doc:"How far one standard deviation of its mass moves the lowest corner of the boat, metres; 0 ashore"`
	Version int       `json:"version"`
}

// weighMost is how much a walk through unweighed gear lists.
const weighMost = 200

// Weighing lists gear that was never weighed, what matters most to how the boat
// floats first, then what is ashore.
func (a *Wing) Weighing(ctx context.Context, actor kernel.Actor, boat uuid.UUID) ([]ToWeigh, error) {
	list := []ToWeigh{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		rows, err := gear.Rows(tx, `WHERE gear.crew_id = @crew AND gear.mass_known = 'guess' AND gear.count > 0
			ORDER BY at.boat_id IS NULL, at.boat_id <> @boat, gear.kg * gear.count DESC, gear.id LIMIT @most`,
			store.Args{"boat": boat, "most": weighMost})
		if err != nil {
			return err
		}
		views, err := gear.ViewRows(tx, rows)
		if err != nil {
			return err
		}
		byID := map[string]gear.GearRow{}
		for _, v := range views {
			byID[v.ID.String()] = v
		}
		stiffness, middle := laden{Laden: s}.stiffness()
		for _, u := range weigh.Order(stiffness, laden{Laden: s}.unweighed(views, middle)) {
			v := byID[u.ID]
			list = append(list, ToWeigh{GearID: v.ID, Name: v.Name, Count: v.Count, Kg: v.Kg, Known: v.MassKnown,
				HeldKg: v.TotalKg - v.Kg*float64(v.Count), Where: v.Spot.Text, Moves: stiffness.Effect(u), Version: v.Version})
		}
		return nil
	})
	return list, err
}

// stiffness of the boat as she lies now, and where her waterplane's centre is;
// nought where she has no attitude.
func (s laden) stiffness() (weigh.Stiffness, float64) {
	g := s.Solved().Result.Figures
	if g == nil {
		return weigh.Stiffness{}, 0
	}
	low, high, beam := math.Inf(1), math.Inf(-1), 0.0
	for _, st := range s.Craft.Hull.Stations {
		low, high = math.Min(low, st.X), math.Max(high, st.X)
		for _, p := range st.Half {
			beam = math.Max(beam, p.Y)
		}
	}
	return weigh.Stiffness{KgPerM: g.KgPerCm * 100, Pitch: g.DisplacementKg * g.GML, Roll: g.DisplacementKg * g.GMT,
		HalfLen: math.Max(g.LCF-low, high-g.LCF), HalfB: beam}, g.LCF
}

// unweighed says how unsure each mass is, and where it lies from the middle.
func (s laden) unweighed(views []gear.GearRow, middle float64) []weigh.Unweighed {
	at := map[uuid.UUID]aboard.GearAboard{}
	for _, g := range append(s.Aboard(), s.Carried()...) {
		at[g.ID] = g
	}
	var list []weigh.Unweighed
	for _, v := range views {
		kg := v.Kg * float64(v.Count)
		u := weigh.Unweighed{ID: v.ID.String(), Kg: kg, Sigma: kg * float.KnownSigma[v.MassKnown], Away: true}
		root := v.ID
		if s.Thing(v.ID) != nil {
			root = s.Root(v.ID)
		}
		if g, aboard := at[root]; aboard {
			u.Away, u.X, u.Y = false, g.Mass.At.X-middle, g.Mass.At.Y
		}
		list = append(list, u)
	}
	return list
}

// Weighed keeps what the scale showed for a piece: kg is of all that hung on it,
// the tare taken off, with what the piece holds.
func (a *Wing) Weighed(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	kg float64) (gear.GearView, error) {
	var fs check.Faults
	fs.Within("kg", kg, 0.001, 1000)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return gear.GearView{}, err
	}
	var now model.Gear
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"weighed", id, version, kg}, func() (uuid.UUID, error) {
			var was model.Gear
			if err := store.Locked(tx, &was, "id = ?", id); err != nil {
				return id, kernel.Absent(err, "gear")
			}
			if was.Version != version {
				return id, refuse.Stale(was.Name, gear.ViewGear(was))
			}
			held, err := gear.HeldBy(tx, []uuid.UUID{id})
			if err != nil {
				return id, err
			}
			row := was
			row.Kg, row.MassKnown = (kg-held[id].Kg)/float64(max(was.Count, 1)), "weighed"
			if mass := units.SystemNamed(actor.Units).Mass; row.Kg <= 0 || row.Kg > 500 {
				return id, &refuse.Error{Kind: refuse.Refused,
					Sentence: fmt.Sprintf("%s holds %s by the list, and %s hung on the scale: weigh it empty, or put its list right.",
						kernel.Capital(was.Name), mass.Text(held[id].Kg, 2), mass.Text(kg, 2))}
			}
			row.Kg = math.Round(row.Kg*1000) / 1000
			return id, a.gear.ChangeGear(tx, actor, was, row)
		})
		if err != nil {
			return err
		}
		return kernel.Absent(store.One(tx, &now, "id = ?", id), "gear")
	})
	return gear.ViewGear(now), err
}

// Pretend hangs a piece on the simulated scale, or nothing. What it "really"
// weighs is made up from its id, near what the list says: as far off as a guess is.
func (a *Wing) Pretend(ctx context.Context, actor kernel.Actor, id *uuid.UUID) error {
	if id == nil {
		return a.scale.pretend(0)
	}
	var kg float64
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var g model.Gear
		if err := store.One(tx, &g, "id = ?", *id); err != nil {
			return kernel.Absent(err, "gear")
		}
		held, err := gear.HeldBy(tx, []uuid.UUID{g.ID})
		h := fnv.New32a()
		_, _ = h.Write(g.ID[:]) // never fails
		off := 2*float64(h.Sum32())/math.MaxUint32 - 1
		kg = g.Kg*float64(g.Count)*(1+1.5*off*float.KnownSigma[g.MassKnown]) + held[g.ID].Kg
		return err
	})
	if err != nil {
		return err
	}
	return a.scale.pretend(kg)
}
