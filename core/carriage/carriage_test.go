package carriage

import (
	"context"
	"fmt"
	"testing"

	"ergasia/core/check"
	"ergasia/core/due"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func num(v float64) *float64 { return &v }

func day(d int) *due.Day {
	v := due.Day(d)
	return &v
}

// one checks a single rule.
func one(t *testing.T, r Rule, b Boat, trip Trip, aboard ...Item) Row {
	rows, err := Check(t.Context(), []Held{{Rule: r, Pack: "p"}}, b, trip, aboard)
	require.NoError(t, err)
	require.Len(t, rows, 1)
	return rows[0]
}

func ring(more ...func(*Item)) Item {
	it := Item{ID: "ring", Name: "ring", Class: "throwable", Count: 1}
	for _, m := range more {
		m(&it)
	}
	return it
}

func within(s float64) func(*Item) { return func(it *Item) { it.Seconds = &s } }

func TestALineIsMetShortOutOfDateOrTooSlow(t *testing.T) {
	r := Rule{ID: "r", What: "ring", Need: []Line{{Class: []string{"throwable"}, InDate: true, Within: 5}}}
	trip := Trip{LastDay: 100}
	assert.Equal(t, Met, one(t, r, Boat{}, trip, ring(within(5))).Status, "5 s are within 5 s")
	assert.Equal(t, Slow, one(t, r, Boat{}, trip, ring(within(5.1))).Status)
	assert.Equal(
		t,
		Met,
		one(t, r, Boat{}, trip, ring(within(9)), Item{ID: "b", Class: "throwable", Seconds: num(2)}).Status,
		"one of two is enough",
	)
	old := ring(func(it *Item) { it.Expires = day(99) })
	row := one(t, r, Boat{}, trip, old)
	assert.Equal(t, Expired, row.Status)
	assert.Equal(t, []string{"ring"}, row.By, "what would be it is named")
	assert.Equal(t, Met, one(t, r, Boat{}, trip, ring(func(it *Item) { it.Expires = day(100) })).Status,
		"the last good day is a good day")
	row = one(t, r, Boat{}, trip)
	assert.Equal(t, Short, row.Status)
	assert.Equal(t, 1, row.Missing)
	assert.Equal(t, "No throwable is aboard.", row.Why)
}

func TestWhatIsNotKnownIsAskedAndSaid(t *testing.T) {
	closed := true
	r := Rule{ID: "r", What: "ext", When: When{Closed: &closed}, Need: []Line{{Class: []string{"extinguisher"}}}}
	row := one(t, r, Boat{}, Trip{})
	assert.Equal(t, Short, row.Status)
	assert.Contains(t, row.Why, "Nobody said whether she has closed spaces")
	no := false
	row = one(t, r, Boat{Closed: &no}, Trip{})
	assert.Equal(t, NotAsked, row.Status)
	assert.Equal(t, "she has no closed space where vapour gathers", row.Why)
}

func TestTheStricterOfTwoPacksDecides(t *testing.T) {
	soft := Held{Pack: "soft", Rule: Rule{ID: "a", What: "ring", Need: []Line{{Class: []string{"throwable"}}}}}
	hard := Held{
		Pack: "hard",
		Rule: Rule{ID: "b", What: "ring", Need: []Line{{Class: []string{"throwable"}, Within: 5}}},
	}
	for _, order := range [][]Held{{soft, hard}, {hard, soft}} {
		rows, err := Check(t.Context(), order, Boat{}, Trip{}, []Item{ring(within(8))})
		require.NoError(t, err)
		require.Len(t, rows, 1)
		assert.Equal(t, Slow, rows[0].Status)
		assert.Equal(t, "hard", rows[0].Pack)
		assert.Equal(t, []string{"soft"}, rows[0].Also)
		rows, _ = Check(t.Context(), order, Boat{}, Trip{}, []Item{ring(within(3))})
		assert.Equal(t, "hard", rows[0].Pack, "both are met: the one that asks for more is told")
	}
}

func TestAThingWithTwoJobsDoesOneOfThem(t *testing.T) {
	rules := []Held{
		{Pack: "p", Rule: Rule{ID: "a", What: "jacket", Need: []Line{{Class: []string{"lifejacket"}}}}},
		{Pack: "p", Rule: Rule{ID: "b", What: "ring", Need: []Line{{Class: []string{"throwable"}}}}},
	}
	cushion := Item{ID: "cushion", Class: "throwable", Also: []string{"lifejacket"}, Count: 1}
	status := func(aboard ...Item) string {
		rows, err := Check(t.Context(), rules, Boat{}, Trip{}, aboard)
		require.NoError(t, err)
		return rows[0].Status + " " + rows[1].Status
	}
	assert.Contains(t, []string{"met short", "short met"}, status(cushion), "not both")
	two := cushion
	two.Count = 2
	assert.Equal(t, "met met", status(two), "two cushions are one of each")
	assert.Equal(t, "met met", status(cushion, Item{ID: "j", Class: "lifejacket"}), "the jacket leaves it free")
	assert.Equal(t, "met met", status(cushion, ring()))
}

func TestManyThingsWithTwoJobsAreBoundedAndStop(t *testing.T) {
	var aboard []Item
	for i := range 60 {
		aboard = append(
			aboard,
			Item{ID: fmt.Sprint(i), Class: "lamp", Also: []string{"whistle", "knife", "horn"}, Count: 3},
		)
	}
	rules := []Held{{Pack: "p", Rule: Rule{ID: "a", What: "lamp", Need: []Line{{Class: []string{"lamp"}}}}}}
	rows, err := Check(t.Context(), rules, Boat{}, Trip{}, aboard)
	require.NoError(t, err)
	assert.Equal(t, Met, rows[0].Status)
	ctx, stop := context.WithCancel(t.Context())
	stop()
	_, err = Check(ctx, rules, Boat{}, Trip{}, aboard)
	assert.ErrorIs(t, err, context.Canceled)
}

// jackets and people at random; the greatest number that can be dressed is found by trying
// every way.
func TestAsManyAsCanBeAreDressed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var people []Person
		for i := range rapid.IntRange(0, 5).Draw(t, "people") {
			people = append(
				people,
				Person{Name: fmt.Sprint("p", i), Kg: float64(rapid.IntRange(1, 10).Draw(t, "kg") * 10)},
			)
		}
		var jackets []Item
		for i := range rapid.IntRange(0, 5).Draw(t, "jackets") {
			low := float64(rapid.IntRange(1, 10).Draw(t, "low") * 10)
			j := Item{ID: fmt.Sprint(i), Class: "lifejacket", Fits: &[2]float64{low, low + 30}}
			if n := rapid.IntRange(-3, len(people)-1).Draw(t, "of"); n >= 0 {
				j.WornBy = people[n].Name
			}
			jackets = append(jackets, j)
		}
		l := Line{Class: []string{"lifejacket"}, Per: "person", Fits: true}
		got, without := l.fit(jackets, people)
		assert.Equal(t, dressed(jackets, people, 0, 0), got)
		assert.Equal(t, len(people)-got, len(without))
	})
}

