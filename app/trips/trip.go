package trips

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"time"

	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// TripInput is what is said of a trip.
type TripInput struct {
	Name     string      `json:"name"`
	Kind     string      `json:"kind,omitempty" words:"trip_kinds" doc:"A day out where it is left out"`
	Water    string      `json:"water,omitempty"`
	BoatID   *uuid.UUID  `json:"boat_id,omitempty" format:"uuid"`
	StartsOn kernel.Date `json:"starts_on"`
	EndsOn   kernel.Date `json:"ends_on"`
	Persons  int         `json:"persons"`
	Rods     int         `json:"rods"`
	Hours    float64     `json:"hours" doc:"Of running: expected, and once logged what it was"`
}

func (in TripInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.OneOf("kind", in.Kind, words.TripKinds.OrNone()...)
	fs.Text("water", in.Water, 0, 80)
	if d := in.Days(); d < 1 || d > 60 {
		fs.Add("ends_on", in.EndsOn, fmt.Sprintf("must be from the first day, %s, to 59 days later", in.StartsOn))
	}
	fs.Within("persons", float64(in.Persons), 1, 20)
	fs.Within("rods", float64(in.Rods), 0, 60)
	fs.Within("hours", in.Hours, 0, 1000)
	return refuse.Faulty(fs.Err())
}

// into puts what is said into a trip. Who come are counted, where that is known.
func (in TripInput) into(t *model.Trip) {
	if t.BoatID != nil && (in.BoatID == nil || *t.BoatID != *in.BoatID) {
		t.Forget()
	}
	t.Name, t.Kind, t.Water, t.BoatID = in.Name, cmp.Or(in.Kind, "day"), in.Water, in.BoatID
	t.StartsOn, t.EndsOn, t.Rods, t.Hours = in.StartsOn.At, in.EndsOn.At, in.Rods, in.Hours
	if t.Persons = in.Persons; len(t.People) > 0 {
		t.Persons = len(t.People)
	}
}

// Days is how many days it takes, the first and the last included.
func (in TripInput) Days() int {
	return int(kernel.DayOfTime(in.EndsOn.At)-kernel.DayOfTime(in.StartsOn.At)) + 1
}

// TripView is a trip.
type TripView struct {
	ID       uuid.UUID `json:"id" format:"uuid"`
	Version  int       `json:"version"`
	Logged   bool      `json:"logged"`
	Promised int       `json:"promised" doc:"Pieces promised to it"`
	TripInput
	People []model.TripPerson `json:"people" doc:"Who come, where somebody said"`
}

// ViewTrip is a trip as it is shown.
func ViewTrip(t model.Trip) TripView {
	return TripView{ID: t.ID, Version: t.Version, Logged: t.LoggedAt != nil, People: append([]model.TripPerson{}, t.People...),
		TripInput: TripInput{Name: t.Name, Kind: t.Kind, Water: t.Water, BoatID: t.BoatID, StartsOn: kernel.DayOf(t.StartsOn), EndsOn: kernel.DayOf(t.EndsOn),
			Persons: t.Persons, Rods: t.Rods, Hours: t.Hours}}
}

// Trips lists trips: those ahead, soonest first, then the latest logged.
func (a *Wing) Trips(ctx context.Context, actor kernel.Actor) ([]TripView, error) {
	list := []TripView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		rows, err := tripRows(tx)
		for _, r := range rows {
			v := ViewTrip(r.Trip)
			v.Promised, v.People = r.Promised, SeenBy(actor, v.People)
			list = append(list, v)
		}
		return err
	})
	return list, err
}

// Ahead are the trips that were not logged and not over yesterday, soonest first.
func (a *Wing) Ahead(tx *store.Tx) ([]model.Trip, error) {
	var list []model.Trip
	err := store.All(tx, &list, "starts_on, id", "logged_at IS NULL AND ends_on >= ?", a.Today())
	if err != nil {
		err = fmt.Errorf("loading the trips ahead: %w", err)
	}
	return list, err
}

