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
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// GearInput is what is said of a thing, or of some alike that go together.
type GearInput struct {
	Name      string       `json:"name"`
	Nickname  string       `json:"nickname,omitempty"`
	Tags      []string     `json:"tags,omitempty" maxItems:"20"`
	OwnerID   *uuid.UUID   `json:"owner_id,omitempty" format:"uuid" doc:"A member; absent when it is the crew's"`
	Shape     string       `json:"shape,omitempty" enum:"box,rod,soft,loose" doc:"box where absent"`
	Size      model.Vec    `json:"size_m" doc:"Stowed, along x, y and z as it usually lies; of loose things, all of them together"`
	UseSize   model.Vec    `json:"use_size_m,omitempty" doc:"In use, where that is another; nought as stowed"`
	Inside    model.Vec    `json:"inside_m,omitempty" doc:"What it holds; nought where it is no container"`
	HoldsKg   float64      `json:"holds_kg,omitempty" doc:"Most that it holds; nought is no limit"`
	KeepsDry  bool         `json:"keeps_dry,omitempty" doc:"A container that keeps water out"`
	Kg        float64      `json:"kg" doc:"Of one"`
	MassKnown string       `json:"mass_known" enum:"weighed,plate,catalogue,guess"`
	Count     int          `json:"count"`
	RestockAt int          `json:"restock_at,omitempty" doc:"Of what is used up: the count at which to buy more; nought is not used up"`
	NeedsDry  bool         `json:"needs_dry"`
	Fragile   bool         `json:"fragile,omitempty"`
	Metal     bool         `json:"metal,omitempty"`
	Buoyant   bool         `json:"buoyant,omitempty"`
	Hazards   []string     `json:"hazards,omitempty" maxItems:"20" doc:"fuel, gas, flares, lead-acid, lithium, sparks, magnet, steel, sharp, poison"`
	Turn      string       `json:"turn" enum:"none,upright,any" doc:"How it may be turned to fit"`
	Serial    string       `json:"serial,omitempty"`
	Cost      *float64     `json:"cost,omitempty" doc:"In the crew's money"`
	ExpiresOn *kernel.Date `json:"expires_on,omitempty" doc:"Its last good day"`
	Condition string       `json:"condition,omitempty" enum:"good,worn,broken" doc:"good where absent"`
	SparesFor *uuid.UUID   `json:"spares_for,omitempty" format:"uuid" doc:"The gear that it is a spare for"`
	Uses      *float64     `json:"uses_per_day,omitempty" doc:"How often it is fetched on a day it is along; once where absent"`
	UsedFrom  string       `json:"used_from,omitempty" doc:"The post where it is used; empty is wherever people are"`
	Guide     float64      `json:"guide_m,omitempty" doc:"Of a rod, the height of its largest guide: what its tip takes up; nought where it does not taper"`
}

// Hazards that gear can have.
var Hazards = []string{"fuel", "gas", "flares", "lead-acid", "lithium", "sparks", "magnet", "steel", "sharp", "poison"}

func (in GearInput) check() error {
	var fs check.Faults
	name := strings.Map(func(r rune) rune { // a name that was pasted may have these two
		if r == '\n' || r == '\t' {
			return ' '
		}
		return r
	}, in.Name)
	fs.Text("name", name, 1, 80)
	if strings.TrimSpace(in.Name) == "" {
		fs.Add("name", in.Name, "must have a letter or digit")
	}
	fs.Text("nickname", in.Nickname, 0, 80)
	fs.Text("serial", in.Serial, 0, 80)
	checkTags(&fs, in.Tags)
	for i, h := range in.Hazards {
		fs.OneOf(fmt.Sprintf("hazards[%d]", i), h, Hazards...)
	}
	for i := range 3 {
		fs.Within(fmt.Sprintf("size_m[%d]", i), in.Size[i], 0.001, 10)
		fs.Within(fmt.Sprintf("use_size_m[%d]", i), in.UseSize[i], 0, 10)
		fs.Within(fmt.Sprintf("inside_m[%d]", i), in.Inside[i], 0, in.Size[i])
	}
	in.checkInside(&fs)
	fs.Within("kg", in.Kg, 0, 500)
	fs.Within("holds_kg", in.HoldsKg, 0, 1000)
	fs.OneOf("mass_known", in.MassKnown, "weighed", "plate", "catalogue", "guess")
	fs.OneOf("shape", in.Shape, "", "box", "rod", "soft", "loose")
	fs.OneOf("condition", in.Condition, "", "good", "worn", "broken")
	fewest := 1.0
	if in.RestockAt > 0 {
		fewest = 0 // what is used up may be all gone
	}
	most := 100.0
	if in.Shape == "loose" {
		most = 10000 // laid as one bag
	}
	fs.Within("count", float64(in.Count), fewest, most)
	fs.Within("restock_at", float64(in.RestockAt), 0, 10000)
	if in.Cost != nil {
		fs.Within("cost", *in.Cost, 0, 1e7)
	}
	fs.OneOf("turn", in.Turn, "none", "upright", "any")
	if in.Uses != nil {
		fs.Within("uses_per_day", *in.Uses, 0, 1000)
	}
	fs.Text("used_from", in.UsedFrom, 0, 80)
	fs.Within("guide_m", in.Guide, 0, 0.2)
	return refuse.Faulty(fs.Err())
}

