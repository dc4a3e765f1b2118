package kernel

import (
	"context"
	"sync"
	"time"

	"ergasia/app/refuse"

	"github.com/google/uuid"
)

// Queue lets one write of a crew run at a time, and the others wait without a connection to
// the database.
type Queue struct {
	wait  time.Duration
	mu    sync.Mutex
	crews map[uuid.UUID]*crewQueue
}

type crewQueue struct {
	slot chan struct{}
	n    int // how many have it or wait for it
}

// mostWaiting is how many writes of a crew may wait at once. Practice: a crew of six with
// two phones each, and a press or two too many.
const mostWaiting = 60

// NewQueue is one in which a write waits so long at most.
func NewQueue(wait time.Duration) *Queue {
	return &Queue{wait: wait, crews: map[uuid.UUID]*crewQueue{}}
}

// Take waits for the crew's turn and gives what ends it. Who waits too long, or behind too
// many, is told to come back.
func (q *Queue) Take(ctx context.Context, crew uuid.UUID) (done func(), err error) {
	mine := q.join(crew)
	if mine == nil {
		return nil, refuse.Busy()
	}
	timer := time.NewTimer(q.wait)
	defer timer.Stop()
	select {
	case mine.slot <- struct{}{}:
		return func() {
			<-mine.slot
			q.leave(crew, mine)
		}, nil
	case <-timer.C:
		err = refuse.Busy()
	case <-ctx.Done():
		err = ctx.Err()
	}
	q.leave(crew, mine)
	return nil, err
}

// join is nil where too many wait.
func (q *Queue) join(crew uuid.UUID) *crewQueue {
	q.mu.Lock()
	defer q.mu.Unlock()
	mine := q.crews[crew]
	if mine == nil {
		mine = &crewQueue{slot: make(chan struct{}, 1)}
		q.crews[crew] = mine
	}
	if mine.n > mostWaiting {
		return nil
	}
	mine.n++
	return mine
}

func (q *Queue) leave(crew uuid.UUID, mine *crewQueue) {
	q.mu.Lock()
	defer q.mu.Unlock()
	if mine.n--; mine.n == 0 {
		delete(q.crews, crew)
	}
}
