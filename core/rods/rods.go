package rods

import (
	"cmp"
	"slices"
)

// Rod is one rod as it is stowed; anything long that does not taper has a guide
// as large as its breadth, or none.
type Rod struct {
	ID      string
	Length  float64
	Breadth float64 // of the butt, with the reel where it is on
	Height  float64
	Guide   float64 // height of the largest guide; nought where it does not taper
	Uses    float64 // times a day
}

func (r Rod) tip() float64 {
	if r.Guide <= 0 {
		return r.Breadth
	}
	return min(r.Guide, r.Breadth)
}

// bore is what a rod takes up of a tube: its tip, or where it does not taper, its thicker side.
func (r Rod) bore() float64 {
	if r.Guide <= 0 {
		return max(r.Breadth, r.Height)
	}
	return r.tip()
}

// Room is a bed, a bank of tubes or a row of holders.
type Room struct {
	Length, Breadth, Height float64
	Slots                   int     // tubes or holders; nought is an open bed
	Diameter                float64 // inside, of a tube; nought of a holder or bed
}

// Lying is how a rod lies: its corner, how it is turned, and what it takes up
// across at its after and fore end, from and to. Upright ones stand in a slot.
type Lying struct {
	ID        string
	X, Y, Z   float64
	Length    float64 // along x
	Breadth   float64
	Height    float64
	Aft, Fore [2]float64
	Reversed  bool // butt forward
	Slot      int  // of tubes and holders, from nought
	Layer     int
	Doubled   bool // tip by butt with a neighbour, or two in one tube
}

const slack = 1e-9

// Lay lays all rods, or says that it found no way.
func (r Room) Lay(list []Rod) ([]Lying, bool) {
	for _, rod := range list {
		if r.Refuses(rod) != "" {
			return nil, false
		}
	}
	switch {
	case r.Slots == 0:
		return r.bed(list)
	case r.Diameter > 0:
		return r.tubes(list)
	}
	return r.upright(list)
}

// Refuses says what keeps a rod out even where nothing else lies: length,
// guide, bore (of what does not taper), breadth or height; empty where it goes in.
func (r Room) Refuses(rod Rod) string {
	switch {
	case r.Slots > 0 && r.Diameter == 0:
		return "" // a holder takes any
	case rod.Length > r.Length+slack:
		return "length"
	case r.Diameter > 0 && rod.bore() > r.Diameter+slack && rod.Guide <= 0:
		return "bore"
	case r.Diameter > 0 && rod.bore() > r.Diameter+slack:
		return "guide"
	case r.Diameter == 0 && rod.Breadth > r.Breadth+slack:
		return "breadth"
	case r.Diameter == 0 && rod.Height > r.Height+slack:
		return "height"
	}
	return ""
}

// layer is a row of rods on one level, filled from starboard.
type layer struct {
	lying     []Lying
	aft, fore float64 // how far each end is taken up
	height    float64
	uses      float64
}

// add lays a rod beside the others, butt to the end where more is left.
func (l *layer) add(rod Rod, r Room) bool {
	try := func(reversed bool) (aft, fore float64) {
		if reversed {
			return l.aft + rod.tip(), l.fore + rod.Breadth
		}
		return l.aft + rod.Breadth, l.fore + rod.tip()
	}
	aft, fore := try(false)
	otherAft, otherFore := try(true)
	reversed := max(otherAft, otherFore) < max(aft, fore)-slack
	if reversed {
		aft, fore = otherAft, otherFore
	}
	if max(aft, fore) > r.Breadth+slack {
		return false
	}
	one := Lying{ID: rod.ID, Length: rod.Length, Breadth: rod.Breadth, Height: rod.Height, Reversed: reversed,
		Aft: [2]float64{l.aft, aft}, Fore: [2]float64{l.fore, fore}}
	if reversed {
		one.X = r.Length - rod.Length
	}
	one.Y = max(0, min(one.Aft[0], one.Fore[0], r.Breadth-rod.Breadth))
	l.lying = append(l.lying, one)
	l.aft, l.fore, l.height, l.uses = aft, fore, max(l.height, rod.Height), max(l.uses, rod.Uses)
	return true
}

