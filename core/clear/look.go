package clear

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"
)

// Scene is a boat as she is rigged.
type Scene struct {
	Things []Thing
	Places []Place
	Tanks  []Tank
	Posts  []Post
	Sheer  []r3.Vec // port side aft to fore, then starboard fore to aft
	Water  Water
	Over   float64 // m, the keel over the road on her trailer; nought where nobody measured
	Road   float64 // m, the greatest height on the road or in the shed; nought for none
	Bridge float64 // m, the greatest height over the water; nought for none
}

// Tank is a box that nothing may stand in, or be screwed into. Units m.
type Tank struct {
	ID        string
	Low, High r3.Vec
}

// Kinds of what is found.
const (
	Overlap  = "overlap"  // two things claim one space
	Room     = "room"     // a thing takes room in a place
	Lid      = "lid"      // a lid does not open
	Turn     = "turn"     // a seat does not turn
	Body     = "body"     // stands where someone stands
	Elbow    = "elbow"    // at an elbow's height, too near
	Knee     = "knee"     // at a knee's height, too near
	RodHits  = "rod-hits" // a holder's rod meets something
	RodSight = "rod-sight"
	Sight    = "sight"  // hides water ahead from who steers
	Screen   = "screen" // is not read from its post
	Eyes     = "eyes"   // a lamp shines into eyes
	Glare    = "glare"  // a lamp is mirrored in a screen
	Control  = "control"
	Outboard = "outboard" // stands over the gunwale
	TooHigh  = "too-high"
)

// Finding is something in somebody's way.
type Finding struct {
	Kind   string
	Thing  string  // id of the fitting; of a place whose lid a place is in the way of, that place
	Other  string  // id of what it meets: a fitting, a place or a post
	By     float64 // m that they stand in each other, or too far; degrees of a lid, of what is hidden
	Note   bool    // good to know, and not in the way
	Before string  // id of what stands before a screen
	Post   string  // id of the post from which a lamp is seen mirrored
	Off    float64 // degrees off a screen's axis
	From   float64 // bearings between which water is hidden, port positive
	To     float64
	Near   float64 // m, from where on it is hidden
}

// Look finds what is in whose way. Where only is not empty, what that thing has no
// part in is left out.
func Look(s Scene, only string) []Finding {
	l := looker{Scene: s, only: only}
	for _, t := range s.Things {
		l.bodies = append(l.bodies, Obstacle{ID: t.ID, Body: t.Body()})
	}
	sole := l.sole()
	for _, p := range s.Places {
		if p.High.Z > sole+0.02 && !p.Open {
			l.walls = append(l.walls, Obstacle{ID: p.ID, Body: Block(p.Low, p.High)})
		}
	}
	l.all = append(slices.Clone(l.bodies), l.walls...)
	l.spaces()
	l.lids()
	l.turns()
	l.people()
	l.rods()
	l.sight()
	l.screens()
	l.lamps()
	l.controls()
	l.edges()
	slices.SortStableFunc(l.found, func(a, b Finding) int { return cmp.Compare(order(a.Note), order(b.Note)) })
	return l.found
}

func order(note bool) int {
	if note {
		return 1
	}
	return 0
}

type looker struct {
	Scene
	only   string
	bodies []Obstacle // of the things, in their order
	walls  []Obstacle // places that stand over the sole
	all    []Obstacle
	found  []Finding
}

func (l *looker) sole() float64 {
	z := math.Inf(1)
	for _, p := range l.Posts {
		z = min(z, p.At.Z)
	}
	if math.IsInf(z, 1) {
		return 0
	}
	return z
}

func (l *looker) add(f Finding) { l.found = append(l.found, f) }

// wanted says whether what concerns these is asked for.
func (l *looker) wanted(ids ...string) bool { return l.only == "" || slices.Contains(ids, l.only) }

// partOf pairs belong together: a seat on its pedestal, a display on its pole, a
// track and what rides on it stand in each other by right.
func partOf(a, b Thing) bool {
	if a.On == b.ID && a.On != "" || b.On == a.ID && b.On != "" {
		return true
	}
	carries := []string{"pedestal", "track", "pole", "bow-motor", "rail", "roof"}
	near := r3.Norm(r3.Sub(a.At, b.At)) < 0.02+max(a.Size.Z, b.Size.Z)
	return near && (slices.Contains(carries, a.Kind) || slices.Contains(carries, b.Kind))
}

