// Package ready is the trip's own page: its stages in the order in which crews work,
// what each waits for, and the verdict on the whole of it.
package ready

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/days"
	"ergasia/app/due"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Wing of the trip's page.
type Wing struct {
	*kernel.Kernel
	days  *days.Wing
	kits  *kits.Wing
	due   *due.Wing
	trips *trips.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, d *days.Wing, ks *kits.Wing, du *due.Wing, t *trips.Wing) *Wing {
	return &Wing{Kernel: k, days: d, kits: ks, due: du, trips: t}
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
	Light     *days.LightView  `json:"light,omitempty"`
	Kits      []kits.KitAnswer `json:"kits" doc:"That are held against it"`
	Aboard    []days.DayPerson `json:"aboard" doc:"Who come, or as many as the trip says"`
	Posts     []days.DayAt     `json:"posts"`
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
	Kg      float64   `json:"kg"`
	State   string    `json:"state" enum:"aboard,quay,carried,fetch"`
	Version int       `json:"version" doc:"Of its stowage, for a move"`
}

// Page gives a trip with its stages and verdict.
func (a *Wing) Page(ctx context.Context, actor kernel.Actor, trip uuid.UUID) (TripPage, error) {
	var s sources
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err = a.read(tx, actor, trip)
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
	actor   kernel.Actor // who looks
}

func (a *Wing) read(tx *store.Tx, actor kernel.Actor, trip uuid.UUID) (s sources, err error) {
	if s.outing, err = a.days.Load(tx, actor, trip, nil); err != nil {
		return s, err
	}
	if s.kits, err = a.kits.ForTrip(tx, s.outing.Trip); err != nil {
		return s, err
	}
	if s.goes, err = going(tx, s.outing); err != nil {
		return s, err
	}
	list, err := a.due.List(tx)
	if err != nil {
		return s, err
	}
	s.due, s.actor = list.Rows, actor
	if err := store.All(tx, &s.members, "", ""); err != nil {
		return s, fmt.Errorf("reading the crew: %w", err)
	}
	return s, nil
}

// going is what is promised to a trip, with where it is.
func going(tx *store.Tx, o *days.Outing) ([]Going, error) {
	list := []Going{}
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
		g := Going{GearID: v.ID, Name: v.Name, Where: v.Spot.Text, Kg: v.TotalKg, State: "fetch", From: v.Spot.Text, Version: rows[i].Stowage.Version}
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
	p := TripPage{TripView: trips.ViewTrip(o.Trip), Stages: []StageView{}, Lines: []VerdictLine{}, Unchecked: []string{}, Times: []TimeView{},
		Kits: append([]kits.KitAnswer{}, s.kits...), Aboard: v.People, Posts: []days.DayAt{}, Goes: s.goes}
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
	}
	p.Lines = s.lines(v)
	for _, stage := range []StageView{s.who(), s.pack(), s.stow(), s.fuel(), s.day(v)} {
		p.Stages = append(p.Stages, s.settled(stage))
	}
	s.verdict(&p)
	return p
}

// settled says whether somebody settled a stage, and what changed since.
func (s sources) settled(v StageView) StageView {
	v.Was = []string{}
	if v.State = "open"; len(v.Waits) > 0 {
		v.State = "waits"
	}
	for _, was := range s.outing.Trip.Settled {
		if was.Stage != v.Stage {
			continue
		}
		at := was.At
		v.By, v.At, v.State = s.named(was.By), &at, "settled"
		for _, said := range was.Said {
			if !slices.Contains(v.Said, said) {
				v.Was = append(v.Was, said)
			}
		}
		if len(v.Was) > 0 || len(v.Said) != len(was.Said) {
			v.State = "changed"
		}
	}
	return v
}

func (s sources) named(member uuid.UUID) string {
	if m := aboard.First(s.members, func(m model.Member) bool { return m.ID == member }); m != nil {
		return m.Name
	}
	return "somebody"
}

