package entry

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
)

// read is what a line should be read as; a nought of a figure means it is not
// checked, and doubt that a sentence must say something was unsure.
type read struct {
	line   string
	name   string
	count  int
	kg     float64
	size   [3]float64 // cm
	place  string
	owner  string
	doubt  bool
	flagOf string // dry, fragile, metal, soft, weighed
}

var port = "port bench"

// A hundred lines as people say them. The lines are invented.
var natural = []read{
	{line: "lure tray x4", name: "lure tray", count: 4, doubt: true},
	{line: "lure tray x 4 36x23x5 1.2kg", name: "lure tray", count: 4, kg: 1.2, size: [3]float64{36, 23, 5}},
	{line: "lure trays (2)", name: "lure trays", count: 2, doubt: true},
	{line: "anchor (x2) 7.5 kg 55x30x14", name: "anchor", count: 2, kg: 7.5, size: [3]float64{55, 30, 14}},
	{line: "x3 bucket 30x30x30 900g", name: "bucket", count: 3, kg: 0.9, size: [3]float64{30, 30, 30}},
	{line: "5x headlamp 9x7x5 120 g", name: "headlamp", count: 5, kg: 0.12, size: [3]float64{9, 7, 5}},
	{line: "reel 3lb 4oz 14x12x10", name: "reel", count: 1, kg: 1.474, size: [3]float64{14, 12, 10}},
	{line: "reel 3 lb. 4 oz. 14x12x10", name: "reel", kg: 1.474},
	{line: "reel 3 lbs and 4 oz 14x12x10", name: "reel", kg: 1.474},
	{line: "tool roll 1kg 200g 34x14x9", name: "tool roll", kg: 1.2, size: [3]float64{34, 14, 9}},
	{line: "tool roll 1,200 g 34x14x9", name: "tool roll", kg: 1.2},
	{line: "tool roll 1.200 g 34x14x9", name: "tool roll", kg: 1.2, doubt: true},
	{line: "sounder battery 12 V 2,5 kg 15x10x10", name: "sounder battery 12 V", kg: 2.5},
	{line: "two landing nets 110x50x8 1.1kg", name: "landing nets", count: 2, kg: 1.1},
	{line: "a dozen fenders 45x15x15 0.7 kg each", name: "fenders", count: 12, kg: 0.7},
	{line: "half a dozen flares", name: "flares", count: 6, doubt: true},
	{line: "two dozen hooks 20 g 3x1x1", name: "hooks", count: 24, kg: 0.02},
	{line: "pair of oars 180x18x6cm 2kg", name: "oars", count: 2, kg: 2, size: [3]float64{180, 18, 6}},
	{line: "a pair of paddles", name: "paddles", count: 2, doubt: true},
	{line: "pair of pliers 200g 20x6x2", name: "pliers", count: 1, kg: 0.2},
	{line: "couple of thermos flasks 30x10x10 1.5kg", name: "thermos flasks", count: 2, kg: 1.5},
	{line: `rod 7'6" 300g`, name: `rod 7'6"`, count: 1, kg: 0.3, size: [3]float64{228.6, 0, 0}, doubt: true},
	{line: "rod 7 ft 6 in 300 grams", name: "rod 7 ft 6 in", kg: 0.3, size: [3]float64{228.6, 0, 0}, doubt: true},
	{line: "rod 7ft 300g", name: "rod 7ft", size: [3]float64{213.36, 0, 0}, doubt: true},
	{line: "rod 7’6” 0.3kg", name: `rod 7'6"`, size: [3]float64{228.6, 0, 0}, doubt: true},
	{line: "rod 7½ ft 0.3kg", name: "rod 7 1/2 ft", size: [3]float64{228.6, 0, 0}, doubt: true},
	{line: "“green” box 36x23x10 2.5kg", name: `"green" box`, kg: 2.5, size: [3]float64{36, 23, 10}},
	{line: "tackle box 2½ kg 36x23x10", name: "tackle box", kg: 2.5},
	{line: "tackle box 2 1/2 kg 36x23x10", name: "tackle box", kg: 2.5},
	{line: "tackle box ½ kg 36x23x10", name: "tackle box", kg: 0.5},
	{line: "cooler 37 by 24 by 11 4kg", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "cooler 37 by 24 by 11 cm, 4 kilo", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "cooler L37 W24 H11 4 kilos", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "cooler L 37 cm W 24 cm H 11 cm 4 kilograms", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "cooler length 37, width 24, height 11, 4kg", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "cooler 37 cm long, 24 cm wide and 11 cm high, 4 kg", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "cooler 37L x 24W x 11H 4kg", name: "cooler", kg: 4, size: [3]float64{37, 24, 11}},
	{line: "crate 37x24 1kg", name: "crate", kg: 1, size: [3]float64{37, 24, 0}, doubt: true},
	{line: "first-aid kit 1100 grams 26x18x10", name: "first-aid kit", kg: 1.1},
	{line: "lead 500 gr 8x3x3", name: "lead", kg: 0.5},
	{line: "toolbox 7 lbs. 34x14x9", name: "toolbox", kg: 3.175},
	{line: "toolbox 7 pounds 34x14x9", name: "toolbox", kg: 3.175},
	{line: "spoon 12 oz 10x3x3", name: "spoon", kg: 0.34},
	{line: "lifejacket in port bench", name: "lifejacket", place: port, doubt: true},
	{line: "lifejacket 36x20x10 1.1 kg in the port bench", name: "lifejacket", kg: 1.1, place: port},
	{line: "lifejacket 36x20x10 1.1kg, port bench", name: "lifejacket", kg: 1.1, place: port},
	{line: "2 lifejackets on shelf a, 1.1 kg each", name: "lifejackets", count: 2, doubt: true},
	{line: "Oskar's reel 400 g 14x12x10", name: "reel", owner: "Oskar", kg: 0.4},
	{line: "Ilse’s reel 400 g 14x12x10 in port bench", name: "reel", owner: "Ilse", place: port},
	{line: "reel 400g 14x12x10 (Oskar's)", name: "reel", owner: "Oskar"},
	{line: "anchor approx 8 kg 55x30x14", name: "anchor", kg: 8},
	{line: "anchor approx. 8 kg 55x30x14", name: "anchor", kg: 8},
	{line: "anchor about 8kg 55x30x14", name: "anchor", kg: 8},
	{line: "anchor ~8 kg 55x30x14", name: "anchor", kg: 8},
	{line: "dry bag 35x25x12 0.8kg", name: "dry bag", kg: 0.8},
	{line: "wet weather jacket 40x30x8 1kg", name: "wet weather jacket", kg: 1},
	{line: "tray 28x19x5 1.3kg keep dry", name: "tray", flagOf: "dry"},
	{line: "tray 28x19x5 1.3kg must stay dry", name: "tray", flagOf: "dry"},
	{line: "sounder 25x18x9 1.4kg, fragile", name: "sounder", flagOf: "fragile"},
	{line: "sounder 25x18x9 1.4kg (fragile)", name: "sounder", flagOf: "fragile"},
	{line: "metal box 30x20x10 3kg", name: "metal box", flagOf: "metal"},
	{line: "tray 28x19x5 1.3kg weighed", name: "tray", kg: 1.3, flagOf: "weighed"},
	{line: "soft cooler 40x30x30 1.5kg", name: "soft cooler", flagOf: "soft"},
	{line: "2 x 20 L can 40x25x40 17kg", name: "20 L can", count: 2, kg: 17, size: [3]float64{40, 25, 40}},
	{line: "two 10 L cans 32x18x34 8.6kg", name: "10 L cans", count: 2, kg: 8.6},
	{line: "3 x 36x23x5 tray 1.2 kg", name: "tray", count: 3, kg: 1.2, size: [3]float64{36, 23, 5}},
	{line: "2 x 2.1 m rods 600g", name: "2.1 m rods", count: 2, kg: 0.6, size: [3]float64{210, 0, 0}, doubt: true},
	{line: "4 trays 5.2 kg in total 36x23x5", name: "trays", count: 4, kg: 1.3, doubt: true},
	{line: "4 trays, 1.3 kg apiece, 36x23x5", name: "trays", count: 4, kg: 1.3},
	{line: `box 14" x 9" x 4" 5 lb`, name: "box", kg: 2.268, size: [3]float64{35.56, 22.86, 10.16}},
	{line: "box 14in x 9in x 4in 5 lb", name: "box", size: [3]float64{35.56, 22.86, 10.16}},
	{line: `box 14 1/2" x 9" x 4" 5 lb`, name: "box", size: [3]float64{36.83, 22.86, 10.16}},
	{line: `box 1'2" x 9" x 4" 5 lb`, name: "box", size: [3]float64{35.56, 22.86, 10.16}},
	{line: "box 36 cm x 23 cm x 10 cm 2.5 kg", name: "box", size: [3]float64{36, 23, 10}},
	{line: "box 36×23×10 2.5 kg", name: "box", size: [3]float64{36, 23, 10}},
	{line: "box 360x230x100mm 2.5kg", name: "box", size: [3]float64{36, 23, 10}},
	{line: "box 0.36 x 0.23 x 0.1 m 2.5kg", name: "box", size: [3]float64{36, 23, 10}},
	{line: "box (36x23x10 cm, 2.5 kg)", name: "box", kg: 2.5, size: [3]float64{36, 23, 10}},
	{line: "box 36x23x10 (LxWxH) 2.5kg", name: "box", size: [3]float64{36, 23, 10}},
	{line: "box - 36x23x10 - 2.5kg", name: "box", kg: 2.5, size: [3]float64{36, 23, 10}},
	{line: "box, 36x23x10, 2.5kg, qty 3", name: "box", count: 3, kg: 2.5},
	{line: "box 36x23x10 2.5kg 3 pcs", name: "box", count: 3},
	{line: "box 36/23/10 cm 2.5kg", name: "box", size: [3]float64{36, 23, 10}},
	{line: "thermos 30 cm long, 10 cm diameter, 1.5 kg", name: "thermos", size: [3]float64{30, 10, 10}, kg: 1.5},
	{line: "spool 20 lb braid 300 g 12x12x6", name: "spool 20 lb braid", kg: 0.3, doubt: true},
	{line: "10-30 g spinning rod 2.1 m 0.4 kg", name: "10-30 g spinning rod 2.1 m", kg: 0.4, size: [3]float64{210, 0, 0},
		doubt: true},
	{line: "fire extinguisher 2 kg, 3.6 kg all told 38x14x14", name: "fire extinguisher 2 kg, all told", kg: 3.6, doubt: true},
	{line: "half a kilo of jig heads 15x10x5", name: "jig heads", kg: 0.5},
	{line: "size 6 hooks 20g 5x3x1", name: "size 6 hooks", kg: 0.02, doubt: true},
	{line: "the big net 110x50x8 1.1kg", name: "big net", count: 1, kg: 1.1},
	{line: "an anchor 7.5kg 55x30x14", name: "anchor", count: 1, kg: 7.5},
	{line: "2 piece rod 2.1 m 500g", name: "2 piece rod 2.1 m", count: 1, kg: 0.5, doubt: true},
	{line: "two-stroke oil 1 kg 20x10x8", name: "two-stroke oil", count: 1, kg: 1},
	{line: "rope 30 m 2.6kg 28x24x12", name: "rope 30 m", kg: 2.6},
	{line: "tray 28x19x5 1.3kg in port locker", name: "tray in port locker", doubt: true},
	{line: "tray 28x19x5 1.3kg @port benhc", name: "tray", place: port, doubt: true},
	{line: "bucket 12 in high 12 in across 2 lb", name: "bucket", kg: 0.907, size: [3]float64{30.48, 30.48, 30.48}},
	{line: "four rods", name: "rods", count: 4, doubt: true},
	{line: "1 1/2 lb sinker 8x4x4", name: "sinker", count: 1, kg: 0.68},
	{line: "cushion 40x40x8 0,7kg floats", name: "cushion", kg: 0.7},
}

