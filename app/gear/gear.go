package gear

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/find"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// GearView is a thing as the crew sees it.
type GearView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	Hours   float64   `json:"hours" doc:"Run, by the trips it was on"`
	Trips   int       `json:"trips" doc:"That it was on"`
	GearInput
}

// ViewGear is a row as the crew sees it.
func ViewGear(g model.Gear) GearView {
	return GearView{ID: g.ID, Version: g.Version, Hours: g.Hours, Trips: g.Trips, GearInput: inputOf(g)}
}

// Listed is a copy of a list that is never nil.
func Listed(list []string) []string { return append([]string{}, list...) }

// TidyTags gives tags in one spelling, each once.
func TidyTags(tags []string) []string {
	tidy := []string{}
	for _, t := range tags {
		t = strings.Join(strings.Fields(strings.ToLower(t)), " ")
		if t != "" && !slices.Contains(tidy, t) {
			tidy = append(tidy, t)
		}
	}
	return tidy
}

// SaveGear makes a thing (no id) or changes one. New gear is on the quay.
func (a *Wing) SaveGear(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in GearInput) (GearView, error) {
	if err := in.check(); err != nil {
		return GearView{}, err
	}
	var now model.Gear
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{id, version, in}, func() (uuid.UUID, error) {
			if err := in.refers(tx); err != nil {
				return id, err
			}
			return a.saveGear(tx, actor, id, version, in.Row(actor))
		})
		if err != nil {
			return err
		}
		return kernel.Absent(store.One(tx, &now, "id = ?", made), "gear")
	})
	return ViewGear(now), err
}

// refers says whether the owner, and what it is a spare for, are of this crew.
func (in GearInput) refers(tx *store.Tx) error {
	if in.OwnerID != nil {
		if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *in.OwnerID); err != nil {
			return kernel.Absent(err, "person")
		}
	}
	if in.WornBy != nil {
		if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *in.WornBy); err != nil {
			return kernel.Absent(err, "person who wears it")
		}
	}
	if in.SparesFor != nil {
		if err := store.Exists[model.Gear](tx, "id = ?", *in.SparesFor); err != nil {
			return kernel.Absent(err, "gear that this is a spare for")
		}
	}
	return nil
}

func (a *Wing) saveGear(tx *store.Tx, actor kernel.Actor, id uuid.UUID, version int, row model.Gear) (uuid.UUID,
	error) {
	if id == uuid.Nil {
		row.ID = store.NewID()
		return row.ID, a.CreateGear(tx, actor, []model.Gear{row}, map[uuid.UUID]model.Stowage{})
	}
	var was model.Gear
	if err := store.Locked(tx, &was, "id = ?", id); err != nil {
		return id, kernel.Absent(err, "gear")
	}
	if was.Version != version {
		return id, refuse.Stale(was.Name, ViewGear(was))
	}
	return id, a.ChangeGear(tx, actor, was, row)
}

// ChangeGear writes new values over a row that is locked, and notes in its
// history what a crew will ask about later.
func (a *Wing) ChangeGear(tx *store.Tx, actor kernel.Actor, was, row model.Gear) error {
	row.ID, row.Version, row.Hours, row.Trips, row.UsedAt = was.ID, was.Version+1, was.Hours, was.Trips, a.Now()
	if was.Container() && (!row.Container() || row.Count != 1) {
		n, err := store.Count[model.Stowage](tx, "inside_id = ?", was.ID)
		if err != nil {
			return fmt.Errorf("looking what it holds: %w", err)
		}
		if n > 0 {
			return &refuse.Error{Kind: refuse.Refused,
				Sentence: fmt.Sprintf("%s holds %s: empty it before it becomes no container, or several.", was.Name, words.HowMany(int(n), "thing"))}
		}
	}
	if err := store.Save(tx, &row, was.ID, was.Version); err != nil {
		return refersToItself(err)
	}
	if was.Name != row.Name || was.Nickname != row.Nickname || was.Serial != row.Serial ||
		!slices.Equal(was.Tags, row.Tags) {
		if err := indexWords(tx, actor, row); err != nil {
			return err
		}
	}
	for kind, text := range changesOf(was, row) {
		if err := a.Note(tx, actor, was.ID, kind, text); err != nil {
			return err
		}
	}
	return nil
}

