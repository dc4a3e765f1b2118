package app_test

import (
	"slices"
	"testing"

	due_ "ergasia/app/due"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/power"
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

// Volts at rest before and after some days tell that a bank has faded: it is told at the
// bank, and is due before it fails. Taking it over is the crew's.
func TestABankThatFadesIsDueBeforeItFails(t *testing.T) {
	w := newWorld(t)
	since := kernel.DayOf(w.Kernel.Now()).Add(-730)
	in := gearInput("AGM", 20)
	in.Chemistry, in.Volts, in.AmpHours, in.InUseSince = "agm", 12, 100, &since
	g, err := w.Gear.SaveGear(ctx, w.owner, store.NewID(), uuid.Nil, 0, in)
	require.NoError(t, err)
	net := netOf(g.ID)
	net.Circuits[0].Amps, net.Circuits[0].Known, net.Circuits[0].Standing = 6, "measured", 0.0001
	require.NoError(t, w.Power.Save(ctx, w.owner, store.NewID(), w.boat, 0, net))

	plan := model.DayPlan{Phases: []model.DayPhase{{Kind: "fish", Name: "fish", Hours: 5}}, Air: 25, Water: 15}
	bank := power.Usual("b", power.AGM, 12, 100)
	bank.Factor = 0.58
	day := power.System{Banks: []power.Bank{bank}, Loads: []power.Load{{ID: "c"}},
		Phases: []power.Phase{{Hours: 5, Draws: []power.Draw{{Amps: 6, Banks: []int{0}}}}}}
	after := power.OpenVolts(power.AGM, 12, day.Run().Banks[0].End)
	for i := range 6 {
		trip := w.trip("out", -20+2*i, 1, 5)
		_, err := w.Days.Save(ctx, w.owner, store.NewID(), trip, w.tripVersion(trip), plan)
		require.NoError(t, err)
		log := trips.LogInput{Version: w.tripVersion(trip), Hours: 5}
		log.Volts = []model.RestVolts{{Bank: "b", Before: 12.80, After: after}}
		require.NoError(t, w.Trips.LogTrip(ctx, w.owner, store.NewID(), trip, log))
		require.NoError(t, w.Days.LearnBanks(ctx, w.owner, trip))
	}
	v, err := w.Power.Boat(ctx, w.owner, w.boat)
	require.NoError(t, err)
	l := v.Banks[0].Learned
	require.NotNil(t, l)
	assert.Equal(t, 6, l.Evenings)
	assert.InDelta(t, 0.58, l.Holds, 0.03)
	assert.True(t, l.Low < 0.58 && 0.58 < l.High)
	assert.InDelta(t, 0.9, l.ByAge, 0.01)
	assert.InDelta(t, 90, v.Banks[0].Holds/0.92, 1, "nothing is folded in by itself")

	due, err := w.Due.Due(ctx, w.owner)
	require.NoError(t, err)
	i := slices.IndexFunc(due.Rows, func(r due_.DueRow) bool { return r.Bank == "b" })
	require.GreaterOrEqual(t, i, 0)
	assert.Contains(t, due.Rows[i].What, "test or replace: it holds 5")
	assert.Equal(t, "now", due.Rows[i].When)
	_, err = w.Due.CalendarFile(ctx, w.owner)
	require.NoError(t, err, "a bank that is due goes into the calendar")

	bad := trips.LogInput{Version: 1, Hours: 1}
	bad.Volts = []model.RestVolts{{Bank: "b", Before: 900, After: -1}}
	err = w.Trips.LogTrip(ctx, w.owner, store.NewID(), w.trip("bad", -1, 1, 1), bad)
	var said *refuse.Error
	require.ErrorAs(t, err, &said)
	assert.Contains(t, said.Faults.Error(), "volts[0].before_v is 900: must be from 0 to 120")
}
