package stow

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// stepsOfARefill are the fillings of a place that are looked at: what goes into one
// another exactly is found as blocks, by the first of them.
const stepsOfARefill = 40

// refill lifts out what has a size and fills one place after another with whatever
// takes most of it, of all there is. Single moves and swaps hardly ever find what
// fills a place to the brim: each thing that lies wrong keeps two places from it.
// The places of least room come first, since few sets of things fill them. It is
// kept where more lies aboard, and where Lay finds a way for each place again.
func (s *search) refill() {
	if s.now.unplaced == 0 || s.stop() {
		return
	}
	was := slices.Clone(s.now.at)
	before := s.now.unplaced
	order := s.loose()
	for _, p := range order {
		for _, u := range slices.Clone(s.now.in[p]) {
			if s.sized[s.item[u]] {
				s.now.take(u)
			}
		}
	}
	good := true
	for _, p := range order {
		good = good && s.brim(p)
	}
	for u, p := range was { // what is left of it lies where it lay, if that has room
		if good && p >= 0 && s.now.at[u] < 0 {
			s.putBack(u, p)
		}
	}
	if good && s.now.unplaced < before && s.now.kept() {
		s.least = s.now.cost()
		s.best = append(s.best[:0], s.now.at...)
		return
	}
	s.restore()
}

// putBack lays a unit where it lay, if there is room for it again.
func (s *search) putBack(u, p int) {
	i := s.item[u]
	if s.now.clashesIn(i, p) || !s.now.takes(p, s.Items[i].Kg, s.volume[i]) {
		return
	}
	if s.now.put(u, p); !s.now.fits(p) {
		s.now.take(u)
	}
}

// loose are the places that things of a size may be laid in, those of least room first.
func (s *search) loose() []int {
	var list []int
	for p, place := range s.Places {
		if place.Size != (r3.Vec{}) && place.Rods.Form == "" {
			list = append(list, p)
		}
	}
	slices.SortStableFunc(list, func(a, b int) int { return compare(s.room[a], s.room[b]) })
	return list
}

// brim fills a place with what lies nowhere, and says whether there was time.
func (s *search) brim(p int) bool {
	units, pieces := s.mayFill(p)
	if len(units) == 0 {
		return true
	}
	laid, _ := Pack(s.Places[p].Place, pieces, stepsOfARefill)
	if s.stop() {
		return false
	}
	got := map[string]int{}
	for _, l := range laid {
		got[l.ID]++
	}
	for _, held := range s.Places[p].Held {
		if got[held.ID] -= held.Count; got[held.ID] < 0 {
			return true // what is there anyway is in the way of all that was tried
		}
	}
	for _, u := range units {
		if piece := s.pieces[s.item[u]]; got[piece.ID] >= piece.Count && !s.now.clashesIn(s.item[u], p) {
			got[piece.ID] -= piece.Count
			s.now.put(u, p)
		}
	}
	found, ok := Lay(s.Places[p].Place, s.now.contents(p))
	if ok && s.now.holdable(p) {
		s.fitted[p][s.now.key[p]] = true
		s.patiently[p][s.now.key[p]] = found
		return true
	}
	for _, u := range units {
		if s.now.at[u] == p {
			s.now.take(u)
		}
	}
	return !s.stop()
}

// mayFill are the units that lie nowhere and may go into a place, the largest first,
// and the pieces they are, with what is there anyway.
func (s *search) mayFill(p int) (units []int, pieces []Piece) {
	for u, at := range s.now.at {
		if i := s.item[u]; at < 0 && s.sized[i] && s.allowed[i][p] && !s.now.clashesIn(i, p) {
			units = append(units, u)
		}
	}
	slices.SortStableFunc(units, func(a, b int) int { return compare(s.volume[s.item[b]], s.volume[s.item[a]]) })
	pieces = s.now.contents(p)
	n := len(apart(pieces))
	for k, u := range units {
		piece := s.pieces[s.item[u]]
		if n += piece.Count; n > maxPieces {
			units = units[:k]
			break
		}
		pieces = append(pieces, piece)
	}
	return units, pieces
}
