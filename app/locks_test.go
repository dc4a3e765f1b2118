package app_test

import (
	"fmt"
	"slices"
	"sync"
	"testing"

	"ergasia/app/gear"
	"ergasia/app/kits"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Several hands change the same things at once, in any order: none waits for
// another in a ring, and nothing is lost.
func TestChangesAtOnceDoNotWaitForEachOther(t *testing.T) {
	w := newWorld(t)
	var ids []uuid.UUID
	for i := range 12 {
		ids = append(ids, w.make(fmt.Sprintf("thing %d", i), 1, small).ID)
	}
	trip := w.trip("sound", 0, 1, 5)
	var all sync.WaitGroup
	for i := range 24 {
		all.Go(func() {
			mine := slices.Clone(ids)
			if i%2 == 1 {
				slices.Reverse(mine)
			}
			var err error
			switch i % 4 {
			case 0, 1:
				err = w.Gear.ChangeMany(ctx, w.owner, store.NewID(), gear.BulkInput{Gear: mine,
					AddTag: fmt.Sprintf("tag-%d", i)})
			case 2:
				_, err = w.Trips.Promise(ctx, w.hand, store.NewID(), trip, mine)
			case 3:
				in := gearInput(fmt.Sprintf("new thing tag-%d tag-%d", 23-i, i), 1)
				small(&in)
				_, err = w.Gear.SaveGear(ctx, w.hand, store.NewID(), uuid.Nil, 0, in)
			}
			assert.NoError(t, err, "%d", i)
		})
	}
	all.Wait()
	one, err := w.Gear.GearOne(ctx, w.owner, ids[3])
	require.NoError(t, err)
	assert.Len(t, one.Tags, 12, "of every change")
}

func TestNoPieceGetsMoreTagsThanCanBeSaved(t *testing.T) {
	w := newWorld(t)
	tag := func(i int) error {
		return w.Gear.ChangeMany(ctx, w.owner, store.NewID(), gear.BulkInput{Gear: []uuid.UUID{w.cooler.ID},
			AddTag: fmt.Sprintf("tag %d", i)})
	}
	for i := range 20 {
		require.NoError(t, tag(i))
	}
	assert.ErrorContains(t, tag(20), "has 20 tags, the most that there are")
	require.NoError(t, tag(7), "one that it has is none more")
	one, err := w.Gear.GearOne(ctx, w.owner, w.cooler.ID)
	require.NoError(t, err)
	_, err = w.Gear.SaveGear(ctx, w.owner, store.NewID(), one.ID, one.Version, one.GearInput)
	assert.NoError(t, err)
}

func TestAKitNamesGearOfTheCrewOnly(t *testing.T) {
	w, theirs := newWorld(t), store.NewID()
	kit := func(id uuid.UUID) error {
		_, err := w.Kits.SaveKit(ctx, w.owner, store.NewID(), uuid.Nil, 0, kits.KitInput{Name: "kit", Sort: "use",
			Lines: []model.KitLine{{What: "cooler", Amount: 1, Per: "boat", Choices: []model.KitChoice{{GearID: &id}}}}})
		return err
	}
	assert.Contains(t, kindOf(t, kit(theirs)).Faults.Error(), "lines[0].choices[0].gear_id")
	assert.NoError(t, kit(w.cooler.ID))
}

func TestFindingNothingIsAnEmptyList(t *testing.T) {
	w := newWorld(t)
	hits, err := w.Gear.Find(ctx, w.owner, "zzzz")
	require.NoError(t, err)
	assert.NotNil(t, hits)
	assert.Empty(t, hits)
	hits, err = w.Gear.Find(ctx, w.owner, "cooler")
	require.NoError(t, err)
	assert.Nil(t, hits[0].Boat, "it is aboard of none")
}
