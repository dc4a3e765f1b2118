package gear

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// GearQuery says which gear is listed, in what order, from where on.
type GearQuery struct {
	Text   string     // words, as for Find
	Kind   string     // quay, boat, shed, person or lent; empty is anywhere
	Boat   *uuid.UUID // aboard of her
	Place  *uuid.UUID // in this place aboard
	Shed   *uuid.UUID // in this place ashore
	Inside *uuid.UUID // directly in this container
	Owner  *uuid.UUID
	Tag    string
	Only   string // unweighed, containers, worn, expired, restock, expiring; empty is all
	Sort   string // name or recent
	After  string // the cursor of the page before
	Limit  int
}

// GearRow is gear in a list.
type GearRow struct {
	GearView
	Spot    where.Spot `json:"spot"`
	Holds   int        `json:"holds" doc:"Entries in it, at any depth"`
	TotalKg float64    `json:"total_kg" doc:"All of it, with what it holds"`
}

// GearPage is a part of the list.
type GearPage struct {
	Rows []GearRow `json:"rows"`
	Next string    `json:"next,omitempty" doc:"The cursor of the next page; absent on the last"`
}

// Onlies are the conditions that a list can be cut down to.
var Onlies = map[string]string{
	"unweighed":  "gear.mass_known = 'guess'",
	"containers": "gear.inside_length > 0",
	"worn":       "gear.condition <> 'good'",
	"expired":    "gear.expires_on < CURRENT_DATE",
	"restock":    "gear.restock_at > 0 AND gear.count <= gear.restock_at",
}

func (q GearQuery) check() error {
	var fs check.Faults
	fs.Text("q", q.Text, 0, 200)
	fs.OneOf("kind", q.Kind, words.Spots.OrNone()...)
	fs.OneOf("only", q.Only, words.Onlies.OrNone()...)
	fs.OneOf("sort", q.Sort, "", "name", "recent")
	fs.Within("limit", float64(q.Limit), 1, 200)
	return refuse.Faulty(fs.Err())
}

// Cursor is where a page ended.
type Cursor struct {
	Name string    `json:"n,omitempty"`
	Used time.Time `json:"u,omitzero"`
	ID   uuid.UUID `json:"i"`
}

// Text is the cursor as a page's address has it; see readCursor.
func (c Cursor) Text() string {
	raw, _ := json.Marshal(c) // strings and times: it can't fail
	return base64.RawURLEncoding.EncodeToString(raw)
}

func readCursor(text string) (c Cursor, err error) {
	raw, err := base64.RawURLEncoding.DecodeString(text)
	if err == nil {
		err = json.Unmarshal(raw, &c)
	}
	if err != nil {
		return c, refuse.Faulty(check.Faults{{Field: "after", Value: text,
			Want: "is no cursor: leave it out to begin at the first page"}})
	}
	return c, nil
}

// Gear lists a page of the crew's gear.
func (a *Wing) Gear(ctx context.Context, actor kernel.Actor, q GearQuery) (GearPage, error) {
	page := GearPage{Rows: []GearRow{}}
	if err := q.check(); err != nil {
		return page, err
	}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		sql, args, err := q.sql(tx)
		if err != nil || sql == "" {
			return err
		}
		var rows []At
		if err := tx.Read(&rows, sql, args); err != nil {
			return fmt.Errorf("listing the gear: %w", err)
		}
		if len(rows) > q.Limit {
			last := rows[q.Limit-1]
			rows = rows[:q.Limit]
			c := Cursor{ID: last.ID, Name: strings.ToLower(last.Name)}
			if q.Sort == "recent" {
				c = Cursor{ID: last.ID, Used: last.UsedAt}
			}
			page.Next = c.Text()
		}
		page.Rows, err = ViewRows(tx, rows)
		return err
	})
	return page, err
}

// ViewRows adds where each is, and what it holds.
func ViewRows(tx *store.Tx, rows []At) ([]GearRow, error) {
	list := []GearRow{}
	stowage := make([]model.Stowage, len(rows))
	var containers []uuid.UUID
	for i, r := range rows {
		stowage[i] = r.Stowage
		if r.Container() {
			containers = append(containers, r.ID)
		}
	}
	n, err := where.Names(tx, stowage)
	if err != nil {
		return nil, err
	}
	held, err := HeldBy(tx, containers)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		h := held[r.ID]
		list = append(list, GearRow{GearView: ViewGear(r.Gear), Spot: n.Spot(r.Stowage), Holds: h.N,
			TotalKg: r.Kg*float64(r.Count) + h.Kg})
	}
	return list, nil
}

