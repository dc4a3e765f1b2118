package trips

import (
	"fmt"
	"time"

	"ergasia/store"
	"ergasia/store/model"
)

// tripRow is a trip with how much is promised to it.
type tripRow struct {
	model.Trip
	Promised int
}

// tripRows reads trips: those ahead, soonest first, then the latest logged.
func tripRows(tx *store.Tx) (rows []tripRow, err error) {
	err = tx.Read(&rows, `SELECT trip.*,
			(SELECT count(*) FROM booking WHERE booking.crew_id = trip.crew_id AND booking.trip_id = trip.id) AS promised
		FROM trip WHERE crew_id = @crew
		ORDER BY logged_at IS NOT NULL, CASE WHEN logged_at IS NULL THEN starts_on END, starts_on DESC, id LIMIT 200`, nil)
	if err != nil {
		return nil, fmt.Errorf("listing the trips: %w", err)
	}
	return rows, nil
}

// countTrip notes of what was aboard or promised that it was on a trip more.
func countTrip(tx *store.Tx, t model.Trip, hours float64, now time.Time) error {
	_, err := tx.Do(`UPDATE gear SET hours = hours + @hours, trips = trips + 1, used_at = @now WHERE crew_id = @crew AND id IN (
			SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id = @boat
			UNION SELECT gear_id FROM booking WHERE crew_id = @crew AND trip_id = @trip)`,
		store.Args{"hours": hours, "now": now, "boat": t.BoatID, "trip": t.ID})
	if err != nil {
		return fmt.Errorf("counting the trip: %w", err)
	}
	return nil
}
