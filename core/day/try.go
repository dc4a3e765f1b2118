package day

import (
	"cmp"
	"slices"

	"ergasia/core/float"

	"gonum.org/v1/gonum/spatial/r3"
)

// Change is one thing that might be done otherwise. It gives another day and leaves the
// first as it is.
type Change func(Day) Day

// Tried is what a change does to the whole day.
type Tried struct {
	Change   int // which
	Readings []Reading
	Cost     float64
}

// least is the improvement worth naming: a millimetre of freeboard, as Cost counts.
const least = 0.1

// Try makes each change alone and carries the day through with it: those that help, the
// best first, each computed through the whole day. A change is given up where the phases
// looked at so far, the worst first, already cost what the whole day did. Nothing helps
// a day in which every limit is kept. A stop of true ends it with what was found.
func (l Limits) Try(d Day, changes []Change, stop func() bool) (list []Tried) {
	base := d.Moments(0, stop)
	was := Cost(l.Read(d, base))
	if was <= 0 {
		return nil
	}
	order := l.worstFirst(d, base)
	for i, change := range changes {
		if stop != nil && stop() {
			break
		}
		if t, better := l.try(change(d), base, order, was-least); better {
			t.Change = i
			list = append(list, t)
		}
	}
	slices.SortStableFunc(list, func(a, b Tried) int { return cmp.Compare(a.Cost, b.Cost) })
	return list
}

// try carries the day through phase by phase until it costs more than it may.
func (l Limits) try(d Day, base []Moment, order []int, most float64) (Tried, bool) {
	moments := d.loads(0)
	var known []Moment
	var t Tried
	for _, phase := range order {
		from := len(known)
		for _, m := range moments {
			if m.Phase == phase {
				known = append(known, m)
			}
		}
		d.floatAnew(known[from:], base)
		if t.Readings = l.Read(d, known); Cost(t.Readings) > most {
			return t, false
		}
	}
	slices.SortStableFunc(known, func(a, b Moment) int { return cmp.Compare(a.Phase, b.Phase) })
	t.Readings = l.Read(d, known) // with the moments of the whole day, in order
	t.Cost = Cost(t.Readings)
	return t, true
}

// floatAnew floats her at moments, but where the same load was floated already.
func (d Day) floatAnew(moments, base []Moment) {
	rest := moments[:0:0]
	var at []int
	for i, m := range moments {
		if k := slices.IndexFunc(base, func(b Moment) bool { return b.Phase == m.Phase && sameLoad(b.Load, m.Load) }); k >= 0 {
			moments[i].Result = base[k].Result
			continue
		}
		rest, at = append(rest, m), append(at, i)
	}
	d.floatThem(rest, nil)
	for k, i := range at {
		moments[i].Result = rest[k].Result
	}
}

func sameLoad(a, b float.Load) bool {
	return slices.EqualFunc(a.Masses, b.Masses, func(x, y float.Mass) bool { return x.Kg == y.Kg && same(x.At, y.At) }) &&
		slices.EqualFunc(a.Tanks, b.Tanks, func(x, y float.Tank) bool { return x.Fill == y.Fill && same(x.Corner, y.Corner) })
}

func same(a, b r3.Vec) bool { return a.X == b.X && a.Y == b.Y && a.Z == b.Z }

// worstFirst are the phases of a day by what each costs alone, the dearest first.
func (l Limits) worstFirst(d Day, base []Moment) []int {
	cost := make([]float64, len(d.Phases))
	order := make([]int, len(d.Phases))
	for i := range d.Phases {
		order[i] = i
		var own []Moment
		for _, m := range base {
			if m.Phase == i {
				own = append(own, m)
			}
		}
		cost[i] = Cost(l.Read(d, own))
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(cost[b], cost[a]) })
	return order
}
