package demo

import (
	"context"
	"slices"
	"strings"
	"testing"

	"ergasia/app"
	"ergasia/app/crew"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/shed"
	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheDemoLoadsOnceAndWhole(t *testing.T) {
	ctx := context.Background()
	a := app.New(storetest.New(t))
	ours, err := Load(ctx, a)
	require.NoError(t, err)
	again, err := Load(ctx, a)
	require.NoError(t, err)
	assert.Equal(t, ours, again)

	members, err := a.Crew.Members(ctx, kernel.Actor{Crew: ours})
	require.NoError(t, err)
	assert.Len(t, members, 5)
	var ilse crew.MemberView
	for _, m := range members {
		if m.Name == "Ilse" {
			ilse = m
		}
	}
	session, err := a.Crew.SignInAs(ctx, ours, ilse.ID)
	require.NoError(t, err)
	crews, err := a.Crew.Memberships(ctx, session.User)
	require.NoError(t, err)
	bench, err := a.Stowing.Bench(ctx, kernel.Actor{Crew: ours, User: session.User, Member: ilse.ID}, crews[0].Boats[0].ID)
	require.NoError(t, err)

	assert.Len(t, bench.Gear, 68, "sixty aboard or on the quay, four in the grab bag, and what two people carry")
	assert.Len(t, bench.Places, 19)
	for _, p := range bench.Places {
		assert.Zero(t, p.LeavesBy, "%s %s", p.Name, p.Leaves)
	}
	quay := 0
	for _, s := range bench.State.Stowage {
		if s.Kind == "quay" {
			quay++
		} else if s.PlaceID != nil && s.Inside == nil {
			assert.NotEmpty(t, s.Laid, "a thing aboard lies somewhere")
		}
	}
	assert.Equal(t, 12, quay)
	now := bench.State.Now
	assert.Equal(t, 2, now.Persons)
	assert.EqualValues(t, "afloat", now.Status)
	assert.Less(t, now.PlateKg, bench.Plate.MaxKg)
	assert.Greater(t, now.Attitude.TrimDeg, bench.Limits.TrimHigh.Value, "the demo starts stern-down on purpose")
	assert.Greater(t, now.Attitude.Lowest.M, bench.Limits.Freeboard.Value)
	kept, err := a.Stowing.Arrangements(ctx, kernel.Actor{Crew: ours}, bench.ID)
	require.NoError(t, err)
	require.Len(t, kept, 2)
	assert.Equal(t, kept[0].Things, kept[0].Lie, "she lies as it was kept")
	t.Logf("%+v %+v", now, *now.Attitude)
}

func TestTheDemoHasASeasonAndThingsWrongOnPurpose(t *testing.T) {
	ctx := context.Background()
	a, ours := loaded(t)
	actor := kernel.Actor{Crew: ours}
	sum, err := a.Gear.Summary(ctx, actor)
	require.NoError(t, err)
	assert.InDelta(t, 225, sum.Entries, 10)
	assert.Equal(t, 2, sum.Kinds["lent"])
	trips, err := a.Trips.Trips(ctx, actor)
	require.NoError(t, err)
	for _, trip := range trips {
		if strings.HasPrefix(trip.Name, "cod run") {
			v, err := a.Fuel.Fuel(ctx, actor, trip.ID)
			require.NoError(t, err)
			require.NotNil(t, v.Answer, "%v", v.Lacks)
			assert.False(t, v.Answer.Fits, "it is short of fuel, on purpose: %s", v.Answer.Headline)
			assert.Less(t, v.Answer.Short, 10.0)
			assert.Greater(t, v.Learned.Trips, 5)
		}
	}
	lists, err := a.Kits.Kits(ctx, actor)
	require.NoError(t, err)
	assert.Len(t, lists, 14)
	assert.True(t, slices.ContainsFunc(lists, func(k kits.KitView) bool { return k.Missing == 0 }),
		"some kits are at hand")
	assert.True(t, slices.ContainsFunc(lists, func(k kits.KitView) bool { return k.Missing > 0 }), "some are not")
	trips, err = a.Trips.Trips(ctx, actor)
	require.NoError(t, err)
	ahead := 0
	for _, trip := range trips {
		require.NotNil(t, trip.BoatID)
		if !trip.Logged {
			ahead++
		}
	}
	assert.Equal(t, 3, ahead)
	assert.Greater(t, len(trips), 15)
	due, err := a.Due.Due(ctx, actor)
	require.NoError(t, err)
	when := map[string]string{}
	for _, r := range due.Rows {
		when[r.Name+", "+r.What] = r.When
	}
	assert.Equal(t, "now", when["flares, old box, out of date"])
	assert.Equal(t, "after", when["flares, sealed box, goes out of date"], "after the tournament, before the cod run")
	assert.Equal(t, "now", when["cod rod 2.1 m, retie the knots"])
	assert.NotEmpty(t, due.Restock)
	shelves, err := a.Shed.Shed(ctx, actor)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(shelves, func(s shed.ShedView) bool { return s.MaxKg > 0 && s.Kg > s.MaxKg }),
		"a shelf is overloaded")
	for _, s := range shelves {
		assert.Positive(t, s.Pieces, s.Name)
	}
}

// loaded is a copy of a demonstration that was loaded once, and its crew.
func loaded(t testing.TB) (*app.App, uuid.UUID) {
	address := storetest.Like(t, "demo_in_memory", func(address string) {
		ctx := context.Background()
		require.NoError(t, store.Migrate(ctx, address))
		db, err := store.Open(ctx, address, 4)
		require.NoError(t, err)
		defer func() { require.NoError(t, db.Close()) }()
		_, err = Load(ctx, app.New(db))
		require.NoError(t, err)
	})
	db, err := store.Open(t.Context(), address, 8)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	a := app.New(db)
	crew, err := Load(t.Context(), a) // it is there: this finds it
	require.NoError(t, err)
	return a, crew
}
