package due

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
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
	err = a.In(ctx, actor, func(tx *store.Tx) error {
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
				return id, &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf("%s has %d services, the most there can be.",
					g.Name, n)}
			}
			row := model.Service{ID: store.NewID(), CrewID: actor.Crew, GearID: piece, What: in.What, EveryDays: in.EveryDays,
				EveryHours: in.EveryHours,
				EveryTrips: in.EveryTrips, LastOn: in.LastOn.At, LastHours: g.Hours, LastTrips: g.Trips, Version: 1}
			return row.ID, store.Add(tx, &row)
		})
		id = made
		return err
	})
	return id, err
}

// DoneService notes that a service was done today: it counts anew from now.
func (a *Wing) DoneService(ctx context.Context, actor kernel.Actor, key, gear, id uuid.UUID, version int) error {
	return a.In(ctx, actor, func(tx *store.Tx) error {
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
			err = store.Change[model.Service](tx, id, version, map[string]any{"last_on": a.Today(), "last_hours": g.Hours,
				"last_trips": g.Trips})
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
	return a.In(ctx, actor, func(tx *store.Tx) error {
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
	BoatID    *uuid.UUID   `json:"boat_id,omitempty" format:"uuid" doc:"Of the fitting"`
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
		list, err = a.List(tx)
		return err
	})
	return list, err
}

// List is the due list, for other wings.
func (a *Wing) List(tx *store.Tx) (DueList, error) {
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
	rows, things, kept, err := dueThings(tx, ahead)
	if err != nil {
		return list, err
	}
	views, err := gear.ViewRows(tx, rows)
	if err != nil {
		return list, err
	}
	byID := map[string]gear.GearRow{}
	for _, v := range views {
		byID[v.ID.String()] = v
	}
	looks, fitted, boats, err := fittingsDue(tx, ahead)
	if err != nil {
		return list, err
	}
	for _, d := range due.List(kernel.DayOfTime(a.Today()), next, append(things, looks...)) {
		g := byID[d.Thing]
		r := DueRow{Name: g.Name, Where: g.Spot.Text, Kind: string(d.Kind), What: d.What, When: string(d.When),
			Trip: d.Trip, Left: d.Left}
		f, isFitting := fitted[d.Thing]
		if isFitting {
			r.FittingID, r.BoatID, r.Name, r.Where, r.Version = &f.ID, f.BoatID, f.Name, boats[*f.BoatID], f.Version
		} else {
			r.GearID = &g.ID
		}
		if d.On != nil {
			on := kernel.DayDate(*d.On)
			r.On = &on
		}
		if d.Kind == due.Service && !isFitting {
			s := kept[g.ID][d.Rule]
			r.ServiceID, r.Version = &s.ID, s.Version
		}
		list.Rows = append(list.Rows, r)
	}
	for _, q := range []struct {
		into      *[]gear.GearRow
		condition string
	}{{&list.Restock, gear.Onlies["restock"]}, {&list.Worn, gear.Onlies["worn"]}} {
		rows, err := gear.Rows(tx, "WHERE gear.crew_id = @crew AND "+q.condition+" ORDER BY gear.sort_name, gear.id LIMIT @most", store.Args{"most": dueMost})
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
	return due.Outing{Name: t.Name, Start: kernel.DayOfTime(t.StartsOn), End: kernel.DayOfTime(t.EndsOn), Hours: t.Hours}
}

// dueThings loads gear that expires, is serviced, lent or borrowed, with the
// trips each goes on: those it is promised to, or that its boat goes on.
func dueThings(tx *store.Tx, ahead []model.Trip) ([]gear.At, []due.Thing, map[uuid.UUID][]model.Service, error) {
	fail := func(err error) ([]gear.At, []due.Thing, map[uuid.UUID][]model.Service, error) {
		return nil, nil, nil, fmt.Errorf("loading what runs out: %w", err)
	}
	rows, err := gear.Rows(tx, `JOIN (SELECT id AS gear_id FROM gear WHERE crew_id = @crew AND expires_on IS NOT NULL
			UNION SELECT gear_id FROM service WHERE crew_id = @crew
			UNION SELECT gear_id FROM booking WHERE crew_id = @crew AND way <> 'trip' AND ended_on IS NULL AND until_on IS NOT NULL) wanted
			ON wanted.gear_id = gear.id
		WHERE gear.crew_id = @crew ORDER BY gear.sort_name, gear.id LIMIT @most`, store.Args{"most": dueMost})
	if err != nil {
		return fail(err)
	}
	var kept []model.Service
	if err := store.All(tx, &kept, "what, id", ""); err != nil {
		return fail(err)
	}
	var booked []model.Booking
	if err := store.All(tx, &booked, "", "ended_on IS NULL"); err != nil {
		return fail(err)
	}
	services, trips, back := map[uuid.UUID][]model.Service{}, map[uuid.UUID]map[uuid.UUID]bool{}, map[uuid.UUID]*due.Day{}
	for _, s := range kept {
		services[s.GearID] = append(services[s.GearID], s)
	}
	for _, b := range booked {
		if b.TripID != nil {
			if trips[b.GearID] == nil {
				trips[b.GearID] = map[uuid.UUID]bool{}
			}
			trips[b.GearID][*b.TripID] = true
		} else if b.UntilOn != nil {
			d := kernel.DayOfTime(*b.UntilOn)
			back[b.GearID] = &d
		}
	}
	things := make([]due.Thing, len(rows))
	for i, r := range rows {
		t := due.Thing{ID: r.ID.String(), Hours: r.Hours, Trips: r.Trips, Back: back[r.ID]}
		if r.ExpiresOn != nil {
			d := kernel.DayOfTime(*r.ExpiresOn)
			t.Expires = &d
		}
		for _, s := range services[r.ID] {
			t.Rules = append(t.Rules, due.Rule{What: s.What, EveryDays: s.EveryDays, EveryHours: s.EveryHours,
				EveryTrips: s.EveryTrips,
				LastDay:    kernel.DayOfTime(s.LastOn), LastHours: s.LastHours, LastTrips: s.LastTrips})
		}
		for _, trip := range ahead {
			aboard := r.Stowage.BoatID != nil && trip.BoatID != nil && *r.Stowage.BoatID == *trip.BoatID
			if aboard || trips[r.ID][trip.ID] {
				t.Outings = append(t.Outings, outing(trip))
			}
		}
		things[i] = t
	}
	return rows, things, services, nil
}

// MakeCalendar makes the secret address at which the actor's calendar reads the
// due list; an older one stops working.
func (a *Wing) MakeCalendar(ctx context.Context, actor kernel.Actor) (token string, err error) {
	raw := make([]byte, 32)
	_, _ = rand.Read(raw) // never fails
	token = base64.RawURLEncoding.EncodeToString(raw)
	sum := sha256.Sum256([]byte(token))
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		row := model.CalendarFeed{CrewID: actor.Crew, MemberID: actor.Member, TokenHash: sum[:], MadeAt: a.Now()}
		return store.Put(tx, &row)
	})
	return token, err
}

// Calendar gives the due list and the trips ahead to whoever holds the address,
// as long as the member whose it is may sign in.
func (a *Wing) Calendar(ctx context.Context, token string) ([]byte, error) {
	sum := sha256.Sum256([]byte(token))
	var feed model.CalendarFeed
	err := a.DB.In(ctx, store.Scope{Link: sum[:]},
		func(tx *store.Tx) error { return store.One(tx, &feed, "token_hash = ?", sum[:]) })
	if errors.Is(err, store.ErrNone) {
		return nil, &refuse.Error{Kind: refuse.NotFound, Sentence: "There is no such calendar."}
	}
	if err != nil {
		return nil, fmt.Errorf("finding the calendar: %w", err)
	}
	actor := kernel.Actor{Crew: feed.CrewID, Member: feed.MemberID}
	var text []byte
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		err := store.Exists[model.Member](tx, "id = ? AND user_id IS NOT NULL", actor.Member)
		if err != nil {
			return kernel.Absent(err, "calendar")
		}
		text, err = a.calendar(tx)
		return err
	})
	return text, err
}

// CalendarFile gives the same to a member who asks for a file.
func (a *Wing) CalendarFile(ctx context.Context, actor kernel.Actor) (text []byte, err error) {
	err = a.In(ctx, actor, func(tx *store.Tx) (err error) {
		text, err = a.calendar(tx)
		return err
	})
	return text, err
}

func (a *Wing) calendar(tx *store.Tx) ([]byte, error) {
	list, err := a.List(tx)
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
		id := r.GearID.String() + "-" + r.Kind
		if r.ServiceID != nil {
			id = r.ServiceID.String()
		}
		entries = append(entries, calendar.Entry{ID: id, Title: kernel.Capital(r.Name) + ": " + r.What,
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
