package stow

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// toTheBrim is three places and what fills them exactly, as it was cut from them.
func toTheBrim(seed uint64, cut func(*rand.Rand, r3.Vec, int) []Piece) Problem {
	r := rand.New(rand.NewPCG(seed, 21))
	p := Problem{Limits: NoLimits()}
	for j, size := range []r3.Vec{{X: 0.8, Y: 0.6, Z: 0.5}, {X: 0.5, Y: 0.4, Z: 0.3}, {X: 1.1, Y: 0.35, Z: 0.25}} {
		p.Places = append(p.Places, Spot{Place: Place{ID: fmt.Sprint(j), Size: size}})
		for _, piece := range cut(r, size, 7) {
			piece.ID = fmt.Sprint(j, piece.ID)
			p.Items = append(p.Items, Item{Piece: piece, Cost: []float64{10 * r.Float64(), 10 * r.Float64(), 10 * r.Float64()}})
		}
	}
	return p
}

func TestPlacesAreFilledToTheBrim(t *testing.T) {
	for name, cut := range map[string]func(*rand.Rand, r3.Vec, int) []Piece{"sawn": sawn, "pinwheels": pinwheels} {
		for seed := range uint64(8) {
			p := toTheBrim(seed, cut)
			plan, err := Solve(t.Context(), p, Options{Steps: 50_000})
			require.NoError(t, err)
			assert.Zero(t, plan.Unplaced, "%s, seed %d, %d pieces", name, seed, len(p.Items))
			var pieces []Piece
			for _, it := range p.Items {
				pieces = append(pieces, it.Piece)
			}
			for j, place := range p.Places {
				sound(t, place.Place, pieces, plan.Layouts[j])
			}
		}
	}
}

// What may not lie in a place does not go there to fill it, and a place carries no more than it may.
func TestFillingToTheBrimKeepsTheRules(t *testing.T) {
	p := toTheBrim(3, sawn)
	p.Places[0].MaxKg = 3
	p.Items[20].Pinned = "2"
	p.Items[7].Hazards, p.Items[8].Hazards = []string{"fuel"}, []string{"sparks"}
	plan, err := Solve(t.Context(), p, Options{Steps: 50_000})
	require.NoError(t, err)
	in := make([]int, len(p.Places))
	for i, at := range plan.At {
		for _, j := range at {
			in[j]++
			assert.True(t, i != 20 || j == 2, "it is pinned")
		}
	}
	assert.LessOrEqual(t, in[0], 3, "pieces of a kilogram")
	assert.False(t, len(plan.At[7]) > 0 && slices.Equal(plan.At[7], plan.At[8]), "fuel by sparks")
	assert.LessOrEqual(t, plan.Unplaced, 6)
}
