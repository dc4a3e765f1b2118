package where

import (
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/crew"
	"ergasia/app/kernel"
	"ergasia/core/units"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// QuayShown is how many pieces on the quay a boat's pages show; more than that
// nobody stows in one go, and a crew may own thousands.
const QuayShown = 300

func (a *Wing) Snapshot(tx *gorm.DB, actor kernel.Actor, boat uuid.UUID) (*aboard.Laden, error) {
	s := aboard.Ashore(units.SystemNamed(actor.Units))
	if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, boat).Take(&s.Boat).Error; err != nil {
		return nil, kernel.Absent(err, "boat")
	}
	var err error
	if s.Craft, err = a.fleet.Boats.Get(s.Boat); err != nil {
		return nil, err
	}
	if s.Table, _, err = crew.TimesOf(tx, actor); err != nil {
		return nil, err
	}
	var stations []model.Station
	var near []uuid.UUID
	for _, q := range []*gorm.DB{
		tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Order("x, y, id").Find(&s.Places),
		tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, boat).Order("x, y, id").Find(&s.Posts),
		tx.Where("crew_id = ?", actor.Crew).Order("created_at, id").Find(&s.Members),
		tx.Where("crew_id = ?", actor.Crew).Find(&stations),
		tx.Raw(`SELECT gear_id FROM stowage WHERE crew_id = @crew AND boat_id = @boat
			UNION ALL SELECT gear_id FROM stowage WHERE crew_id = @crew AND held_by IN (SELECT member_id FROM station WHERE crew_id = @crew AND boat_id = @boat)
			UNION ALL (SELECT gear_id FROM stowage WHERE crew_id = @crew AND kind = 'quay' AND inside_id IS NULL ORDER BY since DESC, gear_id LIMIT @most)`,
			map[string]any{"crew": actor.Crew, "boat": boat, "most": QuayShown}).Scan(&near),
	} {
		if q.Error != nil {
			return nil, fmt.Errorf("loading the boat: %w", q.Error)
		}
	}
	for _, r := range stations {
		s.Stations[r.MemberID] = r
	}
	return s, AddGear(tx, actor, s, near)
}

// Fetch loads gear by id, wherever it is: it may have been asked for, or be what
// an event was about. It is not of the boat by that.
func Fetch(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden, ids ...*uuid.UUID) error {
	var missing []uuid.UUID
	for _, id := range ids {
		if id != nil && s.Thing(*id) == nil {
			missing = append(missing, *id)
			s.Called[*id] = true
		}
	}
	return AddGear(tx, actor, s, missing)
}

// add loads gear and what it holds.
func AddGear(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden, ids []uuid.UUID) error {
	outer := ids
	for len(ids) > 0 {
		var rows []model.Stowage
		if err := tx.Where("crew_id = ? AND gear_id IN ?", actor.Crew, ids).Find(&rows).Error; err != nil {
			return fmt.Errorf("loading where gear is: %w", err)
		}
		var gear []model.Gear
		if err := tx.Where("crew_id = ? AND id IN ?", actor.Crew, ids).Find(&gear).Error; err != nil {
			return fmt.Errorf("loading gear: %w", err)
		}
		ids = nil
		for _, r := range rows {
			s.Stowage[r.GearID] = r
		}
		for _, r := range rows { // what a piece lies in says where it can be
			if r.InsideID != nil && s.Stowage[*r.InsideID].GearID == uuid.Nil && !slices.Contains(ids, *r.InsideID) {
				ids = append(ids, *r.InsideID)
				s.Called[*r.InsideID] = true
			}
		}
		s.Gear = append(s.Gear, gear...)
		var containers []uuid.UUID
		for _, g := range gear {
			if g.Container() {
				containers = append(containers, g.ID)
			}
		}
		if len(containers) > 0 {
			var inside []uuid.UUID
			err := tx.Model(&model.Stowage{}).Where("crew_id = ? AND inside_id IN ?", actor.Crew, containers).Pluck("gear_id", &inside).Error
			if err != nil {
				return fmt.Errorf("loading what boxes hold: %w", err)
			}
			for _, id := range inside {
				if _, loaded := s.Stowage[id]; !loaded && !slices.Contains(ids, id) {
					ids = append(ids, id)
				}
			}
		}
	}
	if len(outer) > 0 {
		slices.SortFunc(s.Gear, aboard.ByName)
		s.Fill()
	}
	return nil
}
