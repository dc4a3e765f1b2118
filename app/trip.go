package app

import (
	"context"
	"errors"
	"fmt"
	"time"

	"ergasia/core/check"
	"ergasia/store"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// TripInput is what is said of a trip.
type TripInput struct {
	Name     string     `json:"name"`
	Water    string     `json:"water,omitempty"`
	BoatID   *uuid.UUID `json:"boat_id,omitempty" format:"uuid"`
	StartsOn Date       `json:"starts_on"`
	EndsOn   Date       `json:"ends_on"`
	Persons  int        `json:"persons"`
	Rods     int        `json:"rods"`
	Hours    float64    `json:"hours" doc:"Of running: expected, and once logged what it was"`
}

func (in TripInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.Text("water", in.Water, 0, 80)
	if d := in.Days(); d < 1 || d > 60 {
		fs.Add("ends_on", in.EndsOn, fmt.Sprintf("must be from the first day, %s, to 59 days later", in.StartsOn))
	}
	fs.Within("persons", float64(in.Persons), 1, 20)
	fs.Within("rods", float64(in.Rods), 0, 60)
	fs.Within("hours", in.Hours, 0, 1000)
	return invalid(fs.Err())
}

// Days is how many days it takes, the first and the last included.
func (in TripInput) Days() int { return int(day(in.EndsOn.at)-day(in.StartsOn.at)) + 1 }

// TripView is a trip.
type TripView struct {
	ID       uuid.UUID `json:"id" format:"uuid"`
	Version  int       `json:"version"`
	Logged   bool      `json:"logged"`
	Promised int       `json:"promised" doc:"Pieces promised to it"`
	TripInput
}

func viewTrip(t store.Trip) TripView {
	return TripView{ID: t.ID, Version: t.Version, Logged: t.LoggedAt != nil, TripInput: TripInput{t.Name, t.Water, t.BoatID, DayOf(t.StartsOn), DayOf(t.EndsOn), t.Persons, t.Rods, t.Hours}}
}

// Trips lists trips: those ahead, soonest first, then the latest logged.
func (a *App) Trips(ctx context.Context, actor Actor) ([]TripView, error) {
	list := []TripView{}
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		var rows []struct {
			store.Trip
			Promised int
		}
		err := tx.Raw(`SELECT trip.*, (SELECT count(*) FROM booking WHERE booking.crew_id = trip.crew_id AND booking.trip_id = trip.id) AS promised
			FROM trip WHERE crew_id = ? ORDER BY logged_at IS NOT NULL, CASE WHEN logged_at IS NULL THEN starts_on END, starts_on DESC, id LIMIT 200`, actor.Crew).Scan(&rows).Error
		for _, r := range rows {
			v := viewTrip(r.Trip)
			v.Promised = r.Promised
			list = append(list, v)
		}
		return err
	})
	return list, err
}

// ahead are the trips that were not logged and not over yesterday, soonest first.
func (a *App) ahead(tx *gorm.DB, actor Actor) ([]store.Trip, error) {
	var list []store.Trip
	err := tx.Where("crew_id = ? AND logged_at IS NULL AND ends_on >= ?", actor.Crew, a.today()).Order("starts_on, id").Find(&list).Error
	if err != nil {
		err = fmt.Errorf("loading the trips ahead: %w", err)
	}
	return list, err
}

