package clear_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"ergasia/core/clear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

const worlds = 1000

func between(r *rand.Rand, low, high float64) float64 { return low + (high-low)*r.Float64() }

func anyThing(r *rand.Rand) clear.Thing {
	return clear.Thing{ID: "t", Stands: []string{"up", "down", "out"}[r.IntN(3)],
		At:   r3.Vec{X: between(r, 0, 1.2), Y: between(r, -0.6, 0.6), Z: between(r, 0.2, 1)},
		Size: r3.Vec{X: between(r, 0.03, 0.8), Y: between(r, 0.03, 0.6), Z: between(r, 0.03, 1)},
		Turn: between(r, -180, 180), Lean: between(r, -60, 60)}
}

// inside says whether a point lies in a box-shaped thing, at least so deep; worked
// out in the thing's own axes and not by the body's planes.
func inside(t clear.Thing, deep float64) func(p r3.Vec) bool {
	axes, middle := t.Axes(), t.Middle()
	half := [3]float64{t.Size.X/2 - deep, t.Size.Y/2 - deep, t.Size.Z/2 - deep}
	return func(p r3.Vec) bool {
		off := r3.Sub(p, middle)
		return math.Abs(r3.Dot(off, axes[0])) <= half[0] && math.Abs(r3.Dot(off, axes[1])) <= half[1] &&
			math.Abs(r3.Dot(off, axes[2])) <= half[2]
	}
}

// points of a grid in a thing.
func points(t clear.Thing, n int) (list []r3.Vec) {
	axes := t.Axes()
	at := func(i int) float64 { return float64(i)/float64(n-1) - 0.5 }
	for i := range n {
		for j := range n {
			for k := range n {
				p := t.Middle()
				for a, by := range []float64{at(i) * t.Size.X, at(j) * t.Size.Y, at(k) * t.Size.Z} {
					p = r3.Add(p, r3.Scale(by, axes[a]))
				}
				list = append(list, p)
			}
		}
	}
	return list
}

// meet looks for a point of two things by going back and forth between them (von
// Neumann's alternating projections), and says how far apart it stayed.
func meet(a, b clear.Thing) float64 {
	into := func(t clear.Thing, p r3.Vec) r3.Vec {
		axes, off := t.Axes(), r3.Sub(p, t.Middle())
		q := t.Middle()
		for k, half := range []float64{t.Size.X / 2, t.Size.Y / 2, t.Size.Z / 2} {
			q = r3.Add(q, r3.Scale(max(-half, min(half, r3.Dot(off, axes[k]))), axes[k]))
		}
		return q
	}
	p := a.Middle()
	var q r3.Vec
	for range 4000 {
		q = into(b, p)
		p = into(a, q)
		if r3.Norm(r3.Sub(p, q)) < 0.001 {
			break
		}
	}
	return r3.Norm(r3.Sub(p, q))
}

func TestNoOverlapIsMissedAndNoneMadeUp(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 1))
	deep, apart := 0, 0
	for world := range worlds {
		a, b := anyThing(r), anyThing(r)
		depth := clear.Depth(a.Body(), b.Body())
		stands, within := false, inside(b, 0.0051)
		for _, p := range points(a, 13) {
			stands = stands || within(p)
		}
		if stands {
			deep++
			require.Greater(t, depth, clear.Touch, "world %d", world)
		}
		if depth == 0 {
			apart++
		} else {
			require.Less(t, meet(a, b), 0.002, "world %d: depth %.4f", world, depth)
		}
	}
	assert.Greater(t, deep, worlds/10)
	assert.Greater(t, apart, worlds/10)
}

func TestNoLidIsThoughtToOpenThatMeetsSomething(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 2))
	met := 0
	for world := range worlds {
		long, broad := between(r, 0.2, 0.8), between(r, 0.2, 0.8)
		p := clear.Place{Low: r3.Vec{X: 0.2, Y: -0.3, Z: 0.1}, High: r3.Vec{X: 0.2 + long, Y: -0.3 + broad, Z: 0.4},
			Hinge: []string{"aft", "fore", "port", "starboard"}[world%4]}
		thing := anyThing(r)
		thing.At.Z += 0.3
		scene := clear.Scene{Things: []clear.Thing{thing}, Places: []clear.Place{p}}
		opens := 95.0
		for _, f := range clear.Look(scene, "") {
			if f.Kind == clear.Lid {
				opens = f.By
			}
		}
		hits := firstHit(p, thing)
		if hits < 95 {
			met++
			require.LessOrEqual(t, opens, hits+0.6, "world %d, hinge %s", world, p.Hinge)
		}
	}
	assert.Greater(t, met, worlds/10)
}

