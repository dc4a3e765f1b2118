package safety

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/core/carriage"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// PieceView is safety equipment, and where it is.
type PieceView struct {
	ID       string       `json:"id" doc:"Of the gear; of what is built in, fixed and its name"`
	GearID   *uuid.UUID   `json:"gear_id,omitempty" format:"uuid"`
	Name     string       `json:"name"`
	Class    string       `json:"class" words:"safety_classes"`
	Guessed  bool         `json:"guessed,omitempty" doc:"Its class is taken from its tags"`
	Count    int          `json:"count"`
	PlaceID  *uuid.UUID   `json:"place_id,omitempty" format:"uuid"`
	Where    string       `json:"where"`
	Seconds  *float64     `json:"seconds,omitempty"`
	Expires  *kernel.Date `json:"expires_on,omitempty"`
	FitsLow  float64      `json:"fits_low_kg,omitempty"`
	FitsHigh float64      `json:"fits_high_kg,omitempty"`
	WornBy   string       `json:"worn_by,omitempty"`
}

// Settle is something that would settle a row.
type Settle struct {
	Kind    string     `json:"kind" enum:"promise,move,buy" doc:"promise: it goes along; move: to another place aboard; buy: a line on the list of the evening before"`
	Said    string     `json:"said"`
	GearID  *uuid.UUID `json:"gear_id,omitempty" format:"uuid"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
	Version int        `json:"version,omitempty" doc:"Of the gear's stowage, for a move"`
	Text    string     `json:"text,omitempty" doc:"Of the line"`
}

// RowView is what came of a rule.
type RowView struct {
	Rule    string      `json:"rule"`
	What    string      `json:"what"`
	Pack    string      `json:"pack"`
	Title   string      `json:"title" doc:"Of the pack"`
	Status  string      `json:"status" words:"carriage_status"`
	Why     string      `json:"why"`
	Needs   string      `json:"needs"`
	By      []PieceView `json:"by"`
	Missing int         `json:"missing"`
	Source  string      `json:"source"`
	Memory  bool        `json:"memory"`
	Note    string      `json:"note,omitempty"`
	Hold    bool        `json:"hold" doc:"The trip is not ready while it is not met"`
	Also    []string    `json:"also" doc:"Packs that ask for it too"`
	Wear    []string    `json:"wear" doc:"Who wear it under way"`
	Settle  []Settle    `json:"settle"`
}

// CheckView is a trip held against the crew's packs.
type CheckView struct {
	TripID  uuid.UUID       `json:"trip_id" format:"uuid"`
	Version int             `json:"version" doc:"Of the trip"`
	Facts   []string        `json:"facts" doc:"What it was taken to be, in sentences"`
	Rules   model.TripRules `json:"rules" doc:"As somebody said"`
	Water   string          `json:"water" words:"carriage_waters"`
	Use     string          `json:"use" words:"carriage_uses"`
	Night   bool            `json:"night"`
	Country string          `json:"country"`
	Rows    []RowView       `json:"rows"`
	Aboard  []PieceView     `json:"aboard" doc:"Safety equipment that comes along"`
	Papers  []PaperRow      `json:"papers"`
	Bags    []BagView       `json:"bags"`
	Unmet   int             `json:"unmet"`
	Law     string          `json:"law"`
}

// BagView is a grab bag with what is in it.
type BagView struct {
	Name  string   `json:"name"`
	Where string   `json:"where"`
	Holds []string `json:"holds"`
	Lacks []string `json:"lacks" doc:"What rules want in it, and is not"`
}

// checked is a trip held against rules.
type checked struct {
	masses bool // who looks may know what people weigh
	outing *days.Outing
	lib    carriage.Library
	trip   carriage.Trip
	pieces []Piece
	rows   []carriage.Row
}

// Check holds a trip against the crew's packs.
func (a *Wing) Check(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (CheckView, error) {
	var out CheckView
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		o, err := a.days.Load(tx, actor, trip, nil)
		if err != nil {
			return err
		}
		out, err = a.Of(ctx, tx, actor, o)
		return err
	})
	return out, err
}

// Of is Check of a trip that is loaded, for other wings.
func (a *Wing) Of(ctx context.Context, tx *store.Tx, actor kernel.Actor, o *days.Outing) (CheckView, error) {
	c, err := a.check(ctx, tx, actor, o)
	if err != nil {
		return CheckView{}, err
	}
	out := c.view()
	if o.Laden == nil {
		return out, nil
	}
	if err := a.settle(tx, c, &out); err != nil {
		return out, err
	}
	if !kernel.Allowed(actor.Role, kernel.Move) {
		return out, nil // papers are not for guests
	}
	out.Papers, err = papersFor(tx, o)
	for _, p := range out.Papers {
		if p.State != "good" {
			out.Unmet++
		}
	}
	return out, err
}

func (a *Wing) check(ctx context.Context, tx *store.Tx, actor kernel.Actor, o *days.Outing) (checked, error) {
	chosen, lib, err := rulesOf(tx, actor.Crew)
	if err != nil {
		return checked{}, err
	}
	c := checked{outing: o, lib: lib, trip: outing(o, chosen), masses: kernel.Allowed(actor.Role, kernel.Move)}
	if o.Laden == nil {
		return c, nil
	}
	rules, err := lib.All(chosen.Packs)
	if err != nil {
		return c, fmt.Errorf("reading the packs: %w", err)
	}
	c.pieces = Pieces(o.Laden, c.comes)
	items := make([]carriage.Item, len(c.pieces))
	for i, p := range c.pieces {
		items[i] = p.Item
	}
	c.rows, err = carriage.Check(ctx, rules, Vessel(o.Laden), c.trip, items)
	return c, err
}

// Comes says whether gear that is not aboard comes along on a trip.
func Comes(o *days.Outing) func(model.Gear) bool { return checked{outing: o}.comes }

// comes says whether gear that is not aboard comes along: it is promised, or somebody who
// comes carries it.
func (c checked) comes(g model.Gear) bool {
	at := c.outing.Laden.Stowage[g.ID]
	if c.outing.Promised[g.ID] {
		return !slices.Contains(c.outing.Trip.Ashore, g.ID)
	}
	return at.HeldBy != nil && slices.ContainsFunc(c.outing.People, func(p days.Person) bool {
		return p.MemberID != nil && *p.MemberID == *at.HeldBy
	})
}

func (c checked) view() CheckView {
	o := c.outing
	v := CheckView{
		TripID:  o.Trip.ID,
		Version: o.Trip.Version,
		Water:   c.trip.Water,
		Use:     c.trip.Use,
		Night:   c.trip.Night,
		Country: c.trip.Country,
		Rows:    []RowView{},
		Aboard:  []PieceView{},
		Papers:  []PaperRow{},
		Bags:    []BagView{},
		Law:     carriage.Law,
		Facts:   c.facts(),
	}
	if o.Trip.Rules != nil {
		v.Rules = *o.Trip.Rules
	}
	for _, r := range c.rows {
		v.Rows = append(v.Rows, c.row(r))
		if unmet(r) {
			v.Unmet++
		}
	}
	for _, p := range c.pieces {
		v.Aboard = append(v.Aboard, viewPiece(p))
	}
	slices.SortStableFunc(v.Rows, func(a, b RowView) int { return weight(a) - weight(b) })
	v.Bags = c.bags()
	return v
}

func unmet(r carriage.Row) bool { return r.Status != carriage.Met && r.Status != carriage.NotAsked }

// weight puts what is wrong first, then what holds a trip.
func weight(r RowView) int {
	w := 2
	switch r.Status {
	case carriage.Met:
		w = 4
	case carriage.NotAsked:
		return 6
	}
	if r.Hold {
		w--
	}
	return w
}

func (c checked) row(r carriage.Row) RowView {
	v := RowView{
		Rule:    r.Rule,
		What:    r.What,
		Pack:    r.Pack,
		Title:   c.lib[r.Pack].Title,
		Status:  r.Status,
		Why:     kernel.Capital(r.Why),
		Needs:   r.Needs,
		By:      []PieceView{},
		Missing: r.Missing,
		Source:  r.Source,
		Memory:  r.Memory,
		Note:    r.Note,
		Hold:    r.Hold,
		Also:    []string{},
		Wear:    []string{},
		Settle:  []Settle{},
	}
	for _, p := range r.Also {
		v.Also = append(v.Also, c.lib[p].Title)
	}
	if r.Worn && r.Status == carriage.Met {
		v.Wear = append(v.Wear, r.Persons...)
	}
	for _, id := range r.By {
		if p := aboard.First(c.pieces, func(p Piece) bool { return p.Item.ID == id }); p != nil {
			v.By = append(v.By, viewPiece(*p))
		}
	}
	return v
}

func viewPiece(p Piece) PieceView {
	v := PieceView{ID: p.Item.ID, Name: p.Item.Name, Class: p.Class, Guessed: !p.Said, Count: max(p.Item.Count, 1),
		PlaceID: p.Place, Where: p.Where, Seconds: p.Seconds, WornBy: p.Item.WornBy}
	if p.Gear != nil {
		v.GearID, v.FitsLow, v.FitsHigh = &p.Gear.ID, p.Gear.FitsLow, p.Gear.FitsHigh
	}
	if p.Item.Expires != nil {
		day := kernel.DayDate(*p.Item.Expires)
		v.Expires = &day
	}
	return v
}

// facts say what the trip was taken to be, so that a wrong guess is seen.
func (c checked) facts() []string {
	list := []string{"The water is " + words.CarriageWaters.Label(c.trip.Water) + "."}
	if c.trip.Night {
		list = append(list, "Some of it is by night.")
	} else {
		list = append(list, "All of it is by day.")
	}
	list = append(list, "It is "+words.CarriageUses.Label(c.trip.Use)+".")
	if c.trip.Country == "" {
		list = append(list, "Nobody said the country: no country's law is left out for that.")
	}
	if c.outing.Laden == nil {
		return append(list, "The trip has no boat yet.")
	}
	b := Vessel(c.outing.Laden)
	if b.Closed == nil && b.Propulsion != "none" {
		list = append(list, "Nobody said whether she has closed spaces where vapour can gather.")
	}
	if b.Power == nil && b.Propulsion != "none" {
		list = append(list, "Nobody said the power of her motor.")
	}
	return list
}

// bags are the grab bags aboard, with what they hold.
func (c checked) bags() []BagView {
	list := []BagView{}
	for _, p := range c.pieces {
		if p.Class != "grab bag" || p.Gear == nil {
			continue
		}
		b := BagView{Name: p.Item.Name, Where: p.Where, Holds: []string{}, Lacks: []string{}}
		for _, h := range c.outing.Laden.UsedIn(*p.Gear)[1:] {
			b.Holds = append(b.Holds, h.Gear.Name)
		}
		for _, r := range c.rows {
			if unmet(r) && strings.Contains(r.Needs, "in the grab bag") {
				b.Lacks = append(b.Lacks, r.What)
			}
		}
		list = append(list, b)
	}
	return list
}

// SetTripRules says where a trip is, for the rules.
func (a *Wing) SetTripRules(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, version int,
	in model.TripRules) error {
	var fs check.Faults
	fs.OneOf("water", in.Water, words.CarriageWaters.OrNone()...)
	fs.OneOf("use", in.Use, words.CarriageUses.OrNone()...)
	if in.Country != "" && (len(in.Country) != 2 || strings.ToUpper(in.Country) != in.Country) {
		fs.Add("country", in.Country, "must be two capital letters, such as US, or nothing")
	}
	if len(fs) > 0 {
		return faulty(fs)
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"trip rules", trip, version, in}, func() (uuid.UUID, error) {
			t, err := openTrip(tx, trip)
			if err != nil {
				return trip, err
			}
			t.Rules, t.Version = &in, version+1
			return trip, kernel.Keep(tx, &t, trip, version, "trip", t.Name)
		})
		return err
	})
}

// statuses are what came of each rule on each trip ahead that has a boat.
func (a *Wing) statuses(ctx context.Context, tx *store.Tx, actor kernel.Actor) (map[string]map[string]string, error) {
	ahead, err := a.trips.Ahead(tx)
	if err != nil {
		return nil, err
	}
	all := map[string]map[string]string{}
	for _, t := range ahead[:min(len(ahead), mostAhead)] {
		o, err := a.days.Load(tx, actor, t.ID, nil)
		if err != nil {
			return nil, err
		}
		c, err := a.check(ctx, tx, actor, o)
		if err != nil {
			return nil, err
		}
		rows := map[string]string{}
		for _, r := range c.rows {
			rows[r.What] = r.Status
		}
		all[t.Name] = rows
	}
	return all, nil
}

// mostAhead is how many trips are looked at when a pack changes.
const mostAhead = 12

// differences say what became otherwise on which trip.
func differences(before, after map[string]map[string]string) []string {
	list := []string{}
	label := func(status string) string {
		if status == "" {
			return "not asked"
		}
		return words.CarriageStatus.Label(status)
	}
	for trip, rows := range after {
		for what, now := range rows {
			if was := before[trip][what]; label(was) != label(now) {
				list = append(list, fmt.Sprintf("%s: %s was %s, is %s.", trip, what, label(was), label(now)))
			}
		}
		for what, was := range before[trip] {
			if _, still := rows[what]; !still && was != carriage.NotAsked {
				list = append(list, fmt.Sprintf("%s: %s was %s, is not asked.", trip, what, label(was)))
			}
		}
	}
	slices.Sort(list)
	return list
}
