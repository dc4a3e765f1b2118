package day

import (
	"math"
	"slices"

	"ergasia/core/float"
)

// Limits are what a day is held to. Nought of PlateKg or Reserve is no limit.
type Limits struct {
	Freeboard         float64 // metres, the least
	Heel              float64 // degrees to either side
	TrimLow, TrimHigh float64 // degrees, bow up positive
	PlateKg           float64
	Reserve           float64 // litres that are to be left
}

// Key says what is held to a limit.
type Key string

// What a day is held to, the gravest first.
const (
	Swamps    Key = "swamps"    // she sinks, capsizes, or water comes in over an edge
	Awash     Key = "awash"     // the sea stands in a space through its scuppers
	Freeboard Key = "freeboard" // metres
	Heel      Key = "heel"      // degrees
	BowDown   Key = "bow_down"  // degrees of trim
	SternDown Key = "stern_down"
	Loaded    Key = "plate" // kilograms
	Fuel      Key = "fuel"  // litres left
	Ice       Key = "ice"   // kilograms left
)

// Reading is what becomes of one of them in a day: its worst moment.
type Reading struct {
	Key    Key
	Moment int     // the worst; -1 where there is none
	Value  float64 // then
	Limit  float64
	Excess float64 // by which the limit is not kept; nought or less where it is
	Hours  float64 // of the day in which it is not kept
	From   float64 // hour at which that begins
	Dwell  float64 // excess times hours, summed up over the day
}

// Kept says whether the limit is kept all day.
func (r Reading) Kept() bool { return r.Excess <= 0 }

// held is a key's value at a moment, and how far it is beyond the limit; false where it
// says nothing there.
type held struct {
	key Key
	at  func(l Limits, d Day, m Moment) (value, limit, excess float64, ok bool)
}

// all of what is looked at.
var all = []held{
	{Swamps, func(_ Limits, _ Day, m Moment) (float64, float64, float64, bool) {
		if m.Result.Figures == nil {
			return 0, 0, 1, !m.Ashore
		}
		low := m.Result.Figures.Lowest.M
		return low, 0, -low, true
	}},
	{Awash, floating(func(_ Limits, f *float.Figures) (depth, limit, excess float64) {
		for _, a := range f.Awash {
			depth = max(depth, a.Depth)
		}
		return depth, 0, depth
	})},
	{Freeboard, floating(func(l Limits, f *float.Figures) (float64, float64, float64) {
		return f.Lowest.M, l.Freeboard, l.Freeboard - f.Lowest.M
	})},
	{Heel, floating(func(l Limits, f *float.Figures) (float64, float64, float64) {
		return f.HeelDeg, l.Heel, math.Abs(f.HeelDeg) - l.Heel
	})},
	{BowDown, floating(func(l Limits, f *float.Figures) (float64, float64, float64) {
		return f.TrimDeg, l.TrimLow, l.TrimLow - f.TrimDeg
	})},
	{SternDown, floating(func(l Limits, f *float.Figures) (float64, float64, float64) {
		return f.TrimDeg, l.TrimHigh, f.TrimDeg - l.TrimHigh
	})},
	{Loaded, func(l Limits, _ Day, m Moment) (float64, float64, float64, bool) {
		return m.Plate, l.PlateKg, m.Plate - l.PlateKg, l.PlateKg > 0 && !m.Ashore
	}},
	{Fuel, func(l Limits, d Day, m Moment) (float64, float64, float64, bool) {
		left := m.Fuel - m.Short
		return left, l.Reserve, l.Reserve - left, len(d.Fuel) > 0
	}},
	{Ice, func(_ Limits, d Day, m Moment) (float64, float64, float64, bool) {
		left := math.Inf(1)
		for i, c := range d.Coolers {
			if c.Ice > 0 {
				left = min(left, m.Ice[i])
			}
		}
		return left, 0, iceGone - left, m.Catch > 0 && !math.IsInf(left, 1) // before that nothing lies on it
	}},
}

// floating is what is read off her afloat.
func floating(
	of func(Limits, *float.Figures) (value, limit, excess float64),
) func(Limits, Day, Moment) (float64, float64,
	float64, bool) {
	return func(l Limits, _ Day, m Moment) (float64, float64, float64, bool) {
		if m.Result.Figures == nil {
			return 0, 0, 0, false
		}
		value, limit, excess := of(l, m.Result.Figures)
		return value, limit, excess, true
	}
}

// iceGone is how much ice is as good as none, kilograms. Practice, no source.
const iceGone = 0.1

// rounding is how much beyond a limit is not.
const rounding = 1e-9

// Read is the worst of each thing through a day; what says nothing in it is left out.
func (l Limits) Read(d Day, moments []Moment) (list []Reading) {
	for _, h := range all {
		r := Reading{Key: h.key, Moment: -1}
		last, beyond := -1, 0.0 // the moment before of the same phase, and how far it was out
		for i, m := range moments {
			value, limit, excess, ok := h.at(l, d, m)
			if !ok {
				last = -1
				continue
			}
			if r.Moment < 0 || excess > r.Excess {
				r.Moment, r.Value, r.Limit, r.Excess = i, value, limit, excess
			}
			if last >= 0 && moments[last].Phase == m.Phase {
				r.dwell(beyond, excess, moments[last].Hour, m.Hour)
			}
			last, beyond = i, excess
		}
		if r.Moment < 0 {
			continue
		}
		if r.Excess <= rounding {
			r.Excess = min(r.Excess, 0)
		}
		list = append(list, r)
	}
	return list
}

// dwell adds a stretch between two moments, out by so much at either end.
func (r *Reading) dwell(a, b, from, to float64) {
	a, b = max(a, 0), max(b, 0)
	if a <= rounding && b <= rounding {
		return
	}
	if r.Hours == 0 {
		r.From = from
	}
	r.Hours += to - from
	r.Dwell += (a + b) / 2 * (to - from)
}

// What an excess of each counts, so that days can be compared: a centimetre of freeboard
// as much as a quarter of a degree, ten kilograms, a litre. Ours.
var scale = map[Key]float64{Swamps: 0.0001, Awash: 0.002, Freeboard: 0.01, Heel: 0.25, BowDown: 0.25, SternDown: 0.25,
	Loaded: 10, Fuel: 1, Ice: 1}

// Cost of a day: nought where every limit is kept, more the worse it is and the longer
// it is so: an hour of it as much as once.
func Cost(list []Reading) (cost float64) {
	for _, r := range list {
		if !r.Kept() {
			cost += (r.Excess + r.Dwell) / scale[r.Key]
		}
	}
	return cost
}

// Find is the reading of a key.
func Find(list []Reading, key Key) (Reading, bool) {
	i := slices.IndexFunc(list, func(r Reading) bool { return r.Key == key })
	if i < 0 {
		return Reading{}, false
	}
	return list[i], true
}
