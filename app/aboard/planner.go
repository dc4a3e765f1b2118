package aboard

import (
	"slices"

	"ergasia/core/reach"
	"ergasia/store/model"
)

// Hazards of a thing and of what it holds.
func (s *Laden) Hazards(g model.Gear) []string {
	list := slices.Clone([]string(g.Hazards))
	for _, held := range s.holds[g.ID] {
		list = append(list, s.Hazards(held)...)
	}
	return list
}

// Kept says whether a place is kept for others' things.
func Kept(p model.Place, g model.Gear) bool { return keptForAnother(p, g) || keptForTag(p, g) }

func keptForAnother(p model.Place, g model.Gear) bool {
	return p.KeptForOwner != nil && (g.OwnerID == nil || *g.OwnerID != *p.KeptForOwner)
}

func keptForTag(p model.Place, g model.Gear) bool {
	return p.KeptForTag != "" && !slices.Contains(g.Tags, p.KeptForTag)
}

// Valuable says whether a thing, or one that it holds, is to be locked away.
func (s *Laden) Valuable(g model.Gear) bool {
	return slices.Contains(g.Tags, "lock") || slices.ContainsFunc(s.holds[g.ID], s.Valuable)
}

// slowest are the seconds within which gear with a tag must be in a hand.
// Defaults, practice, no source.
var slowest = map[string]float64{"throwable": 5, "extinguisher": 10, "drain plug": 10, "safety": 15}

func TooSlow(g model.Gear, f reach.Fetch) bool {
	return slices.ContainsFunc(g.Tags, func(tag string) bool {
		limit, has := slowest[tag]
		return has && f.Seconds > limit
	})
}

// UrgentUses is as how often a day a thing counts that is fetched seldom, and in
// need: it lies near and on top. Practice, no source.
const UrgentUses = 15

// Wanted is as how often a day a thing counts when it is decided where it lies.
func Wanted(g model.Gear) float64 {
	if slices.ContainsFunc(g.Tags, func(tag string) bool { _, urgent := slowest[tag]; return urgent }) {
		return max(g.UsesPerDay, UrgentUses)
	}
	return g.UsesPerDay
}
