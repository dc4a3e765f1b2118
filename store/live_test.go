package store_test

import (
	"context"
	"errors"
	"fmt"
	"testing"
	"time"

	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func heard(t *testing.T, c <-chan store.Message) store.Message {
	select {
	case m := <-c:
		return m
	case <-time.After(10 * time.Second):
		require.Fail(t, "nothing was heard")
	}
	return store.Message{}
}

// Two copies of the program on one database: what one tells, both hear, once it is kept.
func TestWhatIsToldIsHeardInEveryCopyOnceItIsKept(t *testing.T) {
	url := storetest.URL(t)
	require.NoError(t, store.Migrate(ctx, url))
	db, err := store.Open(ctx, url, 4)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	running, stop := context.WithCancel(ctx)
	defer stop()
	var ears []<-chan store.Message
	for range 2 {
		l := store.NewLive()
		go l.Run(running, url)
		c, end, err := l.Listen("boat")
		require.NoError(t, err)
		defer end()
		ears = append(ears, c)
	}
	tell := func(topic, text string, fails error) {
		err := db.In(ctx, store.Scope{}, func(tx *store.Tx) error {
			require.NoError(t, tx.Notify(topic, text))
			return fails
		})
		assert.ErrorIs(t, err, fails)
	}
	for _, c := range ears { // until both listen, what is told goes unheard
		for waits := true; waits; {
			tell("boat", "are you there?", nil)
			select {
			case <-c:
				waits = false
			case <-time.After(50 * time.Millisecond):
			}
		}
	}
	tell("boat", "not kept", errors.New("rolled back"))
	tell("another", "for others", nil)
	tell("boat", "kept", nil)
	for _, c := range ears {
		m := heard(t, c)
		for m.Text == "are you there?" {
			m = heard(t, c)
		}
		assert.Equal(t, store.Message{Topic: "boat", Text: "kept"}, m)
	}
}

func TestWhoIsTooSlowIsToldToLookAgain(t *testing.T) {
	url := storetest.URL(t)
	require.NoError(t, store.Migrate(ctx, url))
	db, err := store.Open(ctx, url, 2)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	running, stop := context.WithCancel(ctx)
	defer stop()
	l := store.NewLive()
	go l.Run(running, url)
	slow, end, err := l.Listen("boat")
	require.NoError(t, err)
	for len(slow) == 0 {
		require.NoError(t, db.In(ctx, store.Scope{}, func(tx *store.Tx) error { return tx.Notify("boat", "first") }))
	}
	require.NoError(t, db.In(ctx, store.Scope{}, func(tx *store.Tx) error {
		for i := range 300 {
			require.NoError(t, tx.Notify("boat", fmt.Sprint(i)))
		}
		return nil
	}))
	after, done, err := l.Listen("after")
	require.NoError(t, err)
	defer done()
	require.NoError(t, db.In(ctx, store.Scope{}, func(tx *store.Tx) error { return tx.Notify("after", "all were told") }))
	heard(t, after) // until then nobody takes what waits
	again := false
	for !again {
		again = heard(t, slow).Text == ""
	}
	assert.True(t, again)
	end()
	end() // once more changes nothing
}
