package demo

import (
	"fmt"
	"slices"
	"testing"

	"ergasia/app/kernel"
	triplist "ergasia/app/trips"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Of what must be aboard, four things are wrong on the trips ahead, and nothing else.
func TestFourThingsAreMissingOnPurpose(t *testing.T) {
	a, crew := loaded(t)
	actor := kernel.Actor{Crew: crew}
	trips, err := a.Trips.Trips(t.Context(), actor)
	require.NoError(t, err)
	wrong := map[string][]string{}
	for _, trip := range trips {
		if trip.Logged {
			continue
		}
		v, err := a.Safety.Check(t.Context(), actor, trip.ID)
		require.NoError(t, err)
		for _, r := range v.Rows {
			if r.Status != "met" && r.Status != "not_asked" {
				wrong[trip.Name] = append(wrong[trip.Name], fmt.Sprintf("%s %s: %s", r.What, r.Status, r.Why))
				assert.NotEmpty(t, r.Settle, "%s can be settled", r.What)
			}
		}
		for _, p := range v.Papers {
			assert.Equal(t, "good", p.State, p.Said)
		}
	}
	assert.Equal(t, map[string][]string{
		"two-day tournament": {
			"fire extinguisher slow: Fire extinguisher, lake boat (in bow bag, bow locker) takes 14 s; 10 s is asked.",
			"spare drain plug short: No spare drain plug is aboard."},
		"evening with two guests":    {"wearable lifejackets size: No lifejacket fits first guest."},
		"cod run, 18 nautical miles": {"visual distress signals expired: Flares, sealed box: out of date by the trip's last day."},
	}, wrong)
}

// The check of a trip against loading its boat, which every page of hers does.
func BenchmarkCheckOfATrip(b *testing.B) {
	a, crew := loaded(b)
	actor := kernel.Actor{Crew: crew}
	trips, err := a.Trips.Trips(b.Context(), actor)
	require.NoError(b, err)
	i := slices.IndexFunc(trips, func(t triplist.TripView) bool { return t.Name == "cod run, 18 nautical miles" })
	b.Run("check", func(b *testing.B) {
		for b.Loop() {
			_, _ = a.Safety.Check(b.Context(), actor, trips[i].ID)
		}
	})
	b.Run("load", func(b *testing.B) {
		for b.Loop() {
			_, _ = a.Stowing.Bench(b.Context(), actor, *trips[i].BoatID)
		}
	})
}
