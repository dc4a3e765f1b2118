package calc

import (
	"encoding/json"
	"fmt"
	"math"
	"time"

	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

type vec [3]float64

func (v vec) r3() r3.Vec { return r3.Vec{X: v[0], Y: v[1], Z: v[2]} }

type cornersIn [2]vec

// boatIn is a hull with its load, the part that engines share.
type boatIn struct {
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
			Name  string `json:"name"`
			At    vec    `json:"at_m"`
			Space string `json:"space"`
		} `json:"flood_points"`
		Spaces []struct {
			Name string    `json:"name"`
			Box  cornersIn `json:"box_m"`
		} `json:"spaces"`
	} `json:"hull"`
	Masses []struct {
		Name  string  `json:"name"`
		Kg    float64 `json:"kg"`
		At    vec     `json:"at_m"`
		Sigma float64 `json:"sigma_kg"`
	} `json:"masses"`
	Tanks []struct {
		Name    string     `json:"name"`
		Size    *vec       `json:"size_m"`
		Corner  *vec       `json:"corner_m"`
		InHull  *cornersIn `json:"in_hull_m"`
		Fill    float64    `json:"fill"`
		Density float64    `json:"density_kg_m3"`
		Sigma   float64    `json:"sigma_kg"`
	} `json:"tanks"`
}

type floatIn struct {
	boatIn
	GZHeelDeg []float64 `json:"gz_heel_deg"`
	Curve     *struct {
		To    float64 `json:"to_deg"`
		Steps int     `json:"steps"`
	} `json:"curve"`
	Wind *struct {
		Speed float64 `json:"speed_m_s"`
		Sails []struct {
			Name string  `json:"name"`
			Area float64 `json:"area_m2"`
			Z    float64 `json:"z_m"`
		} `json:"sails"`
	} `json:"wind"`
	Swamped *struct {
		HullKg float64     `json:"hull_kg"`
		HullCG vec         `json:"hull_cg_m"`
		Skin   float64     `json:"skin_density_kg_m3"`
		Foam   []cornersIn `json:"foam_m"`
		Things []struct {
			Name    string  `json:"name"`
			Kg      float64 `json:"kg"`
			Density float64 `json:"density_kg_m3"`
			At      vec     `json:"at_m"`
			Size    vec     `json:"size_m"`
		} `json:"things"`
	} `json:"swamped"`
	Readings *struct {
		Step   float64 `json:"step_m"`
		Ripple float64 `json:"ripple_m"`
		Z      float64 `json:"found_z_m"`
		Points []struct {
			Name string  `json:"name"`
			At   vec     `json:"at_m"`
			M    float64 `json:"freeboard_m"`
		} `json:"points"`
	} `json:"readings"`
}

func (in boatIn) hull() hull.Hull {
	var h hull.Hull
	for _, s := range in.Hull.Stations {
		st := hull.Station{X: s.X, PointX: s.PointX}
		for _, p := range s.Half {
			st.Half = append(st.Half, hull.Point{Y: p[0], Z: p[1]})
		}
		h.Stations = append(h.Stations, st)
	}
	for _, p := range in.Hull.FloodPoints {
		h.FloodPoints = append(h.FloodPoints, hull.FloodPoint{Name: p.Name, At: p.At.r3(), Space: p.Space})
	}
	for _, s := range in.Hull.Spaces {
		h.Spaces = append(h.Spaces, hull.Space{Name: s.Name, Low: s.Box[0].r3(), High: s.Box[1].r3()})
	}
	return h
}

// load is the load as given; a tank that is neither box nor part of the hull is a fault.
func (in boatIn) load(shell *hull.Shell, fs *check.Faults) float.Load {
	l := float.Load{WaterDensity: float.SeaWater}
	if in.Water != nil && in.Water.Density != nil {
		l.WaterDensity = *in.Water.Density
	}
	for _, m := range in.Masses {
		l.Masses = append(l.Masses, float.Mass{Name: m.Name, Kg: m.Kg, At: m.At.r3(), Sigma: m.Sigma})
	}
	for i, t := range in.Tanks {
		tank := float.Tank{Name: t.Name, Fill: t.Fill, Density: t.Density, Sigma: t.Sigma}
		switch {
		case t.InHull != nil && t.Size == nil && t.Corner == nil:
			part := shell.Within(t.InHull[0].r3(), t.InHull[1].r3())
			tank.Shape = &part
		case t.InHull == nil && t.Size != nil && t.Corner != nil:
			tank.Size, tank.Corner = t.Size.r3(), t.Corner.r3()
		default:
			fs.Add(fmt.Sprintf("tanks[%d]", i), nil, "give size_m and corner_m, or in_hull_m")
			continue
		}
		l.Tanks = append(l.Tanks, tank)
	}
	return l
}

// ready checks hull and load and makes the boat.
func (in boatIn) ready() (hull.Hull, *float.Boat, float.Load, error) {
	h := in.hull()
	if err := h.Check("hull."); err != nil {
		return h, nil, float.Load{}, err
	}
	boat, err := float.NewCraft(h)
	if err != nil {
		return h, nil, float.Load{}, err
	}
	var fs check.Faults
	l := in.load(boat.Shell, &fs)
	if found, ok := l.Check().(check.Faults); ok {
		fs = append(fs, found...)
	}
	return h, boat, l, fs.Err()
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
	Bands        *bandsOut      `json:"bands,omitempty"`
	Awash        []awashOut     `json:"awash,omitempty"`
	Curves       []curveOut     `json:"curves,omitempty"`
	Wind         *windOut       `json:"wind,omitempty"`
	Swamped      *swampedOut    `json:"swamped,omitempty"`
	Found        *foundOut      `json:"found,omitempty"`
}

func runFloat(data []byte, _ time.Time) (any, error) {
	var in floatIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	h, boat, l, err := in.ready()
	if err != nil {
		return nil, err
	}
	r := boat.Solve(l, in.GZHeelDeg)
	out := floatResult(l, r)
	if r.Figures != nil {
		in.more(boat, l, r.Figures, &out)
	}
	if in.Swamped != nil {
		out.Swamped = in.swamped(h, boat, l)
	}
	if in.Readings != nil {
		if out.Found, err = in.found(boat, l); err != nil {
			return nil, err
		}
	}
	return out, nil
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
		out.Freeboards = append(out.Freeboards, freeboardOut{Name: p.Name, M: p.M})
	}
	out.Lowest = &freeboardOut{Name: f.Lowest.Name, M: f.Lowest.M}
	for _, g := range r.Levers {
		out.GZ = append(out.GZ, leverOut{HeelDeg: g.HeelDeg, GZ: figure(g.GZ)})
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
