package app

import (
	"context"
	"encoding/json"
	"fmt"

	"ergasia/core/road"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// TrailerInput is a boat's trailer. x counts from the foot of the transom as she
// sits on it. A rating of 0 is not known.
type TrailerInput struct {
	Kg           float64 `json:"kg" doc:"Empty"`
	CG           float64 `json:"cg_m" doc:"x of its own centre"`
	Axle         float64 `json:"axle_m" doc:"x of the axle, or the middle of two"`
	Hitch        float64 `json:"hitch_m" doc:"x of the ball"`
	RatedKg      float64 `json:"rated_kg"`
	AxleRatedKg  float64 `json:"axle_rated_kg"`
	HitchRatedKg float64 `json:"hitch_rated_kg" doc:"Least of coupling, ball and car"`
	Tyres        int     `json:"tyres"`
	TyreRatedKg  float64 `json:"tyre_rated_kg"`
	TyreBar      float64 `json:"tyre_pressure_bar"`
	BrakedOverKg float64 `json:"braked_over_kg" doc:"Mass over which brakes are asked for where it is registered"`
	Brakes       bool    `json:"brakes"`
	Straps       int     `json:"straps"`
	StrapRatedKg float64 `json:"strap_rated_kg"`
	School       string  `json:"school" enum:"boat,america,europe" doc:"Whose share of hitch load the crew holds to"`
}

func (t TrailerInput) core() road.Trailer {
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
	Rides  string    `json:"rides" enum:"boat,car,van"`
	Out    bool      `json:"should_ride_elsewhere"`
}

// Road is how boat and gear ride.
type Road struct {
	Trailer  *TrailerInput `json:"trailer,omitempty"`
	Version  int           `json:"version" doc:"Of the boat, to change the trailer with"`
	TotalKg  float64       `json:"total_kg"`
	AxleKg   float64       `json:"axle_kg"`
	HitchKg  float64       `json:"hitch_kg"`
	Share    float64       `json:"share"`
	Met      bool          `json:"met"`
	MoveM    float64       `json:"move_m" doc:"Shift her forward on the trailer so far, aft where negative, for the middle of the school's band"`
	Rows     []RoadRow     `json:"rows"`
	Things   []Riding      `json:"things"`
	Liquids  []string      `json:"liquids" doc:"Tanks that ride with something in them"`
	Lines    []string      `json:"checklist"`
	CarKg    float64       `json:"car_kg"`
	VanKg    float64       `json:"van_kg"`
	Cautions []string      `json:"cautions"`
}

var roadCautions = []string{
	"Weigh trailer and hitch once on a public scale, and again after a refit.",
	"Plates of car, coupling and trailer, and the law where you drive, come before these figures.",
}

// Road works out the trailer of a boat with the gear that rides in her.
func (a *App) Road(ctx context.Context, actor Actor, boat uuid.UUID) (Road, error) {
	v := Road{Rows: []RoadRow{}, Things: []Riding{}, Liquids: []string{}, Lines: []string{}, Cautions: roadCautions}
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		s, err := a.snapshot(tx, actor, boat)
		if err != nil {
			return err
		}
		v.Version, v.Trailer = s.boat.Version, s.craft.trailer
		s.road(&v)
		return nil
	})
	return v, err
}

func (s *snapshot) road(v *Road) {
	var aboard []road.Mass
	for _, m := range s.craft.load.Masses {
		aboard = append(aboard, road.Mass{Name: m.Name, Kg: m.Kg, X: m.At.X})
	}
	for _, t := range s.craft.load.Tanks {
		if kg := t.Kg(); kg > 0.05 {
			aboard = append(aboard, road.Mass{Name: t.Name, Kg: kg, X: t.CG().X})
			v.Liquids = append(v.Liquids, t.Name)
		}
	}
	for _, g := range s.aboard(s.lies()) {
		r := Riding{GearID: g.ID, Name: g.Name, Place: g.place.Name, Kg: g.kg, X: g.middle.X, Rides: g.rides}
		switch g.rides {
		case "car":
			v.CarKg += r.Kg
		case "van":
			v.VanKg += r.Kg
		default:
			aboard = append(aboard, road.Mass{ID: g.ID.String(), Name: g.Name, Kg: r.Kg, X: r.X, Loose: true})
		}
		v.Things = append(v.Things, r)
	}
	if v.Trailer == nil {
		return
	}
	t := v.Trailer.core()
	w := road.Work(t, aboard, road.SchoolNamed(v.Trailer.School))
	v.TotalKg, v.AxleKg, v.HitchKg, v.Share, v.Met, v.MoveM = w.Total, w.AxleKg, w.HitchKg, w.Share, w.Met, w.Move
	for _, r := range w.Rows {
		v.Rows = append(v.Rows, RoadRow{r.Key, r.Value, figure(r.Low), figure(r.High), r.Met, r.Sentence})
	}
	for _, m := range w.Out {
		for i := range v.Things {
			v.Things[i].Out = v.Things[i].Out || v.Things[i].GearID.String() == m.ID
		}
	}
	v.Lines = road.Lines(t, w)
	for _, name := range v.Liquids {
		v.Lines = append(v.Lines, fmt.Sprintf("%s rides with something in it: it counts on the axle, and slops.", capital(name)))
	}
}

// SetTrailer keeps a boat's trailer.
func (a *App) SetTrailer(ctx context.Context, actor Actor, key, boat uuid.UUID, version int, in TrailerInput) error {
	if err := in.core().Check(""); err != nil {
		return invalid(err)
	}
	text, err := json.Marshal(in)
	if err != nil {
		return fmt.Errorf("writing the trailer: %w", err)
	}
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		_, _, err := a.once(tx, actor, key, []any{"trailer", boat, version, in}, func() (uuid.UUID, error) {
			return boat, changeBoat(tx, actor, boat, version, map[string]any{"trailer": json.RawMessage(text)})
		})
		return err
	})
}

// Ride says in what a piece that belongs aboard rides on the road.
func (a *App) Ride(ctx context.Context, actor Actor, boat, gear uuid.UUID, in string) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		var row store.Stowage
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("crew_id = ? AND gear_id = ? AND boat_id = ?", actor.Crew, gear, boat).Take(&row).Error
		if err != nil {
			return absent(err, "gear aboard")
		}
		return tx.Model(&store.Stowage{}).Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Update("rides", in).Error
	})
}
