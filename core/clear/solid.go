package clear

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Touch is how deep things may stand in each other before it is said, m. Practice:
// nobody measures a boat closer.
const Touch = 0.005

// Solid is a convex body.
type Solid struct {
	Corners   []r3.Vec
	normals   []r3.Vec // of its faces, one of each parallel pair
	edges     []r3.Vec // directions
	low, high r3.Vec   // its bounds
}

func solid(corners, normals, edges []r3.Vec) Solid {
	s := Solid{Corners: corners, normals: normals, edges: edges}
	s.low, s.high = corners[0], corners[0]
	for _, c := range corners {
		s.low = r3.Vec{X: min(s.low.X, c.X), Y: min(s.low.Y, c.Y), Z: min(s.low.Z, c.Z)}
		s.high = r3.Vec{X: max(s.high.X, c.X), Y: max(s.high.Y, c.Y), Z: max(s.high.Z, c.Z)}
	}
	return s
}

// Bounds of a body along the boat's axes.
func (s Solid) Bounds() (low, high r3.Vec) { return s.low, s.high }

// Box is a box about its middle, with three axes at right angles and half sides
// along them.
func Box(middle r3.Vec, axes [3]r3.Vec, half r3.Vec) Solid {
	var corners []r3.Vec
	for _, i := range []float64{-1, 1} {
		for _, j := range []float64{-1, 1} {
			for _, k := range []float64{-1, 1} {
				corners = append(
					corners,
					sum(middle, r3.Scale(i*half.X, axes[0]), r3.Scale(j*half.Y, axes[1]), r3.Scale(k*half.Z, axes[2])),
				)
			}
		}
	}
	return solid(corners, axes[:], axes[:])
}

// Block is a box along the boat's own axes.
func Block(low, high r3.Vec) Solid {
	return Box(r3.Scale(0.5, r3.Add(low, high)), [3]r3.Vec{{X: 1}, {Y: 1}, {Z: 1}}, r3.Scale(0.5, r3.Sub(high, low)))
}

// arcStep is the angle of a polygon's side that stands for an arc, rad.
const arcStep = math.Pi / 24

// Disc is an upright cylinder about an axis from its foot.
func Disc(foot, axis r3.Vec, radius, height float64) Solid {
	u, v := across(axis)
	n := int(math.Ceil(2 * math.Pi / arcStep))
	n += n % 2
	return prism(foot, r3.Scale(height, axis), u, v, round(radius, 0, 2*math.Pi, n))
}

// Sector is what a plate sweeps that turns about an edge: from the hinge's one end
// along it, and from a direction at right angles to it up towards rise, by at most
// half a turn, rad.
func Sector(hinge, along, from, rise r3.Vec, radius, angle float64) Solid {
	n := max(int(math.Ceil(angle/arcStep)), 1)
	return prism(hinge, along, from, rise, append([][2]float64{{0, 0}}, round(radius, 0, angle, n)...))
}

// round are the corners of a polygon outside an arc that touches it.
func round(radius, from, to float64, n int) [][2]float64 {
	step := (to - from) / float64(n)
	out := radius / math.Cos(step/2)
	list := [][2]float64{{radius * math.Cos(from), radius * math.Sin(from)}}
	for i := range n {
		a := from + (float64(i)+0.5)*step
		list = append(list, [2]float64{out * math.Cos(a), out * math.Sin(a)})
	}
	if to-from < 2*math.Pi-1e-9 {
		return append(list, [2]float64{radius * math.Cos(to), radius * math.Sin(to)})
	}
	return list[1:]
}