// dressed tries every way.
func dressed(jackets []Item, people []Person, p int, used uint) int {
	if p == len(people) {
		return 0
	}
	best := dressed(jackets, people, p+1, used)
	for i, j := range jackets {
		mine := j.WornBy == "" || j.WornBy == people[p].Name
		kg := people[p].Kg
		if used&(1<<i) == 0 && mine && kg >= j.Fits[0] && kg <= j.Fits[1] {
			best = max(best, 1+dressed(jackets, people, p+1, used|1<<i))
		}
	}
	return best
}

func TestAChildNeedsAJacketOfASaidSize(t *testing.T) {
	r := Rule{ID: "r", What: "jackets", Need: []Line{{Class: []string{"lifejacket"}, Per: "person", Fits: true}}}
	jacket := Item{ID: "j", Class: "lifejacket", Count: 2}
	family := Trip{Persons: []Person{{Name: "adult"}, {Name: "child", Age: num(8)}}}
	row := one(t, r, Boat{}, family, jacket)
	assert.Equal(t, Size, row.Status)
	assert.Equal(t, []string{"child"}, row.Persons)
	assert.Contains(t, row.Why, "nobody said which bodies")
	small := Item{ID: "s", Class: "lifejacket", Fits: &[2]float64{15, 40}}
	assert.Equal(t, Met, one(t, r, Boat{}, family, jacket, small).Status)
	small.WornBy = "adult"
	assert.Equal(t, Size, one(t, r, Boat{}, family, jacket, small).Status, "it is another's who is aboard")
	small.WornBy = "somebody ashore"
	assert.Equal(t, Met, one(t, r, Boat{}, family, jacket, small).Status, "whoever is ashore needs none")
}

