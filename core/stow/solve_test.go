package stow

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

// tiny draws a problem small enough to try every plan of.
func tiny(t *rapid.T) Problem {
	p := Problem{Limits: NoLimits()}
	places := rapid.IntRange(1, 3).Draw(t, "places")
	half := func(low, high int, name string) float64 { return float64(rapid.IntRange(low, high).Draw(t, name)) / 2 }
	for j := range places {
		p.Places = append(p.Places, Spot{Place: Place{ID: fmt.Sprint("p", j), MaxKg: half(4, 20, "max")},
			At: r3.Vec{X: half(0, 8, "x"), Y: half(-2, 2, "y")}, Crowd: half(0, 2, "crowd")})
	}
	for i := range rapid.IntRange(1, 6).Draw(t, "items") {
		it := Item{Piece: Piece{ID: fmt.Sprint("i", i), Kg: half(1, 10, "kg"), Count: 1, Uses: half(0, 4, "uses")}}
		for range places {
			c := half(0, 40, "cost")
			if rapid.IntRange(0, 5).Draw(t, "forbidden") == 0 {
				c = math.Inf(1)
			}
			it.Cost = append(it.Cost, c)
		}
		if rapid.IntRange(0, 3).Draw(t, "hazard") == 0 {
			it.Hazards = []string{rapid.SampledFrom([]string{"fuel", "sparks"}).Draw(t, "which")}
		}
		p.Items = append(p.Items, it)
	}
	if len(p.Items) > 2 {
		p.Groups = []Group{{ID: "g", Items: []int{0, 1, 2}, Split: half(0, 20, "split")}}
	}
	if rapid.Bool().Draw(t, "limits") {
		p.Limits.Heel[1] = half(2, 12, "heel")
		p.Limits.Heel[0] = -p.Limits.Heel[1] + half(0, 2, "uneven")
		p.Limits.Trim = [2]float64{math.Inf(-1), half(10, 60, "trim")}
	}
	return p
}

// every tries every plan and gives the best: fewest left out, then least cost.
// It adds up the cost on its own.
func every(p Problem) (left int, cost float64) {
	left, cost = math.MaxInt, math.Inf(1)
	at := make([]int, len(p.Items))
	var try func(i int)
	try = func(i int) {
		if i < len(at) {
			for at[i] = -1; at[i] < len(p.Places); at[i]++ {
				try(i + 1)
			}
			return
		}
		out, sum, ok := price(p, at)
		if ok && (out < left || out == left && sum < cost) {
			left, cost = out, sum
		}
	}
	try(0)
	return left, cost
}

func price(p Problem, at []int) (left int, sum float64, ok bool) {
	heel, trim := 0.0, 0.0
	for j, s := range p.Places {
		kg, uses, n := 0.0, 0.0, 0
		for i, it := range p.Items {
			if at[i] != j {
				continue
			}
			if math.IsInf(it.Cost[j], 1) {
				return 0, 0, false
			}
			for k, other := range p.Items {
				if _, _, apart := Apart(it.Hazards, other.Hazards); apart && at[k] == j {
					return 0, 0, false
				}
			}
			kg, uses, n, sum = kg+it.Kg, uses+it.Uses, n+1, sum+it.Cost[j]
			heel, trim = heel+it.Kg*s.At.Y, trim+it.Kg*s.At.X
		}
		if kg > s.MaxKg+1e-9 {
			return 0, 0, false
		}
		sum += s.Crowd * uses * float64(max(n-1, 0))
	}
	for _, j := range at {
		if j < 0 {
			left++
		}
	}
	for _, g := range p.Groups {
		in := map[int]bool{}
		for _, i := range g.Items {
			if at[i] >= 0 {
				in[at[i]] = true
			}
		}
		sum += g.Split * float64(max(len(in)-1, 0))
	}
	return left, sum, heel >= p.Limits.Heel[0]-1e-9 && heel <= p.Limits.Heel[1]+1e-9 && trim <= p.Limits.Trim[1]+1e-9
}

// Brute force on tiny problems: what is looked at whole is the best.
func TestTinyProblemsAreSolvedAsBruteForceSolvesThem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := tiny(t)
		left, cost := every(p)
		plan, err := Solve(context.Background(), p, Options{Seed: 1, Steps: 30_000})
		require.NoError(t, err)
		require.Equal(t, left, plan.Unplaced)
		assert.InDelta(t, cost, plan.Seconds, 1e-6)
		assert.LessOrEqual(t, plan.LowerBound, cost+1e-6)
		assert.True(t, plan.Within)
	})
}