func refersToItself(err error) error {
	if errors.Is(err, store.ErrIllegal) {
		return refuse.Faulty(check.Faults{{Field: "spares_for", Want: "a thing is no spare for itself"}})
	}
	return err
}

// changesOf words what changed in condition, mass or count.
func changesOf(was, row model.Gear) map[string]string {
	notes := map[string]string{}
	if was.Condition != row.Condition {
		notes["condition"] = fmt.Sprintf("%s → %s", was.Condition, row.Condition)
	}
	if was.Kg != row.Kg || was.MassKnown != row.MassKnown {
		notes["weighed"] = fmt.Sprintf("%.3g kg (%s) → %.3g kg (%s)", was.Kg, was.MassKnown, row.Kg, row.MassKnown)
	}
	if was.Count != row.Count {
		notes["count"] = fmt.Sprintf("%d → %d", was.Count, row.Count)
	}
	return notes
}

// Note adds a line to a piece's history.
func (a *Wing) Note(tx *store.Tx, actor kernel.Actor, gear uuid.UUID, kind, text string) error {
	row := model.GearNote{ID: store.NewID(), CrewID: actor.Crew, GearID: gear, At: a.Now(), ByMember: actor.Member,
		Kind: kind, Text: text}
	if err := store.Add(tx, &row); err != nil {
		return fmt.Errorf("keeping the history: %w", err)
	}
	return nil
}

// CreateGear writes new gear, its words, and where each is: on the quay unless told.
func (a *Wing) CreateGear(tx *store.Tx, actor kernel.Actor, rows []model.Gear, at map[uuid.UUID]model.Stowage) error {
	stowage := make([]model.Stowage, len(rows))
	for i := range rows {
		rows[i].Version, rows[i].UsedAt = 1, a.Now()
		stowage[i] = model.Stowage{Kind: "quay", Rides: "boat"}
		if known, ok := at[rows[i].ID]; ok {
			stowage[i] = known
		}
		stowage[i].GearID, stowage[i].CrewID, stowage[i].Since = rows[i].ID, actor.Crew, a.Now()
	}
	if err := store.AddAll(tx, rows); err != nil {
		if errors.Is(err, store.ErrTaken) {
			return &refuse.Error{Kind: refuse.Refused, Sentence: "An id in this list is taken: leave the id empty for new gear."}
		}
		return fmt.Errorf("keeping the gear: %w", refersToItself(err))
	}
	if err := where.Begin(tx, actor, stowage); err != nil {
		return err
	}
	return indexWords(tx, actor, rows...)
}

// indexWords keeps the words by which gear is found.
func indexWords(tx *store.Tx, actor kernel.Actor, rows ...model.Gear) error {
	ids := make([]uuid.UUID, len(rows))
	var known []model.GearWord
	vocabulary := map[string]bool{}
	for i, g := range rows {
		ids[i] = g.ID
		words := find.Words(append([]string{g.Name, g.Nickname, g.Serial}, g.Tags...)...)
		for _, t := range g.Tags {
			words = append(words, find.Tag(t))
		}
		for _, w := range words {
			known = append(known, model.GearWord{CrewID: actor.Crew, Word: w, GearID: g.ID})
			vocabulary[w] = true
		}
	}
	if err := store.Remove[model.GearWord](tx, "gear_id IN ?", ids); err != nil && !errors.Is(err, store.ErrNone) {
		return fmt.Errorf("forgetting old words: %w", err)
	}
	if len(known) == 0 {
		return nil
	}
	var words []model.Word
	for w := range vocabulary {
		words = append(words, model.Word{CrewID: actor.Crew, Word: w})
	}
	slices.SortFunc(words, func(a, b model.Word) int {
		return strings.Compare(a.Word,
			b.Word)
	}) // one order, so that no two wait for each other
	if _, err := store.AddNew(tx, words); err != nil {
		return fmt.Errorf("keeping new words: %w", err)
	}
	return addWords(tx, known)
}

