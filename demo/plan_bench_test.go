package demo

import (
	"context"
	"testing"

	"ergasia/app"
	"ergasia/store/storetest"

	"github.com/stretchr/testify/require"
)

// BenchmarkPlanOfTheDemo looks for a plan of what is aboard of Dunlin, and of
// that with all that is on the quay: what one press waits for.
func BenchmarkPlanOfTheDemo(b *testing.B) {
	ctx := context.Background()
	a := app.New(storetest.New(b))
	crew, err := Load(ctx, a)
	require.NoError(b, err)
	members, err := a.Members(ctx, app.Actor{Crew: crew})
	require.NoError(b, err)
	session, err := a.SignInAs(ctx, crew, members[0].ID)
	require.NoError(b, err)
	crews, err := a.Memberships(ctx, session.User)
	require.NoError(b, err)
	actor, boat := app.Actor{Crew: crew, User: session.User, Member: members[0].ID}, crews[0].Boats[0].ID
	for name, in := range map[string]app.PlanInput{"aboard": {School: "use"}, "quay": {School: "use", Quay: true}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				v, err := a.Plan(ctx, actor, boat, in)
				require.NoError(b, err)
				b.ReportMetric(v.Now.Rummage, "min-now")
				b.ReportMetric(v.Then.Rummage, "min-planned")
			}
		})
	}
}
