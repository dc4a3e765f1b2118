package due

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func day(n int) *Day { d := Day(n); return &d }

var next = &Outing{Name: "cod run", Start: 10, End: 11, Hours: 6}

func one(t Thing) Due { return List(0, next, []Thing{t})[0] }

func TestAFlareIsDueBeforeTheTripOnWhichItRunsOut(t *testing.T) {
	for last, want := range map[int]When{-1: Now, 0: Before, 9: Before, 10: Before, 11: After, 40: After} {
		assert.Equal(t, want, one(Thing{Expires: day(last)}).When, "last good day %d; the trip is on days 10 and 11", last)
	}
	assert.Equal(t, "cod run", one(Thing{Expires: day(10)}).Trip)
	assert.Equal(t, "", one(Thing{Expires: day(9)}).Trip)
	assert.Equal(t, "730 days over", one(Thing{Expires: day(-730)}).Left)
	assert.Equal(t, Return, one(Thing{Back: day(3)}).Kind)
	assert.Equal(t, After, List(0, nil, []Thing{{Expires: day(0)}})[0].When,
		"with no trip ahead there is nothing to be ready for")
}

func TestHoursAndTripsRunOutOnAnOuting(t *testing.T) {
	outings := []Outing{*next, {Name: "tournament", Start: 20, End: 21, Hours: 9}}
	oil := func(ran float64) Due {
		return one(Thing{Hours: 100 + ran, Outings: outings, Rules: []Rule{{What: "oil", EveryHours: 100, LastHours: 100}}})
	}
	assert.Equal(t, Now, oil(100).When)
	assert.Equal(t, Before, oil(95).When, "5 h left, the trip takes 6")
	assert.Equal(t, "5 h left", oil(95).Left)
	d := oil(90)
	assert.Equal(t, After, d.When, "10 h left: it lasts for the first, not for the second")
	assert.Equal(t, "tournament", d.Trip)
	assert.Equal(t, Day(20), *d.On)
	assert.Nil(t, oil(0).On, "no outing is known on which it runs out")
	assert.Equal(t, After, oil(94).When, "6 h left are just enough")

	knot := func(done int) Due {
		return one(Thing{Trips: done, Outings: outings, Rules: []Rule{{What: "knots", EveryTrips: 5}}})
	}
	assert.Equal(t, Now, knot(5).When)
	assert.Equal(t, After, knot(4).When, "one trip left")
	assert.Equal(t, "1 trip left", knot(4).Left)
	assert.Equal(t, "tournament", knot(4).Trip)
}

func TestTheSoonestOfARulesCountsDecides(t *testing.T) {
	r := Rule{What: "service", EveryDays: 365, EveryHours: 100, LastDay: -400}
	assert.Equal(t, Now, one(Thing{Rules: []Rule{r}}).When, "the year is over, the hours are not")
	r.LastDay, r.LastHours = 0, -100
	assert.Equal(t, Now, one(Thing{Rules: []Rule{r}}).When, "the hours are over, the year is not")
}

func TestTheListIsSortedByUrgency(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var things []Thing
		for range rapid.IntRange(0, 12).Draw(t, "things") {
			things = append(things, Thing{Expires: day(rapid.IntRange(-20, 40).Draw(t, "last")),
				Rules: []Rule{{What: "w", EveryTrips: rapid.IntRange(1, 4).Draw(t, "trips")}}, Outings: []Outing{*next}})
		}
		list := List(0, next, things)
		if len(list) != 2*len(things) {
			t.Fatal("each rule is on the list")
		}
		for i := 1; i < len(list); i++ {
			if urgency[list[i].When] < urgency[list[i-1].When] {
				t.Fatalf("%v after %v", list[i], list[i-1])
			}
		}
	})
}

func TestARuleIsChecked(t *testing.T) {
	assert.ErrorContains(t, Rule{What: "oil"}.Check(), "say how often")
	assert.ErrorContains(t, Rule{EveryDays: -1}.Check(), "every_days")
	assert.NoError(t, Rule{What: "oil", EveryHours: 100}.Check())
}
