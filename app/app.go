// Package app has the use cases: each loads what an engine needs, runs it and
// saves, inside one transaction and one crew. One file a capability. Interfaces
// (HTTP, command line) call it; it knows none of them.
package app

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"ergasia/core/check"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// App is every use case over one database.
type App struct {
	db    *store.DB
	boats *boatCache
	now   func() time.Time
	scale *Scale
	// hashing has room for as many password hashes as may be computed at once.
	hashing chan struct{}
	// planning has room for as many plans as may be looked for at once.
	planning chan struct{}
}

const (
	hashesAtOnce = 4
	plansAtOnce  = 2
)

// New makes the use cases over a database.
func New(db *store.DB) *App {
	return &App{db: db, boats: newBoatCache(), now: time.Now, scale: &Scale{}, hashing: make(chan struct{}, hashesAtOnce), planning: make(chan struct{}, plansAtOnce)}
}

// Whole runs several use cases of which all are kept or none.
func (a *App) Whole(ctx context.Context, fn func(*App) error) error {
	return a.db.Whole(ctx, func(db *store.DB) error {
		return fn(&App{db: db, boats: a.boats, now: a.now, scale: a.scale, hashing: a.hashing})
	})
}

// Ready says whether requests can be served.
func (a *App) Ready(ctx context.Context) error { return a.db.Ready(ctx) }

// Kind says what sort of refusal an Error is.
type Kind int

// The kinds.
const (
	Invalid   Kind = iota + 1 // the input is wrong
	NotFound                  // there is no such thing in this crew
	Forbidden                 // the role may not
	Conflict                  // the edit is stale; State has the present
	Refused                   // a rule of the boat says no; Sentences say why
	TooMany                   // tried too often
	SignedOut                 // not signed in, or wrongly
)

// Error is a refusal that a person reads.
type Error struct {
	Kind     Kind
	Sentence string
	Faults   check.Faults // of Invalid
	Details  []string     // more sentences
	State    any          // of Conflict: what is true now
}

// Error is the sentence.
func (e *Error) Error() string { return e.Sentence }

func notFound(what string) error {
	return &Error{Kind: NotFound, Sentence: "There is no such " + what + " in this crew."}
}

// invalid wraps faults of an input; nil stays nil.
func invalid(err error) error {
	var fs check.Faults
	if errors.As(err, &fs) && len(fs) > 0 {
		return &Error{Kind: Invalid, Sentence: "Something in the input is not right.", Faults: fs}
	}
	return err
}

// Actor is a member of a crew who asks for something.
type Actor struct {
	Crew   uuid.UUID
	User   uuid.UUID
	Member uuid.UUID
	Role   Role
	Units  string // in which sentences are written for the actor
}

// Actor finds the membership of a session's user in a crew, and refuses the
// action where the role may not. A crew that the user is not in looks like none,
// and so does every crew to a session that has been ended.
func (a *App) Actor(ctx context.Context, session SignedIn, crew uuid.UUID, action Action) (Actor, error) {
	var m store.Member
	err := a.db.In(ctx, store.Scope{Crew: crew, User: session.User}, func(tx *gorm.DB) error {
		return tx.Joins("JOIN app_user ON app_user.id = member.user_id AND app_user.epoch = ?", session.Epoch).
			Where("member.crew_id = ? AND member.user_id = ?", crew, session.User).Take(&m).Error
	})
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Actor{}, &Error{Kind: NotFound, Sentence: "There is no such crew, or you are not in it."}
	}
	if err != nil {
		return Actor{}, fmt.Errorf("finding the membership: %w", err)
	}
	actor := Actor{Crew: crew, User: session.User, Member: m.ID, Role: Role(m.Role), Units: m.Units}
	if !Allowed(actor.Role, action) {
		return Actor{}, &Error{Kind: Forbidden, Sentence: fmt.Sprintf("A %s may not %s; ask %s.", m.Role, action, who(action))}
	}
	return actor, nil
}

func (a *App) in(ctx context.Context, actor Actor, fn func(tx *gorm.DB) error) error {
	return a.db.In(ctx, store.Scope{Crew: actor.Crew, User: actor.User}, fn)
}

// keepAnswered is how long a write's key is remembered.
const keepAnswered = 7 * 24 * time.Hour

// once runs a write unless the key was answered before; then it gives what that
// write made. A nil key is a write that is never repeated. The row is part of
// the write's own transaction, so both are kept or neither.
func (a *App) once(tx *gorm.DB, actor Actor, key uuid.UUID, input any, write func() (uuid.UUID, error)) (uuid.UUID, bool, error) {
	if key == uuid.Nil {
		id, err := write()
		return id, false, err
	}
	text, err := json.Marshal(input)
	if err != nil {
		return uuid.Nil, false, fmt.Errorf("reading the request again: %w", err)
	}
	sum := sha256.Sum256(append(text, actor.Member[:]...))
	row := store.Answered{CrewID: actor.Crew, Key: key, Fingerprint: sum[:], At: a.now()}
	created := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&row)
	if created.Error != nil {
		return uuid.Nil, false, fmt.Errorf("keeping the request's key: %w", created.Error)
	}
	if created.RowsAffected == 0 {
		return repeated(tx, actor, key, sum[:])
	}
	id, err := write()
	if err != nil {
		return uuid.Nil, false, err
	}
	err = tx.Model(&row).Update("result_id", id).Error
	if err == nil {
		err = tx.Where("crew_id = ? AND at < ?", actor.Crew, a.now().Add(-keepAnswered)).Delete(&store.Answered{}).Error
	}
	if err != nil {
		return uuid.Nil, false, fmt.Errorf("keeping the request's answer: %w", err)
	}
	return id, false, nil
}

func repeated(tx *gorm.DB, actor Actor, key uuid.UUID, sum []byte) (uuid.UUID, bool, error) {
	var row store.Answered
	if err := tx.Where("crew_id = ? AND key = ?", actor.Crew, key).Take(&row).Error; err != nil {
		return uuid.Nil, false, fmt.Errorf("finding the request's answer: %w", err)
	}
	if string(row.Fingerprint) != string(sum) {
		return uuid.Nil, false, &Error{Kind: Invalid, Sentence: "This Idempotency-Key was used for another request: use a new one."}
	}
	if row.ResultID == nil {
		return uuid.Nil, true, nil
	}
	return *row.ResultID, true, nil
}

// named turns a broken unique name into a fault.
func named(err error, field, name string) error {
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return invalid(check.Faults{{Field: field, Value: name, Want: "is taken: choose another"}})
	}
	return err
}
