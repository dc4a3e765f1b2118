package calc

import (
	"encoding/json"
	"errors"
	"math"
	"time"

	"ergasia/core/check"
	"ergasia/core/fitting"
)

// seaWater is the density where none is given, kg/m³.
const seaWater = 1025.0

type fittingIn struct {
	Pole *struct {
		Wet      float64  `json:"wet_m"`
		Diameter float64  `json:"diameter_m"`
		Clamp    float64  `json:"clamp_to_water_m"`
		Foot     float64  `json:"foot_area_m2"`
		Speed    float64  `json:"speed_m_s"`
		Density  *float64 `json:"density_kg_m3"`
		Holds    float64  `json:"holds_n_m"`
	} `json:"pole"`
	Bolts *struct {
		Pattern [][2]float64 `json:"pattern_mm"`
		Size    string       `json:"size"`
		Moment  float64      `json:"moment_n_m"`
		Shear   float64      `json:"shear_n"`
	} `json:"bolts"`
	Stack *struct {
		Layers  []float64 `json:"layers_mm"`
		Washer  float64   `json:"washer_mm"`
		Nut     float64   `json:"nut_mm"`
		Pitch   float64   `json:"pitch_mm"`
		Behind  *float64  `json:"behind_mm"`
		Lengths []float64 `json:"lengths_mm"`
	} `json:"stack"`
}

type poleOut struct {
	Drag    float64  `json:"drag_n"`
	Moment  float64  `json:"moment_n_m"`
	FoldsAt *float64 `json:"folds_at_m_s"`
}

type boltsOut struct {
	Tension []float64 `json:"tension_n"`
	Shear   float64   `json:"shear_n"`
	Stress  float64   `json:"stress_mpa"`
	Proof   float64   `json:"proof_mpa"`
	Factor  *float64  `json:"factor"`
}

type stackOut struct {
	Needed float64  `json:"needed_mm"`
	Length *float64 `json:"length_mm"`
	Fouls  float64  `json:"fouls_mm"`
}

type fittingOut struct {
	Pole  *poleOut  `json:"pole,omitempty"`
	Bolts *boltsOut `json:"bolts,omitempty"`
	Stack *stackOut `json:"stack,omitempty"`
}

func runFitting(data []byte, _ time.Time) (any, error) {
	var in fittingIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	var fs check.Faults
	var out fittingOut
	out.Pole, out.Bolts, out.Stack = in.pole(&fs), in.bolts(&fs), in.stack(&fs)
	return out, fs.Err()
}

// noted adds what is wrong with a part under its name, and says whether it is right.
func noted(fs *check.Faults, part string, err error) bool {
	var found check.Faults
	if errors.As(err, &found) {
		for _, f := range found {
			fs.Add(part+"."+f.Field, f.Value, f.Want)
		}
	}
	return err == nil
}

func (in fittingIn) pole(fs *check.Faults) *poleOut {
	if in.Pole == nil {
		return nil
	}
	p := fitting.Pole{Wet: in.Pole.Wet, Diameter: in.Pole.Diameter, ClampToWater: in.Pole.Clamp, FootArea: in.Pole.Foot,
		Speed: in.Pole.Speed, Density: seaWater, Holds: in.Pole.Holds}
	if in.Pole.Density != nil {
		p.Density = *in.Pole.Density
	}
	if !noted(fs, "pole", p.Check()) {
		return nil
	}
	pulled := p.Pull()
	return &poleOut{Drag: pulled.Drag, Moment: pulled.Moment, FoldsAt: finite(pulled.FoldsAt)}
}

func finite(v float64) *float64 {
	if math.IsInf(v, 0) {
		return nil
	}
	return &v
}

func (in fittingIn) bolts(fs *check.Faults) *boltsOut {
	if in.Bolts == nil {
		return nil
	}
	size, err := fitting.ScrewNamed(in.Bolts.Size)
	if err != nil {
		fs.Add("bolts.size", in.Bolts.Size, err.Error())
		return nil
	}
	b := fitting.Bolts{Pattern: in.Bolts.Pattern, Size: size, Moment: in.Bolts.Moment, Shear: in.Bolts.Shear}
	if !noted(fs, "bolts", b.Check()) {
		return nil
	}
	h := b.Hold()
	return &boltsOut{Tension: h.Tension, Shear: h.Shear, Stress: h.Stress, Proof: h.Proof, Factor: finite(h.Factor)}
}

func (in fittingIn) stack(fs *check.Faults) *stackOut {
	if in.Stack == nil {
		return nil
	}
	s := fitting.Stack{Layers: in.Stack.Layers, Washer: in.Stack.Washer, Nut: in.Stack.Nut, Pitch: in.Stack.Pitch,
		Behind: in.Stack.Behind, Lengths: in.Stack.Lengths}
	if !noted(fs, "stack", s.Check()) {
		return nil
	}
	up := s.Up()
	return &stackOut{Needed: up.Needed, Length: up.Length, Fouls: up.Fouls}
}
