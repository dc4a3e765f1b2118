package due

import (
	"testing"

	"pgregory.net/rapid"
)

// walk goes through the outings one by one with a counter, as a skipper with a
// notebook does, and says on which the count runs out.
func walk(left float64, takes []float64) (now bool, on int) {
	if left <= 0 {
		return true, -1
	}
	for i, t := range takes {
		if t > left+1e-9 {
			return false, i
		}
		left -= t
	}
	return false, -1
}

func TestCountsRunOutWhereANotebookSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var outings []Outing
		var hours, trips []float64
		start := Day(1)
		for range rapid.IntRange(0, 6).Draw(t, "outings") {
			h := float64(rapid.IntRange(0, 12).Draw(t, "hours"))
			outings = append(outings, Outing{Name: string(rune('a' + len(outings))), Start: start, End: start, Hours: h})
			hours, trips = append(hours, h), append(trips, 1)
			start += Day(rapid.IntRange(1, 9).Draw(t, "gap"))
		}
		var next *Outing
		if len(outings) > 0 {
			next = &outings[0]
		}
		byHours := rapid.Bool().Draw(t, "by hours")
		every := float64(rapid.IntRange(1, 30).Draw(t, "every"))
		ran := float64(rapid.IntRange(0, 40).Draw(t, "ran"))
		thing := Thing{ID: "x", Outings: outings}
		takes := hours
		if byHours {
			thing.Hours, thing.Rules = ran, []Rule{{What: "w", EveryHours: every}}
		} else {
			thing.Trips, thing.Rules = int(ran), []Rule{{What: "w", EveryTrips: int(every)}}
			takes = trips
		}
		d := List(0, next, []Thing{thing})[0]
		now, on := walk(every-ran, takes)
		want := After
		if now {
			want = Now
		} else if on == 0 {
			want = Before
		}
		if d.When != want {
			t.Fatalf("every %g, ran %g, %v: %s, not %s", every, ran, takes, d.When, want)
		}
		if on >= 0 && (d.On == nil || *d.On != outings[on].Start || d.Trip != outings[on].Name) {
			t.Fatalf("every %g, ran %g, %v: %+v, not on %s", every, ran, takes, d, outings[on].Name)
		}
	})
}

func TestADayIsJudgedAlikeHoweverDaysAreCounted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		shift := Day(rapid.IntRange(-30000, 30000).Draw(t, "shift"))
		last := Day(rapid.IntRange(-10, 30).Draw(t, "last"))
		moved := last + shift
		near := &Outing{Name: "x", Start: 5 + shift, End: 6 + shift}
		a := List(0, &Outing{Name: "x", Start: 5, End: 6}, []Thing{{Expires: &last}})[0]
		b := List(shift, near, []Thing{{Expires: &moved}})[0]
		if a.When != b.When || a.Left != b.Left || a.Trip != b.Trip || *a.On+shift != *b.On {
			t.Fatalf("%+v, %+v", a, b)
		}
	})
}
