package power

import (
	"math"

	"ergasia/core/check"
)

// Chemistry of a battery.
type Chemistry string

// The chemistries.
const (
	Flooded Chemistry = "flooded"
	AGM     Chemistry = "agm"
	Gel     Chemistry = "gel"
	LiFePO4 Chemistry = "lifepo4"
)

// Chemistries in the order in which they are offered.
var Chemistries = []Chemistry{Flooded, AGM, Gel, LiFePO4}

// Lead says whether it is a lead battery.
func (c Chemistry) Lead() bool { return c != LiFePO4 }

// kind is what is usual of a chemistry. Practice, no source.
type kind struct {
	peukert, usable, efficiency float64
	fades                       float64 // share of its capacity a year
	cold                        float64 // share a kelvin under warm
	warm                        float64 // °C from which the rated capacity is there
	open                        [5]float64
}

// kinds by chemistry. open are the volts at rest of one of 12 V at 0, 25, 50, 75 and 100 %.
// Practice, no source.
var kinds = map[Chemistry]kind{
	Flooded: {peukert: 1.20, usable: 0.5, efficiency: 0.85, fades: 0.05, cold: 0.008, warm: 25,
		open: [5]float64{11.89, 12.06, 12.24, 12.45, 12.65}},
	AGM: {peukert: 1.12, usable: 0.5, efficiency: 0.85, fades: 0.05, cold: 0.008, warm: 25,
		open: [5]float64{11.80, 12.05, 12.30, 12.55, 12.80}},
	Gel: {peukert: 1.15, usable: 0.5, efficiency: 0.85, fades: 0.04, cold: 0.008, warm: 25,
		open: [5]float64{11.80, 12.05, 12.35, 12.65, 12.85}},
	LiFePO4: {peukert: 1.03, usable: 0.8, efficiency: 0.98, fades: 0.02, cold: 0.005, warm: 10,
		open: [5]float64{12.00, 12.95, 13.15, 13.25, 13.45}},
}

// leastFactor is what is left of a battery however old and cold. Practice, no source.
const leastFactor = 0.2

// Factor is by what the rated ampere-hours of a battery so many years old are multiplied
// at a temperature.
func Factor(c Chemistry, years, celsius float64) float64 {
	k := kinds[c]
	age := 1 - k.fades*max(0, years)
	cold := 1 - k.cold*max(0, k.warm-celsius)
	return max(leastFactor, age*cold)
}

// Bank is batteries of one chemistry that are charged and emptied together.
type Bank struct {
	ID         string
	Chemistry  Chemistry
	Volts      float64 // nominal
	Ah         float64 // at its rated hours, as new
	RatedH     float64
	Peukert    float64
	Usable     float64 // share that may be taken out
	SoC        float64 // at the start
	Factor     float64 // of age and temperature
	Efficiency float64 // of charging
	Taper      bool    // lead takes less and less over 0.8
	Sigma      float64 // of what it holds, one standard deviation as a share
}

// Usual is a full bank of a chemistry.
func Usual(id string, c Chemistry, volts, ah float64) Bank {
	k := kinds[c]
	return Bank{ID: id, Chemistry: c, Volts: volts, Ah: ah, RatedH: 20, Peukert: k.peukert, Usable: k.usable, SoC: 1,
		Factor: 1, Efficiency: k.efficiency}
}

func (b Bank) check(fs *check.Faults, at string) {
	fs.Text(at+"id", b.ID, 1, 80)
	fs.OneOf(at+"chemistry", string(b.Chemistry), string(Flooded), string(AGM), string(Gel), string(LiFePO4))
	fs.Within(at+"nominal_v", b.Volts, 1, 1000)
	fs.Within(at+"capacity_ah", b.Ah, 0.01, 10000)
	fs.Within(at+"rated_h", b.RatedH, 0.1, 200)
	fs.Within(at+"peukert", b.Peukert, 1, 2)
	fs.Within(at+"usable", b.Usable, 0.01, 1)
	fs.Within(at+"soc", b.SoC, 0, 1)
	fs.Within(at+"factor", b.Factor, 0.01, 2)
	fs.Within(at+"charge_efficiency", b.Efficiency, 0.1, 1)
}

// holds is what it holds today, Ah at its rated hours.
func (b Bank) holds() float64 { return b.Ah * b.Factor }

// Left is the state of charge under which it should not go.
func (b Bank) Left() float64 { return 1 - b.Usable }

// rate is how much of its charge a net discharge takes an hour, as a share.
func (b Bank) rate(amps float64) float64 {
	c := b.holds()
	return amps / c * math.Pow(amps*b.RatedH/c, b.Peukert-1)
}

// tapers is from where lead takes less and less.
const tapers = 0.8

// charged is the state of charge after so many hours of a net charge.
func (b Bank) charged(soc, amps, hours float64) float64 {
	perHour := b.Efficiency * amps / b.holds()
	if !b.Taper || !b.Chemistry.Lead() {
		return min(1, soc+perHour*hours)
	}
	if soc < tapers {
		until := (tapers - soc) / perHour
		if hours <= until {
			return soc + perHour*hours
		}
		soc, hours = tapers, hours-until
	}
	return 1 - (1-soc)*math.Exp(-perHour*hours/(1-tapers))
}

// Amps that so many watts take at the bank's nominal volts.
func (b Bank) Amps(watts float64) float64 { return watts / b.Volts }

// OpenVolts is the voltage at rest of a battery with a nominal voltage at a state of charge.
func OpenVolts(c Chemistry, nominal, soc float64) float64 {
	open := kinds[c].open
	at := min(1, max(0, soc)) * 4
	i := min(3, int(at))
	return (open[i] + (open[i+1]-open[i])*(at-float64(i))) * nominal / 12
}

// SoCOf is the state of charge at which a battery shows so many volts at rest, and how
// much a tenth of a volt (of one of 12 V) changes it there.
func SoCOf(c Chemistry, nominal, volts float64) (soc, perTenth float64) {
	soc, perTenth = alongTable(c, nominal, volts)
	return min(1, max(0, soc)), perTenth
}

// alongTable is SoCOf that goes on over full and under flat, for readings with an error.
func alongTable(c Chemistry, nominal, volts float64) (soc, perTenth float64) {
	open, v := kinds[c].open, volts*12/nominal
	i := 0
	for i < 3 && v > open[i+1] {
		i++
	}
	slope := 0.25 / (open[i+1] - open[i])
	return float64(i)/4 + (v-open[i])*slope, slope / 10
}
