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
	"ergasia/core/find"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
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
	fs.OneOf("kind", q.Kind, "", "quay", "boat", "shed", "person", "lent")
	fs.OneOf("only", q.Only, "", "unweighed", "containers", "worn", "expired", "restock")
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
		return c, refuse.Faulty(check.Faults{{Field: "after", Value: text, Want: "is no cursor: leave it out to begin at the first page"}})
	}
	return c, nil
}

// Gear lists a page of the crew's gear.
func (a *Wing) Gear(ctx context.Context, actor kernel.Actor, q GearQuery) (GearPage, error) {
	page := GearPage{Rows: []GearRow{}}
	if err := q.check(); err != nil {
		return page, err
	}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		sql, args, err := q.sql(tx, actor)
		if err != nil || sql == "" {
			return err
		}
		var rows []GearAt
		if err := tx.Raw(sql, args).Scan(&rows).Error; err != nil {
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
		page.Rows, err = a.GearRows(tx, actor, rows)
		return err
	})
	return page, err
}

// sql is the query of a page and one row more; empty where nothing can answer.
func (q GearQuery) sql(tx *gorm.DB, actor kernel.Actor) (string, map[string]any, error) {
	args := map[string]any{"crew": actor.Crew}
	wheres := []string{"gear.crew_id = @crew"}
	and := func(key, condition string, value any) {
		wheres, args[key] = append(wheres, condition), value
	}
	for _, f := range []struct {
		key, condition string
		id             *uuid.UUID
	}{{"boat", "at.boat_id = @boat", q.Boat}, {"place", "at.place_id = @place", q.Place}, {"shed", "at.shed_id = @shed", q.Shed},
		{"inside", "at.inside_id = @inside", q.Inside}, {"owner", "gear.owner_id = @owner", q.Owner}} {
		if f.id != nil {
			and(f.key, f.condition, *f.id)
		}
	}
	if q.Kind != "" {
		and("kind", "at.kind = @kind", q.Kind)
	}
	if q.Tag != "" {
		and("tag", "EXISTS (SELECT FROM gear_word w WHERE w.crew_id = @crew AND w.gear_id = gear.id AND w.word = @tag)", find.Tag(q.Tag))
	}
	if q.Only != "" {
		wheres = append(wheres, Onlies[q.Only])
	}
	with := ""
	if terms := find.Words(q.Text); len(terms) > 0 {
		known, err := knownNames(tx, actor)
		if err != nil {
			return "", nil, err
		}
		t, err := termQuery(tx, actor, terms[:min(len(terms), find.MaxTerms)], known, hitsListed)
		if err != nil || t == nil {
			return "", nil, err
		}
		for k, v := range t.args {
			args[k] = v
		}
		with = t.with + " "
		wheres = append(wheres, "gear.id IN (SELECT gear.id FROM hit JOIN gear ON gear.crew_id = @crew AND gear.id = hit.gear_id"+t.where+")")
	}
	order := "gear.sort_name, gear.id"
	if q.Sort == "recent" {
		order = "gear.used_at DESC, gear.id"
	}
	if q.After != "" {
		c, err := readCursor(q.After)
		if err != nil {
			return "", nil, err
		}
		and("id", "", c.ID)
		wheres = wheres[:len(wheres)-1]
		if q.Sort == "recent" {
			and("used", "gear.used_at <= @used AND (gear.used_at < @used OR gear.id > @id)", c.Used)
		} else {
			and("name", "(gear.sort_name, gear.id) > (@name, @id)", c.Name)
		}
	}
	return fmt.Sprintf("%sSELECT %s%s WHERE %s ORDER BY %s LIMIT %d", with, GearColumns, GearFrom, strings.Join(wheres, " AND "), order, q.Limit+1), args, nil
}

// GearRows adds where each is, and what it holds.
func (a *Wing) GearRows(tx *gorm.DB, actor kernel.Actor, rows []GearAt) ([]GearRow, error) {
	list := []GearRow{}
	stowage := make([]model.Stowage, len(rows))
	var containers []uuid.UUID
	for i, r := range rows {
		stowage[i] = r.Stowage
		if r.Container() {
			containers = append(containers, r.ID)
		}
	}
	n, err := a.where.Namer(tx, actor, stowage)
	if err != nil {
		return nil, err
	}
	held, err := HeldBy(tx, actor, containers)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		h := held[r.ID]
		list = append(list, GearRow{GearView: ViewGear(r.Gear), Spot: n.Spot(r.Stowage), Holds: h.N, TotalKg: r.Kg*float64(r.Count) + h.Kg})
	}
	return list, nil
}

type holding struct {
	Box uuid.UUID
	N   int
	Kg  float64
}

