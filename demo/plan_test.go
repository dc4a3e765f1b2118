package demo

import (
	"context"
	"testing"

	"ergasia/app"
	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/stowing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// dunlin gives the demo with its owner and first boat.
func dunlin(t testing.TB) (*app.App, kernel.Actor, uuid.UUID) {
	ctx := context.Background()
	a, crew := loaded(t)
	members, err := a.Crew.Members(ctx, kernel.Actor{Crew: crew})
	require.NoError(t, err)
	session, err := a.Crew.SignInAs(ctx, crew, members[0].ID)
	require.NoError(t, err)
	crews, err := a.Crew.Memberships(ctx, session.User)
	require.NoError(t, err)
	return a, kernel.Actor{Crew: crew, User: session.User, Member: members[0].ID}, crews[0].Boats[0].ID
}

// What a plan puts aboard can be laid and is let in, also where she is full.
func TestAPlanOfAllThatIsOnTheQuayCanBeMade(t *testing.T) {
	ctx := context.Background()
	a, actor, boat := dunlin(t)
	for school := range stowing.Schools {
		v, err := a.Stowing.Plan(ctx, actor, boat, stowing.PlanInput{School: school, Quay: true})
		require.NoError(t, err)
		for _, s := range v.Stowage {
			if s.PlaceID != nil {
				assert.NotEmpty(t, s.Laid, "%s: what is planned into a place lies there", school)
			}
		}
		assert.Less(t, len(v.LeftOut), 4)
	}
	v, err := a.Stowing.Plan(ctx, actor, boat, stowing.PlanInput{School: "use", Quay: true})
	require.NoError(t, err)
	var in stowing.AcceptInput
	for _, m := range v.Moves {
		in.Moves = append(in.Moves, aboard.MoveInput{GearID: &m.GearID, PlaceID: m.PlaceID, Version: m.Version})
	}
	st, err := a.Stowing.Accept(ctx, actor, uuid.Nil, boat, in)
	require.NoError(t, err)
	assert.InDelta(t, v.Then.Rummage, st.Now.Rummage, 1e-9)
}

// BenchmarkPlanOfTheDemo looks for a plan of what is aboard of Dunlin, and of
// that with all that is on the quay: what one press waits for.
func BenchmarkPlanOfTheDemo(b *testing.B) {
	a, actor, boat := dunlin(b)
	for name, in := range map[string]stowing.PlanInput{"aboard": {School: "use"}, "quay": {School: "use", Quay: true}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				v, err := a.Stowing.Plan(context.Background(), actor, boat, in)
				require.NoError(b, err)
				b.ReportMetric(v.Now.Rummage, "min-now")
				b.ReportMetric(v.Then.Rummage, "min-planned")
			}
		})
	}
}
