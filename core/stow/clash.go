package stow

import (
	"context"
	"fmt"
	"math"
	"slices"

	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

// Rule is something that is asked of a plan.
type Rule struct {
	Name     string // one of the rules by name, or "aboard" for a piece that is to go
	Sentence string
	item     int // or -1
	place    int // or -1
}

// RuleAboard asks that a piece goes aboard.
const RuleAboard = "aboard"

// Clash finds rules that can't all be kept (a deletion filter: Chinneck and
// Dravnieks, "Locating minimal infeasible constraint sets in linear programs",
// ORSA Journal on Computing 3, 1991; from memory). What shows a clash is that a
// piece has no place, that masses or volumes can't be shared out among the places
// (by maximum flow, or piece by piece where there are few), or that no choice of
// places can bring the moments within their limits. Least says that none of them
// can be left out: without any one, a way to keep the others was found, shapes
// aside. Nothing is found where the pieces clash only by their shapes, and none
// where the context leaves no time to show it.
func (p Problem) Clash(ctx context.Context, u units.System) (rules []Rule, least bool) {
	m := newModel(ctx, p)
	c := newClasher(m, m.rules(u))
	if c.clash() != clashes {
		return nil, false
	}
	// One that was needed beside others may be spare without them, or can be looked
	// at to the end by then: until nothing more is taken out.
	for fewer := true; fewer; {
		fewer, least = false, true
		for i := range c.rules {
			if !c.active[i] {
				continue
			}
			c.active[i] = false
			found := c.clash()
			if m.stop() {
				return nil, false
			}
			c.active[i] = found != clashes
			fewer = fewer || found == clashes
			least = least && found != open
		}
	}
	for i, r := range c.rules {
		if c.active[i] {
			rules = append(rules, r)
		}
	}
	return rules, least
}

// finding is what looking for a clash comes to.
type finding int

const (
	clashes finding = iota // the rules can't all be kept
	kept                   // a way to keep them all was found
	open                   // neither was shown
)

// rules lists what is asked, those first that a person would least think of as
// the reason: what is left at the end is what matters.
func (m *model) rules(u units.System) []Rule {
	var list []Rule
	add := func(name string, item, place int, format string, values ...any) {
		list = append(list, Rule{Name: name, Sentence: fmt.Sprintf(format, values...), item: item, place: place})
	}
	mass := func(kg float64) string { return fmt.Sprintf("%.1f %s", u.Mass.FromSI(kg), u.Mass.Symbol) }
	for i, it := range m.Items {
		if it.Count > 0 {
			add(RuleAboard, i, -1, "%s goes aboard (%d of %s)", called(it.Piece), it.Count, mass(it.Kg))
		}
	}
	for j, s := range m.Places {
		if !math.IsInf(m.room[j], 1) {
			add(RuleRoom, -1, j, "%s has room for %.0f %s", s.Name, u.Volume.FromSI(m.room[j]*1000), u.Volume.Symbol)
		}
		if !math.IsInf(m.load[j], 1) {
			add(RuleLimit, -1, j, "%s carries %s at most", s.Name, mass(m.load[j]))
		}
		if len(s.Reserved) > 0 {
			add(RuleReserved, -1, j, "%s is kept for other things", s.Name)
		}
	}
	for i, it := range m.Items {
		may := func(rule string) bool {
			for j := range m.Places {
				if m.breaks(rule, i, j) {
					return true
				}
			}
			return false
		}
		for _, r := range []struct{ rule, says string }{
			{RuleSize, "is too large for some places"}, {RuleOpening, "does not pass some openings"},
			{RuleHazard, "must lie apart from what is in some places"},
			{RuleReach, "may not be in some places, or would be out of reach there"}, {RuleDry, "must stay dry"}} {
			if may(r.rule) {
				add(r.rule, i, -1, "%s %s", called(it.Piece), r.says)
			}
		}
		if it.Pinned != "" {
			add(RulePinned, i, -1, "%s is pinned to %s", called(it.Piece), m.Places[m.spot(it.Pinned)].Name)
		}
	}
	if !math.IsInf(m.Limits.Heel[0], -1) || !math.IsInf(m.Limits.Heel[1], 1) {
		add(RuleBalance, -1, -1, "the heeling moment stays from %.1f to %.1f kg·m", m.Limits.Heel[0], m.Limits.Heel[1])
	}
	if !math.IsInf(m.Limits.Trim[0], -1) || !math.IsInf(m.Limits.Trim[1], 1) {
		add(ruleTrim, -1, -1, "the trimming moment stays from %.1f to %.1f kg·m", m.Limits.Trim[0], m.Limits.Trim[1])
	}
	return list
}

const ruleTrim = "trim"

func called(p Piece) string {
	if p.Name != "" {
		return p.Name
	}
	return p.ID
}

// breaks says whether a piece of an item in a place alone would break a rule.
func (m *model) breaks(rule string, i, j int) bool {
	it, s := m.Items[i], m.Places[j]
	sized := m.sized[i] && s.Size != r3.Vec{}
	rods := s.Rods.Form != ""
	switch rule {
	case RulePinned:
		return it.Pinned != "" && it.Pinned != s.ID
	case RuleDry:
		return it.NeedsDry && !s.Dry
	case RuleReserved:
		return len(s.Reserved) > 0 && !m.reservedFor(i, s.Reserved)
	case RuleReach:
		return math.IsInf(it.Cost[j], 1)
	case RuleHazard:
		_, _, apart := Apart(it.Hazards, s.Hazards)
		return apart
	case RuleSize:
		if rods {
			return s.Rods.refuses(s.Place, it.Piece, units.Metric) != ""
		}
		return sized && !m.goesIn(i, s.Size, r3.Vec{})
	case RuleOpening:
		return !rods && sized && m.goesIn(i, s.Size, r3.Vec{}) && !m.goesIn(i, s.Size, s.Opening)
	}
	return false
}

// goesIn says whether a piece of an item alone goes into a room through its opening.
func (m *model) goesIn(i int, room, opening r3.Vec) bool {
	p := Place{Size: room, Opening: opening}
	return slices.ContainsFunc(m.turns[i], func(size r3.Vec) bool { return inside(size, room) && p.admits(m.Items[i].Piece, size) })
}

// clasher looks whether the active rules can be shown to clash.
type clasher struct {
	*model
	rules   []Rule
	active  []bool
	ofItem  [][]int // rules of each item
	ofPlace [][]int // who each place is kept for
}

func newClasher(m *model, rules []Rule) *clasher {
	c := &clasher{model: m, rules: rules, active: make([]bool, len(rules)), ofItem: make([][]int, len(m.Items)),
		ofPlace: make([][]int, len(m.Places))}
	for k, r := range rules {
		c.active[k] = true
		if r.item >= 0 {
			c.ofItem[r.item] = append(c.ofItem[r.item], k)
		} else if r.Name == RuleReserved {
			c.ofPlace[r.place] = append(c.ofPlace[r.place], k)
		}
	}
	return c
}

func (c *clasher) clash() finding {
	goes := make([]bool, len(c.Items))
	room, load := make([]float64, len(c.Places)), make([]float64, len(c.Places))
	for j := range c.Places {
		room[j], load[j] = math.Inf(1), math.Inf(1)
	}
	heel, trim := false, false
	for k, r := range c.rules {
		if !c.active[k] {
			continue
		}
		switch r.Name {
		case RuleAboard:
			goes[r.item] = true
		case RuleRoom:
			room[r.place] = c.room[r.place]
		case RuleLimit:
			load[r.place] = c.load[r.place]
		case RuleBalance:
			heel = true
		case ruleTrim:
			trim = true
		}
	}
	var items []int
	var may [][]int
	for i := range c.Items {
		if c.stop() {
			return open
		}
		if !goes[i] {
			continue
		}
		list := c.left(i)
		if len(list) == 0 {
			return clashes
		}
		items, may = append(items, i), append(may, list)
	}
	kg := func(i int) float64 { return c.Items[i].Kg }
	m3 := func(i int) float64 { return c.volume[i] }
	if heel && c.tips(items, may, func(j int) float64 { return c.Places[j].At.Y }, c.Limits.Heel[0], c.Limits.Heel[1]) ||
		trim && c.tips(items, may, func(j int) float64 { return c.Places[j].At.X }, c.Limits.Trim[0], c.Limits.Trim[1]) {
		return clashes
	}
	if !c.flows(items, may, kg, load) || !c.flows(items, may, m3, room) {
		return clashes
	}
	limits := NoLimits()
	if heel {
		limits.Heel = c.Limits.Heel
	}
	if trim {
		limits.Trim = c.Limits.Trim
	}
	return c.piecewise(items, may, load, room, limits)
}

// left lists the places that the active rules leave an item.
func (c *clasher) left(i int) (list []int) {
	for j := range c.Places {
		broken := func(k int) bool { return c.active[k] && c.breaks(c.rules[k].Name, i, j) }
		if !slices.ContainsFunc(c.ofItem[i], broken) && !slices.ContainsFunc(c.ofPlace[j], broken) {
			list = append(list, j)
		}
	}
	return list
}

// tips says whether a moment is out of its limits wherever the pieces go.
func (c *clasher) tips(items []int, may [][]int, arm func(int) float64, from, to float64) bool {
	least, most := 0.0, 0.0
	for k, i := range items {
		low, high := math.Inf(1), math.Inf(-1)
		for _, j := range may[k] {
			low, high = min(low, arm(j)), max(high, arm(j))
		}
		kg := c.Items[i].Kg * float64(c.Items[i].Count)
		least, most = least+kg*low, most+kg*high
	}
	return least > to+1e-9 || most < from-1e-9
}

// flows says whether masses or volumes, cut as finely as one likes, can be
// shared out among the places (maximum flow by augmenting paths: Ford and
// Fulkerson 1956).
func (c *clasher) flows(items []int, may [][]int, size func(int) float64, room []float64) bool {
	flow := make([][]float64, len(items))
	used := make([]float64, len(room))
	for k := range items {
		flow[k] = make([]float64, len(room))
	}
	for k, i := range items {
		if c.stop() {
			return true
		}
		need := size(i) * float64(c.Items[i].Count)
		for need > 1e-9 {
			sent := augment(k, need, may, flow, used, room)
			if sent <= 1e-12 {
				return false
			}
			need -= sent
		}
	}
	return true
}

// augment sends some of an item along the shortest path to a place with room,
// pushing others out of the way.
func augment(from int, need float64, may [][]int, flow [][]float64, used, room []float64) float64 {
	parent := make([]int, len(room)) // item that comes to a place
	through := make([]int, len(may)) // place that an item is pushed out of
	for j := range parent {
		parent[j] = -1
	}
	for k := range through {
		through[k] = -1
	}
	queue := []int{from}
	seen := map[int]bool{from: true}
	for len(queue) > 0 {
		k := queue[0]
		queue = queue[1:]
		for _, j := range may[k] {
			if parent[j] >= 0 {
				continue
			}
			parent[j] = k
			if spare := room[j] - used[j]; spare > 1e-12 {
				return push(from, j, min(need, spare), parent, through, flow, used)
			}
			for o := range may {
				if !seen[o] && flow[o][j] > 1e-12 {
					seen[o], through[o] = true, j
					queue = append(queue, o)
				}
			}
		}
	}
	return 0
}

func push(from, last int, amount float64, parent, through []int, flow [][]float64, used []float64) float64 {
	for j := last; ; {
		k := parent[j]
		if k == from {
			break
		}
		amount = min(amount, flow[k][through[k]])
		j = through[k]
	}
	for j := last; ; {
		k := parent[j]
		flow[k][j] += amount
		if k == from {
			break
		}
		flow[k][through[k]] -= amount
		j = through[k]
	}
	used[last] += amount
	return amount
}

// piecewise looks whether whole pieces can be shared out such that the moments are
// within their limits, by trying all ways as long as that is little work.
func (c *clasher) piecewise(items []int, may [][]int, load, room []float64, limits Limits) finding {
	type unit struct{ item, may int }
	var all []unit
	for k, i := range items {
		for range c.Items[i].Count {
			all = append(all, unit{i, k})
		}
	}
	slices.SortStableFunc(all, func(a, b unit) int {
		if d := len(may[a.may]) - len(may[b.may]); d != 0 {
			return d
		}
		return compare(c.Items[b.item].Kg, c.Items[a.item].Kg)
	})
	load, room = slices.Clone(load), slices.Clone(room)
	at := make([]int, len(all))
	heel, trim, work := 0.0, 0.0, 50_000
	var try func(n int) finding
	try = func(n int) finding {
		if n == len(all) {
			if outside(heel, limits.Heel) > 1e-9 || outside(trim, limits.Trim) > 1e-9 {
				return clashes
			}
			for k := range all { // what must lie apart is no rule of the list: where it does not, nothing is shown
				for o := range k {
					if at[k] == at[o] && c.model.clash[all[k].item][all[o].item] {
						return open
					}
				}
			}
			return kept
		}
		i, best := all[n].item, clashes
		for _, j := range may[all[n].may] {
			if work--; work < 0 {
				return open
			}
			kg, m3, where := c.Items[i].Kg, c.volume[i], c.Places[j].At
			if kg > load[j]+1e-9 || m3 > room[j]+1e-9 {
				continue
			}
			at[n], load[j], room[j], heel, trim = j, load[j]-kg, room[j]-m3, heel+kg*where.Y, trim+kg*where.X
			found := try(n + 1)
			load[j], room[j], heel, trim = load[j]+kg, room[j]+m3, heel-kg*where.Y, trim-kg*where.X
			if found == kept {
				return kept
			}
			best = max(best, found)
		}
		return best
	}
	return try(0)
}
