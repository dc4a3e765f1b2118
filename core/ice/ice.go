// Package ice tells how long ice lasts in a box, and what chilling fish takes of it.
//
// Units: kilograms, degrees Celsius, watts a kelvin, hours.
//
// Method: heat comes in through the walls, U A ΔT, and melts ice of 0 °C; fish give their
// heat to it evenly. 334 kJ/kg melt ice; 3.35 kJ chill a kilogram of fish by a kelvin
// (FAO Fisheries Technical Paper 331; memory). Ice that is colder than 0 °C lasts a
// little longer than is said here.
package ice

const (
	latent     = 334e3 // J/kg, of melting
	fishHeat   = 3350  // J/(kg K)
	hourSecond = 3600
)

// UsualUA is what the walls of boxes let in, watts a kelvin, by how they are made.
// Practice, no source: until a crew has seen how long its ice lasts.
var UsualUA = map[string]float64{"bag": 2.2, "box": 1.0, "thick": 0.5}

// Melts is how many kilograms an hour the walls cost, in air of so many degrees.
func Melts(ua, air float64) float64 { return max(0, ua*air) * hourSecond / latent }

// Chills is how much ice it takes to bring so much fish down to 0 °C.
func Chills(fishKg, fishTemp float64) float64 { return max(0, fishKg*fishTemp) * fishHeat / latent }

// Lasts is for how many hours ice lasts; +Inf where nothing melts it.
func Lasts(iceKg, ua, air float64) float64 { return iceKg / Melts(ua, air) }

// LearnUA is what the walls let in, by how long ice lasted, watts a kelvin; nought where
// nothing can be told.
func LearnUA(iceKg, hours, air float64) float64 {
	if hours <= 0 || air <= 0 {
		return 0
	}
	return iceKg * latent / hourSecond / hours / air
}
