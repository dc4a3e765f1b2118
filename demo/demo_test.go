package demo

import (
	"context"
	"testing"

	"ergasia/app"
	"ergasia/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheDemoLoadsOnceAndWhole(t *testing.T) {
	ctx := context.Background()
	a := app.New(storetest.New(t))
	crew, err := Load(ctx, a)
	require.NoError(t, err)
	again, err := Load(ctx, a)
	require.NoError(t, err)
	assert.Equal(t, crew, again)

	members, err := a.Members(ctx, app.Actor{Crew: crew})
	require.NoError(t, err)
	assert.Len(t, members, 5)
	var ilse app.MemberView
	for _, m := range members {
		if m.Name == "Ilse" {
			ilse = m
		}
	}
	session, err := a.SignInAs(ctx, crew, ilse.ID)
	require.NoError(t, err)
	crews, err := a.Memberships(ctx, session.User)
	require.NoError(t, err)
	bench, err := a.Bench(ctx, app.Actor{Crew: crew, User: session.User, Member: ilse.ID}, crews[0].Boats[0].ID)
	require.NoError(t, err)

	assert.Len(t, bench.Gear, 60)
	assert.Len(t, bench.Places, 18)
	for _, p := range bench.Places {
		assert.Zero(t, p.LeavesBy, "%s %s", p.Name, p.Leaves)
	}
	quay := 0
	for _, s := range bench.State.Stowage {
		if s.PlaceID == nil {
			quay++
		} else {
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
	t.Logf("%+v %+v", now, *now.Attitude)
}
