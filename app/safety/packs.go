package safety

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/carriage"
	"ergasia/core/check"
	"ergasia/formats/rulepacks"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// usualPacks are what a crew is held against that chose none: practice, and no country's
// law, since nobody said where it fishes.
var usualPacks = []string{"prudent-coastal", "prudent-offshore", "tournament", "guiding", "night", "guests"}

// mostPacks of a crew's own, and how many versions of each are kept.
const (
	mostPacks   = 30
	mostHistory = 40
)

// rulesOf are a crew's choice of packs, with all packs that there are.
func rulesOf(tx *store.Tx, crew uuid.UUID) (model.CrewRules, carriage.Library, error) {
	chosen := model.CrewRules{CrewID: crew, Packs: usualPacks}
	err := store.One(tx, &chosen, "")
	if err != nil && !errors.Is(err, store.ErrNone) {
		return chosen, nil, fmt.Errorf("reading the crew's rules: %w", err)
	}
	lib, err := library(tx)
	return chosen, lib, err
}

// library is the packs that come with the program and the crew's own.
func library(tx *store.Tx) (carriage.Library, error) {
	lib := rulepacks.Shipped()
	var own []model.RulePack
	if err := store.All(tx, &own, "name", ""); err != nil {
		return nil, fmt.Errorf("reading the crew's packs: %w", err)
	}
	for _, row := range own {
		p, err := rulepacks.Read(row.Body)
		if err != nil {
			return nil, fmt.Errorf("reading the pack %s: %w", row.Name, err)
		}
		lib[p.Name] = p
	}
	return lib, nil
}

// RuleView is a rule as it holds in a pack.
type RuleView struct {
	carriage.Rule
	Pack  string `json:"pack" doc:"In which it was written"`
	Needs string `json:"needs" doc:"In words"`
}

// PackView is a pack with the rules that hold in it.
type PackView struct {
	Name     string            `json:"name"`
	Title    string            `json:"title"`
	About    string            `json:"about"`
	Inherits []string          `json:"inherits"`
	Own      bool              `json:"own" doc:"The crew's; else it comes with the program"`
	On       bool              `json:"on" doc:"Trips are held against it"`
	ID       *uuid.UUID        `json:"id,omitempty" format:"uuid"`
	Version  int               `json:"version,omitempty"`
	Rules    []RuleView        `json:"rules"`
	Changes  []carriage.Change `json:"changes" doc:"What it makes of what it inherits"`
	History  []PackVersion     `json:"history"`
	Body     string            `json:"body" doc:"The pack as a file"`
}

// PackVersion is who changed a pack when, and what that changed.
type PackVersion struct {
	Version int       `json:"version"`
	On      time.Time `json:"on"`
	By      string    `json:"by"`
	Said    []string  `json:"said"`
}

// RulesView is what a crew is held against.
type RulesView struct {
	Country string     `json:"country"`
	Version int        `json:"version"`
	Packs   []PackView `json:"packs"`
	Law     string     `json:"law"`
}

// Rules gives all packs, and which of them the crew is held against.
func (a *Wing) Rules(ctx context.Context, actor kernel.Actor) (RulesView, error) {
	out := RulesView{Packs: []PackView{}, Law: carriage.Law}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		chosen, lib, err := rulesOf(tx, actor.Crew)
		if err != nil {
			return err
		}
		var own []model.RulePack
		if err := store.All(tx, &own, "name", ""); err != nil {
			return fmt.Errorf("reading the crew's packs: %w", err)
		}
		out.Country, out.Version = chosen.Country, chosen.Version
		for _, name := range slices.Sorted(maps.Keys(lib)) {
			v, err := packView(lib, name)
			if err != nil {
				return err
			}
			v.On = slices.Contains(chosen.Packs, name)
			for _, row := range own {
				if row.Name == name {
					v.own(row)
				}
			}
			out.Packs = append(out.Packs, v)
		}
		slices.SortStableFunc(out.Packs, func(x, y PackView) int { return order(x) - order(y) })
		return nil
	})
	return out, err
}

// order puts the crew's own packs first.
func order(v PackView) int {
	if v.Own {
		return 0
	}
	return 1
}