// prism is a convex polygon in the plane of u and v, drawn along an axis.
func prism(at, along, u, v r3.Vec, polygon [][2]float64) Solid {
	point := func(p [2]float64) r3.Vec { return sum(at, r3.Scale(p[0], u), r3.Scale(p[1], v)) }
	var corners []r3.Vec
	axis := r3.Unit(along)
	normals, edges := []r3.Vec{axis}, []r3.Vec{axis}
	for i, p := range polygon {
		corners = append(corners, point(p), r3.Add(point(p), along))
		q := polygon[(i+1)%len(polygon)]
		side := r3.Sub(point(q), point(p))
		if r3.Norm(side) > 1e-9 {
			edges = append(edges, r3.Unit(side))
			normals = append(normals, r3.Unit(r3.Cross(side, axis)))
		}
	}
	return solid(corners, normals, edges)
}

// across gives two directions at right angles to an axis and each other.
func across(axis r3.Vec) (u, v r3.Vec) {
	u = r3.Vec{X: 1}
	if math.Abs(axis.X) > 0.9 {
		u = r3.Vec{Y: 1}
	}
	u = r3.Unit(r3.Sub(u, r3.Scale(r3.Dot(u, axis), axis)))
	return u, r3.Cross(axis, u)
}

func sum(v ...r3.Vec) (s r3.Vec) {
	for _, w := range v {
		s = r3.Add(s, w)
	}
	return s
}

// span is how far a body reaches along a direction.
func (s Solid) span(axis r3.Vec) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, c := range s.Corners {
		d := r3.Dot(c, axis)
		low, high = min(low, d), max(high, d)
	}
	return low, high
}

// Depth is how deep two bodies stand in each other, m: the shortest way apart, or
// nought where they are apart.
func Depth(a, b Solid) float64 {
	if a.high.X < b.low.X || b.high.X < a.low.X || a.high.Y < b.low.Y || b.high.Y < a.low.Y ||
		a.high.Z < b.low.Z || b.high.Z < a.low.Z {
		return 0
	}
	least := math.Inf(1) // of the overlaps along the axes looked at
	along := func(axis r3.Vec) bool {
		a1, a2 := a.span(axis)
		b1, b2 := b.span(axis)
		least = min(least, a2-b1, b2-a1)
		return least > 0
	}
	for _, list := range [][]r3.Vec{a.normals, b.normals} {
		for _, n := range list {
			if !along(n) {
				return 0
			}
		}
	}
	for _, e := range a.edges {
		for _, f := range b.edges {
			if c := r3.Cross(e, f); r3.Norm(c) > 1e-6 && !along(r3.Unit(c)) {
				return 0
			}
		}
	}
	return least
}

// Within is the stretch of a line from a point to another that lies in a body, as
// shares of the way; none where it misses.
func (s Solid) Within(from, to r3.Vec) (enters, leaves float64, meets bool) {
	enters, leaves = 0, 1
	way := r3.Sub(to, from)
	for _, n := range s.normals {
		low, high := s.span(n)
		at, by := r3.Dot(from, n), r3.Dot(way, n)
		if math.Abs(by) < 1e-12 {
			if at < low || at > high {
				return 0, 0, false
			}
			continue
		}
		t1, t2 := (low-at)/by, (high-at)/by
		enters, leaves = max(enters, min(t1, t2)), min(leaves, max(t1, t2))
	}
	return enters, leaves, enters < leaves
}

// Has says whether a point lies in a body.
func (s Solid) Has(p r3.Vec) bool {
	for _, n := range s.normals {
		low, high := s.span(n)
		if d := r3.Dot(p, n); d < low || d > high {
			return false
		}
	}
	return true
}

// mapped is a body with its corners carried elsewhere by a turn and a shift.
func (s Solid) mapped(turn func(r3.Vec) r3.Vec, shift r3.Vec) Solid {
	all := func(list []r3.Vec, by r3.Vec) []r3.Vec {
		out := make([]r3.Vec, len(list))
		for i, v := range list {
			out[i] = r3.Add(turn(v), by)
		}
		return out
	}
	return solid(all(s.Corners, shift), all(s.normals, r3.Vec{}), all(s.edges, r3.Vec{}))
}
