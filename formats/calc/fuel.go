package calc

import (
	"encoding/json"
	"fmt"
	"time"

	"ergasia/core/check"
	"ergasia/core/fuel"
)

type fuelIn struct {
	Legs []struct {
		Km     float64 `json:"km"`
		Speed  float64 `json:"speed_kmh"`
		Factor float64 `json:"factor"`
	} `json:"legs"`
	Rates []struct {
		Speed float64 `json:"speed_kmh"`
		Flow  float64 `json:"l_per_h"`
	} `json:"rates"`
	Tanks []struct {
		ID       string  `json:"id"`
		Capacity float64 `json:"capacity_l"`
		Now      float64 `json:"now_l"`
		Unusable float64 `json:"unusable_l"`
		Portable bool    `json:"portable"`
	} `json:"tanks"`
	School  string   `json:"school"`
	Fixed   float64  `json:"fixed_l"`
	Percent float64  `json:"percent"`
	Gap     *float64 `json:"air_gap"`
	Price   *float64 `json:"price_per_l"`
}

type fuelFill struct {
	Tank string  `json:"tank"`
	Add  float64 `json:"add_l"`
}

type fuelOut struct {
	Burn    float64    `json:"burn_l"`
	Legs    []float64  `json:"legs_l"`
	Reserve float64    `json:"reserve_l"`
	Need    float64    `json:"need_l"`
	Fits    bool       `json:"fits"`
	Fill    []fuelFill `json:"fill"`
	Short   float64    `json:"short_l"`
	Cost    *float64   `json:"cost,omitempty"`
	Range   float64    `json:"range_km"`
	Return  float64    `json:"return_km"`
}

const kmh = 1 / 3.6 // metres a second

func (in fuelIn) day() (fuel.Day, error) {
	d := fuel.Day{School: fuel.School(in.School), FixedL: in.Fixed, Percent: in.Percent, AirGap: fuel.AirGap}
	if in.Gap != nil {
		d.AirGap = *in.Gap
	}
	if in.Price != nil {
		d.PerLitre = *in.Price
	}
	low, high := in.Rates[0].Speed, in.Rates[0].Speed
	for _, r := range in.Rates {
		d.Rates = append(d.Rates, fuel.Rate{Speed: r.Speed * kmh, Flow: r.Flow})
		low, high = min(low, r.Speed), max(high, r.Speed)
	}
	var fs check.Faults
	for i, l := range in.Legs {
		if l.Speed < low || l.Speed > high {
			fs.Add(fmt.Sprintf("legs[%d].speed_kmh", i), l.Speed,
				fmt.Sprintf("must be within the table of rates, from %g to %g km/h", low, high))
		}
		d.Legs = append(d.Legs, fuel.Leg{Distance: l.Km * 1000, Speed: l.Speed * kmh, Factor: l.Factor})
	}
	for _, t := range in.Tanks {
		d.Tanks = append(d.Tanks, fuel.Tank{ID: t.ID, Capacity: t.Capacity, Now: t.Now, Unusable: t.Unusable, Portable: t.Portable})
	}
	if err := fs.Err(); err != nil {
		return d, err
	}
	return d, d.Check()
}

func runFuel(data []byte, _ time.Time) (any, error) {
	var in fuelIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	d, err := in.day()
	if err != nil {
		return nil, err
	}
	a := fuel.Plan(d)
	out := fuelOut{Burn: a.Burn, Legs: a.PerLeg, Reserve: a.Reserve, Need: a.Need, Fits: a.Fits, Short: a.Short,
		Range: a.Range / 1000, Return: a.Return / 1000}
	for _, f := range a.Fill {
		out.Fill = append(out.Fill, fuelFill{Tank: f.Tank, Add: f.Add})
	}
	if in.Price != nil {
		out.Cost = &a.Cost
	}
	return out, nil
}
