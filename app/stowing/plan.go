package stowing

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/where"
	"ergasia/core/check"
	"ergasia/core/stow"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Weights say what a plan is to be good at; each in seconds a day.
type Weights struct {
	Kit     float64 `json:"kit_s" doc:"For each further place over which the things of a kit are spread"`
	Owner   float64 `json:"owner_s" doc:"The same for the things of one owner"`
	Stay    float64 `json:"stay_s" doc:"For each thing that goes elsewhere than where people know it"`
	Level   float64 `json:"level_s" doc:"For each degree of heel, and for half a degree of trim off the target"`
	LowDown float64 `json:"low_down_s" doc:"For ten kilograms, a metre higher"`
}

// Schools of stowing, as weights. Practice, no source: crews differ, and each
// weight can be changed.
var Schools = map[string]Weights{
	"use":       {Kit: 4, Owner: 0, Stay: 2, Level: 20, LowDown: 4},
	"technique": {Kit: 40, Owner: 0, Stay: 2, Level: 20, LowDown: 4},
	"owner":     {Kit: 0, Owner: 60, Stay: 2, Level: 20, LowDown: 4},
	"balance":   {Kit: 2, Owner: 0, Stay: 1, Level: 150, LowDown: 20},
}

// PlanInput asks for a plan.
type PlanInput struct {
	School  string      `json:"school" words:"schools"`
	Weights *Weights    `json:"weights,omitempty" doc:"Instead of the school's"`
	Quay    bool        `json:"quay,omitempty" doc:"What is on the quay goes aboard too"`
	Left    bool        `json:"left,omitempty" doc:"She is left alone: what is tagged lock goes only into places that lock"`
	Rods    bool        `json:"rods,omitempty" doc:"Only rods are planned; all else stays"`
	Pinned  []uuid.UUID `json:"pinned,omitempty" maxItems:"500" doc:"Gear that stays where it is"`
	Seed    int         `json:"seed,omitempty" doc:"Another one looks elsewhere"`
	From    []Put       `json:"from,omitempty" maxItems:"1000" doc:"A plan to better, such as the one found before"`
}

// Put is a thing in a place, or on the quay.
type Put struct {
	GearID  uuid.UUID  `json:"gear_id" format:"uuid"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid"`
}

func (in PlanInput) check() error {
	var fs check.Faults
	fs.OneOf("school", in.School, words.Schools.Keys()...)
	if w := in.Weights; w != nil {
		for _, v := range []struct {
			name string
			s    float64
		}{{"kit_s", w.Kit}, {"owner_s", w.Owner}, {"stay_s", w.Stay}, {"level_s", w.Level}, {"low_down_s", w.LowDown}} {
			fs.Within("weights."+v.name, v.s, 0, 3600)
		}
	}
	fs.Within("seed", float64(in.Seed), 0, 1e9)
	return refuse.Faulty(fs.Err())
}

// PlannedMove is a step on the way to a plan.
type PlannedMove struct {
	GearID  uuid.UUID  `json:"gear_id" format:"uuid"`
	Name    string     `json:"name"`
	Version int        `json:"version" doc:"Of its stowage, for accepting"`
	From    string     `json:"from"`
	PlaceID *uuid.UUID `json:"place_id,omitempty" format:"uuid" doc:"No place, box or place ashore: to the quay"`
	BoxID   *uuid.UUID `json:"box_id,omitempty" format:"uuid"`
	ShedID  *uuid.UUID `json:"shed_id,omitempty" format:"uuid"`
	Anyway  bool       `json:"anyway,omitempty" doc:"It lay there though a rule said no"`
	To      string     `json:"to"`
	Waits   bool       `json:"waits,omitempty" doc:"Only for a while: it is in the way there"`
	Why     string     `json:"why"`
}

// LeftOut is a thing that the plan found no place for.
type LeftOut struct {
	GearID uuid.UUID `json:"gear_id" format:"uuid"`
	Name   string    `json:"name"`
	Why    string    `json:"why"`
}

// PlanView is a plan beside how it is now.
type PlanView struct {
	Now        aboard.Figures  `json:"now"`
	Then       aboard.Figures  `json:"then"`
	Moves      []PlannedMove   `json:"moves" doc:"In an order in which each finds room"`
	LeftOut    []LeftOut       `json:"left_out"`
	Loading    []LoadedPlace   `json:"loading" doc:"How she is loaded from empty: places in order, and what goes into each, first things first"`
	Clash      []string        `json:"clash" doc:"Rules that can't all be kept, none of which can be left out"`
	ClashLeast bool            `json:"clash_least" doc:"None of those rules can be left out, as was shown"`
	Stowage    []aboard.Stowed `json:"stowage" doc:"As the plan has it"`
	Cost       float64         `json:"cost_s" doc:"Seconds a day that the search counted, with what its weights ask"`
	Bound      float64         `json:"bound_s" doc:"No plan that leaves out as few is under it"`
	Better     float64         `json:"better_min" doc:"Minutes a day that any other plan could save at most"`
	StoppedBy  string          `json:"stopped_by" enum:"proved,steps,deadline"`
	Planned    int             `json:"planned" doc:"Things that could be moved"`
	Puts       []Put           `json:"puts" doc:"The plan itself, to be bettered"`
}

