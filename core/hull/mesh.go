package hull

import (
	"gonum.org/v1/gonum/spatial/r3"
)

// Mesh is a closed surface of triangles that face outward. Several may be joined
// into one; one turned inside out takes its inside away from the others.
type Mesh struct {
	Vertices  []r3.Vec
	Triangles [][3]int32
}

// Volume in m³ by the divergence theorem: the sum of the tetrahedra from the origin.
func (m Mesh) Volume() float64 {
	v := 0.0
	for _, t := range m.Triangles {
		a, b, c := m.Vertices[t[0]], m.Vertices[t[1]], m.Vertices[t[2]]
		v += r3.Dot(a, r3.Cross(b, c)) / 6
	}
	return v
}

// Centroid of the inside, metres.
func (m Mesh) Centroid() r3.Vec {
	var sum r3.Vec
	for _, t := range m.Triangles {
		a, b, c := m.Vertices[t[0]], m.Vertices[t[1]], m.Vertices[t[2]]
		sum = r3.Add(sum, r3.Scale(r3.Dot(a, r3.Cross(b, c))/24, r3.Add(a, r3.Add(b, c))))
	}
	if v := m.Volume(); v != 0 {
		return r3.Scale(1/v, sum)
	}
	return sum
}

// Box is the mesh of a box with its edges along the axes.
func Box(low, high r3.Vec) Mesh {
	var m Mesh
	pick := func(low, high float64, second bool) float64 {
		if second {
			return high
		}
		return low
	}
	for i := range 8 {
		m.Vertices = append(m.Vertices, r3.Vec{X: pick(low.X, high.X, i&1 > 0), Y: pick(low.Y, high.Y, i&2 > 0),
			Z: pick(low.Z, high.Z, i&4 > 0)})
	}
	m.Triangles = [][3]int32{
		{0, 2, 3}, {0, 3, 1}, {4, 5, 7}, {4, 7, 6}, // below, above
		{0, 1, 5}, {0, 5, 4}, {2, 6, 7}, {2, 7, 3}, // y low, y high
		{0, 4, 6}, {0, 6, 2}, {1, 3, 7}, {1, 7, 5}, // x low, x high
	}
	return m
}

// Inverted is the mesh turned inside out: its volume counts against others'.
func (m Mesh) Inverted() Mesh {
	turned := Mesh{Vertices: m.Vertices, Triangles: make([][3]int32, len(m.Triangles))}
	for i, t := range m.Triangles {
		turned.Triangles[i] = [3]int32{t[0], t[2], t[1]}
	}
	return turned
}

// Join puts meshes into one.
func Join(meshes ...Mesh) Mesh {
	var all Mesh
	for _, m := range meshes {
		n := int32(len(all.Vertices))
		all.Vertices = append(all.Vertices, m.Vertices...)
		for _, t := range m.Triangles {
			all.Triangles = append(all.Triangles, [3]int32{t[0] + n, t[1] + n, t[2] + n})
		}
	}
	return all
}

// Within is the part of the inside that lies in a box, such as the bilge under
// a sole, or a well in the stern.
func (m Mesh) Within(low, high r3.Vec) Mesh {
	axes := []struct{ normal, through r3.Vec }{
		{r3.Vec{X: 1}, high}, {r3.Vec{X: -1}, low}, {r3.Vec{Y: 1}, high}, {r3.Vec{Y: -1}, low}, {r3.Vec{Z: 1}, high},
		{r3.Vec{Z: -1}, low},
	}
	for _, a := range axes {
		m = m.cut(a.normal, r3.Dot(a.normal, a.through))
	}
	return m
}

// cut keeps what lies at normal·p <= offset. The hole is closed by a fan from
// one of its points; where the hole is not convex the fan's triangles overlap
// with opposite sign, so that sums over them are still right.
func (m Mesh) cut(normal r3.Vec, offset float64) Mesh {
	over := make([]float64, len(m.Vertices))
	out := false
	for i, v := range m.Vertices {
		over[i] = r3.Dot(normal, v) - offset
		out = out || over[i] > 0
	}
	if !out {
		return m
	}
	kept := cutter{index: map[r3.Vec]int32{}}
	for _, t := range m.Triangles {
		kept.triangle([3]r3.Vec{m.Vertices[t[0]], m.Vertices[t[1]], m.Vertices[t[2]]}, [3]float64{over[t[0]], over[t[1]],
			over[t[2]]})
	}
	for _, edge := range kept.rim {
		kept.add(kept.rim[0][0], edge[1], edge[0])
	}
	return kept.Mesh
}

