package hull

import (
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"
)

// Cell is a place of a usual layout. Where it lies is in shares: along the
// length, of the half beam (port positive), of the depth amidships.
type Cell struct {
	Name      string
	Low, High r3.Vec
	Dry       bool
	Lid       string // hinged, lift-off, none
}

// Spot is a post of a usual layout, in the same shares.
type Spot struct {
	Name string
	At   r3.Vec
}

// Layout is how boats of a kind are usually laid out. All practice, no source:
// every measure is to be put right with a tape.
type Layout struct {
	Name, Title string
	Cells       []Cell
	Spots       []Spot
}

func cell(name string, x0, x1, y0, y1, z0, z1 float64, dry bool, lid string) Cell {
	return Cell{Name: name, Low: r3.Vec{X: x0, Y: y0, Z: z0}, High: r3.Vec{X: x1, Y: y1, Z: z1}, Dry: dry, Lid: lid}
}

// pair is a cell to port and its mirror image.
func pair(name string, x0, x1, y0, y1, z0, z1 float64, dry bool, lid string) []Cell {
	return []Cell{cell("port "+name, x0, x1, y0, y1, z0, z1, dry, lid), cell("starboard "+name, x0, x1, -y1, -y0, z0, z1,
		dry, lid)}
}

func cells(groups ...[]Cell) (all []Cell) {
	for _, g := range groups {
		all = append(all, g...)
	}
	return all
}

func spots(list ...any) (all []Spot) {
	for i := 0; i < len(list); i += 4 {
		all = append(all, Spot{Name: list[i].(string), At: r3.Vec{X: list[i+1].(float64), Y: list[i+2].(float64),
			Z: list[i+3].(float64)}})
	}
	return all
}

// Layouts are the usual ones, in the order they are offered.
var Layouts = []Layout{
	{Name: "console", Title: "Open, with a centre console", Cells: cells(
		pair("quarter", 0.015, 0.10, 0.38, 0.80, 0.36, 0.82, false, "hinged"),
		[]Cell{cell("transom well", 0.015, 0.10, -0.32, 0.32, 0.36, 0.92, false, "none"),
			cell("helm seat", 0.23, 0.305, -0.28, 0.28, 0.36, 0.88, true, "hinged"),
			cell("console", 0.33, 0.445, -0.30, 0.30, 0.36, 1.10, true, "hinged"),
			cell("console front seat", 0.463, 0.555, -0.32, 0.32, 0.36, 0.92, false, "hinged")},
		pair("rod bed", 0.28, 0.68, 0.44, 0.64, 0.38, 0.56, false, "none"),
		pair("fore locker", 0.69, 0.79, 0.03, 0.42, 0.45, 0.88, true, "hinged"),
		[]Cell{cell("bow locker", 0.80, 0.875, -0.24, 0.24, 0.55, 0.92, false, "hinged"),
			cell("anchor well", 0.885, 0.935, -0.14, 0.14, 0.72, 1.08, false, "hinged")}),
		Spots: spots("helm", 0.265, 0.0, 0.36, "port quarter", 0.12, 0.36, 0.36, "starboard quarter", 0.12, -0.36, 0.36,
			"port rail", 0.6, 0.32, 0.36, "starboard rail", 0.6, -0.32, 0.36, "fore deck", 0.83, 0.0, 0.92)},
	{Name: "tournament", Title: "Low, with long decks fore and aft", Cells: cells(
		pair("aft locker", 0.03, 0.14, 0.30, 0.78, 0.35, 0.86, true, "hinged"),
		[]Cell{cell("livewell", 0.03, 0.14, -0.26, 0.26, 0.35, 0.86, false, "hinged"),
			cell("battery box", 0.15, 0.20, -0.5, 0.5, 0.30, 0.70, false, "lift-off")},
		pair("seat box", 0.30, 0.37, 0.10, 0.60, 0.33, 0.66, true, "hinged"),
		pair("rod locker", 0.50, 0.90, 0.34, 0.66, 0.45, 0.86, true, "hinged"),
		[]Cell{cell("centre locker", 0.52, 0.64, -0.28, 0.28, 0.40, 0.86, true, "hinged"),
			cell("day box", 0.65, 0.73, -0.28, 0.28, 0.48, 0.86, true, "hinged"),
			cell("bow locker", 0.74, 0.84, -0.24, 0.24, 0.55, 0.90, false, "hinged")}),
		Spots: spots("helm", 0.335, -0.38, 0.33, "passenger", 0.335, 0.38, 0.33, "fore deck", 0.80, 0.0, 0.9, "aft deck",
			0.09, 0.0, 0.88)},
	{Name: "benches", Title: "Flat or round, with benches", Cells: cells(
		[]Cell{cell("stern bench", 0.05, 0.16, -0.70, 0.70, 0.12, 0.66, false, "hinged"),
			cell("middle bench", 0.42, 0.51, -0.66, 0.66, 0.12, 0.66, true, "hinged"),
			cell("bow box", 0.78, 0.90, -0.40, 0.40, 0.45, 0.86, false, "hinged")},
		pair("side tray", 0.18, 0.40, 0.55, 0.72, 0.30, 0.55, false, "none"),
		pair("rod bed", 0.18, 0.66, 0.68, 0.80, 0.58, 0.76, false, "none")),
		Spots: spots("tiller", 0.11, 0.30, 0.66, "middle", 0.46, 0.0, 0.66, "bow", 0.70, 0.0, 0.2)},
	{Name: "skiff", Title: "Skiff, with decks fore and aft", Cells: cells(
		pair("aft hatch", 0.06, 0.17, 0.12, 0.72, 0.30, 0.84, true, "hinged"),
		[]Cell{cell("helm box", 0.36, 0.46, -0.30, 0.30, 0.30, 0.95, true, "hinged"),
			cell("fore hatch", 0.66, 0.78, -0.36, 0.36, 0.40, 0.88, true, "hinged"),
			cell("anchor locker", 0.80, 0.87, -0.20, 0.20, 0.60, 0.92, false, "hinged")},
		pair("rod rack", 0.24, 0.66, 0.58, 0.76, 0.55, 0.85, false, "none")),
		Spots: spots("helm", 0.31, 0.0, 0.30, "platform", 0.08, 0.0, 0.95, "bow", 0.86, 0.0, 0.95, "port side", 0.52, 0.32,
			0.3, "starboard side", 0.52, -0.32, 0.3)},
	{Name: "watercraft", Title: "Personal watercraft", Cells: cells(
		[]Cell{cell("rear well", 0.03, 0.24, -0.45, 0.45, 0.85, 1.25, false, "none"),
			cell("seat box", 0.30, 0.50, -0.20, 0.20, 0.85, 1.20, true, "lift-off"),
			cell("front hatch", 0.66, 0.84, -0.26, 0.26, 0.80, 1.15, true, "hinged")}),
		Spots: spots("seat", 0.40, 0.0, 1.15, "rear seat", 0.27, 0.0, 1.15)},
}