// How long one answer looks. The first is wanted at once; those that better a
// plan may take their time, well under a second.
const (
	firstSteps = 120_000
	planSteps  = 800_000

	longestFirst  = 1500 * time.Millisecond // where there are very many things
	longestLook   = 3 * time.Second
	longestReason = time.Second
)

// Plan looks for a better stowage. Nothing is changed. ctx ends it sooner.
func (a *Wing) Plan(ctx context.Context, actor kernel.Actor, boat uuid.UUID, in PlanInput) (PlanView, error) {
	if err := in.check(); err != nil {
		return PlanView{}, err
	}
	var p *planner
	err := a.In(ctx, actor, func(tx *store.Tx) (err error) {
		s, err := a.where.Laden(tx, actor, boat)
		if err != nil {
			return err
		}
		p, err = newPlanner(tx, actor, s, in)
		return err
	})
	if err != nil {
		return PlanView{}, err
	}
	done, err := a.planning.Take(ctx, actor.Crew)
	if err != nil {
		return PlanView{}, err
	}
	defer done()
	p.Stop = func() bool { return ctx.Err() != nil }
	view, err := p.plan(ctx, in)
	return view, cmp.Or(ctx.Err(), err)
}

func (p *planner) plan(ctx context.Context, in PlanInput) (PlanView, error) {
	steps, longest := firstSteps, longestFirst
	if len(in.From) > 0 {
		steps, longest = planSteps, longestLook
	}
	looking, stop := context.WithTimeout(ctx, longest)
	defer stop()
	plan, err := stow.Solve(looking, p.problem, stow.Options{Seed: uint64(in.Seed), Steps: steps, Start: p.start, Unlaid: true})
	if err != nil {
		return PlanView{}, refuse.Faulty(err)
	}
	next := p.Branch()
	v := PlanView{Moves: []PlannedMove{}, LeftOut: []LeftOut{}, Clash: []string{}, Stowage: []aboard.Stowed{},
		Cost: plan.Seconds, Bound: plan.LowerBound,
		Better: max(0, plan.Seconds-plan.LowerBound) / 60, StoppedBy: string(plan.StoppedBy), Planned: len(p.things)}
	var left []int
	for i, g := range p.things {
		to := model.Whereabouts{Kind: "quay"}
		put := Put{GearID: g.ID}
		if at := plan.At[i]; len(at) > 0 {
			place := p.Laden.Places[at[0]].ID
			to, put.PlaceID = model.Whereabouts{Kind: "boat", BoatID: &p.Boat.ID, PlaceID: &place}, &place
			if was := p.Stowage[g.ID]; was.PlaceID != nil && *was.PlaceID == place {
				to.Laid = was.Laid
			}
		} else {
			left = append(left, i)
		}
		v.Puts = append(v.Puts, put)
		next.Carry(g.ID, to)
	}
	p.next = next
	p.explain(ctx, &v, plan, left)
	v.Now, v.Then = p.Figures(), next.Figures()
	for _, g := range p.things {
		v.Stowage = append(v.Stowage, next.Stowed(g, nil))
	}
	v.Loading = laden{Laden: next}.loading()
	v.Moves = p.moves(next)
	return v, nil
}

// explain says why things were left out, as far as there is time for it.
func (p *planner) explain(ctx context.Context, v *PlanView, plan stow.Plan, left []int) {
	if len(left) == 0 {
		return
	}
	ctx, stop := context.WithTimeout(ctx, longestReason)
	defer stop()
	for k, why := range plan.Why(ctx, p.problem, left, p.Units) {
		g := p.things[left[k]]
		v.LeftOut = append(v.LeftOut, LeftOut{GearID: g.ID, Name: g.Name, Why: why})
	}
	rules, least := p.problem.Clash(ctx, p.Units)
	for _, r := range rules {
		v.Clash = append(v.Clash, r.Sentence)
	}
	v.ClashLeast = least
}

// LoadedPlace is a place and what goes into it, in the order in which it can be
// laid from above.
type LoadedPlace struct {
	Place string   `json:"place"`
	Names []string `json:"names"`
}

