package where

import (
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
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

// StateOf is what a move changes, with the figures before the last one.
func StateOf(tx *store.Tx, actor kernel.Actor, s *aboard.Laden) (State, error) {
	st := State{Stowage: []aboard.Stowed{}, People: []Standing{}, Now: s.Figures()}
	others, err := otherBoats(tx, s.Boat.ID)
	if err != nil {
		return st, err
	}
	for _, g := range s.Gear {
		st.Stowage = append(st.Stowage, s.Stowed(g, others))
	}
	if st.Quay, err = store.Count[model.Stowage](tx, "kind = 'quay' AND inside_id IS NULL"); err != nil {
		return st, fmt.Errorf("counting the quay: %w", err)
	}
	for _, m := range s.Members {
		st.People = append(st.People, standing(s, m, others))
	}
	return st, history(tx, actor, s, &st)
}

func standing(s *aboard.Laden, m model.Member, others map[uuid.UUID]string) Standing {
	at := s.Stations[m.ID]
	one := Standing{MemberID: m.ID, Seated: at.Seated, Version: at.Version}
	switch {
	case at.BoatID == nil:
	case *at.BoatID == s.Boat.ID:
		one.PostID = at.PostID
		if post := s.Post(*at.PostID); post != nil {
			cg := model.VecOf(aboard.Body(m, at, *post).At)
			one.CG = &cg
		}
	default:
		one.Boat = others[*at.BoatID]
	}
	return one
}

// history fills in the last move, the figures before it, and what the actor
// may undo and redo.
func history(tx *store.Tx, actor kernel.Actor, s *aboard.Laden, st *State) error {
	var last []model.Event
	if err := store.Some(tx, &last, 1, "seq DESC", "boat_id = ?", s.Boat.ID); err != nil {
		return fmt.Errorf("reading the last move: %w", err)
	}
	var states []string
	err := store.Pluck[model.Event](tx, "DISTINCT state", &states,
		"boat_id = ? AND by_member = ? AND state IN ('done', 'undone')",
		s.Boat.ID, actor.Member)
	if err != nil {
		return fmt.Errorf("reading what may be undone: %w", err)
	}
	st.CanUndo, st.CanRedo = slices.Contains(states, "done"), slices.Contains(states, "undone")
	if len(last) == 0 {
		return nil
	}
	e := last[0]
	if err := Fetch(tx, s, e.GearID); err != nil {
		return err
	}
	st.Last = &LastMove{At: e.At, What: s.What(e)}
	if m := s.Member(e.ByMember); m != nil {
		st.Last.By = m.Name
	}
	// Nobody moved it on from another boat, and what it was in is still there to be told of.
	if e.Kind != "new" && s.Whereabouts(e).Same(e.Became) && s.Has(e.Was) {
		before := s.Moved(e, e.Was).Figures()
		st.Before = &before
	}
	return nil
}
