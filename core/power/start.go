package power

import (
	"fmt"
	"math"

	"ergasia/core/check"
)

// Start is an engine that is to be started by a battery.
type Start struct {
	Chemistry Chemistry
	Volts     float64 // nominal
	SoC       float64
	Left      float64 // state of charge that should stay
	CCA       float64 // cold-cranking amperes, as new
	Factor    float64 // of age
	Celsius   float64
	Amps      float64 // what the starter draws
}

const (
	// heldAt is the voltage that a battery of 12 V must hold at its cold-cranking amperes
	// at -18 °C. SAE J537, from memory.
	heldAt = 7.2
	// fresh is what it shows then unloaded, about.
	fresh      = 12.6
	cranksAt   = -18.
	warmerHelp = 0.0137 // less resistance a kelvin: 1.25 at 0 °C, as marine ratings have it. Practice
	// LeastCranking is the voltage of a 12 V system under which engines do not start. Practice.
	LeastCranking = 9.6
)

// Check lists what is wrong with a start.
func (s Start) Check() error {
	var fs check.Faults
	fs.Within("nominal_v", s.Volts, 1, 100)
	fs.Within("soc", s.SoC, 0, 1)
	fs.Within("cca_a", s.CCA, 1, 5000)
	fs.Within("factor", s.Factor, 0.01, 2)
	fs.Within("air_c", s.Celsius, -60, 60)
	fs.Within("starter_a", s.Amps, 1, 2000)
	return fs.Err()
}

// Resistance inside, in ohms: (12.6 - 7.2)/CCA a 12 V at -18 °C, less where it is warmer,
// more where it is old.
func (s Start) Resistance() float64 {
	cold := (fresh - heldAt) / s.CCA * s.Volts / 12
	return cold / (1 + warmerHelp*max(0, s.Celsius-cranksAt)) / s.Factor
}

// Cranking are the volts while it cranks.
func (s Start) Cranking() float64 {
	return OpenVolts(s.Chemistry, s.Volts, s.SoC) - s.Amps*s.Resistance()
}

// Starts says whether the engine starts, and why not.
func (s Start) Starts() (bool, string) {
	least := LeastCranking * s.Volts / 12
	switch v := s.Cranking(); {
	case v < least:
		return false, fmt.Sprintf("%.1f V while it cranks, and it takes %.1f V", v, least)
	case s.SoC < s.Left:
		return false, fmt.Sprintf("%.0f %% left, and %.0f %% should stay in it", s.SoC*100, s.Left*100)
	}
	return true, ""
}

// MotorAmps is what an electric motor draws at a setting from 0 to 1, where no table says:
// as the setting to 1.5. Practice, no source.
func MotorAmps(full, setting float64) float64 { return full * pow15(min(1, max(0, setting))) }

func pow15(s float64) float64 { return s * math.Sqrt(s) }

// StarterAmps is what a starter draws for an engine of so many kilowatts, where nobody
// measured it. Practice, no source.
func StarterAmps(kilowatts float64) float64 { return min(400, 60+1.4*kilowatts) }
