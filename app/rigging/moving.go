package rigging

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// usualMinutes are what taking a fitting off, or putting it on, takes by how it is held.
// Practice.
var usualMinutes = map[string]float64{
	"dock":         2,
	"clamp":        5,
	"track":        3,
	"suction":      1,
	"through-bolt": 20,
	"plate":        25,
	"rivet-nut":    12,
	"well-nut":     12,
	"tapped":       12,
	"coach-screw":  12,
	"self-tapper":  12,
	"adhesive":     120,
}

func minutesOf(f model.Fitting) float64 {
	if f.Moving.Minutes > 0 {
		return f.Moving.Minutes
	}
	if f.Unit {
		return usualMinutes["dock"]
	}
	return usualMinutes[f.Held.Method]
}

// StepView is a thing to be done when a set is put on, or she is left.
type StepView struct {
	FittingID uuid.UUID  `json:"fitting_id" format:"uuid"`
	On        bool       `json:"on" doc:"It is put on; else taken off"`
	BaseID    *uuid.UUID `json:"base_id,omitempty" format:"uuid"`
	Said      string     `json:"said"`
	Minutes   float64    `json:"minutes"`
}

// LeftView is what is taken off when she is left alone.
type LeftView struct {
	Steps   []StepView `json:"steps"`
	Minutes float64    `json:"minutes"`
}

// SetView is a set with what putting it on takes now.
type SetView struct {
	ID      uuid.UUID       `json:"id" format:"uuid"`
	Version int             `json:"version"`
	Name    string          `json:"name"`
	Lines   []model.RigLine `json:"lines"`
	On      bool            `json:"on" doc:"She is rigged so now"`
	Steps   []StepView      `json:"steps"`
	Minutes float64         `json:"minutes"`
}

// SetInput is a set as it is entered: the fittings that are on, and units with the
// bases they dock in.
type SetInput struct {
	Name  string          `json:"name"`
	Lines []model.RigLine `json:"lines" maxItems:"300"`
}

// movable loads what may be on a boat: all that is hers, on or off, and the crew's units.
func movable(tx *store.Tx, boat uuid.UUID) (list []model.Fitting, err error) {
	if err := store.All(tx, &list, "name, id", "boat_id = ? OR unit", boat); err != nil {
		return nil, fmt.Errorf("loading what can be moved: %w", err)
	}
	return list, nil
}

func (a *Wing) addMoving(tx *store.Tx, s *aboard.Laden, out *Rigging) error {
	list, err := movable(tx, s.Boat.ID)
	if err != nil {
		return err
	}
	var rows []model.Boat
	if err := store.All(tx, &rows, "", "id <> ?", s.Boat.ID); err != nil {
		return fmt.Errorf("loading the other boats: %w", err)
	}
	boats := map[uuid.UUID]string{}
	for _, b := range rows {
		boats[b.ID] = b.Name
	}
	out.Off, out.Sets, out.Left = []FittingView{}, []SetView{}, leaving(list, s.Boat.ID)
	for _, f := range list {
		if f.IsOff || f.BoatID == nil || *f.BoatID != s.Boat.ID {
			v := viewFitting(s, f)
			if !f.IsOff && f.BoatID != nil {
				v.Boat = boats[*f.BoatID]
			}
			out.Off = append(out.Off, v)
		}
	}
	var sets []model.RigSet
	if err := store.All(tx, &sets, "name, id", "boat_id = ?", s.Boat.ID); err != nil {
		return fmt.Errorf("loading her sets: %w", err)
	}
	for _, set := range sets {
		steps := stepsTo(set, sets, list, s.Boat.ID)
		out.Sets = append(
			out.Sets,
			SetView{ID: set.ID, Version: set.Version, Name: set.Name, Lines: set.Lines, On: len(steps.Steps) == 0,
				Steps: steps.Steps, Minutes: steps.Minutes},
		)
	}
	return nil
}

