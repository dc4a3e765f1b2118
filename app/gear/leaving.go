package gear

import (
	"context"
	"errors"
	"fmt"

	"ergasia/app/crew"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LeavingInput says what becomes of the gear of one who leaves the crew.
type LeavingInput struct {
	Version int        `json:"version"`
	Gear    string     `json:"gear" words:"left_gear" doc:"Where the gear that is theirs goes"`
	HeirID  *uuid.UUID `json:"heir_id,omitempty" format:"uuid" doc:"Whose it is from then on"`
}

func (in LeavingInput) check(member uuid.UUID) error {
	var fs check.Faults
	fs.OneOf("gear", in.Gear, words.LeftGear.Keys()...)
	if (in.Gear == "person") != (in.HeirID != nil) {
		fs.Add("heir_id", nil, "must name a person where the gear goes to one, and only there")
	}
	if in.HeirID != nil && *in.HeirID == member {
		fs.Add("heir_id", *in.HeirID, "must be someone who stays")
	}
	return refuse.Faulty(fs.Err())
}

// PartWith takes a person off the crew. What they did keeps their name; they sign
// in no more, are not aboard, and places kept for them are kept no longer.
func (a *Wing) PartWith(ctx context.Context, actor kernel.Actor, key, member uuid.UUID, in LeavingInput) error {
	if err := in.check(member); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"leaving", member, in}, func() (uuid.UUID, error) {
			var m model.Member
			if err := store.Locked(tx, &m, "id = ? AND left_at IS NULL", member); err != nil {
				return member, kernel.Absent(err, "person")
			}
			if m.Version != in.Version {
				return member, refuse.Stale(m.Name, crew.ViewMember(m))
			}
			if err := a.handOn(tx, actor, m.ID, in); err != nil {
				return member, err
			}
			if err := where.Disembark(tx, actor, m.ID); err != nil {
				return member, err
			}
			err := store.Set[model.Place](tx, map[string]any{"kept_for_owner": nil}, "kept_for_owner = ?", m.ID)
			if err != nil {
				return member, fmt.Errorf("opening the places kept for them: %w", err)
			}
			return member, crew.End(tx, m)
		})
		return err
	})
}

// handOn gives a person's gear to whoever has it from then on, and takes what they
// carry out of their hands.
func (a *Wing) handOn(tx *store.Tx, actor kernel.Actor, member uuid.UUID, in LeavingInput) error {
	if err := (GearInput{OwnerID: in.HeirID}).refers(tx); err != nil {
		return err
	}
	var theirs []uuid.UUID
	if err := store.Pluck[model.Gear](tx, "id", &theirs, "owner_id = ?", member); err != nil {
		return fmt.Errorf("finding their gear: %w", err)
	}
	if in.Gear == "leaves" && len(theirs) > 0 {
		return errors.Join(a.removeGear(tx, actor, theirs), handedBack(tx, actor, member))
	}
	change := BulkInput{OwnerID: in.HeirID, Unowned: in.Gear == "crew"}
	for _, id := range theirs {
		if err := a.changeOneOfMany(tx, actor, id, change); err != nil {
			return err
		}
	}
	return handedBack(tx, actor, member)
}

// handedBack puts what a person carries on the quay.
func handedBack(tx *store.Tx, actor kernel.Actor, member uuid.UUID) error {
	var carried []uuid.UUID
	err := store.Pluck[model.Stowage](tx, "gear_id", &carried, "held_by = ? AND inside_id IS NULL", member)
	if err != nil {
		return fmt.Errorf("finding what they carry: %w", err)
	}
	for _, id := range carried {
		if err := where.Send(tx, actor, id, model.Whereabouts{Kind: "quay"}); err != nil {
			return err
		}
	}
	return nil
}
