package stow

import (
	"math"
	"slices"
)

// moved is a unit and where it was.
type moved struct{ unit, was int }

func (s *search) undo(ms []moved) {
	for i := len(ms) - 1; i >= 0; i-- {
		s.now.take(ms[i].unit)
		if ms[i].was >= 0 {
			s.now.put(ms[i].unit, ms[i].was)
		}
	}
}

// try makes a random move if the plan then costs no more than most. It keeps
// every place within its room, and within its load as far as that is asked. It
// gives the cost of the plan then, and whether it moved.
func (s *search) try(cost, most float64) (float64, bool) {
	u := s.unit()
	grouped := len(s.Groups) > 0
	var ms []moved
	switch k := s.r.IntN(100); {
	case k < 40:
		p := s.target(s.item[u])
		if p < 0 || p == s.now.at[u] || s.now.at[u] >= 0 && s.now.foreseenShift(u, p) > most {
			return cost, false
		}
		ms = s.shift(u, p)
	case k < 44:
		ms = s.eject(u)
	case grouped && k < 50:
		ms = s.gather(u, most)
	case k == 44 && !grouped || k == 50 && grouped: // seldom: it takes long
		ms = s.ruin(u)
	default:
		v := s.counterpart(u)
		if !s.swappable(u, v) || s.now.at[u] >= 0 && s.now.at[v] >= 0 && s.now.foreseenSwap(u, v) > most {
			return cost, false
		}
		ms = s.swap(u, v)
	}
	if len(ms) == 0 {
		return cost, false
	}
	if c := s.now.cost(); c <= most && s.laid(ms) { // laying is looked at last: it costs more than all else
		return c, true
	}
	s.undo(ms)
	return cost, false
}

// laid says whether the places that moves touched still hold what is in them.
func (s *search) laid(ms []moved) bool {
	for _, m := range ms {
		for _, p := range [2]int{m.was, s.now.at[m.unit]} {
			if p >= 0 && !s.now.fits(p) {
				return false
			}
		}
	}
	return true
}

// target is a random place for an item, mostly one of those in focus.
func (s *search) target(i int) int {
	may := s.may[i]
	if len(may) == 0 {
		return -1
	}
	if s.r.IntN(8) > 0 {
		return may[s.r.IntN(s.focus[i])]
	}
	return may[s.r.IntN(len(may))]
}

// narrow sets for each item how many of its places are in focus: with prices of
// load and room counted, a place that is dearer than the best by more than the
// gap is in no better plan of pieces without groups, and one that is dearer by a
// good share of it in few.
func (s *search) narrow(share float64) {
	gap := max(s.least-s.big*float64(s.left())-s.bound, 0) * share
	for i, may := range s.may {
		s.focus[i] = min(len(may), 6)
		if s.reduced == nil || len(s.Groups) > 0 || len(may) < 2 {
			continue
		}
		n := 1
		for n < len(may) && s.reduced[i][may[n]]-s.reduced[i][may[0]] <= gap {
			n++
		}
		s.focus[i] = n
	}
}

// unit is a random one that has a choice.
func (s *search) unit() int {
	for range 8 {
		u := s.r.IntN(len(s.item))
		if s.focus[s.item[u]] > 1 || s.now.at[u] < 0 {
			return u
		}
	}
	return s.r.IntN(len(s.item))
}

func (s *search) to(u, p int) moved {
	was := s.now.at[u]
	s.now.take(u)
	s.now.put(u, p)
	return moved{unit: u, was: was}
}

func (s *search) shift(u, p int) []moved {
	i := s.item[u]
	if !s.now.takes(p, s.Items[i].Kg, s.volume[i]) || s.now.clashesIn(i, p) {
		return nil
	}
	return []moved{s.to(u, p)}
}

// swappable says whether two units may go to each other's places at all.
func (s *search) swappable(u, v int) bool {
	i, j, a, b := s.item[u], s.item[v], s.now.at[u], s.now.at[v]
	return i != j && a != b && (b < 0 || s.allowed[i][b]) && (a < 0 || s.allowed[j][a])
}

func (s *search) swap(u, v int) []moved {
	if !s.swappable(u, v) {
		return nil
	}
	i, j, a, b := s.item[u], s.item[v], s.now.at[u], s.now.at[v]
	dkg, dvol := s.Items[i].Kg-s.Items[j].Kg, s.volume[i]-s.volume[j]
	if b >= 0 && !s.now.takes(b, dkg, dvol) || a >= 0 && !s.now.takes(a, -dkg, -dvol) {
		return nil
	}
	ms := []moved{{unit: u, was: a}, {unit: v, was: b}}
	s.now.take(u)
	s.now.take(v)
	if b >= 0 && s.now.clashesIn(i, b) || a >= 0 && s.now.clashesIn(j, a) {
		s.undo(ms)
		return nil
	}
	if b >= 0 {
		s.now.put(u, b)
	}
	if a >= 0 {
		s.now.put(v, a)
	}
	return ms
}

