package where

import (
	"context"
	"fmt"
	"math"
	"time"

	"ergasia/app/kernel"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// DiaryRow is one thing that was moved, or came new.
type DiaryRow struct {
	Seq    int64      `json:"seq"`
	At     time.Time  `json:"at"`
	By     string     `json:"by"`
	Kind   string     `json:"kind" enum:"move,undo,redo,new"`
	What   string     `json:"what" doc:"As a sentence's end, such as: put the cooler in aft locker"`
	GearID *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
}

// Diary is all that was moved on a boat's page, newest first.
type Diary struct {
	Rows []DiaryRow `json:"rows"`
	Next int64      `json:"next,omitempty" doc:"Ask with before for what came before"`
}

const diaryPage = 100

// Diary reads a boat's log, before a number where one is given.
func (a *Wing) Diary(ctx context.Context, actor kernel.Actor, boat uuid.UUID, before int64) (Diary, error) {
	d := Diary{Rows: []DiaryRow{}}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		s, err := a.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		var events []model.Event
		if before == 0 {
			before = math.MaxInt64
		}
		if err := store.Some(tx, &events, diaryPage+1, "seq DESC", "boat_id = ? AND seq < ?", boat, before); err != nil {
			return fmt.Errorf("reading the diary: %w", err)
		}
		if len(events) > diaryPage {
			events = events[:diaryPage]
			d.Next = events[diaryPage-1].Seq
		}
		var gear []*uuid.UUID
		for _, e := range events {
			gear = append(gear, e.GearID)
		}
		if err := Fetch(tx, s, gear...); err != nil {
			return err
		}
		var people []model.Member
		if err := store.All(tx, &people, "", ""); err != nil { // also who has left
			return fmt.Errorf("reading who did it: %w", err)
		}
		names := map[uuid.UUID]string{}
		for _, m := range people {
			names[m.ID] = m.Name
		}
		for _, e := range events {
			d.Rows = append(d.Rows, DiaryRow{Seq: e.Seq, At: e.At, By: names[e.ByMember], Kind: e.Kind, What: s.What(e), GearID: e.GearID})
		}
		return nil
	})
	return d, err
}
