package lists

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"ergasia/app/days"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/safety"
	"ergasia/app/trips"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// TickLine is a line of a list, and who ticked it.
type TickLine struct {
	Key       string     `json:"key"`
	Text      string     `json:"text"`
	Where     string     `json:"where,omitempty"`
	Holds     bool       `json:"holds" doc:"The lines stay on until it is done"`
	Done      bool       `json:"done"`
	By        string     `json:"by,omitempty" doc:"Who ticked it last, or took the tick away"`
	At        *time.Time `json:"at,omitempty"`
	Who       *uuid.UUID `json:"who,omitempty" format:"uuid" doc:"Whose line it is"`
	Forgotten bool       `json:"forgotten,omitempty" doc:"Nobody ticked it on her last trip"`
	OwnID     *uuid.UUID `json:"own_id,omitempty" format:"uuid" doc:"Of a line of the crew's own"`
	Version   int        `json:"version,omitempty"`
	Sort      int        `json:"sort,omitempty"`
	ThisTrip  bool       `json:"this_trip,omitempty" doc:"Of the crew's own: on this trip only"`
	ThisBoat  bool       `json:"this_boat,omitempty" doc:"In this boat only"`
}

// StageList is the list of a stage.
type StageList struct {
	Stage string     `json:"stage" words:"list_stages"`
	Lines []TickLine `json:"lines"`
	Left  int        `json:"left"`
	Held  int        `json:"held" doc:"Lines that hold, and are not done"`
	At    *time.Time `json:"at,omitempty" doc:"When its phase begins"`
}

// ListPerson is somebody of the crew who comes.
type ListPerson struct {
	ID   uuid.UUID `json:"id" format:"uuid"`
	Name string    `json:"name"`
	Mark string    `json:"mark"`
}

// ListsView is all lists of a trip.
type ListsView struct {
	TripID uuid.UUID    `json:"trip_id" format:"uuid"`
	Name   string       `json:"name"`
	Boat   string       `json:"boat,omitempty"`
	BoatID *uuid.UUID   `json:"boat_id,omitempty" format:"uuid"`
	Logged bool         `json:"logged"`
	Launch *time.Time   `json:"launch_at,omitempty" doc:"When she is launched"`
	Stages []StageList  `json:"stages"`
	People []ListPerson `json:"people"`
	Law    string       `json:"law"`
}

// Lists gives a trip's checklists.
func (a *Wing) Lists(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (ListsView, error) {
	var out ListsView
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		o, err := a.days.Load(tx, actor, trip, nil)
		if err != nil {
			return err
		}
		out, err = a.Of(ctx, tx, actor, o, nil)
		return err
	})
	return out, err
}

// Of is Lists of a trip that is loaded, with the check of it where that was made.
func (a *Wing) Of(ctx context.Context, tx *store.Tx, actor kernel.Actor, o *days.Outing,
	checked *safety.CheckView) (ListsView, error) {
	s, err := a.read(ctx, tx, actor, o, checked)
	if err != nil {
		return ListsView{}, err
	}
	ticks, names, err := ticksOf(tx, o.Trip.ID)
	if err != nil {
		return ListsView{}, err
	}
	forgotten, err := forgottenOn(tx, o.Trip)
	if err != nil {
		return ListsView{}, err
	}
	out := ListsView{TripID: o.Trip.ID, Name: o.Trip.Name, BoatID: o.Trip.BoatID, Logged: o.Trip.LoggedAt != nil,
		Stages: []StageList{}, People: []ListPerson{}, Law: s.check.Law}
	if o.Laden != nil {
		out.Boat = o.Laden.Boat.Name
	}
	for _, p := range o.People {
		if p.MemberID != nil {
			out.People = append(out.People, ListPerson{ID: *p.MemberID, Name: p.Name, Mark: p.Mark})
		}
	}
	out.fill(makeLines(s), ticks, names, forgotten)
	out.times(o)
	return out, nil
}

