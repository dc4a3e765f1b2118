package trips

import (
	"context"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LogInput is what is told after a trip.
type LogInput struct {
	Version int         `json:"version"`
	Hours   float64     `json:"hours"`
	Filled  *float64    `json:"filled_l,omitempty" doc:"Litres filled after it: what it took"`
	Used    []uuid.UUID `json:"used,omitempty" maxItems:"500" format:"uuid" doc:"What a hand came to; the rest that went along then counts as not used. Absent: nobody said"`
	Broke   []Broke     `json:"broke,omitempty" maxItems:"50"`
	model.TripLog
}

// Broke is a piece that is worn or broken since, and how.
type Broke struct {
	GearID    uuid.UUID `json:"gear_id" format:"uuid"`
	Condition string    `json:"condition" enum:"worn,broken"`
	How       string    `json:"how,omitempty"`
}

func (in LogInput) check() error {
	var fs check.Faults
	fs.Within("hours", in.Hours, 0, 1000)
	if in.Filled != nil {
		fs.Within("filled_l", *in.Filled, 0, 5000)
	}
	fs.Within("distance_m", in.Distance, 0, 5e6)
	fs.Within("fetching", in.Fetching, 0, 5)
	fs.Within("ice_left_kg", in.IceLeft, 0, 1000)
	for i, v := range in.Volts {
		fs.Text(fmt.Sprintf("volts[%d].bank", i), v.Bank, 1, 40)
		fs.Within(fmt.Sprintf("volts[%d].before_v", i), v.Before, 0, 120)
		fs.Within(fmt.Sprintf("volts[%d].after_v", i), v.After, 0, 120)
	}
	if n := len(in.Notes); n > 4000 {
		fs.Add("notes", n, "at most 4000 letters")
	}
	for i, b := range in.Broke {
		fs.OneOf(fmt.Sprintf("broke[%d].condition", i), b.Condition, "worn", "broken")
		fs.Text(fmt.Sprintf("broke[%d].how", i), b.How, 0, 200)
	}
	return refuse.Faulty(fs.Err())
}

// LogTrip closes a trip with what is told after it. Everything aboard of its boat and
// everything promised to it has been on one trip more, that long.
func (a *Wing) LogTrip(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, in LogInput) error {
	if err := in.check(); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"log", id, in}, func() (uuid.UUID, error) {
			var t model.Trip
			if err := store.Locked(tx, &t, "id = ?", id); err != nil {
				return id, kernel.Absent(err, "trip")
			}
			if t.LoggedAt != nil || t.Version != in.Version {
				return id, refuse.Stale(t.Name, ViewTrip(t))
			}
			if t.StartsOn.After(a.Today()) {
				return id, &refuse.Error{Kind: refuse.Refused, Sentence: t.Name + " has not begun: log it when it is over."}
			}
			return id, a.logTrip(tx, actor, t, in)
		})
		return err
	})
}

func (a *Wing) logTrip(tx *store.Tx, actor kernel.Actor, t model.Trip, in LogInput) error {
	version, now := t.Version, a.Now()
	t.LoggedAt, t.Hours, t.FilledL, t.Log, t.Version = &now, in.Hours, in.Filled, &in.TripLog, version+1
	if err := kernel.Keep(tx, &t, t.ID, version, "trip", t.Name); err != nil {
		return err
	}
	if err := noteUse(tx, t, in.Used); err != nil {
		return err
	}
	if err := countTrip(tx, t, in.Hours, now); err != nil {
		return err
	}
	for _, b := range in.Broke {
		if err := a.broke(tx, actor, t, b); err != nil {
			return err
		}
	}
	err := store.Set[model.Booking](tx, map[string]any{"ended_on": a.Today()}, "trip_id = ? AND ended_on IS NULL", t.ID)
	if err != nil {
		return fmt.Errorf("ending the promises: %w", err)
	}
	return nil
}

// broke notes of a piece what became of it on a trip.
func (a *Wing) broke(tx *store.Tx, actor kernel.Actor, t model.Trip, b Broke) error {
	var was model.Gear
	if err := store.One(tx, &was, "id = ?", b.GearID); err != nil {
		return kernel.Absent(err, "gear")
	}
	if was.Condition != b.Condition {
		row := was
		row.Condition, row.Version = b.Condition, was.Version+1
		if err := a.gear.ChangeGear(tx, actor, was, row); err != nil {
			return err
		}
	}
	said := b.Condition + " on " + t.Name
	if b.How != "" {
		said += ": " + b.How
	}
	return a.gear.Note(tx, actor, b.GearID, "note", said)
}
