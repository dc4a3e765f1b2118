package kernel

import (
	"context"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestOneCrewDoesNotHoldUpTheOthers(t *testing.T) {
	turns := NewTurns(2)
	greedy, other := uuid.New(), uuid.New()
	first, err := turns.Take(t.Context(), greedy)
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	waiting := make(chan error)
	go func() { // the greedy crew's second waits, and takes no room while it does
		_, err := turns.Take(ctx, greedy)
		waiting <- err
	}()
	others, err := turns.Take(t.Context(), other)
	require.NoError(t, err, "there is room for another crew")
	third, enough := context.WithCancel(t.Context())
	enough()
	_, err = turns.Take(third, uuid.New())
	assert.ErrorIs(t, err, context.Canceled, "all room is taken")
	stop()
	require.ErrorIs(t, <-waiting, context.Canceled)
	others()
	first()
	assert.Empty(t, turns.crews, "nothing is kept of who is gone")
	assert.Empty(t, turns.slots)
}

func TestTurnsAreNeverMoreThanThereIsRoom(t *testing.T) {
	turns := NewTurns(3)
	crews := []uuid.UUID{uuid.New(), uuid.New(), uuid.New(), uuid.New(), uuid.New()}
	var now, most atomic.Int64
	mine := map[uuid.UUID]*atomic.Int64{}
	for _, c := range crews {
		mine[c] = &atomic.Int64{}
	}
	var all sync.WaitGroup
	for i := range 200 {
		all.Go(func() {
			crew := crews[i%len(crews)]
			done, err := turns.Take(t.Context(), crew)
			if !assert.NoError(t, err) {
				return
			}
			assert.Equal(t, int64(1), mine[crew].Add(1), "one at a time for a crew")
			n := now.Add(1)
			for was := most.Load(); n > was && !most.CompareAndSwap(was, n); was = most.Load() {
			}
			mine[crew].Add(-1)
			now.Add(-1)
			done()
		})
	}
	all.Wait()
	assert.LessOrEqual(t, most.Load(), int64(3))
	assert.Empty(t, turns.crews)
}
