package where

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// ManyInput moves many things to one spot, at once: all of them or none. Without a
// spot they go to the quay.
type ManyInput struct {
	Gear     []Seen     `json:"gear" minItems:"1" maxItems:"500"`
	PlaceID  *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"Into a place aboard"`
	BoxID    *uuid.UUID `json:"box_id,omitempty" format:"uuid" doc:"Into a box, wherever that is"`
	ShedID   *uuid.UUID `json:"shed_id,omitempty" format:"uuid" doc:"To a place ashore"`
	HolderID *uuid.UUID `json:"holder_id,omitempty" format:"uuid" doc:"To a person who wears or carries it"`
}

// Seen is a thing with the version of its stowage that the mover saw.
type Seen struct {
	GearID  uuid.UUID `json:"gear_id" format:"uuid"`
	Version int       `json:"version"`
}

// mostAtOnce is how many things are moved in one stroke: each is judged and written.
const mostAtOnce = 500

func (in ManyInput) moves() ([]aboard.MoveInput, error) {
	var fs check.Faults
	fs.Within("gear", float64(len(in.Gear)), 1, mostAtOnce)
	if err := fs.Err(); err != nil {
		return nil, refuse.Faulty(err)
	}
	var moves []aboard.MoveInput
	twice := map[uuid.UUID]bool{}
	for i, g := range in.Gear {
		if twice[g.GearID] {
			return nil, refuse.Faulty(check.Faults{{Field: fmt.Sprintf("gear[%d].gear_id", i), Want: "names a thing twice"}})
		}
		twice[g.GearID] = true
		m := aboard.MoveInput{GearID: &g.GearID, PlaceID: in.PlaceID, BoxID: in.BoxID, ShedID: in.ShedID, HolderID: in.HolderID,
			Version: g.Version}
		if err := m.Check(); err != nil {
			return nil, err
		}
		moves = append(moves, m)
	}
	return moves, nil
}

// ManyMoved says what a crew should know of what was done.
type ManyMoved struct {
	Moved int      `json:"moved"`
	Said  []string `json:"said" doc:"What is not as it should be, though it was done"`
}

// MoveMany moves many things to one spot. What is in a box that moves too goes with it.
func (a *Wing) MoveMany(ctx context.Context, actor kernel.Actor, key uuid.UUID, in ManyInput) (ManyMoved, error) {
	answer := ManyMoved{Said: []string{}}
	moves, err := in.moves()
	if err != nil {
		return answer, err
	}
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"many", in}, func() (uuid.UUID, error) {
			var err error
			answer, err = a.moveMany(tx, actor, in, moves)
			return uuid.Nil, err
		})
		return err
	})
	return answer, err
}

func (a *Wing) moveMany(tx *store.Tx, actor kernel.Actor, in ManyInput, moves []aboard.MoveInput) (ManyMoved, error) {
	answer := ManyMoved{Said: []string{}}
	to, err := destination(tx, moves[0])
	if err != nil {
		return answer, err
	}
	s, err := a.LadenOf(tx, actor, to.BoatID)
	if err != nil {
		return answer, err
	}
	ids := make([]*uuid.UUID, len(moves))
	for i, m := range moves {
		ids[i] = m.GearID
	}
	if err := Fetch(tx, s, ids...); err != nil {
		return answer, err
	}
	var were []model.Stowage
	var going []aboard.MoveInput
	for _, m := range moves {
		if s.Thing(*m.GearID) == nil {
			return answer, refuse.Missing("gear")
		}
		if !ridesAlong(s, moves, *m.GearID) {
			were, going = append(were, s.Stowage[*m.GearID]), append(going, m)
		}
	}
	if s, err = MakeAll(tx, actor, s, going); err != nil {
		return answer, err
	}
	if in.ShedID != nil {
		if answer.Said, err = shelfSaysOfAll(tx, s, going, *in.ShedID); err != nil {
			return answer, err
		}
	}
	now, err := a.spotOf(tx, *going[0].GearID)
	if err != nil {
		return answer, err
	}
	answer.Moved = len(going)
	things := words.HowMany(len(going), "thing was", "things were")
	return answer, a.Undoable(tx, actor, kernel.Move, fmt.Sprintf("%s moved: %s.", things, now.Text), kernel.Stroke{Were: were})
}

// ridesAlong says whether a thing lies in a box that moves too.
func ridesAlong(s *aboard.Laden, moves []aboard.MoveInput, gear uuid.UUID) bool {
	for in := s.Stowage[gear].InsideID; in != nil; in = s.Stowage[*in].InsideID {
		if slices.ContainsFunc(moves, func(m aboard.MoveInput) bool { return *m.GearID == *in }) {
			return true
		}
	}
	return false
}

// shelfSaysOfAll tells what does not suit a place ashore, each thing once and not too much of it.
func shelfSaysOfAll(tx *store.Tx, s *aboard.Laden, moves []aboard.MoveInput, shed uuid.UUID) ([]string, error) {
	const most = 5
	said := []string{}
	for i, m := range moves {
		more, err := shelfSays(tx, s, *m.GearID, shed)
		if err != nil {
			return said, err
		}
		for _, r := range more {
			if i == 0 || r.Rule != stow.RuleLimit { // how much lies there is the same for each
				said = append(said, r.Sentence)
			}
		}
	}
	if len(said) > most {
		said = append(said[:most], fmt.Sprintf("And %d more.", len(said)-most))
	}
	return said, nil
}

// Return takes gear that was moved in one stroke back to where it was: what goes into
// places first, and then what goes into boxes. What was moved on since stays, and is
// named.
func (a *Wing) Return(tx *store.Tx, actor kernel.Actor, were []model.Stowage) (stayed []string, err error) {
	groups := map[uuid.UUID][]aboard.MoveInput{} // by boat; none is ashore
	var boxed []aboard.MoveInput
	for _, was := range were {
		var now model.Stowage
		if err := store.One(tx, &now, "gear_id = ?", was.GearID); errors.Is(err, store.ErrNone) {
			continue // it was removed since
		} else if err != nil {
			return nil, fmt.Errorf("looking where it is: %w", err)
		}
		in := aboard.Back(was.GearID, was)
		switch boat := uuid.Nil; {
		case now.Version == was.Version: // it had been there already
		case now.Version != in.Version || now.Kind == "lent":
			stayed = append(stayed, a.nameOf(tx, was.GearID))
		case in.BoxID != nil:
			boxed = append(boxed, in)
		default:
			if was.BoatID != nil {
				boat = *was.BoatID
			}
			groups[boat] = append(groups[boat], in)
		}
	}
	for boat, moves := range groups {
		s := Ashore(actor)
		if boat != uuid.Nil {
			if s, err = a.Laden(tx, actor, boat); err != nil {
				return nil, err
			}
		}
		if _, err := MakeAll(tx, actor, s, moves); err != nil {
			return nil, err
		}
	}
	for _, in := range boxed {
		if _, _, err := a.MoveIn(tx, actor, in); err != nil {
			return nil, err
		}
	}
	return stayed, nil
}

func (a *Wing) nameOf(tx *store.Tx, gear uuid.UUID) string {
	var g model.Gear
	if err := store.One(tx, &g, "id = ?", gear); err != nil {
		return "A thing"
	}
	return g.Name
}