// checkInside notes an inside with a side left out.
func (in GearInput) checkInside(fs *check.Faults) {
	given := 0
	for _, side := range in.Inside {
		if side > 0 {
			given++
		}
	}
	if given != 0 && given != 3 {
		fs.Add("inside_m", in.Inside, "give all three sides, or none where it holds nothing")
	}
}

// GearView is a thing as the crew sees it.
type GearView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	Hours   float64   `json:"hours" doc:"Run, by the trips it was on"`
	Trips   int       `json:"trips" doc:"That it was on"`
	GearInput
}

func ViewGear(g model.Gear) GearView {
	return GearView{ID: g.ID, Version: g.Version, Hours: g.Hours, Trips: g.Trips, GearInput: GearInput{Name: g.Name, Nickname: g.Nickname, Tags: g.Tags, OwnerID: g.OwnerID, Shape: g.Shape,
		Size: model.Vec{g.Length, g.Breadth, g.Height}, UseSize: model.Vec{g.UseLength, g.UseBreadth, g.UseHeight},
		Inside: model.Vec{g.InsideLength, g.InsideBreadth, g.InsideHeight}, HoldsKg: g.HoldsKg, KeepsDry: g.KeepsDry, Kg: g.Kg,
		MassKnown: g.MassKnown, Count: g.Count, RestockAt: g.RestockAt, NeedsDry: g.NeedsDry, Fragile: g.Fragile, Metal: g.Metal,
		Buoyant: g.Buoyant, Hazards: g.Hazards, Turn: g.Turn, Serial: g.Serial, Cost: g.Cost, ExpiresOn: kernel.DateOf(g.ExpiresOn),
		Condition: g.Condition, SparesFor: g.SparesFor, Uses: &g.UsesPerDay, UsedFrom: g.UsedFrom, Guide: g.Guide}}
}

func (in GearInput) Row(actor kernel.Actor) model.Gear {
	return model.Gear{CrewID: actor.Crew, Name: in.Name, Nickname: in.Nickname, Tags: TidyTags(in.Tags), OwnerID: in.OwnerID, Shape: cmp.Or(in.Shape, "box"),
		Length: in.Size[0], Breadth: in.Size[1], Height: in.Size[2], UseLength: in.UseSize[0], UseBreadth: in.UseSize[1], UseHeight: in.UseSize[2],
		InsideLength: in.Inside[0], InsideBreadth: in.Inside[1], InsideHeight: in.Inside[2], HoldsKg: in.HoldsKg, KeepsDry: in.KeepsDry,
		Kg: in.Kg, MassKnown: in.MassKnown, Count: in.Count, RestockAt: in.RestockAt, NeedsDry: in.NeedsDry, Fragile: in.Fragile,
		Metal: in.Metal, Buoyant: in.Buoyant, Hazards: Listed(in.Hazards), Turn: in.Turn, Serial: in.Serial, Cost: in.Cost,
		ExpiresOn: in.ExpiresOn.Time(), Condition: cmp.Or(in.Condition, "good"), SparesFor: in.SparesFor, UsesPerDay: in.uses(), UsedFrom: in.UsedFrom, Guide: in.Guide}
}