// add notes a step; base is where a unit goes.
func (l *LeftView) add(all []model.Fitting, f model.Fitting, base *uuid.UUID, on bool) {
	verb := "Take off "
	if on {
		verb = "Put on "
	}
	said := verb + f.Name
	if base != nil {
		if b := aboard.First(all, func(b model.Fitting) bool { return b.ID == *base }); b != nil {
			said = "Dock " + f.Name + " in " + b.Name
		}
	}
	var with []string
	for _, t := range []string{f.Moving.Tools, f.Moving.Parts} {
		if t != "" {
			with = append(with, t)
		}
	}
	if len(with) > 0 {
		said += " (" + strings.Join(with, "; ") + ")"
	}
	minutes := minutesOf(f)
	l.Steps = append(l.Steps, StepView{FittingID: f.ID, On: on, BaseID: base, Said: said + ".", Minutes: minutes})
	l.Minutes += minutes
}

// stepsTo lists what is to be done to have a set on: what other sets have on and this one
// has not comes off first.
func stepsTo(set model.RigSet, sets []model.RigSet, list []model.Fitting, boat uuid.UUID) LeftView {
	out := LeftView{Steps: []StepView{}}
	wanted := map[uuid.UUID]model.RigLine{}
	others := map[uuid.UUID]bool{}
	for _, l := range set.Lines {
		wanted[l.FittingID] = l
	}
	for _, s := range sets {
		for _, l := range s.Lines {
			others[l.FittingID] = true
		}
	}
	for _, f := range list {
		if _, stays := wanted[f.ID]; !stays && others[f.ID] && here(f, boat) {
			out.add(list, f, nil, false)
		}
	}
	for _, f := range list {
		l, on := wanted[f.ID]
		switch {
		case !on:
		case f.Unit && (f.BaseID == nil || l.BaseID == nil || *f.BaseID != *l.BaseID):
			if l.BaseID != nil {
				out.add(list, f, l.BaseID, true)
			}
		case !f.Unit && !here(f, boat):
			out.add(list, f, nil, true)
		}
	}
	out.order(list)
	return out
}

// here says whether a fitting is on a boat now.
func here(f model.Fitting, boat uuid.UUID) bool {
	return f.BoatID != nil && *f.BoatID == boat && !f.IsOff
}

// leaving lists what comes off when she is left alone.
func leaving(list []model.Fitting, boat uuid.UUID) LeftView {
	out := LeftView{Steps: []StepView{}}
	for _, f := range list {
		if f.Moving.Thief && here(f, boat) {
			out.add(list, f, nil, false)
		}
	}
	out.order(list)
	return out
}

// order puts steps so that they can be done: a unit is out of its base before that comes
// off, and a base is on before a unit docks in it.
func (l *LeftView) order(list []model.Fitting) {
	rank := func(s StepView) int {
		f := aboard.First(list, func(f model.Fitting) bool { return f.ID == s.FittingID })
		switch {
		case f.Unit && !s.On:
			return 0
		case !f.Unit && s.On:
			return 1
		case f.Unit:
			return 2
		}
		return 3
	}
	slices.SortStableFunc(l.Steps, func(a, b StepView) int { return cmp.Compare(rank(a), rank(b)) })
}

// Dock puts a unit into a base, or takes it ashore; any other fitting is put on or
// taken off.
func (a *Wing) Dock(
	ctx context.Context,
	actor kernel.Actor,
	key, boat, id uuid.UUID,
	version int,
	base *uuid.UUID,
	on bool,
) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"dock", boat, id, version, base, on}, func() (uuid.UUID, error) {
			list, err := movable(tx, boat)
			if err != nil {
				return id, err
			}
			f := aboard.First(list, func(f model.Fitting) bool { return f.ID == id })
			if f == nil {
				return id, refuse.Missing("fitting")
			}
			if f.Version != version {
				return id, refuse.Stale(f.Name, nil)
			}
			var s kernel.Stroke
			if err := a.move(tx, actor, &s, list, StepView{FittingID: id, BaseID: base, On: on}, boat); err != nil {
				return id, err
			}
			return id, a.Undoable(tx, actor, kernel.ChangeGear, f.Name+" was moved.", s)
		})
		return err
	})
}

