package stow

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// squeeze looks longer than Lay does for a way to lay more of what was left out in each place.
func (s *search) squeeze() {
	for p := range s.Places {
		if s.now.unplaced == 0 || s.ctx.Err() != nil || s.Places[p].Size == (r3.Vec{}) {
			continue
		}
		var units []int
		kg := s.now.kg[p]
		for u, at := range s.now.at {
			i := s.item[u]
			wanted := at < 0 && s.sized[i] && s.allowed[i][p] && !s.now.clashesIn(i, p) && kg+s.Items[i].Kg <= s.load[p]+1e-9
			if wanted {
				kg += s.Items[i].Kg
			}
			if at == p || wanted {
				units = append(units, u)
			}
		}
		if len(units) <= maxPieces {
			s.squeezeIn(p, units)
		}
	}
}

func (s *search) squeezeIn(p int, units []int) {
	before := s.now.n[p]
	pieces := slices.Clone(s.Places[p].Held)
	was := make([]moved, 0, len(units))
	for _, u := range units {
		if i := s.item[u]; s.sized[i] {
			pieces = append(pieces, s.pieces[i])
		}
		was = append(was, moved{unit: u, was: s.now.at[u]})
	}
	const hard = 400
	laid, _ := Pack(s.Places[p].Place, pieces, hard)
	for _, u := range units {
		s.now.take(u)
	}
	got := map[string]int{}
	for _, l := range laid {
		got[l.ID]++
	}
	for _, held := range s.Places[p].Held {
		got[held.ID] -= held.Count
	}
	for _, u := range units {
		i := s.item[u]
		if piece := s.pieces[i]; !s.sized[i] || got[piece.ID] >= piece.Count {
			got[piece.ID] -= piece.Count
			s.now.put(u, p)
		}
	}
	partly := false // a lot went in only in part: without it others might lie in the air
	for _, more := range got {
		partly = partly || more > 0
	}
	if partly || s.now.n[p] <= before || !s.now.kept() || !s.now.holdable(p) {
		for _, u := range units {
			s.now.take(u)
		}
		for _, w := range was {
			if w.was >= 0 {
				s.now.put(w.unit, w.was)
			}
		}
		return
	}
	s.layouts[p], s.layoutOf[p] = laid, s.now.key[p]
	s.least = s.now.cost()
	s.best = append(s.best[:0], s.now.at...)
}
