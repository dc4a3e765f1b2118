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

// Must is within how many seconds each piece is to be in a hand for the crew's packs. A
// limit that no place aboard keeps is none: the check tells of it. What has no class is
// held to its tags.
func Must(tx *store.Tx, actor kernel.Actor, s *aboard.Laden) (map[uuid.UUID]float64, error) {
	limits, err := limitsOf(tx, actor, s)
	if err != nil {
		return nil, err
	}
	must := map[uuid.UUID]float64{}
	for _, g := range s.Gear {
		if class, _ := aboard.ClassOf(g); class == "" && aboard.Slowest(g) > 0 &&
			len(quickest(s, g, aboard.Slowest(g))) > 0 {
			must[g.ID] = aboard.Slowest(g)
		}
	}
	list := Pieces(s, func(model.Gear) bool { return true })
	for id, seconds := range held(list, limits) {
		p := aboard.First(list, func(p Piece) bool { return p.Item.ID == id })
		if p.Gear != nil && len(quickest(s, *p.Gear, seconds)) > 0 {
			must[p.Gear.ID] = seconds
		}
	}
	return must, nil
}

// held says which pieces are held to which limits: of several of a class as many as are
// asked for, the quickest to reach now. What is built in is at hand.
func held(list []Piece, limits []carriage.Limit) map[string]float64 {
	must := map[string]float64{}
	for _, l := range limits {
		left := l.Count
		for _, p := range ofClasses(list, l) {
			if l.Count > 0 && left <= 0 {
				break
			}
			if was, ok := must[p.Item.ID]; !ok || l.Seconds < was {
				must[p.Item.ID] = l.Seconds
			}
			left -= max(p.Item.Count, 1)
		}
	}
	return must
}

// ofClasses is what may meet a limit, the quickest to reach now first.
func ofClasses(list []Piece, l carriage.Limit) (found []Piece) {
	for _, p := range list {
		if slices.Contains(l.Classes, p.Item.Class) {
			found = append(found, p)
		}
	}
	now := func(p Piece) float64 {
		switch {
		case p.Gear == nil:
			return 0
		case p.Seconds == nil:
			return math.Inf(1)
		}
		return *p.Seconds
	}
	slices.SortStableFunc(found, func(a, b Piece) int { return cmp.Compare(now(a), now(b)) })
	return found
}
