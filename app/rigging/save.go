package rigging

import (
	"context"
	"errors"
	"fmt"
	"math"
	"strings"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// MostFittings of one boat. Practice: three times what a large one has.
const MostFittings = 300

// mostStory is how many lines are kept of what was done to a fitting.
const mostStory = 60

// Mount fastens things to a boat, all or none, and gives their ids.
func (a *Wing) Mount(
	ctx context.Context,
	actor kernel.Actor,
	key, boat uuid.UUID,
	list []FittingInput,
) ([]uuid.UUID, error) {
	var ids []uuid.UUID
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, again, err := a.Once(tx, actor, key, []any{"mount", boat, list}, func() (uuid.UUID, error) {
			long, err := a.roomFor(tx, boat, len(list))
			if err != nil {
				return uuid.Nil, err
			}
			ids, err = a.mount(tx, actor, boat, long, list)
			return boat, err
		})
		if err == nil && again {
			return store.Pluck[model.Fitting](tx, "id", &ids, "boat_id = ? AND name IN ?", boat, namesOf(list))
		}
		return err
	})
	return ids, err
}

func namesOf(list []FittingInput) []string {
	names := make([]string, len(list))
	for i, in := range list {
		names[i] = in.Name
	}
	return names
}

// roomFor gives the boat's length where so many more fittings may be listed.
func (a *Wing) roomFor(tx *store.Tx, boat uuid.UUID, more int) (float64, error) {
	n, err := store.Count[model.Fitting](tx, "boat_id = ?", boat)
	if err != nil {
		return 0, fmt.Errorf("counting what is fastened to her: %w", err)
	}
	if int(n)+more > MostFittings {
		return 0, &refuse.Error{
			Kind:     refuse.Refused,
			Sentence: fmt.Sprintf("She would have %d fittings; at most %d are kept.", int(n)+more, MostFittings),
		}
	}
	craft, err := a.where.Craft(tx, boat)
	if err != nil {
		return 0, err
	}
	return craft.Hull.Length(), nil
}

func (a *Wing) mount(
	tx *store.Tx,
	actor kernel.Actor,
	boat uuid.UUID,
	long float64,
	list []FittingInput,
) ([]uuid.UUID, error) {
	var done kernel.Stroke
	by, err := kernel.NameOf(tx, actor.Member)
	if err != nil {
		return nil, err
	}
	for _, in := range list {
		if err := in.Check(long); err != nil {
			return nil, err
		}
		if err := aboardHer(tx, boat, in.Lies); err != nil {
			return nil, err
		}
		row := in.row(actor.Crew, boat, a.Today())
		row.ID, row.Version = store.NewID(), 1
		row.Story = model.FittingStory{{On: a.Now(), By: by, What: "listed"}}
		if err := kernel.Taken(store.Add(tx, &row), "name", in.Name); err != nil {
			return nil, err
		}
		done.Fitted = append(done.Fitted, row.ID)
	}
	said := fmt.Sprintf("%d fittings were listed.", len(list))
	if len(list) == 1 {
		said = list[0].Name + " was listed."
	}
	return done.Fitted, a.Undoable(tx, actor, kernel.ChangeBoat, said, done)
}

// aboardHer sees that the post and the place that a fitting speaks of are the boat's.
func aboardHer(tx *store.Tx, boat uuid.UUID, l model.FittingLies) error {
	if l.Post != nil {
		if err := store.Exists[model.Post](tx, "boat_id = ? AND id = ?", boat, *l.Post); err != nil {
			return kernel.Absent(err, "post")
		}
	}
	if l.Straps != nil {
		return kernel.Absent(store.Exists[model.Place](tx, "boat_id = ? AND id = ?", boat, *l.Straps), "place")
	}
	return nil
}

// found is a fitting of a boat, kept from others until the transaction ends.
func found(tx *store.Tx, boat, id uuid.UUID) (model.Fitting, error) {
	var row model.Fitting
	err := store.One(tx, &row, "id = ? AND (boat_id = ? OR unit)", id, boat)
	return row, kernel.Absent(err, "fitting")
}

// Change changes a fitting over the version that was seen.
func (a *Wing) Change(
	ctx context.Context,
	actor kernel.Actor,
	key, boat, id uuid.UUID,
	version int,
	in FittingInput,
) (uuid.UUID, error) {
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"refit", boat, id, version, in}, func() (uuid.UUID, error) {
			craft, err := a.where.Craft(tx, boat)
			if err != nil {
				return id, err
			}
			if err := in.Check(craft.Hull.Length()); err != nil {
				return id, err
			}
			if err := aboardHer(tx, boat, in.Lies); err != nil {
				return id, err
			}
			return id, a.change(tx, actor, kernel.ChangeBoat, boat, id, version, func(row *model.Fitting) string {
				was := *row
				*row = in.row(actor.Crew, boat, a.Today())
				row.ID, row.Story, row.CreatedAt, row.BaseID, row.IsOff = id, was.Story, was.CreatedAt, was.BaseID, was.IsOff
				row.BoatID = was.BoatID
				if was.BaseID != nil {
					row.Lies.At, row.Lies.Turn = was.Lies.At, was.Lies.Turn // it stands where its base does
				}
				if !in.Unit || in.Dock != was.Dock {
					row.BaseID = nil
				}
				if row.Look.What == was.Look.What {
					row.Look.Run = was.Look.Run
				}
				return changed(was, *row)
			})
		})
		return err
	})
	return id, err
}

