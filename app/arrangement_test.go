package app_test

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/app/trips"
	"ergasia/app/where"
	"ergasia/store"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// kept keeps how the boat lies now.
func (w *world) kept(name string, only ...uuid.UUID) uuid.UUID {
	id, err := w.Stowing.SaveArrangement(ctx, w.owner, store.NewID(), w.boat, stowing.ArrangementInput{Name: name, Gear: only})
	require.NoError(w.t, err)
	return id
}

func (w *world) wayBack(id uuid.UUID, in stowing.Back) stowing.WayBack {
	way, err := w.Stowing.WayBack(ctx, w.owner, w.boat, id, in)
	require.NoError(w.t, err)
	return way
}

// follow makes the moves of a way back.
func (w *world) follow(way stowing.WayBack) where.State {
	var in stowing.AcceptInput
	for _, m := range way.Moves {
		in.Moves = append(in.Moves, aboard.MoveInput{GearID: &m.GearID, PlaceID: m.PlaceID, BoxID: m.BoxID, ShedID: m.ShedID,
			Anyway: m.Anyway, Version: m.Version})
	}
	st, err := w.Stowing.Accept(ctx, w.owner, store.NewID(), w.boat, in)
	require.NoError(w.t, err)
	return st
}

func (w *world) lies(id uuid.UUID) stowing.ArrangementView {
	list, err := w.Stowing.Arrangements(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	for _, v := range list {
		if v.ID == id {
			return v
		}
	}
	w.t.Fatal("it is not listed")
	return stowing.ArrangementView{}
}

func TestAnArrangementIsComeBackTo(t *testing.T) {
	w := newWorld(t)
	box := w.make("pilk box", 1, asBox)
	pilk, net, rope := w.make("pilk", 0.1, small), w.make("net", 0.2, small), w.make("rope", 0.3, small)
	for _, g := range []gear.GearView{box, net} {
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.locker})))
	}
	require.NoError(t, second(w.to(pilk.ID, aboard.MoveInput{BoxID: &box.ID})))
	id := w.kept("pike, two aboard")
	v := w.lies(id)
	assert.Equal(t, 3, v.Things)
	assert.Equal(t, 3, v.Lie)
	assert.True(t, v.Whole)
	assert.Empty(t, w.wayBack(id, stowing.Back{Rest: true}).Moves, "she lies so")

	for _, g := range []gear.GearView{box, net, pilk} { // the box comes ashore, and the pilk out of it
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{})))
	}
	require.NoError(t, second(w.to(rope.ID, aboard.MoveInput{PlaceID: &w.locker})))
	v = w.lies(id)
	assert.Zero(t, v.Lie)
	assert.Equal(t, []stowing.Spread{{Where: "the quay", Count: 3}}, v.Astray)

	way := w.wayBack(id, stowing.Back{Rest: true})
	assert.Empty(t, way.LeftOut)
	require.Len(t, way.Moves, 4)
	assert.Equal(t, &box.ID, way.Moves[3].BoxID, "what goes into a box goes last")
	w.follow(way)
	assert.Equal(t, "the quay", w.spot(rope.ID).Text, "the arrangement does not name it")
	assert.Equal(t, "Test boat, stern locker, in pilk box", w.spot(pilk.ID).Text)
	assert.Equal(t, 3, w.lies(id).Lie)

	_, err := w.Where.Undo(ctx, w.owner, store.NewID(), w.boat) // all of it as one
	require.NoError(t, err)
	assert.Equal(t, "Test boat, stern locker", w.spot(rope.ID).Text)
	assert.Equal(t, "the quay", w.spot(pilk.ID).Text)
	assert.Equal(t, "the quay", w.spot(box.ID).Text)
}

func TestWhatCannotComeBackIsSaidAndTheRestComes(t *testing.T) {
	w := newWorld(t)
	lent, gone, stays := w.make("scale", 0.1, small), w.make("lamp", 0.1, small), w.make("net", 0.1, small)
	for _, g := range []gear.GearView{lent, gone, stays} {
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.locker})))
	}
	id := w.kept("all")
	require.NoError(t, second(w.to(stays.ID, aboard.MoveInput{})))
	require.NoError(t, w.Gear.RemoveGear(ctx, w.owner, gone.ID))
	require.NoError(t, w.Trips.Loan(ctx, w.owner, store.NewID(), lent.ID, trips.LoanInput{Way: "lent", Whom: "Bo"}))
	way := w.wayBack(id, stowing.Back{})
	require.Len(t, way.LeftOut, 2)
	said := way.LeftOut[0].Why + way.LeftOut[1].Why
	assert.Contains(t, said, "lamp is not in the list of gear any more.")
	assert.Contains(t, said, "scale is lent to ")
	require.Len(t, way.Moves, 1)
	w.follow(way)
	assert.Equal(t, "Test boat, stern locker", w.spot(stays.ID).Text)
}

func TestWhatWasMeasuredAnewMayNotFitAgain(t *testing.T) {
	w := newWorld(t)
	g := w.make("net", 0.1, small)
	require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.locker})))
	id := w.kept("all")
	require.NoError(t, second(w.to(g.ID, aboard.MoveInput{})))
	in := gearInput("net", 0.1)
	in.Size[0] = 3
	_, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), g.ID, g.Version, in)
	require.NoError(t, err)
	way := w.wayBack(id, stowing.Back{})
	assert.Empty(t, way.Moves)
	require.Len(t, way.LeftOut, 1)
	assert.Contains(t, way.LeftOut[0].Why, "stern locker is")
}

