package calc

import (
	"ergasia/core/float"
	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

type bandsOut struct {
	Displacement float64 `json:"displacement_kg"`
	Heel         float64 `json:"heel_deg"`
	Trim         float64 `json:"trim_deg"`
	Lowest       float64 `json:"lowest_freeboard_m"`
}

type awashOut struct {
	Space   string  `json:"space"`
	Through string  `json:"through"`
	Depth   float64 `json:"depth_m"`
}

type curveLever struct {
	HeelDeg float64  `json:"heel_deg"`
	GZ      *float64 `json:"gz_m"`
	Trim    *float64 `json:"trim_deg"`
}

type curveOut struct {
	Side       string       `json:"side"`
	Levers     []curveLever `json:"levers"`
	Flood      *float64     `json:"flood_deg"`
	Through    string       `json:"flood_through,omitempty"`
	Scupper    *float64     `json:"scupper_deg,omitempty"`
	Vanishes   *float64     `json:"vanishes_deg"`
	Range      *float64     `json:"range_deg"`
	Area       *float64     `json:"area_m_rad"`
	Greatest   *float64     `json:"greatest_gz_m"`
	GreatestAt *float64     `json:"greatest_at_deg"`
}

type windOut struct {
	Heel   *float64 `json:"heel_deg"`
	Lowest *float64 `json:"lowest_m"`
	Area   *float64 `json:"area_m2"`
	Arm    *float64 `json:"arm_m"`
	Moment *float64 `json:"moment_nm"`
}

type swampedOut struct {
	Floats bool     `json:"floats"`
	Level  bool     `json:"level"`
	Why    string   `json:"why"`
	Margin *float64 `json:"margin_kg"`
	Foam   *float64 `json:"foam_l"`
	Need   *float64 `json:"need_foam_l"`
	Skin   *float64 `json:"skin_mm"`
	Heel   *float64 `json:"heel_deg"`
	Trim   *float64 `json:"trim_deg"`
}

type foundOut struct {
	Displacement float64   `json:"displacement_kg"`
	More         float64   `json:"more_kg"`
	Band         float64   `json:"band_kg"`
	Agrees       bool      `json:"agrees"`
	At           []float64 `json:"at_m"`
	BandM        []float64 `json:"band_m"`
	Residuals    []float64 `json:"residuals_m"`
}

// more adds what was asked for beside the figures.
func (in floatIn) more(boat *float.Boat, l float.Load, f *float.Figures, out *floatOut) {
	b := boat.Bands(l, f)
	out.Bands = &bandsOut{Displacement: b.Kg, Heel: b.HeelDeg, Trim: b.TrimDeg, Lowest: b.Lowest}
	for _, a := range f.Awash {
		out.Awash = append(out.Awash, awashOut(a))
	}
	if in.Curve != nil {
		for _, c := range boat.Curves(l, in.Curve.To, in.Curve.Steps) {
			out.Curves = append(out.Curves, curveResult(c))
		}
	}
	if in.Wind != nil {
		var sails []float.Sail
		for _, s := range in.Wind.Sails {
			sails = append(sails, float.Sail(s))
		}
		if w, ok := boat.Abeam(l, in.Wind.Speed, sails); ok {
			out.Wind = &windOut{Heel: figure(w.HeelDeg), Lowest: figure(w.Lowest), Area: figure(w.Area), Arm: figure(w.Arm),
				Moment: figure(w.Moment)}
		}
	}
}

func curveResult(c float.Curve) curveOut {
	out := curveOut{Side: "starboard", Flood: figure(c.Flood), Through: c.FloodThrough, Scupper: figure(c.Scupper),
		Vanishes: figure(c.Vanishes),
		Range:    figure(c.Range()), Area: figure(c.AreaToEnd), Greatest: figure(c.Greatest), GreatestAt: figure(c.AtDeg)}
	if c.Side < 0 {
		out.Side = "port"
	}
	for _, l := range c.Levers {
		out.Levers = append(out.Levers, curveLever{HeelDeg: l.HeelDeg, GZ: figure(l.GZ), Trim: figure(l.TrimDeg)})
	}
	return out
}

func (in floatIn) swamped(h hull.Hull, boat *float.Boat, l float.Load) *swampedOut {
	s := float.Swamp{HullKg: in.Swamped.HullKg, HullCG: in.Swamped.HullCG.r3(), SkinDensity: in.Swamped.Skin,
		Water: l.WaterDensity}
	for _, f := range in.Swamped.Foam {
		s.Foam = append(s.Foam, [2]r3.Vec{f[0].r3(), f[1].r3()})
	}
	for _, t := range in.Swamped.Things {
		s.Things = append(s.Things, float.Thing{Name: t.Name, Kg: t.Kg, Density: t.Density, At: t.At.r3(), Size: t.Size.r3()})
	}
	r := float.FullOfWater(h, boat.Shell, s)
	out := &swampedOut{Floats: r.Floats, Level: r.Level, Why: r.Why, Margin: figure(r.MarginKg), Foam: figure(r.FoamLitre),
		Need: figure(r.NeedLitre), Skin: figure(r.SkinMM)}
	if r.Figures != nil {
		out.Heel, out.Trim = figure(r.Figures.HeelDeg), figure(r.Figures.TrimDeg)
	}
	return out
}

func (in floatIn) found(boat *float.Boat, l float.Load) (*foundOut, error) {
	v := float.Survey{Sigma: float.ReadingSigma(in.Readings.Step, in.Readings.Ripple), Z: in.Readings.Z}
	for _, p := range in.Readings.Points {
		v.Readings = append(v.Readings, float.Reading{Name: p.Name, At: p.At.r3(), M: p.M})
	}
	if err := v.Check(); err != nil {
		return nil, err
	}
	f, err := boat.Survey(l, v, nil)
	if err != nil {
		return nil, err
	}
	out := &foundOut{Displacement: f.Displacement, More: f.Kg, Band: f.KgBand, Agrees: f.Agrees, Residuals: f.Residuals}
	if !f.Agrees {
		out.At, out.BandM = []float64{f.At.X, f.At.Y, f.At.Z}, []float64{f.Band.X, f.Band.Y}
	}
	return out, nil
}
