// Package ready is the trip's own page: its stages in the order in which crews work,
// what each waits for, and the verdict on the whole of it.
package ready

import (
	"context"
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/due"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/lists"
	"ergasia/app/refuse"
	"ergasia/app/safety"
	"ergasia/app/trips"
	"ergasia/core/units"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Wing of the trip's page.
type Wing struct {
	*kernel.Kernel
	days *days.Wing
	kits *kits.Wing
	due  *due.Wing
	safe *safety.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, d *days.Wing, ks *kits.Wing, du *due.Wing, s *safety.Wing) *Wing {
	return &Wing{Kernel: k, days: d, kits: ks, due: du, safe: s}
}

// TripPage is a trip with how far it is.
type TripPage struct {
	trips.TripView
	Boat      string           `json:"boat,omitempty"`
	Stages    []StageView      `json:"stages"`
	Ready     string           `json:"ready" enum:"ready,cautions,not_ready"`
	Headline  string           `json:"headline"`
	Lines     []VerdictLine    `json:"lines" doc:"What the verdict rests on, the gravest first"`
	Unchecked []string         `json:"unchecked"`
	Times     []TimeView       `json:"times" doc:"When each phase begins"`
	Marks     []model.DayMark  `json:"marks" doc:"Times that the crew knows: tides, a weigh-in"`
	Light     *days.LightView  `json:"light,omitempty"`
	Kits      []kits.KitAnswer `json:"kits" doc:"That are held against it"`
	Aboard    []days.DayPerson `json:"aboard" doc:"Who come, or as many as the trip says"`
	Posts     []days.DayAt     `json:"posts"`
	Ran       float64          `json:"ran_h" doc:"Hours that its day has, where one was kept; else those that the trip was made with"`
	StowedID  *uuid.UUID       `json:"stowed_id,omitempty" format:"uuid" doc:"The arrangement that she is to be stowed in for it"`
	Goes      []Going          `json:"goes" doc:"What is promised to it, and where that is"`
}

// TimeView is when a phase begins, minutes after midnight of the first day.
type TimeView struct {
	Name string  `json:"name"`
	From float64 `json:"from_min"`
	To   float64 `json:"to_min"`
}

// StageView is a stage of a trip and what it waits for.
type StageView struct {
	Stage string     `json:"stage" words:"stages"`
	State string     `json:"state" enum:"open,waits,settled,changed" doc:"waits: something is missing; changed: since it was settled"`
	Word  string     `json:"word"`
	Waits []string   `json:"waits"`
	Said  []string   `json:"said" doc:"What stands now"`
	Was   []string   `json:"was" doc:"What stood when it was settled, and no longer does"`
	By    string     `json:"by,omitempty"`
	At    *time.Time `json:"at,omitempty"`
}

// VerdictLine is one reason of the verdict.
type VerdictLine struct {
	Key      string     `json:"key"`
	Stage    string     `json:"stage" words:"stages"`
	Level    string     `json:"level" enum:"ok,caution,stop"`
	Sentence string     `json:"sentence"`
	Short    string     `json:"short,omitempty" doc:"As a headline has it"`
	Limit    string     `json:"limit,omitempty"`
	Certain  string     `json:"certain,omitempty" enum:"sure,likely,open,unlikely,broken"`
	Accepted *Accepting `json:"accepted,omitempty"`
}

// Accepting is who took a line upon them, and what it said then.
type Accepting struct {
	By   string    `json:"by"`
	At   time.Time `json:"at"`
	Said string    `json:"said"`
	Held bool      `json:"held" doc:"It says the same still; else it is to be looked at again"`
}

// Going is gear that goes along, where it is, and who or which place ashore has it.
type Going struct {
	GearID  uuid.UUID `json:"gear_id" format:"uuid"`
	Name    string    `json:"name"`
	Where   string    `json:"where"`
	From    string    `json:"from" doc:"What it is fetched from: a place ashore, a person, another boat; empty where it need not be"`
	Owner   string    `json:"owner,omitempty"`
	Kg      float64   `json:"kg"`
	State   string    `json:"state" enum:"aboard,quay,carried,fetch"`
	Version int       `json:"version" doc:"Of its stowage, for a move"`
}

// Page gives a trip with its stages and verdict.
func (a *Wing) Page(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (TripPage, error) {
	var s sources
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.read(ctx, tx, actor, trip)
		return err
	})
	if err != nil {
		return TripPage{}, err
	}
	return s.page(func() bool { return ctx.Err() != nil }), ctx.Err()
}