// SaveTrip makes a trip (no id) or changes one that is ahead. Its promises move
// with its days, unless one of them is spoken for then.
func (a *App) SaveTrip(ctx context.Context, actor Actor, key, id uuid.UUID, version int, in TripInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return id, err
	}
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.once(tx, actor, key, []any{"trip", id, version, in}, func() (uuid.UUID, error) {
			if in.BoatID != nil {
				if err := boatExists(tx, actor, *in.BoatID); err != nil {
					return id, err
				}
			}
			if id != uuid.Nil {
				var was store.Trip
				if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&was).Error; err != nil {
					return id, absent(err, "trip")
				}
				if was.LoggedAt != nil {
					return id, &Error{Kind: Refused, Sentence: was.Name + " is logged: what was is not changed."}
				}
			}
			row := store.Trip{ID: idOr(id), CrewID: actor.Crew, Name: in.Name, Water: in.Water, BoatID: in.BoatID, StartsOn: in.StartsOn.at, EndsOn: in.EndsOn.at,
				Persons: in.Persons, Rods: in.Rods, Hours: in.Hours, Version: version + 1}
			if err := upsert(tx, actor, &row, id, version, "trip", in.Name); err != nil {
				return id, err
			}
			err := tx.Model(&store.Booking{}).Where("crew_id = ? AND trip_id = ?", actor.Crew, row.ID).
				Updates(map[string]any{"from_on": in.StartsOn.at, "until_on": in.EndsOn.at}).Error
			if isTaken(err) {
				return id, &Error{Kind: Refused, Sentence: "Some of what is promised to it is spoken for on those days: take it off the trip first."}
			}
			return row.ID, err
		})
		id = made
		return err
	})
	return id, err
}

// RemoveTrip takes a trip away; what was promised to it is free.
func (a *App) RemoveTrip(ctx context.Context, actor Actor, id uuid.UUID) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Delete(&store.Trip{})
		if done.Error == nil && done.RowsAffected == 0 {
			return notFound("trip")
		}
		return done.Error
	})
}

// LogTrip closes a trip with the hours that were run. Everything aboard of its
// boat and everything promised to it has been on one trip more, that long.
func (a *App) LogTrip(ctx context.Context, actor Actor, key, id uuid.UUID, version int, hours float64) error {
	var fs check.Faults
	fs.Within("hours", hours, 0, 1000)
	if err := invalid(fs.Err()); err != nil {
		return err
	}
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		_, _, err := a.once(tx, actor, key, []any{"log", id, version, hours}, func() (uuid.UUID, error) {
			var t store.Trip
			if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&t).Error; err != nil {
				return id, absent(err, "trip")
			}
			if t.LoggedAt != nil || t.Version != version {
				return id, stale(t.Name, viewTrip(t))
			}
			if t.StartsOn.After(a.today()) {
				return id, &Error{Kind: Refused, Sentence: t.Name + " has not begun: log it when it is over."}
			}
			return id, a.logTrip(tx, actor, t, hours)
		})
		return err
	})
}

func (a *App) logTrip(tx *gorm.DB, actor Actor, t store.Trip, hours float64) error {
	err := tx.Model(&store.Trip{}).Where("crew_id = ? AND id = ?", actor.Crew, t.ID).
		Updates(map[string]any{"logged_at": a.now(), "hours": hours, "version": t.Version + 1}).Error
	if err != nil {
		return fmt.Errorf("logging the trip: %w", err)
	}
	err = tx.Exec(`UPDATE gear SET hours = hours + @hours, trips = trips + 1, used_at = @now WHERE crew_id = @crew AND id IN (
		SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id = @boat UNION SELECT gear_id FROM booking WHERE crew_id = @crew AND trip_id = @trip)`,
		map[string]any{"hours": hours, "now": a.now(), "crew": actor.Crew, "boat": t.BoatID, "trip": t.ID}).Error
	if err != nil {
		return fmt.Errorf("counting the trip: %w", err)
	}
	err = tx.Model(&store.Booking{}).Where("crew_id = ? AND trip_id = ? AND ended_on IS NULL", actor.Crew, t.ID).Update("ended_on", a.today()).Error
	if err != nil {
		return fmt.Errorf("ending the promises: %w", err)
	}
	return nil
}

// isTaken says whether an error is of the rule that gear is promised once at a time.
func isTaken(err error) bool {
	var sql interface{ SQLState() string }
	return errors.As(err, &sql) && sql.SQLState() == "23P01"
}

