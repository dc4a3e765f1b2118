package stow

import (
	"math"
	"slices"
)

// begun is the plan that the search was given, as far as it is allowed.
func (s *search) begun() *state {
	if len(s.options.Start) == 0 {
		return nil
	}
	b := s.empty()
	next := make([]int, len(s.Items))
	for _, placed := range s.options.Start {
		i := slices.IndexFunc(s.Items, func(it Item) bool { return it.ID == placed.Item })
		p := s.spot(placed.Place)
		if i < 0 || p < 0 || next[i] >= len(s.unitsOf[i]) || !s.allowed[i][p] || b.clashesIn(i, p) {
			continue
		}
		b.put(s.unitsOf[i][next[i]], p)
		next[i]++
	}
	for p := range s.Places {
		if !b.fits(p) {
			s.putSome(b, p, slices.Clone(b.in[p]))
		}
	}
	return b
}

// putSome leaves in a place as many of some units in it as can be laid, one after
// another, and gives those that were taken out.
func (s *search) putSome(b *state, p int, some []int) (out []int) {
	for _, u := range some {
		b.take(u)
	}
	for k, u := range some {
		if s.stop() {
			return append(out, some[k:]...)
		}
		if b.put(u, p); !b.fits(p) {
			b.take(u)
			out = append(out, u)
		}
	}
	return out
}

// greedy lays the units one after another, those with least choice and most to
// lose first, each where it costs least.
func (s *search) greedy() *state {
	g := s.empty()
	order := make([]int, len(s.item))
	urgency := make([]float64, len(s.Items))
	for i, it := range s.Items {
		switch may := s.may[i]; len(may) {
		case 0:
		case 1:
			urgency[i] = math.Inf(1)
		default:
			urgency[i] = it.Cost[may[min(2, len(may)-1)]] - it.Cost[may[0]] + 1e-6*it.Kg
		}
	}
	for u := range order {
		order[u] = u
	}
	slices.SortStableFunc(order, func(a, b int) int { return compare(urgency[s.item[b]], urgency[s.item[a]]) })
	if len(order) > manyUnits {
		s.greedyOfMany(g, order)
		return g
	}
	for _, u := range order {
		if s.stop() {
			break
		}
		s.cheapest(g, u)
	}
	return g
}

// manyUnits is where laying a place anew for each unit would take seconds.
const manyUnits = 400

// greedyOfMany is greedy that looks only now and then whether a place can still be
// laid: when a fifth of what is in it is new. What is too much then goes elsewhere.
func (s *search) greedyOfMany(g *state, order []int) {
	unseen := make([][]int, len(s.Places))
	look := func(p int) {
		if !g.fits(p) {
			for _, u := range s.putSome(g, p, unseen[p]) {
				if !s.stop() {
					s.cheapest(g, u)
				}
			}
		}
		unseen[p] = nil
	}
	for _, u := range order {
		if s.stop() {
			break
		}
		p := s.cheapestUnseen(g, u)
		if p < 0 {
			continue
		}
		g.put(u, p)
		if unseen[p] = append(unseen[p], u); 5*len(unseen[p]) >= g.n[p] {
			look(p)
		}
	}
	for p := range s.Places {
		look(p)
	}
}

// cheapestUnseen is the place where a unit would make the plan cheapest by mass and
// volume alone, or -1.
func (s *search) cheapestUnseen(g *state, u int) int {
	i, best, least := s.item[u], -1, g.cost()-1e-12
	for _, p := range s.may[i] {
		if !g.takes(p, s.Items[i].Kg, s.volume[i]) || g.clashesIn(i, p) {
			continue
		}
		if c := g.foreseenPut(u, p); c < least {
			best, least = p, c
		}
	}
	return best
}

// cheapest puts a unit where the plan then costs least, or leaves it out.
func (s *search) cheapest(g *state, u int) bool {
	i := s.item[u]
	type choice struct {
		place int
		cost  float64
	}
	var choices []choice
	least := g.cost() - 1e-12
	for _, p := range s.may[i] {
		if !g.takes(p, s.Items[i].Kg, s.volume[i]) || g.clashesIn(i, p) {
			continue
		}
		if c := g.foreseenPut(u, p); c < least {
			choices = append(choices, choice{p, c})
		}
	}
	slices.SortStableFunc(choices, func(a, b choice) int { return compare(a.cost, b.cost) })
	for _, c := range choices {
		g.put(u, c.place)
		if g.fits(c.place) {
			return true
		}
		g.take(u)
	}
	return false
}
