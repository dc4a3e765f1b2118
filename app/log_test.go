package app_test

import (
	"sync"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (w *world) events() (events []model.Event) {
	require.NoError(w.t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error {
		return store.All(tx, &events, "seq", "")
	}))
	return events
}

// Whatever follows along asks for everything after the number it has: no number
// may be missing, or come twice, however many move at once.
func TestTheLogCountsACrewsEventsWithoutGaps(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	require.NoError(t, err)
	var all sync.WaitGroup
	seen := w.spotVersion(w.chartbox.ID)
	for range 8 { // one of them is in time, the others are told so
		all.Go(func() {
			_, _ = w.Where.Move(ctx, w.owner, store.NewID(), w.boat,
				aboard.MoveInput{GearID: &w.chartbox.ID, PlaceID: &w.tray, Version: seen})
		})
		all.Go(func() {
			_, _ = w.Gear.SaveGear(ctx, w.hand, uuid.Nil, uuid.Nil, 0, gearInput("spare", 1))
		})
	}
	all.Wait()
	events := w.events()
	kinds := map[string]int{}
	for i, e := range events {
		assert.Equal(t, int64(i+1), e.Seq)
		kinds[e.Kind]++
	}
	assert.Equal(t, map[string]int{"new": 10, "move": 2, "undo": 1}, kinds)

	other := newWorld(t)
	assert.Equal(t, int64(1), other.events()[0].Seq, "each crew counts its own")
}

// The log alone says where everything is: played from its start it ends where
// the stowages are.
func TestTheLogPlayedAgainEndsWhereThingsAre(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.put(w.hand, w.cooler, nil)
	require.NoError(t, err)
	_, err = w.Where.Undo(ctx, w.hand, store.NewID(), w.boat)
	require.NoError(t, err)
	at := map[uuid.UUID]model.Whereabouts{}
	for _, e := range w.events() {
		if e.GearID == nil {
			continue
		}
		if was, known := at[*e.GearID]; known {
			assert.True(t, was.Same(e.Was), "event %d begins where the last one ended", e.Seq)
		}
		at[*e.GearID] = e.Became
	}
	var rows []model.Stowage
	require.NoError(t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error { return store.All(tx, &rows, "", "") }))
	require.NotEmpty(t, rows)
	for _, row := range rows {
		assert.True(t, row.At().Same(at[row.GearID]), "%s", row.GearID)
	}
}

// What is lent is not aboard, by whichever way it is moved.
func TestLentGearIsNotMovedAboardOrBackByUndo(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	_, err = w.put(w.owner, w.cooler, nil)
	require.NoError(t, err)
	require.NoError(t, w.Trips.Loan(ctx, w.owner, store.NewID(), w.cooler.ID, trips.LoanInput{Way: "lent", Whom: "Bo"}))
	version := w.spotVersion(w.cooler.ID)
	_, err = w.Where.Move(ctx, w.owner, store.NewID(), w.boat,
		aboard.MoveInput{GearID: &w.cooler.ID, PlaceID: &w.locker, Version: version})
	assert.Contains(t, err.Error(), "It is lent: note its return first.")
	_, err = w.Where.Undo(ctx, w.owner, store.NewID(), w.boat)
	require.Error(t, err)
	assert.Equal(t, version, w.spotVersion(w.cooler.ID), "it was not moved")
}

func (w *world) spotVersion(gear uuid.UUID) int {
	var row model.Stowage
	require.NoError(w.t, w.Kernel.In(ctx, w.owner, func(tx *store.Tx) error {
		return store.One(tx, &row, "gear_id = ?", gear)
	}))
	return row.Version
}

// Two owners who take the role from each other at once don't leave the crew
// without one.
func TestOwnersWhoDemoteEachOtherAtOnceLeaveOne(t *testing.T) {
	for range 5 {
		w := newWorld(t)
		_, err := w.Crew.GiveRole(ctx, w.owner, w.hand.Member, 1, kernel.Owner)
		require.NoError(t, err)
		second := w.hand
		second.Role = kernel.Owner
		var both sync.WaitGroup
		errs := make([]error, 2)
		both.Go(func() { _, errs[0] = w.Crew.GiveRole(ctx, w.owner, second.Member, 2, kernel.Hand) })
		both.Go(func() { _, errs[1] = w.Crew.GiveRole(ctx, second, w.owner.Member, 1, kernel.Hand) })
		both.Wait()
		assert.True(t, (errs[0] == nil) != (errs[1] == nil), "one is refused: %v", errs)
		for _, err := range errs {
			if err != nil {
				assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)
			}
		}
	}
}
