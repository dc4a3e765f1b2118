package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The places that take a piece are those that a move to would not be refused, the
// handiest first.
func TestThePlacesThatSuitAPiece(t *testing.T) {
	w := newWorld(t)
	papers := w.make("papers", 1, func(in *gear.GearInput) { small(in); in.NeedsDry = true })
	brick := w.make("brick", 30, small)
	places := func(id uuid.UUID) (list []string) {
		suits, err := w.Stowing.Suits(ctx, w.owner, w.boat, id)
		require.NoError(t, err)
		last := -1.0
		for _, s := range suits {
			if s.Seconds != nil {
				assert.GreaterOrEqual(t, *s.Seconds, last)
				last = *s.Seconds
			}
			trial, err := w.Where.Try(ctx, w.owner, w.boat, aboard.MoveInput{GearID: &id, PlaceID: &s.PlaceID, Version: 1})
			require.NoError(t, err)
			assert.Empty(t, trial.Refused)
			list = append(list, s.Name)
		}
		return list
	}
	assert.NotContains(t, places(papers.ID), "stern locker", "it gets wet")
	assert.Contains(t, places(brick.ID), "stern locker")
	assert.NotEqual(t, len(places(brick.ID)), 0)
	_, err := w.Stowing.Suits(ctx, w.owner, w.boat, store.NewID())
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}
