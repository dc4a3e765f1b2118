package where

import (
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/stow"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// Standing is where a person is. No post means ashore, or another boat.
type Standing struct {
	MemberID uuid.UUID  `json:"member_id" format:"uuid"`
	PostID   *uuid.UUID `json:"post_id,omitempty" format:"uuid"`
	Boat     string     `json:"boat,omitempty"`
	Seated   bool       `json:"seated"`
	CG       *model.Vec `json:"cg_m,omitempty" doc:"Of the body, where they are aboard"`
	Version  int        `json:"version"`
}

// LastMove is the latest change, for the line under the drawing.
type LastMove struct {
	By   string    `json:"by"`
	At   time.Time `json:"at"`
	What string    `json:"what" doc:"As a sentence's end, such as: put the cooler in aft locker"`
}

// State is what a move changes.
type State struct {
	Stowage []aboard.Stowed `json:"stowage"`
	People  []Standing      `json:"people"`
	Now     aboard.Figures  `json:"now"`
	Before  *aboard.Figures `json:"before,omitempty" doc:"As it was before the last move"`
	Last    *LastMove       `json:"last,omitempty"`
	CanUndo bool            `json:"can_undo"`
	CanRedo bool            `json:"can_redo"`
	Quay    int64           `json:"quay" doc:"How many pieces are on the quay; no more than 300 of them are listed"`
}

// state is what a move changes, with the figures before the last one.
func StateOf(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden) (State, error) {
	laid := s.Lies()
	st := State{Stowage: []aboard.Stowed{}, People: []Standing{}, Now: s.Figures(laid)}
	others, err := otherBoats(tx, actor, s.Boat.ID)
	if err != nil {
		return st, err
	}
	for _, g := range s.Gear {
		st.Stowage = append(st.Stowage, s.Stowed(g, laid, others))
	}
	if err := tx.Model(&model.Stowage{}).Where("crew_id = ? AND kind = 'quay' AND inside_id IS NULL", actor.Crew).Count(&st.Quay).Error; err != nil {
		return st, fmt.Errorf("counting the quay: %w", err)
	}
	for _, m := range s.Members {
		at := s.Stations[m.ID]
		one := Standing{MemberID: m.ID, Seated: at.Seated, Version: at.Version}
		if at.BoatID != nil && *at.BoatID == s.Boat.ID {
			one.PostID = at.PostID
			cg := model.VecOf(aboard.Body(m, at, *s.Post(*at.PostID)).At)
			one.CG = &cg
		} else if at.BoatID != nil {
			one.Boat = others[*at.BoatID]
		}
		st.People = append(st.People, one)
	}
	return st, history(tx, actor, s, laid, &st)
}

func otherBoats(tx *gorm.DB, actor kernel.Actor, but uuid.UUID) (map[uuid.UUID]string, error) {
	var boats []model.Boat
	if err := tx.Select("id", "name").Where("crew_id = ? AND id <> ?", actor.Crew, but).Find(&boats).Error; err != nil {
		return nil, fmt.Errorf("naming the other boats: %w", err)
	}
	names := map[uuid.UUID]string{}
	for _, b := range boats {
		names[b.ID] = b.Name
	}
	return names, nil
}

// history fills in the last move, the figures before it, and what the actor
// may undo and redo.
func history(tx *gorm.DB, actor kernel.Actor, s *aboard.Laden, laid map[uuid.UUID][]stow.Laid, st *State) error {
	var last []model.Event
	if err := tx.Where("crew_id = ? AND boat_id = ?", actor.Crew, s.Boat.ID).Order("seq DESC").Limit(1).Find(&last).Error; err != nil {
		return fmt.Errorf("reading the last move: %w", err)
	}
	var states []string
	err := tx.Model(&model.Event{}).Distinct("state").Where("crew_id = ? AND boat_id = ? AND by_member = ? AND state IN ('done', 'undone')",
		actor.Crew, s.Boat.ID, actor.Member).Find(&states).Error
	if err != nil {
		return fmt.Errorf("reading what may be undone: %w", err)
	}
	st.CanUndo, st.CanRedo = slices.Contains(states, "done"), slices.Contains(states, "undone")
	if len(last) == 0 {
		return nil
	}
	e := last[0]
	if err := Fetch(tx, actor, s, e.GearID); err != nil {
		return err
	}
	st.Last = &LastMove{At: e.At, What: s.What(e)}
	if m := s.Member(e.ByMember); m != nil {
		st.Last.By = m.Name
	}
	if s.Whereabouts(e).Same(e.Became) { // nobody moved it on from another boat
		earlier := s.Moved(e, e.Was)
		before := earlier.Figures(earlier.Relaid(laid, e))
		st.Before = &before
	}
	return nil
}