// GearSummary is the whole list in figures.
type GearSummary struct {
	Entries   int            `json:"entries"`
	Pieces    int            `json:"pieces" doc:"Counting each of several alike"`
	Kg        float64        `json:"kg"`
	Unweighed int            `json:"unweighed"`
	Kinds     map[string]int `json:"kinds" doc:"Entries on the quay, aboard, in the shed, with people, lent"`
	Tags      []string       `json:"tags"`
}

// Summary counts and weighs everything.
func (a *Wing) Summary(ctx context.Context, actor kernel.Actor) (GearSummary, error) {
	s := GearSummary{Kinds: map[string]int{}, Tags: []string{}}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		kinds, err := countKinds(tx)
		if err != nil {
			return err
		}
		for _, k := range kinds {
			s.Entries, s.Pieces, s.Unweighed, s.Kg = s.Entries+k.Entries, s.Pieces+k.Pieces, s.Unweighed+k.Unweighed, s.Kg+k.Kg
			s.Kinds[k.Kind] = k.Entries
		}
		tags, err := tagsOf(tx)
		for _, t := range tags {
			s.Tags = append(s.Tags, strings.ReplaceAll(strings.TrimPrefix(t, "#"), "-", " "))
		}
		return err
	})
	return s, err
}

// GearDetail is everything about one piece.
type GearDetail struct {
	GearRow
	Holdings []GearRow         `json:"holdings" doc:"What lies directly in it"`
	Spares   []GearRow         `json:"spares" doc:"What is a spare for it"`
	Notes    []NoteView        `json:"notes"`
	Services []ServiceView     `json:"services"`
	Bookings []BookingView     `json:"bookings"`
	Photos   []fleet.PhotoView `json:"photos"`
	Code     string            `json:"code,omitempty" doc:"On its label, where one was printed"`
}

// NoteView is a line of a piece's history.
type NoteView struct {
	At   time.Time `json:"at"`
	By   string    `json:"by"`
	Kind string    `json:"kind" enum:"condition,service,weighed,count,seen,note"`
	Text string    `json:"text"`
}

// notesShown is how much of a piece's history is told.
const notesShown = 60

// GearOne gives everything about one piece.
func (a *Wing) GearOne(ctx context.Context, actor kernel.Actor, id uuid.UUID) (GearDetail, error) {
	d := GearDetail{}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		of := func(into *[]GearRow, condition string, limit int) error {
			rows, err := Rows(tx, "WHERE gear.crew_id = @crew AND "+condition+" ORDER BY gear.sort_name, gear.id LIMIT @most",
				store.Args{"id": id, "most": limit})
			if err != nil {
				return err
			}
			*into, err = ViewRows(tx, rows)
			return err
		}
		var self []GearRow
		if err := of(&self, "gear.id = @id", 1); err != nil {
			return err
		}
		if len(self) == 0 {
			return refuse.Missing("gear")
		}
		d.GearRow = self[0]
		if err := of(&d.Holdings, "at.inside_id = @id", 500); err != nil {
			return err
		}
		if err := of(&d.Spares, "gear.spares_for = @id", 100); err != nil {
			return err
		}
		return gearRest(tx, id, &d)
	})
	return d, err
}

// gearRest adds a piece's history, services, bookings, pictures and code.
func gearRest(tx *store.Tx, id uuid.UUID, d *GearDetail) (err error) {
	if d.Notes, err = notes(tx, id); err != nil {
		return err
	}
	if d.Services, err = services(tx, id); err != nil {
		return err
	}
	if d.Bookings, err = bookings(tx, id); err != nil {
		return err
	}
	if d.Photos, err = fleet.PhotosOf(tx, "photo.gear_id", id); err != nil {
		return err
	}
	var labels []model.Label
	if err := store.All(tx, &labels, "code", "gear_id = ?", id); err != nil {
		return fmt.Errorf("looking for its label: %w", err)
	}
	for _, l := range labels {
		d.Code = l.Code
	}
	return nil
}

// NoteInput is a line for a piece's history.
type NoteInput struct {
	Kind string `json:"kind" words:"notes" doc:"seen: it is where it should be"`
	Text string `json:"text,omitempty"`
}

// AddNote adds a line to a piece's history. Having been seen is a use of it.
func (a *Wing) AddNote(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, in NoteInput) error {
	var fs check.Faults
	fs.OneOf("kind", in.Kind, words.Notes.Keys()...)
	least := 0
	if in.Kind == "note" {
		least = 1
	}
	fs.Text("text", in.Text, least, 500)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"note", id, in}, func() (uuid.UUID, error) {
			if err := store.SetOne[model.Gear](tx, map[string]any{"used_at": a.Now()}, "id = ?", id); err != nil {
				return id, kernel.Absent(err, "gear")
			}
			return id, a.Note(tx, actor, id, in.Kind, in.Text)
		})
		return err
	})
}
