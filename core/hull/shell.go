package hull

import (
	"math"

	"ergasia/core/check"

	"gonum.org/v1/gonum/spatial/r3"
)

// warpTolerance is how much volume the choice of diagonals in one face may
// move, as a share of the hull's bounding box, before the face is refined. A
// test in core/float shows that a finer one moves the demo's boat by less than
// 0.05 mm.
const warpTolerance = 4e-5

// maxRefinement bounds how finely one warped face is cut.
const maxRefinement = 16

// Shell is the closed surface of a hull as triangles that face outward.
type Shell struct {
	Mesh
	Sheer     []r3.Vec // both sides, where the lid begins
	Low, High r3.Vec   // bounds
	Holds     float64  // cubic metres, lid on
}

// Shell builds the closed triangle shell. The hull must have passed Check; one
// that holds no water is refused.
func (h Hull) Shell() (*Shell, error) {
	s := &Shell{}
	s.Low, s.High = h.Bounds()
	size := r3.Sub(s.High, s.Low)
	b := &builder{shell: s, tolerance: warpTolerance * size.X * size.Y * size.Z, index: map[r3.Vec]int32{}}
	for i := 1; i < len(h.Stations); i++ {
		b.strake(h.Stations[i-1], h.Stations[i])
	}
	b.end(h.Stations[0], false)
	b.end(h.Stations[len(h.Stations)-1], true)
	for _, st := range h.Stations {
		s.Sheer = append(s.Sheer, st.sheer(), mirror(st.sheer()))
	}
	s.Holds = s.Volume()
	if !(s.Holds > 1e-9) {
		return nil, check.Faults{{Field: "hull.stations", Value: s.Holds,
			Want: "these stations enclose no volume: give a hull that holds some"}}
	}
	return s, nil
}

type builder struct {
	shell     *Shell
	tolerance float64
	index     map[r3.Vec]int32
}

func mirror(p r3.Vec) r3.Vec { return r3.Vec{X: p.X, Y: -p.Y, Z: p.Z} }

// strake adds the sides between two stations, the lid over them, and the
// bottom between the first points where these do not meet on the centreline.
func (b *builder) strake(aft, fore Station) {
	last := len(aft.Half) - 1
	for k := 0; k < last; k++ {
		p := [4]r3.Vec{aft.at(k), aft.at(k + 1), fore.at(k + 1), fore.at(k)}
		b.face(p)
		b.face([4]r3.Vec{mirror(p[3]), mirror(p[2]), mirror(p[1]), mirror(p[0])})
	}
	a, f := aft.at(last), fore.at(last)
	b.face([4]r3.Vec{mirror(a), mirror(f), f, a})
	a, f = aft.at(0), fore.at(0)
	b.face([4]r3.Vec{mirror(a), a, f, mirror(f)})
}

// end closes transom or bow with strips from side to side.
func (b *builder) end(s Station, bow bool) {
	for k := 0; k+1 < len(s.Half); k++ {
		p, q := s.at(k), s.at(k+1)
		if bow {
			b.face([4]r3.Vec{mirror(p), p, q, mirror(q)})
		} else {
			b.face([4]r3.Vec{mirror(p), mirror(q), q, p})
		}
	}
}

// face adds a four-cornered face, corners in order, outward by the right hand.
func (b *builder) face(c [4]r3.Vec) {
	warp := math.Abs(r3.Dot(r3.Sub(c[1], c[0]), r3.Cross(r3.Sub(c[2], c[0]), r3.Sub(c[3], c[0])))) / 6
	if warp <= b.tolerance*1e-7 {
		b.triangle(c[0], c[1], c[2])
		b.triangle(c[0], c[2], c[3])
		return
	}
	// The warp of an n by n cut is warp/n² in all, since each part has warp/n⁴.
	n := int(math.Ceil(math.Sqrt(warp / b.tolerance)))
	n = min(max(n, 1), maxRefinement)
	at := func(i, j int) r3.Vec { return bilinear(c, float64(i)/float64(n), float64(j)/float64(n)) }
	for i := 0; i < n; i++ {
		for j := 0; j < n; j++ {
			b.fan([4]r3.Vec{at(i, j), at(i+1, j), at(i+1, j+1), at(i, j+1)})
		}
	}
}

func (b *builder) fan(c [4]r3.Vec) {
	middle := bilinear(c, 0.5, 0.5)
	for i := range c {
		b.triangle(c[i], c[(i+1)%4], middle)
	}
}

func bilinear(c [4]r3.Vec, u, v float64) r3.Vec {
	return r3.Add(
		r3.Add(r3.Scale((1-u)*(1-v), c[0]), r3.Scale(u*(1-v), c[1])),
		r3.Add(r3.Scale(u*v, c[2]), r3.Scale((1-u)*v, c[3])))
}

func (b *builder) triangle(p, q, r r3.Vec) {
	if r3.Norm2(r3.Cross(r3.Sub(q, p), r3.Sub(r, p))) < 1e-28 {
		return // no area, such as a lid at a pointed bow
	}
	b.shell.Triangles = append(b.shell.Triangles, [3]int32{b.vertex(p), b.vertex(q), b.vertex(r)})
}

func (b *builder) vertex(p r3.Vec) int32 {
	p = r3.Vec{X: p.X + 0, Y: p.Y + 0, Z: p.Z + 0} // -0 and 0 are one point
	if i, ok := b.index[p]; ok {
		return i
	}
	i := int32(len(b.shell.Vertices))
	b.index[p] = i
	b.shell.Vertices = append(b.shell.Vertices, p)
	return i
}
