package crew

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPasswordsAreHashedAFewAtATime(t *testing.T) {
	a := New(nil, make(chan struct{}, 1))
	a.hashing <- struct{}{}
	late, cancel := context.WithTimeout(t.Context(), time.Millisecond)
	defer cancel()
	_, err := a.compare(late, "x", nobody)
	assert.ErrorIs(t, err, context.DeadlineExceeded)
	<-a.hashing
	match, err := a.compare(t.Context(), "no such person", nobody)
	require.NoError(t, err)
	assert.True(t, match)
	assert.Empty(t, a.hashing, "the turn is given back")
}
