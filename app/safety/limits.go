package safety

import (
	"cmp"
	"math"
	"slices"

	"ergasia/app/aboard"
	"ergasia/app/kernel"
	"ergasia/core/carriage"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// Must is within how many seconds each piece is to be in a hand for the crew's packs: of
// several of a class, of as many as are asked for, the quickest to reach now. A limit that
// no place aboard keeps is none: the check tells of it. What has no class is held to its
// tags.
func Must(tx *store.Tx, actor kernel.Actor, s *aboard.Laden) (map[uuid.UUID]float64, error) {
	limits, err := limitsOf(tx, actor, s)
	if err != nil {
		return nil, err
	}
	must := map[uuid.UUID]float64{}
	hold := func(g model.Gear, seconds float64) {
		if was, ok := must[g.ID]; (!ok || seconds < was) && len(quickest(s, g, seconds)) > 0 {
			must[g.ID] = seconds
		}
	}
	for _, l := range limits {
		left := l.Count
		for _, g := range ofClasses(s, l) {
			if l.Count > 0 && left <= 0 {
				break
			}
			hold(g, l.Seconds)
			left -= max(g.Count, 1)
		}
	}
	for _, g := range s.Gear {
		if class, _ := aboard.ClassOf(g); class == "" && aboard.Slowest(g) > 0 {
			hold(g, aboard.Slowest(g))
		}
	}
	return must, nil
}

// ofClasses is what may meet a limit, the quickest to reach now first.
func ofClasses(s *aboard.Laden, l carriage.Limit) (list []model.Gear) {
	now := map[uuid.UUID]float64{}
	for _, g := range s.Gear {
		class, _ := aboard.ClassOf(g)
		if !slices.Contains(l.Classes, class) || g.Condition == "broken" {
			continue
		}
		now[g.ID] = math.Inf(1)
		if sec := secondsTo(s, g); sec != nil {
			now[g.ID] = *sec
		}
		list = append(list, g)
	}
	slices.SortStableFunc(list, func(a, b model.Gear) int { return cmp.Compare(now[a.ID], now[b.ID]) })
	return list
}
