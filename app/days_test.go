package app_test

import (
	"testing"

	"ergasia/app/days"
	"ergasia/app/fleet"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// partyOf puts people on a trip: a member and a guest of 90 kg, at the helm.
func (w *world) partyOf(trip uuid.UUID, sits *uuid.UUID) []model.TripPerson {
	people := []model.TripPerson{
		{ID: store.NewID(), MemberID: &w.owner.Member, Name: "x", Kg: 80, Role: "skipper", Sits: sits, Fishes: sits},
		{ID: store.NewID(), Name: "guest", Kg: 90, Role: "guest", Sits: sits, Fishes: sits}}
	_, err := w.Trips.SaveParty(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), people)
	require.NoError(w.t, err)
	return people
}

func (w *world) tripVersion(id uuid.UUID) int {
	list, err := w.Trips.Trips(ctx, w.owner)
	require.NoError(w.t, err)
	for _, t := range list {
		if t.ID == id {
			return t.Version
		}
	}
	return 0
}

func reading(t *testing.T, v days.DayView, key string) days.ReadingView {
	require.NotNil(t, v.Answer, "%v", v.Lacks)
	for _, r := range v.Answer.Readings {
		if r.Key == key {
			return r
		}
	}
	t.Fatalf("no reading of %s", key)
	return days.ReadingView{}
}

func phase(kind string, h float64) model.DayPhase {
	return model.DayPhase{Kind: kind, Name: kind, Hours: h}
}

func TestADayIsReckonedWithWhoComesAndWhatGoesAlong(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	people := w.partyOf(id, &w.post)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	plan := model.DayPlan{
		At:     360,
		Fixed:  1,
		Phases: []model.DayPhase{phase("road", 1), phase("fish", 2), phase("home", 0.5)},
	}
	v, err := w.Days.Try(ctx, w.owner, id, plan)
	require.NoError(t, err)
	require.NotNil(t, v.Answer)
	assert.InDelta(t, 300, v.Answer.Phases[0].From, 1e-9, "the fixed phase begins at six, so the road at five")
	assert.Empty(t, v.Answer.Phases[0].At, "nobody is aboard on the road")
	assert.Len(t, v.Answer.Phases[1].At, 2)
	fish := v.Answer.Moments[len(v.Answer.Moments)-2]
	assert.InDelta(t, 400+30+85+90, fish.Kg, 1e-6, "hull, cooler, the member as the crew knows them, the guest")
	assert.False(t, v.Saved)

	plan.Phases[1].Posts = []model.DayPost{{Person: people[1].ID}}
	v, err = w.Days.Try(ctx, w.owner, id, plan)
	require.NoError(t, err)
	assert.Len(t, v.Answer.Phases[1].At, 1, "the guest is ashore meanwhile")

	_, err = w.Days.Save(ctx, w.owner, store.NewID(), id, v.Version, plan)
	require.NoError(t, err)
	v, err = w.Days.Day(ctx, w.owner, id)
	require.NoError(t, err)
	assert.Equal(t, plan.Phases, v.Plan.Phases)
	assert.True(t, v.Saved)
	_, err = w.Days.Save(ctx, w.owner, store.NewID(), id, v.Version-1, plan)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)

	_, err = w.Days.LeaveAshore(ctx, w.owner, store.NewID(), id, v.Version, []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	v, err = w.Days.Day(ctx, w.owner, id)
	require.NoError(t, err)
	fish = v.Answer.Moments[len(v.Answer.Moments)-1]
	assert.InDelta(t, 400+85+90, fish.Kg, 1e-6, "the cooler stays ashore, and lies in the boat all the same")
	assert.NotNil(t, w.stowed(w.cooler).PlaceID)
}

