package due

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/due"
	"ergasia/formats/calendar"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// AddService adds a service to a piece. It counts from the piece's present hours and trips.
func (a *Wing) AddService(ctx context.Context, actor kernel.Actor, key, piece uuid.UUID,
	in gear.ServiceInput) (id uuid.UUID, err error) {
	rule := due.Rule{What: in.What, EveryDays: in.EveryDays, EveryHours: in.EveryHours, EveryTrips: in.EveryTrips}
	if err := refuse.Faulty(rule.Check()); err != nil {
		return id, err
	}
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"service", piece, in}, func() (uuid.UUID, error) {
			var g model.Gear
			if err := store.One(tx, &g, "id = ?", piece); err != nil {
				return id, kernel.Absent(err, "gear")
			}
			n, err := store.Count[model.Service](tx, "gear_id = ?", piece)
			if err != nil {
				return id, fmt.Errorf("counting services: %w", err)
			}
			if n >= gear.ServicesOfGear {
				return id, &refuse.Error{
					Kind: refuse.Refused,
					Sentence: fmt.Sprintf("%s has %d services, the most there can be.",
						g.Name, n),
				}
			}
			row := model.Service{
				ID:         store.NewID(),
				CrewID:     actor.Crew,
				GearID:     piece,
				What:       in.What,
				EveryDays:  in.EveryDays,
				EveryHours: in.EveryHours,
				EveryTrips: in.EveryTrips,
				LastOn:     in.LastOn.At,
				LastHours:  g.Hours,
				LastTrips:  g.Trips,
				Version:    1,
			}
			return row.ID, store.Add(tx, &row)
		})
		id = made
		return err
	})
	return id, err
}

// DoneService notes that a service was done today: it counts anew from now.
func (a *Wing) DoneService(ctx context.Context, actor kernel.Actor, key, gear, id uuid.UUID, version int) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"serviced", id, version}, func() (uuid.UUID, error) {
			var row model.Service
			var g model.Gear
			err := store.Locked(tx, &row, "id = ? AND gear_id = ?", id, gear)
			if err != nil {
				return id, kernel.Absent(err, "service")
			}
			if row.Version != version {
				return id, refuse.Stale(row.What, nil)
			}
			if err := store.One(tx, &g, "id = ?", gear); err != nil {
				return id, kernel.Absent(err, "gear")
			}
			err = store.Change[model.Service](
				tx,
				id,
				version,
				map[string]any{"last_on": a.Today(), "last_hours": g.Hours,
					"last_trips": g.Trips},
			)
			if err != nil {
				return id, fmt.Errorf("noting the service: %w", err)
			}
			return id, a.gear.Note(tx, actor, gear, "service", row.What+": done")
		})
		return err
	})
}

// RemoveService takes a service away.
func (a *Wing) RemoveService(ctx context.Context, actor kernel.Actor, gear, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.Service
		if err := store.One(tx, &row, "id = ? AND gear_id = ?", id, gear); err != nil {
			return kernel.Absent(err, "service")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "service"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, "The service "+row.What+" was dropped.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Service](tx, "id = ? AND gear_id = ?", id, gear), "service")
	})
}

// DueRow is something that runs out.
type DueRow struct {
	GearID    *uuid.UUID   `json:"gear_id,omitempty" format:"uuid"`
	FittingID *uuid.UUID   `json:"fitting_id,omitempty" format:"uuid" doc:"Of a boat's fitting that is looked at again"`
	BoatID    *uuid.UUID   `json:"boat_id,omitempty" format:"uuid" doc:"Of the fitting, or of a bank of hers that fades"`
	Bank      string       `json:"bank,omitempty" doc:"Key of a bank of the boat's that fades"`
	PaperID   *uuid.UUID   `json:"paper_id,omitempty" format:"uuid" doc:"Of a paper; told to those who may see papers"`
	Name      string       `json:"name"`
	Where     string       `json:"where"`
	Kind      string       `json:"kind" enum:"expiry,service,return"`
	What      string       `json:"what"`
	When      string       `json:"when" enum:"now,before,after" doc:"now: it has run out; before: before the next trip or on it; after"`
	On        *kernel.Date `json:"on,omitempty"`
	Trip      string       `json:"trip,omitempty" doc:"The trip on which it runs out"`
	Left      string       `json:"left"`
	ServiceID *uuid.UUID   `json:"service_id,omitempty" format:"uuid"`
	Version   int          `json:"version,omitempty" doc:"Of the service or the fitting"`
}

// DueList is what runs out, and what to restock or mend.
type DueList struct {
	Next    *trips.TripView `json:"next,omitempty" doc:"The trip that comes next"`
	Rows    []DueRow        `json:"rows"`
	Restock []gear.GearRow  `json:"restock" doc:"Used up to the level to restock at"`
	Worn    []gear.GearRow  `json:"worn" doc:"Worn or broken"`
}

// most rows of each sort on the due list.
const dueMost = 500

// Due gives the due list.
func (a *Wing) Due(ctx context.Context, actor kernel.Actor) (DueList, error) {
	var list DueList
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		list, err = a.List(tx, actor)
		return err
	})
	return list, err
}