// change writes a fitting anew, with a line of what was done, so that it can be taken
// back.
func (a *Wing) change(tx *store.Tx, actor kernel.Actor, may kernel.Action, boat, id uuid.UUID, version int,
	how func(*model.Fitting) string) error {
	row, err := found(tx, boat, id)
	if err != nil {
		return err
	}
	if row.Version != version {
		return refuse.Stale(
			row.Name,
			FittingView{ID: row.ID, Version: row.Version, FittingInput: inputOf(row), Story: row.Story},
		)
	}
	by, err := kernel.NameOf(tx, actor.Member)
	if err != nil {
		return err
	}
	was := row
	if did := how(&row); did != "" {
		row.Story = append(row.Story, model.FittingDone{On: a.Now(), By: by, What: did})
		row.Story = row.Story[max(0, len(row.Story)-mostStory):]
	}
	row.Version = version + 1
	if err := kernel.Keep(tx, &row, id, version, "fitting", row.Name); err != nil {
		return kernel.Taken(err, "name", row.Name)
	}
	return a.Undoable(tx, actor, may, row.Name+" was changed.", kernel.Stroke{Refit: []model.Fitting{was}})
}

// changed says in words what became of a fitting.
func changed(was, now model.Fitting) string {
	var did []string
	if was.Name != now.Name {
		did = append(did, "renamed from "+was.Name)
	}
	if d := moved(was, now); d > 0.0005 {
		did = append(did, fmt.Sprintf("moved %.0f mm", d*1000))
	}
	if was.Lies.Turn != now.Lies.Turn || was.Lies.Lean != now.Lies.Lean {
		did = append(did, "turned")
	}
	if was.Lies.Size != now.Lies.Size {
		did = append(did, "measured anew")
	}
	if was.Held.Method != now.Held.Method || was.Held.Screw != now.Held.Screw || was.Held.Length != now.Held.Length ||
		was.Held.Count != now.Held.Count {
		did = append(did, "held otherwise")
	}
	if was.Kg != now.Kg {
		did = append(did, fmt.Sprintf("%.2g kg, was %.2g", now.Kg, was.Kg))
	}
	return strings.Join(did, ", ")
}

func moved(was, now model.Fitting) float64 {
	d := 0.0
	for k := range 3 {
		d += (was.Lies.At[k] - now.Lies.At[k]) * (was.Lies.At[k] - now.Lies.At[k])
	}
	return math.Sqrt(d)
}

// Done notes something that was done to a fitting. Where it was looked at, that is
// counted anew from today.
func (a *Wing) Done(
	ctx context.Context,
	actor kernel.Actor,
	key, boat, id uuid.UUID,
	version int,
	what string,
	looked bool,
) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"fitting done", id, version, what, looked}, func() (uuid.UUID, error) {
			return id, a.change(tx, actor, kernel.ChangeGear, boat, id, version, func(row *model.Fitting) string {
				if looked {
					today := a.Today()
					row.Look.On, row.Look.Run = &today, 0
				}
				if what == "" {
					return "looked at: " + row.Look.What
				}
				return what
			})
		})
		return err
	})
}

// Remove takes a fitting off the list.
func (a *Wing) Remove(ctx context.Context, actor kernel.Actor, boat, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		row, err := found(tx, boat, id)
		if err != nil {
			return err
		}
		var docked model.Fitting
		err = store.One(tx, &docked, "base_id = ?", id)
		if err == nil {
			return &refuse.Error{Kind: refuse.Refused, Sentence: docked.Name + " is docked in it: take that out first."}
		}
		if !errors.Is(err, store.ErrNone) {
			return fmt.Errorf("looking what is docked in it: %w", err)
		}
		var s kernel.Stroke
		args := store.Args{"id": id}
		if err := errors.Join(s.Gone(tx, "id = @id", args, "fitting"), s.Gone(tx, "fitting_id = @id", args, "photo")); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeBoat, row.Name+" was taken off the list.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.Fitting](tx, "id = ?", id), "fitting")
	})
}

// Set keeps how a boat's fittings are used, and how high she may be.
func (a *Wing) Set(
	ctx context.Context,
	actor kernel.Actor,
	key, boat uuid.UUID,
	version int,
	in model.RiggingInput,
) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"rigging", boat, version, in}, func() (uuid.UUID, error) {
			craft, err := a.where.Craft(tx, boat)
			if err != nil {
				return boat, err
			}
			if in.Rode != nil && in.Rode.Locker != nil {
				if err := store.Exists[model.Place](tx, "boat_id = ? AND id = ?", boat, *in.Rode.Locker); err != nil {
					return boat, kernel.Absent(err, "place")
				}
			}
			next := craft.Input
			next.Outfit.Rigging = &in
			if err := next.Check(); err != nil {
				return boat, err
			}
			return boat, fleet.ChangeBoat(tx, boat, version, map[string]any{"outfit": next.Outfit})
		})
		return err
	})
}
