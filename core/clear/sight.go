package clear

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Water is the sea's surface in the boat's axes: up·p = Level on it.
type Water struct {
	Up    r3.Vec
	Level float64
}

// level gives the turn into axes that are level with the water, with its surface at
// nought and the bow ahead.
func (w Water) level() (turn func(r3.Vec) r3.Vec, shift r3.Vec) {
	up := r3.Unit(w.Up)
	ahead := r3.Unit(r3.Sub(r3.Vec{X: 1}, r3.Scale(up.X, up)))
	left := r3.Cross(up, ahead)
	return func(p r3.Vec) r3.Vec { return r3.Vec{X: r3.Dot(p, ahead), Y: r3.Dot(p, left), Z: r3.Dot(p, up)} }, r3.Vec{
		Z: -w.Level,
	}
}

// How wide one looks ahead, and in what steps, degrees. Practice: within this a boat
// or a log is met.
const (
	lookWide = 20
	lookStep = 1
)

// Hides is what a body hides of the water ahead at one bearing.
type Hides struct {
	ID       string
	From, To float64 // m from the eye, level; To is infinite where the horizon is hidden too
}

// Ray is what is seen at one bearing.
type Ray struct {
	Bearing float64 // degrees, port positive
	Near    float64 // m, from where on water is seen over the hull's edge
	Hides   []Hides
}

// Obstacle is a body with the id of what it belongs to.
type Obstacle struct {
	ID   string
	Body Solid
}

// Ahead is what an eye sees of the water ahead of it: at each bearing, from where on
// over the sheer, and what bodies hide of it.
func Ahead(eye r3.Vec, w Water, sheer []r3.Vec, bodies []Obstacle) []Ray {
	turn, shift := w.level()
	at := r3.Add(turn(eye), shift)
	if at.Z <= 0 {
		return nil
	}
	edge := make([]r3.Vec, len(sheer))
	for i, p := range sheer {
		edge[i] = r3.Add(turn(p), shift)
	}
	level := make([]Obstacle, len(bodies))
	for i, b := range bodies {
		level[i] = Obstacle{ID: b.ID, Body: b.Body.mapped(turn, shift)}
	}
	var rays []Ray
	for b := -lookWide; b <= lookWide; b += lookStep {
		rays = append(rays, ray(at, float64(b), edge, level))
	}
	return rays
}

// How much more than the hull something must hide to be told, times, and how far off,
// m. Practice: nearer than that nobody steers round anything.
const (
	farther  = 1.25
	looksFar = 20.0
)

func ray(eye r3.Vec, bearing float64, sheer []r3.Vec, bodies []Obstacle) Ray {
	r := Ray{Bearing: bearing, Near: nearest(eye, bearing, sheer)}
	for _, b := range bodies {
		low, high, meets := b.Body.cut(eye, bearing)
		if !meets {
			continue
		}
		from, to := reaches(eye.Z, low), reaches(eye.Z, high)
		if to > max(farther*r.Near, looksFar) { // what hides little more than the hull does says nothing
			r.Hides = append(r.Hides, Hides{ID: b.ID, From: max(from, r.Near), To: to})
		}
	}
	return r
}

// reaches is how far from under an eye so high a line so steep meets the water;
// infinite where it does not.
func reaches(high, slope float64) float64 {
	if slope >= 0 {
		return math.Inf(1)
	}
	return high / -slope
}

// nearest is where water is first seen over the edge of the hull at a bearing.
func nearest(eye r3.Vec, bearing float64, sheer []r3.Vec) float64 {
	near := 0.0
	b := look(bearing)
	for i := 0; i+1 < len(sheer); i++ {
		if ahead, z, crosses := b.crossing(eye, sheer[i], sheer[i+1]); crosses {
			near = max(near, reaches(eye.Z, (z-eye.Z)/ahead))
		}
	}
	return near
}

// heading is a bearing's sine and cosine.
type heading struct{ sin, cos float64 }

func look(bearing float64) heading {
	sin, cos := math.Sincos(bearing * math.Pi / 180)
	return heading{sin: sin, cos: cos}
}

func (h heading) side(eye, v r3.Vec) float64 { return -(v.X-eye.X)*h.sin + (v.Y-eye.Y)*h.cos }

