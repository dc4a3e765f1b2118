package float

import (
	"fmt"
	"math"

	"ergasia/core/check"
	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

// Mass is one thing aboard. Sigma is how uncertain its mass is, one standard
// deviation in kilograms.
type Mass struct {
	Name  string
	Kg    float64
	At    r3.Vec
	Sigma float64
}

// Tank is a box that is part full of liquid, its edges along the boat's axes.
// Corner is the one of least x, y and z; Fill is a share of the volume, 0 to 1.
// A Shape, where there is one, takes the place of the box: a tank built into the
// hull, or the bilge. Sigma is one standard deviation of the contents, kilograms.
type Tank struct {
	Name    string
	Size    r3.Vec
	Corner  r3.Vec
	Shape   *hull.Mesh
	Fill    float64
	Density float64 // kg/m³
	Sigma   float64
}

// inside is the tank's shape.
func (t Tank) inside() hull.Mesh {
	if t.Shape != nil {
		return *t.Shape
	}
	return hull.Box(t.Corner, r3.Add(t.Corner, t.Size))
}

// Volume of the whole tank, m³.
func (t Tank) Volume() float64 {
	if t.Shape != nil {
		return t.Shape.Volume()
	}
	return t.Size.X * t.Size.Y * t.Size.Z
}

// Kg is the mass of the tank's contents.
func (t Tank) Kg() float64 { return t.Volume() * t.Fill * t.Density }

// CG is the centre of the contents in the boat upright and level.
func (t Tank) CG() r3.Vec {
	if t.Shape == nil {
		return r3.Add(t.Corner, r3.Vec{X: t.Size.X / 2, Y: t.Size.Y / 2, Z: t.Size.Z * t.Fill / 2})
	}
	if t.Fill < nearlyEmpty || t.Fill > 1-nearlyEmpty {
		return t.Shape.Centroid()
	}
	b := newBody(newSolid(*t.Shape))
	_, im := b.fill(attitude(0, 0), r3.Vec{}, t.Fill*t.Shape.Volume(), math.NaN(), settled)
	return r3.Scale(1/im.volume, im.moment)
}

// Load is everything with mass, and the water that carries it.
type Load struct {
	WaterDensity float64 // kg/m³
	Masses       []Mass
	Tanks        []Tank
}

// Densities in kg/m³. Sea water of 35 g/kg at 15 °C after the tables of ITTC
// 7.5-02-01-03 (memory, rounded); petrol is common practice, no source.
const (
	SeaWater   = 1025.0
	FreshWater = 999.0
	Petrol     = 740.0
)

// How well a mass is known, one standard deviation as a share of it.
// Practice, no source.
var KnownSigma = map[string]float64{
	"weighed":   0.01,
	"plate":     0.03,
	"catalogue": 0.08,
	"guess":     0.25,
}

const (
	maxMasses = 20000
	maxKg     = 100000
	maxAt     = 100
)

// Check says what is wrong with the load as input, as check.Faults, or nil.
func (l Load) Check() error {
	var fs check.Faults
	fs.Within("water.density_kg_m3", l.WaterDensity, 900, 1300)
	if n := len(l.Masses); n > maxMasses {
		fs.Add("masses", n, fmt.Sprintf("at most %d", maxMasses))
		return fs
	}
	if n := len(l.Tanks); n > 100 {
		fs.Add("tanks", n, "at most 100")
		return fs
	}
	total := 0.0
	for i, m := range l.Masses {
		field := fmt.Sprintf("masses[%d]", i)
		fs.Within(field+".kg", m.Kg, 0, maxKg)
		fs.Within(field+".sigma_kg", m.Sigma, 0, maxKg)
		checkPlace(&fs, field+".at_m", m.At, -maxAt)
		total += m.Kg
	}
	for i, t := range l.Tanks {
		field := fmt.Sprintf("tanks[%d]", i)
		if t.Shape == nil {
			checkPlace(&fs, field+".size_m", t.Size, 0.001)
			checkPlace(&fs, field+".corner_m", t.Corner, -maxAt)
		} else if t.Shape.Volume() < 1e-6 {
			fs.Add(field, nil, "holds nothing: none of the hull's inside lies there")
		}
		fs.Within(field+".sigma_kg", t.Sigma, 0, maxKg)
		fs.Within(field+".fill", t.Fill, 0, 1)
		fs.Within(field+".density_kg_m3", t.Density, 1, 20000)
		total += t.Kg()
	}
	if len(fs) == 0 && total <= 0 {
		fs.Add("masses", nil, "they add up to nothing: give the hull's own mass at least")
	}
	return fs.Err()
}

func checkPlace(fs *check.Faults, field string, v r3.Vec, low float64) {
	fs.Within(field+"[0]", v.X, low, maxAt)
	fs.Within(field+"[1]", v.Y, low, maxAt)
	fs.Within(field+"[2]", v.Z, low, maxAt)
}

// Total is the sum of the load, its centre of gravity with tanks as boxes
// upright, and one standard deviation of the sum.
type Total struct {
	Kg      float64
	Sigma   float64
	CG      r3.Vec
	CGSigma r3.Vec // of the centre, from the masses' errors alone, metres
}

// Total adds the ledger up; errors of single masses are taken as independent.
func (l Load) Total() Total {
	var t Total
	var moment r3.Vec
	for _, m := range l.Masses {
		t.Kg += m.Kg
		moment = r3.Add(moment, r3.Scale(m.Kg, m.At))
	}
	for _, k := range l.Tanks {
		t.Kg += k.Kg()
		moment = r3.Add(moment, r3.Scale(k.Kg(), k.CG()))
	}
	if t.Kg <= 0 {
		return t
	}
	t.CG = r3.Scale(1/t.Kg, moment)
	var variance float64
	var spread r3.Vec
	for _, m := range l.uncertain() {
		s2 := m.Sigma * m.Sigma
		arm := r3.Sub(m.At, t.CG)
		variance += s2
		spread = r3.Add(spread, r3.Vec{X: s2 * arm.X * arm.X, Y: s2 * arm.Y * arm.Y, Z: s2 * arm.Z * arm.Z})
	}
	t.Sigma = math.Sqrt(variance)
	t.CGSigma = r3.Vec{X: math.Sqrt(spread.X) / t.Kg, Y: math.Sqrt(spread.Y) / t.Kg, Z: math.Sqrt(spread.Z) / t.Kg}
	return t
}

// uncertain lists everything whose mass is not known exactly, tanks by the
// centre of their contents.
func (l Load) uncertain() []Mass {
	var list []Mass
	for _, m := range l.Masses {
		if m.Sigma > 0 {
			list = append(list, m)
		}
	}
	for _, t := range l.Tanks {
		if t.Sigma > 0 {
			list = append(list, Mass{Name: t.Name, Kg: t.Kg(), At: t.CG(), Sigma: t.Sigma})
		}
	}
	return list
}