// move does one step, and notes it.
func (a *Wing) move(
	tx *store.Tx,
	actor kernel.Actor,
	s *kernel.Stroke,
	list []model.Fitting,
	step StepView,
	boat uuid.UUID,
) error {
	f := aboard.First(list, func(f model.Fitting) bool { return f.ID == step.FittingID })
	if f == nil {
		return refuse.Missing("fitting")
	}
	by, err := kernel.NameOf(tx, actor.Member)
	if err != nil {
		return err
	}
	was := *f
	did, err := stand(f, list, step, boat)
	if err != nil {
		return err
	}
	f.Story = append(f.Story, model.FittingDone{On: a.Now(), By: by, What: did})
	f.Story = f.Story[max(0, len(f.Story)-mostStory):]
	f.Version++
	s.Refit = append(s.Refit, was)
	return kernel.Keep(tx, f, f.ID, was.Version, "fitting", f.Name)
}

// stand changes where a fitting is, and says what was done.
func stand(f *model.Fitting, list []model.Fitting, step StepView, boat uuid.UUID) (string, error) {
	if !f.Unit {
		if step.BaseID != nil {
			return "", &refuse.Error{Kind: refuse.Refused, Sentence: f.Name + " is no unit: it docks in no base."}
		}
		docked := func(o model.Fitting) bool { return o.BaseID != nil && *o.BaseID == f.ID }
		if unit := aboard.First(list, docked); unit != nil && !step.On {
			return "", &refuse.Error{
				Kind:     refuse.Refused,
				Sentence: fmt.Sprintf("%s is docked in %s: take it out first.", unit.Name, f.Name),
			}
		}
		f.IsOff = !step.On
		return map[bool]string{true: "put on", false: "taken off"}[step.On], nil
	}
	if step.BaseID == nil || !step.On {
		f.BaseID, f.IsOff = nil, true
		return "taken ashore", nil
	}
	base := aboard.First(list, func(b model.Fitting) bool { return b.ID == *step.BaseID })
	if base == nil || base.Unit {
		return "", refuse.Missing("base")
	}
	if !sameDock(base.Dock, f.Dock) {
		return "", &refuse.Error{Kind: refuse.Refused,
			Sentence: fmt.Sprintf(
				"%s stands on %q and %s takes %q: it does not dock there.",
				f.Name,
				f.Dock,
				base.Name,
				base.Dock,
			)}
	}
	if other := aboard.First(list, func(o model.Fitting) bool { return o.ID != f.ID && o.BaseID != nil && *o.BaseID == base.ID }); other != nil {
		return "", &refuse.Error{
			Kind:     refuse.Refused,
			Sentence: fmt.Sprintf("%s is in %s: take it out first.", other.Name, base.Name),
		}
	}
	if base.IsOff {
		return "", &refuse.Error{Kind: refuse.Refused, Sentence: base.Name + " is off: put it on first."}
	}
	f.BaseID, f.IsOff, f.BoatID = &base.ID, false, base.BoatID
	return "docked in " + base.Name, nil
}

func sameDock(a, b string) bool {
	return a != "" && strings.EqualFold(strings.TrimSpace(a), strings.TrimSpace(b))
}