// eject puts a unit where there is no room, and moves others out of its way to
// wherever the plan then costs least.
func (s *search) eject(u int) []moved {
	i := s.item[u]
	p := s.target(i)
	if p < 0 || p == s.now.at[u] || s.now.clashesIn(i, p) {
		return nil
	}
	ms := []moved{s.to(u, p)}
	const most = 3
	for n := 0; !s.now.holdable(p); n++ {
		v := s.resident(p, u)
		if v < 0 || n == most {
			s.undo(ms)
			return nil
		}
		ms = append(ms, moved{unit: v, was: p})
		s.now.take(v)
		s.elsewhere(v, p)
	}
	return ms
}

// counterpart is a unit to swap with: of some in a place that would suit u the
// one that minds least to go where u is, or any.
func (s *search) counterpart(u int) int {
	p, a := s.target(s.item[u]), s.now.at[u]
	if p < 0 || p == a || len(s.now.in[p]) == 0 {
		return s.r.IntN(len(s.item))
	}
	best, least := -1, math.Inf(1)
	for range 2 {
		v := s.now.in[p][s.r.IntN(len(s.now.in[p]))]
		minds := 0.0
		if a >= 0 {
			c := s.Items[s.item[v]].Cost
			minds = c[a] - c[p]
		}
		if best < 0 || minds < least {
			best, least = v, minds
		}
	}
	return best
}

// resident is a random unit in a place, other than one, or -1.
func (s *search) resident(p, but int) int {
	list := s.now.in[p]
	if len(list) == 0 || len(list) == 1 && list[0] == but {
		return -1
	}
	v := list[s.r.IntN(len(list))]
	if v == but {
		v = list[(s.now.where[v]+1)%len(list)]
	}
	return v
}

// elsewhere puts a unit into the cheapest place that takes it, other than one.
func (s *search) elsewhere(v, but int) {
	j := s.item[v]
	best, least := -1, s.now.cost()
	for _, p := range s.may[j] {
		if p == but || !s.now.takes(p, s.Items[j].Kg, s.volume[j]) || s.now.clashesIn(j, p) {
			continue
		}
		if c := s.now.foreseenPut(v, p); c < least {
			best, least = p, c
		}
	}
	if best >= 0 {
		s.now.put(v, best)
	}
}

// gather moves all of a group that lies in a place to where others of it lie,
// or all of an item.
func (s *search) gather(u int, most float64) []moved {
	i := s.item[u]
	groups := s.groupsOf[i]
	a := s.now.at[u]
	if len(groups) == 0 {
		return nil
	}
	g := groups[s.r.IntN(len(groups))]
	b := s.target(i)
	if s.r.IntN(3) > 0 {
		if w := s.fellow(g, a); w >= 0 {
			b = w
		}
	}
	if b < 0 || a == b {
		return nil
	}
	var ms []moved
	units := s.gathered[:0]
	for _, j := range s.Groups[g].Items {
		for _, v := range s.unitsOf[j] {
			if s.now.at[v] == a && s.allowed[j][b] && !s.now.clashesIn(j, b) {
				units = append(units, v)
			}
		}
	}
	s.gathered = units
	if a >= 0 && s.now.foreseenGather(g, a, b, units) > most {
		return nil
	}
	for _, v := range units {
		ms = append(ms, s.to(v, b))
	}
	const ejected = 4
	for n := 0; !s.now.holdable(b); n++ { // others make room, most often for what they leave
		v := s.resident(b, -1)
		if v < 0 || n == ejected || slices.ContainsFunc(ms, func(m moved) bool { return m.unit == v }) {
			s.undo(ms)
			return nil
		}
		ms = append(ms, moved{unit: v, was: b})
		s.now.take(v)
		s.elsewhere(v, b)
	}
	return ms
}

// ruin takes several units out, all of a group or a handful from two places, and
// puts each back where the plan then costs least (after Schrimpf and others,
// "Record breaking optimization results using the ruin and recreate principle",
// Journal of Computational Physics 159, 2000; from memory).
func (s *search) ruin(u int) []moved {
	var out []int
	if groups := s.groupsOf[s.item[u]]; len(groups) > 0 && s.r.IntN(3) > 0 {
		for _, j := range s.Groups[groups[s.r.IntN(len(groups))]].Items {
			out = append(out, s.unitsOf[j]...)
		}
	} else {
		a, b := s.now.at[u], s.target(s.item[u])
		for v, p := range s.now.at {
			if (p == a || p == b) && s.r.IntN(2) == 0 {
				out = append(out, v)
			}
		}
	}
	const most = 16
	s.r.Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
	out = out[:min(most, len(out))]
	ms := make([]moved, len(out))
	for k, v := range out {
		ms[k] = moved{unit: v, was: s.now.at[v]}
		s.now.take(v)
	}
	for _, v := range out {
		s.elsewhere(v, -1)
	}
	s.step += len(out) // it is that much work
	return ms
}

// fellow is a random place, other than one, where more of a group lies.
func (s *search) fellow(g, but int) int {
	n, found := 0, -1
	for p, count := range s.now.group[g] {
		if count > 0 && p != but {
			n++
			if s.r.IntN(n) == 0 {
				found = p
			}
		}
	}
	return found
}
