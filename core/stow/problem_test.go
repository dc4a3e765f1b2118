package stow

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

func TestHazardsAreApartBothWays(t *testing.T) {
	for a, list := range conflicts {
		for _, b := range list {
			x, y, apart := Apart([]string{"sharp", a}, []string{b})
			assert.True(t, apart)
			assert.Equal(t, []string{a, b}, []string{x, y})
			_, _, back := Apart([]string{b}, []string{a})
			assert.True(t, back, "%s and %s", b, a)
		}
	}
	_, _, apart := Apart([]string{"fuel"}, []string{"fuel", "sharp"})
	assert.False(t, apart)
}

func TestAProblemThatIsWrongIsToldWhole(t *testing.T) {
	p := Problem{Places: []Spot{{Place: Place{ID: "a"}}}, Groups: []Group{{ID: "g", Items: []int{5, 5}, Split: -1}},
		Items: []Item{
			{Piece: Piece{ID: "x", Kg: -1, Count: 1}, Cost: []float64{1}},
			{Piece: Piece{ID: "y", Kg: math.NaN(), Count: -1, Uses: -2}, Cost: []float64{1, 2}, Pinned: "b"}}}
	err := p.Check()
	for _, says := range []string{"items[0].kg", "items[1].kg", "items[1].count", "items[1].uses_per_day", `items[1].pinned_to is "b"`, "items[1].cost is 2",
		"groups[0].items is 5", "must not have an item twice", "groups[0].split_cost_s is -1"} {
		assert.ErrorContains(t, err, says)
	}
	_, err = Solve(context.Background(), p, Options{})
	assert.Error(t, err)
	assert.ErrorContains(t, Problem{}.Check(), "places is 0: must be from 1 to 400")
}

func TestALotStaysTogether(t *testing.T) {
	size := r3.Vec{X: 0.2, Y: 0.2, Z: 0.2}
	spot := func(id string, x float64) Spot {
		return Spot{Place: Place{ID: id, Size: r3.Vec{X: x, Y: 0.2, Z: 0.2}, MaxKg: 10}}
	}
	p := Problem{Limits: NoLimits(), Places: []Spot{spot("for two", 0.45), spot("for four", 0.85)},
		Items: []Item{{Piece: Piece{ID: "jackets", Size: size, Kg: 1, Count: 1, Uses: 1}, Lot: 3, Cost: []float64{1, 5}}}}
	plan := mustSolve(t, p)
	assert.Equal(t, [][]int{{1}}, plan.At, "three do not go where two do, though it costs less")
	assert.Len(t, plan.Layouts[1], 3)
	p.Places[1].MaxKg = 2
	assert.Equal(t, 1, mustSolve(t, p).Unplaced, "a lot weighs as all its pieces")
}

func TestWhatLiesThereAlreadyTakesItsRoom(t *testing.T) {
	held := Piece{ID: "anchor", Size: r3.Vec{X: 0.4, Y: 0.3, Z: 0.3}, Kg: 9, Count: 1}
	p := Problem{Limits: NoLimits(), Places: []Spot{{Place: Place{ID: "well", Size: r3.Vec{X: 0.5, Y: 0.3, Z: 0.3},
		MaxKg: 10}, Held: []Piece{held}}},
		Items: []Item{{Piece: Piece{ID: "rope", Size: r3.Vec{X: 0.1, Y: 0.3, Z: 0.3}, Kg: 0.9, Count: 1}, Cost: []float64{1}},
			{Piece: Piece{ID: "float", Size: r3.Vec{X: 0.1, Y: 0.3, Z: 0.3}, Kg: 0.1, Count: 1}, Cost: []float64{1}}}}
	plan := mustSolve(t, p)
	assert.Equal(t, 1, plan.Unplaced)
	assert.Len(t, plan.Layouts[0], 2, "the anchor is drawn with what joins it")
	p.Places[0].Hazards, p.Items[0].Hazards, p.Items[1].Hazards = []string{"fuel"}, []string{"sparks"}, []string{"sparks"}
	assert.Equal(t, 2, mustSolve(t, p).Unplaced, "and its hazards count")
}