// BookingView is gear that is spoken for.
type BookingView struct {
	ID      uuid.UUID  `json:"id" format:"uuid"`
	GearID  uuid.UUID  `json:"gear_id" format:"uuid"`
	Way     string     `json:"way" enum:"trip,lent,borrowed"`
	TripID  *uuid.UUID `json:"trip_id,omitempty" format:"uuid"`
	Whom    string     `json:"whom" doc:"The trip's name, or who has it or lent it"`
	FromOn  Date       `json:"from_on"`
	UntilOn *Date      `json:"until_on,omitempty"`
	By      string     `json:"by"`
	Ended   bool       `json:"ended"`
}

const bookingColumns = `SELECT b.*, coalesce(trip.name, b.whom) AS called, member.name AS by_name FROM booking b
	LEFT JOIN trip ON trip.crew_id = b.crew_id AND trip.id = b.trip_id JOIN member ON member.crew_id = b.crew_id AND member.id = b.by_member`

type bookingRow struct {
	store.Booking
	Called, ByName string
}

func (r bookingRow) view() BookingView {
	return BookingView{r.ID, r.GearID, r.Way, r.TripID, r.Called, DayOf(r.FromOn), dateOf(r.UntilOn), r.ByName, r.EndedOn != nil}
}

// bookings of a piece: those that stand, then the latest that ended.
func bookings(tx *gorm.DB, actor Actor, gear uuid.UUID) ([]BookingView, error) {
	list := []BookingView{}
	var rows []bookingRow
	err := tx.Raw(bookingColumns+" WHERE b.crew_id = ? AND b.gear_id = ? ORDER BY b.ended_on IS NOT NULL, b.from_on DESC LIMIT 30", actor.Crew, gear).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("loading bookings: %w", err)
	}
	for _, r := range rows {
		list = append(list, r.view())
	}
	return list, nil
}

// taken says in a sentence what a piece is spoken for between two days.
func taken(tx *gorm.DB, actor Actor, g store.Gear, from time.Time, until *time.Time) error {
	var r bookingRow
	err := tx.Raw(bookingColumns+` WHERE b.crew_id = ? AND b.gear_id = ? AND b.way <> 'borrowed' AND b.ended_on IS NULL
		AND daterange(b.from_on, b.until_on, '[]') && daterange(?::date, ?::date, '[]') ORDER BY b.from_on LIMIT 1`, actor.Crew, g.ID, from, until).Scan(&r).Error
	if err != nil {
		return fmt.Errorf("looking who has it: %w", err)
	}
	if r.ID == uuid.Nil {
		return nil
	}
	return &Error{Kind: Refused, Sentence: r.sentence(g.Name)}
}

func (r bookingRow) sentence(name string) string {
	days := DayOf(r.FromOn).String()
	if r.UntilOn == nil {
		days = "since " + days
	} else if !r.UntilOn.Equal(r.FromOn) {
		days += " to " + DayOf(*r.UntilOn).String()
	}
	if r.Way == "trip" {
		return fmt.Sprintf("%s is promised to %s, %s, by %s.", capital(name), r.Called, days, r.ByName)
	}
	return fmt.Sprintf("%s is lent to %s, %s.", capital(name), r.Called, days)
}

// Promise promises pieces to a trip: those that are free, and a sentence for
// each that is not.
func (a *App) Promise(ctx context.Context, actor Actor, key, trip uuid.UUID, gear []uuid.UUID) (refused []string, err error) {
	refused = []string{}
	err = a.in(ctx, actor, func(tx *gorm.DB) error {
		_, _, err := a.once(tx, actor, key, []any{"promise", trip, gear}, func() (uuid.UUID, error) {
			if err := lockMoves(tx, actor); err != nil {
				return trip, err
			}
			var t store.Trip
			if err := tx.Where("crew_id = ? AND id = ? AND logged_at IS NULL", actor.Crew, trip).Take(&t).Error; err != nil {
				return trip, absent(err, "trip that is ahead")
			}
			for _, id := range gear {
				why, err := a.promise(tx, actor, t, id)
				if err != nil {
					return trip, err
				}
				if why != "" {
					refused = append(refused, why)
				}
			}
			return trip, nil
		})
		return err
	})
	return refused, err
}

