package crew

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"errors"
	"strings"
	"sync"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"
)

// founding is the one-time code by which the first crew is founded from a browser.
// Only who sees the terminal of the program has it, and it is good for as long as
// there is no crew.
type founding struct {
	mu    sync.Mutex
	code  string // empty where nobody may found a crew
	tries int
}

const (
	codeLetters = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789" // without those that are mistaken for others
	codeLength  = 12
	mostTries   = 20 // after which the code is void
)

// FoundingCode makes the one-time code where nobody can sign in yet; empty else.
func (a *Wing) FoundingCode(ctx context.Context) (string, error) {
	empty, err := a.nobody(ctx)
	if err != nil || !empty {
		return "", err
	}
	random := make([]byte, codeLength)
	if _, err := rand.Read(random); err != nil {
		return "", err
	}
	for i, b := range random {
		random[i] = codeLetters[int(b)%len(codeLetters)]
	}
	a.founding.mu.Lock()
	defer a.founding.mu.Unlock()
	a.founding.code, a.founding.tries = string(random), 0
	return a.founding.code[:4] + "-" + a.founding.code[4:8] + "-" + a.founding.code[8:], nil
}

// Founding says whether a crew may be founded with a code: there is one, and still
// nobody who can sign in.
func (a *Wing) Founding(ctx context.Context) (bool, error) {
	a.founding.mu.Lock()
	defer a.founding.mu.Unlock()
	if a.founding.code == "" {
		return false, nil
	}
	empty, err := a.nobody(ctx)
	if err == nil && !empty {
		a.founding.code = ""
	}
	return empty, err
}

func (a *Wing) nobody(ctx context.Context) (bool, error) {
	var n int64
	err := a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) (err error) {
		n, err = store.Count[model.User](tx, "true")
		return err
	})
	return n == 0, err
}

// FoundInput founds the first crew.
type FoundInput struct {
	Code     string `json:"code" maxLength:"40" doc:"As it stands in the program's terminal"`
	Crew     string `json:"crew" maxLength:"80"`
	Name     string `json:"name" maxLength:"80" doc:"Of its first owner"`
	Login    string `json:"login" maxLength:"200"`
	Password string `json:"password" maxLength:"400"`
}

// FoundFirst founds the first crew with the one-time code, and signs its owner in.
func (a *Wing) FoundFirst(ctx context.Context, in FoundInput) (signed kernel.SignedIn, browser string, err error) {
	a.founding.mu.Lock()
	defer a.founding.mu.Unlock() // one at a time: the code is good once
	if err := a.founding.check(in.Code); err != nil {
		return signed, "", err
	}
	empty, err := a.nobody(ctx)
	if err != nil {
		return signed, "", err
	}
	if !empty {
		a.founding.code = ""
		return signed, "", founded()
	}
	_, _, err = a.found(ctx, strings.TrimSpace(in.Crew), strings.TrimSpace(in.Name), in.Login, in.Password,
		func(tx *store.Tx) error {
			if errors.Is(store.Add(tx, &model.Founded{Once: true, At: a.Now()}), store.ErrTaken) {
				return founded() // by another copy of the program, just now
			}
			return nil
		})
	if err != nil {
		return signed, "", err
	}
	a.founding.code = ""
	var user model.User
	err = a.DB.In(ctx, store.Scope{}, func(tx *store.Tx) (err error) {
		if err := store.One(tx, &user, "true"); err != nil {
			return err
		}
		browser, err = a.knows(tx, user.ID, "")
		return err
	})
	return kernel.SignedIn{User: user.ID, Epoch: user.Epoch}, browser, err
}

func founded() error {
	return &refuse.Error{Kind: refuse.Refused, Sentence: "There is a crew here already: ask its owner to invite you."}
}

// check compares a code as people type it: small letters and dashes don't matter.
func (f *founding) check(typed string) error {
	if f.code == "" {
		return &refuse.Error{Kind: refuse.Refused, Sentence: "No crew can be founded here: ask an owner to invite you, or start the program anew."}
	}
	if f.tries++; f.tries > mostTries {
		f.code = ""
		return &refuse.Error{Kind: refuse.TooMany, Sentence: "That was wrong too often: start the program anew for another code."}
	}
	plain := strings.ToUpper(strings.NewReplacer("-", "", " ", "").Replace(typed))
	if subtle.ConstantTimeCompare([]byte(plain), []byte(f.code)) != 1 {
		return &refuse.Error{Kind: refuse.Invalid, Sentence: "This is not the code: it stands in the terminal in which the program was started."}
	}
	f.tries = 0
	return nil
}
