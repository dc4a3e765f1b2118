package gear

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync/atomic"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// A large import goes on behind its request, which waits so long for the end of
// it; then the page asks how far it is, whichever copy of the program it reaches.
const (
	importWait = 2 * time.Second
	importMost = 3 * time.Minute  // of one import; past it all of it is taken back
	importKept = 10 * time.Minute // how long what became of one can be asked
	importBeat = time.Second      // how often it says how far it is
	importLost = 20 * time.Second // unheard of for so long, it has ended with its program
)

// importEnd is what became of an import: its view, or why it was refused. An error that is
// not for people is told as one of ours.
type importEnd struct {
	View    ImportView    `json:"view"`
	Refused *importReason `json:"refused,omitempty"`
}

type importReason struct {
	Kind     refuse.Kind `json:"kind"`
	Sentence string      `json:"sentence"`
	Details  []string    `json:"details"`
}

func (e importEnd) told() (ImportView, error) {
	if r := e.Refused; r != nil {
		return e.View, &refuse.Error{Kind: r.Kind, Sentence: r.Sentence, Details: r.Details}
	}
	return e.View, nil
}

// endOf words what became of an import.
func endOf(view ImportView, err error) importEnd {
	e := importEnd{View: view}
	if err == nil {
		return e
	}
	e.Refused = &importReason{Kind: refuse.Refused, Sentence: "The import broke off; nothing of it was kept. Try again."}
	if r := (*refuse.Error)(nil); errors.As(err, &r) {
		e.Refused = &importReason{Kind: r.Kind, Sentence: r.Sentence, Details: r.Details}
	}
	return e
}

// StartImport imports a table. What takes longer than a moment goes on behind the
// request, and ImportGoesOn tells how far it is; a repeat with the same key
// changes nothing twice.
func (a *Wing) StartImport(ctx context.Context, actor kernel.Actor, key uuid.UUID, text []byte,
	chosen map[string]string) (ImportView, error) {
	fresh, err := a.beginImport(ctx, actor, key)
	if err != nil {
		return ImportView{}, err
	}
	if !fresh {
		return a.ImportGoesOn(ctx, actor)
	}
	type ended struct {
		view ImportView
		err  error
	}
	done := make(chan ended, 1)
	go func() {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), importMost)
		defer cancel()
		view, err := a.importHeard(ctx, actor, key, text, chosen)
		done <- ended{view: view, err: err}
	}()
	select {
	case e := <-done:
		return e.view, e.err
	case <-time.After(importWait):
		return importRuns(0), nil
	case <-ctx.Done():
		return ImportView{}, ctx.Err()
	}
}

func importRuns(share float64) ImportView {
	return ImportView{Rows: []RowFate{}, Headings: []Heading{}, Choices: []ColumnChoice{}, Running: true, Share: share}
}

// beginImport says whether the import is to be run now; not where it was begun before, and
// an error while another goes on.
func (a *Wing) beginImport(ctx context.Context, actor kernel.Actor, key uuid.UUID) (fresh bool, err error) {
	if key == uuid.Nil {
		key = store.NewID()
	}
	err = a.WriteAside(ctx, actor, func(tx *store.Tx) error {
		now := a.Now()
		row := model.Importing{CrewID: actor.Crew, Key: key, Begun: now, Heard: now}
		n, err := store.AddNew(tx, []model.Importing{row})
		if err != nil || n == 1 {
			fresh = n == 1
			return err
		}
		var was model.Importing
		if err := store.Locked(tx, &was, "true"); err != nil {
			return err
		}
		runs := !was.Ended && now.Sub(was.Heard) < importLost
		switch {
		case was.Key == key && (runs || was.Ended):
			return nil
		case runs:
			return &refuse.Error{Kind: refuse.Refused,
				Sentence: "Another table is being imported for this crew: wait until it is in."}
		}
		fresh = true
		return store.Put(tx, &row)
	})
	if err != nil {
		return false, fmt.Errorf("beginning an import: %w", err)
	}
	return fresh, nil
}

// importHeard imports a table, and says how far it is until it has ended.
func (a *Wing) importHeard(ctx context.Context, actor kernel.Actor, key uuid.UUID, text []byte,
	chosen map[string]string) (ImportView, error) {
	var thousandths atomic.Int64
	quiet := make(chan struct{})
	stopped := make(chan struct{})
	go func() {
		defer close(stopped)
		beat := time.NewTicker(importBeat)
		defer beat.Stop()
		for {
			select {
			case <-beat.C:
				a.sayImport(ctx, actor, map[string]any{"heard": a.Now(), "share": float64(thousandths.Load()) / 1000})
			case <-quiet:
				return
			}
		}
	}()
	view, err := a.importCalmly(ctx, actor, key, text, chosen, func(share float64) { thousandths.Store(int64(1000 * share)) })
	close(quiet)
	<-stopped
	told, failed := json.Marshal(endOf(view, err))
	if failed == nil {
		a.sayImport(context.WithoutCancel(ctx), actor, map[string]any{"heard": a.Now(), "ended": true, "share": 1.0,
			"told": json.RawMessage(told)})
	}
	return view, err
}

// sayImport keeps how far an import is, for whoever asks.
func (a *Wing) sayImport(ctx context.Context, actor kernel.Actor, columns map[string]any) {
	err := a.WriteAside(ctx, actor, func(tx *store.Tx) error { return store.Set[model.Importing](tx, columns, "true") })
	if err != nil {
		slog.WarnContext(ctx, "saying how far an import is", "error", err)
	}
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
func (a *Wing) ImportGoesOn(ctx context.Context, actor kernel.Actor) (ImportView, error) {
	var row model.Importing
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		return kernel.Absent(store.One(tx, &row, "begun > ?", a.Now().Add(-importKept)), "import")
	})
	switch {
	case err != nil:
		return ImportView{}, err
	case !row.Ended && a.Now().Sub(row.Heard) < importLost:
		return importRuns(row.Share), nil
	case !row.Ended:
		return endOf(ImportView{}, errors.New("it ended with its program")).told()
	}
	var end importEnd
	if err := json.Unmarshal(row.Told, &end); err != nil {
		return ImportView{}, fmt.Errorf("reading what became of an import: %w", err)
	}
	return end.told()
}
