package days

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/day"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Remedies are single changes that help a day, the best first, each carried through all
// of it.
type Remedies struct {
	List     []Remedy `json:"list"`
	Tried    int      `json:"tried" doc:"How many single changes were tried"`
	Together string   `json:"together,omitempty" doc:"Where no single one holds every limit: two that do"`
}

// Remedy is a change with what it does. One of plan, ashore, move, fuel and wire says how
// it is made.
type Remedy struct {
	For    string            `json:"for" enum:"swamps,awash,freeboard,heel,bow_down,stern_down,plate,fuel,ice,power,start,well,dark" doc:"What it helps against most"`
	Kind   string            `json:"kind" enum:"post,move,ashore,tank,catch,fuel,earlier,ice,power,wire"`
	Say    string            `json:"say"`
	Effect []string          `json:"effect"`
	Holds  bool              `json:"holds" doc:"Every limit holds with it"`
	Plan   *model.DayPlan    `json:"plan,omitempty" doc:"The day with it"`
	Ashore *uuid.UUID        `json:"ashore,omitempty" format:"uuid" doc:"Gear that stays ashore"`
	Move   *aboard.MoveInput `json:"move,omitempty" doc:"Gear that goes elsewhere aboard"`
	Fuel   *model.FuelPlan   `json:"fuel,omitempty" doc:"The trip's fuel with it"`
	Wire   string            `json:"wire,omitempty" doc:"Key of a circuit that hangs elsewhere with it"`
}

// change is something that might be done otherwise.
type change struct {
	Remedy
	about string // whom or what it is about: few are told of each
	apply day.Change
}

const (
	mostForOne    = 4    // told against one thing that is wrong
	mostOfOne     = 2    // told of one person or thing against it
	leastShare    = 0.08 // of what is wrong: what helps less is not worth a word
	mostChanges   = 700  // tried
	leastMovedKg  = 2.5  // what is lighter moves her by less than a hand can see
	leastAshoreKg = 0.8
)

// Remedies tries single changes of a plan through the whole day.
func (a *Wing) Remedies(ctx context.Context, actor kernel.Actor, trip uuid.UUID, plan model.DayPlan) (Remedies, error) {
	r := Remedies{List: []Remedy{}}
	if err := checkPlan(plan); err != nil {
		return r, err
	}
	done, err := a.turns.Take(ctx, actor.Crew)
	if err != nil {
		return r, fmt.Errorf("waiting for a turn: %w", err)
	}
	defer done()
	var o *Outing
	err = a.In(ctx, actor, func(tx *store.Tx) (err error) {
		o, err = a.Load(tx, actor, trip, &plan)
		return err
	})
	if err != nil {
		return r, err
	}
	if o.Laden == nil {
		return r, errNoBoat
	}
	stop := func() bool { return ctx.Err() != nil }
	o.Laden.Stop = stop
	r = o.remedies(stop)
	return r, ctx.Err()
}

func (o *Outing) remedies(stop func() bool) Remedies {
	r := Remedies{List: []Remedy{}}
	d, limits := o.Day(), o.Limits()
	if d.Check() != nil {
		return r
	}
	base := limits.Read(d, d.Moments(0, stop))
	changes := o.changes(d, base)
	r.Tried = len(changes)
	apply := make([]day.Change, len(changes))
	for i, c := range changes {
		apply[i] = c.apply
	}
	told := map[string]int{}
	var kept []day.Tried
	for _, t := range limits.Try(d, apply, stop) {
		c := changes[t.Change]
		against, enough := helpsAgainst(base, t.Readings)
		about := string(against) + c.about
		if !enough || told[string(against)] == mostForOne || told[about] == mostOfOne || stop() {
			continue
		}
		if c.Move != nil && !o.really(&c, &t, limits, stop) {
			continue
		}
		one := c.Remedy
		one.For, one.Effect, one.Holds = string(against), o.effect(base, t.Readings), day.Cost(t.Readings) <= 0
		if len(one.Effect) == 0 {
			continue
		}
		told[string(against)]++
		told[about]++
		r.List, kept = append(r.List, one), append(kept, t)
	}
	slices.SortStableFunc(r.List, func(a, b Remedy) int { return cmp.Compare(rank(base, a.For), rank(base, b.For)) })
	lasting, tried := o.lasting(stop)
	r.Tried += tried
	r.List = append(r.List, lasting...)
	if early, ok := o.earlier(); ok {
		r.Tried++
		r.List = append(r.List, early)
	}
	r.Together = o.together(d, limits, changes, kept, r.List, stop)
	return r
}

// rank is how grave what a remedy is for is: the readings are in that order.
func rank(base []day.Reading, key string) int {
	return slices.IndexFunc(base, func(r day.Reading) bool { return string(r.Key) == key })
}

// helpsAgainst is what a change lowers most, by share of what was wrong, and whether that
// is worth a word.
func helpsAgainst(base, with []day.Reading) (key day.Key, enough bool) {
	most := leastShare
	for _, b := range base {
		w, ok := day.Find(with, b.Key)
		if b.Kept() || !ok {
			continue
		}
		if share := (b.Excess - max(0, w.Excess)) / b.Excess; share >= most {
			key, most, enough = b.Key, share, true
		}
	}
	return key, enough
}

