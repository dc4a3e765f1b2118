package stow

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// fewPlans is how many plans are simply all looked at.
const fewPlans = 60_000

// few says whether there are so few plans that all can be looked at. Where pieces
// are laid, no looking is whole: a way to lay them may have been missed.
func (m *model) few() bool {
	for _, s := range m.Places {
		if s.Size != (r3.Vec{}) && slices.Contains(m.sized, true) {
			return false
		}
	}
	n := 1
	for _, i := range m.item {
		if n *= len(m.may[i]) + 1; n > fewPlans {
			return false
		}
	}
	return true
}

// exhaust looks at every plan and keeps the best: no plan is better.
func (s *search) exhaust() {
	s.now = s.empty()
	s.everyPlanFrom(0)
	s.restore()
	s.bound, s.bounded, s.boundFor = s.least-s.big*float64(s.left()), true, s.left()
}

func (s *search) everyPlanFrom(u int) {
	if u == len(s.item) {
		s.keep()
		return
	}
	s.everyPlanFrom(u + 1) // left out
	for _, p := range s.may[s.item[u]] {
		if s.now.clashesIn(s.item[u], p) {
			continue
		}
		s.now.put(u, p)
		if s.now.holdable(p) {
			s.everyPlanFrom(u + 1)
		}
		s.now.take(u)
	}
}
