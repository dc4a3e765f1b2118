package reach

import (
	"fmt"
	"math"

	"ergasia/core/words"
)

// Part is one of the things that take time.
type Part struct {
	What    string  `json:"what"`
	Seconds float64 `json:"seconds"`
}

// Way is how long a person at a post takes to have a place open before them,
// and later to shut it and come back.
type Way struct {
	Seconds  float64 // there, +Inf where no hand comes
	Back     float64
	Parts    []Part
	standing float64 // height of the feet
	far      bool    // over an arm's length away
}

// Reachable says whether a hand comes there at all.
func (w Way) Reachable() bool { return !math.IsInf(w.Seconds, 1) }

// Ways of all posts to all places: [post][place].
func (b Boat) Ways(t Table) [][]Way {
	ground := b.ground()
	ways := make([][]Way, len(b.Posts))
	for i := range b.Posts {
		f := b.walk(ground, i, t)
		ways[i] = make([]Way, len(b.Places))
		for j := range b.Places {
			ways[i][j] = b.way(f, i, j, t)
		}
	}
	return ways
}

func (b Boat) way(f Field, post, place int, t Table) Way {
	outer := place
	for b.Places[outer].Inside >= 0 {
		outer = b.Places[outer].Inside
	}
	walk, feet, far := b.feet(f, outer)
	w := Way{Seconds: walk, Back: walk, standing: feet, far: far}
	if !w.Reachable() {
		return w
	}
	add := func(what string, there, back float64) {
		if there > 0 {
			w.Parts = append(w.Parts, Part{What: what, Seconds: (there + back) * t.Sea})
		}
		w.Seconds, w.Back = w.Seconds+there, w.Back+back
	}
	w.Seconds, w.Back = 0, 0
	if b.Posts[post].Seated {
		add("get up", t.Sit/2, t.Sit/2)
	}
	add("walk", walk, walk)
	add("turn", t.Turn, t.Turn)
	if far {
		add("stretch", t.Stretch/2, t.Stretch/2)
	}
	for p := place; p >= 0; p = b.Places[p].Inside {
		b.open(p, post, t, add)
	}
	w.Seconds, w.Back = w.Seconds*t.Sea, w.Back*t.Sea
	return w
}

// open adds what keeps a place shut.
func (b Boat) open(place, post int, t Table, add func(string, float64, float64)) {
	p := b.Places[place]
	name := "the lid of " + p.Name
	switch p.Lid {
	case "hinged":
		add(name, t.Hinged/2, t.Hinged/2)
	case "lift-off":
		add(name, t.LiftOff/2, t.LiftOff/2)
	case "sliding", "soft":
		add(name, t.Hinged/2, t.Hinged/2)
	}
	if p.Latched {
		add("its latch", t.Latch/2, t.Latch/2)
	}
	if p.Locks {
		add("its lock", t.Lock/2, t.Lock/2)
	}
	for i, other := range b.Posts {
		if i != post && other.Manned && p.closed() && p.over(other.At.X, other.At.Y) && other.At.Z >= p.top()-0.1 {
			add("whoever is at "+other.Name+" stands aside", t.Aside, 0)
		}
	}
}

// feet is where a person stands who works at a place: the quickest cell to come
// to that is within an arm of the opening and not on its lid.
func (b Boat) feet(f Field, place int) (walk, z float64, far bool) {
	p := b.Places[place]
	middle, half := p.opening()
	best := math.Inf(1)
	const stretchCosts = 2 // seconds: what a person walks rather than stretch
	for i, s := range f.Seconds {
		x, y := f.at(i)
		if math.IsInf(s, 1) || p.closed() && p.over(x, y) {
			continue
		}
		d := math.Hypot(max(0, math.Abs(x-middle.X)-half.X), max(0, math.Abs(y-middle.Y)-half.Y))
		if d > overArm || d > arm && s+stretchCosts >= best {
			continue
		}
		cost := s
		if d > arm {
			cost += stretchCosts
		}
		if cost < best {
			best, walk, z, far = cost, s, f.Ground[i], d > arm
		}
	}
	if math.IsInf(best, 1) {
		return best, 0, false
	}
	return walk, z, far
}

// Lying is how one piece lies in a place.
type Lying struct {
	HandZ  float64   // height of its middle
	Others int       // other things in the same place, as one sees on opening it
	Over   []float64 // kg of each thing that must be lifted off first
	Boxes  int       // boxes, bags or trays that it lies in, within the place
}

// Fetch is one fetching and stowing back of a piece.
type Fetch struct {
	Seconds float64 // from "I need it" to "in my hand"
	Back    float64 // and until it is stowed again
	Parts   []Part
}

// Round is there and back.
func (f Fetch) Round() float64 { return f.Seconds + f.Back }

// Use is the seconds of one use: one round where the piece is used where it lies,
// two where it is brought to the post and stowed again.
func (f Fetch) Use(brought bool) float64 {
	if brought {
		return 2 * f.Round()
	}
	return f.Round()
}

// Fetch adds to a way what the piece itself costs.
func (t Table) Fetch(w Way, p Place, l Lying) Fetch {
	f := Fetch{Seconds: w.Seconds, Back: w.Back, Parts: append([]Part{}, w.Parts...)}
	add := func(what string, there, back float64) {
		if there > 0 {
			f.Parts = append(f.Parts, Part{What: what, Seconds: (there + back) * t.Sea})
		}
		f.Seconds, f.Back = f.Seconds+there*t.Sea, f.Back+back*t.Sea
	}
	switch h := l.HandZ - w.standing; {
	case h < kneeFrom:
		add("kneel", t.Kneel/2, t.Kneel/2)
	case h < bendFrom:
		add("bend", t.Bend/2, t.Bend/2)
	case h > highFrom:
		add("reach up", t.Stretch/2, t.Stretch/2)
	}
	if l.Others > 0 {
		share := 1.0
		if p.Labelled {
			share = t.Labelled
		}
		add(fmt.Sprintf("look among %d", l.Others+1), t.Look*share*float64(l.Others), 0)
	}
	if n := len(l.Over); n > 0 {
		s := 0.0
		for _, kg := range l.Over {
			s += t.Shift + t.ShiftKg*kg
		}
		add("lift "+words.HowMany(n, "thing")+" off", s/2, s/2)
	}
	if l.Boxes > 0 {
		add("open what it lies in", t.Box/2*float64(l.Boxes), t.Box/2*float64(l.Boxes))
	}
	add("take it", t.Grasp/2, t.Grasp/2)
	return f
}
