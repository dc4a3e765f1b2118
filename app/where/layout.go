package where

import (
	"context"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// keepStill writes what holdStill noted.
func keepStill(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden) error {
	for _, id := range s.Still {
		err := tx.Model(&model.Stowage{}).Where("crew_id = ? AND gear_id = ?", actor.Crew, id).Update("laid", s.Stowage[id].Laid).Error
		if err != nil {
			return fmt.Errorf("keeping how the rest lies: %w", err)
		}
	}
	s.Still = nil
	return nil
}

// LayAnew forgets what was laid by hand in a place: the program lays it again.
func (a *Wing) LayAnew(ctx context.Context, actor kernel.Actor, key, boat, place uuid.UUID) (State, error) {
	return a.Changes(ctx, actor, key, boat, []any{"anew", place}, func(tx *gorm.DB, s *aboard.Laden) (*aboard.Laden, error) {
		if s.Place(place) == nil {
			return s, refuse.Missing("place")
		}
		for _, g := range s.LieIn(place) {
			at := s.Stowage[g.ID]
			if len(at.Laid) == 0 {
				continue
			}
			e := model.Event{BoatID: &boat, GearID: &g.ID, Kind: "move", State: "done", Was: at.At(), Became: at.At()}
			e.Became.Laid = nil
			next := s.Moved(e, e.Became)
			if err := Keep(tx, actor, next, &e); err != nil {
				return s, err
			}
			s = next
		}
		return s, nil
	})
}