// The search itself finds the best of tiny problems too, but for one in thirty.
func TestTheSearchFindsWhatBruteForceFinds(t *testing.T) {
	tries, missed := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		p := tiny(t)
		left, cost := every(p)
		plan, err := Solve(context.Background(), p, Options{Seed: 1, Steps: 30_000, search: true})
		require.NoError(t, err)
		tries++
		if plan.Unplaced > left || plan.Unplaced == left && plan.Seconds > cost+1e-6 {
			missed++
		} else {
			assert.Equal(t, left, plan.Unplaced)
			assert.InDelta(t, cost, plan.Seconds, 1e-6)
		}
		if plan.Unplaced == left {
			assert.LessOrEqual(t, plan.LowerBound, cost+1e-6)
		}
	})
	assert.LessOrEqual(t, missed, 1+tries/30)
}

// The sums that are kept up with every move are those of adding up anew.
func TestTheSearchKeepsItsSums(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := tiny(t)
		m := newModel(t.Context(), p)
		s := m.empty()
		for range 40 {
			u := rapid.IntRange(0, len(m.item)-1).Draw(t, "unit")
			j := rapid.IntRange(-1, len(p.Places)-1).Draw(t, "place")
			s.take(u)
			if j >= 0 && m.allowed[m.item[u]][j] && !s.clashesIn(m.item[u], j) {
				s.put(u, j)
			}
		}
		loaded := 0.0
		for j := range p.Places {
			loaded += max(0, s.kg[j]-s.load[j])
		}
		assert.InDelta(t, loaded, s.overload, 1e-6)
		p.Limits = NoLimits()
		for j := range p.Places {
			p.Places[j].MaxKg = 1e9
		}
		left, sum, ok := price(p, s.at)
		assert.True(t, ok)
		assert.Equal(t, left, s.unplaced)
		assert.InDelta(t, sum, s.seconds, 1e-9)
	})
}

func TestASearchIsTheSameForTheSameSeed(t *testing.T) {
	p := planted(3, shape{places: 8, items: 60, groups: 6, limits: true})
	a, err := Solve(context.Background(), p, Options{Seed: 5, Steps: 60_000})
	require.NoError(t, err)
	b, _ := Solve(context.Background(), p, Options{Seed: 5, Steps: 60_000})
	assert.Equal(t, a, b)
}

func TestAStoppedSearchGivesItsBestSoFar(t *testing.T) {
	p := planted(3, shape{places: 8, items: 60})
	ctx, stop := context.WithTimeout(t.Context(), 200*time.Millisecond)
	defer stop()
	plan, err := Solve(ctx, p, Options{Steps: 100_000_000})
	require.NoError(t, err)
	assert.Equal(t, Deadline, plan.StoppedBy)
	assert.LessOrEqual(t, plan.Unplaced, 6, "greedy leaves few out")
	assert.LessOrEqual(t, plan.LowerBound, plan.Seconds)
}

func TestASearchWithoutAnyTimeProvesNothing(t *testing.T) {
	p := planted(3, shape{places: 8, items: 60})
	ctx, stop := context.WithCancel(t.Context())
	stop()
	plan, err := Solve(ctx, p, Options{Tries: 2})
	require.NoError(t, err)
	assert.Equal(t, Deadline, plan.StoppedBy)
	assert.Equal(t, 60, plan.Unplaced)
	rules, least := p.Clash(ctx, units.Metric)
	assert.Empty(t, rules)
	assert.False(t, least)
	assert.Equal(t, []string{"", ""}, plan.Why(ctx, p, []int{0, 1}, units.Metric))
}

// crowded is a problem of boxes of many sizes, in which laying takes nearly all
// the time.
func crowded(places, items int) Problem {
	r := rand.New(rand.NewPCG(1, uint64(items)))
	side := func(from, to float64) float64 { return math.Round(100*(from+(to-from)*r.Float64())) / 100 }
	p := Problem{Limits: NoLimits()}
	for j := range places {
		p.Places = append(p.Places, Spot{Place: Place{ID: fmt.Sprintf("place %d", j), MaxKg: 120,
			Size: r3.Vec{X: side(0.3, 1.2), Y: side(0.3, 0.8), Z: side(0.2, 0.5)}}})
	}
	for i := range items {
		it := Item{Piece: Piece{ID: fmt.Sprintf("piece %d", i), Kg: side(0.2, 8), Turn: TurnAny, Count: 1 + i%4,
			Size: r3.Vec{X: side(0.05, 0.5), Y: side(0.05, 0.35), Z: side(0.04, 0.25)}}}
		for range places {
			it.Cost = append(it.Cost, side(1, 100))
		}
		p.Items = append(p.Items, it)
	}
	return p
}

