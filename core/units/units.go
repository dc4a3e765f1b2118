package units

import (
	"fmt"
	"strconv"
)

// How many SI units one of each US customary unit is. NIST SP 811, B.8.
const (
	InchM         = 0.0254          // metre, exact
	FootM         = 0.3048          // metre, exact
	StatuteMileM  = 1609.344        // metre, exact
	NauticalMileM = 1852.0          // metre, exact
	PoundKg       = 0.45359237      // kilogram, avoirdupois, exact
	OunceKg       = PoundKg / 16    // kilogram, avoirdupois, exact
	USGallonL     = 3.785411784     // litre, exact
	KnotMS        = 1852.0 / 3600   // metre a second, exact
	MileHourMS    = 1609.344 / 3600 // metre a second, exact
	StandardG     = 9.80665         // metre a second squared, exact
	PoundForceN   = PoundKg * StandardG
	PSIPa         = PoundForceN / (InchM * InchM)
	HorsepowerW   = 550 * FootM * PoundForceN // mechanical horsepower, 550 ft·lbf/s
)

// Unit is one customary unit of a quantity.
type Unit struct {
	Symbol string  `json:"symbol"` // as written after a number
	SI     float64 `json:"si"`     // how many SI units one of it is
}

// FromSI gives a quantity in SI as a number of the unit.
func (u Unit) FromSI(si float64) float64 { return si / u.SI }

// ToSI gives a number of the unit as a quantity in SI.
func (u Unit) ToSI(n float64) float64 { return n * u.SI }

// FahrenheitFromCelsius converts a temperature, NIST SP 811 B.8: t°F = 1.8 t°C + 32.
func FahrenheitFromCelsius(c float64) float64 { return 1.8*c + 32 }

// CelsiusFromFahrenheit is the inverse of FahrenheitFromCelsius.
func CelsiusFromFahrenheit(f float64) float64 { return (f - 32) / 1.8 }

// Text writes a quantity in SI with so many decimals, and the unit.
func (u Unit) Text(si float64, decimals int) string {
	return strconv.FormatFloat(u.FromSI(si), 'f', decimals, 64) + " " + u.Symbol
}

// Temperature writes a temperature that is given in degrees Celsius.
func (s System) Temperature(c float64) string {
	if s.Name == US.Name {
		return fmt.Sprintf("%.0f °F", FahrenheitFromCelsius(c))
	}
	return fmt.Sprintf("%.0f °C", c)
}

// System is the set of units that a member reads.
type System struct {
	Name     string `json:"name"`
	Length   Unit   `json:"length"`   // of a boat or a place; SI is metres
	Small    Unit   `json:"small"`    // of a freeboard; SI is metres
	Side     Unit   `json:"side"`     // of a box; SI is metres
	Mass     Unit   `json:"mass"`     // SI is kilograms
	Volume   Unit   `json:"volume"`   // SI is litres here, as on a can
	Speed    Unit   `json:"speed"`    // of the wind; SI is metres a second
	Way      Unit   `json:"way"`      // over land and lakes; SI is metres
	Strap    Unit   `json:"strap"`    // what a strap holds; SI is newtons
	Torque   Unit   `json:"torque"`   // SI is newton metres
	Pressure Unit   `json:"pressure"` // of tyres; SI is pascals
	Decimals int    `json:"decimals"` // shown on a small length
}

// Metric and US are the two systems that a member may choose.
var (
	Metric = System{
		Name: "metric", Length: Unit{Symbol: "m", SI: 1}, Small: Unit{Symbol: "mm", SI: 0.001},
		Side: Unit{Symbol: "cm", SI: 0.01},
		Mass: Unit{Symbol: "kg", SI: 1}, Volume: Unit{Symbol: "L", SI: 1}, Speed: Unit{Symbol: "m/s", SI: 1}, Decimals: 0,
		Way: Unit{Symbol: "km", SI: 1000}, Strap: Unit{Symbol: "daN", SI: 10}, Torque: Unit{Symbol: "N·m", SI: 1},
		Pressure: Unit{Symbol: "bar", SI: 1e5},
	}
	US = System{
		Name: "us", Length: Unit{Symbol: "ft", SI: FootM}, Small: Unit{Symbol: "in", SI: InchM},
		Side: Unit{Symbol: "in", SI: InchM},
		Mass: Unit{Symbol: "lb", SI: PoundKg}, Volume: Unit{Symbol: "gal", SI: USGallonL},
		Speed: Unit{Symbol: "mph", SI: MileHourMS}, Decimals: 2,
		Way: Unit{Symbol: "mi", SI: StatuteMileM}, Strap: Unit{Symbol: "lbf", SI: PoundForceN},
		Torque: Unit{Symbol: "lbf·ft", SI: PoundForceN * FootM}, Pressure: Unit{Symbol: "psi", SI: PSIPa},
	}
)

// SystemNamed gives the system that a member chose; anything else is Metric.
func SystemNamed(name string) System {
	if name == US.Name {
		return US
	}
	return Metric
}
