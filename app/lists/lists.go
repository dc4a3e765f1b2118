package lists

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"ergasia/app/days"
	"ergasia/app/due"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/safety"
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
		check, err := a.safe.Of(ctx, tx, actor, o)
		if err != nil {
			return err
		}
		due, err := a.due.List(tx, actor)
		if err != nil {
			return err
		}
		out, err = Of(tx, o, check, due.Rows)
		return err
	})
	return out, err
}

// Of is Lists of a trip that is loaded, with the check of it and what is due.
func Of(tx *store.Tx, o *days.Outing, check safety.CheckView, rows []due.DueRow) (ListsView, error) {
	s, err := read(tx, sources{outing: o, check: check, due: rows})
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

// read adds what else lists are made from.
func read(tx *store.Tx, s sources) (_ sources, err error) {
	o := s.outing
	if o.Trip.BoatID != nil {
		if s.jobs, err = jobs.Open(tx, *o.Trip.BoatID); err != nil {
			return s, err
		}
	}
	if err := store.All(tx, &s.own, "sort, id", ""); err != nil {
		return s, fmt.Errorf("reading the crew's own lines: %w", err)
	}
	s.own = ofTrip(s.own, o.Trip.BoatID, o.Trip.ID)
	if err := store.All(tx, &s.chargers, "id", "charges <> ''"); err != nil {
		return s, fmt.Errorf("reading the crew's chargers: %w", err)
	}
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
		if held != nil &&
			slices.ContainsFunc(
				o.People,
				func(p days.Person) bool { return p.MemberID != nil && *p.MemberID == *held },
			) {
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
func (v *ListsView) fill(
	lines []line,
	ticks map[string]model.Tick,
	names map[uuid.UUID]string,
	forgotten map[string]bool,
) {
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
var phaseOf = map[string][]string{
	"load":    {"load"},
	"road":    {"road"},
	"ramp":    {"launch"},
	"off":     {"run", "bait", "fish"},
	"anchor":  {"anchor", "sleep"},
	"recover": {"recover"},
}

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