// SaveSet makes a set (no id) or changes one. What is on it must be hers, or a unit.
func (a *Wing) SaveSet(
	ctx context.Context,
	actor kernel.Actor,
	key, boat, id uuid.UUID,
	version int,
	in SetInput,
) (uuid.UUID, error) {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return id, err
	}
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"rig set", boat, id, version, in}, func() (uuid.UUID, error) {
			if _, err := a.where.Craft(tx, boat); err != nil {
				return id, err
			}
			list, err := movable(tx, boat)
			if err != nil {
				return id, err
			}
			if err := checkLines(in.Lines, list); err != nil {
				return id, err
			}
			row := model.RigSet{
				ID:      kernel.IDOr(id),
				CrewID:  actor.Crew,
				BoatID:  boat,
				Name:    in.Name,
				Lines:   in.Lines,
				Version: version + 1,
			}
			return row.ID, kernel.Keep(tx, &row, id, version, "set", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

// checkLines sees that each line speaks of a fitting once, and no base takes two units.
func checkLines(lines []model.RigLine, list []model.Fitting) error {
	seen, bases := map[uuid.UUID]bool{}, map[uuid.UUID]bool{}
	for _, l := range lines {
		f := aboard.First(list, func(f model.Fitting) bool { return f.ID == l.FittingID })
		if f == nil {
			return refuse.Missing("fitting")
		}
		if seen[l.FittingID] {
			return &refuse.Error{Kind: refuse.Refused, Sentence: f.Name + " is on the set twice."}
		}
		seen[l.FittingID] = true
		if l.BaseID == nil {
			continue
		}
		base := aboard.First(list, func(b model.Fitting) bool { return b.ID == *l.BaseID })
		if base == nil || !f.Unit || !sameDock(base.Dock, f.Dock) {
			return &refuse.Error{
				Kind:     refuse.Refused,
				Sentence: f.Name + " does not dock there: its foot and the base's must be the same.",
			}
		}
		if bases[base.ID] {
			return &refuse.Error{Kind: refuse.Refused, Sentence: base.Name + " takes one unit at a time."}
		}
		bases[base.ID] = true
	}
	return nil
}

// RemoveSet takes a set away; what is on the boat stays as it is.
func (a *Wing) RemoveSet(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.RigSet
		if err := store.One(tx, &row, "boat_id = ? AND id = ?", boat, id); err != nil {
			return kernel.Absent(err, "set")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "rig_set"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeBoat, "The set "+row.Name+" was removed.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.RigSet](tx, "boat_id = ? AND id = ?", boat, id), "set")
	})
}

// PutOn does all that having a set on takes, in one stroke.
func (a *Wing) PutOn(ctx context.Context, actor kernel.Actor, key, boat, id uuid.UUID) error {
	return a.stroke(
		ctx,
		actor,
		key,
		boat,
		[]any{"put on", boat, id},
		func(tx *store.Tx, list []model.Fitting) (LeftView, string, error) {
			var sets []model.RigSet
			if err := store.All(tx, &sets, "name, id", "boat_id = ?", boat); err != nil {
				return LeftView{}, "", fmt.Errorf("loading her sets: %w", err)
			}
			set := aboard.First(sets, func(s model.RigSet) bool { return s.ID == id })
			if set == nil {
				return LeftView{}, "", refuse.Missing("set")
			}
			return stepsTo(*set, sets, list, boat), "She was rigged for " + set.Name + ".", nil
		},
	)
}

// Leave takes off all that is taken off when she is left alone, in one stroke.
func (a *Wing) Leave(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID) error {
	return a.stroke(
		ctx,
		actor,
		key,
		boat,
		[]any{"leave", boat},
		func(_ *store.Tx, list []model.Fitting) (LeftView, string, error) {
			out := leaving(list, boat)
			return out, words.HowMany(len(out.Steps), "thing was", "things were") + " taken off.", nil
		},
	)
}

// stroke does steps as one that can be taken back whole.
func (a *Wing) stroke(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, input []any,
	steps func(*store.Tx, []model.Fitting) (LeftView, string, error)) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, input, func() (uuid.UUID, error) {
			if _, err := a.where.Craft(tx, boat); err != nil {
				return boat, err
			}
			list, err := movable(tx, boat)
			if err != nil {
				return boat, err
			}
			todo, said, err := steps(tx, list)
			if err != nil {
				return boat, err
			}
			var s kernel.Stroke
			for _, step := range todo.Steps {
				if err := a.move(tx, actor, &s, list, step, boat); err != nil {
					return boat, err
				}
			}
			return boat, a.Undoable(tx, actor, kernel.ChangeGear, said, s)
		})
		return err
	})
}