// List is what the actor may see of the due list, for other wings too.
func (a *Wing) List(tx *store.Tx, actor kernel.Actor) (DueList, error) {
	list := DueList{Rows: []DueRow{}}
	ahead, err := a.trips.Ahead(tx)
	if err != nil {
		return list, err
	}
	var next *due.Outing
	if len(ahead) > 0 {
		v := trips.ViewTrip(ahead[0])
		o := outing(ahead[0])
		list.Next, next = &v, &o
	}
	rows, things, kept, err := gearDue(tx, ahead)
	if err != nil {
		return list, err
	}
	views, err := gear.ViewRows(tx, rows)
	if err != nil {
		return list, err
	}
	known := map[string]DueRow{} // what is said of each thing, by its ID
	for _, v := range views {
		known[v.ID.String()] = DueRow{GearID: &v.ID, Name: v.Name, Where: v.Spot.Text}
	}
	looks, err := fittingsDue(tx, ahead, known)
	if err != nil {
		return list, err
	}
	papers, err := papersDue(tx, actor, known)
	if err != nil {
		return list, err
	}
	banks, err := banksDue(tx, ahead, known)
	if err != nil {
		return list, err
	}
	things = slices.Concat(things, looks, papers, banks)
	for _, d := range due.List(kernel.DayOfTime(a.Today()), next, things) {
		r := known[d.Thing]
		r.Kind, r.What, r.When, r.Trip, r.Left = string(d.Kind), d.What, string(d.When), d.Trip, d.Left
		if d.On != nil {
			on := kernel.DayDate(*d.On)
			r.On = &on
		}
		if d.Kind == due.Service && r.GearID != nil {
			s := kept[*r.GearID][d.Rule]
			r.ServiceID, r.Version = &s.ID, s.Version
		}
		list.Rows = append(list.Rows, r)
	}
	for _, q := range []struct {
		into      *[]gear.GearRow
		condition string
	}{{&list.Restock, gear.Onlies["restock"]}, {&list.Worn, gear.Onlies["worn"]}} {
		rows, err := gear.Rows(
			tx,
			"WHERE gear.crew_id = @crew AND "+q.condition+" ORDER BY gear.sort_name, gear.id LIMIT @most",
			store.Args{"most": dueMost},
		)
		if err != nil {
			return list, err
		}
		if *q.into, err = gear.ViewRows(tx, rows); err != nil {
			return list, err
		}
	}
	return list, nil
}

func outing(t model.Trip) due.Outing {
	return due.Outing{
		Name:  t.Name,
		Start: kernel.DayOfTime(t.StartsOn),
		End:   kernel.DayOfTime(t.EndsOn),
		Hours: t.Hours,
	}
}

// MakeCalendar makes the secret address at which the actor's calendar reads the
// due list; an older one stops working.
func (a *Wing) MakeCalendar(ctx context.Context, actor kernel.Actor) (token string, err error) {
	token = kernel.NewToken()
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		row := model.CalendarFeed{CrewID: actor.Crew, MemberID: actor.Member, TokenHash: kernel.HashOf(token), MadeAt: a.Now()}
		return store.Put(tx, &row)
	})
	return token, err
}

// Calendar gives the due list and the trips ahead to whoever holds the address,
// as long as the member whose it is may sign in. Papers are left out: an address is passed
// on easily, and they tell who has which licence.
func (a *Wing) Calendar(ctx context.Context, token string) ([]byte, error) {
	hash := kernel.HashOf(token)
	var feed model.CalendarFeed
	err := a.DB.In(ctx, store.Scope{Link: hash},
		func(tx *store.Tx) error { return store.One(tx, &feed, "token_hash = ?", hash) })
	if errors.Is(err, store.ErrNone) {
		return nil, &refuse.Error{Kind: refuse.NotFound, Sentence: "There is no such calendar."}
	}
	if err != nil {
		return nil, fmt.Errorf("finding the calendar: %w", err)
	}
	actor := kernel.Actor{Crew: feed.CrewID, Member: feed.MemberID} // in no role: papers are told to none
	var text []byte
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		err := store.Exists[model.Member](tx, "id = ? AND user_id IS NOT NULL", actor.Member)
		if err != nil {
			return kernel.Absent(err, "calendar")
		}
		text, err = a.calendar(tx, actor)
		return err
	})
	return text, err
}

// CalendarFile gives the same to a member who asks for a file.
func (a *Wing) CalendarFile(ctx context.Context, actor kernel.Actor) (text []byte, err error) {
	err = a.In(ctx, actor, func(tx *store.Tx) (err error) {
		text, err = a.calendar(tx, actor)
		return err
	})
	return text, err
}

func (a *Wing) calendar(tx *store.Tx, actor kernel.Actor) ([]byte, error) {
	list, err := a.List(tx, actor)
	if err != nil {
		return nil, err
	}
	var crew model.Crew
	if err := store.One(tx, &crew, ""); err != nil {
		return nil, kernel.Absent(err, "crew")
	}
	var entries []calendar.Entry
	for _, r := range list.Rows {
		if r.On == nil {
			continue
		}
		entries = append(entries, calendar.Entry{ID: r.entry(), Title: kernel.Capital(r.Name) + ": " + r.What,
			Note: r.Where + ". " + kernel.Capital(r.Left) + ".", First: r.On.At, Last: r.On.At})
	}
	ahead, err := a.trips.Ahead(tx)
	if err != nil {
		return nil, err
	}
	for _, t := range ahead {
		entries = append(entries, calendar.Entry{ID: t.ID.String(), Title: t.Name, Note: t.Water, First: t.StartsOn,
			Last: t.EndsOn})
	}
	return calendar.Write(crew.Name+": what runs out", a.Now().Truncate(time.Second), entries), nil
}

// entry is the row's ID in a calendar: the same each time the calendar is read.
func (r DueRow) entry() string {
	switch {
	case r.ServiceID != nil:
		return r.ServiceID.String()
	case r.FittingID != nil:
		return r.FittingID.String() + "-" + r.Kind
	case r.PaperID != nil:
		return r.PaperID.String() + "-" + r.Kind
	case r.Bank != "":
		return r.BoatID.String() + "-" + r.Bank
	}
	return r.GearID.String() + "-" + r.Kind
}
