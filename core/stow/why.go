package stow

import (
	"fmt"
	"strings"

	"ergasia/core/units"
)

// Why says in a sentence why pieces of an item were left out of a plan: what
// keeps it from the places, and what fills those that would take it.
func (plan Plan) Why(p Problem, item int, u units.System) string {
	m := newModel(p)
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
		kg := 0.0
		for i := range p.Items {
			for _, at := range plan.At[i] {
				if at == j {
					kg += m.Items[i].Kg
				}
			}
		}
		if kg+it.Kg > m.load[j]+1e-9 {
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
	if n == 1 {
		return "1 place " + reason[0]
	}
	return fmt.Sprintf("%d places %s", n, reason[1])
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
