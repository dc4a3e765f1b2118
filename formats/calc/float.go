package calc

import (
	"encoding/json"
	"math"

	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

type vec [3]float64

func (v vec) r3() r3.Vec { return r3.Vec{X: v[0], Y: v[1], Z: v[2]} }

type floatIn struct {
	Water *struct {
		Density *float64 `json:"density_kg_m3"`
	} `json:"water"`
	Hull struct {
		Stations []struct {
			X      float64      `json:"x_m"`
			PointX []float64    `json:"point_x_m"`
			Half   [][2]float64 `json:"half_section_yz_m"`
		} `json:"stations"`
		FloodPoints []struct {
			Name string `json:"name"`
			At   vec    `json:"at_m"`
		} `json:"flood_points"`
	} `json:"hull"`
	Masses []struct {
		Name  string  `json:"name"`
		Kg    float64 `json:"kg"`
		At    vec     `json:"at_m"`
		Sigma float64 `json:"sigma_kg"`
	} `json:"masses"`
	Tanks []struct {
		Name    string  `json:"name"`
		Size    vec     `json:"size_m"`
		Corner  vec     `json:"corner_m"`
		Fill    float64 `json:"fill"`
		Density float64 `json:"density_kg_m3"`
	} `json:"tanks"`
	GZHeelDeg []float64 `json:"gz_heel_deg"`
}

func (in floatIn) hull() hull.Hull {
	var h hull.Hull
	for _, s := range in.Hull.Stations {
		st := hull.Station{X: s.X, PointX: s.PointX}
		for _, p := range s.Half {
			st.Half = append(st.Half, hull.Point{Y: p[0], Z: p[1]})
		}
		h.Stations = append(h.Stations, st)
	}
	for _, p := range in.Hull.FloodPoints {
		h.FloodPoints = append(h.FloodPoints, hull.FloodPoint{Name: p.Name, At: p.At.r3()})
	}
	return h
}

func (in floatIn) load() float.Load {
	l := float.Load{WaterDensity: float.SeaWater}
	if in.Water != nil && in.Water.Density != nil {
		l.WaterDensity = *in.Water.Density
	}
	for _, m := range in.Masses {
		l.Masses = append(l.Masses, float.Mass{Name: m.Name, Kg: m.Kg, At: m.At.r3(), Sigma: m.Sigma})
	}
	for _, t := range in.Tanks {
		l.Tanks = append(l.Tanks, float.Tank{Name: t.Name, Size: t.Size.r3(), Corner: t.Corner.r3(), Fill: t.Fill, Density: t.Density})
	}
	return l
}

type freeboardOut struct {
	Name string  `json:"name"`
	M    float64 `json:"m"`
}

type leverOut struct {
	HeelDeg float64  `json:"heel_deg"`
	GZ      *float64 `json:"gz_m"`
}

type floatOut struct {
	Status       float.Status   `json:"status"`
	Why          string         `json:"why,omitempty"`
	Displacement float64        `json:"displacement_kg"`
	Sigma        float64        `json:"displacement_sigma_kg"`
	Volume       *float64       `json:"volume_m3"`
	DraftAft     *float64       `json:"draft_aft_m"`
	DraftFwd     *float64       `json:"draft_fwd_m"`
	Trim         *float64       `json:"trim_deg"`
	Heel         *float64       `json:"heel_deg"`
	LCB          *float64       `json:"lcb_m"`
	KB           *float64       `json:"kb_m"`
	LCF          *float64       `json:"lcf_m"`
	Waterplane   *float64       `json:"waterplane_m2"`
	GMT          *float64       `json:"gm_t_m"`
	GML          *float64       `json:"gm_l_m"`
	FreeSurface  *float64       `json:"free_surface_m"`
	KgPerCm      *float64       `json:"kg_per_cm"`
	Freeboards   []freeboardOut `json:"freeboards"`
	Lowest       *freeboardOut  `json:"lowest_freeboard"`
	GZ           []leverOut     `json:"gz"`
}

func runFloat(data []byte) (any, error) {
	var in floatIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	h, l := in.hull(), in.load()
	var fs check.Faults
	for _, err := range []error{h.Check("hull."), l.Check()} {
		if found, ok := err.(check.Faults); ok {
			fs = append(fs, found...)
		}
	}
	if len(fs) > 0 {
		return nil, fs
	}
	shell, err := h.Shell()
	if err != nil {
		return nil, err
	}
	return floatResult(l, float.NewBoat(shell, h.FloodPoints).Solve(l, in.GZHeelDeg)), nil
}

func floatResult(l float.Load, r float.Result) floatOut {
	total := l.Total()
	out := floatOut{Status: r.Status, Why: r.Why, Displacement: total.Kg, Sigma: total.Sigma}
	f := r.Figures
	if f == nil {
		return out
	}
	for _, p := range []struct {
		to **float64
		v  float64
	}{
		{&out.Volume, f.Volume}, {&out.DraftAft, f.DraftAft}, {&out.DraftFwd, f.DraftFwd}, {&out.Trim, f.TrimDeg},
		{&out.Heel, f.HeelDeg}, {&out.LCB, f.LCB}, {&out.KB, f.KB}, {&out.LCF, f.LCF}, {&out.Waterplane, f.Waterplane},
		{&out.GMT, f.GMT}, {&out.GML, f.GML}, {&out.FreeSurface, f.FreeSurface}, {&out.KgPerCm, f.KgPerCm},
	} {
		*p.to = figure(p.v)
	}
	out.Freeboards, out.GZ = []freeboardOut{}, []leverOut{}
	for _, p := range f.Freeboards {
		out.Freeboards = append(out.Freeboards, freeboardOut{p.Name, p.M})
	}
	out.Lowest = &freeboardOut{f.Lowest.Name, f.Lowest.M}
	for _, g := range r.Levers {
		out.GZ = append(out.GZ, leverOut{g.HeelDeg, figure(g.GZ)})
	}
	return out
}

// figure gives nil for what JSON can't write.
func figure(v float64) *float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return nil
	}
	return &v
}
