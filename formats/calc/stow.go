package calc

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"time"

	"ergasia/core/check"
	"ergasia/core/reach"
	"ergasia/core/stow"
	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

// names is one name or several, as JSON.
type names []string

func (n *names) UnmarshalJSON(data []byte) error {
	var one string
	if json.Unmarshal(data, &one) == nil {
		*n = names{one}
		return nil
	}
	return json.Unmarshal(data, (*[]string)(n))
}

type stowPlaceIn struct {
	ID       string      `json:"id"`
	Size     *vec        `json:"size_m"`
	Opening  *[2]float64 `json:"opening_m"`
	MaxKg    *float64    `json:"max_kg"`
	Dry      bool        `json:"dry"`
	At       vec         `json:"at_m"`
	Reserved names       `json:"reserved_for"`
}

type stowItemIn struct {
	ID       string             `json:"id"`
	Size     *vec               `json:"size_m"`
	Kg       float64            `json:"kg"`
	Count    *int               `json:"count"`
	Uses     float64            `json:"uses_per_day"`
	NeedsDry bool               `json:"needs_dry"`
	Turn     string             `json:"may_turn"`
	Pinned   string             `json:"pinned_to"`
	Fragile  bool               `json:"fragile"`
	Soft     bool               `json:"soft"`
	Jointed  bool               `json:"jointed"`
	Hazards  []string           `json:"hazards"`
	Costs    map[string]float64 `json:"cost_s_by_place"`
}

type stowIn struct {
	Places []stowPlaceIn `json:"places"`
	Items  []stowItemIn  `json:"items"`
	Groups []struct {
		ID    string   `json:"id"`
		Items []string `json:"items"`
		Split float64  `json:"split_cost_s"`
	} `json:"groups"`
	Limits struct {
		Heel *float64    `json:"heel_moment_kg_m"`
		Trim *[2]float64 `json:"trim_moment_kg_m"`
	} `json:"limits"`
	Options struct {
		Seed   uint64   `json:"seed"`
		Steps  int      `json:"steps"`
		TimeMs *float64 `json:"time_ms"`
	} `json:"options"`
}

type stowPlacedOut struct {
	Item   string `json:"item"`
	Place  string `json:"place"`
	At     *vec   `json:"at_m,omitempty"`
	Size   *vec   `json:"size_m,omitempty"`
	Turned *bool  `json:"turned,omitempty"`
}

type stowUnplacedOut struct {
	Item   string `json:"item"`
	Reason string `json:"reason"`
}

type stowOut struct {
	Placed     []stowPlacedOut   `json:"placed"`
	Unplaced   []stowUnplacedOut `json:"unplaced"`
	Cost       float64           `json:"cost_s"`
	LowerBound float64           `json:"lower_bound_s"`
	Gap        float64           `json:"gap"`
	StoppedBy  string            `json:"stopped_by"`
	Within     bool              `json:"within_limits"`
	Clash      []string          `json:"clash"`
	ClashLeast bool              `json:"clash_least"`
}

func runStow(data []byte, came time.Time) (any, error) {
	var in stowIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	p, err := in.problem()
	if err != nil {
		return nil, err
	}
	ctx, reasons := context.Background(), context.Background()
	if ms := in.Options.TimeMs; ms != nil {
		var enough, end context.CancelFunc
		until := came.Add(time.Duration(*ms * float64(time.Millisecond)))
		reasons, end = context.WithDeadline(ctx, until.Add(reasonTime))
		defer end()
		ctx, enough = context.WithDeadline(ctx, until)
		defer enough()
	}
	plan, err := stow.Solve(ctx, p, stow.Options{Seed: in.Options.Seed, Steps: in.Options.Steps, Tries: 2, Squeeze: true})
	if err != nil {
		return nil, err
	}
	return in.answer(reasons, p, plan), nil
}

// reasonTime is for saying why things were left out, beyond the time for the plan.
const reasonTime = 100 * time.Millisecond

// leastLoad stands for a place that carries nothing: the core takes nought for no limit.
const leastLoad = 1e-9