// SaveTrip makes a trip (no id) or changes one that is ahead. Its promises move
// with its days, unless one of them is promised elsewhere then.
func (a *Wing) SaveTrip(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in TripInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return id, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"trip", id, version, in}, func() (uuid.UUID, error) {
			if in.BoatID != nil {
				if err := fleet.BoatExists(tx, *in.BoatID); err != nil {
					return id, err
				}
			}
			var was model.Trip
			if id != uuid.Nil {
				if err := store.One(tx, &was, "id = ?", id); err != nil {
					return id, kernel.Absent(err, "trip")
				}
				if was.LoggedAt != nil {
					return id, &refuse.Error{Kind: refuse.Refused, Sentence: was.Name + " is logged: what was is not changed."}
				}
			}
			row := was
			row.ID, row.CrewID, row.Version = kernel.IDOr(id), actor.Crew, version+1
			in.into(&row)
			if err := kernel.Keep(tx, &row, id, version, "trip", in.Name); err != nil {
				return id, err
			}
			err := store.Set[model.Booking](tx, map[string]any{"from_on": in.StartsOn.At, "until_on": in.EndsOn.At},
				"trip_id = ?", row.ID)
			if store.Excluded(err) {
				return id, &refuse.Error{Kind: refuse.Refused,
					Sentence: "Some of what is promised to it is on another trip or lent on those days: take it off the trip first."}
			}
			return row.ID, err
		})
		id = made
		return err
	})
	return id, err
}

// RemoveTrip takes a trip away; what was promised to it is free.
func (a *Wing) RemoveTrip(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Trip
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "trip")
		}
		var s kernel.Stroke
		args := store.Args{"id": id}
		if err := errors.Join(s.Gone(tx, "id = @id", args, "trip"), s.Gone(tx, "trip_id = @id", args, "booking", "arrangement")); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, row.Name+" was cancelled.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Trip](tx, "id = ?", id), "trip")
	})
}

// Promise promises pieces to a trip: those that are free, and a sentence for
// each that is not.
func (a *Wing) Promise(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID,
	gear []uuid.UUID) (refused []string, err error) {
	refused = []string{}
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"promise", trip, gear}, func() (uuid.UUID, error) {
			var t model.Trip
			if err := store.One(tx, &t, "id = ? AND logged_at IS NULL", trip); err != nil {
				return trip, kernel.Absent(err, "trip that is ahead")
			}
			var err error
			refused, err = a.PromiseAll(tx, actor, t, gear)
			return trip, err
		})
		return err
	})
	return refused, err
}

// PromiseAll promises pieces to a trip: those that are free, and a sentence for each
// that is not.
func (a *Wing) PromiseAll(tx *store.Tx, actor kernel.Actor, t model.Trip, gear []uuid.UUID) ([]string, error) {
	refused := []string{}
	for _, id := range gear {
		why, err := a.promise(tx, actor, t, id)
		if err != nil {
			return refused, err
		}
		if why != "" {
			refused = append(refused, why)
		}
	}
	return refused, nil
}

// promise promises one piece, or says why it can't be; one that is promised to
// this trip already is nothing to say.
func (a *Wing) promise(tx *store.Tx, actor kernel.Actor, t model.Trip, id uuid.UUID) (string, error) {
	var g model.Gear
	if err := store.One(tx, &g, "id = ?", id); err != nil {
		return "", kernel.Absent(err, "gear")
	}
	n, err := store.Count[model.Booking](tx, "trip_id = ? AND gear_id = ?", t.ID, id)
	if err != nil || n > 0 {
		return "", err
	}
	err = gear.Spoken(tx, g, t.StartsOn, &t.EndsOn)
	if refusal := (*refuse.Error)(nil); errors.As(err, &refusal) {
		return refusal.Sentence, nil
	}
	if err != nil {
		return "", err
	}
	return "", store.Add(tx, &model.Booking{ID: store.NewID(), CrewID: actor.Crew, GearID: id, Way: "trip", TripID: &t.ID,
		FromOn: t.StartsOn, UntilOn: &t.EndsOn,
		ByMember: actor.Member})
}

// Unpromise takes a piece off a trip.
func (a *Wing) Unpromise(ctx context.Context, actor kernel.Actor, trip, gear uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		return kernel.Absent(store.Remove[model.Booking](tx, "trip_id = ? AND gear_id = ? AND ended_on IS NULL", trip, gear),
			"promise")
	})
}

// PromisedView is a piece that goes on a trip.
type PromisedView struct {
	GearID uuid.UUID `json:"gear_id" format:"uuid"`
	Name   string    `json:"name"`
	Where  string    `json:"where"`
	Kg     float64   `json:"kg"`
	Ready  bool      `json:"ready" doc:"It is aboard of the trip's boat, or on the quay"`
}

