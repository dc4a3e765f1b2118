package stow

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/optimize/convex/lp"
	"pgregory.net/rapid"
)

// relaxed is the optimum of a problem whose pieces may be cut up, by gonum's
// simplex: minimize the cost with each piece shared out whole, and loads and
// moments kept. Slack variables make equations of the limits.
func relaxed(p Problem) (float64, bool) {
	items, places := len(p.Items), len(p.Places)
	type row struct {
		of func(i, j int) float64
		to float64
	}
	var rows []row
	for j, s := range p.Places {
		rows = append(rows, row{func(i, k int) float64 {
			if k == j {
				return p.Items[i].Kg
			}
			return 0
		}, s.MaxKg})
	}
	heel := func(sign float64) func(i, j int) float64 {
		return func(i, j int) float64 { return sign * p.Items[i].Kg * p.Places[j].At.Y }
	}
	if !math.IsInf(p.Limits.Heel[1], 1) {
		rows = append(rows, row{heel(1), p.Limits.Heel[1]}, row{heel(-1), -p.Limits.Heel[0]})
	}
	n := items*places + len(rows)
	cost := make([]float64, n)
	a, b := mat.NewDense(items+len(rows), n, nil), make([]float64, items+len(rows))
	for i := range items {
		b[i] = 1
		for j := range places {
			cost[i*places+j] = p.Items[i].Cost[j]
			if p.Items[i].Kg > p.Places[j].MaxKg {
				cost[i*places+j] = 1e5 // a whole piece never goes there, and the bound knows
			}
			a.Set(i, i*places+j, 1)
			for k, r := range rows {
				a.Set(items+k, i*places+j, r.of(i, j))
			}
		}
	}
	for k, r := range rows {
		b[items+k] = r.to
		a.Set(items+k, items*places+k, 1)
	}
	best, _, err := lp.Simplex(cost, a, b, 1e-10, nil)
	return best, err == nil
}

// The bound is never over the optimum of the relaxed problem, by a general
// library, and comes near it.
func TestTheBoundComesUpToTheSimplex(t *testing.T) {
	compared, near := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		c := shape{places: rapid.IntRange(2, 5).Draw(t, "places"), items: rapid.IntRange(6, 20).Draw(t, "items"),
			against: rapid.Bool().Draw(t, "against")}
		p := planted(rapid.Uint64().Draw(t, "seed"), c)
		if rapid.Bool().Draw(t, "heel") {
			p.Limits.Heel = [2]float64{-20, 25}
		}
		want, ok := relaxed(p)
		if !ok {
			t.Skip("the simplex found no answer")
		}
		got := newModel(t.Context(), p).lowerBound(want*1.05, 0)
		compared++
		require.LessOrEqual(t, got, want+1e-6*math.Abs(want))
		if got >= 0.99*want {
			near++
		}
	})
	assert.GreaterOrEqual(t, float64(near), 0.9*float64(compared), "within one percent in nine of ten")
	assert.Positive(t, compared)
}

func TestABoundWithPiecesLeftOutIsUnderWhatIsFound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := tiny(t)
		left, cost := every(p)
		if left == 0 {
			t.Skip("nothing is left out")
		}
		assert.LessOrEqual(t, newModel(t.Context(), p).lowerBound(cost, left), cost+1e-6)
	})
}

// What crowding costs at least, against every way of sharing pieces out.
func TestCrowdingCostsWhatTheBestSharingOutCosts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := Problem{Limits: NoLimits()}
		places := rapid.IntRange(1, 3).Draw(t, "places")
		for range places {
			p.Places = append(p.Places, Spot{Crowd: 1.5})
		}
		n := rapid.IntRange(1, 7).Draw(t, "pieces")
		for range n {
			it := Item{Cost: make([]float64, places)}
			it.Count, it.Uses = 1, float64(rapid.IntRange(0, 9).Draw(t, "uses"))
			p.Items = append(p.Items, it)
		}
		best := math.Inf(1)
		at := make([]int, n)
		var share func(i int)
		share = func(i int) {
			if i == n {
				cost := 0.0
				for j := range places {
					uses, count := 0.0, 0
					for k, to := range at {
						if to == j {
							uses, count = uses+p.Items[k].Uses, count+1
						}
					}
					cost += 1.5 * uses * float64(max(count-1, 0))
				}
				best = min(best, cost)
				return
			}
			for j := range places {
				at[i] = j
				share(i + 1)
			}
		}
		share(0)
		require.InDelta(t, best, newModel(t.Context(), p).leastCrowd(0), 1e-9)
	})
}