// RemoveGear takes a thing off the crew's list, and out of its place. What it
// held stays where it was, out of the box.
func (a *Wing) RemoveGear(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error { return a.removeGear(tx, actor, []uuid.UUID{id}) })
}

// ofGear are the tables whose rows go with gear, in the order in which they come back.
var ofGear = []string{"stowage", "gear_word", "gear_note", "service", "booking", "photo", "label", "stowage_event"}

// removeGear takes gear away, and keeps it for whoever wants it back.
func (a *Wing) removeGear(tx *store.Tx, actor kernel.Actor, ids []uuid.UUID) error {
	var rows []model.Gear
	if err := store.All(tx, &rows, "", "id IN ?", ids); err != nil {
		return fmt.Errorf("looking what goes: %w", err)
	}
	if len(rows) < len(ids) {
		return refuse.Missing("gear")
	}
	var s kernel.Stroke
	args := store.Args{"ids": ids}
	if err := errors.Join(s.Gone(tx, "id IN @ids", args, "gear"), s.Gone(tx, "gear_id IN @ids", args, ofGear...)); err != nil {
		return err
	}
	if err := store.Pluck[model.Stowage](tx, "gear_id", &s.Held, "inside_id IN ? AND gear_id NOT IN ?", ids, ids); err != nil {
		return fmt.Errorf("looking what lies in it: %w", err)
	}
	var spares []model.Gear
	if err := store.All(tx, &spares, "", "spares_for IN ? AND id NOT IN ?", ids, ids); err != nil {
		return fmt.Errorf("looking for its spares: %w", err)
	}
	for _, g := range spares {
		if s.Spares == nil {
			s.Spares = map[string][]uuid.UUID{}
		}
		s.Spares[g.SparesFor.String()] = append(s.Spares[g.SparesFor.String()], g.ID)
	}
	said := rows[0].Name + " was removed."
	if len(rows) > 1 {
		said = fmt.Sprintf("%d pieces were removed.", len(rows))
	}
	if err := a.Undoable(tx, actor, kernel.ChangeGear, said, s); err != nil {
		return err
	}
	for _, id := range ids {
		if err := where.Empty(tx, actor, id); err != nil {
			return err
		}
	}
	return kernel.Absent(store.Remove[model.Gear](tx, "id IN ?", ids), "gear")
}

// SplitGear takes n of several alike as a piece of gear of its own, in the same place.
func (a *Wing) SplitGear(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version, n int) (GearView, error) {
	var part model.Gear
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"split", id, version, n}, func() (uuid.UUID, error) {
			var was model.Gear
			if err := store.Locked(tx, &was, "id = ?", id); err != nil {
				return uuid.Nil, kernel.Absent(err, "gear")
			}
			if was.Version != version {
				return uuid.Nil, refuse.Stale(was.Name, ViewGear(was))
			}
			if n < 1 || n >= was.Count {
				return uuid.Nil, refuse.Faulty(check.Faults{{Field: "count", Value: n,
					Want: fmt.Sprintf("must be from 1 to %d: there are %d", was.Count-1, was.Count)}})
			}
			return a.split(tx, actor, was, n)
		})
		if err != nil {
			return err
		}
		return kernel.Absent(store.One(tx, &part, "id = ?", made), "gear")
	})
	return ViewGear(part), err
}

