package kits

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/shed"
	"ergasia/app/trips"
	"ergasia/core/check"
	"ergasia/core/find"
	"ergasia/core/kit"
	"ergasia/store/model"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// KitInput is a kit as it is written.
type KitInput struct {
	Name  string          `json:"name"`
	Sort  string          `json:"sort" enum:"technique,fish,water,season,use"`
	Lines []model.KitLine `json:"lines" minItems:"1" maxItems:"100"`
}

func (in KitInput) check() error {
	var fs check.Faults
	fs.Text("name", in.Name, 1, 80)
	fs.OneOf("sort", in.Sort, "technique", "fish", "water", "season", "use")
	if len(in.Lines) == 0 {
		fs.Add("lines", nil, "a kit needs a line")
	}
	for i, l := range in.Lines {
		for j, c := range l.Choices {
			if (c.GearID != nil) == (c.Tag != "") {
				fs.Add(fmt.Sprintf("lines[%d].choices[%d]", i, j), nil, "name either a piece of gear or a tag")
			}
			fs.Text(fmt.Sprintf("lines[%d].choices[%d].tag", i, j), c.Tag, 0, 40)
		}
	}
	if err := fs.Err(); err != nil {
		return refuse.Faulty(err)
	}
	return refuse.Faulty(kit.Check(coreLines(in.Lines)))
}

func coreLines(lines []model.KitLine) []kit.Line {
	var list []kit.Line
	for _, l := range lines {
		one := kit.Line{What: l.What, Amount: l.Amount, Per: kit.Per(l.Per), Nice: l.Nice}
		for _, c := range l.Choices {
			choice := kit.Choice{Tag: c.Tag}
			if len(gear.TidyTags([]string{c.Tag})) == 1 {
				choice.Tag = gear.TidyTags([]string{c.Tag})[0]
			}
			if c.GearID != nil {
				choice.Gear = c.GearID.String()
			}
			one.Choices = append(one.Choices, choice)
		}
		list = append(list, one)
	}
	return list
}

// KitView is a kit with how much of it is ready.
type KitView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	KitInput
	Missing int `json:"missing" doc:"Pieces that can't go, for one boat, two people, four rods and a day"`
}

// usual is what kits are reckoned for where no trip is chosen. Practice.
var usual = kit.Outing{Persons: 2, Rods: 4, Days: 1}

// Kits lists the kits.
func (a *Wing) Kits(ctx context.Context, actor kernel.Actor) ([]KitView, error) {
	list := []KitView{}
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		var rows []model.Kit
		if err := tx.Where("crew_id = ?", actor.Crew).Order("sort, name").Limit(200).Find(&rows).Error; err != nil {
			return fmt.Errorf("loading the kits: %w", err)
		}
		var all []model.KitLine
		for _, r := range rows {
			v, err := viewKit(r)
			if err != nil {
				return err
			}
			list, all = append(list, v), append(all, v.Lines...)
		}
		pieces, err := a.kitPieces(tx, actor, all, a.Today(), a.Today(), uuid.Nil)
		for i := range list {
			for _, f := range kit.Answer(coreLines(list[i].Lines), pieces, usual) {
				list[i].Missing += f.Missing
			}
		}
		return err
	})
	return list, err
}

func viewKit(r model.Kit) (KitView, error) {
	v := KitView{ID: r.ID, Version: r.Version, KitInput: KitInput{Name: r.Name, Sort: r.Sort}}
	if err := json.Unmarshal(r.Lines, &v.Lines); err != nil {
		return v, fmt.Errorf("reading kit %s: %w", r.ID, err)
	}
	return v, nil
}

// SaveKit makes a kit (no id) or changes one.
func (a *Wing) SaveKit(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int, in KitInput) (uuid.UUID, error) {
	if err := in.check(); err != nil {
		return id, err
	}
	for i := range in.Lines {
		for j := range in.Lines[i].Choices {
			in.Lines[i].Choices[j].Name = "" // told, never kept: gear may be renamed
		}
	}
	text, err := json.Marshal(in.Lines)
	if err != nil {
		return id, fmt.Errorf("writing the kit: %w", err)
	}
	err = a.In(ctx, actor, func(tx *gorm.DB) error {
		made, _, err := a.Once(tx, actor, key, []any{"kit", id, version, in}, func() (uuid.UUID, error) {
			row := model.Kit{ID: shed.IDOr(id), CrewID: actor.Crew, Name: in.Name, Sort: in.Sort, Lines: text, Version: version + 1}
			return row.ID, shed.Upsert(tx, actor, &row, id, version, "kit", in.Name)
		})
		id = made
		return err
	})
	return id, err
}

