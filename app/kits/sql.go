package kits

import (
	"fmt"
	"time"

	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// mostChoosable is how many pieces the lines of all kits may choose from.
const mostChoosable = 2000

// choosableRow is gear that a line may choose, with who has it or is promised it.
type choosableRow struct {
	model.Gear
	BoatID         *uuid.UUID
	BoatName, Lent string
	Promised       string
}

func choosable(tx *store.Tx, tags []string, ids []uuid.UUID, from, last time.Time,
	trip uuid.UUID) (rows []choosableRow, err error) {
	err = tx.Read(&rows, `WITH wanted AS (
			SELECT gear_id FROM gear_word WHERE crew_id = @crew AND word IN @tags
			UNION SELECT id FROM gear WHERE crew_id = @crew AND id IN @ids)
		SELECT gear.*, at.boat_id, coalesce(boat.name, '') AS boat_name,
			CASE WHEN at.kind = 'lent' THEN coalesce((SELECT whom FROM booking b
				WHERE b.crew_id = @crew AND b.gear_id = gear.id AND b.way = 'lent' AND b.ended_on IS NULL
				ORDER BY b.from_on LIMIT 1), 'someone') ELSE '' END AS lent,
			coalesce((SELECT trip.name FROM booking b JOIN trip ON trip.crew_id = @crew AND trip.id = b.trip_id
				WHERE b.crew_id = @crew AND b.gear_id = gear.id AND b.ended_on IS NULL AND b.trip_id <> @trip
				AND daterange(b.from_on, b.until_on, '[]') && daterange(CAST(@from AS date), CAST(@last AS date), '[]')
				LIMIT 1), '') AS promised
		FROM wanted JOIN gear ON gear.crew_id = @crew AND gear.id = wanted.gear_id
		JOIN stowage at ON at.crew_id = @crew AND at.gear_id = gear.id
		LEFT JOIN boat ON boat.crew_id = @crew AND boat.id = at.boat_id ORDER BY gear.sort_name, gear.id LIMIT @most`,
		store.Args{"tags": append(tags, ""), "ids": append(ids, uuid.Nil), "trip": trip, "from": from, "last": last,
			"most": mostChoosable})
	if err != nil {
		return nil, fmt.Errorf("loading what kits may choose: %w", err)
	}
	return rows, nil
}
