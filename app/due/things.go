package due

import (
	"fmt"
	"time"

	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/core/due"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// gearDue loads gear that expires, is serviced, lent or borrowed, with the
// trips each goes on: those it is promised to, or that its boat goes on.
func gearDue(tx *store.Tx, ahead []model.Trip) ([]gear.At, []due.Thing, map[uuid.UUID][]model.Service, error) {
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

// fittingsDue are the boats' fittings that are looked at again, with the trips that
// their boats go on. What is said of each is put into known.
func fittingsDue(tx *store.Tx, ahead []model.Trip, known map[string]DueRow) ([]due.Thing, error) {
	var rows []model.Fitting
	var boats []model.Boat
	if err := store.Some(tx, &rows, dueMost, "name, id", "look->>'what' <> '' AND boat_id IS NOT NULL AND NOT is_off"); err != nil {
		return nil, fmt.Errorf("loading fittings to look at: %w", err)
	}
	if len(rows) == 0 {
		return nil, nil
	}
	if err := store.All(tx, &boats, "", ""); err != nil {
		return nil, fmt.Errorf("loading the boats: %w", err)
	}
	names := map[uuid.UUID]string{}
	for _, b := range boats {
		names[b.ID] = b.Name
	}
	var things []due.Thing
	for _, f := range rows {
		t := due.Thing{
			ID:    f.ID.String(),
			Trips: f.Look.Run,
			Rules: []due.Rule{{What: f.Look.What, EveryDays: f.Look.Days,
				EveryTrips: f.Look.Trips}},
		}
		if f.Look.On != nil {
			t.Rules[0].LastDay = kernel.DayOfTime(*f.Look.On)
		}
		for _, trip := range ahead {
			if trip.BoatID != nil && *trip.BoatID == *f.BoatID {
				t.Outings = append(t.Outings, outing(trip))
			}
		}
		known[t.ID] = DueRow{
			FittingID: &f.ID,
			BoatID:    f.BoatID,
			Name:      f.Name,
			Where:     names[*f.BoatID],
			Version:   f.Version,
		}
		things = append(things, t)
	}
	return things, nil
}

// banksDue are the banks that fade, by what their volts at rest taught, with the trips that
// their boats go on. What is said of each is put into known.
func banksDue(tx *store.Tx, ahead []model.Trip, known map[string]DueRow) ([]due.Thing, error) {
	var rows []model.Electrics
	if err := store.Some(tx, &rows, dueMost, "boat_id", "jsonb_array_length(learned) > 0"); err != nil {
		return nil, fmt.Errorf("loading banks that fade: %w", err)
	}
	var things []due.Thing
	for _, e := range rows {
		var boat model.Boat
		if err := store.One(tx, &boat, "id = ?", e.BoatID); err != nil {
			return nil, fmt.Errorf("loading the boat of a bank: %w", err)
		}
		for _, b := range e.Net.Banks {
			l := e.Learned.Of(b.Key)
			var last kernel.Date
			if l == nil || l.TestIn == 0 || last.UnmarshalText([]byte(l.On)) != nil {
				continue
			}
			what := fmt.Sprintf("test or replace: it holds %.0f %% of what it did when new", l.Holds*100)
			t := due.Thing{ID: e.BoatID.String() + b.Key, Rules: []due.Rule{{What: what, EveryDays: l.TestIn,
				LastDay: kernel.DayOfTime(last.At)}}}
			for _, trip := range ahead {
				if trip.BoatID != nil && *trip.BoatID == e.BoatID {
					t.Outings = append(t.Outings, outing(trip))
				}
			}
			known[t.ID] = DueRow{BoatID: &e.BoatID, Bank: b.Key, Name: b.Name, Where: boat.Name}
			things = append(things, t)
		}
	}
	return things, nil
}

// papersDue are the papers that have a last day, where the actor may see papers, each with
// the boat or the person it is of. What is said of each is put into known.
func papersDue(tx *store.Tx, actor kernel.Actor, known map[string]DueRow) ([]due.Thing, error) {
	if !kernel.Allowed(actor.Role, kernel.Move) {
		return nil, nil
	}
	var rows []struct {
		ID        uuid.UUID
		Name      string
		ExpiresOn time.Time
		Of        string
		Wallet    string
	}
	err := tx.Read(
		&rows,
		`SELECT paper.id, paper.name, paper.expires_on, COALESCE(boat.name, member.name, 'the crew') AS of,
			COALESCE(gear.name, '') AS wallet
		FROM paper
			LEFT JOIN boat ON boat.crew_id = paper.crew_id AND boat.id = paper.boat_id
			LEFT JOIN member ON member.crew_id = paper.crew_id AND member.id = paper.member_id
			LEFT JOIN gear ON gear.crew_id = paper.crew_id AND gear.id = paper.wallet_id
		WHERE paper.crew_id = @crew AND paper.expires_on IS NOT NULL AND member.left_at IS NULL
		ORDER BY paper.asked, paper.name, paper.id LIMIT @most`,
		store.Args{"most": dueMost},
	)
	if err != nil {
		return nil, fmt.Errorf("loading papers that run out: %w", err)
	}
	var things []due.Thing
	for _, p := range rows {
		last := kernel.DayOfTime(p.ExpiresOn)
		where := "Of " + p.Of
		if p.Wallet != "" {
			where += "; in the " + p.Wallet
		}
		known[p.ID.String()] = DueRow{PaperID: &p.ID, Name: p.Name, Where: where}
		things = append(things, due.Thing{ID: p.ID.String(), Expires: &last})
	}
	return things, nil
}