// promise promises one piece, or says why it can't be; one that is promised to
// this trip already is nothing to say.
func (a *App) promise(tx *gorm.DB, actor Actor, t store.Trip, gear uuid.UUID) (string, error) {
	var g store.Gear
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, gear).Take(&g).Error; err != nil {
		return "", absent(err, "gear")
	}
	var n int64
	if err := tx.Model(&store.Booking{}).Where("crew_id = ? AND trip_id = ? AND gear_id = ?", actor.Crew, t.ID, gear).Count(&n).Error; err != nil || n > 0 {
		return "", err
	}
	err := taken(tx, actor, g, t.StartsOn, &t.EndsOn)
	if refusal := (*Error)(nil); errors.As(err, &refusal) {
		return refusal.Sentence, nil
	}
	if err != nil {
		return "", err
	}
	return "", tx.Create(&store.Booking{ID: store.NewID(), CrewID: actor.Crew, GearID: gear, Way: "trip", TripID: &t.ID, FromOn: t.StartsOn, UntilOn: &t.EndsOn,
		ByMember: actor.Member}).Error
}

// Unpromise takes a piece off a trip.
func (a *App) Unpromise(ctx context.Context, actor Actor, trip, gear uuid.UUID) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND trip_id = ? AND gear_id = ? AND ended_on IS NULL", actor.Crew, trip, gear).Delete(&store.Booking{})
		if done.Error == nil && done.RowsAffected == 0 {
			return notFound("promise")
		}
		return done.Error
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
func (a *App) Promised(ctx context.Context, actor Actor, trip uuid.UUID) ([]PromisedView, error) {
	list := []PromisedView{}
	err := a.in(ctx, actor, func(tx *gorm.DB) error {
		var t store.Trip
		if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, trip).Take(&t).Error; err != nil {
			return absent(err, "trip")
		}
		var rows []gearAt
		err := tx.Raw("SELECT "+gearColumns+gearFrom+` JOIN booking b ON b.crew_id = gear.crew_id AND b.gear_id = gear.id AND b.trip_id = ?
			WHERE gear.crew_id = ? ORDER BY gear.sort_name, gear.id`, trip, actor.Crew).Scan(&rows).Error
		if err != nil {
			return fmt.Errorf("listing what goes: %w", err)
		}
		views, err := a.gearRows(tx, actor, rows)
		for _, v := range views {
			ready := v.Spot.Kind == "quay" || v.Spot.BoatID != nil && t.BoatID != nil && *v.Spot.BoatID == *t.BoatID
			list = append(list, PromisedView{v.ID, v.Name, v.Spot.Text, v.TotalKg, ready})
		}
		return err
	})
	return list, err
}

// LoanInput lends gear to somebody, or notes from whom it is borrowed.
type LoanInput struct {
	Way     string `json:"way" enum:"lent,borrowed"`
	Whom    string `json:"whom"`
	UntilOn *Date  `json:"until_on,omitempty" doc:"When it is due back; absent where nobody said"`
}

// Loan notes that a piece is lent, or borrowed. What is lent leaves its place.
func (a *App) Loan(ctx context.Context, actor Actor, key, gear uuid.UUID, in LoanInput) error {
	var fs check.Faults
	fs.OneOf("way", in.Way, "lent", "borrowed")
	fs.Text("whom", in.Whom, 1, 80)
	today := a.today()
	if in.UntilOn != nil && in.UntilOn.at.Before(today) {
		fs.Add("until_on", in.UntilOn, "must be today or later")
	}
	if err := invalid(fs.Err()); err != nil {
		return err
	}
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		_, _, err := a.once(tx, actor, key, []any{"loan", gear, in}, func() (uuid.UUID, error) {
			if err := lockMoves(tx, actor); err != nil {
				return gear, err
			}
			return gear, a.loan(tx, actor, gear, in, today)
		})
		return err
	})
}

