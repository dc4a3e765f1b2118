package store

import (
	"context"
	"fmt"
	"sync"

	"github.com/google/uuid"
)

// share bounds how many connections one crew may have at once, so that no crew has all of
// them. Waiting for it takes none.
type share struct {
	most  int
	mu    sync.Mutex
	crews map[uuid.UUID]*crewShare
}

type crewShare struct {
	slots chan struct{}
	held  int // how many have one or wait for one
}

// newShare is of a pool of so many connections: a crew may have half of them.
func newShare(connections int) *share {
	return &share{most: max(1, connections/2), crews: map[uuid.UUID]*crewShare{}}
}

// take waits for one of the crew's connections to be free, and gives what hands it back.
func (s *share) take(ctx context.Context, crew uuid.UUID) (done func(), err error) {
	if crew == uuid.Nil {
		return func() {}, nil
	}
	mine := s.join(crew)
	select {
	case mine.slots <- struct{}{}:
		return func() {
			<-mine.slots
			s.leave(crew, mine)
		}, nil
	case <-ctx.Done():
		s.leave(crew, mine)
		return nil, fmt.Errorf("waiting for a connection: %w", ctx.Err())
	}
}

func (s *share) join(crew uuid.UUID) *crewShare {
	s.mu.Lock()
	defer s.mu.Unlock()
	mine := s.crews[crew]
	if mine == nil {
		mine = &crewShare{slots: make(chan struct{}, s.most)}
		s.crews[crew] = mine
	}
	mine.held++
	return mine
}

func (s *share) leave(crew uuid.UUID, mine *crewShare) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if mine.held--; mine.held == 0 {
		delete(s.crews, crew)
	}
}
