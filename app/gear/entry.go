package gear

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/entry"
	"ergasia/core/units"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// LineView is what a line of text was read as.
type LineView struct {
	Line   string    `json:"line"`
	Gear   GearInput `json:"gear"`
	Place  string    `json:"place,omitempty"`
	Owner  string    `json:"owner,omitempty"`
	Doubts []string  `json:"doubts" doc:"Readings that may be wrong"`
	Bad    bool      `json:"bad" doc:"It makes no piece"`
}

// LinesView is what became, or would become, of some lines.
type LinesView struct {
	Lines []LineView  `json:"lines"`
	Made  []uuid.UUID `json:"made" format:"uuid" doc:"The new gear; empty while nothing was added"`
}

// known gives the names that a line may use, and what each means.
func knownInLines(tx *store.Tx, actor kernel.Actor) (entry.Known, map[string]model.Whereabouts, map[string]uuid.UUID,
	error) {
	p, err := loadPlaces(tx)
	if err != nil {
		return entry.Known{}, nil, nil, err
	}
	k := entry.Known{US: units.SystemNamed(actor.Units) == units.US}
	places, owners := map[string]model.Whereabouts{}, map[string]uuid.UUID{}
	add := func(name string, at model.Whereabouts) {
		if _, taken := places[name]; !taken && name != "" {
			places[name] = at
			k.Places = append(k.Places, name)
		}
	}
	for _, id := range sortedIDs(p.texts) {
		text := p.texts[id]
		at := p.byText[folded(text)]
		add(strings.TrimPrefix(text, "ashore: "), at)
		if _, last, is := strings.Cut(text, " / "); is {
			add(last, at) // "port bench" is enough where one boat has it
		}
	}
	for _, id := range sortedIDs(p.boxName) {
		add(p.boxName[id], model.Whereabouts{InsideID: &id})
	}
	for _, id := range sortedIDs(p.owners) {
		owners[p.owners[id]] = id
		k.Owners = append(k.Owners, p.owners[id])
	}
	return k, places, owners, nil
}

func sortedIDs(m map[uuid.UUID]string) []uuid.UUID {
	var ids []uuid.UUID
	for id := range m {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, func(a, b uuid.UUID) int { return strings.Compare(a.String(), b.String()) })
	return ids
}

// unadded says why lines were not added: so many of all make no piece, or there is none.
func unadded(bad, all int) string {
	if all == 0 {
		return "There is no line to read, so nothing was added."
	}
	lines := words.HowMany(all, "line")
	if bad == 1 {
		return fmt.Sprintf("1 of %s makes no piece, so nothing was added.", lines)
	}
	return fmt.Sprintf("%d of %s make no piece, so nothing was added.", bad, lines)
}

// AddLines reads lines of text as gear and, where commit is set, adds all of it
// or nothing. What does not fit where a line puts it goes to the quay, and the
// line says so.
func (a *Wing) AddLines(ctx context.Context, actor kernel.Actor, key uuid.UUID, text string, commit bool) (LinesView,
	error) {
	view := LinesView{Lines: []LineView{}, Made: []uuid.UUID{}}
	run := a.Write
	if !commit { // what changes nothing may be asked again
		run, key = a.In, uuid.Nil
	}
	err := run(ctx, actor, func(tx *store.Tx) error {
		_, again, err := a.Once(tx, actor, key, []any{"lines", text, commit}, func() (uuid.UUID, error) {
			k, places, owners, err := knownInLines(tx, actor)
			if err != nil {
				return uuid.Nil, err
			}
			bad := 0
			for _, e := range entry.Lines(text, k) {
				l := lineView(e, owners)
				if l.Bad {
					bad++
				} else if commit {
					made, err := a.addLine(tx, actor, &l, places)
					if err != nil {
						return uuid.Nil, err
					}
					view.Made = append(view.Made, made)
				}
				view.Lines = append(view.Lines, l)
			}
			if commit && (bad > 0 || len(view.Lines) == 0) {
				return uuid.Nil, &refuse.Error{Kind: refuse.Refused, Sentence: unadded(bad, len(view.Lines))}
			}
			return uuid.Nil, nil
		})
		if again {
			view.Lines = []LineView{}
		}
		return err
	})
	return view, err
}

func lineView(e entry.Entry, owners map[string]uuid.UUID) LineView {
	l := LineView{Line: e.Line, Place: e.Place, Owner: e.Owner, Doubts: Listed(e.Doubts), Bad: e.Name == "",
		Gear: GearInput{Name: e.Name, Tags: e.Tags, Shape: e.Shape, Size: e.Size, Inside: e.Inside, Kg: e.Kg,
			MassKnown: e.MassKnown, Count: e.Count,
			NeedsDry: e.NeedsDry, Fragile: e.Fragile, Metal: e.Metal, Buoyant: e.Buoyant, Hazards: e.Hazards, Turn: "any"}}
	if e.Count != 1 {
		l.Gear.Inside = model.Vec{} // several alike hold nothing; one split off may
	}
	if id, known := owners[e.Owner]; known {
		l.Gear.OwnerID = &id
	}
	if !l.Bad {
		if err := l.Gear.check(); err != nil {
			l.Bad = true
			for _, f := range err.(*refuse.Error).Faults {
				l.Doubts = append(l.Doubts, f.Error())
			}
		}
	}
	return l
}

