package app_test

import (
	"testing"

	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// netOf is a bank of gear with one circuit.
func netOf(battery uuid.UUID) model.NetInput {
	return model.NetInput{
		Banks: []model.BankInput{
			{Key: "b", Name: "battery", Role: "house", Series: 1, Batteries: []uuid.UUID{battery}},
		},
		Circuits: []model.CircuitInput{
			{Key: "c", Name: "radio", Kind: "radio", From: "b", Known: "guess", Fuse: 3, Wire: 1.31,
				OneWay: 2},
		}}
}

func TestElectricsAreKeptOverTheVersionThatWasSeen(t *testing.T) {
	w := newWorld(t)
	in := gearInput("AGM", 20)
	in.Chemistry, in.Volts, in.AmpHours = "agm", 12, 90
	g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(t, err)

	key := store.NewID()
	require.NoError(t, w.Power.Save(ctx, w.owner, key, w.boat, 0, netOf(g.ID)))
	require.NoError(t, w.Power.Save(ctx, w.owner, key, w.boat, 0, netOf(g.ID)), "the same again changes nothing")
	v, err := w.Power.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Equal(t, 1, v.Version)
	require.Len(t, v.Circuits, 1)
	assert.InDelta(t, 12, v.Circuits[0].Wire.Volts, 1e-9)
	assert.Equal(t, []string{"c"}, v.Parts[0].Dies)

	var said *refuse.Error
	require.ErrorAs(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 0, netOf(g.ID)), &said)
	assert.Equal(t, refuse.Conflict, said.Kind)

	bad := netOf(g.ID)
	bad.Circuits[0].Fuse = 60
	require.ErrorAs(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 1, bad), &said)
	assert.Contains(t, said.Faults.Error(), "circuits[0].fuse_a is 60: radio: its wire of 1.31 mm² stands 38 A")
	_, err = w.Power.Try(ctx, w.owner, w.boat, bad)
	require.Error(t, err)
	v, err = w.Power.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.InDelta(t, 3, v.Net.Circuits[0].Fuse, 1e-9, "nothing was half kept")
	assert.Equal(t, 1, v.Version)
}

func TestChangedElectricsCanBeTakenBack(t *testing.T) {
	w := newWorld(t)
	g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, gearInput("AGM", 20))
	require.NoError(t, err)
	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 0, netOf(g.ID)))
	other := netOf(g.ID)
	other.Circuits = nil
	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 1, other))
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	v, err := w.Power.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Len(t, v.Net.Circuits, 1)
	assert.Equal(t, 3, v.Version)

	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 3, other))
	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 4, netOf(g.ID)))
	last, err = w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 5, other))
	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.Error(t, err, "it was changed since")
}