// firstHit turns a lid half a degree at a time until a point of it is 5 mm in a thing.
func firstHit(p clear.Place, thing clear.Thing) float64 {
	dx, dy := p.High.X-p.Low.X, p.High.Y-p.Low.Y
	within := inside(thing, 0.0051)
	for angle := 0.0; angle < 95; angle += 0.5 {
		sin, cos := math.Sincos(angle * math.Pi / 180)
		for i := range 16 {
			for j := range 16 {
				u, v := float64(i)/15, float64(j)/15 // out from the hinge, along it
				q := r3.Vec{X: p.Low.X + v*dx, Y: p.Low.Y + v*dy}
				switch p.Hinge {
				case "aft":
					q.X, q.Z = p.Low.X+u*dx*cos, u*dx*sin
				case "fore":
					q.X, q.Z = p.High.X-u*dx*cos, u*dx*sin
				case "port":
					q.Y, q.Z = p.High.Y-u*dy*cos, u*dy*sin
				case "starboard":
					q.Y, q.Z = p.Low.Y+u*dy*cos, u*dy*sin
				}
				q.Z += p.High.Z
				if within(q) {
					return angle
				}
			}
		}
	}
	return 95
}

func TestNothingTurnsThroughSomething(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 3))
	met := 0
	for world := range worlds {
		seat := clear.Thing{ID: "seat", Kind: "seat", Stands: "up", At: r3.Vec{X: 0.6, Z: 0.3},
			Size: r3.Vec{X: 0.5, Y: 0.45, Z: 0.8}, Swing: between(r, 0.25, 0.6)}
		other := anyThing(r)
		other.At.X += 0.4
		hit, within := false, inside(other, 0.0051)
		for a := 0.0; a < 360; a += 3 {
			for ring := range 8 {
				for up := range 10 {
					sin, cos := math.Sincos(a * math.Pi / 180)
					out := seat.Swing * float64(ring+1) / 8
					z := seat.At.Z + seat.Size.Z*(0.4+0.6*float64(up)/9)
					hit = hit || within(r3.Vec{X: 0.6 + out*cos, Y: out * sin, Z: z})
				}
			}
		}
		found := false
		for _, f := range clear.Look(clear.Scene{Things: []clear.Thing{seat, other}}, "") {
			found = found || f.Kind == clear.Turn
		}
		if hit {
			met++
			require.True(t, found, "world %d", world)
		}
	}
	assert.Greater(t, met, worlds/10)
}

func TestWhatIsHiddenAheadIsWhatALineMeets(t *testing.T) {
	r := rand.New(rand.NewPCG(13, 4))
	seen, hidden := 0, 0
	for world := range worlds {
		thing := anyThing(r)
		thing.At.X += 1.5
		within := inside(thing, 0.005)
		eye := r3.Vec{X: 0.2, Y: between(r, -0.3, 0.3), Z: between(r, 1.2, 1.9)}
		trim := between(r, -0.05, 0.05)
		w := clear.Water{Up: r3.Unit(r3.Vec{X: trim, Z: 1}), Level: 0.2}
		rays := clear.Ahead(eye, w, nil, []clear.Obstacle{{ID: "t", Body: thing.Body()}})
		ray := rays[r.IntN(len(rays))]
		for range 25 {
			far := between(r, 2, 80)
			p := onWater(eye, w, ray.Bearing, far)
			meets := false
			for s := 0.0; s < 1; s += 0.003 / r3.Norm(r3.Sub(p, eye)) * 4 {
				if q := r3.Add(eye, r3.Scale(s, r3.Sub(p, eye))); r3.Norm(r3.Sub(q, eye)) < 5 {
					meets = meets || within(q)
				} else {
					break
				}
			}
			told := false
			for _, h := range ray.Hides {
				told = told || far > h.From && far < h.To
			}
			if meets && (far > 20 || len(ray.Hides) > 0) { // what hides nothing beyond 20 m is not told
				hidden++
				require.True(t, told, "world %d, %v m at %v°", world, far, ray.Bearing)
			} else if !told {
				seen++
			}
		}
	}
	assert.Greater(t, hidden, 400)
	assert.Greater(t, seen, 1000)
}

// onWater is the point on the water so far from an eye, level, at a bearing.
func onWater(eye r3.Vec, w clear.Water, bearing, far float64) r3.Vec {
	ahead := r3.Unit(r3.Sub(r3.Vec{X: 1}, r3.Scale(w.Up.X, w.Up)))
	left := r3.Cross(w.Up, ahead)
	sin, cos := math.Sincos(bearing * math.Pi / 180)
	foot := r3.Sub(eye, r3.Scale(r3.Dot(eye, w.Up)-w.Level, w.Up))
	return r3.Add(foot, r3.Add(r3.Scale(far*cos, ahead), r3.Scale(far*sin, left)))
}
