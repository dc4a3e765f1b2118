package gear

import (
	"context"
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"

	"github.com/google/uuid"
)

// A large import goes on behind its request, which waits so long for the end of
// it; then the page asks how far it is.
const (
	importWait = 2 * time.Second
	importMost = 3 * time.Minute  // of one import; past it all of it is taken back
	importKept = 10 * time.Minute // how long what became of one can be asked
)

// imports are the last imports of the crews, in memory: an import is one
// transaction, so what ends with the program has changed nothing.
type imports struct {
	mu   sync.Mutex
	last map[uuid.UUID]*importing
}

// importing is one import as it goes on.
type importing struct {
	key   uuid.UUID
	begun time.Time
	done  chan struct{}

	mu    sync.Mutex
	share float64
	view  ImportView
	err   error
}

func (one *importing) at(share float64) {
	one.mu.Lock()
	defer one.mu.Unlock()
	one.share = share
}

func (one *importing) end(view ImportView, err error) {
	one.mu.Lock()
	one.view, one.err = view, err
	one.mu.Unlock()
	close(one.done)
}

// told is what there is to say of it now.
func (one *importing) told() (ImportView, error) {
	one.mu.Lock()
	defer one.mu.Unlock()
	select {
	case <-one.done:
		return one.view, one.err
	default:
		return ImportView{Rows: []RowFate{}, Headings: []Heading{}, Choices: []ColumnChoice{}, Running: true, Share: one.share}, nil
	}
}

// begin gives the crew's import of that key, and whether it is to be run now;
// nil while another goes on.
func (all *imports) begin(crew, key uuid.UUID, now time.Time) (one *importing, fresh bool) {
	all.mu.Lock()
	defer all.mu.Unlock()
	for id, old := range all.last {
		if now.Sub(old.begun) > importKept {
			delete(all.last, id)
		}
	}
	if was := all.last[crew]; was != nil {
		if was.key == key && key != uuid.Nil {
			return was, false
		}
		select {
		case <-was.done:
		default:
			return nil, false
		}
	}
	one = &importing{key: key, begun: now, done: make(chan struct{})}
	all.last[crew] = one
	return one, true
}

// StartImport imports a table. What takes longer than a moment goes on behind the
// request, and ImportGoesOn tells how far it is; a repeat with the same key
// changes nothing twice.
func (a *Wing) StartImport(ctx context.Context, actor kernel.Actor, key uuid.UUID, text []byte,
	chosen map[string]string) (ImportView, error) {
	one, fresh := a.imports.begin(actor.Crew, key, a.Now())
	if one == nil {
		return ImportView{}, &refuse.Error{Kind: refuse.Refused,
			Sentence: "Another table is being imported for this crew: wait until it is in."}
	}
	if fresh {
		go func() {
			ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), importMost)
			defer cancel()
			one.end(a.importCalmly(ctx, actor, key, text, chosen, one.at))
		}()
	}
	select {
	case <-one.done:
	case <-time.After(importWait):
	case <-ctx.Done():
		return ImportView{}, ctx.Err()
	}
	return one.told()
}

// importCalmly is importTable behind a request, where no one else catches a panic.
func (a *Wing) importCalmly(ctx context.Context, actor kernel.Actor, key uuid.UUID, text []byte, chosen map[string]string,
	tell func(float64)) (view ImportView, err error) {
	defer func() {
		if p := recover(); p != nil {
			slog.ErrorContext(ctx, "panic in an import", "panic", p, "stack", string(debug.Stack()))
			err = fmt.Errorf("importing a table: %v", p)
		}
	}()
	return a.importTable(ctx, actor, key, text, chosen, tell)
}

// ImportGoesOn tells how far the crew's import is, or what became of it.
func (a *Wing) ImportGoesOn(_ context.Context, actor kernel.Actor) (ImportView, error) {
	a.imports.mu.Lock()
	one := a.imports.last[actor.Crew]
	a.imports.mu.Unlock()
	if one == nil {
		return ImportView{}, refuse.Missing("import")
	}
	return one.told()
}