func (a *App) loan(tx *gorm.DB, actor Actor, gear uuid.UUID, in LoanInput, today time.Time) error {
	var g store.Gear
	var at store.Stowage
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, gear).Take(&g).Error; err != nil {
		return absent(err, "gear")
	}
	if err := tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Take(&at).Error; err != nil {
		return absent(err, "gear")
	}
	if in.Way == "lent" {
		if err := taken(tx, actor, g, today, in.UntilOn.time()); err != nil {
			return err
		}
		held, err := heldBy(tx, actor, []uuid.UUID{gear})
		if err != nil {
			return err
		}
		if n := held[gear].N; n > 0 {
			return &Error{Kind: Refused, Sentence: fmt.Sprintf("%s holds %d things: take out what stays, then lend it.", capital(g.Name), n)}
		}
	}
	err := tx.Create(&store.Booking{ID: store.NewID(), CrewID: actor.Crew, GearID: gear, Way: in.Way, Whom: in.Whom, FromOn: today, UntilOn: in.UntilOn.time(),
		ByMember: actor.Member}).Error
	if errors.Is(err, gorm.ErrDuplicatedKey) {
		return &Error{Kind: Refused, Sentence: capital(g.Name) + " is borrowed already: note its return first."}
	}
	if err != nil {
		return fmt.Errorf("keeping the loan: %w", err)
	}
	if in.Way == "borrowed" {
		return a.note(tx, actor, gear, "note", "borrowed from "+in.Whom)
	}
	if err := a.note(tx, actor, gear, "note", "lent to "+in.Whom); err != nil {
		return err
	}
	return a.shift(tx, actor, at, store.Whereabouts{Kind: "lent"})
}

// shift moves a piece where no rule of fit can refuse.
func (a *App) shift(tx *gorm.DB, actor Actor, at store.Stowage, to store.Whereabouts) error {
	e := store.Event{GearID: &at.GearID, Kind: "move", State: "log", Was: at.At(), Became: to, BoatID: at.BoatID}
	at.Kind, at.InsideID, at.BoatID, at.PlaceID, at.ShedID, at.HeldBy, at.Rides = to.Kind, to.InsideID, to.BoatID, to.PlaceID, to.ShedID, to.HeldBy, "boat"
	at.Version++
	return relocate(tx, actor, at, &e)
}

// Return notes that a loan ended. What was lent is on the quay; what was
// borrowed leaves the list only when it is taken off it.
func (a *App) Return(ctx context.Context, actor Actor, key, gear, booking uuid.UUID) error {
	return a.in(ctx, actor, func(tx *gorm.DB) error {
		_, _, err := a.once(tx, actor, key, []any{"return", gear, booking}, func() (uuid.UUID, error) {
			if err := lockMoves(tx, actor); err != nil {
				return gear, err
			}
			var b store.Booking
			err := tx.Where("crew_id = ? AND id = ? AND gear_id = ? AND way <> 'trip' AND ended_on IS NULL", actor.Crew, booking, gear).Take(&b).Error
			if err != nil {
				return gear, absent(err, "loan")
			}
			if err := tx.Model(&store.Booking{}).Where("crew_id = ? AND id = ?", actor.Crew, b.ID).Update("ended_on", a.today()).Error; err != nil {
				return gear, fmt.Errorf("ending the loan: %w", err)
			}
			if b.Way == "borrowed" {
				return gear, a.note(tx, actor, gear, "note", "given back to "+b.Whom)
			}
			if err := a.note(tx, actor, gear, "note", "back from "+b.Whom); err != nil {
				return gear, err
			}
			var at store.Stowage
			if err := tx.Where("crew_id = ? AND gear_id = ?", actor.Crew, gear).Take(&at).Error; err != nil {
				return gear, absent(err, "gear")
			}
			return gear, a.shift(tx, actor, at, store.Whereabouts{Kind: "quay"})
		})
		return err
	})
}