func (a *Wing) read(ctx context.Context, tx *store.Tx, actor kernel.Actor, o *days.Outing,
	checked *safety.CheckView) (s sources, err error) {
	s.outing = o
	if checked != nil {
		s.check = *checked
	} else if s.check, err = a.safe.Of(ctx, tx, actor, o); err != nil {
		return s, err
	}
	list, err := a.due.List(tx)
	if err != nil {
		return s, err
	}
	s.due = list.Rows
	if o.Trip.BoatID != nil {
		if s.jobs, err = jobs.Open(tx, *o.Trip.BoatID); err != nil {
			return s, err
		}
	}
	if err := store.All(tx, &s.own, "sort, id", ""); err != nil {
		return s, fmt.Errorf("reading the crew's own lines: %w", err)
	}
	s.own = ofTrip(s.own, o.Trip.BoatID, o.Trip.ID)
	s.goes, err = toFetch(tx, o)
	return s, err
}

// toFetch is what is promised to a trip and must be fetched for it.
func toFetch(tx *store.Tx, o *days.Outing) (list []fetch, err error) {
	rows, err := gear.Rows(tx, `JOIN booking b ON b.crew_id = gear.crew_id AND b.gear_id = gear.id AND b.trip_id = @trip
		WHERE gear.crew_id = @crew AND at.kind IN ('shed', 'boat', 'person') AND at.boat_id IS DISTINCT FROM @boat
		ORDER BY gear.sort_name, gear.id`, store.Args{"trip": o.Trip.ID, "boat": o.Trip.BoatID})
	if err != nil {
		return nil, err
	}
	views, err := gear.ViewRows(tx, rows)
	for i, v := range views {
		held := rows[i].Stowage.HeldBy
		if held != nil && slices.ContainsFunc(o.People, func(p days.Person) bool { return p.MemberID != nil && *p.MemberID == *held }) {
			continue
		}
		list = append(list, fetch{Name: v.Name, From: v.Spot.Text})
	}
	return list, err
}

// ticksOf are a trip's ticks by line, and the names of who made them.
func ticksOf(tx *store.Tx, trip uuid.UUID) (map[string]model.Tick, map[uuid.UUID]string, error) {
	var rows []model.Tick
	var members []model.Member
	err := errors.Join(store.All(tx, &rows, "", "trip_id = ?", trip), store.All(tx, &members, "", ""))
	if err != nil {
		return nil, nil, fmt.Errorf("reading the ticks: %w", err)
	}
	ticks, names := map[string]model.Tick{}, map[uuid.UUID]string{}
	for _, r := range rows {
		ticks[r.Line] = r
	}
	for _, m := range members {
		names[m.ID] = m.Name
	}
	return ticks, names, nil
}

// forgottenOn are the lines that stayed without a tick on the boat's last trip, where
// others of their stage were ticked.
func forgottenOn(tx *store.Tx, t model.Trip) (map[string]bool, error) {
	list := map[string]bool{}
	if t.BoatID == nil {
		return list, nil
	}
	var rows []model.Tick
	err := tx.Read(&rows, `SELECT tick.* FROM tick WHERE crew_id = @crew AND NOT done AND trip_id = (
		SELECT id FROM trip WHERE crew_id = @crew AND boat_id = @boat AND id <> @trip AND logged_at IS NOT NULL AND starts_on <= @on
		AND EXISTS (SELECT FROM tick k WHERE k.crew_id = @crew AND k.trip_id = trip.id)
		ORDER BY starts_on DESC, id DESC LIMIT 1)`, store.Args{"boat": *t.BoatID, "trip": t.ID, "on": t.StartsOn})
	if err != nil {
		return nil, fmt.Errorf("reading what was forgotten: %w", err)
	}
	for _, r := range rows {
		list[r.Line] = true
	}
	return list, nil
}