// HeldBy counts and weighs what containers hold, at any depth.
func HeldBy(tx *gorm.DB, actor kernel.Actor, containers []uuid.UUID) (map[uuid.UUID]holding, error) {
	held := map[uuid.UUID]holding{}
	if len(containers) == 0 {
		return held, nil
	}
	var list []holding
	err := tx.Raw(`WITH RECURSIVE held AS (
			SELECT inside_id AS box, gear_id FROM stowage WHERE crew_id = @crew AND inside_id IN @boxes
			UNION SELECT held.box, s.gear_id FROM held JOIN stowage s ON s.crew_id = @crew AND s.inside_id = held.gear_id)
		SELECT held.box, count(*) AS n, sum(gear.kg * gear.count) AS kg FROM held JOIN gear ON gear.crew_id = @crew AND gear.id = held.gear_id GROUP BY held.box`,
		map[string]any{"crew": actor.Crew, "boxes": containers}).Scan(&list).Error
	if err != nil {
		return nil, fmt.Errorf("weighing what boxes hold: %w", err)
	}
	for _, h := range list {
		held[h.Box] = h
	}
	return held, nil
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
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		var kinds []struct {
			Kind                       string
			Entries, Pieces, Unweighed int
			Kg                         float64
		}
		err := tx.Raw(`SELECT at.kind, count(*) AS entries, sum(gear.count) AS pieces, count(*) FILTER (WHERE gear.mass_known = 'guess') AS unweighed,
			coalesce(sum(gear.kg * gear.count), 0) AS kg`+GearFrom+" WHERE gear.crew_id = ? GROUP BY at.kind", actor.Crew).Scan(&kinds).Error
		if err != nil {
			return fmt.Errorf("counting the gear: %w", err)
		}
		for _, k := range kinds {
			s.Entries, s.Pieces, s.Unweighed, s.Kg = s.Entries+k.Entries, s.Pieces+k.Pieces, s.Unweighed+k.Unweighed, s.Kg+k.Kg
			s.Kinds[k.Kind] = k.Entries
		}
		var tags []string
		err = tx.Raw("SELECT word FROM word WHERE crew_id = ? AND word >= '#' AND word < '$' ORDER BY word LIMIT 300", actor.Crew).Scan(&tags).Error
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
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		of := func(into *[]GearRow, condition string, limit int) error {
			var rows []GearAt
			err := tx.Raw("SELECT "+GearColumns+GearFrom+" WHERE gear.crew_id = ? AND "+condition+" ORDER BY gear.sort_name, gear.id LIMIT ?", actor.Crew, id, limit).
				Scan(&rows).Error
			if err != nil {
				return fmt.Errorf("loading gear: %w", err)
			}
			*into, err = a.GearRows(tx, actor, rows)
			return err
		}
		var self []GearRow
		if err := of(&self, "gear.id = ?", 1); err != nil {
			return err
		}
		if len(self) == 0 {
			return refuse.Missing("gear")
		}
		d.GearRow = self[0]
		if err := of(&d.Holdings, "at.inside_id = ?", 500); err != nil {
			return err
		}
		if err := of(&d.Spares, "gear.spares_for = ?", 100); err != nil {
			return err
		}
		return a.gearRest(tx, actor, id, &d)
	})
	return d, err
}

// gearRest adds a piece's history, services, bookings, pictures and code.
func (a *Wing) gearRest(tx *gorm.DB, actor kernel.Actor, id uuid.UUID, d *GearDetail) (err error) {
	d.Notes = []NoteView{}
	err = tx.Raw(`SELECT n.at, member.name AS by, n.kind, n.text FROM gear_note n JOIN member ON member.crew_id = n.crew_id AND member.id = n.by_member
		WHERE n.crew_id = ? AND n.gear_id = ? ORDER BY n.at DESC, n.id DESC LIMIT ?`, actor.Crew, id, notesShown).Scan(&d.Notes).Error
	if err != nil {
		return fmt.Errorf("reading the history: %w", err)
	}
	if d.Services, err = services(tx, actor, id); err != nil {
		return err
	}
	if d.Bookings, err = bookings(tx, actor, id); err != nil {
		return err
	}
	if d.Photos, err = fleet.PhotosOf(tx, actor, "photo.gear_id", id); err != nil {
		return err
	}
	return tx.Raw("SELECT code FROM label WHERE crew_id = ? AND gear_id = ?", actor.Crew, id).Scan(&d.Code).Error
}

// NoteInput is a line for a piece's history.
type NoteInput struct {
	Kind string `json:"kind" enum:"seen,note" doc:"seen: it is where it should be"`
	Text string `json:"text,omitempty"`
}

// AddNote adds a line to a piece's history. Having been seen is a use of it.
func (a *Wing) AddNote(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, in NoteInput) error {
	var fs check.Faults
	fs.OneOf("kind", in.Kind, "seen", "note")
	least := 0
	if in.Kind == "note" {
		least = 1
	}
	fs.Text("text", in.Text, least, 500)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.In(ctx, actor, func(tx *gorm.DB) error {
		_, _, err := a.Once(tx, actor, key, []any{"note", id, in}, func() (uuid.UUID, error) {
			done := tx.Exec("UPDATE gear SET used_at = ? WHERE crew_id = ? AND id = ?", a.Now(), actor.Crew, id)
			if done.Error != nil {
				return id, fmt.Errorf("noting the use: %w", done.Error)
			}
			if done.RowsAffected == 0 {
				return id, refuse.Missing("gear")
			}
			return id, a.Note(tx, actor, id, in.Kind, in.Text)
		})
		return err
	})
}
