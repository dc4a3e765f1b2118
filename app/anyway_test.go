package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A crew must be able to note what is: an oar that juts out of its locker lies there.
func TestWhatARuleForbidsIsNotedAllTheSameAndMarked(t *testing.T) {
	w, jigs, _, fore := muddled(t)
	oar := w.make("oar", 3, func(in *gear.GearInput) { in.Size = model.Vec{2.4, 0.2, 0.1} })
	into := aboard.MoveInput{GearID: &oar.ID, PlaceID: &fore, Version: w.stowed(oar).Version}
	trial, err := w.Where.Try(ctx, w.owner, w.boat, into)
	require.NoError(t, err)
	assert.NotEmpty(t, trial.Refused)
	assert.True(t, trial.Anyway)
	assert.Nil(t, trial.Then)
	_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, into)
	assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)

	into.Anyway = true
	trial, err = w.Where.Try(ctx, w.owner, w.boat, into)
	require.NoError(t, err)
	require.NotNil(t, trial.Then, "she is worked out with it there")
	kg := w.state().Now.PlateKg
	st, err := w.Where.Move(ctx, w.owner, store.NewID(), w.boat, into)
	require.NoError(t, err)
	assert.InDelta(t, kg+3, st.Now.PlateKg, 1e-9)
	assert.Equal(t, trial.Refused, w.stowed(oar).Against, "marked with the reasons")
	assert.Equal(t, "oar → fore locker, where a rule says no", st.Last.What)
	assert.Empty(t, w.stowed(jigs).Against)
	_, err = w.put(w.owner, jigs, &fore)
	require.ErrorContains(t, err, "room", "nothing else is let in without a note of its own")

	_, err = w.put(w.owner, oar, nil)
	require.NoError(t, err)
	assert.Empty(t, w.stowed(oar).Against)
	for _, against := range []bool{true, false, true} { // the note goes back and forth with the move
		turn := w.Where.Undo
		if !against {
			turn = w.Where.Redo
		}
		_, err = turn(ctx, w.owner, store.NewID(), w.boat)
		require.NoError(t, err)
		assert.Equal(t, against, len(w.stowed(oar).Against) > 0)
	}

	away, err := w.to(oar.ID, aboard.MoveInput{})
	require.NoError(t, err)
	back, err := w.putGear(w.owner, store.NewID(), oar.ID, away.Back)
	require.NoError(t, err, "what takes it back is noted as it was")
	assert.Equal(t, trial.Refused, back.Said)
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, oar.ID))
	_, err = w.back()
	require.NoError(t, err)
	assert.Equal(t, trial.Refused, w.stowed(oar).Against, "also where it was removed and taken back")

	other := w.make("landing net", 1, often(3, "helm"))
	_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &other.ID, PlaceID: &fore,
		Anyway: true, Version: w.stowed(other).Version})
	require.NoError(t, err)
	assert.NotEmpty(t, w.stowed(other).Laid, "the rest is still laid out")
	w.planned(stowing.PlanInput{})
	_, err = w.Gear.SaveGear(ctx, w.owner, store.NewID(), oar.ID, oar.Version, gearInput("oar", 3))
	require.NoError(t, err)
	assert.Empty(t, w.stowed(oar).Against, "it was measured anew, and fits")
}

func TestWhatCantBeIsNotNoted(t *testing.T) {
	w := newWorld(t)
	box := w.make("box", 2, asBox)
	g := w.make("hooks", 1, small)
	for _, in := range []aboard.MoveInput{{BoxID: &box.ID}, {BoxID: &g.ID}} {
		in.GearID, in.Anyway, in.Version = &box.ID, true, w.stowed(box).Version
		trial, err := w.Where.Try(ctx, w.owner, w.boat, in)
		require.NoError(t, err)
		assert.False(t, trial.Anyway)
		_, err = w.Where.MoveGear(ctx, w.owner, store.NewID(), in)
		assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)
	}
	w.make("float plan", 1, small)
	_, err := w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &g.ID, PlaceID: &w.locker,
		Anyway: true, Lay: &aboard.LayInput{}, Version: w.stowed(g).Version})
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)

	heavy := w.make("ballast", 500, small)
	moved, err := w.Where.MoveGear(ctx, w.owner, store.NewID(), aboard.MoveInput{GearID: &heavy.ID, BoxID: &box.ID,
		Anyway: true, Version: w.stowed(heavy).Version})
	require.NoError(t, err)
	assert.Empty(t, moved.Said, "a box without a limit takes it")
}

func TestWhateverIsNotedInWhicheverPlaceSheIsStillWorkedOut(t *testing.T) {
	w := newWorld(t)
	things := []gear.GearView{
		w.make("case", 4, func(in *gear.GearInput) { in.Size = model.Vec{0.5, 0.4, 0.3} }),
		w.make("sinkers", 0.1, func(in *gear.GearInput) { in.Size, in.Count = model.Vec{0.02, 0.02, 0.02}, 90 }),
		w.make("boathook", 1, func(in *gear.GearInput) {
			in.Size, in.Shape, in.Guide, in.Turn = model.Vec{2.4, 0.08, 0.07}, "rod", 0.03, "none"
		}),
		w.make("cloth", 1, func(in *gear.GearInput) { in.Size, in.Shape = model.Vec{0.5, 0.5, 0.4}, "soft" }),
	}
	for i, form := range []string{"box", "bed", "tubes", "upright"} {
		in := fleet.PlaceInput{Name: form + " place", Corner: model.Vec{2 + 0.2*float64(i), -0.2, 0.4},
			Size: model.Vec{0.15, 0.15, 0.15}, Form: form, Dryness: "wet"}
		switch form {
		case "tubes":
			in.Slots, in.Diameter = 2, 0.05
		case "upright":
			in.Slots = 2
		}
		place, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, in)
		require.NoError(t, err, form)
		for _, g := range things {
			_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &g.ID, PlaceID: &place,
				Anyway: true, Version: w.stowed(g).Version})
			require.NoError(t, err, "%s in the %s", g.Name, form)
		}
		assert.NotEmpty(t, w.stowed(things[0]).Against, form)
		w.planned(stowing.PlanInput{})
	}
}
