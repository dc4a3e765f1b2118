package demo

import (
	"context"
	"testing"

	"ergasia/app"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// dunlin gives the demo with its owner and first boat.
func dunlin(t testing.TB) (*app.App, app.Actor, uuid.UUID) {
	ctx := context.Background()
	a := app.New(storetest.New(t))
	crew, err := Load(ctx, a)
	require.NoError(t, err)
	members, err := a.Members(ctx, app.Actor{Crew: crew})
	require.NoError(t, err)
	session, err := a.SignInAs(ctx, crew, members[0].ID)
	require.NoError(t, err)
	crews, err := a.Memberships(ctx, session.User)
	require.NoError(t, err)
	return a, app.Actor{Crew: crew, User: session.User, Member: members[0].ID}, crews[0].Boats[0].ID
}

// What a plan puts aboard can be laid and is let in, also where she is full.
func TestAPlanOfAllThatIsOnTheQuayCanBeMade(t *testing.T) {
	ctx := context.Background()
	a, actor, boat := dunlin(t)
	for school := range app.Schools {
		v, err := a.Plan(ctx, actor, boat, app.PlanInput{School: school, Quay: true})
		require.NoError(t, err)
		for _, s := range v.Stowage {
			if s.PlaceID != nil {
				assert.NotEmpty(t, s.Laid, "%s: what is planned into a place lies there", school)
			}
		}
		assert.Less(t, len(v.LeftOut), 4)
	}
	v, err := a.Plan(ctx, actor, boat, app.PlanInput{School: "use", Quay: true})
	require.NoError(t, err)
	var in app.AcceptInput
	for _, m := range v.Moves {
		in.Moves = append(in.Moves, app.MoveInput{GearID: &m.GearID, PlaceID: m.PlaceID, Version: m.Version})
	}
	st, err := a.Accept(ctx, actor, uuid.Nil, boat, in)
	require.NoError(t, err)
	assert.InDelta(t, v.Then.Rummage, st.Now.Rummage, 1e-9)
}

// BenchmarkPlanOfTheDemo looks for a plan of what is aboard of Dunlin, and of
// that with all that is on the quay: what one press waits for.
func BenchmarkPlanOfTheDemo(b *testing.B) {
	a, actor, boat := dunlin(b)
	for name, in := range map[string]app.PlanInput{"aboard": {School: "use"}, "quay": {School: "use", Quay: true}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				v, err := a.Plan(context.Background(), actor, boat, in)
				require.NoError(b, err)
				b.ReportMetric(v.Now.Rummage, "min-now")
				b.ReportMetric(v.Then.Rummage, "min-planned")
			}
		})
	}
}