// takesRoom is how far something stands into a place before it is told, m. Practice.
const takesRoom = 0.02

func (l *looker) spaces() {
	for i, a := range l.Things {
		for j := i + 1; j < len(l.Things); j++ {
			b := l.Things[j]
			if !l.wanted(a.ID, b.ID) || partOf(a, b) {
				continue
			}
			if d := max(Depth(l.bodies[i].Body, l.bodies[j].Body), feet(a, b)); d > Touch {
				l.add(Finding{Kind: Overlap, Thing: a.ID, Other: b.ID, By: d})
			}
		}
		if !l.wanted(a.ID) {
			continue
		}
		l.tanks(i)
		for _, p := range l.Places {
			if d := Depth(l.bodies[i].Body, Block(p.Low, p.High)); d > takesRoom && !l.inOuter(p, i) {
				l.add(Finding{Kind: Room, Thing: a.ID, Other: p.ID, By: d, Note: true})
			}
		}
	}
}

// tanks finds the tanks that a thing stands in. A pump belongs in one, and a transducer
// is under the skin that a tank lies on.
func (l *looker) tanks(i int) {
	t := l.Things[i]
	if t.Kind == "pump" || t.Kind == "transducer" {
		return
	}
	for _, k := range l.Tanks {
		if d := Depth(l.bodies[i].Body, Block(k.Low, k.High)); d > takesRoom {
			l.add(Finding{Kind: Overlap, Thing: t.ID, Other: k.ID, By: d})
		}
	}
}

// feet is how far the plates of two feet lie in each other.
func feet(a, b Thing) float64 {
	p, is := a.Plate()
	q, too := b.Plate()
	if !is || !too {
		return 0
	}
	return Depth(p, q)
}

// inOuter says whether a place inside this one tells it already.
func (l *looker) inOuter(p Place, i int) bool {
	return slices.ContainsFunc(l.Places, func(q Place) bool {
		return q.Inside == p.ID && Depth(l.bodies[i].Body, Block(q.Low, q.High)) > Touch
	})
}

func (l *looker) lids() {
	for _, p := range l.Places {
		if p.Hinge == "" {
			continue
		}
		whole := p.lid(opened)
		for i, t := range l.Things {
			if l.wanted(t.ID, p.ID) && !l.rides(p, t) && t.Kind != "strut" {
				l.lid(p, whole, t.ID, l.bodies[i].Body)
			}
		}
		for _, w := range l.walls {
			if l.only == "" && w.ID != p.ID && w.Body.high.Z > p.High.Z+Touch && !l.nested(p.ID, w.ID) {
				l.lid(p, whole, w.ID, w.Body)
			}
		}
	}
}

// rides says whether a thing goes up with a lid: it stands on it, or in a base there.
func (l *looker) rides(p Place, t Thing) bool {
	return p.onLid(t) ||
		t.On != "" && slices.ContainsFunc(l.Things, func(b Thing) bool { return b.ID == t.On && p.onLid(b) })
}

// lid looks whether a lid opens past a body. That another place stands in its way is
// how she was laid out, and only told.
func (l *looker) lid(p Place, whole Solid, id string, body Solid) {
	if to := p.opens(whole, body); to < opened {
		place := slices.ContainsFunc(l.Places, func(q Place) bool { return q.ID == id })
		l.add(Finding{Kind: Lid, Thing: id, Other: p.ID, By: to, Note: to >= openable || place})
	}
}

// nested says whether one of two places stands in the other.
func (l *looker) nested(a, b string) bool {
	in := map[string]string{}
	for _, p := range l.Places {
		in[p.ID] = p.Inside
	}
	up := func(from, to string) bool {
		for range len(l.Places) {
			if from == to {
				return true
			}
			if from = in[from]; from == "" {
				return false
			}
		}
		return false
	}
	return up(a, b) || up(b, a)
}