// who is the stage of boat, day, people and kits.
func (s sources) who() StageView {
	o := s.outing
	v := StageView{Stage: "who", Word: fmt.Sprintf("%d aboard", len(o.People)), Waits: []string{}, Said: []string{}}
	v.Said = append(v.Said, kernel.DayOf(o.Trip.StartsOn).String()+" to "+kernel.DayOf(o.Trip.EndsOn).String(),
		words.TripKinds.Label(o.Trip.Kind))
	if o.Laden == nil {
		v.Waits = append(v.Waits, "A boat.")
		v.Word = "no boat"
	} else {
		v.Said = append(v.Said, o.Laden.Boat.Name)
	}
	skipper := false
	for _, p := range o.People {
		if p.Guessed {
			continue
		}
		skipper = skipper || p.Role == "skipper"
		v.Said = append(v.Said, p.Name+", "+words.TripRoles.Label(p.Role))
	}
	if len(o.People) > 0 && o.People[0].Guessed {
		v.Waits = append(v.Waits, "Who comes.")
		v.Word = fmt.Sprintf("%d not named", len(o.People))
	} else if !skipper {
		v.Waits = append(v.Waits, "Which of them is the skipper.")
	}
	if len(s.kits) == 0 {
		v.Waits = append(v.Waits, "What for: a kit or two.")
	}
	for _, k := range s.kits {
		v.Said = append(v.Said, "kit "+k.Name)
	}
	return v
}

// missing are the lines of the trip's kits that the crew can't meet.
func (s sources) missing() (list []VerdictLine) {
	for _, k := range s.kits {
		for i, f := range k.Found {
			if f.Missing == 0 {
				continue
			}
			sentence := fmt.Sprintf("%s: %s, %d of %d missing.", kernel.Capital(k.Name), k.Lines[i].What, f.Missing, f.Wanted)
			if len(f.Because) > 0 {
				sentence += " " + kernel.Capital(strings.TrimSuffix(strings.Join(f.Because, "; "), ".")) + "."
			}
			level := "stop"
			if k.Lines[i].Nice {
				level = "caution"
			}
			list = append(list, VerdictLine{Key: "kit " + k.Name + " " + k.Lines[i].What, Stage: "pack", Level: level, Sentence: sentence})
		}
	}
	return list
}

func (s sources) pack() StageView {
	v := StageView{Stage: "pack", Waits: []string{}, Said: []string{}}
	fetch := 0
	for _, g := range s.goes {
		v.Said = append(v.Said, g.Name)
		if g.State == "fetch" {
			fetch++
			v.Waits = append(v.Waits, fmt.Sprintf("%s: %s.", kernel.Capital(g.Name), g.From))
		}
	}
	missing := s.missing()
	for _, m := range missing {
		if m.Level == "stop" {
			v.Waits = append(v.Waits, m.Sentence)
		}
	}
	switch {
	case fetch > 0:
		v.Word = fmt.Sprintf("%d to fetch", fetch)
	case len(missing) > 0:
		v.Word = fmt.Sprintf("%d missing", len(missing))
	case len(s.goes) == 0:
		v.Word = "nothing yet"
	default:
		v.Word = fmt.Sprintf("all %d here", len(s.goes))
	}
	return v
}

func (s sources) stow() StageView {
	v := StageView{Stage: "stow", Waits: []string{}, Said: []string{}, Word: "all aboard"}
	if s.outing.Laden == nil {
		v.Word = "no boat"
		return v
	}
	for _, g := range s.outing.Unstowed {
		v.Waits = append(v.Waits, fmt.Sprintf("A place for %s.", g.Name))
	}
	for _, g := range s.outing.Laden.Aboard() {
		v.Said = append(v.Said, g.Name+" in "+g.Place.Name)
	}
	if n := len(s.outing.Unstowed); n > 0 {
		v.Word = fmt.Sprintf("%d to stow", n)
	} else if n := s.outing.Moves; n > 0 {
		v.Word = fmt.Sprintf("%d to move", n)
		v.Waits = append(v.Waits, fmt.Sprintf("%d things lie otherwise now than they are to on this trip.", n))
	}
	return v
}

func (s sources) fuel() StageView {
	o := s.outing
	v := StageView{Stage: "fuel", Waits: []string{}, Said: []string{}, Word: "enough"}
	if o.Laden == nil || len(o.Fuel.Lacks) > 0 {
		v.Word = "not reckoned"
		v.Waits = append(v.Waits, o.Fuel.Lacks...)
		return v
	}
	litres := func(l float64) string {
		return fmt.Sprintf("%.0f %s", o.Laden.Units.Volume.FromSI(l), o.Laden.Units.Volume.Symbol)
	}
	r := o.Fuel.Answer
	v.Said = append(v.Said, "the way takes "+litres(r.Burn), litres(r.Reserve)+" are kept")
	add := 0.0
	for _, f := range r.Fill {
		add += f.Add
	}
	switch {
	case !r.Fits:
		v.Word = litres(r.Short) + " short"
		v.Waits = append(v.Waits, litres(r.Short)+" more than her tanks hold.")
	case add >= 0.5:
		v.Word = "fill " + litres(add)
		v.Waits = append(v.Waits, "Fill "+litres(add)+".")
	}
	return v
}

