package float

import (
	"math"

	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

// SkinDensity is what a hull is made of: kg/m³ of the solid material.
var SkinDensity = map[string]float64{
	"glass":     1600, // glass fibre laminate. Practice.
	"aluminium": 2660, // alloy 5083, EN 573 (memory)
	"plastic":   945,  // polyethylene. Practice.
	"wood":      650,  // plywood. Practice.
}

// FoamDensity is of closed-cell foam, kg/m³: about two pounds a cubic foot. Practice.
const FoamDensity = 33.0

// Thing is something aboard that may lie under water: its box, and how dense its
// solid parts are, kg/m³, which say how much water it still pushes away.
type Thing struct {
	Name    string
	Kg      float64
	Density float64
	At      r3.Vec // centre
	Size    r3.Vec
}

// How dense things are under water, kg/m³. 33 CFR 183 counts an outboard's weight
// in water as about 0.8 of its weight, a battery's as 0.6 (memory); the rest is
// practice. People push away a little more than they weigh.
const (
	MotorDensity   = 5000.0
	BatteryDensity = 2500.0
	GearDensity    = 2000.0
	PersonDensity  = 985.0
)

// Swamp is the boat full of water, the sea inside as high as outside.
type Swamp struct {
	HullKg      float64 // without foam
	HullCG      r3.Vec
	SkinDensity float64
	Foam        [][2]r3.Vec // low and high corners of boxes; what of them lies in the hull counts
	Things      []Thing
	Water       float64 // density, kg/m³
}

// SwampedRest is how she lies full of water.
type SwampedRest struct {
	Floats    bool
	Level     bool // heel and trim within ten degrees, and some of the sheer is over water
	Why       string
	Figures   *Figures
	MarginKg  float64 // what all of her together could carry more before going under; negative when she sinks
	FoamLitre float64 // that is in her now
	NeedLitre float64 // of foam to add, for a margin of a tenth of her weight; nought where there is enough
	SkinMM    float64 // thickness that her material makes of her shell
}

// levelDeg is the greatest heel and trim of a boat that floats level when
// swamped: 10°, as 33 CFR 183 subpart H (memory).
const levelDeg = 10

// marginShare is the buoyancy over weight that is asked for. Practice.
const marginShare = 0.1

// FullOfWater finds how a hull lies when full of water. What pushes water away is
// her own material, spread as a skin over her shell, foam, and the solid parts
// of what is aboard.
func FullOfWater(h hull.Hull, shell *hull.Shell, in Swamp) SwampedRest {
	skin, inside := skinOf(h, shell, in.HullKg/in.SkinDensity)
	parts := []hull.Mesh{shell.Mesh, inside.Inverted()}
	load := Load{WaterDensity: in.Water, Masses: []Mass{{Name: "hull", Kg: in.HullKg, At: in.HullCG}}}
	r := SwampedRest{SkinMM: skin * 1000}
	for _, f := range in.Foam {
		m := inside.Within(f[0], f[1])
		if v := m.Volume(); v > 1e-6 {
			parts = append(parts, m)
			r.FoamLitre += v * 1000
			load.Masses = append(load.Masses, Mass{Name: "foam", Kg: v * FoamDensity, At: m.Centroid()})
		}
	}
	for _, t := range in.Things {
		if t.Kg <= 0 {
			continue
		}
		parts = append(parts, solidBox(t))
		load.Masses = append(load.Masses, Mass{Name: t.Name, Kg: t.Kg, At: t.At})
	}
	all := hull.Join(parts...)
	boat := &Boat{Shell: shell, solid: newSolid(all), holds: all.Volume()}
	total := load.Total().Kg
	r.MarginKg = boat.holds*in.Water - total
	if lack := total*(1+marginShare) - boat.holds*in.Water; lack > 0 {
		r.NeedLitre = lack / (in.Water - FoamDensity*(1+marginShare)) * 1000
	}
	if r.MarginKg <= 0 {
		r.Why = "she sinks: all of her together carries less than her weight"
		return r
	}
	res := boat.Solve(load, nil)
	r.Floats, r.Figures = true, res.Figures
	if r.Figures == nil {
		r.Why = "she floats, but on end or upside down"
		return r
	}
	highest := math.Inf(-1)
	for _, p := range shell.Sheer {
		highest = max(highest, r.Figures.FreeboardAt(p))
	}
	f := r.Figures
	switch {
	case math.Abs(f.HeelDeg) > levelDeg:
		r.Why = "she floats on her side"
	case math.Abs(f.TrimDeg) > levelDeg:
		r.Why = "she floats with one end down"
	case highest <= 0:
		r.Why = "she floats, but all of her sheer is under water"
	default:
		r.Level, r.Why = true, "she floats level"
	}
	return r
}

// solidBox shrinks a thing's box about its centre to the volume of its material.
func solidBox(t Thing) hull.Mesh {
	size := r3.Vec{X: max(t.Size.X, 0.01), Y: max(t.Size.Y, 0.01), Z: max(t.Size.Z, 0.01)}
	k := math.Cbrt(t.Kg / t.Density / (size.X * size.Y * size.Z))
	half := r3.Scale(k/2, size)
	return hull.Box(r3.Sub(t.At, half), r3.Add(t.At, half))
}

// skinOf finds how thick a skin of so much material is, metres, and the inside
// that it leaves, open at the sheer.
func skinOf(h hull.Hull, shell *hull.Shell, material float64) (float64, hull.Mesh) {
	inset := func(t float64) hull.Mesh {
		in, err := h.Inset(t).Shell()
		if err != nil {
			return hull.Mesh{} // thicker than she is deep
		}
		return in.Mesh
	}
	low, high := 0.0, 0.1
	var m hull.Mesh
	for range 24 { // to a hundred thousandth of a millimetre
		t := (low + high) / 2
		m = inset(t)
		if shell.Holds-m.Volume() < material {
			low = t
		} else {
			high = t
		}
	}
	return high, m
}