// problem checks what the schema can't, and gives what the solver reads.
func (in stowIn) problem() (stow.Problem, error) {
	var fs check.Faults
	p := stow.Problem{Limits: stow.NoLimits()}
	place, item := map[string]int{}, map[string]int{}
	for j, s := range in.Places {
		if _, twice := place[s.ID]; twice {
			fs.Add(fmt.Sprintf("places[%d].id", j), s.ID, "must not be there twice")
		}
		place[s.ID] = j
		spot := stow.Spot{Place: stow.Place{ID: s.ID, Name: s.ID, Dry: s.Dry, MaxKg: math.Inf(1)}, At: s.At.r3(),
			Reserved: s.Reserved}
		if s.Size != nil {
			spot.Size = s.Size.r3()
		}
		if s.Opening != nil {
			spot.Opening = r3.Vec{X: s.Opening[0], Y: s.Opening[1]}
		}
		if s.MaxKg != nil {
			spot.MaxKg = max(*s.MaxKg, leastLoad)
		}
		p.Places = append(p.Places, spot)
	}
	walk := in.walk()
	for i, it := range in.Items {
		field := fmt.Sprintf("items[%d].", i)
		if _, twice := item[it.ID]; twice {
			fs.Add(field+"id", it.ID, "must not be there twice")
		}
		item[it.ID] = i
		one := stow.Item{Piece: stow.Piece{ID: it.ID, Name: it.ID, Kg: it.Kg, Count: 1, NeedsDry: it.NeedsDry,
			Turn: stow.TurnUpright,
			Uses: it.Uses, Top: it.Fragile, Soft: it.Soft, Bends: it.Jointed}, Pinned: it.Pinned, Hazards: it.Hazards}
		if it.Count != nil {
			one.Count = *it.Count
		}
		if it.Size != nil {
			one.Size = it.Size.r3()
		}
		if it.Turn != "" {
			one.Turn = stow.Turn(it.Turn)
		}
		for id := range it.Costs {
			if _, known := place[id]; !known {
				fs.Add(field+"cost_s_by_place", id, "must be ids of places")
			}
		}
		for j, s := range in.Places {
			cost := it.Uses * walk[j]
			if it.Costs != nil {
				given, allowed := it.Costs[s.ID]
				if cost = given; !allowed {
					cost = math.Inf(1)
				}
			}
			one.Cost = append(one.Cost, cost)
		}
		p.Items = append(p.Items, one)
	}
	for g, group := range in.Groups {
		one := stow.Group{ID: group.ID, Name: group.ID, Split: group.Split}
		for _, id := range group.Items {
			i, known := item[id]
			if !known {
				fs.Add(fmt.Sprintf("groups[%d].items", g), id, "must be ids of items")
			}
			one.Items = append(one.Items, i)
		}
		p.Groups = append(p.Groups, one)
	}
	if h := in.Limits.Heel; h != nil {
		p.Limits.Heel = [2]float64{-*h, *h}
	}
	if t := in.Limits.Trim; t != nil {
		p.Limits.Trim = *t
		if t[0] > t[1] {
			fs.Add("limits.trim_moment_kg_m", *t, "must be the least, then the most")
		}
	}
	if fs == nil {
		return p, p.Check()
	}
	return p, fs
}

// walk is what one use costs in each place where no costs are given: there and
// back from the middle of all places, and taking it.
func (in stowIn) walk() []float64 {
	t := reach.DefaultTable()
	var middle r3.Vec
	for _, s := range in.Places {
		middle = r3.Add(middle, r3.Scale(1/float64(len(in.Places)), s.At.r3()))
	}
	var list []float64
	for _, s := range in.Places {
		d := r3.Sub(s.At.r3(), middle)
		list = append(list, 2*t.WalkPerM*math.Hypot(d.X, d.Y)+2*t.Rise*math.Abs(d.Z)+t.Bend+t.Grasp)
	}
	return list
}

func (in stowIn) answer(ctx context.Context, p stow.Problem, plan stow.Plan) stowOut {
	out := stowOut{Placed: []stowPlacedOut{}, Unplaced: []stowUnplacedOut{}, Clash: []string{}, Cost: plan.Seconds,
		LowerBound: plan.LowerBound,
		Gap:        plan.Gap(), StoppedBy: string(plan.StoppedBy), Within: plan.Within}
	for j, laid := range plan.Layouts {
		for _, l := range laid {
			size := in.Items[p.Item(l.ID)].Size.r3()
			turned := l.Size != size
			out.Placed = append(out.Placed, stowPlacedOut{Item: l.ID, Place: in.Places[j].ID,
				At:   (*vec)(&[3]float64{l.At.X, l.At.Y, l.At.Z}),
				Size: (*vec)(&[3]float64{l.Size.X, l.Size.Y, l.Size.Z}), Turned: &turned})
		}
	}
	var left []int
	for i, it := range in.Items {
		for _, j := range plan.At[i] {
			if it.Size == nil || in.Places[j].Size == nil {
				out.Placed = append(out.Placed, stowPlacedOut{Item: it.ID, Place: in.Places[j].ID})
			}
		}
		for range p.Items[i].Count - len(plan.At[i]) {
			left = append(left, i)
		}
	}
	for k, why := range plan.Why(ctx, p, left, units.Metric) {
		out.Unplaced = append(out.Unplaced, stowUnplacedOut{Item: in.Items[left[k]].ID, Reason: why})
	}
	if len(out.Unplaced) > 0 || !plan.Within {
		rules, least := p.Clash(ctx, units.Metric)
		for _, r := range rules {
			out.Clash = append(out.Clash, r.Sentence)
		}
		out.ClashLeast = least
	}
	return out
}
