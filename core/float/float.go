package float

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Status says what the figures are worth.
type Status string

const (
	// Afloat: she rests with every flood point and the sheer above water.
	Afloat Status = "afloat"
	// Swamped: a flood point or the sheer is at or under water, or there is
	// not enough volume to carry the load (no figures then).
	Swamped Status = "swamped"
	// Unstable: GM upright is negative; the attitude is the loll she falls to.
	Unstable Status = "unstable"
)

// Freeboard is the height of a point over the water along the world's
// vertical, in metres; negative when it is under.
type Freeboard struct {
	Name string
	M    float64
	At   r3.Vec
}

// sheer is the name of the edge of the hull as a place where water comes in.
const sheer = "sheer"

// Lever is a point of the righting-arm curve. GZ, in metres, is positive when
// it rights a heel to starboard; NaN where no trim balances her. Lowest is the
// least freeboard there, of the flood points and the sheer.
type Lever struct {
	HeelDeg, GZ, TrimDeg float64
	Lowest               Freeboard
}

// Awash is a space in which the sea stands: how deep at its lowest corner, in
// metres along the world's vertical, and through which opening it came in.
type Awash struct {
	Space, Through string
	Depth          float64
}

// Figures are the results at the attitude found. Lengths in metres, in the
// boat's axes unless said otherwise.
type Figures struct {
	DisplacementKg float64
	Volume         float64     // m³
	TrimDeg        float64     // bow up positive
	HeelDeg        float64     // starboard down positive
	Up             r3.Vec      // the world's up in the boat's axes
	Level          float64     // the water's surface is Up·p = Level
	DraftAft       float64     // height of the water on the centreline at x = 0, along z
	DraftFwd       float64     // the same at the last station
	LCB, TCB, KB   float64     // centre of buoyancy
	LCF            float64     // x of the waterplane's centre
	Waterplane     float64     // m², in its own plane
	GMT, GML       float64     // after free surface
	FreeSurface    float64     // what slack liquid took off GMT
	KgPerCm        float64     // of sinkage
	CG             r3.Vec      // with the liquid where it came to rest
	Freeboards     []Freeboard // of every flood point
	Lowest         Freeboard   // of the flood points and the sheer
	UprightGMT     float64     // upright, at her own trim
	Awash          []Awash     // spaces in which the sea stands; the figures are with it
}

// Result is what Solve found. Figures is nil where the load sinks her or she
// has no attitude to rest at; Why then says which, as the end of a sentence.
type Result struct {
	Status  Status
	Why     string
	Figures *Figures
	Levers  []Lever
	Over    *Over // of a boat that capsizes or stands on end: about how she lies then
}

// Over is how a boat lies that has turned over, as the solver left her: with the air
// that was in her, so that it shows which way she goes and no more.
type Over struct {
	Up    r3.Vec  // the world's up in the boat's axes
	Level float64 // the water's surface is Up·p = Level, metres
}

// stableGM is how little GM still counts as not negative, metres: rounding.
const stableGM = 1e-9

// overDeg is the heel or trim beyond which nobody speaks of a heel any more, and
// no figure of an open boat means anything. Practice, no source.
const overDeg = 60

const capsizes = "she capsizes: she comes to rest on her side, on end or upside down"

// Solve finds where the boat rests under the load, and her righting arms with
// free trim at the heels asked for, in degrees. The load must have passed Check.
// Where an opening of a space is under water the sea stands in that space.
func (boat *Boat) Solve(l Load, gzHeelDeg []float64) Result {
	s := newSolver(boat, l)
	r, rest := s.result(nil)
	if s = s.awash(&r, &rest); r.Figures == nil {
		return r
	}
	p := rest
	for _, deg := range gzHeelDeg {
		r.Levers = append(r.Levers, s.lever(rest, &p, deg))
	}
	return r
}