func (s sources) day(v days.DayView) StageView {
	d := StageView{Stage: "day", Waits: []string{}, Said: []string{}, Word: "not reckoned"}
	if v.Answer == nil {
		d.Waits = append(d.Waits, v.Lacks...)
		return d
	}
	if !v.Saved {
		d.Waits = append(d.Waits, "A look: it is the usual day of its kind.")
	}
	d.Word = "holds"
	broken := 0
	for _, r := range v.Answer.Readings {
		if !r.Kept {
			broken++
			d.Waits = append(d.Waits, r.Sentence)
		}
	}
	if broken > 0 {
		d.Word = fmt.Sprintf("%d wrong", broken)
	}
	for _, p := range v.Answer.Phases {
		d.Said = append(d.Said, fmt.Sprintf("%s from %s", p.Name, days.Clock(p.From)))
	}
	return d
}

// lines are the reasons of the verdict.
func (s sources) lines(v days.DayView) []VerdictLine {
	list := []VerdictLine{}
	if v.Answer != nil {
		for _, r := range v.Answer.Readings {
			one := VerdictLine{Key: "day " + r.Key, Stage: "day", Level: "ok", Sentence: r.Sentence, Limit: r.Limit, Certain: r.Certain}
			if r.Key == "fuel" {
				one.Stage = "fuel"
			}
			if !r.Kept {
				one.Level, one.Short = "stop", days.Phrase(r)
			} else if slices.Contains([]string{"open", "unlikely", "broken"}, r.Certain) {
				one.Level = "caution"
			}
			list = append(list, one)
		}
	}
	for _, lack := range v.Lacks {
		level := "caution"
		if v.Answer == nil {
			level = "stop"
		}
		list = append(list, VerdictLine{Key: "lack " + lack, Stage: "day", Level: level, Sentence: lack})
	}
	list = append(list, s.missing()...)
	list = append(list, s.fetching()...)
	list = append(list, s.runsOut()...)
	for i := range list {
		list[i].Accepted = s.accepted(list[i])
	}
	slices.SortStableFunc(list, func(a, b VerdictLine) int { return cmp.Compare(gravity[b.Level], gravity[a.Level]) })
	return list
}

var gravity = map[string]int{"ok": 0, "caution": 1, "stop": 2}

func (s sources) fetching() []VerdictLine {
	n := 0
	for _, g := range s.goes {
		if g.State == "fetch" {
			n++
		}
	}
	if n == 0 {
		return nil
	}
	return []VerdictLine{{Key: "fetch", Stage: "pack", Level: "caution", Sentence: fmt.Sprintf("%d of what goes along are not here yet.", n)}}
}

// runsOut is what goes along or is aboard, and is out of date or due for service by the
// trip's last day, or broken.
func (s sources) runsOut() (list []VerdictLine) {
	o := s.outing
	if o.Laden == nil {
		return nil
	}
	goes := map[uuid.UUID]bool{}
	for id := range o.Promised {
		goes[id] = true
	}
	for _, g := range o.Laden.Gear {
		if at := o.Laden.Stowage[g.ID]; at.BoatID != nil && *at.BoatID == o.Laden.Boat.ID {
			goes[g.ID] = true
		}
		if goes[g.ID] && g.Condition == "broken" {
			list = append(list, VerdictLine{Key: "broken " + g.ID.String(), Stage: "pack", Level: "caution",
				Sentence: kernel.Capital(g.Name) + " is broken, and goes along."})
		}
	}
	for _, r := range s.due {
		if !goes[r.GearID] || r.On == nil || r.On.At.After(o.Trip.EndsOn) || r.Kind == "return" {
			continue
		}
		said := fmt.Sprintf("%s: %s, %s.", kernel.Capital(r.Name), r.What, r.Left)
		list = append(list, VerdictLine{Key: r.Kind + " " + r.GearID.String() + r.What, Stage: "pack", Level: "caution", Sentence: said})
	}
	return list
}