// loading is the order in which an empty boat is loaded: low places before those
// that may stand on their lids, and in each from the floor up.
func (s laden) loading() []LoadedPlace {
	order := slices.Clone(s.Places)
	slices.SortStableFunc(order, func(a, b model.Place) int { return cmp.Compare(a.Z+a.Height, b.Z+b.Height) })
	list := []LoadedPlace{}
	for _, p := range order {
		one := LoadedPlace{Place: p.Name, Names: []string{}}
		seen := map[uuid.UUID]bool{}
		for _, l := range s.LiesIn(p.ID) { // from the floor up
			g := s.Thing(l.Gear)
			if seen[g.ID] {
				continue
			}
			seen[g.ID] = true
			name := g.Name
			if g.Count > 1 {
				name = fmt.Sprintf("%s × %d", name, g.Count)
			}
			one.Names = append(one.Names, name)
		}
		if len(one.Names) > 0 {
			list = append(list, one)
		}
	}
	return list
}

// moves puts what changes places in an order that finds room, with the reason of each.
func (p *planner) moves(next *aboard.Laden) []PlannedMove {
	name := func(j int) string {
		if j == stow.Quay {
			return "the quay"
		}
		return p.Laden.Places[j].Name
	}
	list := []PlannedMove{}
	version := map[uuid.UUID]int{}
	for _, s := range inOrder(p.Laden, next, p.things) {
		g := *p.Thing(uuid.MustParse(s.Piece.ID))
		target := placeIndex(next, next.Stowage[g.ID])
		m := PlannedMove{GearID: g.ID, Name: g.Name, Version: p.Stowage[g.ID].Version + version[g.ID], From: name(s.From),
			To: name(s.To), Waits: s.To != target}
		version[g.ID]++
		if s.To != stow.Quay {
			m.PlaceID = &p.Laden.Places[s.To].ID
		}
		m.Why = p.why(g, m.Waits, p.Rummage(), next.Rummage())
		list = append(list, m)
	}
	return list
}

// why says in a sentence with numbers what a move is for.
func (p *planner) why(g model.Gear, waits bool, was, is aboard.Rummaged) string {
	if waits {
		return "It waits on the quay: another thing goes where it lies, and it goes where that lies."
	}
	kg, _ := p.Weight(g)
	mass := fmt.Sprintf("%.1f %s", p.Units.Mass.FromSI(kg), p.Units.Mass.Symbol)
	then, after := is.Fetch[g.ID]
	now, before := was.Fetch[g.ID]
	switch {
	case !after:
		return "No place takes it."
	case !before:
		return fmt.Sprintf("There and back in %.0f s; %s.", then.Round(), mass)
	case then.Round() < now.Round()-0.5 && aboard.Wanted(g) > g.UsesPerDay:
		return fmt.Sprintf("In hand in %.0f s instead of %.0f when it is needed.", then.Seconds, now.Seconds)
	case then.Round() < now.Round()-0.5:
		return fmt.Sprintf("There and back in %.0f s instead of %.0f, %s.", then.Round(), now.Round(),
			timesADay(g.UsesPerDay))
	case then.Round() > now.Round()+0.5:
		return fmt.Sprintf("It takes %.0f s instead of %.0f: it makes room for what is used more, or levels her (%s).",
			then.Round(), now.Round(), mass)
	}
	return fmt.Sprintf("As quick as before, %.0f s: it makes room for others, or keeps its kit together (%s).",
		then.Round(), mass)
}

func timesADay(n float64) string {
	switch {
	case n == 1:
		return "once a day"
	case n == 2:
		return "twice a day"
	case n < 0.1:
		return "hardly ever"
	case n < 1:
		return fmt.Sprintf("%.1f times a day", n)
	}
	return fmt.Sprintf("%.0f times a day", n)
}

// AcceptInput makes moves of a plan, in their order: all or none of them.
type AcceptInput struct {
	Moves []aboard.MoveInput `json:"moves" minItems:"1" maxItems:"1000"`
}

// Accept makes the moves of a plan that the crew took over.
func (a *Wing) Accept(ctx context.Context, actor kernel.Actor, key, boat uuid.UUID, in AcceptInput) (where.State,
	error) {
	for _, m := range in.Moves {
		if m.GearID == nil {
			return where.State{}, refuse.Faulty(check.Faults{{Field: "moves.gear_id", Want: "a plan moves gear"}})
		}
		if m.Lay != nil {
			return where.State{}, refuse.Faulty(check.Faults{{Field: "moves.lay", Want: "a plan lays nothing by hand"}})
		}
		if err := m.Check(); err != nil {
			return where.State{}, err
		}
	}
	return a.where.Changing(ctx, actor, key, boat, in, func(tx *store.Tx, s *aboard.Laden) (*aboard.Laden, error) {
		return where.MakeAll(tx, actor, s, in.Moves)
	})
}
