package stow

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// What a move is foreseen to cost is what it costs once it is made.
func TestMovesCostWhatIsForeseen(t *testing.T) {
	shifts, swaps := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		p := tiny(t)
		for i := range p.Items {
			p.Items[i].Hazards = nil
			for j := range p.Items[i].Cost {
				p.Items[i].Cost[j] = rapid.Float64Range(0, 20).Draw(t, "seconds")
			}
		}
		p.Groups = append(p.Groups, Group{ID: "h", Items: []int{0}, Split: 3})
		p.Balance = Balance{HeelTarget: 2, PerHeel: 1, PerTrim: 0.5, Within: Limits{Heel: [2]float64{-3, 3},
			Trim: [2]float64{0, 20}}, OverHeel: 7, OverTrim: 5}
		m := newModel(t.Context(), p)
		for i := range m.allowed { // loads are broken at a price
			for j := range m.allowed[i] {
				m.allowed[i][j] = true
			}
		}
		s := m.empty()
		s.prices = prices{overload: 11, moment: 13}
		for u := range s.at {
			s.put(u, rapid.IntRange(0, len(p.Places)-1).Draw(t, "place"))
		}
		for range 20 {
			u, v := rapid.IntRange(0, len(s.at)-1).Draw(t, "u"), rapid.IntRange(0, len(s.at)-1).Draw(t, "v")
			to := rapid.IntRange(0, len(p.Places)-1).Draw(t, "to")
			if to != s.at[u] {
				want := s.foreseenShift(u, to)
				s.take(u)
				s.put(u, to)
				assert.InDelta(t, want, s.cost(), 1e-6)
				shifts++
			}
			if a, b := s.at[u], s.at[v]; a != b {
				want := s.foreseenSwap(u, v)
				s.take(u)
				s.take(v)
				s.put(u, b)
				s.put(v, a)
				assert.InDelta(t, want, s.cost(), 1e-6)
				swaps++
			}
		}
	})
	assert.Positive(t, min(shifts, swaps))
}

func TestPuttingDownAndGatheringCostWhatIsForeseen(t *testing.T) {
	told := 0
	rapid.Check(t, func(t *rapid.T) {
		p := planted(rapid.Uint64().Draw(t, "seed"), shape{places: 4, items: 12, against: false, limits: true, groups: 3})
		s := newModel(t.Context(), p).empty()
		s.prices = prices{overload: 11, moment: 13}
		for u := range s.at {
			place := rapid.IntRange(0, 3).Draw(t, "place")
			want := s.foreseenPut(u, place)
			s.put(u, place)
			assert.InDelta(t, want, s.cost(), 1e-6)
		}
		for range 10 {
			g, a, b := rapid.IntRange(0, 2).Draw(t, "group"), rapid.IntRange(0, 3).Draw(t, "a"), rapid.IntRange(0, 3).Draw(t,
				"b")
			var units []int
			for _, i := range p.Groups[g].Items {
				if s.at[i] == a {
					units = append(units, i)
				}
			}
			if a == b || len(units) == 0 {
				continue
			}
			want := s.foreseenGather(g, a, b, units)
			for _, u := range units {
				s.take(u)
				s.put(u, b)
			}
			assert.InDelta(t, want, s.cost(), 1e-6)
			told++
		}
	})
	assert.Positive(t, told)
}