// leastSide is the smallest side that a fitted cell may keep, metres.
const leastSide = 0.06

// Fit lays a layout out in a hull: shares become metres to the centimetre, and
// what would stand out of the hull is drawn in until it stands in her, both of a
// pair alike. A cell of which nothing useful is left is left out.
func (l Layout) Fit(h Hull) ([]Cell, []Spot) {
	_, high := h.Bounds()
	scale := r3.Vec{X: high.X, Y: high.Y, Z: h.depthAmidships()}
	place := func(v r3.Vec) r3.Vec {
		return r3.Vec{X: v.X * scale.X, Y: v.Y * scale.Y, Z: v.Z * scale.Z}
	}
	var fitted []Cell
	for _, c := range l.Cells {
		c.Low, c.High = place(c.Low), place(c.High)
		if !strings.HasPrefix(c.Name, "starboard ") { // the mirror of the port one, below
			if drawIn(h, &c) {
				fitted = append(fitted, c)
				if other, paired := strings.CutPrefix(c.Name, "port "); paired {
					c.Name = "starboard " + other
					c.Low.Y, c.High.Y = -c.High.Y, -c.Low.Y
					fitted = append(fitted, c)
				}
			}
		}
	}
	var posts []Spot
	for _, s := range l.Spots {
		at := place(s.At)
		posts = append(posts, Spot{Name: s.Name, At: r3.Vec{X: centimetre(at.X), Y: centimetre(at.Y), Z: centimetre(at.Z)}})
	}
	return fitted, posts
}

func centimetre(v float64) float64 { return math.Round(v*100)/100 + 0 }

func (h Hull) depthAmidships() float64 {
	_, high := h.Bounds()
	half, ok := h.SectionAt(high.X / 2)
	if !ok {
		return high.Z
	}
	return half[len(half)-1].Z
}

// drawIn moves the sides of a cell in until it stands in the hull.
func drawIn(h Hull, c *Cell) bool {
	round := func() {
		c.Low = r3.Vec{X: math.Ceil(c.Low.X*100-1e-6) / 100, Y: math.Ceil(c.Low.Y*100-1e-6) / 100,
			Z: math.Ceil(c.Low.Z*100-1e-6) / 100}
		c.High = r3.Vec{X: math.Floor(c.High.X*100+1e-6) / 100, Y: math.Floor(c.High.Y*100+1e-6) / 100,
			Z: math.Floor(c.High.Z*100+1e-6) / 100}
	}
	for range 60 {
		round()
		if min(c.High.X-c.Low.X, c.High.Y-c.Low.Y, c.High.Z-c.Low.Z) < leastSide {
			return false
		}
		by, where := h.Leaves(c.Low, c.High)
		if by == 0 {
			return true
		}
		switch where {
		case "through the bottom":
			c.Low.Z += by + 0.005
		case "through the side":
			// Out at the foot of the side is drawn up as well as in.
			c.Low.Z += min(0.02, (c.High.Z-c.Low.Z)/8)
			if c.High.Y > 0 && c.High.Y >= -c.Low.Y {
				c.High.Y -= min(by, 0.02)
			}
			if c.Low.Y < 0 && -c.Low.Y >= c.High.Y {
				c.Low.Y += min(by, 0.02)
			}
		case "ahead of the stem":
			c.High.X -= by + 0.005
		default:
			c.Low.X += by + 0.005
		}
	}
	return false
}
