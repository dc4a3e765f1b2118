package app_test

import (
	"fmt"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/app/where"
	"ergasia/core/reach"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (w *world) layAt(g gear.GearView, place uuid.UUID, x, y float64, turn int) (where.State, error) {
	return w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &g.ID, PlaceID: &place,
		Version: w.stowed(g).Version,
		Lay:     &aboard.LayInput{At: [2]float64{x, y}, Turn: turn}})
}

func TestAPieceIsLaidByHandAndStaysThere(t *testing.T) {
	w, jigs, plugs, _ := muddled(t)
	other := w.stowed(plugs).Laid
	before := w.stowed(jigs).Laid
	_, err := w.layAt(jigs, w.locker, 9, 9, 0)
	require.NoError(t, err)
	now := w.stowed(jigs)
	assert.True(t, now.ByHand)
	assert.NotEqual(t, before, now.Laid)
	assert.Equal(t, other, w.stowed(plugs).Laid, "the rest lies still")
	more := w.make("box of hooks", 1, often(9, "helm"))
	_, err = w.put(w.owner, more, &w.locker)
	require.NoError(t, err)
	assert.Equal(t, now.Laid, w.stowed(jigs).Laid, "what comes in is laid around it")
	_, err = w.layAt(more, w.locker, 9, 9, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, w.stowed(more).Laid[0].Layer, "let down onto what lies there")
	_, err = w.layAt(jigs, w.locker, 0, 0, 0)
	assert.ErrorContains(t, err, "box of hooks would lie on 0 % of its floor")
	for range 2 { // the two that were made since, then the first
		_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
		require.NoError(t, err)
	}
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	assert.Equal(t, before, w.stowed(jigs).Laid)
	_, err = w.Where.Redo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	assert.Equal(t, now.Laid, w.stowed(jigs).Laid)
	_, err = w.Where.LayAnew(ctx, w.owner, store.NewID(), w.boat, w.locker)
	require.NoError(t, err)
	assert.False(t, w.stowed(jigs).ByHand)
	_, err = w.put(w.owner, jigs, nil)
	require.NoError(t, err)
	_, err = w.layAt(jigs, w.locker, 0, 0, 0)
	assert.ErrorContains(t, err, "does not lie in that place")
}

func TestAPlaceIsKeptForSomeonesThings(t *testing.T) {
	w, jigs, _, fore := muddled(t)
	members, err := w.Crew.Members(ctx, w.owner)
	require.NoError(t, err)
	in := fleet.PlaceInput{Name: "fore locker", Corner: model.Vec{3.4, -0.2, 0.3}, Size: model.Vec{0.4, 0.4, 0.3},
		Dryness: "dry", KeptFor: &members[0].ID}
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, fore, 1, in)
	require.NoError(t, err)
	_, err = w.put(w.owner, jigs, &fore)
	assert.ErrorContains(t, err, "fore locker is kept for "+members[0].Name+"'s things")
	stranger := store.NewID()
	in.KeptFor = &stranger
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, fore, 2, in)
	var refusal *refuse.Error
	require.ErrorAs(t, err, &refusal, "a place is kept for one of the crew")
	in.KeptFor, in.KeptTag = nil, "guest"
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, fore, 2, in)
	require.NoError(t, err)
	v := w.planned(stowing.PlanInput{})
	for _, m := range v.Moves {
		assert.NotEqual(t, "fore locker", m.To, "nothing of it is for guests")
	}
	hat := w.make("guest's hat", 1, func(in *gear.GearInput) { in.Tags = []string{"guest"} })
	_, err = w.put(w.owner, hat, &fore)
	assert.NoError(t, err)
}

func TestACrewHasItsOwnTimes(t *testing.T) {
	w, _, _, _ := muddled(t)
	before := w.state().Now.Rummage
	times, err := w.Crew.Times(ctx, w.owner)
	require.NoError(t, err)
	assert.False(t, times.Own)
	assert.Equal(t, reach.DefaultTable(), times.Times)
	table := times.Times
	table.Sea = 2
	times, err = w.Crew.SetTimes(ctx, w.owner, table)
	require.NoError(t, err)
	assert.True(t, times.Own)
	assert.InDelta(t, 2*before, w.state().Now.Rummage, 1e-9, "cold hands take twice as long")
	table.Look = -1
	_, err = w.Crew.SetTimes(ctx, w.owner, table)
	assert.Error(t, err)
	times, err = w.Crew.SetTimes(ctx, w.owner, times.Usual)
	require.NoError(t, err)
	assert.False(t, times.Own)
	assert.InDelta(t, before, w.state().Now.Rummage, 1e-9)
}