// addLine makes the piece, and puts it where the line says if it goes there.
func (a *Wing) addLine(tx *store.Tx, actor kernel.Actor, l *LineView, places map[string]model.Whereabouts) (uuid.UUID,
	error) {
	id, err := a.saveGear(tx, actor, uuid.Nil, 0, l.Gear.Row(actor))
	if err != nil || l.Place == "" {
		return id, err
	}
	at := places[l.Place]
	in := aboard.MoveInput{GearID: &id, BoxID: at.InsideID, PlaceID: at.PlaceID, ShedID: at.ShedID, HolderID: at.HeldBy}
	said, _, err := a.where.MoveIn(tx, actor, in)
	if refusal, is := err.(*refuse.Error); is && refusal.Kind == refuse.Refused {
		l.Doubts = append(l.Doubts, refusal.Sentence+" It is on the quay.")
		return id, nil
	}
	l.Doubts = append(l.Doubts, said...)
	return id, err
}

// TemplateView is a usual thing, for a form to start from.
type TemplateView struct {
	Name string    `json:"name"`
	Gear GearInput `json:"gear"`
}

// Templates lists the usual things; their sizes and masses are guesses.
func Templates() []TemplateView {
	var list []TemplateView
	for _, t := range entry.Templates {
		list = append(list, TemplateView{Name: t.Name, Gear: GearInput{Name: t.Name, Shape: t.Shape, Size: t.Size,
			Inside: t.Inside, Kg: t.Kg, MassKnown: "guess", Count: 1,
			NeedsDry: t.NeedsDry, Fragile: t.Fragile, Metal: t.Metal, Buoyant: t.Buoyant, Hazards: Listed(t.Hazards),
			Turn: "any"}})
	}
	return list
}

// copyMost is how much is copied at once.
const copyMost = 500

// CopyFrom makes new gear like what is aboard of a boat, on the quay: for a
// second boat that is to carry the same. Serial numbers, dates and photos stay
// with the old; what has no twin to be weighed is a guess.
func (a *Wing) CopyFrom(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, gear []uuid.UUID) (n int,
	err error) {
	err = a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"copy", boat, gear}, func() (uuid.UUID, error) {
			if err := fleet.BoatExists(tx, boat); err != nil {
				return uuid.Nil, err
			}
			var rows []model.Gear
			err := store.Some(tx, &rows, copyMost+1, "sort_name, id",
				"id IN (SELECT gear_id FROM stowage WHERE crew_id = ? AND boat_id = ?) AND (? OR id IN ?)",
				actor.Crew, boat, len(gear) == 0, append(gear, uuid.Nil))
			if err != nil {
				return uuid.Nil, fmt.Errorf("loading what is copied: %w", err)
			}
			if len(rows) == 0 {
				return uuid.Nil, &refuse.Error{Kind: refuse.Refused, Sentence: "There is nothing aboard to copy."}
			}
			if len(rows) > copyMost {
				return uuid.Nil, refuse.Faulty(check.Faults{{Field: "gear", Want: fmt.Sprintf("choose at most %d things",
					copyMost)}})
			}
			n = len(rows)
			return uuid.Nil, a.copyGear(tx, actor, rows)
		})
		return err
	})
	return n, err
}

func (a *Wing) copyGear(tx *store.Tx, actor kernel.Actor, rows []model.Gear) error {
	fresh := map[uuid.UUID]uuid.UUID{}
	for i := range rows {
		fresh[rows[i].ID] = store.NewID()
	}
	var inside []model.Stowage
	if err := store.All(tx, &inside, "", "gear_id IN ?", sortedKeys(fresh)); err != nil {
		return fmt.Errorf("loading what lies in what: %w", err)
	}
	at := map[uuid.UUID]model.Stowage{}
	for _, r := range inside {
		row := model.Stowage{Kind: "quay", Rides: "boat"}
		if r.InsideID != nil {
			if box, copied := fresh[*r.InsideID]; copied {
				row.InsideID = &box
			}
		}
		at[fresh[r.GearID]] = row
	}
	for i := range rows {
		r := &rows[i]
		r.ID, r.Serial, r.ExpiresOn, r.Cost, r.Condition, r.SparesFor, r.Hours, r.Trips = fresh[r.ID], "", nil, nil, "good",
			nil, 0, 0
		if r.MassKnown == "weighed" {
			r.MassKnown = "guess"
		}
	}
	return a.CreateGear(tx, actor, rows, at)
}

func sortedKeys(m map[uuid.UUID]uuid.UUID) []uuid.UUID {
	var ids []uuid.UUID
	for id := range m {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, func(a, b uuid.UUID) int { return strings.Compare(a.String(), b.String()) })
	return ids
}