func packView(lib carriage.Library, name string) (PackView, error) {
	p := lib[name]
	v := PackView{Name: p.Name, Title: p.Title, About: p.About, Inherits: append([]string{}, p.Inherits...),
		Rules: []RuleView{}, Changes: lib.Changes(name), History: []PackVersion{}}
	rules, err := lib.Rules(name)
	if err != nil {
		return v, refuse.Faulty(err)
	}
	for _, r := range rules {
		v.Rules = append(v.Rules, RuleView{Rule: r.Rule, Pack: r.Pack, Needs: r.Needs()})
	}
	text, err := json.MarshalIndent(p, "", " ")
	v.Body = string(text)
	return v, err
}

func (v *PackView) own(row model.RulePack) {
	v.Own, v.ID, v.Version = true, &row.ID, row.Version
	for _, h := range slices.Backward(row.History) {
		v.History = append(
			v.History,
			PackVersion{Version: h.Version, On: h.On, By: h.By, Said: append([]string{}, h.Said...)},
		)
	}
}

// ChoosePacks says which packs a crew is held against, and in which country it fishes.
func (a *Wing) ChoosePacks(ctx context.Context, actor kernel.Actor, key uuid.UUID, version int, country string,
	packs []string) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"packs", version, country, packs}, func() (uuid.UUID, error) {
			was, lib, err := rulesOf(tx, actor.Crew)
			if err != nil {
				return actor.Crew, err
			}
			if was.Version != version {
				return actor.Crew, refuse.Stale("the choice of packs", nil)
			}
			if err := chosenWell(lib, country, packs); err != nil {
				return actor.Crew, err
			}
			row := model.CrewRules{CrewID: actor.Crew, Country: country, Packs: packs, Version: version + 1}
			if version == 0 {
				err = store.Add(tx, &row)
			} else {
				err = store.PutNext(tx, &row)
			}
			if errors.Is(err, store.ErrStale) || errors.Is(err, store.ErrTaken) {
				err = refuse.Stale("the choice of packs", nil)
			}
			return actor.Crew, err
		})
		return err
	})
}

func chosenWell(lib carriage.Library, country string, packs []string) error {
	var fs check.Faults
	if country != "" && (len(country) != 2 || strings.ToUpper(country) != country) {
		fs.Add("country", country, "must be two capital letters, such as US, or nothing")
	}
	for i, name := range packs {
		if _, ok := lib[name]; !ok {
			fs.Add(fmt.Sprintf("packs[%d]", i), name, "must be a pack that is there")
		}
	}
	return refuse.Faulty(fs.Err())
}

// SavePack makes a pack of the crew's own (no id), or a new version of one. It says what
// became otherwise, on which trip ahead.
func (a *Wing) SavePack(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	body string) (said []string, err error) {
	said = []string{}
	p, err := rulepacks.Read([]byte(body))
	if err != nil {
		return said, refuse.Faulty(err)
	}
	before, err := a.heldTo(ctx, actor, p.Name)
	if err != nil {
		return said, err
	}
	var row model.RulePack
	fresh := false
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		made, again, err := a.Once(tx, actor, key, []any{"pack", id, version, body}, func() (uuid.UUID, error) {
			var err error
			if row, err = a.nextPack(tx, actor, id, version, p); err != nil {
				return id, err
			}
			fresh = true
			return row.ID, kernel.Keep(tx, &row, id, version, "pack", p.Name)
		})
		if err == nil && again {
			var row model.RulePack
			err = kernel.Absent(store.One(tx, &row, "id = ?", made), "pack")
			if n := len(row.History); n > 0 {
				said = append([]string{}, row.History[n-1].Said...)
			}
		}
		return err
	})
	if err != nil || !fresh || before == nil {
		return said, err
	}
	after, err := a.heldTo(ctx, actor, p.Name)
	if err != nil {
		return said, err
	}
	if said = differences(before, after); len(said) == 0 {
		return said, nil
	}
	row.History[len(row.History)-1].Said = said
	return said, a.Write(ctx, actor, func(tx *store.Tx) error {
		return store.SetOne[model.RulePack](tx, map[string]any{"history": row.History}, "id = ? AND version = ?", row.ID,
			row.Version)
	})
}

