package stowing

import (
	"cmp"
	"context"
	"errors"
	"fmt"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// ForTrip is how a boat is to be stowed for a trip.
type ForTrip struct {
	Arrangement uuid.UUID      `json:"arrangement_id" format:"uuid" doc:"Coming back to it are the moves from how she lies now"`
	Things      int            `json:"things"`
	LeftOut     []LeftOut      `json:"left_out" doc:"What found no place"`
	Now         aboard.Figures `json:"now" doc:"Of what goes along as it lies now"`
	Then        aboard.Figures `json:"then"`
}

// StowForTrip looks for a place for all that goes along on a trip, and keeps it with the
// trip. How she lies now is not changed.
func (a *Wing) StowForTrip(
	ctx context.Context,
	actor kernel.Actor,
	key, trip uuid.UUID,
	school string,
) (ForTrip, error) {
	var fs check.Faults
	fs.OneOf("school", school, words.Schools.Keys()...)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return ForTrip{}, err
	}
	var p *planner
	var o *days.Outing
	in := PlanInput{School: school, Quay: true}
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		if o, err = a.days.Load(tx, actor, trip, nil); err != nil {
			return err
		}
		if o.Laden == nil {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "The trip has no boat yet: choose one first."}
		}
		p, err = newPlanner(tx, actor, goingAboard(o, &in), in)
		return err
	})
	if err != nil {
		return ForTrip{}, err
	}
	done, err := a.planning.Take(ctx, actor.Crew)
	if err != nil {
		return ForTrip{}, err
	}
	defer done()
	p.Stop = func() bool { return ctx.Err() != nil }
	plan, err := p.plan(ctx, in)
	if err := cmp.Or(ctx.Err(), err); err != nil {
		return ForTrip{}, err
	}
	lines, err := spotsNow(p.next, nil)
	if err != nil {
		return ForTrip{}, err
	}
	r := ForTrip{Things: len(lines), LeftOut: plan.LeftOut, Now: plan.Now, Then: plan.Then}
	r.Arrangement, err = a.keepForTrip(ctx, actor, key, o, lines, school)
	return r, err
}

// goingAboard is the boat with all that goes along waiting on the quay for a place; what
// else stands there stays there.
func goingAboard(o *days.Outing, in *PlanInput) *aboard.Laden {
	s := o.Manned()
	for _, g := range o.Unstowed {
		s.Carry(g.ID, model.Whereabouts{Kind: "quay"})
		s.Take(g.ID)
	}
	for _, g := range s.Gear {
		waits := aboard.First(o.Unstowed, func(u model.Gear) bool { return u.ID == g.ID }) != nil
		if s.Stowage[g.ID].Kind == "quay" && !waits {
			in.Pinned = append(in.Pinned, g.ID)
		}
	}
	return s
}

func (a *Wing) keepForTrip(
	ctx context.Context,
	actor kernel.Actor,
	key uuid.UUID,
	o *days.Outing,
	lines []model.SavedSpot,
	school string,
) (id uuid.UUID, err error) {
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"stow-trip", o.Trip.ID, school}, func() (uuid.UUID, error) {
			row := model.Arrangement{ID: store.NewID(), CrewID: actor.Crew, BoatID: o.Laden.Boat.ID, TripID: &o.Trip.ID,
				Name: cut("for "+o.Trip.Name, 70), Whole: true}
			known, version := uuid.Nil, 0
			var was model.Arrangement
			err := store.One(tx, &was, "trip_id = ?", o.Trip.ID)
			switch {
			case err == nil:
				known, version, row.ID, row.Name = was.ID, was.Version, was.ID, was.Name
			case !errors.Is(err, store.ErrNone):
				return row.ID, fmt.Errorf("reading how she is to be stowed: %w", err)
			}
			if n, err := store.Count[model.Arrangement](tx, "boat_id = ? AND name = ? AND id <> ?", row.BoatID, row.Name, row.ID); err != nil {
				return row.ID, fmt.Errorf("naming how she is stowed: %w", err)
			} else if n > 0 {
				row.Name += " " + kernel.DayOf(o.Trip.StartsOn).String()
			}
			row.Lines, row.SavedAt, row.SavedBy, row.Version = lines, a.Now(), actor.Member, version+1
			return row.ID, kernel.Keep(tx, &row, known, version, "arrangement", row.Name)
		})
		id = made
		return err
	})
	return id, err
}

// cut is a text of no more than so many letters.
func cut(text string, letters int) string {
	if r := []rune(text); len(r) > letters {
		return string(r[:letters])
	}
	return text
}
