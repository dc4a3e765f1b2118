package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"ergasia/core/check"
	"ergasia/store"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"gorm.io/gorm"
)

// argon is the cost of a password: 19 MiB, two passes, one lane, the first
// choice of OWASP's Password Storage Cheat Sheet (memory).
var argon = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// nobody is compared with when a login is unknown, so that the answer takes as
// long as for one that is known.
var nobody, _ = argon2id.CreateHash("no such person", argon)

// How often sign-in may fail, and over how long. Practice, no source.
const (
	failuresPerLogin   = 8
	failuresPerAddress = 60
	failureWindow      = 15 * time.Minute
)

// SignedIn is who a session belongs to. Epoch ends it when the user's is raised.
type SignedIn struct {
	User  uuid.UUID
	Epoch int
}

// SignIn checks a login and password. Address is where the request came from.
func (a *App) SignIn(ctx context.Context, login, password, address string) (SignedIn, error) {
	login = strings.ToLower(strings.TrimSpace(login))
	if len(login) > 80 || len(password) > maxPassword {
		return SignedIn{}, wrongPassword()
	}
	keys := []string{"login " + login, "address " + address}
	var user store.User
	var tries [2]int64
	err := a.db.In(ctx, store.Scope{}, func(tx *gorm.DB) error {
		for i, key := range keys {
			q := tx.Table("sign_in_failure").Where("key = ? AND at > ?", key, a.now().Add(-failureWindow))
			if err := q.Count(&tries[i]).Error; err != nil {
				return err
			}
		}
		err := tx.Where("login = ?", login).Take(&user).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil
		}
		return err
	})
	if err != nil {
		return SignedIn{}, fmt.Errorf("looking the login up: %w", err)
	}
	if tries[0] >= failuresPerLogin || tries[1] >= failuresPerAddress {
		return SignedIn{}, &Error{Kind: TooMany, Sentence: "Too many wrong tries: wait a quarter of an hour, or ask an owner for a reset link."}
	}
	hash := nobody
	if user.ID != uuid.Nil {
		hash = user.PasswordHash
	}
	match, err := a.compare(ctx, password, hash)
	if err != nil {
		return SignedIn{}, fmt.Errorf("comparing the password: %w", err)
	}
	if !match || user.ID == uuid.Nil {
		if err := a.noteFailure(ctx, keys); err != nil {
			return SignedIn{}, err
		}
		return SignedIn{}, wrongPassword()
	}
	return SignedIn{user.ID, user.Epoch}, nil
}

// compare takes its turn: each hash needs 19 MiB and a processor, and whoever
// is not signed in may ask for one.
func (a *App) compare(ctx context.Context, password, hash string) (bool, error) {
	select {
	case a.hashing <- struct{}{}:
		defer func() { <-a.hashing }()
		return argon2id.ComparePasswordAndHash(password, hash)
	case <-ctx.Done():
		return false, ctx.Err()
	}
}

func wrongPassword() error {
	return &Error{Kind: SignedOut, Sentence: "This login and password don't belong together."}
}

func (a *App) noteFailure(ctx context.Context, keys []string) error {
	err := a.db.In(ctx, store.Scope{}, func(tx *gorm.DB) error {
		for _, key := range keys {
			if err := tx.Exec("INSERT INTO sign_in_failure (key, at) VALUES (?, ?)", key, a.now()).Error; err != nil {
				return err
			}
		}
		return tx.Exec("DELETE FROM sign_in_failure WHERE at < ?", a.now().Add(-failureWindow)).Error
	})
	if err != nil {
		return fmt.Errorf("noting the wrong try: %w", err)
	}
	return nil
}

// Still says whether a session's epoch is still the user's.
func (a *App) Still(ctx context.Context, s SignedIn) (bool, error) {
	var n int64
	err := a.db.In(ctx, store.Scope{}, func(tx *gorm.DB) error {
		return tx.Model(&store.User{}).Where("id = ? AND epoch = ?", s.User, s.Epoch).Count(&n).Error
	})
	return n == 1, err
}

// SignInAs signs a member of the crew in without a password. The demo alone
// offers it; a program not in demo mode never calls it.
func (a *App) SignInAs(ctx context.Context, crew, member uuid.UUID) (SignedIn, error) {
	var user store.User
	err := a.db.In(ctx, store.Scope{Crew: crew}, func(tx *gorm.DB) error {
		var m store.Member
		if err := tx.Where("crew_id = ? AND id = ? AND user_id IS NOT NULL", crew, member).Take(&m).Error; err != nil {
			return err
		}
		return tx.Take(&user, "id = ?", *m.UserID).Error
	})
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return SignedIn{}, notFound("person")
	}
	return SignedIn{user.ID, user.Epoch}, err
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

func newUser(login, password string) (store.User, error) {
	var fs check.Faults
	login = strings.ToLower(strings.TrimSpace(login))
	fs.Text("login", login, 2, 80)
	hash, err := hashPassword(&fs, password)
	if err != nil {
		return store.User{}, err
	}
	return store.User{ID: store.NewID(), Login: login, PasswordHash: hash, Epoch: 1}, invalid(fs.Err())
}