func (a *Wing) split(tx *store.Tx, actor kernel.Actor, was model.Gear, n int) (uuid.UUID, error) {
	var at model.Stowage
	if err := store.One(tx, &at, "gear_id = ?", was.ID); err != nil {
		return uuid.Nil, kernel.Absent(err, "gear")
	}
	if at.Kind == "lent" {
		return uuid.Nil, &refuse.Error{Kind: refuse.Refused,
			Sentence: was.Name + " is lent: note its return before it is split."}
	}
	part := was
	part.ID, part.Count, part.RestockAt = store.NewID(), n, 0
	at.Version = 0
	if err := a.CreateGear(tx, actor, []model.Gear{part}, map[uuid.UUID]model.Stowage{part.ID: at}); err != nil {
		return uuid.Nil, err
	}
	rest := was
	rest.Count -= n
	return part.ID, a.ChangeGear(tx, actor, was, rest)
}

// unique are ids, each once.
func unique(ids []uuid.UUID) []uuid.UUID {
	var list []uuid.UUID
	seen := map[uuid.UUID]bool{}
	for _, id := range ids {
		if !seen[id] {
			list, seen[id] = append(list, id), true
		}
	}
	return list
}

// mostTags of a piece; the interface says the same.
const mostTags = 20

// BulkInput changes one thing about many pieces; what is absent stays.
type BulkInput struct {
	Gear      []uuid.UUID `json:"gear" minItems:"1" maxItems:"500"`
	OwnerID   *uuid.UUID  `json:"owner_id,omitempty" format:"uuid"`
	Unowned   bool        `json:"unowned,omitempty" doc:"They are the crew's"`
	AddTag    string      `json:"add_tag,omitempty"`
	RemoveTag string      `json:"remove_tag,omitempty"`
	NeedsDry  *bool       `json:"needs_dry,omitempty"`
	Condition string      `json:"condition,omitempty" words:"conditions"`
	Remove    bool        `json:"remove,omitempty" doc:"Take them off the list"`
}

// ChangeMany changes many pieces at once, all or none.
func (a *Wing) ChangeMany(ctx context.Context, actor kernel.Actor, key uuid.UUID, in BulkInput) error {
	var fs check.Faults
	fs.Text("add_tag", in.AddTag, 0, 40)
	fs.OneOf("condition", in.Condition, words.Conditions.OrNone()...)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, in, func() (uuid.UUID, error) {
			if err := (GearInput{OwnerID: in.OwnerID}).refers(tx); err != nil {
				return uuid.Nil, err
			}
			if in.Remove {
				return uuid.Nil, a.removeGear(tx, actor, unique(in.Gear))
			}
			for _, id := range in.Gear {
				if err := a.changeOneOfMany(tx, actor, id, in); err != nil {
					return uuid.Nil, err
				}
			}
			return uuid.Nil, nil
		})
		return err
	})
}

func (a *Wing) changeOneOfMany(tx *store.Tx, actor kernel.Actor, id uuid.UUID, in BulkInput) error {
	var was model.Gear
	if err := store.Locked(tx, &was, "id = ?", id); err != nil {
		return kernel.Absent(err, "gear")
	}
	row := was
	if in.OwnerID != nil || in.Unowned {
		row.OwnerID = in.OwnerID
	}
	row.Tags = TidyTags(append(Listed(was.Tags), in.AddTag))
	if len(row.Tags) > mostTags && len(row.Tags) > len(was.Tags) {
		return &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf(
			"%s has %d tags, the most that there are: take one away first.", was.Name, len(was.Tags))}
	}
	if in.RemoveTag != "" {
		gone := TidyTags([]string{in.RemoveTag})
		row.Tags = slices.DeleteFunc(row.Tags, func(t string) bool { return slices.Contains(gone, t) })
	}
	if in.NeedsDry != nil {
		row.NeedsDry = *in.NeedsDry
	}
	row.Condition = cmp.Or(in.Condition, was.Condition)
	return a.ChangeGear(tx, actor, was, row)
}