func TestWhatLiesOutsideTheGrabBagIsSaid(t *testing.T) {
	r := Rule{ID: "r", What: "flares", Need: []Line{{Class: []string{"flare night"}, Inside: "grab bag"}}}
	flare := Item{ID: "f", Name: "flare", Class: "flare night"}
	row := one(t, r, Boat{}, Trip{}, flare)
	assert.Equal(t, Short, row.Status)
	assert.Contains(t, row.Why, "aboard, but not in the grab bag")
	flare.Inside = []string{"grab bag"}
	assert.Equal(t, Met, one(t, r, Boat{}, Trip{}, flare).Status)
}

func faultsOf(t *testing.T, err error) string {
	require.Error(t, err)
	var fs check.Faults
	require.ErrorAs(t, err, &fs)
	return fs.Error()
}

func good() Rule {
	return Rule{ID: "ring", What: "ring", Source: "practice", Need: []Line{{Class: []string{"throwable"}}}}
}

func TestABrokenPackIsRefusedByItsRow(t *testing.T) {
	pack := func(change func(*Rule)) Pack {
		r := good()
		change(&r)
		return Pack{
			Name:  "p",
			Title: "P",
			Rules: []Rule{good(), {ID: "x", What: "x", Source: "s", Need: r.Need, When: r.When,
				Or: r.Or, Why: r.Why}},
		}
	}
	for name, c := range map[string]struct {
		change func(*Rule)
		says   string
	}{
		"nothing needed": {func(r *Rule) { r.Need = nil }, "rules[1].need is 0: must say what is needed"},
		"unknown class": {func(r *Rule) { r.Need = []Line{{Class: []string{"cannon"}}} },
			`rules[1].need[0].class[0] is "cannon": must be one of lifejacket`},
		"nothing is both": {func(r *Rule) { r.When.Length = &Range{From: num(8), Under: num(5)} },
			"rules[1].when.length_m.from is 8: contradicts under, 5"},
		"fits nobody": {func(r *Rule) { r.Need = []Line{{Class: []string{"lifejacket"}, Fits: true}} },
			"rules[1].need[0].fits: contradicts per, the boat"},
		"in itself": {func(r *Rule) { r.Need = []Line{{Class: []string{"grab bag"}, Inside: "grab bag"}} },
			"a thing does not lie in itself"},
		"worn in a box": {func(r *Rule) {
			r.Need = []Line{{Class: []string{"lifejacket"}, Per: "person", Worn: true, Inside: "grab bag"}}
		}, "rules[1].need[0].worn: contradicts inside"},
		"an empty way":   {func(r *Rule) { r.Or = [][]Line{{}} }, "rules[1].or[0] is 0: must have a line"},
		"negative count": {func(r *Rule) { r.Need[0].Count = -1 }, "rules[1].need[0].count is -1: must be from 0 to 100"},
		"open range":     {func(r *Rule) { r.When.Built = &Range{} }, "rules[1].when.built: must have from, under, or both"},
		"country":        {func(r *Rule) { r.When.Country = []string{"us"} }, "must be two capital letters"},
	} {
		assert.Contains(t, faultsOf(t, pack(c.change).Check()), c.says, name)
	}
	twice := Pack{Name: "p", Title: "P", Rules: []Rule{good(), good()}}
	assert.Contains(t, faultsOf(t, twice.Check()), "rules[1].id is \"ring\": is the id of rule 1 too")
	both := Pack{Name: "p", Title: "P", Rules: []Rule{good()}, Drops: []Drop{{Rule: "ring", Why: "no"}}}
	assert.Contains(t, faultsOf(t, both.Check()), "drops[0].rule is \"ring\": contradicts rule 1")
	assert.NoError(t, Pack{Name: "p", Title: "P", Rules: []Rule{good()}}.Check())
}

