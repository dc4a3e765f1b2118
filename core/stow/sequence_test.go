package stow

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

func crate(id string) Piece {
	return Piece{ID: id, Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.4}, Kg: 2, Count: 1}
}

func bins(n int) []Place {
	list := make([]Place, n)
	for i := range list {
		list[i] = Place{Size: r3.Vec{X: 0.5, Y: 0.5, Z: 0.5}}
	}
	return list
}

// replay makes the moves of a sequence, and sees that no bin ever holds two crates.
func replay(t *testing.T, there [][]Piece, order []Shift) map[string]int {
	at := map[string]int{}
	for j, list := range there {
		for _, p := range list {
			at[p.ID] = j
		}
	}
	for _, s := range order {
		if was, known := at[s.Piece.ID]; known {
			assert.Equal(t, was, s.From)
		} else {
			assert.Equal(t, Quay, s.From)
		}
		at[s.Piece.ID] = s.To
		n := 0
		for _, j := range at {
			if j == s.To && j != Quay {
				n++
			}
		}
		assert.LessOrEqual(t, n, 1, "two in bin %d", s.To)
	}
	return at
}

func TestAChainOfMovesBeginsAtItsFreeEnd(t *testing.T) {
	there := [][]Piece{{crate("a")}, {crate("b")}, {}}
	order := Sequence(bins(3), there, []Shift{{Piece: crate("a"), From: 0, To: 1}, {Piece: crate("b"), From: 1, To: 2}})
	assert.Len(t, order, 2, "no move more than there must be")
	assert.Equal(t, map[string]int{"a": 1, "b": 2}, replay(t, there, order))
}

func TestARingOfMovesGoesByTheQuay(t *testing.T) {
	there := [][]Piece{{crate("a")}, {crate("b")}, {crate("c")}}
	order := Sequence(bins(3), there, []Shift{{Piece: crate("a"), From: 0, To: 1}, {Piece: crate("b"), From: 1, To: 2},
		{Piece: crate("c"), From: 2, To: 0}})
	assert.Len(t, order, 4, "one piece waits on the quay, once")
	assert.Equal(t, map[string]int{"a": 1, "b": 2, "c": 0}, replay(t, there, order))
}

func TestTwoRingsAndALoading(t *testing.T) {
	there := [][]Piece{{crate("a")}, {crate("b")}, {crate("c")}, {crate("d")}, {}}
	shifts := []Shift{{Piece: crate("a"), From: 0, To: 1}, {Piece: crate("b"), From: 1, To: 0},
		{Piece: crate("c"), From: 2, To: 3}, {Piece: crate("d"), From: 3, To: 2}, {Piece: crate("e"), From: Quay, To: 4}}
	order := Sequence(bins(5), there, shifts)
	assert.Len(t, order, 7, "each ring has one piece wait")
	assert.Equal(t, map[string]int{"a": 1, "b": 0, "c": 3, "d": 2, "e": 4}, replay(t, there, order))
}

func TestLoadsAreMindedOnTheWay(t *testing.T) {
	spots := bins(2)
	spots[0].Size, spots[1].Size = r3.Vec{X: 2, Y: 2, Z: 2}, r3.Vec{X: 2, Y: 2, Z: 2}
	spots[0].MaxKg, spots[1].MaxKg = 3, 3
	there := [][]Piece{{crate("a")}, {crate("b")}}
	order := Sequence(spots, there, []Shift{{Piece: crate("a"), From: 0, To: 1}, {Piece: crate("b"), From: 1, To: 0}})
	assert.Len(t, order, 3)
	assert.Equal(t, Quay, order[0].To)
}

func TestWhatStaysIsNoMove(t *testing.T) {
	assert.Empty(t, Sequence(bins(1), [][]Piece{{crate("a")}}, []Shift{{Piece: crate("a"), From: 0, To: 0}}))
}
