package demo

import (
	"testing"

	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Of the electrics two things are wrong on purpose, and nothing else wants a hand; the
// third, Plover's motor bank, shows in the tournament's day.
func TestTwoCircuitsAreWrongOnPurpose(t *testing.T) {
	a, crew := loaded(t)
	actor := kernel.Actor{Crew: crew}
	trips, err := a.Trips.Trips(t.Context(), actor)
	require.NoError(t, err)
	wrong, notes := map[string][]string{}, 0
	for _, trip := range trips {
		if trip.Logged {
			continue // those ahead go in one boat each
		}
		v, err := a.Power.Boat(t.Context(), actor, *trip.BoatID)
		require.NoError(t, err)
		for _, f := range v.Findings {
			if f.Note {
				notes++
				continue
			}
			wrong[v.Name] = append(wrong[v.Name], f.Name+": "+f.Said+" "+f.Settle)
		}
		for _, c := range v.Circuits {
			assert.Empty(t, c.Wire.Why, c.Key)
			assert.Equal(t, "route", c.Wire.Length)
		}
	}
	assert.Equal(t, map[string][]string{
		"Dunlin": {
			"console display: It hangs on the starting battery: it resets when the engine cranks, and takes from what starts it. " +
				"Hang it on the house battery.",
		},
		"Whimbrel": {"lamp in the bow: Nothing protects its wire: no fuse or breaker between it and the battery. " +
			"A fuse of 7.5 A within 180 mm of where it hangs on."},
	}, wrong)
	assert.Equal(t, 3, notes, "only who wired it looked at the lamp, and Plover's two batteries stand in the wet")
}

// Plover's motor bank does not last the tournament's second day; what is told to help does.
func TestTheMotorBankRunsDownOnTheSecondDay(t *testing.T) {
	a, crew := loaded(t)
	actor := kernel.Actor{Crew: crew, Role: kernel.Owner}
	trips, err := a.Trips.Trips(t.Context(), actor)
	require.NoError(t, err)
	for _, trip := range trips {
		if trip.Logged {
			continue
		}
		v, err := a.Days.Day(t.Context(), actor, trip.ID)
		require.NoError(t, err)
		read := map[string]days.ReadingView{}
		for _, r := range v.Answer.Readings {
			read[r.Key] = r
		}
		require.Contains(t, read, "power", trip.Name)
		assert.Equal(t, trip.Name != "two-day tournament", read["power"].Kept, trip.Name)
		if trip.Name != "two-day tournament" {
			continue
		}
		assert.Contains(t, read["power"].Sentence, "on day 2, fish, second place: the motor bank is down to 50 %")
		assert.Equal(t, 2, v.Answer.BanksDay)
		assert.True(t, read["start"].Kept)
		moment := v.Answer.Moments[read["power"].Moment]
		assert.InDelta(t, 0.5, moment.Charge[1], 0.03, "the line shows that day")

		help, err := a.Days.Remedies(t.Context(), actor, trip.ID, v.Plan)
		require.NoError(t, err)
		var told []days.Remedy
		for _, r := range help.List {
			if r.For == "power" {
				told = append(told, r)
			}
		}
		require.NotEmpty(t, told)
		assert.Equal(t, "Bow motor at 25 %, not 31 %", told[0].Say)
		with, err := a.Days.Try(t.Context(), actor, trip.ID, *told[0].Plan)
		require.NoError(t, err)
		for _, r := range with.Answer.Readings {
			assert.True(t, r.Key != "power" || r.Kept, "what is offered helps as told")
		}
	}
}

// The tournament's day with her banks on its line against the same without electrics.
func BenchmarkDayWithItsPower(b *testing.B) {
	a, crew := loaded(b)
	actor := kernel.Actor{Crew: crew, Role: kernel.Owner}
	people, err := a.Crew.Members(b.Context(), actor)
	require.NoError(b, err)
	actor.Member = people[0].ID
	trips, err := a.Trips.Trips(b.Context(), actor)
	require.NoError(b, err)
	for _, trip := range trips {
		if trip.Name != "two-day tournament" {
			continue
		}
		var v days.DayView
		day := func(name string) {
			b.Run(name, func(b *testing.B) {
				for b.Loop() {
					v, err = a.Days.Day(b.Context(), actor, trip.ID)
					require.NoError(b, err)
				}
			})
		}
		day("with")
		require.Len(b, v.Answer.Banks, 2)
		now, err := a.Power.Boat(b.Context(), actor, *trip.BoatID)
		require.NoError(b, err)
		require.NoError(b, a.Power.Save(b.Context(), actor, store.NewID(), *trip.BoatID, now.Version, model.NetInput{}))
		day("without")
		require.Empty(b, v.Answer.Banks)
	}
}