// awash lets the sea into the spaces whose openings are under, until none is
// dry that should not be, and takes the figures from a boat that has capsized.
// It gives the solver of the boat so found.
func (s *solver) awash(r *Result, rest *pose) *solver {
	in := map[string]bool{}
	for range s.spaces {
		if r.Figures == nil || !s.openings(r.Figures, in) {
			break
		}
		s = s.on(s.Boat.flooded(in))
		*r, *rest = s.result(rest)
	}
	if r.Figures != nil && len(in) > 0 {
		r.Figures.Awash = s.depths(r.Figures, in)
	}
	if f := r.Figures; f != nil && (math.Abs(f.HeelDeg) > overDeg || math.Abs(f.TrimDeg) > overDeg) {
		*r = Result{Status: Swamped, Why: capsizes, Over: &Over{Up: f.Up, Level: f.Level}}
	}
	return s
}

// openings notes the spaces with an opening under water; true where one is new.
func (s *solver) openings(f *Figures, in map[string]bool) bool {
	found := false
	for _, p := range s.floods {
		if p.Space != "" && f.FreeboardAt(p.At) < 0 && !in[p.Space] {
			in[p.Space], found = true, true
		}
	}
	return found
}

func (s *solver) depths(f *Figures, in map[string]bool) []Awash {
	var list []Awash
	for _, sp := range s.spaces {
		if !in[sp.name] {
			continue
		}
		a := Awash{Space: sp.name, Depth: math.Inf(-1)}
		for _, v := range sp.mesh.Vertices {
			a.Depth = max(a.Depth, -f.FreeboardAt(v))
		}
		least := math.Inf(1)
		for _, p := range s.floods {
			if fb := f.FreeboardAt(p.At); p.Space == sp.name && fb < least {
				least, a.Through = fb, p.Name
			}
		}
		list = append(list, a)
	}
	return list
}

// result is where she rests, from a start where one is given.
func (s *solver) result(start *pose) (Result, pose) {
	if s.mass/s.rho >= s.holds*(1-1e-9) {
		return Result{Status: Swamped, Why: "the load is more than her whole hull can carry"}, pose{}
	}
	rest, upright, ok := s.rest(start)
	if !ok {
		return Result{Status: Swamped, Why: "she capsizes or stands on end before she comes to rest", Over: s.over(rest)}, rest
	}
	f := s.figures(rest, s.at(rest))
	f.UprightGMT = upright
	r := Result{Status: Afloat, Figures: f}
	if upright < -stableGM {
		r.Status = Unstable
	}
	if f.Lowest.M <= 0 {
		r.Status = Swamped
	}
	return r, rest
}

// over is a pose that is no rest, where she has turned over in it.
func (s *solver) over(p pose) *Over {
	up := attitude(p.trim, p.heel).up
	if up.Z > math.Cos(overDeg*math.Pi/180) || math.IsNaN(p.h) {
		return nil
	}
	return &Over{Up: up, Level: p.h + r3.Dot(up, s.ref)}
}

// rest finds the stable attitude, and GM upright at her own trim, from a trim
// and level where they are given.
func (s *solver) rest(from *pose) (pose, float64, bool) {
	var start pose
	if from != nil {
		start = pose{trim: from.trim, h: from.h}
	} else {
		start.h, _ = s.hull.fill(attitude(0, 0), s.ref, s.mass/s.rho, math.NaN(), 0.02) // Newton does the rest
	}
	p, b, ok := s.newton(start, true)
	if !ok {
		if p, ok = s.descend(start, true); !ok {
			return p, 0, false
		}
		b = s.at(p)
	}
	_, pp, _ := s.stiffness(b)
	upright := pp / s.mass
	if upright > stableGM {
		if q, b, ok := s.newton(p, false); ok && math.Abs(q.heel) < 0.8 && s.stable(b) {
			return q, upright, true
		}
	}
	p.heel = fallSide(b)
	q, ok := s.descend(p, false)
	if ok {
		if polished, b, fine := s.newton(q, false); fine && s.stable(b) {
			q = polished
		}
	}
	return q, upright, ok
}