// sources is what a page is made of.
type sources struct {
	outing  *days.Outing
	kits    []kits.KitAnswer
	goes    []Going
	due     []due.DueRow
	members []model.Member
	safe    safety.CheckView // what must be aboard
	lists   lists.ListsView
	jobs    []model.Job // of the boat, that are not done
	today   time.Time
	actor   kernel.Actor // who looks
	units   units.System // in which
}

func (a *Wing) read(ctx context.Context, tx *store.Tx, actor kernel.Actor, trip uuid.UUID) (s sources, err error) {
	if s.outing, err = a.days.Load(tx, actor, trip, nil); err != nil {
		return s, err
	}
	if s.kits, err = a.kits.ForTrip(tx, s.outing.Trip); err != nil {
		return s, err
	}
	list, err := a.due.List(tx, actor)
	if err != nil {
		return s, err
	}
	s.due, s.actor, s.units = list.Rows, actor, units.SystemNamed(actor.Units)
	if err := store.All(tx, &s.members, "", ""); err != nil {
		return s, fmt.Errorf("reading the crew: %w", err)
	}
	if s.safe, err = a.safe.Of(ctx, tx, actor, s.outing); err != nil {
		return s, err
	}
	if s.lists, err = lists.Of(tx, s.outing, s.safe, s.due); err != nil {
		return s, err
	}
	if id := s.outing.Trip.BoatID; id != nil {
		if s.jobs, err = jobs.Open(tx, *id); err != nil {
			return s, err
		}
	}
	s.today = a.Today()
	s.goes, err = s.going(tx)
	return s, err
}

// going is what is promised to a trip, with where it is.
func (s sources) going(tx *store.Tx) ([]Going, error) {
	list, o := []Going{}, s.outing
	rows, err := gear.Rows(tx, `JOIN booking b ON b.crew_id = gear.crew_id AND b.gear_id = gear.id AND b.trip_id = @trip
		WHERE gear.crew_id = @crew ORDER BY gear.sort_name, gear.id`, store.Args{"trip": o.Trip.ID})
	if err != nil {
		return nil, err
	}
	views, err := gear.ViewRows(tx, rows)
	comes := map[uuid.UUID]bool{}
	for _, p := range o.People {
		if p.MemberID != nil {
			comes[*p.MemberID] = true
		}
	}
	for i, v := range views {
		g := Going{
			GearID:  v.ID,
			Name:    v.Name,
			Where:   v.Spot.Text,
			Kg:      v.TotalKg,
			State:   "fetch",
			From:    v.Spot.Text,
			Version: rows[i].Stowage.Version,
		}
		if id := rows[i].OwnerID; id != nil {
			g.Owner = s.named(*id)
		}
		at := rows[i].Stowage
		switch {
		case at.BoatID != nil && o.Trip.BoatID != nil && *at.BoatID == *o.Trip.BoatID:
			g.State, g.From = "aboard", ""
		case at.Kind == "quay":
			g.State, g.From = "quay", ""
		case at.HeldBy != nil && comes[*at.HeldBy]:
			g.State, g.From = "carried", ""
		}
		list = append(list, g)
	}
	return list, err
}

