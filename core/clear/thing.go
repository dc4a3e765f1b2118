package clear

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Thing is a fitting as it stands aboard.
type Thing struct {
	ID, Name, Kind string
	At             r3.Vec     // the middle of the face it is fastened by
	Size           r3.Vec     // m: along where it faces, across, and up
	Foot           [2]float64 // m, of the plate by which it is fastened, along and across; nought for none
	Stands         string     // of words.Stands
	Legs           float64    // m, how high over its foot its body begins
	Turn, Lean     float64    // degrees
	Down           bool       // taken off for the road
	On             string     // id of the base that it is docked in
	Swing          float64    // m, what it sweeps about its own upright; nought where it does not turn
	Rod            float64    // m, of the rod that it holds
	Screen         float64    // m, diagonal
	Beam           float64    // degrees, the whole angle of a lamp
	Post           string     // id of the post it is worked or watched from; empty for the nearest
}

// Axes are where a thing faces, what is to its left, and its own up.
func (t Thing) Axes() [3]r3.Vec {
	sin, cos := math.Sincos(t.Turn * math.Pi / 180)
	face, left := r3.Vec{X: cos, Y: sin}, r3.Vec{X: -sin, Y: cos}
	s, c := math.Sincos(t.Lean * math.Pi / 180)
	up := r3.Vec{Z: 1}
	return [3]r3.Vec{r3.Sub(r3.Scale(c, face), r3.Scale(s, up)), left, r3.Add(r3.Scale(c, up), r3.Scale(s, face))}
}

// Middle of its body.
func (t Thing) Middle() r3.Vec {
	axes := t.Axes()
	switch t.Stands {
	case "down":
		return r3.Add(t.At, r3.Scale(-t.Size.Z/2, axes[2]))
	case "out":
		return r3.Add(t.At, r3.Scale(t.Size.X/2, axes[0]))
	}
	return r3.Add(t.At, r3.Scale(t.Legs+t.Size.Z/2, axes[2]))
}

// Body is the space that it takes.
func (t Thing) Body() Solid { return Box(t.Middle(), t.Axes(), r3.Scale(0.5, t.Size)) }

// flange is how thick the plate of a foot counts, m.
const flange = 0.02

// Plate is the space that its foot takes; false where the body is as broad.
func (t Thing) Plate() (Solid, bool) {
	a, b := t.Foot[0]/2, t.Foot[1]/2
	if a <= 0 || b <= 0 || t.Stands == "out" {
		return Solid{}, false
	}
	axes := Thing{Turn: t.Turn}.Axes() // a foot lies flat, however the thing leans
	return Box(t.At, axes, r3.Vec{X: a, Y: b, Z: flange / 2}), true
}

// legs are the share of a seat's height that does not sweep when it turns.
const legs = 0.4

// Swept is the space that it takes when it turns all round.
func (t Thing) Swept() Solid {
	up := t.Axes()[2]
	foot := r3.Add(t.Middle(), r3.Scale((legs-0.5)*t.Size.Z, up))
	return Disc(foot, up, t.Swing, (1-legs)*t.Size.Z)
}

// Tip is where the rod that it holds ends.
func (t Thing) Tip() r3.Vec { return r3.Add(t.At, r3.Scale(t.Rod, t.Axes()[2])) }

// thick is how thick a rod counts, m.
const thick = 0.02

// RodBody is the space that its rod takes, from a hand's breadth above the holder.
func (t Thing) RodBody() Solid {
	axes := t.Axes()
	from := 0.1
	return Box(
		r3.Add(t.At, r3.Scale((t.Rod+from)/2, axes[2])),
		axes,
		r3.Vec{X: thick / 2, Y: thick / 2, Z: (t.Rod - from) / 2},
	)
}

