package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// back takes the owner's last stroke back.
func (w *world) back() ([]string, error) {
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(w.t, err)
	require.NotNil(w.t, last.Undoable)
	done, err := w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	return done.Said, err
}

func TestGearThatWasRemovedComesBackWithAllOfIt(t *testing.T) {
	w := newWorld(t)
	box := w.make("pilk box", 1, asBox)
	pilk := w.make("pilk", 0.1, small)
	spare := w.make("spare lid", 0.1, func(in *gear.GearInput) { small(in); in.SparesFor = &box.ID })
	require.NoError(t, second(w.to(box.ID, aboard.MoveInput{PlaceID: &w.locker})))
	require.NoError(t, second(w.to(pilk.ID, aboard.MoveInput{BoxID: &box.ID})))
	require.NoError(t, w.Gear.AddNote(ctx, w.owner, store.NewID(), box.ID, gear.NoteInput{Kind: "note", Text: "cracked hinge"}))
	before, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)

	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, box.ID))
	assert.Equal(t, "Test boat, stern locker", w.spot(pilk.ID).Text)
	said, err := w.back()
	require.NoError(t, err)
	assert.Empty(t, said)
	after, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after))
	g, err := w.Gear.GearOne(ctx, w.owner, box.ID)
	require.NoError(t, err)
	assert.Contains(t, g.Notes[0].Text, "cracked hinge")
	hits, err := w.Gear.Find(ctx, w.owner, "pilk box")
	require.NoError(t, err)
	assert.Equal(t, box.ID, hits[0].ID)
	s, err := w.Gear.GearOne(ctx, w.owner, spare.ID)
	require.NoError(t, err)
	assert.Equal(t, &box.ID, s.SparesFor)

	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), uuid.New())
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	assert.Nil(t, last.Undoable, "it is taken back once")
}

func TestWhatDoesNotGoBackWhereItWasIsOnTheQuay(t *testing.T) {
	w := newWorld(t)
	brick := w.make("brick", 25, small)
	require.NoError(t, second(w.to(brick.ID, aboard.MoveInput{PlaceID: &w.locker})))
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, brick.ID))
	other := w.make("other brick", 40, small) // the locker carries 60 kg
	require.NoError(t, second(w.to(other.ID, aboard.MoveInput{PlaceID: &w.locker})))
	said, err := w.back()
	require.NoError(t, err)
	require.Len(t, said, 1)
	assert.Contains(t, said[0], "brick is back, on the quay")
	assert.Equal(t, "the quay", w.spot(brick.ID).Text)
}

func TestOnlyWhoDidItTakesItBackAndWhileTheyMay(t *testing.T) {
	w := newWorld(t)
	net := w.make("net", 1, small)
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, net.ID))
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.hand, store.NewID(), last.Undoable.ID)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	lesser := w.owner
	lesser.Role = kernel.Guest
	_, err = w.Undoing.Undo(ctx, lesser, store.NewID(), last.Undoable.ID)
	assert.Equal(t, refuse.Forbidden, kindOf(t, err).Kind)
}

func TestLayoutsPlacesAndKitsAreTakenBack(t *testing.T) {
	w := newWorld(t)
	bench := func() stowing.Bench {
		b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
		require.NoError(t, err)
		return b
	}
	before := bench()
	require.NoError(t, w.Fleet.LayOut(ctx, w.owner, store.NewID(), w.boat, "skiff"))
	_, err := w.back()
	require.NoError(t, err)
	assert.Equal(t, len(before.Places), len(bench().Places))
	assert.Equal(t, len(before.Posts), len(bench().Posts))

	require.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.tray))
	_, err = w.Fleet.SavePlace(ctx, w.owner, store.NewID(), w.boat, uuid.Nil, 0, placeCalled(before, w.tray))
	require.NoError(t, err)
	_, err = w.back()
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind, "its name is taken by now")

	kit, err := w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kits.KitInput{Name: "pike", Sort: "technique",
		Lines: []model.KitLine{{What: "tray", Amount: 1, Per: "boat", Choices: []model.KitChoice{{Tag: "tray"}}}}})
	require.NoError(t, err)
	require.NoError(t, w.Kits.RemoveKit(ctx, w.owner, kit))
	_, err = w.back()
	require.NoError(t, err)
	list, err := w.Kits.Kits(ctx, w.owner)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

func placeCalled(b stowing.Bench, id uuid.UUID) fleet.PlaceInput {
	for _, p := range b.Places {
		if p.ID == id {
			return p.PlaceInput
		}
	}
	return fleet.PlaceInput{}
}

func TestATableIsTakenBackUnlessItWasUsedSince(t *testing.T) {
	w := newWorld(t)
	before, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)
	text := "id,name,count,length_cm,breadth_cm,height_cm,kg\n,new one,1,10,10,10,1\n" + w.cooler.ID.String() + ",chest,1,40,30,30,12\n"
	bring := func() {
		_, err := w.Gear.Import(ctx, w.owner, store.NewID(), []byte(text), nil, true)
		require.NoError(t, err)
	}
	bring()
	_, err = w.back()
	require.NoError(t, err)
	after, err := w.Gear.Export(ctx, w.owner)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after))
	bring()
	hits, err := w.Gear.Find(ctx, w.owner, "new one")
	require.NoError(t, err)
	require.NoError(t, second(w.to(hits[0].ID, aboard.MoveInput{PlaceID: &w.locker})))
	_, err = w.back()
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
}

// All moves of a plan are one step of undo, and of redo.
func TestAPlanThatWasTakenOverIsTakenBackAsOne(t *testing.T) {
	w := newWorld(t)
	var moves []aboard.MoveInput
	var ids []uuid.UUID
	for _, name := range []string{"a", "b", "c"} {
		g := w.make("net "+name, 1, small)
		ids = append(ids, g.ID)
		moves = append(moves, aboard.MoveInput{GearID: &ids[len(ids)-1], PlaceID: &w.locker, Version: w.stowed(g).Version})
	}
	_, err := w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat, stowing.AcceptInput{Moves: moves})
	require.NoError(t, err)
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	for _, id := range ids {
		assert.Equal(t, "the quay", w.spot(id).Text)
	}
	_, err = w.Where.Redo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	for _, id := range ids {
		assert.Equal(t, "Test boat, stern locker", w.spot(id).Text)
	}
}
