package fitting

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Rigged is a rod in its holder: from its foot to its tip, m, boat axes.
type Rigged struct {
	ID       string
	Foot, At r3.Vec // At is the tip
}

// Trolled is a line as it runs aft from a rod's tip.
type Trolled struct {
	ID  string
	Y   float64 // m to port
	Z   float64 // m over the keel, of the tip
	Gap float64 // m to the next line to starboard; nought of the last
}

// Crossed are two rods that cross seen from above.
type Crossed struct{ A, B string }

// Spread lays the lines out as they run straight aft from the tips, from port to
// starboard, and finds rods that cross.
func Spread(rods []Rigged) (lines []Trolled, crossed []Crossed) {
	for i, r := range rods {
		lines = append(lines, Trolled{ID: r.ID, Y: r.At.Y, Z: r.At.Z})
		for _, o := range rods[i+1:] {
			if cross(r, o) {
				crossed = append(crossed, Crossed{A: r.ID, B: o.ID})
			}
		}
	}
	slices.SortStableFunc(lines, func(a, b Trolled) int { return cmp.Compare(b.Y, a.Y) })
	for i := range len(lines) - 1 {
		lines[i].Gap = lines[i].Y - lines[i+1].Y
	}
	return lines, crossed
}

// cross says whether two rods cross in plan: each has the other's ends on either side.
func cross(a, b Rigged) bool {
	side := func(p, q, r r3.Vec) float64 { return (q.X-p.X)*(r.Y-p.Y) - (q.Y-p.Y)*(r.X-p.X) }
	return side(a.Foot, a.At, b.Foot)*side(a.Foot, a.At, b.At) < 0 &&
		side(b.Foot, b.At, a.Foot)*side(b.Foot, b.At, a.At) < 0
}

// Width is how far apart the outermost lines run, m.
func Width(lines []Trolled) float64 {
	if len(lines) < 2 {
		return 0
	}
	return math.Abs(lines[0].Y - lines[len(lines)-1].Y)
}