func (s sources) page(stop func() bool) TripPage {
	o := s.outing
	v := o.View(stop)
	p := TripPage{
		TripView:  trips.ViewTrip(o.Trip),
		Stages:    []StageView{},
		Lines:     []VerdictLine{},
		Unchecked: []string{},
		Times:     []TimeView{},
		Marks:     []model.DayMark{},
		Kits:      append([]kits.KitAnswer{}, s.kits...),
		Aboard:    v.People,
		Posts:     []days.DayAt{},
		Ran:       o.Ran(),
		Goes:      s.goes,
	}
	p.Promised, p.People = len(s.goes), trips.SeenBy(s.actor, p.People)
	if o.Stowed != nil {
		p.StowedID = &o.Stowed.ID
	}
	if v.Boat != nil {
		p.Boat, p.Posts = v.Boat.Name, v.Boat.Posts
	}
	if a := v.Answer; a != nil {
		p.Unchecked, p.Light = a.Unchecked, a.Light
		for _, ph := range a.Phases {
			p.Times = append(p.Times, TimeView{Name: ph.Name, From: ph.From, To: ph.To})
		}
		p.Marks = append(p.Marks, o.Plan.Marks...)
	}
	p.Lines = s.lines(v)
	for _, stage := range []StageView{s.who(), s.pack(), s.stow(), s.fuel(), s.day(v)} {
		p.Stages = append(p.Stages, s.settled(stage))
	}
	s.verdict(&p)
	return p
}

// Settle calls a stage settled as it stands, or takes that back.
func (a *Wing) Settle(
	ctx context.Context,
	actor kernel.Actor,
	key, trip uuid.UUID,
	stage string,
	settled bool,
) (TripPage, error) {
	var s sources
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"settle", trip, stage, settled}, func() (uuid.UUID, error) {
			before, err := a.read(ctx, tx, actor, trip)
			if err != nil {
				return trip, err
			}
			page := before.page(func() bool { return ctx.Err() != nil })
			now := aboard.First(page.Stages, func(v StageView) bool { return v.Stage == stage })
			if now == nil {
				return trip, refuse.Missing("stage")
			}
			return trip, change(tx, trip, func(t *model.Trip) {
				t.Settled = slices.DeleteFunc(
					slices.Clone(t.Settled),
					func(v model.Settled) bool { return v.Stage == stage },
				)
				if settled {
					t.Settled = append(
						t.Settled,
						model.Settled{Stage: stage, Said: now.Said, By: actor.Member, At: a.Now()},
					)
				}
			})
		})
		if err != nil {
			return err
		}
		s, err = a.read(ctx, tx, actor, trip)
		return err
	})
	if err != nil {
		return TripPage{}, err
	}
	return s.page(func() bool { return ctx.Err() != nil }), ctx.Err()
}

// Accept takes a line of the verdict upon the actor, as it says, or takes that back.
func (a *Wing) Accept(
	ctx context.Context,
	actor kernel.Actor,
	key, trip uuid.UUID,
	line, said string,
	accepted bool,
) (TripPage, error) {
	var s sources
	err := a.Write(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(
			tx,
			actor,
			key,
			[]any{"accept-line", trip, line, said, accepted},
			func() (uuid.UUID, error) {
				before, err := a.read(ctx, tx, actor, trip)
				if err != nil {
					return trip, err
				}
				page := before.page(func() bool { return ctx.Err() != nil })
				now := aboard.First(page.Lines, func(l VerdictLine) bool { return l.Key == line })
				if accepted && (now == nil || now.Sentence != said) {
					return trip, &refuse.Error{
						Kind:     refuse.Refused,
						Sentence: "That line says something else now: read it again before you accept it.",
					}
				}
				return trip, change(tx, trip, func(t *model.Trip) {
					t.Accepted = slices.DeleteFunc(
						slices.Clone(t.Accepted),
						func(v model.Accepted) bool { return v.Key == line },
					)
					if accepted {
						t.Accepted = append(
							t.Accepted,
							model.Accepted{Key: line, Said: said, By: actor.Member, At: a.Now()},
						)
					}
				})
			},
		)
		if err != nil {
			return err
		}
		s, err = a.read(ctx, tx, actor, trip)
		return err
	})
	if err != nil {
		return TripPage{}, err
	}
	return s.page(func() bool { return ctx.Err() != nil }), ctx.Err()
}

// change writes a trip that may still be changed, over what it is now: settling and
// accepting touch nothing that somebody else may be writing.
func change(tx *store.Tx, trip uuid.UUID, edit func(*model.Trip)) error {
	t, err := trips.Open(tx, trip)
	if err != nil {
		return err
	}
	version := t.Version
	edit(&t)
	t.Version++
	return kernel.Keep(tx, &t, trip, version, "trip", t.Name)
}