// RemoveKit takes a kit away; the gear stays.
func (a *Wing) RemoveKit(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.In(ctx, actor, func(tx *gorm.DB) error {
		done := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Delete(&model.Kit{})
		if done.Error == nil && done.RowsAffected == 0 {
			return refuse.Missing("kit")
		}
		return done.Error
	})
}

// KitFor says for what a kit is reckoned: a trip, or a party that is told.
type KitFor struct {
	Trip    *uuid.UUID
	Boat    *uuid.UUID
	Persons int
	Rods    int
	Days    int
}

// KitAnswer is a kit held against what the crew has.
type KitAnswer struct {
	KitView
	Persons int        `json:"persons"`
	Rods    int        `json:"rods"`
	Days    int        `json:"days"`
	Boat    string     `json:"boat,omitempty"`
	Found   []KitFound `json:"found"`
	Kg      float64    `json:"kg" doc:"Of what can go"`
}

// KitFound is how a line fares.
type KitFound struct {
	Wanted  int       `json:"wanted"`
	Ready   int       `json:"ready"`
	Missing int       `json:"missing"`
	Picks   []KitPick `json:"picks"`
	Because []string  `json:"because" doc:"Why pieces don't count"`
}

// KitPick is a piece that was chosen for a line.
type KitPick struct {
	GearID      uuid.UUID `json:"gear_id" format:"uuid"`
	Name        string    `json:"name"`
	Count       int       `json:"count"`
	State       string    `json:"state" enum:"aboard,ashore,in another boat,lent,worn,broken,out of date,promised"`
	Alternative bool      `json:"alternative"`
	Where       string    `json:"where"`
}

// Kit holds a kit against what the crew has, for a trip or a party.
func (a *Wing) Kit(ctx context.Context, actor kernel.Actor, id uuid.UUID, party KitFor) (KitAnswer, error) {
	var answer KitAnswer
	err := a.In(ctx, actor, func(tx *gorm.DB) error {
		var row model.Kit
		if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, id).Take(&row).Error; err != nil {
			return kernel.Absent(err, "kit")
		}
		v, err := viewKit(row)
		if err != nil {
			return err
		}
		answer, err = a.answerKit(tx, actor, v, party)
		return err
	})
	return answer, err
}

func (a *Wing) answerKit(tx *gorm.DB, actor kernel.Actor, v KitView, party KitFor) (KitAnswer, error) {
	answer := KitAnswer{KitView: v, Found: []KitFound{}}
	o := kit.Outing{Persons: max(party.Persons, 1), Rods: party.Rods, Days: max(party.Days, 1)}
	first, last, trip := a.Today(), a.Today().AddDate(0, 0, o.Days-1), uuid.Nil
	boat := party.Boat
	if party.Trip != nil {
		var t model.Trip
		if err := tx.Where("crew_id = ? AND id = ?", actor.Crew, *party.Trip).Take(&t).Error; err != nil {
			return answer, kernel.Absent(err, "trip")
		}
		view := trips.ViewTrip(t)
		o.Persons, o.Rods, o.Days = t.Persons, t.Rods, view.Days()
		first, last, trip, boat = t.StartsOn, t.EndsOn, t.ID, t.BoatID
	}
	if boat != nil {
		var b model.Boat
		if err := tx.Select("id", "name").Where("crew_id = ? AND id = ?", actor.Crew, *boat).Take(&b).Error; err != nil {
			return answer, kernel.Absent(err, "boat")
		}
		o.Boat, answer.Boat = b.ID.String(), b.Name
	}
	answer.Persons, answer.Rods, answer.Days = o.Persons, o.Rods, o.Days
	pieces, err := a.kitPieces(tx, actor, v.Lines, first, last, trip)
	if err != nil {
		return answer, err
	}
	found := kit.Answer(coreLines(v.Lines), pieces, o)
	answer.Missing = 0
	where, masses, err := a.spots(tx, actor, pieces)
	if err != nil {
		return answer, err
	}
	for _, f := range found {
		answer.Missing += f.Missing
		one := KitFound{Wanted: f.Wanted, Ready: f.Ready, Missing: f.Missing, Picks: []KitPick{}, Because: gear.Listed(f.Because)}
		for _, p := range f.Picks {
			gear := uuid.MustParse(p.Piece.ID)
			one.Picks = append(one.Picks, KitPick{GearID: gear, Name: p.Piece.Name, Count: p.Count, State: string(p.State), Alternative: p.Alternative, Where: where[gear]})
			if p.State == kit.Aboard || p.State == kit.Ashore {
				answer.Kg += masses[gear] * float64(p.Count)
			}
		}
		answer.Found = append(answer.Found, one)
	}
	nameChoices(answer.Lines, pieces)
	return answer, nil
}