// uses a day; once where nobody said.
func (in GearInput) uses() float64 {
	if in.Uses == nil {
		return 1
	}
	return *in.Uses
}

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
func (a *Wing) SaveGear(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int, in GearInput) (GearView, error) {
	if err := in.check(); err != nil {
		return GearView{}, err
	}
	var now model.Gear
	err := a.In(ctx, actor, func(tx *store.Tx) error {
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
		if err := store.Exists[model.Member](tx, "id = ?", *in.OwnerID); err != nil {
			return kernel.Absent(err, "person")
		}
	}
	if in.SparesFor != nil {
		if err := store.Exists[model.Gear](tx, "id = ?", *in.SparesFor); err != nil {
			return kernel.Absent(err, "gear that this is a spare for")
		}
	}
	return nil
}

func (a *Wing) saveGear(tx *store.Tx, actor kernel.Actor, id uuid.UUID, version int, row model.Gear) (uuid.UUID, error) {
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
			return &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf("%s holds %d things: take them out before it becomes no container, or several.", was.Name, n)}
		}
	}
	if err := store.Save(tx, &row, was.ID, was.Version); err != nil {
		return refersToItself(err)
	}
	if was.Name != row.Name || was.Nickname != row.Nickname || was.Serial != row.Serial || !slices.Equal(was.Tags, row.Tags) {
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

func (a *Wing) Note(tx *store.Tx, actor kernel.Actor, gear uuid.UUID, kind, text string) error {
	row := model.GearNote{ID: store.NewID(), CrewID: actor.Crew, GearID: gear, At: a.Now(), ByMember: actor.Member, Kind: kind, Text: text}
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
	slices.SortFunc(words, func(a, b model.Word) int { return strings.Compare(a.Word, b.Word) }) // one order, so that no two wait for each other
	if _, err := store.AddNew(tx, words); err != nil {
		return fmt.Errorf("keeping new words: %w", err)
	}
	if _, err := store.AddNew(tx, known); err != nil {
		return fmt.Errorf("keeping the gear's words: %w", err)
	}
	return nil
}

// RemoveGear takes a thing off the crew's list, and out of its place. What it
// held stays where it was, out of the box.
func (a *Wing) RemoveGear(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.In(ctx, actor, func(tx *store.Tx) error { return removeGear(tx, actor, id) })
}

func removeGear(tx *store.Tx, actor kernel.Actor, id uuid.UUID) error {
	if err := tx.Lock(); err != nil {
		return err
	}
	if err := where.Empty(tx, actor, id); err != nil {
		return err
	}
	return kernel.Absent(store.Remove[model.Gear](tx, "id = ?", id), "gear")
}

// SplitGear takes n of several alike as a piece of gear of its own, in the same place.
func (a *Wing) SplitGear(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version, n int) (GearView, error) {
	var part model.Gear
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"split", id, version, n}, func() (uuid.UUID, error) {
			if err := tx.Lock(); err != nil {
				return uuid.Nil, err
			}
			var was model.Gear
			if err := store.Locked(tx, &was, "id = ?", id); err != nil {
				return uuid.Nil, kernel.Absent(err, "gear")
			}
			if was.Version != version {
				return uuid.Nil, refuse.Stale(was.Name, ViewGear(was))
			}
			if n < 1 || n >= was.Count {
				return uuid.Nil, refuse.Faulty(check.Faults{{Field: "count", Value: n, Want: fmt.Sprintf("must be from 1 to %d: there are %d", was.Count-1, was.Count)}})
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
		return uuid.Nil, &refuse.Error{Kind: refuse.Refused, Sentence: was.Name + " is lent: note its return before it is split."}
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

// BulkInput changes one thing about many pieces; what is absent stays.
type BulkInput struct {
	Gear      []uuid.UUID `json:"gear" minItems:"1" maxItems:"500"`
	OwnerID   *uuid.UUID  `json:"owner_id,omitempty" format:"uuid"`
	Unowned   bool        `json:"unowned,omitempty" doc:"They are the crew's"`
	AddTag    string      `json:"add_tag,omitempty"`
	RemoveTag string      `json:"remove_tag,omitempty"`
	NeedsDry  *bool       `json:"needs_dry,omitempty"`
	Condition string      `json:"condition,omitempty" enum:"good,worn,broken"`
	Remove    bool        `json:"remove,omitempty" doc:"Take them off the list"`
}

// ChangeMany changes many pieces at once, all or none.
func (a *Wing) ChangeMany(ctx context.Context, actor kernel.Actor, key uuid.UUID, in BulkInput) error {
	var fs check.Faults
	fs.Text("add_tag", in.AddTag, 0, 40)
	fs.OneOf("condition", in.Condition, "", "good", "worn", "broken")
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.In(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, in, func() (uuid.UUID, error) {
			if err := (GearInput{OwnerID: in.OwnerID}).refers(tx); err != nil {
				return uuid.Nil, err
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
	if in.Remove {
		return removeGear(tx, actor, id)
	}
	var was model.Gear
	if err := store.Locked(tx, &was, "id = ?", id); err != nil {
		return kernel.Absent(err, "gear")
	}
	row := was
	if in.OwnerID != nil || in.Unowned {
		row.OwnerID = in.OwnerID
	}
	row.Tags = TidyTags(append(Listed(was.Tags), in.AddTag))
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