// fill puts the lines under their stages; what was forgotten last time stands on top.
func (v *ListsView) fill(lines []line, ticks map[string]model.Tick, names map[uuid.UUID]string, forgotten map[string]bool) {
	for _, l := range lines {
		one := TickLine{Key: l.Key, Text: l.Text, Where: l.Where, Holds: l.Holds, Forgotten: forgotten[l.Key]}
		if t, ok := ticks[l.Key]; ok {
			one.Done, one.At, one.Who = t.Done, t.At, t.Who
			if t.ByMember != nil {
				one.By = names[*t.ByMember]
			}
		}
		if l.Own != nil {
			one.OwnID, one.Version, one.Sort, one.ThisTrip = &l.Own.ID, l.Own.Version, l.Own.Sort, l.Own.TripID != nil
			one.ThisBoat = l.Own.BoatID != nil
		}
		if n := len(v.Stages); n == 0 || v.Stages[n-1].Stage != l.Stage {
			v.Stages = append(v.Stages, StageList{Stage: l.Stage, Lines: []TickLine{}})
		}
		s := &v.Stages[len(v.Stages)-1]
		s.Lines = append(s.Lines, one)
		if !one.Done {
			s.Left++
			if one.Holds {
				s.Held++
			}
		}
	}
	for i := range v.Stages {
		slices.SortStableFunc(v.Stages[i].Lines, func(a, b TickLine) int { return order(a) - order(b) })
	}
}

func order(l TickLine) int {
	if l.Forgotten && !l.Done {
		return 0
	}
	return 1
}

// phaseOf is the phase of the day in which a list is gone through.
var phaseOf = map[string][]string{"load": {"load"}, "road": {"road"}, "ramp": {"launch"}, "off": {"run", "bait", "fish"},
	"anchor": {"anchor", "sleep"}, "recover": {"recover"}}

// times says when each list's phase begins.
func (v *ListsView) times(o *days.Outing) {
	begins := o.Begins()
	clock := func(minutes float64) *time.Time {
		t := o.Trip.StartsOn.UTC().Add(time.Duration((minutes - float64(o.Plan.Zone)) * float64(time.Minute)))
		return &t
	}
	for i, p := range o.Plan.Phases {
		if p.Kind == "launch" && v.Launch == nil {
			v.Launch = clock(begins[i])
		}
		for j := range v.Stages {
			s := &v.Stages[j]
			if s.At == nil && slices.Contains(phaseOf[s.Stage], p.Kind) {
				s.At = clock(begins[i])
			}
		}
	}
}

// TickInput is a tick, or the taking away of one, made at an instant.
type TickInput struct {
	Line string    `json:"line"`
	Done bool      `json:"done"`
	At   time.Time `json:"at" doc:"When it was ticked, by the phone's clock: one that waited for the network may be older than another's"`
}

// Ticked is what phones are told of a tick.
type Ticked struct {
	Line string     `json:"line"`
	Done bool       `json:"done"`
	By   string     `json:"by"`
	At   *time.Time `json:"at,omitempty"`
	Who  *uuid.UUID `json:"who,omitempty" format:"uuid"`
}

// Tick ticks a line of a trip's list. Of two that tick the same line the later one counts,
// by when it was done, not by when it came.
func (a *Wing) Tick(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, in TickInput) error {
	var fs check.Faults
	fs.Text("line", in.Line, 1, mostKey)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.In(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"tick", trip, in}, func() (uuid.UUID, error) {
			at := in.At.UTC().Truncate(time.Microsecond)
			if now := a.Now().UTC(); at.After(now) || at.IsZero() {
				at = now
			}
			return trip, a.changeTick(tx, actor, trip, in.Line, func(row *model.Tick) bool {
				if row.At != nil && row.At.After(at) {
					return false
				}
				row.Done, row.At, row.ByMember = in.Done, &at, &actor.Member
				return true
			})
		})
		return err
	})
}

