package stow

import (
	"context"
	"fmt"
	"strings"

	"ergasia/core/units"
	"ergasia/core/words"
)

// Why says in a sentence for each item why pieces of it were left out of a plan:
// what keeps it from the places, and what fills those that would take it. What
// the context leaves no time for stays empty.
func (plan Plan) Why(ctx context.Context, p Problem, items []int, u units.System) []string {
	why := make([]string, len(items))
	m := newModel(ctx, p)
	kg := plan.loads(m)
	for k, item := range items {
		if ctx.Err() != nil {
			break
		}
		why[k] = m.why(item, kg, u)
	}
	return why
}

// loads is what the plan lays into each place, kg.
func (plan Plan) loads(m *model) []float64 {
	kg := make([]float64, len(m.Places))
	for i, at := range plan.At {
		for _, j := range at {
			kg[j] += m.Items[i].Kg
		}
	}
	return kg
}

func (m *model) why(item int, kg []float64, u units.System) string {
	p := m.Problem
	it := m.Items[item] // with the mass of its lot
	byRule := map[string]int{}
	var open []int
	for j := range p.Places {
		if rule := m.refusal(item, j); rule != "" {
			byRule[rule]++
		} else {
			open = append(open, j)
		}
	}
	name := called(it.Piece)
	if it.Pinned != "" && len(open) == 0 {
		return fmt.Sprintf("%s is pinned to %s, which %s.", name, p.Places[p.spot(it.Pinned)].Name,
			reasons[m.refusalBut(item, p.spot(it.Pinned))][0])
	}
	var parts []string
	for _, rule := range ruleOrder {
		if n := byRule[rule]; n > 0 && rule != RulePinned {
			parts = append(parts, places(n, reasons[rule]))
		}
	}
	if len(open) == 0 {
		return fmt.Sprintf("No place takes %s: %s.", name, strings.Join(parts, "; "))
	}
	full, heavy := 0, 0
	for _, j := range open {
		if kg[j]+it.Kg > m.load[j]+1e-9 {
			heavy++
		} else {
			full++
		}
	}
	var rest []string
	if heavy > 0 {
		rest = append(rest, places(heavy, [2]string{"would carry more than it may", "would carry more than they may"}))
	}
	if full > 0 && m.sized[item] {
		rest = append(rest, places(full, [2]string{"has no room left by any way of laying that was tried",
			"have no room left by any way of laying that was tried"}))
	} else if full > 0 {
		rest = append(rest, places(full, [2]string{"would bring the moments out of their limits",
			"would bring the moments out of their limits"}))
	}
	return fmt.Sprintf("%s (%.1f %s) was left out: %s.", name, u.Mass.FromSI(it.Kg), u.Mass.Symbol,
		strings.Join(append(rest, parts...), "; "))
}

var ruleOrder = []string{RuleSize, RuleOpening, RuleDry, RuleReserved, RuleReach, RuleHazard, RuleLimit, RulePinned}

// reasons as said of one place and of several.
var reasons = map[string][2]string{
	RuleSize: {"is too small for it", "are too small for it"}, RuleOpening: {"has too small an opening",
		"have too small an opening"},
	RuleDry: {"gets wet", "get wet"}, RuleReserved: {"is kept for other things", "are kept for other things"},
	RuleReach:  {"is forbidden or out of reach", "are forbidden or out of reach"},
	RuleHazard: {"has something that it must lie apart from", "have something that it must lie apart from"},
	RuleLimit:  {"can't carry it", "can't carry it"}, RulePinned: {"is not the one it is pinned to",
		"are not the one it is pinned to"}}

func places(n int, reason [2]string) string {
	return words.HowMany(n, "place "+reason[0], "places "+reason[1])
}

// refusalBut is the rule beside the pin that keeps an item out of a place.
func (m *model) refusalBut(item, place int) string {
	for _, rule := range ruleOrder {
		if rule != RulePinned && rule != RuleLimit && m.breaks(rule, item, place) {
			return rule
		}
	}
	return RuleLimit
}
