package float

import (
	"math"

	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

// solid is a closed surface of triangles that face outward. For each triangle
// it keeps what the tetrahedron to any apex o is made of, so that one that is
// wholly wet costs a few sums: six volumes are a·(b×c) - 2 o·n with n the area
// vector, and its centroid is (o + a+b+c)/4. It is not changed by use.
type solid struct {
	vertices  []r3.Vec
	triangles [][3]int32
	parts     []part
}

type part struct {
	triple float64 // a·(b×c)/6, m³
	area   r3.Vec  // (a×b + b×c + c×a)/6: a third of the area vector, m²
	sum    r3.Vec  // a + b + c
}

func newSolid(m hull.Mesh) *solid {
	s := &solid{vertices: m.Vertices, triangles: m.Triangles, parts: make([]part, len(m.Triangles))}
	for i, t := range m.Triangles {
		a, b, c := m.Vertices[t[0]], m.Vertices[t[1]], m.Vertices[t[2]]
		bc := r3.Cross(b, c)
		s.parts[i] = part{
			triple: r3.Dot(a, bc) / 6,
			area:   r3.Scale(1.0/6, r3.Add(r3.Cross(a, b), r3.Add(bc, r3.Cross(c, a)))),
			sum:    r3.Add(a, r3.Add(b, c)),
		}
	}
	return s
}

// body is a solid with the scratch that clipping needs, so that evaluating it
// allocates nothing. It serves one goroutine.
type body struct {
	*solid
	depth []float64
}

func newBody(s *solid) *body { return &body{solid: s, depth: make([]float64, len(s.vertices))} }

// frame is an attitude: up and the two horizontal directions, as unit vectors
// in the boat's axes. Forward is the boat's, laid level; port completes it.
type frame struct{ up, forward, port r3.Vec }

// attitude makes a frame of trim and heel in radians. Its derivatives are
// d(up)/d(trim) = forward and d(up)/d(heel) = cos(trim) port.
func attitude(trim, heel float64) frame {
	st, ct := math.Sincos(trim)
	sh, ch := math.Sincos(heel)
	return frame{
		up:      r3.Vec{X: st, Y: ct * sh, Z: ct * ch},
		forward: r3.Vec{X: ct, Y: -st * sh, Z: -st * ch},
		port:    r3.Vec{X: 0, Y: ch, Z: -sh},
	}
}

// immersion is what lies under the surface, about a point of reference: first
// and second moments are taken from it, in the boat's axes (moment) and along
// the level directions forward and port (the waterplane's).
type immersion struct {
	volume          float64 // m³
	moment          r3.Vec  // ∫ r dV, m⁴
	area            float64 // of the waterplane, in its own plane, m²
	sForward, sPort float64 // ∫ dA along forward and port, m³
	iFF, iPP, iFP   float64 // second moments of the waterplane, m⁴
}

// immerse clips the body at u·(p - ref) = h.
func (b *body) immerse(f frame, ref r3.Vec, h float64) immersion {
	level := h + r3.Dot(f.up, ref)
	for i, v := range b.vertices {
		b.depth[i] = level - r3.Dot(f.up, v)
	}
	var sum immersion
	apex := r3.Add(ref, r3.Scale(h, f.up)) // lies in the surface
	for i, t := range b.triangles {
		d := [3]float64{b.depth[t[0]], b.depth[t[1]], b.depth[t[2]]}
		if d[0] > 0 && d[1] > 0 && d[2] > 0 {
			p := &b.parts[i]
			sum.add(p.triple-r3.Dot(apex, p.area), r3.Add(apex, p.sum))
		} else if d[0] > 0 || d[1] > 0 || d[2] > 0 {
			sum.clipped(f, apex, [3]r3.Vec{b.vertices[t[0]], b.vertices[t[1]], b.vertices[t[2]]}, d)
		}
	}
	sum.moment = r3.Sub(sum.moment, r3.Scale(sum.volume, ref))
	return sum
}

// add adds a tetrahedron by its volume and the sum of its corners.
func (s *immersion) add(volume float64, corners r3.Vec) {
	s.volume += volume
	s.moment = r3.Add(s.moment, r3.Scale(volume/4, corners))
}

// clipped adds the part of a triangle that lies under the surface.
func (s *immersion) clipped(f frame, apex r3.Vec, p [3]r3.Vec, d [3]float64) {
	for d[0] <= 0 || d[2] > 0 { // turn it until the first is wet and the last is dry
		p[0], p[1], p[2] = p[1], p[2], p[0]
		d[0], d[1], d[2] = d[1], d[2], d[0]
	}
	toDry := between(p[0], p[2], d[0], d[2])
	if d[1] > 0 {
		cut := between(p[1], p[2], d[1], d[2])
		s.tetrahedron(apex, p[0], p[1], cut)
		s.tetrahedron(apex, p[0], cut, toDry)
		s.edge(f, r3.Sub(cut, apex), r3.Sub(toDry, apex))
		return
	}
	cut := between(p[0], p[1], d[0], d[1])
	s.tetrahedron(apex, p[0], cut, toDry)
	s.edge(f, r3.Sub(cut, apex), r3.Sub(toDry, apex))
}

func between(wet, dry r3.Vec, dWet, dDry float64) r3.Vec {
	t := dWet / (dWet - dDry)
	return r3.Add(wet, r3.Scale(t, r3.Sub(dry, wet)))
}

func (s *immersion) tetrahedron(o, a, b, c r3.Vec) {
	s.add(r3.Dot(r3.Sub(a, o), r3.Cross(r3.Sub(b, o), r3.Sub(c, o)))/6, r3.Add(r3.Add(o, a), r3.Add(b, c)))
}

// edge adds an edge of the waterplane, from the apex, by Green's theorem. The wet triangle lies
// under it, so the plane's outline runs against the triangle's direction.
func (s *immersion) edge(fr frame, from, to r3.Vec) {
	fa, pa := r3.Dot(fr.forward, to), r3.Dot(fr.port, to)
	fb, pb := r3.Dot(fr.forward, from), r3.Dot(fr.port, from)
	c := fa*pb - fb*pa
	s.area += c / 2
	s.sForward += c * (fa + fb) / 6
	s.sPort += c * (pa + pb) / 6
	s.iFF += c * (fa*fa + fa*fb + fb*fb) / 12
	s.iPP += c * (pa*pa + pa*pb + pb*pb) / 12
	s.iFP += c * (fa*(2*pa+pb) + fb*(pa+2*pb)) / 24
}

// levels gives the lowest and highest u·(p - ref) of the body.
func (b *body) levels(f frame, ref r3.Vec) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, v := range b.vertices {
		z := r3.Dot(f.up, r3.Sub(v, ref))
		low, high = min(low, z), max(high, z)
	}
	return low, high
}

// fill finds the surface under which the body holds the volume, from a start,
// by Newton kept within a shrinking bracket. It gives the level and what lies
// under it; the volume must be within the body's. Near is how close, as a share
// of the volume, is close enough.
func (b *body) fill(f frame, ref r3.Vec, volume, start, near float64) (float64, immersion) {
	low, high := b.levels(f, ref)
	h := start
	if !(h > low && h < high) {
		h = (low + high) / 2
	}
	var im immersion
	for range 80 {
		im = b.immerse(f, ref, h)
		off := im.volume - volume
		if math.Abs(off) <= near*volume {
			break
		}
		if off > 0 {
			high = h
		} else {
			low = h
		}
		next := h - off/im.area
		if !(next > low && next < high) {
			next = (low + high) / 2
		}
		if next == h {
			break
		}
		h = next
	}
	return h, im
}