// Assign says whose line it is; nobody's where there is no id.
func (a *Wing) Assign(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, line string, who *uuid.UUID) error {
	var fs check.Faults
	fs.Text("line", line, 1, mostKey)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return err
	}
	return a.In(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"assign", trip, line, who}, func() (uuid.UUID, error) {
			if who != nil {
				if err := store.Exists[model.Member](tx, "id = ? AND left_at IS NULL", *who); err != nil {
					return trip, kernel.Absent(err, "person")
				}
			}
			return trip, a.changeTick(tx, actor, trip, line, func(row *model.Tick) bool {
				row.Who = who
				return true
			})
		})
		return err
	})
}

// mostTicks of a trip. Practice: four times the longest list.
const mostTicks = 1000

// changeTick changes what is kept of a line, and tells every phone that looks at the trip.
func (a *Wing) changeTick(tx *store.Tx, actor kernel.Actor, trip uuid.UUID, line string, change func(*model.Tick) bool) error {
	if err := store.Exists[model.Trip](tx, "id = ?", trip); err != nil {
		return kernel.Absent(err, "trip")
	}
	row := model.Tick{CrewID: actor.Crew, TripID: trip, Line: line}
	err := store.Locked(tx, &row, "trip_id = ? AND line = ?", trip, line)
	if errors.Is(err, store.ErrNone) {
		if n, err := store.Count[model.Tick](tx, "trip_id = ?", trip); err != nil || n >= mostTicks {
			return errors.Join(err, tooMany(n))
		}
	} else if err != nil {
		return fmt.Errorf("reading the tick: %w", err)
	}
	if !change(&row) {
		return nil
	}
	if err := store.Put(tx, &row); err != nil {
		return fmt.Errorf("keeping the tick: %w", err)
	}
	by := ""
	if row.ByMember != nil {
		if by, err = kernel.NameOf(tx, *row.ByMember); err != nil {
			return err
		}
	}
	return Tell(tx, actor.Crew, trip, Ticked{Line: line, Done: row.Done, By: by, At: row.At, Who: row.Who})
}

func tooMany(n int64) error {
	if n < mostTicks {
		return nil
	}
	return &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf("This trip has %d ticks, the most that are kept.", n)}
}

// Topic is what phones that look at a trip listen to, where there is such a trip.
func (a *Wing) Topic(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (string, error) {
	return topic(actor.Crew, trip), a.In(ctx, actor, func(tx *store.Tx) error {
		return kernel.Absent(store.Exists[model.Trip](tx, "id = ?", trip), "trip")
	})
}

func topic(crew, trip uuid.UUID) string { return crew.String() + "/" + trip.String() }

// Tell tells every phone that looks at a trip, once the transaction is kept.
func Tell(tx *store.Tx, crew, trip uuid.UUID, what any) error {
	text, err := json.Marshal(what)
	if err != nil {
		return fmt.Errorf("writing what phones are told: %w", err)
	}
	return tx.Notify(topic(crew, trip), string(text))
}

// Begin begins a trip's lists again: its ticks go, and can be taken back.
func (a *Wing) Begin(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID) error {
	return a.In(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"begin lists", trip}, func() (uuid.UUID, error) {
			t, err := trips.Open(tx, trip)
			if err != nil {
				return trip, err
			}
			var s kernel.Stroke
			if err := s.Gone(tx, "trip_id = @id", store.Args{"id": trip}, "tick"); err != nil {
				return trip, err
			}
			if len(s.Rows) == 0 {
				return trip, nil
			}
			if err := a.Undoable(tx, actor, kernel.Move, "The lists of "+t.Name+" were begun again.", s); err != nil {
				return trip, err
			}
			if err := store.Remove[model.Tick](tx, "trip_id = ?", trip); err != nil {
				return trip, fmt.Errorf("taking the ticks away: %w", err)
			}
			return trip, Tell(tx, actor.Crew, trip, map[string]bool{"anew": true})
		})
		return err
	})
}

