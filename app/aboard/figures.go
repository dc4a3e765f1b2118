package aboard

import (
	"math"

	"ergasia/core/float"
	"ergasia/store/model"
)

// Figures are what decides: how she sits and what she carries.
type Figures struct {
	Status       float.Status `json:"status" enum:"afloat,swamped,unstable"`
	Why          string       `json:"why,omitempty" doc:"Why there is no attitude"`
	Attitude     *Attitude    `json:"attitude,omitempty"`
	Over         *OverView    `json:"over,omitempty" doc:"About how she lies where she capsizes or stands on end"`
	Displacement float64      `json:"displacement_kg"`
	PlateKg      float64      `json:"plate_kg" doc:"Of what the plate counts"`
	SigmaKg      float64      `json:"sigma_kg" doc:"One standard deviation of the displacement"`
	GearKg       float64      `json:"gear_kg"`
	Persons      int          `json:"persons"`
	Awash        []AwashView  `json:"awash" doc:"Spaces in which the sea stands; the figures are with it"`
	Rummage      float64      `json:"rummage_min_per_day" doc:"Minutes a day that fetching and stowing back what is aboard takes"`
}

// OverView is how a boat lies that has turned over.
type OverView struct {
	Up    model.Vec `json:"up" doc:"The world's up in the boat's axes"`
	Level float64   `json:"level_m" doc:"The water's surface is up . p = level_m"`
}

// AwashView is a space in which the sea stands.
type AwashView struct {
	Space   string  `json:"space"`
	Through string  `json:"through"`
	DepthM  float64 `json:"depth_m"`
}

// Solved is a load and how she floats with it.
type Solved struct {
	Ledger
	float.Result
}

// Solved floats her as she is laden.
func (s *Laden) Solved() Solved {
	if s.memo.solved == nil {
		solved := s.SolvedWith(s.Ledger())
		s.memo.solved = &solved
	}
	return *s.memo.solved
}

// SolvedWith floats her with another load.
func (s *Laden) SolvedWith(l Ledger) Solved {
	return Solved{Ledger: l, Result: s.Craft.Float.Solve(l.Load, nil)}
}

// Figures of her as she is laden.
func (s *Laden) Figures() Figures { return s.FiguresOf(s.Solved()) }

// FiguresOf her with another load; fetching is as she is.
func (s *Laden) FiguresOf(r Solved) Figures {
	total := r.Load.Total()
	f := Figures{Status: r.Status, Why: r.Why, Displacement: total.Kg, SigmaKg: total.Sigma, PlateKg: r.PlateKg,
		GearKg:  r.GearKg,
		Persons: r.Persons, Awash: []AwashView{}, Rummage: s.Rummage().Minutes}
	if g := r.Figures; g != nil {
		f.Attitude = s.Craft.Attitude(g)
		for _, a := range g.Awash {
			f.Awash = append(f.Awash, AwashView{Space: a.Space, Through: a.Through, DepthM: a.Depth})
		}
	}
	if o := r.Over; o != nil {
		f.Over = &OverView{Up: model.VecOf(o.Up), Level: o.Level}
	}
	return f
}

// Finite gives nil for what JSON can't write.
func Finite(v float64) *float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return nil
	}
	return &v
}

// Certainty is a word for how sure a limit is kept. Practice.
func Certainty(sure float64) string {
	switch {
	case sure > 0.975:
		return "sure"
	case sure > 0.8:
		return "likely"
	case sure > 0.2:
		return "open"
	case sure > 0.025:
		return "unlikely"
	}
	return "broken"
}
