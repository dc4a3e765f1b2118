package floating

import (
	"context"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/road"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

func trailerOf(t model.TrailerInput) road.Trailer {
	return road.Trailer{Kg: t.Kg, CG: t.CG, Axle: t.Axle, Hitch: t.Hitch, RatedKg: t.RatedKg, AxleRatedKg: t.AxleRatedKg,
		HitchRatedKg: t.HitchRatedKg, Tyres: t.Tyres, TyreRatedKg: t.TyreRatedKg, TyrePressure: t.TyreBar,
		BrakedOver: t.BrakedOverKg, Brakes: t.Brakes, Straps: t.Straps, StrapRatedKg: t.StrapRatedKg}
}

// RoadRow is a figure with what it is held to.
type RoadRow struct {
	Key      string   `json:"key" enum:"total,axle,tyre,hitch,share,brakes,straps"`
	Value    float64  `json:"value" doc:"Kilograms; a share of one for share"`
	Low      *float64 `json:"low,omitempty"`
	High     *float64 `json:"high,omitempty"`
	Met      bool     `json:"met"`
	Sentence string   `json:"sentence"`
}

// Riding is gear of the boat, and in what it rides.
type Riding struct {
	GearID uuid.UUID `json:"gear_id" format:"uuid"`
	Name   string    `json:"name"`
	Place  string    `json:"place"`
	Kg     float64   `json:"kg"`
	X      float64   `json:"x_m"`
	Rides  string    `json:"rides" words:"rides"`
	Out    bool      `json:"should_ride_elsewhere"`
}

// Road is how boat and gear ride.
type Road struct {
	Trailer  *model.TrailerInput `json:"trailer,omitempty"`
	Version  int                 `json:"version" doc:"Of the boat, to change the trailer with"`
	TotalKg  float64             `json:"total_kg"`
	AxleKg   float64             `json:"axle_kg"`
	HitchKg  float64             `json:"hitch_kg"`
	Share    float64             `json:"share"`
	Met      bool                `json:"met"`
	MoveM    float64             `json:"move_m" doc:"Shift her forward on the trailer so far, aft where negative, for the middle of the school's band"`
	Rows     []RoadRow           `json:"rows"`
	Things   []Riding            `json:"things"`
	Liquids  []string            `json:"liquids" doc:"Tanks that ride with something in them"`
	Lines    []string            `json:"checklist"`
	CarKg    float64             `json:"car_kg"`
	VanKg    float64             `json:"van_kg"`
	Cautions []string            `json:"cautions"`
	TakeOut  []uuid.UUID         `json:"take_out" format:"uuid" doc:"What has to ride elsewhere, what helps most first"`
	Enough   bool                `json:"enough" doc:"Without that all is within limits"`
}

var roadCautions = []string{
	"Weigh trailer and hitch once on a public scale, and again after a refit.",
	"Plates of car, coupling and trailer, and the law where you drive, come before these figures.",
}

// Road works out the trailer of a boat with the gear that rides in her.
func (a *Wing) Road(ctx context.Context, actor kernel.Actor, boat uuid.UUID) (Road, error) {
	v := Road{Rows: []RoadRow{}, Things: []Riding{}, Liquids: []string{}, Lines: []string{}, Cautions: roadCautions, TakeOut: []uuid.UUID{}}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		v.Version, v.Trailer = s.Boat.Version, s.Craft.Trailer
		laden{Laden: s}.road(&v)
		return nil
	})
	return v, err
}

func (s laden) road(v *Road) {
	var rides []road.Mass
	for _, m := range s.Craft.Load.Masses {
		rides = append(rides, road.Mass{Name: m.Name, Kg: m.Kg, X: m.At.X})
	}
	for _, t := range s.Craft.Load.Tanks {
		if kg := t.Kg(); kg > 0.05 {
			rides = append(rides, road.Mass{Name: t.Name, Kg: kg, X: t.CG().X})
			v.Liquids = append(v.Liquids, t.Name)
		}
	}
	for _, g := range s.Aboard() {
		r := Riding{GearID: g.ID, Name: g.Name, Place: g.Place.Name, Kg: g.Mass.Kg, X: g.Mass.At.X, Rides: g.Rides}
		switch g.Rides {
		case "car":
			v.CarKg += r.Kg
		case "van":
			v.VanKg += r.Kg
		default:
			rides = append(rides, road.Mass{ID: g.ID.String(), Name: g.Name, Kg: r.Kg, X: r.X, Loose: true})
		}
		v.Things = append(v.Things, r)
	}
	if v.Trailer == nil {
		return
	}
	t := trailerOf(*v.Trailer)
	w := road.Work(t, rides, road.SchoolNamed(v.Trailer.School))
	v.TotalKg, v.AxleKg, v.HitchKg, v.Share, v.Met, v.MoveM = w.Total, w.AxleKg, w.HitchKg, w.Share, w.Met, w.Move
	for _, r := range w.Rows {
		v.Rows = append(v.Rows, RoadRow{Key: r.Key, Value: r.Value, Low: aboard.Finite(r.Low), High: aboard.Finite(r.High),
			Met: r.Met, Sentence: r.Sentence})
	}
	out := map[string]bool{}
	for _, m := range w.Out {
		if id, err := uuid.Parse(m.ID); err == nil {
			v.TakeOut, out[m.ID] = append(v.TakeOut, id), true
		}
		for i := range v.Things {
			v.Things[i].Out = v.Things[i].Out || v.Things[i].GearID.String() == m.ID
		}
	}
	left := slices.DeleteFunc(slices.Clone(rides), func(m road.Mass) bool { return out[m.ID] && m.ID != "" })
	v.Enough = len(v.TakeOut) > 0 && road.Work(t, left, road.SchoolNamed(v.Trailer.School)).Met
	v.Lines = road.Lines(t, w, s.Units)
	for _, name := range v.Liquids {
		v.Lines = append(v.Lines, fmt.Sprintf("%s rides with something in it: it counts on the axle, and slops.",
			kernel.Capital(name)))
	}
}

// SetTrailer keeps a boat's trailer.
func (a *Wing) SetTrailer(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, version int,
	in model.TrailerInput) error {
	if err := trailerOf(in).Check(""); err != nil {
		return refuse.Faulty(err)
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"trailer", boat, version, in}, func() (uuid.UUID, error) {
			return boat, fleet.ChangeBoat(tx, boat, version, map[string]any{"trailer": &in})
		})
		return err
	})
}

// Ride says in what a piece that belongs aboard rides on the road.
func (a *Wing) Ride(ctx context.Context, actor kernel.Actor, boat, gear uuid.UUID, in string) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Stowage
		err := store.Locked(tx, &row, "gear_id = ? AND boat_id = ?", gear, boat)
		if err != nil {
			return kernel.Absent(err, "gear aboard")
		}
		return store.Set[model.Stowage](tx, map[string]any{"rides": in}, "gear_id = ?", gear)
	})
}
