package stow

import "slices"

// Shift is a piece, or a lot of Count alike, that is to go from one place to
// another: indices of places, or Quay.
type Shift struct {
	Piece    Piece
	From, To int
}

// Quay is where pieces come from and wait: there is always room.
const Quay = -1

// Sequence puts shifts in an order in which each finds room, with as few more as
// it can: where all that is left is in each other's way, the smallest piece that
// holds another up waits on the quay (it is then there twice, first to Quay). there
// is what lies in each place to begin with, the pieces that are to go included.
// Where the caller's time is up, what is left follows as it was given.
func Sequence(spots []Place, there [][]Piece, shifts []Shift) []Shift {
	now := make([][]Piece, len(there))
	for j := range there {
		now[j] = slices.Clone(there[j])
	}
	left := slices.DeleteFunc(slices.Clone(shifts), func(s Shift) bool { return s.From == s.To })
	var order []Shift
	taken := make([]int, len(spots)) // how often something left each place
	refused := map[string]int{}      // by piece: that number when there was no room; until then there is none
	sure := make([]bool, len(spots)) // all that is to go there finds room at once
	tried := make([]int, len(spots)) // one more than that number when this was looked at
	finds := func(s Shift) bool {
		if s.To == Quay || sure[s.To] {
			return true
		}
		if tried[s.To] != taken[s.To]+1 {
			tried[s.To] = taken[s.To] + 1
			if sure[s.To] = roomFor(spots[s.To], now[s.To], goingTo(left, s.To)...); sure[s.To] {
				return true
			}
		}
		if n, known := refused[s.Piece.ID]; known && n == taken[s.To] {
			return false
		}
		refused[s.Piece.ID] = taken[s.To]
		return roomFor(spots[s.To], now[s.To], s.Piece)
	}
	do := func(s Shift) {
		if s.From != Quay {
			k := slices.IndexFunc(now[s.From], func(p Piece) bool { return p.ID == s.Piece.ID })
			now[s.From] = slices.Delete(now[s.From], k, k+1)
			taken[s.From]++
		}
		if s.To != Quay {
			now[s.To] = append(now[s.To], s.Piece)
		}
		order = append(order, s)
	}
	for len(left) > 0 {
		if spots[0].stopped() {
			return append(order, left...)
		}
		k := slices.IndexFunc(left, finds)
		if k >= 0 {
			do(left[k])
			left = slices.Delete(left, k, k+1)
			continue
		}
		if k = smallestInTheWay(left); k >= 0 {
			do(Shift{Piece: left[k].Piece, From: left[k].From, To: Quay})
			left[k].From = Quay
			continue
		}
		do(left[0]) // nothing waits in the way: it lies otherwise once all is there
		left = left[1:]
	}
	return order
}

func goingTo(shifts []Shift, place int) (pieces []Piece) {
	for _, s := range shifts {
		if s.To == place {
			pieces = append(pieces, s.Piece)
		}
	}
	return pieces
}

// roomFor says whether pieces find room in a place with what is there.
func roomFor(p Place, there []Piece, pieces ...Piece) bool {
	with := append(slices.Clone(there), pieces...)
	if p.MaxKg > 0 && mass(with) > p.MaxKg+1e-9 {
		return false
	}
	if p.Size.X == 0 {
		return true
	}
	if singles := apart(with); len(p.Fixed) == 0 && len(singles) <= maxPieces {
		if _, ok, _ := quickly(p, singles); ok {
			return true
		}
	}
	_, ok := Lay(p, with)
	return ok
}

// smallestInTheWay is the smallest piece that is to leave a place into which
// another is to go.
func smallestInTheWay(left []Shift) int {
	best := -1
	size := func(k int) float64 { return volume([]Piece{left[k].Piece}) }
	for k, s := range left {
		inTheWay := s.From != Quay && slices.ContainsFunc(left, func(o Shift) bool { return o.To == s.From })
		if inTheWay && (best < 0 || size(k) < size(best)) {
			best = k
		}
	}
	return best
}