func TestRodsAreListedWithWhatKeepsThemOut(t *testing.T) {
	w := newWorld(t)
	_, err := w.Fleet.AddPost(ctx, w.owner, uuid.Nil, w.boat, fleet.PostInput{Name: "fore deck",
		At: model.Vec{3.1, 0, 0.3}})
	require.NoError(t, err)
	bed, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "bed", Corner: model.Vec{1, 0.3, 0.3}, Size: model.Vec{2.2, 0.22, 0.15}, Dryness: "wet",
			Form: "bed"})
	require.NoError(t, err)
	stand, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "holders", Corner: model.Vec{1, -0.3, 1.2}, Size: model.Vec{0.1, 0.4, 0.2}, Dryness: "wet",
			Form: "upright", Slots: 2})
	require.NoError(t, err)
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "tubes", Corner: model.Vec{1, -0.6, 0.3}, Size: model.Vec{2.2, 0.22, 0.15}, Dryness: "wet",
			Form: "tubes", Slots: 4})
	var refusal *refuse.Error
	require.ErrorAs(t, err, &refusal)
	assert.Equal(t, "slot_diameter_m", refusal.Faults[0].Field)
	rod := func(name string, length, uses float64) gear.GearView {
		return w.make(name, 1, func(in *gear.GearInput) {
			in.Shape, in.Size, in.Uses, in.Guide, in.Turn = "rod", model.Vec{length, 0.08, 0.07}, &uses, 0.03, "none"
		})
	}
	for i := range 8 {
		_, err := w.put(w.owner, rod("rod "+string(rune('a'+i)), 2.1, float64(8-i)), &bed)
		require.NoError(t, err)
	}
	long := rod("long rod", 2.7, 5)
	_, err = w.put(w.owner, long, &bed)
	assert.ErrorContains(t, err, "long rod is 270 cm long; bed is 220 cm inside.")
	v, err := w.Stowing.Rods(ctx, w.owner, w.boat, stowing.RodsInput{Keel: 0.5})
	require.NoError(t, err)
	require.Len(t, v.Places, 2)
	full := aboard.First(v.Places, func(p stowing.RodPlace) bool { return p.PlaceID == bed })
	assert.Equal(t, "Holds 8, tip by butt; it is full.", full.Said)
	assert.Equal(t, "rod a", full.Rods[0].Name, "the most used is pulled first")
	require.Len(t, v.Out, 1)
	assert.Equal(t, stowing.RodOut{GearID: long.ID, Name: "long rod", Where: "on the quay", Goes: []string{"holders"},
		Why: []string{"long rod is 270 cm long; bed is 220 cm inside."}}, v.Out[0])
	_, err = w.put(w.owner, long, &stand)
	require.NoError(t, err)
	v, err = w.Stowing.Rods(ctx, w.owner, w.boat, stowing.RodsInput{Keel: 0.5, Bridge: 3, Road: 4.5})
	require.NoError(t, err)
	require.Len(t, v.Said, 3)
	assert.Contains(t, v.Said[0], "4.40 m over the ground")
	assert.Contains(t, v.Said[1], "under the bridge of 3.00 m")
	assert.Contains(t, v.Said[2], "under 4.50 m on the road")
	var tip float64
	_, err = fmt.Sscanf(v.Said[0], "long rod stands highest: its tip is %f m over the water", &tip)
	require.NoError(t, err)
	for bridge, said := range map[float64]int{tip + 0.15: 2, tip + 0.25: 1} { // a tip sways two tenths
		v, err = w.Stowing.Rods(ctx, w.owner, w.boat, stowing.RodsInput{Keel: 0.5, Bridge: bridge})
		require.NoError(t, err)
		assert.Len(t, v.Said, said, "a bridge of %.2f m", bridge)
	}
}

func TestHazardsAreKeptApartInBoxesToo(t *testing.T) {
	w, _, _, _ := muddled(t)
	with := func(hazard string) func(*gear.GearInput) {
		return func(in *gear.GearInput) {
			in.Size, in.Turn, in.Hazards = model.Vec{0.1, 0.1, 0.1}, "any", []string{hazard}
		}
	}
	can, lighter, flares := w.make("can", 1, with("fuel")), w.make("lighter", 0.1, with("sparks")),
		w.make("flares", 1, with("flares"))
	tin := w.make("tin", 0.5, func(in *gear.GearInput) {
		in.Size, in.Inside, in.Turn = model.Vec{0.3, 0.2, 0.2}, model.Vec{0.28, 0.18, 0.18}, "any"
	})
	require.NoError(t, second(w.to(lighter.ID, aboard.MoveInput{BoxID: &tin.ID})))
	assert.ErrorContains(t, second(w.to(flares.ID, aboard.MoveInput{BoxID: &tin.ID})),
		"flares (flares) may not lie with lighter (sparks).")
	_, err := w.put(w.owner, can, &w.locker)
	require.NoError(t, err)
	_, err = w.put(w.owner, tin, &w.locker)
	assert.ErrorContains(t, err, "tin (sparks) may not lie with can (fuel).")
	require.NoError(t, second(w.to(lighter.ID, aboard.MoveInput{})))
	_, err = w.put(w.owner, tin, &w.locker)
	require.NoError(t, err)
	assert.ErrorContains(t, second(w.to(lighter.ID, aboard.MoveInput{BoxID: &tin.ID})),
		"lighter (sparks) may not lie with can (fuel).")
}

func TestOneOfSeveralAlikeKeepsItsNumber(t *testing.T) {
	w, _, _, _ := muddled(t)
	tins := w.make("tins", 0.5, func(in *gear.GearInput) {
		in.Size, in.Turn, in.Count = model.Vec{0.12, 0.1, 0.05},
			"upright", 3
	})
	_, err := w.put(w.owner, tins, &w.locker)
	require.NoError(t, err)
	before := w.stowed(tins).Laid
	require.Len(t, before, 3)
	corner := aboard.First(must(w.Stowing.Bench(ctx, w.owner, w.boat)).Places,
		func(p stowing.PlaceView) bool { return p.ID == w.locker }).Corner
	onTop := func(i int) (float64, float64) {
		return before[i].Corner[0] - corner[0], before[i].Corner[1] - corner[1]
	}
	x, y := onTop(2)
	for range 2 { // the second time it lies there already
		_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat, aboard.MoveInput{GearID: &tins.ID, PlaceID: &w.locker,
			Version: w.stowed(tins).Version, Lay: &aboard.LayInput{Index: 0, At: [2]float64{x, y}}})
		require.NoError(t, err)
		now := w.stowed(tins).Laid
		assert.Equal(t, before[1:], now[1:], "the others lie as they lay")
		assert.Greater(t, now[0].Corner[2], before[2].Corner[2], "it lies on the third")
	}
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}