func (r read) isRead(e Entry) bool {
	flags := map[string]bool{"": true, "dry": e.NeedsDry, "fragile": e.Fragile, "metal": e.Metal, "soft": e.Shape == "soft",
		"weighed": e.MassKnown == "weighed"}
	for i, cm := range r.size {
		if cm != 0 && math.Abs(e.Size[i]-cm/100) > 1e-6 {
			return false
		}
	}
	return e.Name == r.name && (r.count == 0 || e.Count == r.count) && (r.kg == 0 || math.Abs(e.Kg-r.kg) < 1e-3) &&
		e.Place == r.place && e.Owner == r.owner && flags[r.flagOf]
}

func TestAHundredNaturalLines(t *testing.T) {
	known := crew
	known.Places = append(known.Places[:len(known.Places):len(known.Places)], "shelf A")
	right, silent := 0, 0
	for _, r := range natural {
		if r.line == "2 lifejackets on shelf a, 1.1 kg each" {
			r.place = "shelf A"
		}
		e := Line(r.line, known)
		if r.isRead(e) && (len(e.Doubts) > 0) == r.doubt {
			right++
			continue
		}
		t.Logf("%q was read as %q count %d, %.4g kg, %v, @%q +%q, %v", r.line, e.Name,
			e.Count, e.Kg, e.Size, e.Place, e.Owner, e.Doubts)
		if !r.isRead(e) && len(e.Doubts) == 0 {
			silent++
		}
	}
	assert.Len(t, natural, 100)
	assert.GreaterOrEqual(t, right, 95)
	assert.Zero(t, silent, "wrong in silence")
}
