package trips

import (
	"fmt"
	"time"

	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
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

// noteUse keeps what went along on a trip, and what of it was used where somebody said:
// what is used in a box was in a hand, and so was the box.
func noteUse(tx *store.Tx, t model.Trip, used []uuid.UUID) error {
	_, err := tx.Do(`INSERT INTO trip_use (crew_id, trip_id, gear_id, used)
		SELECT @crew, @trip, gear_id, CASE WHEN @said THEN gear_id IN @used END FROM (
			SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id = @boat
			UNION SELECT gear_id FROM booking WHERE crew_id = @crew AND trip_id = @trip) went
		ON CONFLICT DO NOTHING`,
		store.Args{"trip": t.ID, "boat": t.BoatID, "said": len(used) > 0, "used": append([]uuid.UUID{uuid.Nil}, used...)})
	if err != nil {
		return fmt.Errorf("noting what was used: %w", err)
	}
	return nil
}

// Uses is how often a piece went along and was used, on trips of which somebody said so.
type Uses struct {
	GearID uuid.UUID `json:"gear_id" format:"uuid"`
	Along  int       `json:"along"`
	Used   int       `json:"used"`
}

// tripsTold is how many of the last trips of a kind count.
const tripsTold = 10

// UsesOf is how often pieces were used on the last ten trips of a kind; of any kind
// where it is empty.
func UsesOf(tx *store.Tx, kind string) (map[uuid.UUID]Uses, error) {
	var rows []Uses
	err := tx.Read(&rows, `SELECT gear_id, count(*) AS along, count(*) FILTER (WHERE used) AS used FROM (
			SELECT u.gear_id, u.used, row_number() OVER (PARTITION BY u.gear_id ORDER BY t.starts_on DESC, t.id) AS n
			FROM trip_use u JOIN trip t ON t.crew_id = u.crew_id AND t.id = u.trip_id
			WHERE u.crew_id = @crew AND u.used IS NOT NULL AND (@kind = '' OR t.kind = @kind)) last
		WHERE n <= @most GROUP BY gear_id`, store.Args{"kind": kind, "most": tripsTold})
	if err != nil {
		return nil, fmt.Errorf("counting what was used: %w", err)
	}
	uses := map[uuid.UUID]Uses{}
	for _, r := range rows {
		uses[r.GearID] = r
	}
	return uses, nil
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
	// what is fastened to the boat and is looked at every so many trips
	_, err = tx.Do(`UPDATE fitting SET look = jsonb_set(look, '{trips_since}', to_jsonb(coalesce((look->>'trips_since')::int, 0) + 1))
		WHERE crew_id = @crew AND boat_id = @boat AND (look->>'every_trips')::int > 0`, store.Args{"boat": t.BoatID})
	if err != nil {
		return fmt.Errorf("counting the trip for her fittings: %w", err)
	}
	return nil
}
