package weigh

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func readings(seed uint64, n int, at func(i int) float64, noise float64) []Reading {
	r := rand.New(rand.NewPCG(seed, 1))
	list := make([]Reading, n)
	for i := range list {
		list[i] = math.Round((at(i)+noise*r.NormFloat64())/0.01) * 0.01
	}
	return list
}

func TestAStillLoadIsTakenAndASwingingOneIsNot(t *testing.T) {
	still := func(int) float64 { return 12.34 }
	taken, off := 0, 0
	for seed := range uint64(400) {
		s, ok := Steady(readings(seed, Window, still, 0.015), 0.01)
		if !ok {
			continue
		}
		taken++
		if math.Abs(s.Kg-12.34) > 1.96*s.Sigma {
			off++
		}
	}
	assert.Greater(t, taken, 380, "a load that hangs still is nearly always taken at once")
	assert.InDelta(t, 0.05, float64(off)/float64(taken), 0.04, "its band holds for about 95 in 100")

	for seed := range uint64(50) {
		_, ok := Steady(readings(seed, Window, func(i int) float64 { return 12 + 0.6*math.Sin(float64(i)/2) }, 0.015), 0.01)
		assert.False(t, ok, "it swings")
		_, ok = Steady(readings(seed, Window, func(i int) float64 { return 0.05 * float64(i) }, 0.015), 0.01)
		assert.False(t, ok, "it is being lifted")
	}
	_, ok := Steady(readings(1, Window-1, still, 0.01), 0.01)
	assert.False(t, ok, "too few")
}

func TestTheTareComesOffWithItsError(t *testing.T) {
	n := Net(Still{Kg: 5, Sigma: 0.03}, Still{Kg: 0.8, Sigma: 0.04})
	assert.InDelta(t, 4.2, n.Kg, 1e-12)
	assert.InDelta(t, 0.05, n.Sigma, 1e-12)
}

// Checked against the boat's own arithmetic: a box 5 m by 2 m in fresh water
// sinks 10,000 kg a metre, and its second moments are LB³/12 and BL³/12.
func TestWhatMovesTheBoatMostIsWeighedFirst(t *testing.T) {
	box := Stiffness{KgPerM: 10000, Pitch: 1000 * 2 * 125 / 12.0, Roll: 1000 * 5 * 8 / 12.0, HalfLen: 2.5, HalfB: 1}
	assert.InDelta(t, 5/10000.0+5*2/(1000*2*125/12.0)*2.5, box.Effect(Unweighed{Sigma: 5, X: -2}), 1e-12)
	list := Order(box, []Unweighed{{ID: "ashore", Sigma: 50, Away: true}, {ID: "middle", Sigma: 5},
		{ID: "side", Sigma: 5, Y: 0.9},
		{ID: "end", Sigma: 5, X: -1.8}, {ID: "light", Sigma: 0.1, X: 2}, {ID: "ashore, light", Sigma: 1, Away: true}})
	var order []string
	for _, u := range list {
		order = append(order, u.ID)
	}
	require.Equal(t, []string{"side", "end", "middle", "light", "ashore", "ashore, light"}, order)
}