// Without an end these would look for minutes, and some for days.
func TestEveryEngineStopsWithItsContext(t *testing.T) {
	for name, run := range map[string]func(context.Context){
		"search": func(ctx context.Context) {
			plan, err := Solve(ctx, crowded(20, 300), Options{Steps: 1 << 40, Squeeze: true})
			require.NoError(t, err)
			assert.Equal(t, Deadline, plan.StoppedBy)
		},
		"packing": func(ctx context.Context) {
			p := crowded(1, 60)
			p.Places[0].Stop = func() bool { return ctx.Err() != nil }
			var all []Piece
			for _, it := range p.Items {
				all = append(all, it.Piece)
			}
			Pack(p.Places[0].Place, all, 1<<40)
		},
		"reasons": func(ctx context.Context) {
			p := crowded(60, 900)
			for i := range p.Items {
				p.Items[i].Kg = 20
			}
			p.Clash(ctx, units.Metric)
		},
	} {
		ctx, stop := context.WithTimeout(t.Context(), 50*time.Millisecond)
		done := make(chan struct{})
		go func() { run(ctx); close(done) }()
		select {
		case <-done:
		case <-time.After(10 * time.Second):
			t.Fatal(name, "goes on")
		}
		stop()
	}
}

// A search of so many steps ends by them though each may have to lay a place.
func TestLayingIsCountedAsSteps(t *testing.T) {
	p := crowded(20, 90)
	ctx, stop := context.WithTimeout(t.Context(), time.Minute)
	defer stop()
	plan, err := Solve(ctx, p, Options{Seed: 1})
	require.NoError(t, err)
	assert.NotEqual(t, Deadline, plan.StoppedBy)
	assert.Zero(t, plan.Unplaced)
	assert.Less(t, plan.Gap(), 0.05)
}

func TestASearchBeginsWithThePlanItIsGiven(t *testing.T) {
	p := planted(4, shape{places: 8, items: 60})
	best, err := Solve(context.Background(), p, Options{Seed: 1})
	require.NoError(t, err)
	var start []Placed
	for i, at := range best.At {
		for _, j := range at {
			start = append(start, Placed{Item: p.Items[i].ID, Place: p.Places[j].ID})
		}
	}
	again, err := Solve(context.Background(), p, Options{Seed: 2, Steps: 1, Start: start})
	require.NoError(t, err)
	assert.LessOrEqual(t, again.Seconds, best.Seconds+1e-9)
}

func TestPinsReservedPlacesAndHazardsAreKept(t *testing.T) {
	spot := func(id string) Spot { return Spot{Place: Place{ID: id, Name: id}} }
	item := func(id string, cost ...float64) Item {
		return Item{Piece: Piece{ID: id, Name: id, Kg: 1, Count: 1}, Cost: cost}
	}
	p := Problem{Places: []Spot{spot("a"), spot("b"), spot("c")}, Limits: NoLimits(), Items: []Item{
		item("kit", 5, 1, 9), item("can", 1, 2, 3), item("torch", 1, 2, 9), item("pin", 1, 2, 3)}}
	p.Places[1].Reserved = []string{"kit"}
	p.Items[1].Hazards, p.Items[2].Hazards = []string{"fuel"}, []string{"sparks"}
	p.Items[3].Pinned = "c"
	plan, err := Solve(context.Background(), p, Options{})
	require.NoError(t, err)
	assert.Equal(t, [][]int{{1}, {2}, {0}, {2}}, plan.At, "the can gives way: it loses less by it")
	assert.Equal(t, Proved, mustSolve(t, Problem{Places: p.Places[:1], Items: []Item{item("x", 3)},
		Limits: NoLimits()}).StoppedBy)
}

func mustSolve(t testing.TB, p Problem) Plan {
	plan, err := Solve(context.Background(), p, Options{})
	require.NoError(t, err)
	return plan
}

func TestPiecesAreLaidWhereThePlanPutsThem(t *testing.T) {
	box := func(id string, x, y, z float64, n int) Item {
		return Item{Piece: Piece{ID: id, Size: r3.Vec{X: x, Y: y, Z: z}, Kg: 1, Count: n, Turn: TurnAny},
			Cost: []float64{1, 2}}
	}
	p := Problem{Limits: NoLimits(), Places: []Spot{{Place: Place{ID: "near", Size: r3.Vec{X: 0.4, Y: 0.3, Z: 0.3}}},
		{Place: Place{ID: "far", Size: r3.Vec{X: 0.6, Y: 0.4, Z: 0.3}}}},
		Items: []Item{box("tray", 0.36, 0.23, 0.05, 8), box("bag", 0.3, 0.2, 0.2, 2)}}
	plan := mustSolve(t, p)
	require.Zero(t, plan.Unplaced)
	n := 0
	for j, laid := range plan.Layouts {
		var pieces []Piece
		for _, it := range p.Items {
			pieces = append(pieces, it.Piece)
		}
		sound(t, p.Places[j].Place, pieces, laid)
		n += len(laid)
	}
	assert.Equal(t, 10, n)
}

