package wire

import (
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"
)

// What may be lost on the way, as a share of the volts. ABYC E-11, from memory.
const (
	DropMust  = 0.03 // what must not starve: navigation lights, pumps, electronics, feeders, motors
	DropOther = 0.10
)

// Usual temperatures, °C.
const (
	UsualConductor  = 30
	UsualInsulation = 105
	engineSpace     = 50 // for which the factor of engine spaces stands
)

// Circuit is what a wire is asked to do.
type Circuit struct {
	Amps       float64
	OneWay     float64 // metres
	Volts      float64 // of the system
	Drop       float64 // share of them that may be lost
	Conductor  float64 // °C
	Insulation float64 // °C that it stands
	Bundle     int     // conductors that carry current, tied together
	Engine     bool    // it runs through an engine space
	Continuous bool    // the load runs on
}

// Usual is a circuit with everything but what it carries as it usually is.
func Usual(amps, oneWay, volts float64) Circuit {
	return Circuit{Amps: amps, OneWay: oneWay, Volts: volts, Drop: DropMust, Conductor: UsualConductor,
		Insulation: UsualInsulation, Bundle: 1, Continuous: true}
}

// Decided says what a gauge was chosen for.
type Decided string

// What decides.
const (
	ByDrop     Decided = "drop"
	ByAmpacity Decided = "ampacity"
)

// Answer is what a circuit needs.
type Answer struct {
	AWG      Gauge
	Metric   Gauge
	Needs    float64 // mm² for the drop alone
	Mils     float64 // circular mils for it, by the second method
	Drop     float64 // volts lost in the American gauge
	Ampacity float64 // of the American gauge here
	Decided  Decided
	Fuse     float64 // the usual one, A
	FuseMost float64 // 150 % of the ampacity, A
}

// Check lists what is wrong with a circuit.
func (c Circuit) Check() error {
	var fs check.Faults
	fs.Within("current_a", c.Amps, 0.001, 1000)
	fs.Within("one_way_m", c.OneWay, 0.01, 100)
	fs.Within("system_v", c.Volts, 1, 1000)
	fs.Within("drop", c.Drop, 0.001, 0.5)
	fs.Within("insulation_c", c.Insulation, 60, 200)
	fs.Within("conductor_c", c.Conductor, -40, c.Insulation)
	fs.Within("bundle", float64(c.Bundle), 1, 100)
	return fs.Err()
}

// Factor is by what a gauge's ampacity is multiplied here: its insulation, the engine
// space, the bundle. Source: ABYC E-11, from memory. Other insulation than 105 °C carries
// with the root of what it may heat up by, which is within a tenth of E-11's columns.
func (c Circuit) Factor() float64 {
	rise := math.Sqrt((c.Insulation - UsualConductor) / (UsualInsulation - UsualConductor))
	return rise * engineFactor(c) * bundled(c.Bundle)
}

func engineFactor(c Circuit) float64 {
	switch {
	case !c.Engine:
		return 1
	case c.Insulation == UsualInsulation:
		return 0.85
	}
	return math.Sqrt((c.Insulation - engineSpace) / (c.Insulation - UsualConductor))
}

func bundled(conductors int) float64 {
	switch {
	case conductors < 3:
		return 1
	case conductors == 3:
		return 0.70
	case conductors <= 6:
		return 0.60
	case conductors <= 24:
		return 0.50
	}
	return 0.40
}

// Ratings of usual fuses and breakers, A.
var Ratings = []float64{1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 70, 80, 100, 120, 150, 175, 200, 250}

const (
	overLoad = 1.25 // of a load that runs on. Practice, no source
	overWire = 1.5  // of the ampacity, at most. ABYC E-11, from memory
)

// FuseFor is the smallest usual rating for a load, A; false over the largest.
func FuseFor(amps float64, continuous bool) (float64, bool) {
	least := amps
	if continuous {
		least *= overLoad
	}
	i := slices.IndexFunc(Ratings, func(r float64) bool { return r >= least-1e-9 })
	if i < 0 {
		return 0, false
	}
	return Ratings[i], true
}

