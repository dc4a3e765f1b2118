package days

import (
	"cmp"
	"context"
	"math"
	"slices"

	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/core/day"
	"ergasia/core/float"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// AlongView is what lies aboard and nobody asked for on this trip, and what it costs.
type AlongView struct {
	Version int          `json:"version" doc:"Of the trip"`
	List    []AlongPiece `json:"list" doc:"The dearest first"`
	Kg      float64      `json:"kg" doc:"Of what goes along of it"`
	Ashore  []AlongPiece `json:"ashore" doc:"What stays ashore of it on this trip"`
	Never   []AlongPiece `json:"never" doc:"Of what goes along, never used on the last trips of any kind of which somebody said"`
	NeverKg float64      `json:"never_kg"`
}

// AlongPiece is a piece that could stay ashore.
type AlongPiece struct {
	GearID    uuid.UUID `json:"gear_id" format:"uuid"`
	Name      string    `json:"name"`
	Place     string    `json:"place"`
	Kg        float64   `json:"kg"`
	Freeboard float64   `json:"freeboard_m" doc:"What the lowest edge gains without it, when she lies lowest"`
	Range     float64   `json:"range_m" doc:"What she gains in range without it, about: burn as her mass (practice)"`
	Along     int       `json:"along" doc:"On the last ten trips of this kind of which somebody said what was used"`
	Used      int       `json:"used"`
	Safety    bool      `json:"safety" doc:"For need: it is not proposed to stay ashore"`
}

// neverTrips is how many trips make a thing one that is never used.
const neverTrips = 10

// Along tells what of the boat's things could stay ashore on a trip.
func (a *Wing) Along(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (AlongView, error) {
	var o *Outing
	var uses, ever map[uuid.UUID]trips.Uses
	var list []model.Gear
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		if o, err = a.Load(tx, actor, trip, nil); err != nil {
			return err
		}
		if uses, err = trips.UsesOf(tx, o.Trip.Kind); err != nil {
			return err
		}
		if ever, err = trips.UsesOf(tx, ""); err != nil {
			return err
		}
		return store.All(tx, &list, "name, id", "id IN ?", append([]uuid.UUID{uuid.Nil}, o.Trip.Ashore...))
	})
	v := AlongView{List: []AlongPiece{}, Ashore: []AlongPiece{}, Never: []AlongPiece{}}
	if err != nil || o.Laden == nil {
		return v, err
	}
	o.Laden.Stop = func() bool { return ctx.Err() != nil }
	v.Version = o.Trip.Version
	for _, g := range list {
		v.Ashore = append(
			v.Ashore,
			AlongPiece{GearID: g.ID, Name: g.Name, Kg: g.Kg * float64(g.Count), Along: uses[g.ID].Along,
				Used: uses[g.ID].Used, Safety: o.Laden.Safety(g)},
		)
	}
	d := o.Day()
	lowest, figures := o.lowest(d)
	total := lowest.Total().Kg
	for i, g := range o.gearMasses(d) {
		if o.Promised[g.ID] || ctx.Err() != nil {
			continue
		}
		p := AlongPiece{
			GearID: g.ID,
			Name:   g.Name,
			Kg:     g.Mass.Kg,
			Along:  uses[g.ID].Along,
			Used:   uses[g.ID].Used,
			Safety: o.Laden.Safety(g.Gear),
		}
		if g.Place != nil {
			p.Place = g.Place.Name
		}
		if figures != nil {
			p.Freeboard = o.gained(lowest, figures, i)
		}
		if total > 0 && len(o.Fuel.Lacks) == 0 {
			p.Range = o.Fuel.Answer.Range * g.Mass.Kg / total
		}
		v.List = append(v.List, p)
		v.Kg += p.Kg
		if e := ever[g.ID]; e.Along >= neverTrips && e.Used == 0 && !p.Safety {
			p.Along, p.Used = e.Along, e.Used
			v.Never = append(v.Never, p)
			v.NeverKg += p.Kg
		}
	}
	dearest := func(a, b AlongPiece) int { return cmp.Or(cmp.Compare(b.Kg, a.Kg), cmp.Compare(a.Name, b.Name)) }
	slices.SortFunc(v.List, dearest)
	slices.SortFunc(v.Never, dearest)
	return v, ctx.Err()
}

// lowest is the load with which she lies lowest in the day, and how.
func (o *Outing) lowest(d day.Day) (float.Load, *float.Figures) {
	if d.Check() != nil {
		s := o.Laden.Solved()
		return s.Load, s.Figures
	}
	load, least := d.Start, math.Inf(1)
	var figures *float.Figures
	for _, m := range d.Moments(0, o.Laden.Stop) {
		if f := m.Result.Figures; f != nil && f.Lowest.M < least {
			load, least, figures = m.Load, f.Lowest.M, f
		}
	}
	return load, figures
}

// gained is what the lowest edge gains without one mass, metres.
func (o *Outing) gained(l float.Load, f *float.Figures, mass int) float64 {
	l.Masses = slices.Clone(l.Masses)
	l.Masses[mass].Kg = 0
	without := o.Laden.Craft.Float.Solve(l, nil).Figures
	if without == nil {
		return 0
	}
	return without.Lowest.M - f.Lowest.M
}
