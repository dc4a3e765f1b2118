package demo

import (
	"context"
	"testing"

	"ergasia/app/kernel"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// One thing is wrong with the rigging of each boat, and nothing else is in the way.
func TestOneThingIsWrongWithTheRiggingOfEachBoat(t *testing.T) {
	ctx := context.Background()
	a, ours := loaded(t)
	actor := kernel.Actor{Crew: ours}
	members, err := a.Crew.Members(ctx, actor)
	require.NoError(t, err)
	session, err := a.Crew.SignInAs(ctx, ours, members[0].ID)
	require.NoError(t, err)
	crews, err := a.Crew.Memberships(ctx, session.User)
	require.NoError(t, err)
	wrong := map[string]string{"Dunlin": "folds", "Plover": "lid", "Whimbrel": "held"}
	for _, b := range crews[0].Boats {
		r, err := a.Rigging.Rigging(ctx, actor, b.ID)
		require.NoError(t, err)
		t.Log(b.Name, len(r.Fittings), r.ListedKg, r.Ahead)
		var kinds []string
		for _, f := range r.Findings {
			t.Log("  ", f.Kind, f.Note, f.Said, f.Helps)
			if !f.Note {
				kinds = append(kinds, f.Kind)
			}
		}
		assert.Equal(t, []string{wrong[b.Name]}, kinds, b.Name)
	}
}
