package stow

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// shape of a generated instance.
type shape struct {
	places, items   int
	against, limits bool
	groups          int
}

func newRand(seed uint64) *rand.Rand { return rand.New(rand.NewPCG(seed, 3)) }

// planted makes an instance as a crew might have it: places along a boat, each
// with a load, and pieces that cost differently in each. A plan is planted, so
// that there is one: loads and limits are set by it, and are tight. against makes
// costs fall with mass, which is the hard kind.
func planted(seed uint64, c shape) Problem {
	r := newRand(seed)
	p := Problem{Limits: NoLimits()}
	total, heel, trim := 0.0, 0.0, 0.0
	for j := range c.places {
		p.Places = append(p.Places, Spot{Place: Place{ID: fmt.Sprint("p", j)},
			At: r3.Vec{X: math.Round(r.Float64()*45) / 10, Y: math.Round((r.Float64()-0.5)*16) / 10}})
	}
	load := make([]float64, c.places)
	for i := range c.items {
		it := Item{Piece: Piece{ID: fmt.Sprint("i", i), Kg: float64(5+r.IntN(21)) / 2, Count: 1}}
		j := r.IntN(c.places)
		if k := r.IntN(c.places); load[k] < load[j] {
			j = k
		}
		load[j] += it.Kg
		total, heel, trim = total+it.Kg, heel+it.Kg*p.Places[j].At.Y, trim+it.Kg*p.Places[j].At.X
		for range p.Places {
			cost := float64(10 + r.IntN(90))
			if c.against {
				cost = math.Round(161 - 8*it.Kg + float64(r.IntN(21)))
			}
			it.Cost = append(it.Cost, cost)
		}
		p.Items = append(p.Items, it)
	}
	for j := range p.Places {
		p.Places[j].MaxKg = math.Ceil(2*max(load[j], total/float64(c.places)*(0.7+0.4*r.Float64()))) / 2
	}
	if c.limits {
		p.Limits = Limits{Heel: [2]float64{-math.Abs(heel) - 0.01*total, math.Abs(heel) + 0.01*total},
			Trim: [2]float64{trim - 0.05*total, trim + 0.05*total}}
	}
	for g := range c.groups {
		group := Group{ID: fmt.Sprint("g", g), Split: float64(15 + r.IntN(30))}
		for i := g; i < c.items; i += c.groups {
			group.Items = append(group.Items, i)
		}
		p.Groups = append(p.Groups, group)
	}
	return p
}

// glpk solves a problem whose pieces only count by mass with GLPK, a general
// solver of integer programs (glpsol of Debian's glpk-utils).
func glpk(t testing.TB, p Problem, seconds int) (best float64, proved bool) {
	var b strings.Builder
	x := func(i, j int) string { return fmt.Sprintf("x%d_%d", i, j) }
	y := func(g, j int) string { return fmt.Sprintf("y%d_%d", g, j) }
	b.WriteString("Minimize\n cost:")
	for i, it := range p.Items {
		for j := range p.Places {
			fmt.Fprintf(&b, " + %g %s\n", it.Cost[j], x(i, j))
		}
	}
	for g, group := range p.Groups {
		for j := range p.Places {
			fmt.Fprintf(&b, " + %g %s\n", group.Split, y(g, j))
		}
	}
	b.WriteString("Subject To\n")
	for i := range p.Items {
		for j := range p.Places {
			fmt.Fprintf(&b, " + %s", x(i, j))
		}
		b.WriteString(" = 1\n")
	}
	sum := func(weight func(i, j int) float64) {
		for i := range p.Items {
			for j := range p.Places {
				if w := weight(i, j); w != 0 {
					fmt.Fprintf(&b, " %+.10g %s\n", w, x(i, j))
				}
			}
		}
	}
	for j, s := range p.Places {
		sum(func(i, k int) float64 {
			if k == j {
				return p.Items[i].Kg
			}
			return 0
		})
		fmt.Fprintf(&b, " <= %g\n", s.MaxKg)
	}
	heel := func(i, j int) float64 { return p.Items[i].Kg * p.Places[j].At.Y }
	trim := func(i, j int) float64 { return p.Items[i].Kg * p.Places[j].At.X }
	if !math.IsInf(p.Limits.Heel[1], 1) {
		sum(heel)
		fmt.Fprintf(&b, " <= %g\n", p.Limits.Heel[1])
		sum(heel)
		fmt.Fprintf(&b, " >= %g\n", p.Limits.Heel[0])
		sum(trim)
		fmt.Fprintf(&b, " <= %g\n", p.Limits.Trim[1])
		sum(trim)
		fmt.Fprintf(&b, " >= %g\n", p.Limits.Trim[0])
	}
	for g, group := range p.Groups {
		for _, i := range group.Items {
			for j := range p.Places {
				fmt.Fprintf(&b, " %s - %s <= 0\n", x(i, j), y(g, j))
			}
		}
	}
	b.WriteString("Binary\n")
	for i := range p.Items {
		for j := range p.Places {
			fmt.Fprintf(&b, " %s\n", x(i, j))
		}
	}
	for g := range p.Groups {
		for j := range p.Places {
			fmt.Fprintf(&b, " %s\n", y(g, j))
		}
	}
	b.WriteString("End\n")
	dir := t.TempDir()
	lp, out := filepath.Join(dir, "p.lp"), filepath.Join(dir, "p.txt")
	require.NoError(t, os.WriteFile(lp, []byte(b.String()), 0o600))
	log, err := exec.Command("glpsol", "--lp", lp, "-w", out, "--tmlim", strconv.Itoa(seconds), "--cuts",
		"--pcost").CombinedOutput()
	require.NoError(t, err, string(log))
	text, err := os.ReadFile(out)
	require.NoError(t, err)
	best = math.Inf(1)
	for line := range strings.Lines(string(text)) {
		fields := strings.Fields(line)
		if len(fields) > 6 && fields[0] == "s" && fields[1] == "mip" { // s mip rows cols status objective
			proved = fields[4] == "o"
			if fields[4] == "o" || fields[4] == "f" {
				best, err = strconv.ParseFloat(fields[5], 64)
				require.NoError(t, err)
			}
		} else if len(fields) == 6 && fields[0] == "s" && fields[1] == "mip" {
			proved = fields[4] == "o"
			if fields[4] != "u" && fields[4] != "n" {
				best, err = strconv.ParseFloat(fields[5], 64)
				require.NoError(t, err)
			}
		}
	}
	for _, g := range p.Groups {
		best -= g.Split // the first place of each is free
	}
	return best, proved
}

