package crew

import (
	"context"
	"errors"
	"fmt"
	"strconv"
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
	FailuresPerLogin   = 8   // of a login from an address, or in a browser that is known
	failuresPerAddress = 60  // of whatever login
	failuresAnywhere   = 100 // of a login, from wherever
	FailureWindow      = 15 * time.Minute
)

// BrowserLife is how long a browser is known in which nobody signs in.
const BrowserLife = 365 * 24 * time.Hour

// Try is a try to sign in.
type Try struct {
	Login, Password string
	Address         string // where the request came from
	Browser         string // the token of a browser in which someone signed in before
}

// count is how often something may fail.
type count struct {
	key  string
	most int64
}

// counts of a try. What others try elsewhere does not count against the right
// person in a browser that is known to be theirs.
func (t Try) counts(known bool) []count {
	if known {
		return []count{{key: fmt.Sprintf("browser %x", kernel.HashOf(t.Browser)), most: FailuresPerLogin}}
	}
	return []count{{key: loginKey(t.Login) + " from " + strconv.Quote(t.Address), most: FailuresPerLogin},
		{key: loginKey(t.Login), most: failuresAnywhere},
		{key: "address " + strconv.Quote(t.Address), most: failuresPerAddress}}
}

// loginKey is that of a login, quoted, so that none can be read as that of another with an
// address.
func loginKey(login string) string { return "login " + strconv.Quote(login) }

// SignIn checks a login and password, and gives the token by which the browser is
// known from then on. A try counts as wrong from its beginning until it was right,
// so that no more are made at once than one after another.
func (a *Wing) SignIn(ctx context.Context, t Try) (in kernel.SignedIn, browser string, err error) {
	t.Login = strings.ToLower(strings.TrimSpace(t.Login))
	if len(t.Login) > 80 || len(t.Password) > maxPassword {
		return in, "", wrongPassword()
	}
	user, known, err := a.whoTries(ctx, t)
	if err != nil {
		return in, "", fmt.Errorf("looking the login up: %w", err)
	}
	begun := a.Now()
	counts := t.counts(known)
	if err := a.countTry(ctx, counts, begun); err != nil {
		return in, "", err
	}
	hash := nobody
	if user.ID != uuid.Nil {
		hash = user.PasswordHash
	}
	match, err := a.compare(ctx, t.Password, hash)
	if err != nil {
		return in, "", fmt.Errorf("comparing the password: %w", err)
	}
	if !match || user.ID == uuid.Nil {
		return in, "", wrongPassword()
	}
	err = a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) error {
		for _, c := range counts {
			if err := forgetFailures(tx, "key = ? AND at = ?", c.key, begun); err != nil {
				return err
			}
		}
		browser, err = a.knows(tx, user.ID, t.Browser)
		return err
	})
	return kernel.SignedIn{User: user.ID, Epoch: user.Epoch}, browser, err
}

// whoTries finds the user of a login, if there is one, and whether the browser is
// known to be theirs.
func (a *Wing) whoTries(ctx context.Context, t Try) (user model.User, known bool, err error) {
	err = a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) error {
		if err := store.One(tx, &user, "login = ?", t.Login); err != nil || t.Browser == "" {
			return err
		}
		n, err := store.Count[model.KnownBrowser](tx, "token_hash = ? AND user_id = ?", kernel.HashOf(t.Browser), user.ID)
		known = n > 0
		return err
	})
	if errors.Is(err, store.ErrNone) {
		err = nil
	}
	return user, known, err
}

// countTry counts a try, or refuses it where there were as many as there may be.
func (a *Wing) countTry(ctx context.Context, counts []count, now time.Time) error {
	return a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) error {
		if err := forgetFailures(tx, "at < ?", now.Add(-FailureWindow)); err != nil {
			return err
		}
		for _, c := range counts {
			if err := oneAtATime(tx, c.key); err != nil {
				return err
			}
			n, err := store.Count[model.SignInFailure](tx, "key = ? AND at > ?", c.key, now.Add(-FailureWindow))
			if err != nil {
				return fmt.Errorf("counting the tries: %w", err)
			}
			if n >= c.most {
				return &refuse.Error{Kind: refuse.TooMany,
					Sentence: "Too many wrong tries: wait a quarter of an hour, or ask an owner for a reset link."}
			}
			if err := store.Add(tx, &model.SignInFailure{Key: c.key, At: now}); err != nil {
				return fmt.Errorf("counting the try: %w", err)
			}
		}
		return nil
	})
}

// knows gives the token by which a browser is known to be a user's: the one that
// it has, or a new one.
func (a *Wing) knows(tx *store.Tx, user uuid.UUID, browser string) (string, error) {
	if browser != "" {
		err := store.SetOne[model.KnownBrowser](tx, map[string]any{"seen_at": a.Now()}, "token_hash = ? AND user_id = ?",
			kernel.HashOf(browser), user)
		if !errors.Is(err, store.ErrNone) {
			return browser, err
		}
	}
	err := store.Remove[model.KnownBrowser](tx, "user_id = ? AND seen_at < ?", user, a.Now().Add(-BrowserLife))
	if err != nil && !errors.Is(err, store.ErrNone) {
		return "", fmt.Errorf("forgetting old browsers: %w", err)
	}
	token := kernel.NewToken()
	row := model.KnownBrowser{TokenHash: kernel.HashOf(token), UserID: user, SeenAt: a.Now()}
	return token, store.Add(tx, &row)
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
