package power

import (
	"context"
	"errors"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Save keeps a boat's electrics over the version that was seen, 0 where there were none. As
// they were can be taken back.
func (a *Wing) Save(
	ctx context.Context,
	actor kernel.Actor,
	key, boat uuid.UUID,
	version int,
	in model.NetInput,
) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"electrics", boat, version, in}, func() (uuid.UUID, error) {
			e, err := a.load(tx, actor, boat, &in)
			if err != nil {
				return boat, err
			}
			if e.Version != version {
				return boat, refuse.Stale(e.laden.Boat.Name+"'s electrics", nil)
			}
			return boat, a.keep(tx, actor, e, version)
		})
		return err
	})
}

func (a *Wing) keep(tx *store.Tx, actor kernel.Actor, e *Electrics, version int) error {
	boat := e.laden.Boat
	was := model.Electrics{BoatID: boat.ID, CrewID: actor.Crew}
	if err := store.Locked(tx, &was, "boat_id = ?", boat.ID); err != nil && !errors.Is(err, store.ErrNone) {
		return fmt.Errorf("reading the electrics: %w", err)
	}
	row := model.Electrics{
		BoatID:  boat.ID,
		CrewID:  actor.Crew,
		Net:     e.Input,
		Learned: was.Learned,
		Version: version + 1,
	}
	if err := store.PutNext(tx, &row); err != nil {
		if errors.Is(err, store.ErrStale) {
			return refuse.Stale(boat.Name+"'s electrics", nil)
		}
		return fmt.Errorf("keeping the electrics: %w", err)
	}
	return a.Undoable(tx, actor, kernel.ChangeBoat, boat.Name+"'s electrics were changed.",
		kernel.Stroke{Wired: []model.Electrics{was}})
}
