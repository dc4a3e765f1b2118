package capacity

import (
	"cmp"
	"fmt"
	"math"

	"ergasia/core/check"
	"ergasia/core/float"
	"ergasia/core/hull"
	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

// Propulsion of the boat, as the rule knows it.
const (
	Outboard = "outboard"
	Inboard  = "inboard" // and sterndrive
	Manual   = "manual"  // oars
)

// Boat is what the rule asks about.
type Boat struct {
	Hull        hull.Hull
	Load        float.Load // the boat as she is rigged: hull, motor and controls, battery, fuel. Nothing else.
	BoatKg      float64    // the hull with what is permanently fixed, without motor, battery and fuel
	FuelKg      float64    // of permanent tanks, full: boat weight by 33 CFR 183.35
	MotorKg     float64    // motor and controls, battery, full portable tank; for inboards all machinery
	RatedHP     float64    // of her plate or builder; nought: by 33 CFR 183.53
	Propulsion  string
	Kind        string // of hull: monohull, multihull, sailing, inflatable, watercraft
	FlatBottom  bool   // flat with a hard chine
	TransomBeam float64
	Remote      bool // steered by wheel, and the transom is 20 in high or more
	// The outboard edge of the passenger area at the height of a seat, half-way
	// along that area: where the side-load test puts its weight.
	Edge r3.Vec
}

// Figures are what the plate would say. Masses in kilograms.
type Figures struct {
	Applies     bool
	Why         string  // why the rule does not apply
	MaximumKg   float64 // displacement to where water first comes in, level
	WeightKg    float64 // weight capacity: persons, motor and gear (outboard), persons and gear (inboard)
	PersonsKg   float64
	Persons     int
	SideLoadKg  float64 // that brought water to her edge, before it is divided; NaN where the test is not asked for
	SideAt      string  // where the water came in
	Horsepower  float64 // outboards; nought where not asked
	MotorKg     float64 // that was counted: the greater of what hangs there and the rule's own table
	PowerFactor float64 // length times transom width, square feet, to the nearest whole
}

const (
	sideTestUnder = 550.0 // lb; above it the side-load test is not asked for
	sideDivisor   = 0.6
	perPerson     = 141.0 // lb
	personsPlus   = 32.0  // lb
	lengthUnder   = 20.0  // ft
	smallHP       = 2.0   // up to which a boat is counted with manual ones, 33 CFR 183.37 (memory)
	smallMotor    = 25.0  // lb, 33 CFR 183.43 (memory)
	manualShare   = 0.3   // of what she displaces beyond her weight, 33 CFR 183.37 (memory)
	personsShare  = 0.9   // of that for persons, 33 CFR 183.43 (memory)
)

// freshWater is what the rule floats a boat in, kg/m³: 62.4 lb a cubic foot. Salt
// water would carry more.
const freshWater = 999.6

// motorTable is what an outboard of a rated power weighs with its controls,
// battery and a full portable tank, lb: 33 CFR 183 subpart H, table 4 (memory,
// and not sure of each row). The greater of it and what hangs there is counted,
// so that a wrong row never makes a boat carry more than her motor allows.
var motorTable = []struct{ upToHP, lb float64 }{{2, 25}, {3.9, 40}, {6.9, 85}, {10.9, 135}, {22.9, 230}, {34.9, 310},
	{64.9, 425}, {94.9, 490}, {math.Inf(1), 575}}

func tableLb(hp float64) float64 {
	for _, row := range motorTable {
		if hp <= row.upToHP {
			return row.lb
		}
	}
	return 0 // NaN, which Check refuses
}

// Check says what is wrong with the boat as input, as check.Faults, or nil.
func (b Boat) Check() error {
	var fs check.Faults
	fs.OneOf("propulsion", b.Propulsion, Outboard, Inboard, Manual)
	fs.OneOf("kind", b.Kind, "monohull", "multihull", "sailing", "inflatable", "watercraft")
	fs.Within("boat_kg", b.BoatKg, 1, 100000)
	fs.Within("motor_kg", b.MotorKg, 0, 10000)
	fs.Within("permanent_fuel_kg", b.FuelKg, 0, 10000)
	fs.Within("rated_hp", b.RatedHP, 0, 2000)
	fs.Within("transom_beam_m", b.TransomBeam, 0.1, 10)
	fs.Within("edge_m[0]", b.Edge.X, -100, 100)
	fs.Within("edge_m[1]", b.Edge.Y, -100, 100)
	fs.Within("edge_m[2]", b.Edge.Z, -100, 100)
	for _, err := range []error{b.Hull.Check("hull."), b.Load.Check()} {
		if found, ok := err.(check.Faults); ok {
			fs = append(fs, found...)
		}
	}
	return fs.Err()
}

// Work finds the figures. The boat must have passed Check.
func Work(b Boat) (Figures, error) {
	craft, err := float.NewCraft(b.Hull)
	if err != nil {
		return Figures{}, err
	}
	low, high := b.Hull.Bounds()
	feet := (high.X - low.X) / units.FootM
	switch {
	case b.Kind != "monohull":
		return Figures{Why: fmt.Sprintf("33 CFR 183 subpart C leaves out this kind of boat (%s): go by her plate or her builder", b.Kind)}, nil
	case feet >= lengthUnder:
		return Figures{Why: fmt.Sprintf("33 CFR 183 subpart C is for boats under 20 ft; she is %.1f ft: go by her plate or her builder", feet)}, nil
	}
	f := Figures{Applies: true, SideLoadKg: math.NaN()}
	b.Load.WaterDensity = min(b.Load.WaterDensity, freshWater)
	f.MaximumKg = maximum(craft.Shell, b.Hull, b.Load.WaterDensity)
	if b.Propulsion == Outboard {
		f.PowerFactor, f.Horsepower = Power(feet, b.TransomBeam/units.FootM, b.FlatBottom, b.Remote)
	}
	lb := func(kg float64) float64 { return kg / units.PoundKg }
	boat, motor := lb(b.BoatKg+b.FuelKg), lb(b.MotorKg)
	rated := cmp.Or(b.RatedHP, f.Horsepower)
	if b.Propulsion == Outboard {
		motor = max(motor, tableLb(rated))
	}
	f.MotorKg = motor * units.PoundKg
	weight, persons := weigh(b.Propulsion, lb(f.MaximumKg), boat, motor)
	if b.Propulsion == Manual || b.Propulsion == Outboard && rated <= smallHP {
		weight, persons = weighSmall(b.Propulsion, lb(f.MaximumKg), boat, motor)
	}
	if persons < sideTestUnder {
		var side float64
		side, f.SideAt = sideLoad(craft, b)
		f.SideLoadKg = side
		persons = min(persons, lb(side)/sideDivisor)
	}
	persons = max(persons, 0)
	f.WeightKg, f.PersonsKg = max(weight, 0)*units.PoundKg, persons*units.PoundKg
	f.Persons = Persons(persons)
	return f, nil
}

// maximum is the displacement at her "maximum level immersion in calm water without
// water coming aboard" (33 CFR 183.35, memory): level in her own axes, to her lowest
// flood point or the lowest of her sheer.
func maximum(s *hull.Shell, h hull.Hull, density float64) float64 {
	z := math.Inf(1)
	for _, p := range s.Sheer {
		z = min(z, p.Z)
	}
	for _, p := range h.FloodPoints {
		if p.Space == "" {
			z = min(z, p.At.Z)
		}
	}
	wet := s.Within(s.Low, r3.Vec{X: s.High.X, Y: s.High.Y, Z: z})
	return wet.Volume() * density
}

// weigh gives weight and persons capacity before the side-load test, in pounds.
// Outboard: (MD - boat)/5, motor included. Inboard and sterndrive: the greater of
// (MD - boat - 4 machinery)/5 and (MD - boat)/7. 33 CFR 183.33, .35, .39, .41.
func weigh(propulsion string, maximum, boat, motor float64) (weight, persons float64) {
	if propulsion == Inboard {
		weight = max((maximum-boat-4*motor)/5, (maximum-boat)/7)
		return weight, weight
	}
	weight = (maximum - boat) / 5
	return weight, weight - motor
}

// weighSmall is the same of boats that are rowed, and of those for motors of up to
// 2 hp: three tenths of (MD - boat), of which nine tenths are for persons, less
// the motor where there is one. 33 CFR 183.37, .43 (memory).
func weighSmall(propulsion string, maximum, boat, motor float64) (weight, persons float64) {
	weight = manualShare * (maximum - boat)
	persons = personsShare * weight
	if propulsion == Outboard {
		persons -= max(motor, smallMotor)
	}
	return weight, persons
}

// Persons is the number that so many pounds are: (lb + 32)/141, halves up.
func Persons(lb float64) int {
	if lb <= 0 {
		return 0
	}
	return int(math.Floor((lb+personsPlus)/perPerson + 0.5))
}

// sideLoad adds weight at the edge until water is about to come in.
func sideLoad(craft *float.Boat, b Boat) (kg float64, where string) {
	dry := func(kg float64) bool {
		l := b.Load
		l.Masses = append(l.Masses[:len(l.Masses):len(l.Masses)], float.Mass{Name: "side load", Kg: kg, At: b.Edge})
		r := craft.Solve(l, nil)
		if r.Figures != nil {
			where = r.Figures.Lowest.Name
		}
		return r.Status == float.Afloat
	}
	if !dry(0) {
		return 0, where
	}
	low, high := 0.0, craft.Shell.Holds*b.Load.WaterDensity
	for high-low > 0.05 {
		if middle := (low + high) / 2; dry(middle) {
			low = middle
		} else {
			high = middle
		}
	}
	dry(low)
	return low, where
}

// Power is the greatest horsepower of an outboard by length times transom width,
// feet, and that factor. 33 CFR 183.53 (memory).
func Power(lengthFt, widthFt float64, flat, remote bool) (factor, hp float64) {
	factor = math.Round(lengthFt * widthFt)
	steps := []float64{3, 5, 7.5, 10, 15}
	for i, upTo := range []float64{35, 39, 42, 45, 52} {
		if factor <= upTo {
			if flat { // one step lower
				i = max(i-1, 0)
			}
			return factor, steps[i]
		}
	}
	switch {
	case remote:
		hp = 2*factor - 90
	case flat:
		hp = 0.5*factor - 15
	default:
		hp = 0.8*factor - 25
	}
	return factor, math.Ceil(hp/5-1e-9) * 5 // may be raised to the next five
}
