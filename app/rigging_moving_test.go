package app_test

import (
	"testing"

	"ergasia/app/refuse"
	"ergasia/app/rigging"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// unit is a sonar unit that docks on a foot; base takes such a foot.
func unit(name string) rigging.FittingInput {
	in := cleat(name)
	in.Kind, in.Unit, in.Dock, in.Kg = "display", true, "ball, 38 mm", 4
	in.Moving = model.FittingMoving{Minutes: 3, Tools: "none", Thief: true}
	return in
}

func base(name string, x float64) rigging.FittingInput {
	in := cleat(name)
	in.Kind, in.Dock, in.Lies.At[0] = "other", "Ball, 38 mm", x
	return in
}

func TestAUnitIsInOneBaseAtATimeOnWhicheverBoat(t *testing.T) {
	w := newWorld(t)
	ids := w.mount(base("aft base", 0.5), base("fore base", 4), unit("sonar"), cleat("plain cleat"))
	version := func() int {
		for _, f := range append(w.rigging().Fittings, w.rigging().Off...) {
			if f.ID == ids[2] {
				return f.Version
			}
		}
		return 0
	}
	dock := func(boat uuid.UUID, id uuid.UUID, base *uuid.UUID, on bool) error {
		return w.Rigging.Dock(ctx, w.hand, store.NewID(), boat, id, version(), base, on)
	}
	require.NoError(t, dock(w.boat, ids[2], &ids[0], true))
	at := func() rigging.FittingView {
		for _, f := range w.rigging().Fittings {
			if f.ID == ids[2] {
				return f
			}
		}
		return rigging.FittingView{}
	}
	assert.InDelta(t, 0.5, at().Lies.At[0], 1e-9, "it stands where its base does")
	aft := w.state().Now.Attitude.TrimDeg
	require.NoError(t, dock(w.boat, ids[2], &ids[1], true))
	assert.Less(t, w.state().Now.Attitude.TrimDeg, aft, "4 kg went forward")
	assert.Contains(t, kindOf(t, dock(w.boat, ids[2], &ids[3], true)).Sentence, "does not dock there")
	assert.Equal(
		t,
		refuse.Refused,
		kindOf(t, w.Rigging.Remove(ctx, w.owner, w.boat, ids[1])).Kind,
		"a base with a unit in it stays",
	)

	in := boatInput()
	in.Name = "Sister"
	sister, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
	require.NoError(t, err)
	theirs, err := w.Rigging.Mount(
		ctx,
		w.owner,
		store.NewID(),
		sister,
		[]rigging.FittingInput{base("base", 2), unit("second sonar")},
	)
	require.NoError(t, err)
	require.NoError(t, dock(sister, ids[2], &theirs[0], true))
	assert.Zero(t, at().ID, "it left the first boat")
	assert.Equal(t, "Sister", w.rigging().Off[0].Boat)
	err = w.Rigging.Dock(ctx, w.hand, store.NewID(), sister, theirs[1], 1, &theirs[0], true)
	assert.Contains(t, kindOf(t, err).Sentence, "sonar is in base")
	assert.Equal(
		t,
		refuse.Conflict,
		kindOf(t, w.Rigging.Dock(ctx, w.hand, store.NewID(), sister, ids[2], 1, nil, false)).Kind,
	)
}

func TestASetIsPutOnAndTakenOffAsOne(t *testing.T) {
	w := newWorld(t)
	ids := w.mount(base("aft base", 0.5), unit("sonar"), cleat("lake thing"), cleat("sea thing"), cleat("stays"))
	set := func(name string, lines ...model.RigLine) uuid.UUID {
		id, err := w.Rigging.SaveSet(
			ctx,
			w.owner,
			store.NewID(),
			w.boat,
			uuid.Nil,
			0,
			rigging.SetInput{Name: name, Lines: lines},
		)
		require.NoError(t, err)
		return id
	}
	lake := set("lake", model.RigLine{FittingID: ids[2]}, model.RigLine{FittingID: ids[1], BaseID: &ids[0]})
	set("sea", model.RigLine{FittingID: ids[3]})
	names := func() (on []string) {
		for _, f := range w.rigging().Fittings {
			on = append(on, f.Name)
		}
		return on
	}
	todo := w.rigging().Sets[0]
	assert.Equal(t, "lake", todo.Name)
	assert.Len(t, todo.Steps, 2, "the sea thing off, the sonar docked")
	assert.InDelta(t, 25+3, todo.Minutes, 1e-9)
	require.NoError(t, w.Rigging.PutOn(ctx, w.hand, store.NewID(), w.boat, lake))
	assert.Equal(t, []string{"aft base", "lake thing", "sonar", "stays"}, names())
	assert.True(t, w.rigging().Sets[0].On)
	last, err := w.Undoing.Last(ctx, w.hand)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.hand, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	assert.Contains(t, names(), "sea thing", "one stroke back")
	require.NoError(t, w.Rigging.PutOn(ctx, w.hand, store.NewID(), w.boat, lake))
	assert.Len(t, w.rigging().Left.Steps, 1, "the sonar is what thieves like")
	require.NoError(t, w.Rigging.Leave(ctx, w.hand, store.NewID(), w.boat))
	assert.NotContains(t, names(), "sonar")
	_, err = w.Rigging.SaveSet(ctx, w.owner, store.NewID(), w.boat, uuid.Nil, 0, rigging.SetInput{Name: "twice",
		Lines: []model.RigLine{{FittingID: ids[2]}, {FittingID: ids[2]}}})
	assert.Contains(t, kindOf(t, err).Sentence, "twice")
	require.NoError(t, w.Rigging.RemoveSet(ctx, w.owner, w.boat, lake))
	assert.Len(t, w.rigging().Sets, 1)
}

// A base is on before a unit docks in it, and does not come off with a unit in it.
func TestABaseAndItsUnitGoOnAndOffInAnOrderThatCanBeDone(t *testing.T) {
	w := newWorld(t)
	last := base("the base", 0.5) // by name it comes after its unit
	last.Moving.Thief = true
	ids := w.mount(last, unit("sonar"), cleat("sea thing"))
	set := func(name string, lines ...model.RigLine) uuid.UUID {
		id, err := w.Rigging.SaveSet(ctx, w.owner, store.NewID(), w.boat, uuid.Nil, 0,
			rigging.SetInput{Name: name, Lines: lines})
		require.NoError(t, err)
		return id
	}
	lake := set("lake", model.RigLine{FittingID: ids[0]}, model.RigLine{FittingID: ids[1], BaseID: &ids[0]})
	sea := set("sea", model.RigLine{FittingID: ids[2]})
	putOn := func(id uuid.UUID) { require.NoError(t, w.Rigging.PutOn(ctx, w.hand, store.NewID(), w.boat, id)) }
	putOn(sea)
	assert.Len(t, w.rigging().Fittings, 1, "base and unit are off")
	putOn(lake)
	assert.Len(t, w.rigging().Fittings, 2)
	versionOf := func(id uuid.UUID) int {
		for _, f := range w.rigging().Fittings {
			if f.ID == id {
				return f.Version
			}
		}
		return 0
	}
	err := w.Rigging.Dock(ctx, w.hand, store.NewID(), w.boat, ids[0], versionOf(ids[0]), nil, false)
	assert.Contains(t, kindOf(t, err).Sentence, "sonar is docked in the base: take it out first.")
	require.NoError(t, w.Rigging.Leave(ctx, w.hand, store.NewID(), w.boat))
	assert.Empty(t, w.rigging().Fittings)
}
