package shed

import (
	"fmt"

	"ergasia/store"
	"ergasia/store/model"
)

// shedRow is a place ashore with what is kept there; Wet is what should be dry.
type shedRow struct {
	model.Shed
	Pieces, Wet int
	Kg          float64
}

func sheds(tx *store.Tx) (rows []shedRow, err error) {
	err = tx.Read(&rows, `SELECT shed.*, n.pieces, n.kg, CASE WHEN shed.dryness = 'wet' THEN n.dry ELSE 0 END AS wet
		FROM shed LEFT JOIN LATERAL (
			SELECT count(*) AS pieces, coalesce(sum(gear.kg * gear.count), 0) AS kg,
				count(*) FILTER (WHERE gear.needs_dry AND stowage.inside_id IS NULL) AS dry
			FROM stowage JOIN gear ON gear.crew_id = stowage.crew_id AND gear.id = stowage.gear_id
			WHERE stowage.crew_id = shed.crew_id AND stowage.shed_id = shed.id) n ON true
		WHERE shed.crew_id = @crew ORDER BY shed.site, shed.name`, nil)
	if err != nil {
		return nil, fmt.Errorf("listing the places ashore: %w", err)
	}
	return rows, nil
}