// MostFuse is the largest fuse that protects a wire of an ampacity, A.
func MostFuse(ampacity float64) float64 { return overWire * ampacity }

// How far from its source a fuse may be, in metres along the wire. ABYC E-11, from memory.
const (
	FuseBare      = 0.18
	FuseSheathed  = 1.0 // in a sheath or conduit
	FuseAtBattery = 1.8 // straight from the battery, in a sheath
)

// FuseWithin is how far from its source a fuse may be, in metres.
func FuseWithin(sheathed, fromBattery bool) float64 {
	switch {
	case sheathed && fromBattery:
		return FuseAtBattery
	case sheathed:
		return FuseSheathed
	}
	return FuseBare
}

// Answer finds the smallest gauge that loses no more volts than allowed, may carry the
// current, and is protected by a usual fuse that lets the load run. A circuit that no
// gauge serves is a fault.
func (c Circuit) Answer() (Answer, error) {
	if err := c.Check(); err != nil {
		return Answer{}, err
	}
	volts := c.Drop * c.Volts
	a := Answer{Needs: AreaFor(c.Amps, c.OneWay, volts, c.Conductor), Mils: CircularMils(c.Amps, c.OneWay, volts)}
	fuse, usual := FuseFor(c.Amps, c.Continuous)
	if !usual {
		return a, check.Faults{{Field: "current_a", Value: c.Amps,
			Want: fmt.Sprintf("must be under %g for a usual fuse: the largest is %g A", Ratings[len(Ratings)-1]/overLoad,
				Ratings[len(Ratings)-1])}}
	}
	american, metric := c.smallest(AWG, a.Needs, fuse), c.smallest(Metric, a.Needs, fuse)
	if american == nil || metric == nil {
		return a, check.Faults{{Field: "current_a", Value: c.Amps, Want: fmt.Sprintf(
			"must be less, or the way shorter: %.0f mm² would be needed, and the thickest here is %s AWG, %.0f mm²; "+
				"use two in parallel, or more volts", a.Needs, AWG[len(AWG)-1].Name, AWG[len(AWG)-1].MM2)}}
	}
	a.AWG, a.Metric, a.Fuse = *american, *metric, fuse
	a.Ampacity = a.AWG.Ampacity * c.Factor()
	a.FuseMost = MostFuse(a.Ampacity)
	a.Drop = DropOf(c.Amps, c.OneWay, a.AWG.MM2, c.Conductor)
	a.Decided = c.decided(a)
	return a, nil
}

// decided says which of the two asks for more: a thicker gauge, or more of the same one.
func (c Circuit) decided(a Answer) Decided {
	forCurrent := c.smallest(AWG, 0, a.Fuse)
	switch {
	case a.Needs > forCurrent.MM2:
		return ByDrop
	case a.Needs <= below(a.AWG): // a thinner one would do for the drop
		return ByAmpacity
	case a.Needs/a.AWG.MM2 >= c.Amps/a.Ampacity:
		return ByDrop
	}
	return ByAmpacity
}

// below is the copper of the next thinner gauge, mm²; nothing below the thinnest.
func below(g Gauge) float64 {
	if i := slices.Index(AWG, g); i > 0 {
		return AWG[i-1].MM2
	}
	return 0
}

// smallest gauge with so much copper that may carry the current behind a fuse; nil where
// there is none.
func (c Circuit) smallest(gauges []Gauge, mm2, fuse float64) *Gauge {
	for i, g := range gauges {
		may := g.Ampacity * c.Factor()
		if g.MM2 >= mm2 && may >= c.Amps && fuse <= MostFuse(may)+1e-9 {
			return &gauges[i]
		}
	}
	return nil
}

// Has is what a wire that is there does: the volts it loses, what it may carry, and the
// largest fuse for it.
func (c Circuit) Has(mm2 float64) (drop, ampacity, fuseMost float64) {
	ampacity = carries(mm2) * c.Factor()
	return DropOf(c.Amps, c.OneWay, mm2, c.Conductor), ampacity, MostFuse(ampacity)
}
