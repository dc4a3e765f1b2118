package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The diary has all moves of a boat, newest first, with who made them, page by page.
func TestTheDiaryTellsAllMovesAndWhoMadeThem(t *testing.T) {
	w := newWorld(t)
	net := w.make("net", 1, small)
	for range 60 {
		require.NoError(t, second(w.to(net.ID, aboard.MoveInput{PlaceID: &w.locker})))
		_, err := w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
		require.NoError(t, err)
	}
	first, err := w.Where.Diary(ctx, w.owner, w.boat, 0)
	require.NoError(t, err)
	require.Len(t, first.Rows, 100)
	assert.Equal(t, []string{"undo", "Ilse", "undid: net → the quay"}, []string{first.Rows[0].Kind, first.Rows[0].By, first.Rows[0].What})
	assert.Equal(t, "net → stern locker", first.Rows[1].What)
	rest, err := w.Where.Diary(ctx, w.hand, w.boat, first.Next)
	require.NoError(t, err)
	assert.NotEmpty(t, rest.Rows)
	assert.Less(t, rest.Rows[0].Seq, first.Rows[99].Seq)
	assert.Zero(t, rest.Next)
}

// Guests see no body masses but their own.
func TestGuestsSeeNoBodyMasses(t *testing.T) {
	w := newWorld(t)
	guest := w.hand
	guest.Role = "guest"
	b, err := w.Stowing.Bench(ctx, guest, w.boat)
	require.NoError(t, err)
	list, err := w.Crew.Members(ctx, guest)
	require.NoError(t, err)
	for _, m := range append(b.Members, list...) {
		if m.ID == guest.Member {
			assert.Positive(t, m.Kg)
		} else {
			assert.Zero(t, m.Kg, m.Name)
		}
	}
	whole, err := w.Crew.Members(ctx, w.owner)
	require.NoError(t, err)
	for _, m := range whole {
		assert.Positive(t, m.Kg)
	}
}