func TestGearThatIsPromisedAndNotAboardIsReckonedAmidships(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	_, err := w.Trips.Promise(ctx, w.owner, store.NewID(), id, []uuid.UUID{w.cooler.ID})
	require.NoError(t, err)
	v, err := w.Days.Day(ctx, w.owner, id)
	require.NoError(t, err)
	require.NotNil(t, v.Answer)
	assert.Contains(t, v.Lacks[0], "Nobody said who comes: the figures take 3 people of 85 kg")
	assert.Contains(t, v.Lacks[1], "1 that go along have no place aboard yet, 30 kg")
	last := v.Answer.Moments[len(v.Answer.Moments)-1]
	assert.InDelta(t, 400+30+3*85, last.Kg, 1e-6)
}

func TestRemediesHelpTheDayTheySay(t *testing.T) {
	w := newWorld(t)
	aft, err := w.Fleet.AddPost(
		ctx,
		w.owner,
		uuid.Nil,
		w.boat,
		fleet.PostInput{Name: "stern", At: model.Vec{0.1, 0.5, 0.3}},
	)
	require.NoError(t, err)
	id := w.trip("cod run", 1, 1, 3)
	w.partyOf(id, &aft)
	plan := model.DayPlan{At: 360, Phases: []model.DayPhase{phase("fish", 2)}}
	v, err := w.Days.Try(ctx, w.owner, id, plan)
	require.NoError(t, err)
	assert.False(t, reading(t, v, "heel").Kept, "both stand at the port side of the stern")
	assert.Equal(t, "not_ready", v.Answer.Ready)
	assert.Contains(t, reading(t, v, "heel").Because[0], "at stern")
	r, err := w.Days.Remedies(ctx, w.owner, id, plan)
	require.NoError(t, err)
	require.NotEmpty(t, r.List)
	for _, one := range r.List {
		if one.Plan == nil {
			continue
		}
		with, err := w.Days.Try(ctx, w.owner, id, *one.Plan)
		require.NoError(t, err)
		better := reading(t, with, one.For)
		assert.NotEqual(t, reading(t, v, one.For).Sentence, better.Sentence, one.Say)
		assert.Equal(t, one.Holds, with.Answer.Ready != "not_ready", one.Say)
	}
}

func TestADayThatCannotBeIsRefusedAndNothingKept(t *testing.T) {
	w := newWorld(t)
	id := w.trip("cod run", 1, 1, 3)
	lat := 91.0
	for name, plan := range map[string]model.DayPlan{
		"plan.phases":            {},
		"plan.phases[0].kind":    {Phases: []model.DayPhase{phase("picnic", 1)}},
		"plan.phases[0].h":       {Phases: []model.DayPhase{phase("fish", -1)}},
		"plan.fixed":             {Phases: []model.DayPhase{phase("fish", 1)}, Fixed: 3},
		"plan.lat":               {Phases: []model.DayPhase{phase("fish", 1)}, Lat: &lat, Lon: &lat},
		"plan.coolers[0].ua_w_k": {Phases: []model.DayPhase{phase("fish", 1)}, Coolers: []model.DayCooler{{UA: -1}}},
	} {
		_, err := w.Days.Save(ctx, w.owner, store.NewID(), id, 1, plan)
		refusal := kindOf(t, err)
		assert.Equal(t, refuse.Invalid, refusal.Kind, name)
		assert.Contains(t, refusal.Faults[0].Field, name)
	}
	v, err := w.Days.Day(ctx, w.owner, id)
	require.NoError(t, err)
	assert.False(t, v.Saved)
	_, err = w.Trips.SaveParty(ctx, w.owner, store.NewID(), id, 1, []model.TripPerson{
		{ID: store.NewID(), Name: "a", Kg: 80, Role: "skipper"}, {ID: store.NewID(), Name: "b", Kg: 1, Role: "skipper"}})
	refusal := kindOf(t, err)
	assert.Len(t, refusal.Faults, 2, "one is too light, and there is one skipper")
	other := store.NewID()
	_, err = w.Trips.SaveParty(ctx, w.owner, store.NewID(), id, 1, []model.TripPerson{
		{ID: store.NewID(), Name: "a", Kg: 80, Role: "crew", Sits: &other}})
	assert.Contains(t, kindOf(t, err).Faults[0].Want, "a post of the trip's boat")
}
