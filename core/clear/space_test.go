package clear_test

import (
	"math/rand/v2"
	"testing"

	"ergasia/core/clear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

var anySide = [3]float64{0.01, 0.01, 0.01}

func everywhere(r3.Vec) bool { return true }

func TestTheLargestFreeBoxIsTheOneThatBruteForceFinds(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 5))
	for world := range 60 {
		const n = 6
		g := clear.NewGrid(r3.Vec{}, r3.Vec{X: n, Y: n, Z: n}, 1, everywhere)
		var taken [n][n][n]bool
		for range 40 + r.IntN(60) {
			i, j, k := r.IntN(n), r.IntN(n), r.IntN(n)
			taken[i][j][k] = true
			low := r3.Vec{X: float64(i), Y: float64(j), Z: float64(k)}
			g.Take(low, r3.Add(low, r3.Vec{X: 1, Y: 1, Z: 1}))
		}
		best := 0
		free := func(a, b, c, d, e, f int) bool {
			for i := a; i < b; i++ {
				for j := c; j < d; j++ {
					for k := e; k < f; k++ {
						if taken[i][j][k] {
							return false
						}
					}
				}
			}
			return true
		}
		for a := range n {
			for b := a + 1; b <= n; b++ {
				for c := range n {
					for d := c + 1; d <= n; d++ {
						for e := range n {
							for f := e + 1; f <= n; f++ {
								if v := (b - a) * (d - c) * (f - e); v > best && free(a, b, c, d, e, f) {
									best = v
								}
							}
						}
					}
				}
			}
		}
		found, _ := g.Largest(anySide)
		require.InDelta(t, float64(best)*1000, found.Litres(), 1e-6, "world %d", world)
	}
}

func TestAFreeBoxMeetsNothingAndIsAsLargeAsItCanBe(t *testing.T) {
	// a room of 2 by 1 by 1 with a block of a quarter of it in one end: 1.5 m are left
	g := clear.NewGrid(r3.Vec{}, r3.Vec{X: 2, Y: 1, Z: 1}, 0.05, everywhere)
	g.Take(r3.Vec{}, r3.Vec{X: 0.5, Y: 1, Z: 1})
	f, found := g.Largest([3]float64{0.2, 0.2, 0.2})
	require.True(t, found)
	assert.InDelta(t, 1500, f.Litres(), 1e-6)
	assert.InDelta(t, 0.5, f.Low.X, 1e-9)
	list := g.Spaces(5, [3]float64{0.2, 0.2, 0.2})
	assert.Len(t, list, 1, "nothing is left after it")
	_, found = clear.NewGrid(r3.Vec{}, r3.Vec{X: 1, Y: 1, Z: 0.1}, 0.05, everywhere).Largest([3]float64{0.2, 0.2, 0.2})
	assert.False(t, found, "too flat")
}

func TestWhatLiesOutsideIsNotFree(t *testing.T) {
	inside := func(p r3.Vec) bool { return p.X*p.X+p.Y*p.Y+p.Z*p.Z <= 1 }
	g := clear.NewGrid(r3.Vec{X: -1, Y: -1, Z: -1}, r3.Vec{X: 1, Y: 1, Z: 1}, 0.05, inside)
	f, found := g.Largest(anySide)
	require.True(t, found)
	for _, c := range clear.Block(f.Low, r3.Add(f.Low, f.Size)).Corners {
		assert.True(t, inside(c))
	}
	// the largest box in a ball of radius 1 is a cube of side 2/√3: 1.54 m³; cells lose some
	assert.Greater(t, f.Litres(), 1300.0)
	assert.Less(t, f.Litres(), 1540.0)
}

func BenchmarkSpaces(b *testing.B) {
	for b.Loop() {
		g := clear.NewGrid(r3.Vec{}, r3.Vec{X: 5.4, Y: 2.2, Z: 1}, 0.04, everywhere)
		s := Rigged(60)
		for _, t := range s.Things {
			g.TakeBounds(t.Body())
		}
		g.Spaces(8, [3]float64{0.1, 0.15, 0.2})
	}
}

// What is taken by a body's bounds is taken to the cell, and nothing beside it.
func TestABodyTakesTheCellsThatItsBoundsMeet(t *testing.T) {
	g := clear.NewGrid(r3.Vec{}, r3.Vec{X: 1, Y: 1, Z: 1}, 0.1, everywhere)
	g.TakeBounds(clear.Block(r3.Vec{X: 0.41, Y: 0, Z: 0}, r3.Vec{X: 0.59, Y: 1, Z: 1}))
	list := g.Spaces(5, [3]float64{0.1, 0.1, 0.1})
	require.Len(t, list, 2)
	for _, f := range list {
		assert.InDelta(t, 400, f.Litres(), 1e-6)
	}
	g.Take(r3.Vec{X: -5, Y: -5, Z: -5}, r3.Vec{X: 9, Y: 9, Z: 9})
	_, found := g.Largest([3]float64{0.1, 0.1, 0.1})
	assert.False(t, found, "what reaches out of the room takes what of it is in")
}
