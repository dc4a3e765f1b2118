package stow

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

// Two rules keep heavy things low, and either would hide that the other is
// gone: the order in which pieces are tried, and what a way of laying costs.
func TestHeavyIsTriedFirst(t *testing.T) {
	light, heavy := Piece{Kg: 1}, Piece{Kg: 9}
	assert.Negative(t, orders[0](heavy, light))
	assert.Positive(t, orders[0](light, heavy))
	assert.Zero(t, orders[0](heavy, heavy))
}

func TestHeavyOnTopCostsMore(t *testing.T) {
	pieces := []Piece{{ID: "light", Kg: 1}, {ID: "heavy", Kg: 9}}
	side := r3.Vec{X: 0.3, Y: 0.3, Z: 0.2}
	stack := func(low, high string) []Laid {
		return []Laid{{ID: low, Size: side}, {ID: high, At: r3.Vec{Z: 0.2}, Size: side}}
	}
	assert.Less(t, bother(stack("heavy", "light"), pieces), bother(stack("light", "heavy"), pieces))
	used := []Piece{{ID: "light", Kg: 1}, {ID: "heavy", Kg: 9, Uses: 5}}
	assert.Greater(t, bother(stack("heavy", "light"), used), bother(stack("light", "heavy"), used),
		"unless it is what is fetched")
}