func TestACircleOfInheritanceIsRefused(t *testing.T) {
	lib := Library{"a": {Name: "a", Inherits: []string{"b"}}, "b": {Name: "b", Inherits: []string{"c"}},
		"c": {Name: "c", Inherits: []string{"a"}}}
	_, err := lib.Rules("a")
	assert.Contains(t, faultsOf(t, err), "goes in a circle (a → b → c → a): leave one of them out")
	_, err = Library{"a": {Name: "a", Inherits: []string{"z"}}}.Rules("a")
	assert.Contains(t, faultsOf(t, err), `inherits[0] is "z": must be a pack that is there`)
	_, err = Library{"a": {Name: "a", Drops: []Drop{{Rule: "z", Why: "w"}}}}.Rules("a")
	assert.Contains(t, faultsOf(t, err), "must be a rule that the pack inherits")
}

func TestAPackSaysWhatItChanges(t *testing.T) {
	harder, horn := good(), good()
	harder.Need, harder.Why = []Line{{Class: []string{"throwable"}, Count: 2}}, "we lost one"
	horn.ID, horn.What = "horn", "horn"
	whistle := Rule{ID: "whistle", What: "whistle", Source: "s", Need: []Line{{Class: []string{"whistle"}}}}
	lib := Library{"base": {Name: "base", Rules: []Rule{good(), horn}},
		"ours": {
			Name:     "ours",
			Inherits: []string{"base"},
			Rules:    []Rule{harder, whistle},
			Drops:    []Drop{{Rule: "horn", Why: "w"}},
		}}
	rules, err := lib.Rules("ours")
	require.NoError(t, err)
	require.Len(t, rules, 2)
	assert.Equal(t, 2, rules[0].Need[0].Count)
	changes := lib.Changes("ours")
	require.Len(t, changes, 3)
	assert.Equal(
		t,
		Change{Rule: "horn", What: "horn", How: "dropped", Said: "not asked any more", Why: "w"},
		changes[0],
	)
	assert.Equal(t, "changed", changes[1].How)
	assert.Equal(t, "2 × throwable; was 1 × throwable", changes[1].Said)
	assert.Equal(t, "added", changes[2].How)
}

// Two packs that inherit the same one give each rule once.
func TestADiamondIsNoCircle(t *testing.T) {
	lib := Library{"base": {Name: "base", Rules: []Rule{good()}}, "l": {Name: "l", Inherits: []string{"base"}},
		"r": {Name: "r", Inherits: []string{"base"}}, "top": {Name: "top", Inherits: []string{"l", "r"}}}
	rules, err := lib.Rules("top")
	require.NoError(t, err)
	assert.Len(t, rules, 1)
	rules, err = lib.All([]string{"top", "base"})
	require.NoError(t, err)
	assert.Len(t, rules, 1)
}

func BenchmarkCheckOfFortyRules(b *testing.B) {
	var rules []Held
	for i := range 40 {
		r := good()
		r.What = fmt.Sprint(i)
		rules = append(rules, Held{Rule: r, Pack: "p"})
	}
	var aboard []Item
	for i := range 200 {
		aboard = append(aboard, Item{ID: fmt.Sprint(i), Class: "throwable"})
	}
	for b.Loop() {
		_, _ = Check(b.Context(), rules, Boat{}, Trip{}, aboard)
	}
}
