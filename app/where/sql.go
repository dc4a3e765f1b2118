package where

import (
	"fmt"

	"ergasia/app/kernel"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// nearBoat lists the gear aboard, what her people wear or carry, and what came to
// the quay last.
func nearBoat(tx *store.Tx, boat uuid.UUID) (near []uuid.UUID, err error) {
	return near, tx.Read(&near, `SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id = @boat
		UNION ALL SELECT gear_id FROM stowage WHERE crew_id = @crew
			AND held_by IN (SELECT member_id FROM station WHERE crew_id = @crew AND boat_id = @boat)
		UNION ALL (SELECT gear_id FROM stowage WHERE crew_id = @crew AND kind = 'quay' AND inside_id IS NULL
			ORDER BY since DESC, gear_id LIMIT @most)`, store.Args{"boat": boat, "most": QuayShown})
}

// takeAlong writes for all that a box holds, at any depth, that it is where the box is.
func takeAlong(tx *store.Tx, box model.Stowage) error {
	_, err := tx.Do(`WITH RECURSIVE held AS (
			SELECT gear_id FROM stowage WHERE crew_id = @crew AND inside_id = @gear
			UNION SELECT s.gear_id FROM stowage s JOIN held ON s.crew_id = @crew AND s.inside_id = held.gear_id)
		UPDATE stowage SET kind = @kind, boat_id = @boat, place_id = @place, shed_id = @shed, held_by = @by, rides = @rides
		WHERE crew_id = @crew AND gear_id IN (SELECT gear_id FROM held)`,
		store.Args{"gear": box.GearID, "kind": box.Kind, "boat": box.BoatID, "place": box.PlaceID, "shed": box.ShedID,
			"by": box.HeldBy, "rides": box.Rides})
	if err != nil {
		return fmt.Errorf("taking along what it holds: %w", err)
	}
	return nil
}

// nextNumbers takes the next n numbers of the crew's log and gives the first. It
// holds the crew's other moves back until the transaction ends, so that numbers
// have no gaps and come in the order in which moves are seen.
func nextNumbers(tx *store.Tx, n int) (int64, error) {
	var last int64
	err := tx.Read(&last, "UPDATE crew SET events = events + @n WHERE id = @crew RETURNING events", store.Args{"n": n})
	if err != nil {
		return 0, fmt.Errorf("numbering the event: %w", err)
	}
	return last - int64(n) + 1, nil
}

// kgOnShelf is what lies on a place ashore already, but for one piece.
func kgOnShelf(tx *store.Tx, shed, but uuid.UUID) (kg float64, err error) {
	err = tx.Read(&kg, `SELECT coalesce(sum(gear.kg * gear.count), 0)
		FROM stowage JOIN gear ON gear.crew_id = stowage.crew_id AND gear.id = stowage.gear_id
		WHERE stowage.crew_id = @crew AND stowage.shed_id = @shed AND stowage.gear_id <> @but`, store.Args{"shed": shed, "but": but})
	if err != nil {
		return 0, fmt.Errorf("weighing the shelf: %w", err)
	}
	return kg, nil
}

// otherBoats are the names of the crew's boats but for one.
func otherBoats(tx *store.Tx, but uuid.UUID) (map[uuid.UUID]string, error) {
	return named(tx, "SELECT id, name FROM boat WHERE crew_id = @crew AND id <> @but", store.Args{"but": but})
}

// named reads ids with their names.
func named(tx *store.Tx, sql string, args store.Args) (map[uuid.UUID]string, error) {
	var found []kernel.Named
	if err := tx.Read(&found, sql, args); err != nil {
		return nil, fmt.Errorf("naming places: %w", err)
	}
	names := map[uuid.UUID]string{}
	for _, f := range found {
		names[f.ID] = f.Name
	}
	return names, nil
}

// boxNamed is a container with what it lies in.
type boxNamed struct {
	ID       uuid.UUID
	Name     string
	InsideID *uuid.UUID
}

func boxesNamed(tx *store.Tx, ids []uuid.UUID) (found []boxNamed, err error) {
	err = tx.Read(&found, `SELECT gear.id, gear.name, stowage.inside_id
		FROM gear JOIN stowage ON stowage.crew_id = gear.crew_id AND stowage.gear_id = gear.id
		WHERE gear.crew_id = @crew AND gear.id IN @ids`, store.Args{"ids": ids})
	if err != nil {
		return nil, fmt.Errorf("naming boxes: %w", err)
	}
	return found, nil
}
