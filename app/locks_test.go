package app_test

import (
	"fmt"
	"slices"
	"sync"
	"testing"

	"ergasia/app/gear"
	"ergasia/store"

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
