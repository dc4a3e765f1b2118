package crew

import (
	"context"
	"encoding/json"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/reach"
	"ergasia/store/model"

	"gorm.io/gorm"
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
	err := a.In(ctx, actor, func(tx *gorm.DB) (err error) {
		t.Times, t.Own, err = TimesOf(tx, actor)
		return err
	})
	return t, err
}

func TimesOf(tx *gorm.DB, actor kernel.Actor) (reach.Table, bool, error) {
	var crew model.Crew
	if err := tx.Where("id = ?", actor.Crew).Take(&crew).Error; err != nil {
		return reach.Table{}, false, kernel.Absent(err, "crew")
	}
	t := reach.DefaultTable()
	if len(crew.Times) == 0 {
		return t, false, nil
	}
	if err := json.Unmarshal(crew.Times, &t); err != nil {
		return t, false, fmt.Errorf("reading the crew's times: %w", err)
	}
	return t, true, nil
}

// SetTimes keeps a table of the crew's own; the usual one forgets it.
func (a *Wing) SetTimes(ctx context.Context, actor kernel.Actor, t reach.Table) (Times, error) {
	var fs check.Faults
	t.Check(&fs, "")
	if err := refuse.Faulty(fs.Err()); err != nil {
		return Times{}, err
	}
	var kept model.JSON
	if t != reach.DefaultTable() {
		text, err := json.Marshal(t)
		if err != nil {
			return Times{}, fmt.Errorf("writing the times: %w", err)
		}
		kept = text
	}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		return tx.Model(&model.Crew{}).Where("id = ?", actor.Crew).Update("times", kept).Error
	})
	if err != nil {
		return Times{}, fmt.Errorf("keeping the times: %w", err)
	}
	return a.Times(ctx, actor)
}