func (l *looker) turns() {
	for i, t := range l.Things {
		if t.Swing <= 0 {
			continue
		}
		swept := t.Swept()
		for j, o := range l.Things {
			if i == j || !l.wanted(t.ID, o.ID) || partOf(t, o) {
				continue
			}
			if d := Depth(swept, l.bodies[j].Body); d > Touch {
				l.add(Finding{Kind: Turn, Thing: t.ID, Other: o.ID, By: d})
			}
		}
		for _, w := range l.walls {
			if d := Depth(swept, w.Body); l.wanted(t.ID) && d > Touch {
				l.add(Finding{Kind: Turn, Thing: t.ID, Other: w.ID, By: d})
			}
		}
	}
}

// besideKinds are what a person at a post is meant to be close to.
var besideKinds = []string{"seat", "pedestal", "control", "rail", "roof", "display"}

func (l *looker) people() {
	for _, p := range l.Posts {
		zones := []struct {
			kind string
			body Solid
			note bool
		}{{Body, p.zone(bodyRadius, 0.1, 1.8), false}, {Elbow, p.zone(elbowRadius, 0.95, 1.35), true},
			{Knee, p.zone(kneeRadius, 0.35, 0.65), true}}
		for i, t := range l.Things {
			if !l.wanted(t.ID, p.ID) || slices.Contains(besideKinds, t.Kind) {
				continue
			}
			for _, z := range zones {
				if d := Depth(z.body, l.bodies[i].Body); d > Touch {
					l.add(Finding{Kind: z.kind, Thing: t.ID, Other: p.ID, By: d, Note: z.note})
					break
				}
			}
		}
	}
}

func (l *looker) rods() {
	for _, t := range l.Things {
		if t.Rod <= 0.3 {
			continue
		}
		body := t.RodBody()
		for j, o := range l.Things {
			if o.ID == t.ID || !l.wanted(t.ID, o.ID) || l.bodies[j].Body.Has(t.At) || o.Kind == "rod-holder" {
				continue
			}
			if Depth(body, l.bodies[j].Body) > Touch {
				l.add(Finding{Kind: RodHits, Thing: t.ID, Other: o.ID, By: l.along(t, l.bodies[j].Body)})
			}
		}
	}
}

// along is how far up a rod a body begins, m.
func (l *looker) along(t Thing, body Solid) float64 {
	enters, _, _ := body.Within(t.At, t.Tip())
	return enters * t.Rod
}

// sight finds what hides water ahead from who steers; a rod that does is told as one.
func (l *looker) sight() {
	for _, p := range l.Posts {
		if !p.Steers {
			continue
		}
		var bodies []Obstacle
		rods := map[string]bool{}
		for i, t := range l.Things {
			if !l.wanted(t.ID, p.ID) || t.Kind == "roof" || l.bodies[i].Body.Has(p.Eyes()) {
				continue
			}
			bodies = append(bodies, l.bodies[i])
			if t.Rod > 0.3 {
				bodies, rods["rod "+t.ID] = append(bodies, Obstacle{ID: "rod " + t.ID, Body: t.RodBody()}), true
			}
		}
		for _, h := range hidden(Ahead(p.Eyes(), l.Water, l.Sheer, bodies)) {
			id, isRod := strings.CutPrefix(h.id, "rod ")
			f := Finding{Kind: Sight, Thing: id, Other: p.ID, By: h.wide, From: h.from, To: h.to, Near: h.near,
				Note: h.wide < hidesLittle || !h.horizon}
			if isRod {
				f.Kind = RodSight
			}
			l.add(f)
		}
	}
}

// hidesLittle is a post that one looks past by moving one's head, degrees. Practice.
const hidesLittle = 3

// hid is all that one body hides ahead.
type hid struct {
	id       string
	wide     float64 // degrees
	from, to float64 // bearings
	near     float64 // m
	horizon  bool
}

// hidden gathers what each body hides over all bearings, widest first.
func hidden(rays []Ray) []hid {
	byID := map[string]*hid{}
	var list []*hid
	for _, r := range rays {
		for _, h := range r.Hides {
			g := byID[h.ID]
			if g == nil {
				g = &hid{id: h.ID, from: r.Bearing, near: h.From}
				byID[h.ID] = g
				list = append(list, g)
			}
			g.wide += lookStep
			g.to, g.near = r.Bearing, min(g.near, h.From)
			g.horizon = g.horizon || math.IsInf(h.To, 1)
		}
	}
	slices.SortStableFunc(list, func(a, b *hid) int { return cmp.Compare(b.wide, a.wide) })
	out := make([]hid, len(list))
	for i, g := range list {
		out[i] = *g
	}
	return out
}

