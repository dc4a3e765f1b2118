package crew

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
)

// argon is the cost of a password: 19 MiB, two passes, one lane, the first
// choice of OWASP's Password Storage Cheat Sheet (memory).
var argon = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// nobody is compared with when a login is unknown, so that the answer takes as
// long as for one that is known.
var nobody, _ = argon2id.CreateHash("no such person", argon)

// How often sign-in may fail, and over how long. Practice, no source.
const (
	FailuresPerLogin   = 8
	failuresPerAddress = 60
	FailureWindow      = 15 * time.Minute
)

// SignIn checks a login and password. Address is where the request came from.
func (a *Wing) SignIn(ctx context.Context, login, password, address string) (kernel.SignedIn, error) {
	login = strings.ToLower(strings.TrimSpace(login))
	if len(login) > 80 || len(password) > maxPassword {
		return kernel.SignedIn{}, wrongPassword()
	}
	keys := []string{"login " + login, "address " + address}
	var user model.User
	var tries [2]int64
	err := a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) error {
		for i, key := range keys {
			n, err := store.Count[model.SignInFailure](tx, "key = ? AND at > ?", key, a.Now().Add(-FailureWindow))
			if err != nil {
				return err
			}
			tries[i] = n
		}
		err := store.One(tx, &user, "login = ?", login)
		if errors.Is(err, store.ErrNone) {
			return nil
		}
		return err
	})
	if err != nil {
		return kernel.SignedIn{}, fmt.Errorf("looking the login up: %w", err)
	}
	if tries[0] >= FailuresPerLogin || tries[1] >= failuresPerAddress {
		return kernel.SignedIn{}, &refuse.Error{Kind: refuse.TooMany,
			Sentence: "Too many wrong tries: wait a quarter of an hour, or ask an owner for a reset link."}
	}
	hash := nobody
	if user.ID != uuid.Nil {
		hash = user.PasswordHash
	}
	match, err := a.compare(ctx, password, hash)
	if err != nil {
		return kernel.SignedIn{}, fmt.Errorf("comparing the password: %w", err)
	}
	if !match || user.ID == uuid.Nil {
		if err := a.noteFailure(ctx, keys); err != nil {
			return kernel.SignedIn{}, err
		}
		return kernel.SignedIn{}, wrongPassword()
	}
	return kernel.SignedIn{User: user.ID, Epoch: user.Epoch}, nil
}

// compare takes its turn: each hash needs 19 MiB and a processor, and whoever
// is not signed in may ask for one.
func (a *Wing) compare(ctx context.Context, password, hash string) (bool, error) {
	select {
	case a.hashing <- struct{}{}:
		defer func() { <-a.hashing }()
		return argon2id.ComparePasswordAndHash(password, hash)
	case <-ctx.Done():
		return false, ctx.Err()
	}
}

func wrongPassword() error {
	return &refuse.Error{Kind: refuse.SignedOut, Sentence: "This login and password don't belong together."}
}

func (a *Wing) noteFailure(ctx context.Context, keys []string) error {
	err := a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) error {
		for _, key := range keys {
			if err := store.Add(tx, &model.SignInFailure{Key: key, At: a.Now()}); err != nil {
				return err
			}
		}
		return forgetFailures(tx, "at < ?", a.Now().Add(-FailureWindow))
	})
	if err != nil {
		return fmt.Errorf("noting the wrong try: %w", err)
	}
	return nil
}

func forgetFailures(tx *store.Tx, where string, args ...any) error {
	if err := store.Remove[model.SignInFailure](tx, where, args...); !errors.Is(err, store.ErrNone) {
		return err
	}
	return nil
}

// Still says whether a session's epoch is still the user's.
func (a *Wing) Still(ctx context.Context, s kernel.SignedIn) (bool, error) {
	var n int64
	err := a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) (err error) {
		n, err = store.Count[model.User](tx, "id = ? AND epoch = ?", s.User, s.Epoch)
		return err
	})
	return n == 1, err
}

// SignInAs signs a member of the crew in without a password. The demo alone
// offers it; a program not in demo mode never calls it.
func (a *Wing) SignInAs(ctx context.Context, crew, member uuid.UUID) (kernel.SignedIn, error) {
	var user model.User
	err := a.DB.In(ctx, store.Scope{Crew: crew}, func(tx *store.Tx) error {
		var m model.Member
		if err := store.One(tx, &m, "id = ? AND user_id IS NOT NULL", member); err != nil {
			return err
		}
		return store.One(tx, &user, "id = ?", *m.UserID)
	})
	if errors.Is(err, store.ErrNone) {
		return kernel.SignedIn{}, refuse.Missing("person")
	}
	return kernel.SignedIn{User: user.ID, Epoch: user.Epoch}, err
}

const (
	minPassword = 10
	maxPassword = 200
)

func hashPassword(fs *check.Faults, password string) (string, error) {
	if n := len([]rune(password)); n < minPassword || n > maxPassword {
		fs.Add("password", nil, fmt.Sprintf("must have from %d to %d characters", minPassword, maxPassword))
		return "", nil
	}
	hash, err := argon2id.CreateHash(password, argon)
	if err != nil {
		return "", fmt.Errorf("hashing the password: %w", err)
	}
	return hash, nil
}

func newUser(login, password string) (model.User, error) {
	var fs check.Faults
	login = strings.ToLower(strings.TrimSpace(login))
	fs.Text("login", login, 2, 80)
	hash, err := hashPassword(&fs, password)
	if err != nil {
		return model.User{}, err
	}
	return model.User{ID: store.NewID(), Login: login, PasswordHash: hash, Epoch: 1}, refuse.Faulty(fs.Err())
}