// crossing is where the upright plane at a bearing through the eye cuts a line
// between two points: how far ahead, and how high.
func (h heading) crossing(eye, p, q r3.Vec) (ahead, z float64, crosses bool) {
	a, b := h.side(eye, p), h.side(eye, q)
	if a*b > 0 || a == b {
		return 0, 0, false
	}
	c := r3.Add(p, r3.Scale(a/(a-b), r3.Sub(q, p)))
	ahead = (c.X-eye.X)*h.cos + (c.Y-eye.Y)*h.sin
	return ahead, c.Z, ahead > 0.05
}

// cut is the lowest and highest slope at which an eye sees a body at a bearing. All
// pairs of corners are cut: those that are no edge lie inside and change nothing.
func (s Solid) cut(eye r3.Vec, bearing float64) (low, high float64, meets bool) {
	low, high = math.Inf(1), math.Inf(-1)
	b := look(bearing)
	for i, p := range s.Corners {
		for _, q := range s.Corners[i+1:] {
			if ahead, z, crosses := b.crossing(eye, p, q); crosses {
				slope := (z - eye.Z) / ahead
				low, high, meets = min(low, slope), max(high, slope), true
			}
		}
	}
	return low, high, meets && high > low
}

// Seen is how a screen is seen from a post.
type Seen struct {
	Post     string  // its id
	Distance float64 // m
	Off      float64 // degrees off the screen's axis; over 90 is from behind
	Hidden   string  // id of what stands before it; empty where nothing does
	Reads    bool    // near, straight and free enough
}

// Screens are read up to so many times their diagonal away, and so far off their axis.
// Practice: small numbers at arm's length and a half on nine inches.
const (
	readsAt  = 6.0
	ReadsOff = 50.0
)

// SeenFrom tells how a screen is seen by eyes at a post.
func (t Thing) SeenFrom(p Post, bodies []Obstacle) Seen {
	axes := t.Axes()
	face := r3.Add(t.Middle(), r3.Scale(t.Size.X/2, axes[0]))
	way := r3.Sub(p.Eyes(), face)
	s := Seen{Post: p.ID, Distance: r3.Norm(way)}
	s.Off = math.Acos(max(-1, min(1, r3.Dot(r3.Unit(way), axes[0])))) * 180 / math.Pi
	s.Hidden = between(face, p.Eyes(), t.ID, bodies)
	s.Reads = s.Distance <= readsAt*t.Screen && s.Off <= ReadsOff && s.Hidden == ""
	return s
}

// between is the first body that stands between two points, but for one of its own.
func between(from, to r3.Vec, own string, bodies []Obstacle) string {
	for _, b := range bodies {
		if b.ID == own {
			continue
		}
		enters, leaves, meets := b.Body.Within(from, to)
		if meets && (leaves-enters)*r3.Norm(r3.Sub(to, from)) > Touch {
			return b.ID
		}
	}
	return ""
}

// dazzles is how far a lamp is felt in the eyes, m. Practice.
const dazzles = 6.0

// Shines says whether a lamp shines into eyes.
func (t Thing) Shines(eye r3.Vec, bodies []Obstacle) bool {
	lamp := t.lamp()
	way := r3.Sub(eye, lamp)
	far := r3.Norm(way)
	if far < 1e-6 || far > dazzles {
		return false
	}
	off := math.Acos(max(-1, min(1, r3.Dot(way, t.Axes()[0])/far))) * 180 / math.Pi
	return off <= t.Beam/2 && between(lamp, eye, t.ID, bodies) == ""
}

func (t Thing) lamp() r3.Vec { return r3.Add(t.Middle(), r3.Scale(t.Size.X/2+0.001, t.Axes()[0])) }

// Glares says whether an eye sees a lamp mirrored in a screen, and both lie before it.
func (t Thing) Glares(screen Thing, eye r3.Vec, bodies []Obstacle) bool {
	axes := screen.Axes()
	face := r3.Add(screen.Middle(), r3.Scale(screen.Size.X/2, axes[0]))
	lamp := t.lamp()
	before := func(p r3.Vec) float64 { return r3.Dot(r3.Sub(p, face), axes[0]) }
	if before(lamp) <= 0 || before(eye) <= 0 {
		return false
	}
	image := r3.Sub(lamp, r3.Scale(2*before(lamp), axes[0]))
	way := r3.Sub(image, eye)
	at := r3.Add(eye, r3.Scale(before(eye)/(before(eye)+before(lamp)), way))
	off := r3.Sub(at, face)
	if math.Abs(r3.Dot(off, axes[1])) > screen.Size.Y/2 || math.Abs(r3.Dot(off, axes[2])) > screen.Size.Z/2 {
		return false
	}
	return t.Shines(at, bodies)
}