// fallSide is the small heel, radians, with which a boat that won't stay
// upright begins: to the side of the weight, else to starboard.
func fallSide(b balance) float64 {
	const nudge = 0.02
	if b.port < -1e-9*math.Abs(b.up) { // weight to port: b.port is buoyancy's moment less weight's
		return -nudge
	}
	return nudge
}

func (s *solver) stable(b balance) bool {
	ff, pp, fp := s.stiffness(b)
	return ff > 0 && ff*pp-fp*fp > 0
}

// lever is GZ at a held heel with trim free, from the last one's trim and level.
func (s *solver) lever(rest pose, last *pose, heelDeg float64) Lever {
	l := Lever{HeelDeg: heelDeg, GZ: math.NaN(), TrimDeg: math.NaN(), Lowest: Freeboard{M: math.NaN()}}
	p := pose{trim: last.trim, heel: heelDeg * math.Pi / 180, h: last.h}
	s.float(&p)
	q, b, ok := s.newton(p, true)
	if !ok {
		if q, ok = s.descend(pose{trim: rest.trim, heel: p.heel, h: rest.h}, true); !ok {
			return l
		}
		b = s.at(q)
	}
	*last = q
	l.GZ, l.TrimDeg = -b.port/s.mass, q.trim*180/math.Pi
	l.Lowest = s.lowest(b.frame.up, q.h+r3.Dot(b.frame.up, s.ref))
	return l
}

// lowest is the least freeboard of the sheer and of the flood points that lead
// into the boat herself.
func (s *solver) lowest(up r3.Vec, level float64) Freeboard {
	low := Freeboard{Name: sheer, M: math.Inf(1)}
	for _, at := range s.Shell.Sheer {
		if m := r3.Dot(up, at) - level; m < low.M {
			low.M, low.At = m, at
		}
	}
	for _, p := range s.floods {
		if m := r3.Dot(up, p.At) - level; p.Space == "" && m < low.M {
			low = Freeboard{Name: p.Name, M: m, At: p.At}
		}
	}
	return low
}

func (s *solver) figures(p pose, b balance) *Figures {
	degrees := func(r float64) float64 { return r*180/math.Pi + 0 }
	ff, pp, _ := s.stiffness(b)
	buoyancy := r3.Add(s.ref, r3.Scale(1/b.wet.volume, b.wet.moment))
	level := p.h + r3.Dot(b.frame.up, s.ref)
	draft := func(x float64) float64 { return (level - b.frame.up.X*x) / b.frame.up.Z }
	flotation := r3.Add(s.ref, r3.Add(r3.Scale(p.h, b.frame.up), r3.Add(
		r3.Scale(b.wet.sForward/b.wet.area, b.frame.forward), r3.Scale(b.wet.sPort/b.wet.area, b.frame.port))))
	f := &Figures{
		DisplacementKg: s.mass, Volume: b.wet.volume,
		TrimDeg: degrees(math.Asin(b.frame.up.X)), HeelDeg: degrees(math.Atan2(b.frame.up.Y, b.frame.up.Z)),
		Up: b.frame.up, Level: level,
		DraftAft: draft(0), DraftFwd: draft(s.Shell.High.X),
		LCB: buoyancy.X, TCB: buoyancy.Y, KB: buoyancy.Z,
		LCF: flotation.X, Waterplane: b.wet.area,
		GMT: pp / s.mass, GML: ff / s.mass, FreeSurface: b.freePP / s.mass,
		KgPerCm: s.rho * b.wet.area / 100,
		CG:      r3.Add(s.ref, r3.Scale(1/s.mass, b.gravity)),
	}
	f.Lowest = s.lowest(f.Up, f.Level)
	for _, p := range s.floods {
		f.Freeboards = append(f.Freeboards, Freeboard{Name: p.Name, M: f.FreeboardAt(p.At), At: p.At})
	}
	return f
}

// FreeboardAt is how far a point of the boat is over the water, along the
// world's vertical, in metres; negative when it is under.
func (f *Figures) FreeboardAt(p r3.Vec) float64 { return r3.Dot(f.Up, p) - f.Level }
