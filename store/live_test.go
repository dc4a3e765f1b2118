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
		c, _, end, err := l.Listen("boat", store.Listener{})
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
	slow, _, end, err := l.Listen("boat", store.Listener{})
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
	after, _, done, err := l.Listen("after", store.Listener{})
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

// One member's pages, and one crew's, take no more than their share of what a copy serves;
// who leaves the crew hears nothing more.
func TestListenersAreBoundedAndEndWithTheMembership(t *testing.T) {
	url := storetest.URL(t)
	require.NoError(t, store.Migrate(ctx, url))
	db, err := store.Open(ctx, url, 4)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	l := store.NewLive()
	running, stop := context.WithCancel(ctx)
	defer stop()
	go l.Run(running, url)
	crew, member := store.NewID(), store.NewID()
	var gone <-chan struct{}
	for range 10 {
		var end func()
		_, gone, end, err = l.Listen("lists", store.Listener{Crew: crew, Member: member})
		require.NoError(t, err)
		defer end()
	}
	_, _, _, err = l.Listen("lists", store.Listener{Crew: crew, Member: member})
	require.ErrorIs(t, err, store.ErrCrowded, "ten a member")
	for range 190 {
		_, _, end, err := l.Listen("lists", store.Listener{Crew: crew, Member: store.NewID()})
		require.NoError(t, err)
		defer end()
	}
	_, _, _, err = l.Listen("lists", store.Listener{Crew: crew, Member: store.NewID()})
	require.ErrorIs(t, err, store.ErrCrowded, "two hundred a crew")
	_, other, end, err := l.Listen("lists", store.Listener{Crew: store.NewID(), Member: store.NewID()})
	require.NoError(t, err, "another crew has its own")
	defer end()
	for ended := false; !ended; { // until it listens, what is told goes unheard
		require.NoError(t, db.In(ctx, store.Scope{}, func(tx *store.Tx) error { return tx.NotifyLeft(member) }))
		select {
		case <-gone:
			ended = true
		case <-time.After(50 * time.Millisecond):
		}
	}
	select {
	case <-other:
		assert.Fail(t, "who stays listens on")
	default:
	}
}