// OwnLineInput is a line of the crew's own.
type OwnLineInput struct {
	Stage  string     `json:"stage" words:"list_stages"`
	Text   string     `json:"text"`
	Holds  bool       `json:"holds"`
	Sort   int        `json:"sort,omitempty" doc:"Among the crew's own lines of its stage, the smallest first"`
	BoatID *uuid.UUID `json:"boat_id,omitempty" format:"uuid" doc:"Only in this boat"`
	TripID *uuid.UUID `json:"trip_id,omitempty" format:"uuid" doc:"Only on this trip"`
}

const mostOwn = 300

// SaveLine makes a line of the crew's own (no id), or changes one.
func (a *Wing) SaveLine(ctx context.Context, actor kernel.Actor, key, id uuid.UUID, version int,
	in OwnLineInput) (uuid.UUID, error) {
	var fs check.Faults
	fs.OneOf("stage", in.Stage, words.ListStages.Keys()...)
	fs.Text("text", strings.TrimSpace(in.Text), 1, 200)
	fs.Within("sort", float64(in.Sort), -10000, 10000)
	if err := refuse.Faulty(fs.Err()); err != nil {
		return id, err
	}
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		made, _, err := a.Once(tx, actor, key, []any{"list line", id, version, in}, func() (uuid.UUID, error) {
			if err := in.refers(tx); err != nil {
				return id, err
			}
			if n, err := store.Count[model.ListLine](tx, ""); err != nil || id == uuid.Nil && n >= mostOwn {
				return id, errors.Join(err, &refuse.Error{Kind: refuse.Refused,
					Sentence: fmt.Sprintf("There are %d lines of your own, the most that are kept.", n)})
			}
			row := model.ListLine{ID: kernel.IDOr(id), CrewID: actor.Crew, BoatID: in.BoatID, TripID: in.TripID, Stage: in.Stage,
				Text: strings.TrimSpace(in.Text), Holds: in.Holds, Sort: in.Sort, Version: version + 1}
			return row.ID, kernel.Keep(tx, &row, id, version, "line", in.Text)
		})
		id = made
		return err
	})
	return id, err
}

func (in OwnLineInput) refers(tx *store.Tx) error {
	if in.BoatID != nil {
		if err := store.Exists[model.Boat](tx, "id = ?", *in.BoatID); err != nil {
			return kernel.Absent(err, "boat")
		}
	}
	if in.TripID != nil {
		return kernel.Absent(store.Exists[model.Trip](tx, "id = ?", *in.TripID), "trip")
	}
	return nil
}

// RemoveLine takes a line of the crew's own away.
func (a *Wing) RemoveLine(ctx context.Context, actor kernel.Actor, id uuid.UUID) error {
	return a.In(ctx, actor, func(tx *store.Tx) error {
		var row model.ListLine
		if err := store.One(tx, &row, "id = ?", id); err != nil {
			return kernel.Absent(err, "line")
		}
		var s kernel.Stroke
		if err := s.Gone(tx, "id = @id", store.Args{"id": id}, "list_line"); err != nil {
			return err
		}
		if err := a.Undoable(tx, actor, kernel.ChangeGear, "“"+row.Text+"” was taken off the list.", s); err != nil {
			return err
		}
		return kernel.Absent(store.Remove[model.ListLine](tx, "id = ?", id), "line")
	})
}

// Holding are the lines that hold a trip's verdict: of the evening before and of loading
// always, of later stages once its first day has come.
func Holding(v ListsView, begun bool) (list []string) {
	early := []string{"evening", "load"}
	for _, s := range v.Stages {
		for _, l := range s.Lines {
			if l.Holds && !l.Done && (slices.Contains(early, s.Stage) || begun) {
				list = append(list, l.Text)
			}
		}
	}
	return list
}
