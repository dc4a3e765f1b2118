package wire

import (
	"fmt"
	"math"
)

// Copper as IEC 60028 has it: annealed, at 20 °C.
const (
	resistivity20 = 1.0 / 58 // Ω mm²/m
	perKelvin     = 0.00393
)

// Resistivity of copper at a temperature in °C, in Ω mm²/m.
func Resistivity(celsius float64) float64 { return resistivity20 * (1 + perKelvin*(celsius-20)) }

// AreaFor is the copper, in mm², in which a current loses so many volts on the way there
// and back; oneWay in metres.
func AreaFor(amps, oneWay, volts, celsius float64) float64 {
	return 2 * oneWay * amps * Resistivity(celsius) / volts
}

// DropOf is how many volts a current loses in so much copper, there and back.
func DropOf(amps, oneWay, mm2, celsius float64) float64 {
	return 2 * oneWay * amps * Resistivity(celsius) / mm2
}

const (
	metresPerFoot = 0.3048
	// MilMM2 is a circular mil in mm²: the area of a circle a thousandth of an inch across.
	MilMM2 = math.Pi / 4 * 0.0254 * 0.0254
	// perMil is Ω circular mil a foot: ABYC E-11, from memory. It is copper near 29 °C.
	perMil = 10.75
)

// CircularMils is the area by the second method: CM = 10.75 I L/E, L there and back in feet.
func CircularMils(amps, oneWay, volts float64) float64 {
	return perMil * amps * 2 * oneWay / metresPerFoot / volts
}

// Gauge is a size of wire.
type Gauge struct {
	Name     string  // "10", "2/0"; of metric ones the area, "2.5"
	MM2      float64 // copper
	Ampacity float64 // at 105 °C, outside engine spaces, alone
}

// AWGArea is the area of an American gauge, mm²: d = 0.127 mm × 92^((36-n)/39). 1/0 is
// n = 0, 2/0 is -1 and so on. Source: ASTM B258.
func AWGArea(n int) float64 {
	d := 0.127 * math.Pow(92, float64(36-n)/39)
	return math.Pi / 4 * d * d
}

func awgName(n int) string {
	if n < 1 {
		return fmt.Sprintf("%d/0", 1-n)
	}
	return fmt.Sprint(n)
}

// ampacity at 105 °C by gauge number, outside engine spaces: ABYC E-11, from memory.
var ampacity = []struct {
	n    int
	amps float64
}{{18, 20}, {16, 25}, {14, 35}, {12, 45}, {10, 60}, {8, 80}, {6, 120}, {4, 160}, {2, 210}, {1, 245},
	{0, 285}, {-1, 330}, {-2, 385}, {-3, 445}}

// AWG are the American gauges that are used aboard, the thinnest first.
var AWG = american()

func american() (list []Gauge) {
	for _, a := range ampacity {
		list = append(list, Gauge{Name: awgName(a.n), MM2: AWGArea(a.n), Ampacity: a.amps})
	}
	return list
}

// Metric are the sizes of IEC 60228 that are used aboard, the thinnest first. What they may
// carry is the American table's, between its rows by a straight line of logarithms.
var Metric = metric()

func metric() (list []Gauge) {
	for _, mm2 := range []float64{0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120} {
		list = append(list, Gauge{Name: fmt.Sprint(mm2), MM2: mm2, Ampacity: carries(mm2)})
	}
	return list
}

// carries is what so much copper may carry, by the American table.
func carries(mm2 float64) float64 {
	i := 1
	for i < len(AWG)-1 && AWG[i].MM2 < mm2 {
		i++
	}
	a, b := AWG[i-1], AWG[i]
	slope := math.Log(b.Ampacity/a.Ampacity) / math.Log(b.MM2/a.MM2)
	return a.Ampacity * math.Pow(mm2/a.MM2, slope)
}