func (s sources) accepted(l VerdictLine) *Accepting {
	for _, a := range s.outing.Trip.Accepted {
		if a.Key == l.Key {
			return &Accepting{By: s.named(a.By), At: a.At, Said: a.Said, Held: a.Said == l.Sentence}
		}
	}
	return nil
}

// verdict weighs the lines: what a skipper accepted, as it stands, no longer stops it.
func (s sources) verdict(p *TripPage) {
	stops, cautions, taken := 0, 0, 0
	first := ""
	for _, l := range p.Lines {
		held := l.Accepted != nil && l.Accepted.Held
		switch {
		case held && l.Level != "ok":
			taken++
		case l.Level == "stop":
			if stops++; stops == 1 {
				first = cmp.Or(l.Short, l.Sentence)
			}
		case l.Level == "caution":
			if cautions++; stops+cautions == 1 {
				first = cmp.Or(l.Short, l.Sentence)
			}
		}
	}
	p.Ready, p.Headline = "ready", "Ready, as far as was checked."
	switch {
	case stops > 0:
		p.Ready, p.Headline = "not_ready", "Not ready: "+wrong(stops, first)
	case cautions > 0:
		p.Ready, p.Headline = "cautions", "Ready, with cautions: "+wrong(cautions, first)
	case taken > 0:
		p.Ready, p.Headline = "cautions", fmt.Sprintf("Ready, with cautions: %d that a skipper accepted.", taken)
	}
	said := []string{}
	for _, l := range p.Lines {
		if l.Level != "ok" {
			said = append(said, l.Sentence)
		}
	}
	word := map[string]string{"ready": "ready", "cautions": "with cautions", "not_ready": "not ready"}[p.Ready]
	stage := s.settled(StageView{Stage: "ready", Word: word, Waits: []string{}, Said: said})
	p.Stages = append(p.Stages, stage)
}

// wrong tells the first of what is wrong, and how many more there are.
func wrong(n int, first string) string {
	if n > 1 {
		return fmt.Sprintf("%s and %d more.", strings.TrimSuffix(first, "."), n-1)
	}
	return first
}

// Settle calls a stage settled as it stands, or takes that back.
func (a *Wing) Settle(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, stage string, settled bool) (TripPage, error) {
	var s sources
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"settle", trip, stage, settled}, func() (uuid.UUID, error) {
			before, err := a.read(tx, actor, trip)
			if err != nil {
				return trip, err
			}
			page := before.page(func() bool { return ctx.Err() != nil })
			now := aboard.First(page.Stages, func(v StageView) bool { return v.Stage == stage })
			if now == nil {
				return trip, refuse.Missing("stage")
			}
			return trip, change(tx, trip, func(t *model.Trip) {
				t.Settled = slices.DeleteFunc(slices.Clone(t.Settled), func(v model.Settled) bool { return v.Stage == stage })
				if settled {
					t.Settled = append(t.Settled, model.Settled{Stage: stage, Said: now.Said, By: actor.Member, At: a.Now()})
				}
			})
		})
		if err != nil {
			return err
		}
		s, err = a.read(tx, actor, trip)
		return err
	})
	if err != nil {
		return TripPage{}, err
	}
	return s.page(func() bool { return ctx.Err() != nil }), ctx.Err()
}

// Accept takes a line of the verdict upon the actor, as it says, or takes that back.
func (a *Wing) Accept(ctx context.Context, actor kernel.Actor, key, trip uuid.UUID, line, said string, accepted bool) (TripPage, error) {
	var s sources
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		_, _, err := a.Once(tx, actor, key, []any{"accept-line", trip, line, said, accepted}, func() (uuid.UUID, error) {
			before, err := a.read(tx, actor, trip)
			if err != nil {
				return trip, err
			}
			page := before.page(func() bool { return ctx.Err() != nil })
			now := aboard.First(page.Lines, func(l VerdictLine) bool { return l.Key == line })
			if accepted && (now == nil || now.Sentence != said) {
				return trip, &refuse.Error{Kind: refuse.Refused, Sentence: "That line says something else now: read it again before you accept it."}
			}
			return trip, change(tx, trip, func(t *model.Trip) {
				t.Accepted = slices.DeleteFunc(slices.Clone(t.Accepted), func(v model.Accepted) bool { return v.Key == line })
				if accepted {
					t.Accepted = append(t.Accepted, model.Accepted{Key: line, Said: said, By: actor.Member, At: a.Now()})
				}
			})
		})
		if err != nil {
			return err
		}
		s, err = a.read(tx, actor, trip)
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
