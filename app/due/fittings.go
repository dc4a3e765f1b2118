package due

import (
	"fmt"

	"ergasia/app/kernel"
	"ergasia/core/due"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// fittingsDue are the boats' fittings that are looked at again, with the trips that
// their boats go on, and the boats' names.
func fittingsDue(
	tx *store.Tx,
	ahead []model.Trip,
) ([]due.Thing, map[string]model.Fitting, map[uuid.UUID]string, error) {
	var rows []model.Fitting
	var boats []model.Boat
	if err := store.Some(tx, &rows, dueMost, "name, id", "look->>'what' <> '' AND boat_id IS NOT NULL AND NOT is_off"); err != nil {
		return nil, nil, nil, fmt.Errorf("loading fittings to look at: %w", err)
	}
	if len(rows) == 0 {
		return nil, nil, nil, nil
	}
	if err := store.All(tx, &boats, "", ""); err != nil {
		return nil, nil, nil, fmt.Errorf("loading the boats: %w", err)
	}
	names := map[uuid.UUID]string{}
	for _, b := range boats {
		names[b.ID] = b.Name
	}
	byID := map[string]model.Fitting{}
	var things []due.Thing
	for _, f := range rows {
		t := due.Thing{ID: f.ID.String(), Trips: f.Look.Run, Rules: []due.Rule{{What: f.Look.What, EveryDays: f.Look.Days,
			EveryTrips: f.Look.Trips}}}
		if f.Look.On != nil {
			t.Rules[0].LastDay = kernel.DayOfTime(*f.Look.On)
		}
		for _, trip := range ahead {
			if trip.BoatID != nil && *trip.BoatID == *f.BoatID {
				t.Outings = append(t.Outings, outing(trip))
			}
		}
		byID[t.ID] = f
		things = append(things, t)
	}
	return things, byID, names, nil
}