func nameChoices(lines []model.KitLine, pieces []kit.Piece) {
	for i := range lines {
		for j, c := range lines[i].Choices {
			if c.GearID == nil {
				continue
			}
			if p := aboard.First(pieces, func(p kit.Piece) bool { return p.ID == c.GearID.String() }); p != nil {
				lines[i].Choices[j].Name = p.Name
			}
		}
	}
}

// spots words where pieces are, with the mass of one each.
func (a *Wing) spots(tx *gorm.DB, actor kernel.Actor, pieces []kit.Piece) (map[uuid.UUID]string, map[uuid.UUID]float64, error) {
	ids := make([]uuid.UUID, len(pieces))
	for i, p := range pieces {
		ids[i] = uuid.MustParse(p.ID)
	}
	where, masses := map[uuid.UUID]string{}, map[uuid.UUID]float64{}
	if len(ids) == 0 {
		return where, masses, nil
	}
	var rows []gear.GearAt
	if err := tx.Raw("SELECT "+gear.GearColumns+gear.GearFrom+" WHERE gear.crew_id = ? AND gear.id IN ?", actor.Crew, ids).Scan(&rows).Error; err != nil {
		return nil, nil, fmt.Errorf("loading a kit's gear: %w", err)
	}
	views, err := a.gear.GearRows(tx, actor, rows)
	for _, v := range views {
		where[v.ID], masses[v.ID] = v.Spot.Text, v.TotalKg/float64(max(v.Count, 1))
	}
	return where, masses, err
}

// kitPieces loads the gear that lines may choose, as it will be between two
// days; what is promised to the trip itself is free for it.
func (a *Wing) kitPieces(tx *gorm.DB, actor kernel.Actor, lines []model.KitLine, from, last time.Time, trip uuid.UUID) ([]kit.Piece, error) {
	ids, tags := []uuid.UUID{}, []string{}
	for _, l := range lines {
		for _, c := range l.Choices {
			if c.GearID != nil {
				ids = append(ids, *c.GearID)
			} else if t := find.Tag(c.Tag); !slices.Contains(tags, t) {
				tags = append(tags, t)
			}
		}
	}
	var rows []struct {
		model.Gear
		BoatID         *uuid.UUID
		BoatName, Lent string
		Promised       string
	}
	const most = 2000 // pieces that the lines of all kits may choose from
	err := tx.Raw(`WITH wanted AS (SELECT gear_id FROM gear_word WHERE crew_id = @crew AND word IN @tags UNION SELECT id FROM gear WHERE crew_id = @crew AND id IN @ids)
		SELECT gear.*, at.boat_id, coalesce(boat.name, '') AS boat_name,
			CASE WHEN at.kind = 'lent' THEN coalesce((SELECT whom FROM booking b WHERE b.crew_id = @crew AND b.gear_id = gear.id AND b.way = 'lent' AND b.ended_on IS NULL
				ORDER BY b.from_on LIMIT 1), 'someone') ELSE '' END AS lent,
			coalesce((SELECT trip.name FROM booking b JOIN trip ON trip.crew_id = @crew AND trip.id = b.trip_id WHERE b.crew_id = @crew AND b.gear_id = gear.id
				AND b.ended_on IS NULL AND b.trip_id <> @trip AND daterange(b.from_on, b.until_on, '[]') && daterange(CAST(@from AS date), CAST(@last AS date), '[]') LIMIT 1), '') AS promised
		FROM wanted JOIN gear ON gear.crew_id = @crew AND gear.id = wanted.gear_id JOIN stowage at ON at.crew_id = @crew AND at.gear_id = gear.id
		LEFT JOIN boat ON boat.crew_id = @crew AND boat.id = at.boat_id ORDER BY gear.sort_name, gear.id LIMIT @most`,
		map[string]any{"crew": actor.Crew, "tags": append(tags, ""), "ids": append(ids, uuid.Nil), "trip": trip, "from": from, "last": last, "most": most}).Scan(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("loading what kits may choose: %w", err)
	}
	list := make([]kit.Piece, len(rows))
	for i, r := range rows {
		p := kit.Piece{ID: r.ID.String(), Name: r.Name, Tags: r.Tags, Count: r.Count, BoatName: r.BoatName, Condition: r.Condition, Lent: r.Lent,
			Expired: r.ExpiresOn != nil && r.ExpiresOn.Before(last), Promised: r.Promised}
		if r.BoatID != nil {
			p.Boat = r.BoatID.String()
		}
		list[i] = p
	}
	return list, nil
}
