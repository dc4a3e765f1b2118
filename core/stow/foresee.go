package stow

import "math"

// What a move would cost is worked out before it is made: most are not made.

// price of a plan by its sums.
func (s *state) price(seconds, overload, heel, trim float64, unplaced int) float64 {
	price := seconds + s.Balance.cost(heel, trim) + s.big*float64(unplaced)
	if overload > 0 {
		price += s.prices.overload * overload
	}
	if over := outside(heel, s.Limits.Heel) + outside(trim, s.Limits.Trim); over > 1e-9 {
		price += s.prices.moment * over
	}
	return price
}

// overBy is how far a place is over its load with so much more in it, kg.
func (s *state) overBy(p int, kg float64) float64 { return max(0, s.kg[p]+kg-s.load[p]-1e-9) }

// foreseenShift is the cost of the plan with a placed unit in another place.
func (s *state) foreseenShift(u, b int) float64 {
	i, a := s.item[u], s.at[u]
	it, from, to := &s.Items[i], &s.Places[a], &s.Places[b]
	seconds := s.seconds + it.Cost[b] - it.Cost[a]
	if from.Crowd > 0 {
		seconds -= from.Crowd * (s.uses[a]*float64(s.n[a]-1) - (s.uses[a]-it.Uses)*float64(max(s.n[a]-2, 0)))
	}
	if to.Crowd > 0 {
		seconds += to.Crowd * ((s.uses[b]+it.Uses)*float64(s.n[b]) - s.uses[b]*float64(max(s.n[b]-1, 0)))
	}
	for _, g := range s.groupsOf[i] {
		seconds += s.regrouped(g, a, b)
	}
	overload := s.overload - s.overBy(a, 0) + s.overBy(a, -it.Kg) - s.overBy(b, 0) + s.overBy(b, it.Kg)
	return s.price(seconds, settled(overload), s.heel+it.Kg*(to.At.Y-from.At.Y), s.trim+it.Kg*(to.At.X-from.At.X),
		s.unplaced)
}

// foreseenPut is the cost of the plan with a unit that is nowhere in a place.
func (s *state) foreseenPut(u, p int) float64 {
	i := s.item[u]
	it, to := &s.Items[i], &s.Places[p]
	seconds := s.seconds + it.Cost[p]
	if to.Crowd > 0 {
		seconds += to.Crowd * ((s.uses[p]+it.Uses)*float64(s.n[p]) - s.uses[p]*float64(max(s.n[p]-1, 0)))
	}
	for _, g := range s.groupsOf[i] {
		if s.group[g][p] == 0 && s.spread[g] > 0 {
			seconds += s.Groups[g].Split
		}
	}
	overload := s.overload - s.overBy(p, 0) + s.overBy(p, it.Kg)
	return s.price(seconds, settled(overload), s.heel+it.Kg*to.At.Y, s.trim+it.Kg*to.At.X, s.unplaced-1)
}

// foreseenSwap is the cost of the plan with two placed units in each other's places.
func (s *state) foreseenSwap(u, v int) float64 {
	i, j, a, b := s.item[u], s.item[v], s.at[u], s.at[v]
	one, other, here, there := &s.Items[i], &s.Items[j], &s.Places[a], &s.Places[b]
	seconds := s.seconds + one.Cost[b] - one.Cost[a] + other.Cost[a] - other.Cost[b]
	uses, kg := one.Uses-other.Uses, one.Kg-other.Kg
	seconds += uses * (there.Crowd*float64(s.n[b]-1) - here.Crowd*float64(s.n[a]-1))
	for _, g := range s.groupsOf[i] {
		if !s.within(j, g) {
			seconds += s.regrouped(g, a, b)
		}
	}
	for _, g := range s.groupsOf[j] {
		if !s.within(i, g) {
			seconds += s.regrouped(g, b, a)
		}
	}
	overload := s.overload - s.overBy(a, 0) + s.overBy(a, -kg) - s.overBy(b, 0) + s.overBy(b, kg)
	return s.price(seconds, settled(overload), s.heel+kg*(there.At.Y-here.At.Y), s.trim+kg*(there.At.X-here.At.X),
		s.unplaced)
}

// foreseenGather is the cost of the plan with units of a group that lie in a all
// in b, or nothing where that can't be told before: where crowding counts, units
// are of other groups too, or others would have to make room.
func (s *state) foreseenGather(g, a, b int, units []int) float64 {
	untold := math.Inf(-1)
	if s.Places[a].Crowd > 0 || s.Places[b].Crowd > 0 || math.IsInf(s.prices.overload, 1) {
		return untold
	}
	seconds, kg, m3 := s.seconds, 0.0, 0.0
	for _, u := range units {
		i := s.item[u]
		if len(s.groupsOf[i]) > 1 {
			return untold
		}
		seconds += s.Items[i].Cost[b] - s.Items[i].Cost[a]
		kg, m3 = kg+s.Items[i].Kg, m3+s.volume[i]
	}
	if s.vol[b]+m3 > s.room[b] {
		return untold
	}
	if s.group[g][b] == 0 {
		seconds += s.Groups[g].Split
	}
	if int(s.group[g][a]) == len(units) {
		seconds -= s.Groups[g].Split
	}
	overload := s.overload - s.overBy(a, 0) + s.overBy(a, -kg) - s.overBy(b, 0) + s.overBy(b, kg)
	from, to := s.Places[a].At, s.Places[b].At
	return s.price(seconds, settled(overload), s.heel+kg*(to.Y-from.Y), s.trim+kg*(to.X-from.X), s.unplaced)
}

// regrouped is what a group's splits change by when one of it goes from a to b.
func (s *state) regrouped(g, a, b int) (seconds float64) {
	if s.group[g][b] == 0 {
		seconds += s.Groups[g].Split
	}
	if s.group[g][a] == 1 {
		seconds -= s.Groups[g].Split
	}
	return seconds
}

func (s *state) within(item, group int) bool {
	for _, g := range s.groupsOf[item] {
		if g == group {
			return true
		}
	}
	return false
}

// settled takes what is only rounding for nothing.
func settled(overload float64) float64 {
	if overload < 1e-12 {
		return 0
	}
	return overload
}
