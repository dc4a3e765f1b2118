package crew

import (
	"context"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/reach"
	"ergasia/store"
	"ergasia/store/model"
)

// TimeTable are the times that a crew may change.
type TimeTable = reach.Table

// UsualTimes are what a crew begins with.
func UsualTimes() TimeTable { return reach.DefaultTable() }

// Times is how long things take in a crew, and the usual table beside it.
type Times struct {
	Own   bool        `json:"own" doc:"Whether the crew set times of its own"`
	Times reach.Table `json:"times"`
	Usual reach.Table `json:"usual" doc:"What a crew begins with"`
}

// Times gives the crew's table.
func (a *Wing) Times(ctx context.Context, actor kernel.Actor) (Times, error) {
	t := Times{Usual: reach.DefaultTable()}
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		t.Times, t.Own, err = TimesOf(tx)
		return err
	})
	return t, err
}

// TimesOf is the crew's table, and whether it is its own.
func TimesOf(tx *store.Tx) (reach.Table, bool, error) {
	var crew model.Crew
	if err := store.One(tx, &crew, ""); err != nil {
		return reach.Table{}, false, kernel.Absent(err, "crew")
	}
	if crew.Times == nil {
		return reach.DefaultTable(), false, nil
	}
	return *crew.Times, true, nil
}

// SetTimes keeps a table of the crew's own; the usual one forgets it.
func (a *Wing) SetTimes(ctx context.Context, actor kernel.Actor, t reach.Table) (Times, error) {
	var fs check.Faults
	t.Check(&fs, "")
	if err := refuse.Faulty(fs.Err()); err != nil {
		return Times{}, err
	}
	var kept *reach.Table
	if t != reach.DefaultTable() {
		kept = &t
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		return store.Set[model.Crew](tx, map[string]any{"times": kept}, "true")
	})
	if err != nil {
		return Times{}, fmt.Errorf("keeping the times: %w", err)
	}
	return a.Times(ctx, actor)
}
