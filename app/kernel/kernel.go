// Package kernel is what every wing stands on: who asks and what their role may
// do, one transaction within one crew, writes that may be repeated, days.
package kernel

import (
	"context"
	"errors"
	"time"

	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Kernel is a database, a clock, and whose turn it is to write. The wings share one.
type Kernel struct {
	DB     *store.DB
	Now    func() time.Time
	Writes *Queue
}

// Actor is a member of a crew who asks for something.
type Actor struct {
	Crew   uuid.UUID
	User   uuid.UUID
	Member uuid.UUID
	Role   Role
	Units  string // in which sentences are written for the actor
}

// SignedIn is who a session belongs to. Epoch ends it when the user's is raised.
type SignedIn struct {
	User  uuid.UUID
	Epoch int
}

// In runs fn in one transaction of the actor's crew that changes nothing.
func (k *Kernel) In(ctx context.Context, actor Actor, fn func(tx *store.Tx) error) error {
	return k.DB.In(ctx, store.Scope{Crew: actor.Crew, User: actor.User, Read: true}, fn)
}

// Write runs fn in one transaction of the actor's crew; an error takes all of it back. The
// writes of a crew are made one after another, so that what was looked at stays as it is
// until it is written. The turn is waited for without a connection.
func (k *Kernel) Write(ctx context.Context, actor Actor, fn func(tx *store.Tx) error) error {
	return k.WriteAt(ctx, actor, func(tx *store.Tx, _ int64) error { return fn(tx) })
}

// WriteAt is Write that also gives the number of the turn: it is one more than that of the
// write before, so that who worked something out before the turn came knows whether it still holds.
func (k *Kernel) WriteAt(ctx context.Context, actor Actor, fn func(tx *store.Tx, turn int64) error) error {
	if !k.DB.Part() {
		done, err := k.Writes.Take(ctx, actor.Crew)
		if err != nil {
			return err
		}
		defer done()
	}
	return k.DB.In(ctx, store.Scope{Crew: actor.Crew, User: actor.User}, func(tx *store.Tx) error {
		turn, err := tx.Lock()
		if err != nil {
			return Absent(err, "crew")
		}
		return fn(tx, turn)
	})
}

// WriteAside is Write of rows that nothing else is worked out from, such as ticks: it waits
// for no other write of the crew.
func (k *Kernel) WriteAside(ctx context.Context, actor Actor, fn func(tx *store.Tx) error) error {
	return k.DB.In(ctx, store.Scope{Crew: actor.Crew, User: actor.User}, fn)
}

// Today is the day it is, as the program's clock says it, in UTC.
func (k *Kernel) Today() time.Time { return k.Now().UTC().Truncate(24 * time.Hour) }

// Absent turns a row that is not there into a refusal that says so.
func Absent(err error, what string) error {
	if errors.Is(err, store.ErrNone) {
		return refuse.Missing(what)
	}
	return err
}

// Taken turns a broken unique name into a fault of the field.
func Taken(err error, field, name string) error {
	if errors.Is(err, store.ErrTaken) {
		return refuse.Faulty(check.Faults{{Field: field, Value: name, Want: "is taken: choose another"}})
	}
	return err
}

// Keep makes a row (no id), or writes it over the version that was seen; the row's
// own id and version are set already.
func Keep[T store.Row](tx *store.Tx, row *T, id uuid.UUID, version int, what, name string) error {
	if id == uuid.Nil {
		return Taken(store.Add(tx, row), "name", name)
	}
	err := store.Save(tx, row, id, version)
	if errors.Is(err, store.ErrStale) {
		return refuse.Stale(name, nil)
	}
	return Taken(Absent(err, what), "name", name)
}

// NameOf is a member's name.
func NameOf(tx *store.Tx, member uuid.UUID) (string, error) {
	var m model.Member
	if err := store.One(tx, &m, "id = ?", member); err != nil {
		return "", Absent(err, "person")
	}
	return m.Name, nil
}

// IDOr is the id, or a new one where there is none.
func IDOr(id uuid.UUID) uuid.UUID {
	if id == uuid.Nil {
		return store.NewID()
	}
	return id
}

// Named is an id with its name.
type Named struct {
	ID   uuid.UUID
	Name string
}