// bed lays rods in as few layers as a few orders give; the most used on top.
func (r Room) bed(list []Rod) ([]Lying, bool) {
	var best []*layer
	least := r.Height + slack
	for _, order := range []func(a, b Rod) int{
		func(a, b Rod) int { return cmp.Or(cmp.Compare(a.Uses, b.Uses), cmp.Compare(b.Height, a.Height)) },
		func(a, b Rod) int { return cmp.Or(cmp.Compare(b.Height, a.Height), cmp.Compare(b.Breadth, a.Breadth)) },
		func(a, b Rod) int { return cmp.Compare(b.Breadth-b.tip(), a.Breadth-a.tip()) },
	} {
		sorted := slices.Clone(list)
		slices.SortStableFunc(sorted, func(a, b Rod) int { return cmp.Or(order(a, b), cmp.Compare(a.ID, b.ID)) })
		var layers []*layer
		height := 0.0
		for _, rod := range sorted {
			if !slices.ContainsFunc(layers, func(l *layer) bool { return rod.Height <= l.height+slack && l.add(rod, r) }) {
				l := &layer{}
				if !l.add(rod, r) {
					return nil, false
				}
				layers, height = append(layers, l), height+l.height
			}
		}
		if height <= least && (best == nil || height < least-1e-6) {
			best, least = layers, height
		}
	}
	if best == nil && len(list) > 0 {
		return nil, false
	}
	slices.SortStableFunc(best, func(a, b *layer) int { return cmp.Compare(a.uses, b.uses) })
	var laid []Lying
	z := 0.0
	for k, l := range best {
		for _, one := range l.lying {
			one.Z, one.Layer = z, k
			one.Doubled = slices.ContainsFunc(l.lying, func(o Lying) bool { return o.Reversed != one.Reversed })
			laid = append(laid, one)
		}
		z += l.height
	}
	return laid, true
}

// tubes gives each rod a tube; where there are more rods than tubes, the least
// used go in two by two as far as both tips pass.
func (r Room) tubes(list []Rod) ([]Lying, bool) {
	sorted := slices.Clone(list)
	slices.SortStableFunc(sorted, func(a, b Rod) int { // thick tips first: thin ones double up
		return cmp.Or(cmp.Compare(b.bore(), a.bore()), cmp.Compare(b.Uses, a.Uses), cmp.Compare(a.ID, b.ID))
	})
	free := make([]float64, r.Slots)
	n := make([]int, r.Slots)
	for i := range free {
		free[i] = r.Diameter
	}
	slot := map[string]int{}
	for _, rod := range sorted {
		best := -1
		for i := range free {
			if n[i] < 2 && free[i] >= rod.bore()-slack && (best < 0 || n[i] < n[best] || n[i] == n[best] &&
				free[i] < free[best]-slack) {
				best = i
			}
		}
		if best < 0 {
			return nil, false
		}
		slot[rod.ID] = best
		free[best] -= rod.bore()
		n[best]++
	}
	columns := min(r.Slots, max(1, int(r.Breadth/r.Diameter+slack)))
	rows := (r.Slots + columns - 1) / columns
	var laid []Lying
	for _, rod := range list {
		i := slot[rod.ID]
		y, z := r.Breadth*(float64(i%columns)+0.5)/float64(columns), r.Height*float64(i/columns)/float64(rows)
		across := func(w float64) [2]float64 { return [2]float64{y - w/2, y + w/2} }
		laid = append(laid, Lying{ID: rod.ID, Y: y - min(rod.Breadth, r.Diameter)/2, Z: z, Length: rod.Length,
			Breadth: min(rod.Breadth, r.Diameter), Height: min(rod.Height, r.Diameter),
			Aft: across(min(rod.Breadth, r.Breadth/float64(columns))), Fore: across(rod.bore()), Slot: i, Doubled: n[i] > 1})
	}
	slices.SortStableFunc(laid, func(a, b Lying) int { return cmp.Compare(a.Z, b.Z) })
	return laid, true
}

// upright stands one rod in each holder, the most used in the first.
func (r Room) upright(list []Rod) ([]Lying, bool) {
	if len(list) > r.Slots {
		return nil, false
	}
	sorted := slices.Clone(list)
	slices.SortStableFunc(sorted, func(a, b Rod) int {
		return cmp.Or(cmp.Compare(b.Uses, a.Uses),
			cmp.Compare(a.ID, b.ID))
	})
	var laid []Lying
	for i, rod := range sorted {
		wide := r.Breadth / float64(r.Slots)
		y := wide * (float64(i) + 0.5)
		b := min(rod.Breadth, wide)
		across := [2]float64{y - b/2, y + b/2}
		laid = append(laid, Lying{ID: rod.ID, Y: y - b/2, Length: min(r.Length, rod.Height), Breadth: b, Height: rod.Length,
			Aft: across, Fore: across, Slot: i})
	}
	return laid, true
}