// Promised lists what goes on a trip.
func (a *Wing) Promised(ctx context.Context, actor kernel.Actor, trip uuid.UUID) ([]PromisedView, error) {
	list := []PromisedView{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		var t model.Trip
		if err := store.One(tx, &t, "id = ?", trip); err != nil {
			return kernel.Absent(err, "trip")
		}
		rows, err := gear.Rows(tx, `JOIN booking b ON b.crew_id = gear.crew_id AND b.gear_id = gear.id AND b.trip_id = @trip
			WHERE gear.crew_id = @crew ORDER BY gear.sort_name, gear.id`, store.Args{"trip": trip})
		if err != nil {
			return err
		}
		views, err := gear.ViewRows(tx, rows)
		for _, v := range views {
			ready := v.Spot.Kind == "quay" || v.Spot.BoatID != nil && t.BoatID != nil && *v.Spot.BoatID == *t.BoatID
			list = append(list, PromisedView{GearID: v.ID, Name: v.Name, Where: v.Spot.Text, Kg: v.TotalKg, Ready: ready})
		}
		return err
	})
	return list, err
}

// LoanInput lends gear to somebody, or notes from whom it is borrowed.
type LoanInput struct {
	Way     string       `json:"way" words:"loans"`
	Whom    string       `json:"whom"`
	UntilOn *kernel.Date `json:"until_on,omitempty" doc:"When it is due back; absent where nobody said"`
}

// Loan notes that a piece is lent, or borrowed. What is lent leaves its place.
func (a *Wing) Loan(ctx context.Context, actor kernel.Actor, key, gear uuid.UUID, in LoanInput) error {
	var fs check.Faults
	fs.OneOf("way", in.Way, words.Loans.Keys()...)
	fs.Text("whom", in.Whom, 1, 80)
	today := a.Today()
	if in.UntilOn != nil && in.UntilOn.At.Before(today) {
		fs.Add("until_on", in.UntilOn, "must be today or later")
	}
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"loan", gear, in}, func() (uuid.UUID, error) {
			return gear, a.loan(tx, actor, gear, in, today)
		})
		return err
	})
}

func (a *Wing) loan(tx *store.Tx, actor kernel.Actor, id uuid.UUID, in LoanInput, today time.Time) error {
	var g model.Gear
	if err := store.One(tx, &g, "id = ?", id); err != nil {
		return kernel.Absent(err, "gear")
	}
	if in.Way == "lent" {
		if err := gear.Spoken(tx, g, today, in.UntilOn.Time()); err != nil {
			return err
		}
		held, err := gear.HeldBy(tx, []uuid.UUID{id})
		if err != nil {
			return err
		}
		if n := held[id].N; n > 0 {
			return &refuse.Error{Kind: refuse.Refused,
				Sentence: fmt.Sprintf("%s holds %s: take out what stays, then lend it.", kernel.Capital(g.Name), words.HowMany(n, "thing"))}
		}
	}
	err := store.Add(tx, &model.Booking{ID: store.NewID(), CrewID: actor.Crew, GearID: id, Way: in.Way, Whom: in.Whom,
		FromOn: today, UntilOn: in.UntilOn.Time(),
		ByMember: actor.Member})
	if errors.Is(err, store.ErrTaken) {
		return &refuse.Error{Kind: refuse.Refused, Sentence: kernel.Capital(g.Name) +
			" is borrowed already: note its return first."}
	}
	if err != nil {
		return fmt.Errorf("keeping the loan: %w", err)
	}
	if in.Way == "borrowed" {
		return a.gear.Note(tx, actor, id, "note", "borrowed from "+in.Whom)
	}
	if err := a.gear.Note(tx, actor, id, "note", "lent to "+in.Whom); err != nil {
		return err
	}
	return where.Send(tx, actor, id, model.Whereabouts{Kind: "lent"})
}

// Return notes that a loan ended. What was lent is on the quay; what was
// borrowed leaves the list only when it is taken off it.
func (a *Wing) Return(ctx context.Context, actor kernel.Actor, key, gear, booking uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"return", gear, booking}, func() (uuid.UUID, error) {
			var b model.Booking
			err := store.One(tx, &b, "id = ? AND gear_id = ? AND way <> 'trip' AND ended_on IS NULL", booking, gear)
			if err != nil {
				return gear, kernel.Absent(err, "loan")
			}
			if err := store.Set[model.Booking](tx, map[string]any{"ended_on": a.Today()}, "id = ?", b.ID); err != nil {
				return gear, fmt.Errorf("ending the loan: %w", err)
			}
			if b.Way == "borrowed" {
				return gear, a.gear.Note(tx, actor, gear, "note", "given back to "+b.Whom)
			}
			if err := a.gear.Note(tx, actor, gear, "note", "back from "+b.Whom); err != nil {
				return gear, err
			}
			return gear, where.Send(tx, actor, gear, model.Whereabouts{Kind: "quay"})
		})
		return err
	})
}