// compared is by what share plans are over what GLPK finds: the mean of three
// searches, and the worst.
func compared(t testing.TB, c shape, seed uint64, seconds int) (over, worst float64, proved bool) {
	p := planted(seed, c)
	best, proved := glpk(t, p, seconds)
	greedy := (&search{model: newModel(t.Context(), p)}).greedy()
	const searches = 3
	worst = math.Inf(-1)
	for k := range uint64(searches) {
		plan, err := Solve(context.Background(), p, Options{Seed: k, Tries: 2})
		require.NoError(t, err)
		require.Zero(t, plan.Unplaced, "%+v", c)
		require.True(t, plan.Within)
		require.LessOrEqual(t, plan.LowerBound, min(best, plan.Seconds)+1e-6)
		require.LessOrEqual(t, plan.Seconds, greedy.cost()+1e-9, "never worse than greedy")
		over += (plan.Seconds/best - 1) / searches
		worst = max(worst, plan.Seconds/best-1)
	}
	return over, worst, proved
}

// shapes of all instances: 5 to 20 places, 40 to 200 pieces.
var shapes = []shape{{places: 5, items: 40, against: false, limits: false, groups: 0},
	{places: 5, items: 60, against: true, limits: false, groups: 0}, {places: 6, items: 50, against: true, limits: true,
		groups: 0}, {places: 5, items: 40, against: false, limits: false, groups: 4}, {places: 8, items: 60, against: false,
		limits: false, groups: 0}, {places: 8, items: 80, against: true, limits: true, groups: 0},
	{places: 10, items: 100, against: false, limits: false, groups: 0}, {places: 10, items: 100, against: true,
		limits: false, groups: 0}, {places: 10, items: 100, against: false, limits: true, groups: 0}, {places: 15, items: 150,
		against: false, limits: false, groups: 0}, {places: 15, items: 150, against: false, limits: true, groups: 0},
	{places: 20, items: 200, against: false, limits: false, groups: 0}, {places: 20, items: 200, against: true,
		limits: true, groups: 0}, {places: 20, items: 200, against: false, limits: true, groups: 0},
	{places: 8, items: 40, against: false, limits: false, groups: 8}, {places: 6, items: 50, against: false,
		limits: false, groups: 5}, {places: 5, items: 60, against: true, limits: true, groups: 6}, {places: 12, items: 60,
		against: false, limits: true, groups: 10}, {places: 10, items: 100, against: false, limits: true,
		groups: 12}, {places: 20, items: 100, against: true, limits: false, groups: 10}, {places: 20, items: 200,
		against: false, limits: true, groups: 20}}

// The exact optimum of a general solver. Some that GLPK proves within a few
// seconds are checked here; make bench does all.
func TestPlansComeWithinAHalfPercentOfTheOptimum(t *testing.T) {
	if _, err := exec.LookPath("glpsol"); err != nil {
		t.Skip("glpsol is not installed: scripts/test.sh installs it")
	}
	for _, c := range shapes[:5] {
		over, worst, proved := compared(t, c, 3, 20)
		t.Logf("%+v: %+.2f %%, at worst %+.2f %%, proved %v", c, 100*over, 100*worst, proved)
		assert.LessOrEqual(t, over, allowed(c, proved), "%+v", c)
	}
}

func allowed(c shape, proved bool) float64 {
	switch {
	case !proved:
		return 1e-9
	case c.groups > 0:
		return 0.01
	}
	return 0.005
}

// BenchmarkAssignment prints every instance beside GLPK's answer of a minute.
func BenchmarkAssignment(b *testing.B) {
	for _, c := range shapes {
		b.Run(fmt.Sprintf("places=%d/pieces=%d/against=%v/limits=%v/groups=%d", c.places, c.items, c.against, c.limits,
			c.groups), func(b *testing.B) {
			over, worst, proved := compared(b, c, 3, 60)
			said := "no plan of GLPK's to compare with"
			if !math.IsInf(over, 0) && over > -1 {
				said = fmt.Sprintf("%+.2f %% over GLPK's, at worst %+.2f %%, proved %v, within what is asked: %v", 100*over,
					100*worst, proved, worst <= allowed(c, proved))
			}
			b.Log(said)
			p := planted(3, c)
			for b.Loop() {
				if _, err := Solve(context.Background(), p, Options{Seed: 1, Tries: 2}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
