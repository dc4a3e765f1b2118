package calc

import (
	"encoding/json"
	"time"

	"ergasia/core/capacity"
	"ergasia/core/check"
	"ergasia/core/float"
)

type capacityIn struct {
	boatIn
	BoatKg      float64  `json:"boat_kg"`
	FuelKg      *float64 `json:"permanent_fuel_kg"`
	MotorKg     float64  `json:"motor_kg"`
	RatedHP     float64  `json:"rated_hp"`
	Propulsion  string   `json:"propulsion"`
	Kind        string   `json:"kind"`
	Flat        bool     `json:"flat_bottom"`
	Remote      bool     `json:"remote_steering"`
	TransomBeam float64  `json:"transom_beam_m"`
	Edge        vec      `json:"edge_m"`
}

type capacityOut struct {
	Applies     bool     `json:"applies"`
	Why         string   `json:"why,omitempty"`
	Maximum     *float64 `json:"maximum_kg"`
	Weight      *float64 `json:"weight_kg"`
	PersonsKg   *float64 `json:"persons_kg"`
	Persons     *int     `json:"persons"`
	SideLoad    *float64 `json:"side_load_kg"`
	SideAt      string   `json:"side_at,omitempty"`
	Power       *float64 `json:"power_hp"`
	PowerFactor *float64 `json:"power_factor"`
	Motor       *float64 `json:"motor_kg"`
}

// lighterThanWater tells fuel from water, kg/m³.
const lighterThanWater = 900

// fuel is what the built-in tanks hold full.
func (in capacityIn) fuel(l float.Load) (kg float64) {
	if in.FuelKg != nil {
		return *in.FuelKg
	}
	for _, t := range l.Tanks {
		if t.Density < lighterThanWater {
			t.Fill = 1
			kg += t.Kg()
		}
	}
	return kg
}

func runCapacity(data []byte, _ time.Time) (any, error) {
	var in capacityIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	h, _, l, err := in.ready()
	if err != nil {
		return nil, err
	}
	if in.Kind == "" {
		in.Kind = "monohull"
	}
	b := capacity.Boat{Hull: h, Load: l, BoatKg: in.BoatKg, FuelKg: in.fuel(l), MotorKg: in.MotorKg,
		RatedHP: in.RatedHP, Propulsion: in.Propulsion, Kind: in.Kind,
		FlatBottom: in.Flat, TransomBeam: in.TransomBeam, Remote: in.Remote, Edge: in.Edge.r3()}
	if err := b.Check(); err != nil {
		return nil, err
	}
	f, err := capacity.Work(b)
	if err != nil {
		return nil, err
	}
	out := capacityOut{Applies: f.Applies, Why: f.Why, SideAt: f.SideAt}
	if f.Applies {
		out.Maximum, out.Weight, out.PersonsKg, out.Persons = figure(f.MaximumKg), figure(f.WeightKg), figure(f.PersonsKg),
			&f.Persons
		out.Motor = figure(f.MotorKg)
		out.SideLoad = figure(f.SideLoadKg)
		if in.Propulsion == capacity.Outboard {
			out.Power, out.PowerFactor = figure(f.Horsepower), figure(f.PowerFactor)
		}
	}
	return out, nil
}