// really makes a move as a hand would: where the rules refuse it, it is none; else it is
// reckoned with where the thing then lies.
func (o *Outing) really(c *change, t *day.Tried, limits day.Limits, stop func() bool) bool {
	boat := o.Laden.Boat.ID
	to := model.Whereabouts{Kind: "boat", BoatID: &boat, PlaceID: c.Move.PlaceID}
	e, refusals, err := o.Laden.Try(*c.Move, to)
	if err != nil || len(refusals) > 0 {
		return false
	}
	other := *o
	other.Laden = o.Laden.Moved(e, to)
	d := other.Day()
	was := t.Cost
	t.Readings = limits.Read(d, d.Moments(0, stop))
	t.Cost = day.Cost(t.Readings)
	return t.Cost <= was*1.2+0.2 // where it came to lie otherwise than thought, another may be better
}

// together looks whether two of the best hold every limit where none does alone.
func (o *Outing) together(
	d day.Day,
	limits day.Limits,
	changes []change,
	kept []day.Tried,
	told []Remedy,
	stop func() bool,
) string {
	const best = 6
	if slices.ContainsFunc(told, func(r Remedy) bool { return r.Holds }) {
		return ""
	}
	kept = kept[:min(len(kept), best)]
	for i := range kept {
		for j := range i {
			a, b := changes[kept[i].Change], changes[kept[j].Change]
			if a.about == b.about || stop() {
				continue
			}
			both := b.apply(a.apply(d))
			if day.Cost(limits.Read(both, both.Moments(0, stop))) <= 0 && !stop() {
				return fmt.Sprintf("Every limit holds with these two together: %s; %s.", b.Say, a.Say)
			}
		}
	}
	return ""
}

// effect says what of the day is better and what is worse.
func (o *Outing) effect(base, with []day.Reading) []string {
	list := []string{}
	for _, b := range base {
		w, ok := day.Find(with, b.Key)
		if !ok {
			continue
		}
		less := b.Excess - w.Excess // of what is wrong
		s := o.Laden
		switch b.Key {
		case day.Freeboard:
			if math.Abs(less) >= 0.0015 {
				list = append(list, fmt.Sprintf("%s%s at the lowest", signed(less), s.Small(math.Abs(less))))
			}
		case day.Awash:
			if b.Excess > 0 && w.Excess <= 0 {
				list = append(list, "the deck drains")
			}
		case day.Swamps:
			if b.Excess > 0 && w.Excess <= 0 {
				list = append(list, "no water comes in")
			}
		case day.Heel:
			if (b.Excess > 0 || w.Excess > 0) && math.Abs(less) >= 0.05 {
				list = append(list, fmt.Sprintf("%.1f° %s heel", math.Abs(less), lessMore(less)))
			}
		case day.BowDown:
			if (b.Excess > 0 || w.Excess > 0) && math.Abs(less) >= 0.05 {
				list = append(list, fmt.Sprintf("%.1f° %s by the bow", math.Abs(less), lessMore(less)))
			}
		case day.SternDown:
			if (b.Excess > 0 || w.Excess > 0) && math.Abs(less) >= 0.05 {
				list = append(list, fmt.Sprintf("%.1f° %s by the stern", math.Abs(less), lessMore(less)))
			}
		case day.Loaded:
			if math.Abs(less) >= 0.5 {
				list = append(list, fmt.Sprintf("%s %s against the plate", s.MassText(math.Abs(less)), lessMore(less)))
			}
		case day.Fuel:
			if v := s.Units.Volume; math.Abs(less) >= 0.3 {
				list = append(list, fmt.Sprintf("%s%.1f %s kept", signed(less), v.FromSI(math.Abs(less)), v.Symbol))
			}
		case day.Ice:
			if math.Abs(less) >= 0.5 {
				list = append(list, fmt.Sprintf("%s%s of ice left", signed(less), s.MassText(math.Abs(less))))
			}
		}
	}
	return list
}

func signed(v float64) string {
	if v < 0 {
		return "−"
	}
	return "+"
}

func lessMore(less float64) string {
	if less < 0 {
		return "more"
	}
	return "less"
}

// earlier begins the day so much earlier that she is back before dark.
func (o *Outing) earlier() (Remedy, bool) {
	light := o.light()
	if light == nil {
		return Remedy{}, false
	}
	begins := o.Begins()
	phases := make([]PhaseView, len(o.Plan.Phases))
	for i, p := range o.Plan.Phases {
		phases[i] = PhaseView{Kind: p.Kind, Ashore: slices.Contains(ashore, p.Kind), From: begins[i], To: begins[i+1]}
	}
	dark, ok := o.dark(*light, phases, nil)
	if !ok || dark.Kept {
		return Remedy{}, false
	}
	late := 0.0
	for _, p := range phases {
		if !p.Ashore && p.Kind != "recover" {
			late = p.To - *light.Set
		}
	}
	sooner := math.Ceil(late/15) * 15
	plan := o.Plan
	plan.At -= int(sooner)
	return Remedy{
		For:    "dark",
		Kind:   "earlier",
		Say:    fmt.Sprintf("Begin %s earlier, at %s", span(sooner/60), Clock(begins[0]-sooner)),
		Effect: []string{fmt.Sprintf("back %s before sunset", span((sooner-late)/60))},
		Plan:   &plan,
		Holds: !slices.ContainsFunc(
			o.Limits().Read(o.Day(), o.Day().Moments(0, nil)),
			func(r day.Reading) bool { return !r.Kept() },
		),
	}, true
}