// Place is a locker or another box of the boat, with its lid.
type Place struct {
	ID, Name  string
	Low, High r3.Vec
	Opening   [2]float64 // in the top, along x and y; nought for the whole top
	Hinge     string     // of words.Hinges; empty where no lid swings
	Inside    string     // id of the place that it stands in
	Open      bool       // a rack or bed without walls: one sees and reaches past it
}

// opened is how far a lid turns, and how far it must to count as open, degrees. Practice.
const (
	opened   = 95.0
	openable = 75.0
)

// lid gives the sweep of a lid by an angle, degrees.
func (p Place) lid(angle float64) Solid {
	long, broad := p.Opening[0], p.Opening[1]
	if long == 0 || broad == 0 {
		long, broad = p.High.X-p.Low.X, p.High.Y-p.Low.Y
	}
	middle := r3.Vec{X: (p.Low.X + p.High.X) / 2, Y: (p.Low.Y + p.High.Y) / 2, Z: p.High.Z}
	rad, up := angle*math.Pi/180, r3.Vec{Z: 1}
	corner := func(x, y float64) r3.Vec { return r3.Add(middle, r3.Vec{X: x * long / 2, Y: y * broad / 2}) }
	switch p.Hinge {
	case "fore":
		return Sector(corner(1, -1), r3.Vec{Y: broad}, r3.Vec{X: -1}, up, long, rad)
	case "port":
		return Sector(corner(-1, 1), r3.Vec{X: long}, r3.Vec{Y: -1}, up, broad, rad)
	case "starboard":
		return Sector(corner(-1, -1), r3.Vec{X: long}, r3.Vec{Y: 1}, up, broad, rad)
	}
	return Sector(corner(-1, -1), r3.Vec{Y: broad}, r3.Vec{X: 1}, up, long, rad)
}

// Swing is all that its lid sweeps.
func (p Place) Swing() Solid { return p.lid(opened) }

// onIt is how near to a lid's top a foot stands on it, m.
const onIt = 0.06

// onLid says whether a thing rides on the lid: its foot is there.
func (p Place) onLid(t Thing) bool {
	return t.Stands == "up" && math.Abs(t.At.Z-p.High.Z) < onIt && t.At.X > p.Low.X && t.At.X < p.High.X &&
		t.At.Y > p.Low.Y && t.At.Y < p.High.Y
}

// opens is how far the lid turns before it meets a body, degrees; whole is all that
// the lid sweeps.
func (p Place) opens(whole, body Solid) float64 {
	if Depth(whole, body) <= Touch {
		return opened
	}
	free, hit := 0.0, opened
	for hit-free > 0.5 {
		if mid := (free + hit) / 2; Depth(p.lid(mid), body) > Touch {
			hit = mid
		} else {
			free = mid
		}
	}
	return free
}

// Post is where someone stands or sits.
type Post struct {
	ID, Name string
	At       r3.Vec // of the sole
	Steers   bool
	Seated   bool
}

// People: heights over the sole and radii, m. Practice: medians of adults, rounded.
const (
	eyesStanding, eyesSeated         = 1.60, 1.20
	shoulderStanding, shoulderSeated = 1.40, 1.00
	armReach                         = 0.75 // from the shoulder, leaning a little
	bodyRadius                       = 0.20
	elbowRadius                      = 0.42
	kneeRadius                       = 0.34
)

// Eyes of who is at a post.
func (p Post) Eyes() r3.Vec { return p.over(eyesStanding, eyesSeated) }

// Shoulder of who is at a post.
func (p Post) Shoulder() r3.Vec { return p.over(shoulderStanding, shoulderSeated) }

func (p Post) over(standing, seated float64) r3.Vec {
	if p.Seated {
		return r3.Add(p.At, r3.Vec{Z: seated})
	}
	return r3.Add(p.At, r3.Vec{Z: standing})
}

// zone of a person at a post, between two heights over the sole.
func (p Post) zone(radius, from, to float64) Solid {
	return Disc(r3.Add(p.At, r3.Vec{Z: from}), r3.Vec{Z: 1}, radius, to-from)
}
