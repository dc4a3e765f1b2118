package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/floating"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/app/where"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What was in a place, or at a post, that was removed since: the bench, undo, redo, plans and
// the diary go on without it. Each of these was an error of ours once.
func TestWhatWasInAPlaceThatIsGoneBreaksNothing(t *testing.T) {
	w := newWorld(t)
	bench := func(what string) where.State {
		b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
		require.NoError(t, err, what)
		_, err = w.Where.Diary(ctx, w.owner, w.boat, 0)
		require.NoError(t, err, what)
		_, err = w.Where.Where(ctx, w.owner, w.cooler.ID)
		require.NoError(t, err, what)
		_, err = w.Floating.Float(ctx, w.owner, w.boat, floating.WhatIf{})
		require.NoError(t, err, what)
		return b.State
	}
	hold := func() {
		_, err := w.put(w.owner, w.cooler, &w.locker)
		require.NoError(t, err)
		_, err = w.put(w.owner, w.cooler, nil)
		require.NoError(t, err)
	}

	hold()
	require.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker))
	st := bench("a place that is gone")
	assert.Nil(t, st.Before, "how she was with it there is told no more")
	_, err := w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	assert.ErrorContains(t, err, "The place was removed")
	_, err = w.Where.Try(ctx, w.owner, w.boat, aboard.MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker, Version: 2})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	_, err = w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat, stowing.AcceptInput{Moves: []aboard.MoveInput{
		{GearID: &w.cooler.ID, PlaceID: &w.locker, Version: 2}}})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "a plan that names it")
	_, err = w.Stowing.Plan(ctx, w.owner, w.boat, stowing.PlanInput{School: "use", Quay: true,
		From: []stowing.Put{{GearID: w.cooler.ID, PlaceID: &w.locker}}})
	require.NoError(t, err, "and a plan to better that names it begins without")

	_, err = w.back()
	require.NoError(t, err)
	_, err = w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err, "the place is back")
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	require.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker))
	bench("a place that is gone, after an undo")
	_, err = w.Where.Redo(ctx, w.owner, store.NewID(), w.boat)
	assert.ErrorContains(t, err, "The place was removed")

	post, err := w.Fleet.AddPost(ctx, w.owner, store.NewID(), w.boat, fleet.PostInput{Name: "bow", At: model.Vec{3, 0, 0.3}})
	require.NoError(t, err)
	boards := aboard.MoveInput{MemberID: &w.hand.Member, PostID: &post}
	st, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, boards)
	require.NoError(t, err)
	for _, p := range st.People {
		if p.MemberID == w.hand.Member {
			boards.Version = p.Version
		}
	}
	_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{MemberID: &w.hand.Member, Version: boards.Version})
	require.NoError(t, err)
	require.NoError(t, w.Fleet.RemovePost(ctx, w.owner, w.boat, post))
	st = bench("a post that is gone")
	assert.Nil(t, st.Before)
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.ErrorContains(t, err, "The position was removed")
}

// A box, a shelf: the same for what they held.
func TestWhatWasInABoxOrOnAShelfThatIsGoneBreaksNothing(t *testing.T) {
	w := newWorld(t)
	box := w.make("crate", 1, func(in *gear.GearInput) {
		in.Size, in.Inside = model.Vec{0.6, 0.5, 0.5}, model.Vec{0.58, 0.48, 0.48}
	})
	into := func(in aboard.MoveInput) {
		in.GearID, in.Version = &w.chartbox.ID, w.spot(w.chartbox.ID).Version
		_, err := w.Where.Move(ctx, w.owner, store.NewID(), w.boat, in)
		require.NoError(t, err)
	}
	into(aboard.MoveInput{BoxID: &box.ID})
	into(aboard.MoveInput{})
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, box.ID))
	_, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.ErrorContains(t, err, "The box was removed")

	shed := w.shelf("garage", "top")
	into(aboard.MoveInput{ShedID: &shed})
	into(aboard.MoveInput{})
	require.NoError(t, w.Shed.RemoveShed(ctx, w.owner, shed))
	_, err = w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	assert.ErrorContains(t, err, "The place ashore was removed")
}
