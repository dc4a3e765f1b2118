package pump

import "math"

// Schools of how much fish a livewell keeps.
//
// By volume: 8 litres a kilogram in cool water, 16 in warm. Practice, no source.
// By oxygen: what the flow brings in against what the fish breathe.
const (
	coolLitres, warmLitres = 8.0, 16.0
	cool, warm             = 10.0, 25.0 // °C
	leastOxygen            = 5.0        // mg/l under which fish suffer. Practice
	breathes               = 300.0      // mg a kilogram and hour at 20 °C, excited. Practice
	twiceEach              = 10.0       // kelvin for twice as much. Practice
)

// LitresPerKg is what a kilogram of fish needs by the school of volume.
func LitresPerKg(celsius float64) float64 {
	share := min(1, max(0, (celsius-cool)/(warm-cool)))
	return coolLitres + (warmLitres-coolLitres)*share
}

// Oxygen is what fresh water holds when it is full of air, mg/l. Elmore and Hayes, Proc.
// ASCE 86 (1960), memory; good from 0 to 30 °C.
func Oxygen(celsius float64) float64 {
	t := min(30, max(0, celsius))
	return 14.652 - 0.41022*t + 0.0079910*t*t - 0.000077774*t*t*t
}

// Well is a livewell with what runs through it.
type Well struct {
	Litres  float64
	Flow    float64 // litres of fresh water an hour, on the mean
	Celsius float64
}

// Turnover is how often an hour its water is new.
func (w Well) Turnover() float64 {
	if w.Litres <= 0 {
		return 0
	}
	return w.Flow / w.Litres
}

// ByVolume is how many kilograms it keeps by its litres.
func (w Well) ByVolume() float64 { return w.Litres / LitresPerKg(w.Celsius) }

// ByOxygen is how many kilograms the flow keeps breathing.
func (w Well) ByOxygen() float64 {
	rate := breathes * math.Exp2((w.Celsius-20)/twiceEach)
	return w.Flow * max(0, Oxygen(w.Celsius)-leastOxygen) / rate
}

// Keeps is the lesser of the two, kilograms.
func (w Well) Keeps() float64 { return min(w.ByVolume(), w.ByOxygen()) }