// Watcher is the post that a screen or a control is for: its own, or the nearest.
func (s Scene) Watcher(t Thing) *Post {
	var best *Post
	for i, p := range s.Posts {
		if p.ID == t.Post {
			return &s.Posts[i]
		}
		if best == nil || r3.Norm(r3.Sub(p.At, t.At)) < r3.Norm(r3.Sub(best.At, t.At)) {
			best = &s.Posts[i]
		}
	}
	return best
}

func (l *looker) screens() {
	for _, t := range l.Things {
		p := l.Watcher(t)
		if t.Screen <= 0 || p == nil {
			continue
		}
		s := t.SeenFrom(*p, l.all)
		if s.Reads || !l.wanted(t.ID, s.Hidden) {
			continue
		}
		l.add(Finding{Kind: Screen, Thing: t.ID, Other: p.ID, By: s.Distance, Off: s.Off, Before: s.Hidden})
	}
}

func (l *looker) lamps() {
	for _, t := range l.Things {
		if t.Beam <= 0 {
			continue
		}
		for _, p := range l.Posts {
			if p.Steers && l.wanted(t.ID, p.ID) && t.At.X > p.At.X-0.3 && t.Shines(p.Eyes(), l.all) {
				l.add(Finding{Kind: Eyes, Thing: t.ID, Other: p.ID, By: r3.Norm(r3.Sub(p.Eyes(), t.At))})
			}
		}
		for _, screen := range l.Things {
			p := l.Watcher(screen)
			if screen.Screen > 0 && p != nil && l.wanted(t.ID, screen.ID) && t.Glares(screen, p.Eyes(), l.all) {
				l.add(Finding{Kind: Glare, Thing: t.ID, Other: screen.ID, Post: p.ID})
			}
		}
	}
}

func (l *looker) controls() {
	for _, t := range l.Things {
		p := l.Watcher(t)
		if t.Kind != "control" || p == nil || !l.wanted(t.ID) {
			continue
		}
		if far := r3.Norm(r3.Sub(t.Middle(), p.Shoulder())) - armReach; far > 0 {
			l.add(Finding{Kind: Control, Thing: t.ID, Other: p.ID, By: far})
		}
	}
}

// edges finds what stands over the gunwale, and what is too high for road or bridge.
func (l *looker) edges() {
	turn, shift := l.Water.level()
	for i, t := range l.Things {
		if !l.wanted(t.ID) {
			continue
		}
		out, top, over := 0.0, math.Inf(-1), math.Inf(-1)
		for _, c := range l.bodies[i].Body.Corners {
			out, top, over = max(out, l.outboard(c)), max(top, c.Z), max(over, r3.Add(turn(c), shift).Z)
		}
		if t.Rod > 0.3 {
			over = max(over, r3.Add(turn(t.Tip()), shift).Z)
		}
		if out > 0.02 && t.Kind != "transducer" && t.Kind != "bow-motor" {
			l.add(Finding{Kind: Outboard, Thing: t.ID, By: out, Note: true})
		}
		if l.Road > 0 && l.Over > 0 && !t.Down && top+l.Over > l.Road {
			l.add(Finding{Kind: TooHigh, Thing: t.ID, Other: "road", By: top + l.Over - l.Road})
		}
		if l.Bridge > 0 && over > l.Bridge {
			l.add(Finding{Kind: TooHigh, Thing: t.ID, Other: "bridge", By: over - l.Bridge})
		}
	}
}

// outboard is how far a point stands out over the side, m; ahead of the stem and
// abaft the transom do not count.
func (l *looker) outboard(p r3.Vec) float64 {
	half := 0.0
	for i := 0; i+1 < len(l.Sheer); i++ {
		a, b := l.Sheer[i], l.Sheer[i+1]
		if (a.X-p.X)*(b.X-p.X) <= 0 && a.X != b.X {
			half = max(half, math.Abs(a.Y+(b.Y-a.Y)*(p.X-a.X)/(b.X-a.X)))
		}
	}
	if half == 0 {
		return 0
	}
	return max(0, math.Abs(p.Y)-half)
}