// The things of a season go to a shelf as one, and come back to where each lay.
func TestASeasonGoesToAShelfAndBack(t *testing.T) {
	w := newWorld(t)
	auger, sled, net := w.make("auger", 0.3, small), w.make("sled box", 0.3, asBox), w.make("net", 0.1, small)
	pick := w.make("pick", 0.1, small)
	for _, g := range []gear.GearView{auger, sled, net} {
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.locker})))
	}
	require.NoError(t, second(w.to(pick.ID, aboard.MoveInput{BoxID: &sled.ID})))
	shelf := w.shelf("Boathouse", "shelf 2")
	alone := w.kept("the pick alone", pick.ID) // its box stays
	w.follow(w.wayBack(alone, stowing.Back{Off: true, Shed: &shelf}))
	assert.Equal(t, "Boathouse, shelf 2", w.spot(pick.ID).Text)
	w.follow(w.wayBack(alone, stowing.Back{}))
	assert.Equal(t, "Test boat, stern locker, in sled box", w.spot(pick.ID).Text)
	id := w.kept("ice", auger.ID, sled.ID, pick.ID)
	assert.False(t, w.lies(id).Whole)
	w.follow(w.wayBack(id, stowing.Back{Off: true, Shed: &shelf}))
	assert.Equal(t, []stowing.Spread{{Where: "Boathouse, shelf 2", Count: 3}}, w.lies(id).Astray)
	assert.Equal(t, "Test boat, stern locker", w.spot(net.ID).Text)
	assert.Equal(t, "Boathouse, shelf 2, in sled box", w.spot(pick.ID).Text)
	w.follow(w.wayBack(id, stowing.Back{}))
	assert.Equal(t, "Test boat, stern locker", w.spot(auger.ID).Text)
	assert.Equal(t, 3, w.lies(id).Lie)
}

func TestManyAreMovedAtOnceAndTakenBackAsOne(t *testing.T) {
	w := newWorld(t)
	box := w.make("pilk box", 1, asBox)
	pilk, net, rope := w.make("pilk", 0.1, small), w.make("net", 0.1, small), w.make("rope", 0.1, small)
	require.NoError(t, second(w.to(pilk.ID, aboard.MoveInput{BoxID: &box.ID})))
	for _, g := range []gear.GearView{box, net} {
		require.NoError(t, second(w.to(g.ID, aboard.MoveInput{PlaceID: &w.locker})))
	}
	shelf := w.shelf("Boathouse", "shelf 2")
	in := where.ManyInput{ShedID: &shelf}
	for _, g := range []gear.GearView{pilk, box, net, rope} {
		in.Gear = append(in.Gear, where.Seen{GearID: g.ID, Version: w.spot(g.ID).Version})
	}
	key := store.NewID()
	done, err := w.Where.MoveMany(ctx, w.owner, key, in)
	require.NoError(t, err)
	assert.Equal(t, 3, done.Moved, "the pilk goes with its box")
	assert.Equal(t, "Boathouse, shelf 2, in pilk box", w.spot(pilk.ID).Text)
	_, err = w.Where.MoveMany(ctx, w.owner, key, in)
	require.NoError(t, err, "a repeated write changes nothing")

	require.NoError(t, second(w.to(rope.ID, aboard.MoveInput{PlaceID: &w.locker})))
	said, err := w.back()
	require.NoError(t, err)
	assert.Equal(t, []string{"rope was moved on since: it stays where it is."}, said)
	assert.Equal(t, "Test boat, stern locker", w.spot(net.ID).Text)
	assert.Equal(t, "Test boat, stern locker, in pilk box", w.spot(pilk.ID).Text)

	in.Gear[2].Version = 99
	_, err = w.Where.MoveMany(ctx, w.owner, store.NewID(), in)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	in.Gear = append(in.Gear, in.Gear[0])
	_, err = w.Where.MoveMany(ctx, w.owner, store.NewID(), in)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
}

func TestArrangementsAreNamedOnceRenamedKeptAgainAndRemoved(t *testing.T) {
	w := newWorld(t)
	_, err := w.Stowing.SaveArrangement(ctx, w.owner, store.NewID(), w.boat, stowing.ArrangementInput{Name: "empty"})
	assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)
	a, b := w.make("net", 0.1, small), w.make("rope", 0.1, small)
	require.NoError(t, second(w.to(a.ID, aboard.MoveInput{PlaceID: &w.locker})))
	id := w.kept("day")
	_, err = w.Stowing.SaveArrangement(ctx, w.owner, store.NewID(), w.boat, stowing.ArrangementInput{Name: "day"})
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
	_, err = w.Stowing.SaveArrangement(ctx, w.owner, store.NewID(), w.boat, stowing.ArrangementInput{Name: ""})
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)

	require.NoError(t, second(w.to(b.ID, aboard.MoveInput{PlaceID: &w.locker})))
	change := stowing.ArrangementChange{Name: "long day", Again: true, Version: 1}
	_, err = w.Stowing.ChangeArrangement(ctx, w.owner, store.NewID(), w.boat, id, change)
	require.NoError(t, err)
	assert.Equal(t, 2, w.lies(id).Things)
	_, err = w.Stowing.ChangeArrangement(ctx, w.owner, store.NewID(), w.boat, id, change)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)

	said, err := w.back() // the name stays with what it was kept with
	require.NoError(t, err)
	assert.Empty(t, said)
	assert.Equal(t, 1, w.lies(id).Things)
	assert.Equal(t, "day", w.lies(id).Name)

	require.NoError(t, w.Stowing.RemoveArrangement(ctx, w.owner, w.boat, id))
	said, err = w.back()
	require.NoError(t, err)
	assert.Empty(t, said)
	assert.Equal(t, "day", w.lies(id).Name)
	_, err = w.Stowing.WayBack(ctx, w.owner, w.boat, uuid.New(), stowing.Back{})
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}