// heldTo is how the trips ahead stand to the crew's rules, where these have a pack in them;
// nil where they have not: then it changes no trip.
func (a *Wing) heldTo(ctx context.Context, actor kernel.Actor, pack string) (standing map[string]map[string]string, err error) {
	err = a.In(ctx, actor, func(tx *store.Tx) error {
		chosen, lib, err := rulesOf(tx, actor.Crew)
		if err != nil || !slices.ContainsFunc(chosen.Packs, func(name string) bool { return lib.Has(name, pack) }) {
			return err
		}
		standing, err = a.statuses(ctx, tx, actor)
		return err
	})
	return standing, err
}

// nextPack is a pack's row as it is to be, once it stands with all others.
func (a *Wing) nextPack(tx *store.Tx, actor kernel.Actor, id uuid.UUID, version int,
	p carriage.Pack) (row model.RulePack, err error) {
	if id != uuid.Nil {
		if err := store.Locked(tx, &row, "id = ?", id); err != nil {
			return row, kernel.Absent(err, "pack")
		}
		if row.Version != version {
			return row, refuse.Stale(row.Name, nil)
		}
	} else if n, err := store.Count[model.RulePack](tx, ""); err != nil || n >= mostPacks {
		return row, errors.Join(err, tooMany(n))
	}
	if err := a.stands(tx, row.Name, p); err != nil {
		return row, err
	}
	body, err := json.Marshal(p)
	if err != nil {
		return row, fmt.Errorf("writing the pack: %w", err)
	}
	by, err := kernel.NameOf(tx, actor.Member)
	if err != nil {
		return row, err
	}
	row.ID, row.CrewID, row.Name, row.Body, row.Version = kernel.IDOr(id), actor.Crew, p.Name, body, version+1
	row.History = append(row.History, model.PackChange{Version: row.Version, On: a.Now(), By: by, Body: body})
	row.History = row.History[max(0, len(row.History)-mostHistory):]
	return row, nil
}

func tooMany(n int64) error {
	if n < mostPacks {
		return nil
	}
	return &refuse.Error{
		Kind:     refuse.Refused,
		Sentence: fmt.Sprintf("There are %d packs of your own, the most that are kept.", n),
	}
}

// stands sees that a pack, and every one that inherits it, holds together with the others.
func (a *Wing) stands(tx *store.Tx, was string, p carriage.Pack) error {
	lib, err := library(tx)
	if err != nil {
		return err
	}
	if _, shipped := rulepacks.Shipped()[p.Name]; shipped {
		return refuse.Faulty(check.Faults{{Field: "name", Value: p.Name,
			Want: "is the name of a pack that comes with the program: choose another, and inherit from that"}})
	}
	if was != "" && was != p.Name {
		return refuse.Faulty(check.Faults{{Field: "name", Value: p.Name,
			Want: "must stay " + was + ": others may inherit it; make a new pack for a new name"}})
	}
	if _, taken := lib[p.Name]; taken && was == "" {
		return refuse.Faulty(check.Faults{{Field: "name", Value: p.Name, Want: "is taken: choose another"}})
	}
	lib[p.Name] = p
	for name := range lib {
		if _, err := lib.Rules(name); err != nil {
			return refuse.Faulty(err)
		}
	}
	return nil
}

// RemovePack takes a pack of the crew's own away, unless another inherits it.
func (a *Wing) RemovePack(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		var row model.RulePack
		if err := store.Locked(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "pack")
		}
		lib, err := library(tx)
		if err != nil {
			return err
		}
		for _, p := range lib {
			if slices.Contains(p.Inherits, row.Name) {
				return &refuse.Error{
					Kind:     refuse.Refused,
					Sentence: fmt.Sprintf("%s inherits it: change that first.", p.Title),
				}
			}
		}
		if err := unchoose(tx, actor.Crew, row.Name); err != nil {
			return err
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "rule_pack"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeBoat, "The pack "+row.Name+" was removed.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.RulePack](tx, "id = ?", id), "pack")
	})
}

// unchoose takes a pack out of the crew's choice.
func unchoose(tx *store.Tx, crew uuid.UUID, name string) error {
	var chosen model.CrewRules
	err := store.One(tx, &chosen, "")
	if errors.Is(err, store.ErrNone) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("reading the crew's rules: %w", err)
	}
	left := slices.DeleteFunc(slices.Clone(chosen.Packs), func(p string) bool { return p == name })
	return store.SetOne[model.CrewRules](tx, map[string]any{"packs": left, "version": chosen.Version + 1}, "")
}

// Schema is the JSON Schema of a pack.
func Schema() []byte { return rulepacks.Schema() }