// Boxes that fit by how they were made, but not one by one as they come.
func TestWhatAGreedyHandLeavesOutIsSqueezedIn(t *testing.T) {
	whole := r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}
	p := Problem{Limits: NoLimits(), Places: []Spot{{Place: Place{ID: "a", Size: whole}}}}
	for _, piece := range sawn(newRand(9), whole, 18) {
		p.Items = append(p.Items, Item{Piece: piece, Cost: []float64{1}})
	}
	plan, err := Solve(context.Background(), p, Options{Steps: 20_000, Squeeze: true})
	require.NoError(t, err)
	assert.Zero(t, plan.Unplaced)
	assert.Len(t, plan.Layouts[0], 18)
}

func TestBalanceIsBoughtWithSeconds(t *testing.T) {
	p := Problem{Limits: NoLimits(), Places: []Spot{{Place: Place{ID: "port"}, At: r3.Vec{Y: 1}},
		{Place: Place{ID: "starboard"}, At: r3.Vec{Y: -1}}},
		Items: []Item{{Piece: Piece{ID: "a", Kg: 10, Count: 2}, Cost: []float64{1, 2}}}}
	assert.Equal(t, [][]int{{0, 0}}, mustSolve(t, p).At)
	p.Balance = Balance{PerHeel: 1}
	plan := mustSolve(t, p)
	slices.Sort(plan.At[0])
	assert.Equal(t, [][]int{{0, 1}}, plan.At)
	assert.InDelta(t, 3, plan.Seconds, 1e-9)
	p.Balance = Balance{Within: Limits{Heel: [2]float64{-25, -15}, Trim: NoLimits().Trim}, OverHeel: 1}
	assert.Equal(t, [][]int{{1, 1}}, mustSolve(t, p).At, "both to starboard, where she is wanted")
}

func TestWhyAPieceWasLeftOut(t *testing.T) {
	p := Problem{Limits: NoLimits(), Places: []Spot{{Place: Place{ID: "dry", Name: "the dry box", Dry: true, MaxKg: 5}},
		{Place: Place{ID: "wet", Name: "the well"}}},
		Items: []Item{{Piece: Piece{ID: "r", Name: "radio", Kg: 4, Count: 2, NeedsDry: true}, Cost: []float64{1, 1}}}}
	plan := mustSolve(t, p)
	require.Equal(t, 1, plan.Unplaced)
	assert.Equal(t, "radio (4.0 kg) was left out: 1 place would carry more than it may; 1 place gets wet.",
		plan.Why(t.Context(), p, []int{0}, units.Metric)[0])
	rules, least := p.Clash(t.Context(), units.Metric)
	assert.True(t, least)
	assert.Equal(t, []string{"radio goes aboard (2 of 4.0 kg)", "the dry box carries 5.0 kg at most",
		"radio must stay dry"}, sentences(rules))
}

func sentences(rules []Rule) (list []string) {
	for _, r := range rules {
		list = append(list, r.Sentence)
	}
	return list
}

// Of the rules of a clash none can be left out, and together they clash: both
// are seen by brute force.
func TestAClashIsOneAndIsNoLargerThanItMustBe(t *testing.T) {
	clashes := 0
	rapid.Check(t, func(t *rapid.T) {
		p := tiny(t)
		p.Groups = nil
		for i := range p.Items {
			p.Items[i].Hazards = nil
		}
		rules, least := p.Clash(t.Context(), units.Metric)
		if left, _ := every(p); left == 0 {
			assert.Empty(t, rules)
		}
		if len(rules) == 0 {
			return
		}
		clashes++
		assert.True(t, least, "so few plans are all looked at")
		left, _ := every(only(p, rules))
		assert.Positive(t, left, "%v", sentences(rules))
		for k, r := range rules {
			left, _ := every(only(p, slices.Delete(slices.Clone(rules), k, k+1)))
			assert.Zero(t, left, "without %q", r.Sentence)
		}
	})
	assert.Positive(t, clashes)
}

// only keeps of a problem what rules ask.
func only(p Problem, rules []Rule) Problem {
	has := func(name string, item, place int) bool {
		return slices.ContainsFunc(rules, func(r Rule) bool { return r.Name == name && r.item == item && r.place == place })
	}
	q := Problem{Limits: NoLimits()}
	for j, s := range p.Places {
		if !has(RuleLimit, -1, j) {
			s.MaxKg = 1e9
		}
		q.Places = append(q.Places, s)
	}
	for i, it := range p.Items {
		if !has(RuleAboard, i, -1) {
			continue
		}
		if !has(RuleReach, i, -1) {
			it.Cost = make([]float64, len(p.Places))
		}
		q.Items = append(q.Items, it)
	}
	if has(RuleBalance, -1, -1) {
		q.Limits.Heel = p.Limits.Heel
	}
	if has(ruleTrim, -1, -1) {
		q.Limits.Trim = p.Limits.Trim
	}
	return q
}
