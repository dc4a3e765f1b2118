package demo

import (
	"context"
	"slices"
	"testing"
	"time"

	"ergasia/app/days"
	"ergasia/app/kernel"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Each of the trips ahead shows one thing that is wrong, and what helps against it.
func TestEachTripAheadShowsOneThingWrong(t *testing.T) {
	ctx := context.Background()
	a, ours := loaded(t)
	actor := kernel.Actor{Crew: ours}
	list, err := a.Trips.Trips(ctx, actor)
	require.NoError(t, err)
	wrong := map[string]string{
		"two-day tournament":         "bow_down",
		"evening with two guests":    "awash",
		"cod run, 18 nautical miles": "fuel",
	}
	seen := 0
	for _, trip := range list {
		if trip.Logged {
			continue
		}
		v, err := a.Days.Day(ctx, actor, trip.ID)
		require.NoError(t, err)
		require.NotNil(t, v.Answer, "%v", v.Lacks)
		t.Log(trip.Name, v.Answer.Headline, v.Lacks, v.Answer.Fetching)
		for _, r := range v.Answer.Readings {
			t.Log("  ", r.Key, r.Kept, r.Sentence, r.Limit, r.Certain, r.Because)
		}
		i := slices.IndexFunc(v.Answer.Readings, func(r days.ReadingView) bool { return r.Key == wrong[trip.Name] })
		require.GreaterOrEqual(t, i, 0)
		assert.False(t, v.Answer.Readings[i].Kept, "%s shows %s", trip.Name, wrong[trip.Name])
		assert.Equal(t, "not_ready", v.Answer.Ready)
		began := time.Now()
		r, err := a.Days.Remedies(ctx, actor, trip.ID, v.Plan)
		require.NoError(t, err)
		t.Log("  ", r.Tried, "tried in", time.Since(began), r.Together)
		assert.NotEmpty(t, r.List, "something helps")
		for _, one := range r.List {
			t.Log("    ", one.Say, one.Effect, one.Holds)
			assert.NotEmpty(t, one.Effect, one.Say)
		}
		seen++
	}
	assert.Equal(t, 3, seen)
}