type cutter struct {
	Mesh
	index map[r3.Vec]int32
	rim   [][2]r3.Vec // edges of the hole, in the direction of the kept faces
}

func (c *cutter) vertex(p r3.Vec) int32 {
	if i, ok := c.index[p]; ok {
		return i
	}
	i := int32(len(c.Vertices))
	c.index[p] = i
	c.Vertices = append(c.Vertices, p)
	return i
}

func (c *cutter) add(p, q, r r3.Vec) {
	if p != q && q != r && r != p {
		c.Triangles = append(c.Triangles, [3]int32{c.vertex(p), c.vertex(q), c.vertex(r)})
	}
}

func (c *cutter) triangle(p [3]r3.Vec, over [3]float64) {
	var ring []r3.Vec
	var leaves, enters *r3.Vec
	for i := range 3 {
		j := (i + 1) % 3
		if over[i] <= 0 {
			ring = append(ring, p[i])
		}
		if (over[i] <= 0) == (over[j] <= 0) {
			continue
		}
		in, out := i, j // from the kept end, so that both faces of an edge find the same point
		if over[i] > 0 {
			in, out = j, i
		}
		at := r3.Add(p[in], r3.Scale(over[in]/(over[in]-over[out]), r3.Sub(p[out], p[in])))
		ring = append(ring, at)
		if in == i {
			leaves = &at
		} else {
			enters = &at
		}
	}
	for i := 1; i+1 < len(ring); i++ {
		c.add(ring[0], ring[i], ring[i+1])
	}
	if leaves != nil && enters != nil {
		c.rim = append(c.rim, [2]r3.Vec{*leaves, *enters})
	}
}

// Inset is the hull's inside where her skin is so many metres thick, open at the
// sheer: points move in along their section, the ends move in along the boat.
func (h Hull) Inset(thickness float64) Hull {
	in := Hull{FloodPoints: h.FloodPoints}
	last := len(h.Stations) - 1
	for i, s := range h.Stations {
		inner := Station{X: s.X}
		along := 0.0
		if i == 0 {
			along = thickness
		} else if i == last {
			along = -thickness
		}
		inner.X += along
		for _, x := range s.PointX {
			inner.PointX = append(inner.PointX, x+along)
		}
		for k := range s.Half {
			inner.Half = append(inner.Half, insetPoint(s.Half, k, thickness))
		}
		in.Stations = append(in.Stations, inner)
	}
	return in
}

// insetPoint moves a point of a half-section inward; on the centreline straight
// up, at the sheer straight in, so that the boat stays open at the same height.
func insetPoint(half []Point, k int, by float64) Point {
	p := half[k]
	if k == 0 && p.Y == 0 {
		return Point{Y: 0, Z: p.Z + by}
	}
	if k == len(half)-1 {
		return Point{Y: max(p.Y-by, 0), Z: p.Z}
	}
	var ny, nz float64 // inward normals of the edges that meet here
	for _, e := range [][2]int{{k - 1, k}, {k, k + 1}} {
		if e[0] < 0 {
			continue
		}
		dy, dz := half[e[1]].Y-half[e[0]].Y, half[e[1]].Z-half[e[0]].Z
		if l := hypot(dy, dz); l > 0 {
			ny, nz = ny-dz/l, nz+dy/l
		}
	}
	l2 := ny*ny + nz*nz
	if l2 == 0 {
		return p
	}
	if k > 0 {
		by *= min(2/l2, 2) // to the mitre of both edges, but no further than twice the skin
	}
	return Point{Y: max(p.Y+by*ny, 0), Z: min(p.Z+by*nz, half[len(half)-1].Z)}
}
