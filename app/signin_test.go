package app_test

import (
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"ergasia/app"
	"ergasia/app/crew"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWrongSignInsAreLimitedAndTellNothing(t *testing.T) {
	w := newWorld(t)
	in, err := w.signIn(" ILSE ", password, "10.0.0.1", "")
	require.NoError(t, err)
	assert.NotEqual(t, uuid.Nil, in.User)
	_, unknown := w.signIn("nobody", "something", "10.0.0.1", "")
	_, wrong := w.signIn("ilse", "something", "10.0.0.1", "")
	assert.Equal(t, kindOf(t, unknown).Sentence, kindOf(t, wrong).Sentence)
	for range crew.FailuresPerLogin {
		_, err = w.signIn("ilse", "something", "10.0.0.2", "")
	}
	require.Error(t, err)
	_, err = w.signIn("ilse", password, "10.0.0.2", "")
	assert.Equal(t, refuse.TooMany, kindOf(t, err).Kind, "even the right one waits, where the wrong ones came from")
	_, err = w.signIn("ilse", password, "10.0.0.3", "")
	assert.NoError(t, err, "elsewhere it does not")
	_, err = w.signIn("sune", password, "10.0.0.2", "")
	assert.NoError(t, err, "others do not")
	w.Kernel.Now = func() time.Time { return time.Now().Add(crew.FailureWindow + time.Minute) }
	_, err = w.signIn("ilse", password, "10.0.0.2", "")
	assert.NoError(t, err)
}

// signIn tries to sign in from an address, in a browser that has a token or none.
func (w *world) signIn(login, password, address, browser string) (kernel.SignedIn, error) {
	in, _, err := w.Crew.SignIn(ctx, crew.Try{Login: login, Password: password, Address: address, Browser: browser})
	return in, err
}

func TestRightTriesAreNotCounted(t *testing.T) {
	w := newWorld(t)
	for range crew.FailuresPerLogin + 4 {
		_, err := w.signIn("ilse", password, "10.0.0.4", "")
		require.NoError(t, err)
	}
}

func TestWrongTriesAtOnceAreNoMoreThanInTurn(t *testing.T) {
	w := newWorld(t)
	var all sync.WaitGroup
	var tried atomic.Int64
	for range 60 {
		all.Go(func() {
			_, err := w.signIn("ilse", "something", "10.0.0.9", "")
			if kindOf(t, err).Kind == refuse.SignedOut {
				tried.Add(1)
			}
		})
	}
	all.Wait()
	assert.Equal(t, int64(crew.FailuresPerLogin), tried.Load())
}

func TestWrongTriesElsewhereDoNotKeepTheRightPersonOut(t *testing.T) {
	w := newWorld(t)
	_, browser, err := w.Crew.SignIn(ctx, crew.Try{Login: "ilse", Password: password, Address: "10.0.0.1"})
	require.NoError(t, err)
	for i := range 110 { // from many addresses
		_, err = w.signIn("ilse", "something", fmt.Sprintf("10.0.1.%d", i), "")
		require.Error(t, err)
	}
	_, err = w.signIn("ilse", password, "10.0.0.1", "")
	assert.Equal(t, refuse.TooMany, kindOf(t, err).Kind, "a browser that nobody knows waits")
	_, again, err := w.Crew.SignIn(ctx, crew.Try{Login: "ilse", Password: password, Address: "10.0.1.1", Browser: browser})
	require.NoError(t, err, "the browser of before does not")
	assert.Equal(t, browser, again)
	_, err = w.signIn("sune", "something", "10.0.0.1", browser)
	assert.Equal(t, refuse.SignedOut, kindOf(t, err).Kind, "for another login it is any browser")
	for range crew.FailuresPerLogin {
		_, err = w.signIn("ilse", "something", "10.0.0.1", browser)
		require.Error(t, err)
	}
	_, err = w.signIn("ilse", password, "10.0.0.1", browser)
	assert.Equal(t, refuse.TooMany, kindOf(t, err).Kind, "in a known browser too there are only so many")
	link, err := w.Crew.ResetLink(ctx, w.owner, w.owner.Member)
	require.NoError(t, err)
	_, fresh, err := w.Crew.UseLink(ctx, link.Token, "", "another long one")
	require.NoError(t, err)
	_, err = w.signIn("ilse", "another long one", "10.0.0.1", fresh)
	assert.NoError(t, err, "a reset ends the waiting")
	_, err = w.signIn("ilse", "another long one", "10.0.1.77", browser)
	assert.NoError(t, err)
}

// The first crew is founded with the code of the terminal, once, and by one of two
// who try at the same time; with a crew there is no code.
func TestTheFirstCrewIsFoundedOnceWithTheCode(t *testing.T) {
	a := app.New(storetest.New(t))
	in := crew.FoundInput{Crew: "Ours", Name: "Una", Login: "una", Password: password}
	_, _, err := a.Crew.FoundFirst(ctx, in)
	assert.Equal(t, refuse.Refused, kindOf(t, err).Kind, "without a code nobody founds")
	code, err := a.Crew.FoundingCode(ctx)
	require.NoError(t, err)
	founding := func() bool {
		is, err := a.Crew.Founding(ctx)
		require.NoError(t, err)
		return is
	}
	assert.True(t, founding())
	in.Code = "AAAA-BBBB-CCCC"
	_, _, err = a.Crew.FoundFirst(ctx, in)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
	in.Code, in.Password = strings.ToLower(code), "short"
	_, _, err = a.Crew.FoundFirst(ctx, in)
	assert.Equal(t, refuse.Invalid, kindOf(t, err).Kind)
	assert.True(t, founding(), "what was wrong of the form does not use the code up")
	in.Password = password
	var all sync.WaitGroup
	var founded atomic.Int64
	for i := range 4 {
		all.Go(func() {
			mine := in
			mine.Login = fmt.Sprintf("una%d", i)
			if signed, browser, err := a.Crew.FoundFirst(ctx, mine); err == nil && signed.User != uuid.Nil && browser != "" {
				founded.Add(1)
			}
		})
	}
	all.Wait()
	assert.Equal(t, int64(1), founded.Load())
	assert.False(t, founding())
	code, err = a.Crew.FoundingCode(ctx)
	require.NoError(t, err)
	assert.Empty(t, code)
}

func TestACodeThatIsGuessedAtIsVoid(t *testing.T) {
	a := app.New(storetest.New(t))
	code, err := a.Crew.FoundingCode(ctx)
	require.NoError(t, err)
	for range 21 {
		_, _, err = a.Crew.FoundFirst(ctx, crew.FoundInput{Code: "AAAA-BBBB-CCCC"})
	}
	assert.Equal(t, refuse.TooMany, kindOf(t, err).Kind)
	_, _, err = a.Crew.FoundFirst(ctx, crew.FoundInput{Code: code, Crew: "Ours", Name: "Una", Login: "una", Password: password})
	assert.Equal(t, refuse.Refused, kindOf(t, err).Kind)
}
