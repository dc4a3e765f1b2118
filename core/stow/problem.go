package stow

import (
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"

	"gonum.org/v1/gonum/spatial/r3"
)

// Problem is gear that is to go into places.
type Problem struct {
	Places  []Spot
	Items   []Item
	Groups  []Group
	Limits  Limits
	Balance Balance
}

// Spot is a place that gear may be planned into.
type Spot struct {
	Place             // without a size only mass counts
	At       r3.Vec   // middle of what lies in it, in the boat's frame, for moments
	Reserved []string // ids of items or groups; empty is for all
	Crowd    float64  // seconds that a use of a thing takes longer for each other thing in the place
	Held     []Piece  // what is there already and stays
	Hazards  []string // of what is there already, or near
}

// Item is Count pieces alike; each may go into another place.
type Item struct {
	Piece
	// pieces that one of these is, which stay together; 0 is 1. Cost is of the lot, Kg and Uses of a piece
	Lot     int
	Pinned  string    // id of the only place that it may go to
	Cost    []float64 // seconds a day for one, by place; +Inf where it may not be
	Hazards []string
}

// Group are items that belong together: a kit, an owner's things.
type Group struct {
	ID    string
	Name  string
	Items []int
	Split float64 // seconds a day for each place beyond the first that it is spread over
}

// Limits on the moments of what is planned, kg·m in the boat's frame.
type Limits struct {
	Heel [2]float64 // sum of kg times y from, to; infinite is none
	Trim [2]float64 // sum of kg times x from, to; infinite is none
}

// NoLimits lets moments be what they are.
func NoLimits() Limits {
	none := [2]float64{math.Inf(-1), math.Inf(1)}
	return Limits{Heel: none, Trim: none}
}

// Balance is what it costs to be away from level, seconds a day. Targets are of
// the gear that is planned: what the rest of the boat asks of it.
type Balance struct {
	HeelTarget, TrimTarget float64 // kg·m
	PerHeel, PerTrim       float64 // seconds for each kg·m away
	Within                 Limits  // what the crew holds her to
	OverHeel, OverTrim     float64 // seconds for each kg·m outside of that
}

func (b Balance) cost(heel, trim float64) float64 {
	cost := b.PerHeel*math.Abs(heel-b.HeelTarget) + b.PerTrim*math.Abs(trim-b.TrimTarget)
	if b.OverHeel > 0 {
		cost += b.OverHeel * outside(heel, b.Within.Heel)
	}
	if b.OverTrim > 0 {
		cost += b.OverTrim * outside(trim, b.Within.Trim)
	}
	return cost
}

func outside(v float64, bounds [2]float64) float64 { return max(0, bounds[0]-v) + max(0, v-bounds[1]) }

// conflicts are hazards that may not lie in one place: fuel and ignition, fuel
// and flares, what gives off gas and sparks, magnets and steel from a compass.
// Common practice; the labels of the goods decide.
var conflicts = map[string][]string{
	"fuel":      {"sparks", "flares", "flame"},
	"flares":    {"fuel", "sparks", "flame"},
	"gas":       {"sparks", "flame"},
	"lead-acid": {"sparks", "flame"},
	"sparks":    {"fuel", "flares", "gas", "lead-acid"},
	"flame":     {"fuel", "flares", "gas", "lead-acid"},
	"magnet":    {"compass"},
	"steel":     {"compass"},
	"compass":   {"magnet", "steel"},
}

// Apart says whether two lots of hazards may not lie together, and which two.
func Apart(a, b []string) (string, string, bool) {
	for _, x := range a {
		for _, no := range conflicts[x] {
			for _, y := range b {
				if y == no {
					return x, y, true
				}
			}
		}
	}
	return "", "", false
}

// The most that is planned at once.
const (
	maxSpots = 400
	maxUnits = 4000
)

// Check lists what is wrong with a problem.
func (p Problem) Check() error {
	var fs check.Faults
	if n := len(p.Places); n < 1 || n > maxSpots {
		fs.Add("places", n, fmt.Sprintf("must be from 1 to %d", maxSpots))
	}
	units := 0
	for i, it := range p.Items {
		field := fmt.Sprintf("items[%d].", i)
		if it.Count < 0 || it.Count > maxUnits {
			fs.Add(field+"count", it.Count, fmt.Sprintf("must be from 0 to %d", maxUnits))
		}
		units += min(max(it.Count, 0), maxUnits+1)
		fs.Within(field+"kg", it.Kg, 0, 1e6)
		fs.Within(field+"uses_per_day", it.Uses, 0, 1e5)
		if it.Pinned != "" && p.spot(it.Pinned) < 0 {
			fs.Add(field+"pinned_to", it.Pinned, "must be the id of a place")
		}
		if len(it.Cost) != len(p.Places) {
			fs.Add(field+"cost", len(it.Cost), "must have a cost for every place")
		}
	}
	if units > maxUnits {
		fs.Add("items", units, fmt.Sprintf("must be at most %d pieces in all", maxUnits))
	}
	for i, g := range p.Groups {
		field := fmt.Sprintf("groups[%d].", i)
		if sorted := slices.Sorted(slices.Values(g.Items)); len(slices.Compact(sorted)) < len(g.Items) {
			fs.Add(field+"items", g.Name, "must not have an item twice")
		}
		fs.Within(field+"split_cost_s", g.Split, 0, 1e9)
		for _, it := range g.Items {
			if it < 0 || it >= len(p.Items) {
				fs.Add(field+"items", it, "must be items of the problem")
			}
		}
	}
	return fs.Err()
}

func (p Problem) spot(name string) int {
	for i, s := range p.Places {
		if s.ID == name {
			return i
		}
	}
	return -1
}

// Item is the index of an item by its id, or -1.
func (p Problem) Item(id string) int {
	for i, it := range p.Items {
		if it.ID == id {
			return i
		}
	}
	return -1
}
