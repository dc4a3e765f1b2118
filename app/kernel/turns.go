package kernel

import (
	"context"
	"sync"

	"github.com/google/uuid"
)

// Turns share out heavy work: so many at once in the whole program, and one at a
// time for each crew, so that nobody's crew holds up all the others.
type Turns struct {
	slots chan struct{}
	mu    sync.Mutex
	crews map[uuid.UUID]*crewTurn
}

type crewTurn struct {
	slot chan struct{}
	held int // how many have it or wait for it
}

// NewTurns has room for as many as may work at once.
func NewTurns(atOnce int) *Turns {
	return &Turns{slots: make(chan struct{}, atOnce), crews: map[uuid.UUID]*crewTurn{}}
}

// Take waits for the crew's turn and then for room, and gives what ends the turn;
// it gives up where the context ends first.
func (t *Turns) Take(ctx context.Context, crew uuid.UUID) (done func(), err error) {
	mine := t.join(crew)
	select {
	case mine.slot <- struct{}{}:
	case <-ctx.Done():
		t.leave(crew, mine)
		return nil, ctx.Err()
	}
	select {
	case t.slots <- struct{}{}:
		return func() {
			<-t.slots
			<-mine.slot
			t.leave(crew, mine)
		}, nil
	case <-ctx.Done():
		<-mine.slot
		t.leave(crew, mine)
		return nil, ctx.Err()
	}
}

func (t *Turns) join(crew uuid.UUID) *crewTurn {
	t.mu.Lock()
	defer t.mu.Unlock()
	mine := t.crews[crew]
	if mine == nil {
		mine = &crewTurn{slot: make(chan struct{}, 1)}
		t.crews[crew] = mine
	}
	mine.held++
	return mine
}

func (t *Turns) leave(crew uuid.UUID, mine *crewTurn) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if mine.held--; mine.held == 0 {
		delete(t.crews, crew)
	}
}
