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

// Lever is a point of the righting-arm curve. GZ, in metres, is positive when
// it rights a heel to starboard; NaN where no trim balances her.
type Lever struct{ HeelDeg, GZ float64 }

// Figures are the results at the attitude found. Lengths in metres, in the
// boat's axes unless said otherwise.
type Figures struct {
	DisplacementKg float64
	Volume         float64 // m³
	TrimDeg        float64 // bow up positive
	HeelDeg        float64 // starboard down positive
	Up             r3.Vec  // the world's up in the boat's axes
	Level          float64 // the water's surface is Up·p = Level
	DraftAft       float64 // height of the water on the centreline at x = 0, along z
	DraftFwd       float64 // the same at the last station
	LCB, TCB, KB   float64 // centre of buoyancy
	LCF            float64 // x of the waterplane's centre
	Waterplane     float64 // m², in its own plane
	GMT, GML       float64 // after free surface
	FreeSurface    float64 // what slack liquid took off GMT
	KgPerCm        float64 // of sinkage
	CG             r3.Vec  // with the liquid where it came to rest
	Freeboards     []Freeboard
	Lowest         Freeboard // of the flood points and the sheer
	UprightGMT     float64   // upright, at her own trim
}

// Result is what Solve found. Figures is nil where the load sinks her or she
// has no attitude to rest at; Why then says which, as the end of a sentence.
type Result struct {
	Status  Status
	Why     string
	Figures *Figures
	Levers  []Lever
}

// stableGM is how little GM still counts as not negative, metres: rounding.
const stableGM = 1e-9

// Solve finds where the boat rests under the load, and her righting arms with
// free trim at the heels asked for, in degrees. The load must have passed Check.
func (boat *Boat) Solve(l Load, gzHeelDeg []float64) Result {
	s := newSolver(boat, l)
	if s.mass/s.rho >= boat.Shell.Volume*(1-1e-9) {
		return Result{Status: Swamped, Why: "the load is more than her whole hull can carry"}
	}
	rest, upright, ok := s.rest()
	if !ok {
		return Result{Status: Swamped, Why: "she capsizes or stands on end before she comes to rest"}
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
	for _, deg := range gzHeelDeg {
		r.Levers = append(r.Levers, Lever{deg, s.lever(rest, deg)})
	}
	return r
}

// rest finds the stable attitude, and GM upright at her own trim.
func (s *solver) rest() (pose, float64, bool) {
	var start pose
	start.h, _ = s.hull.fill(attitude(0, 0), s.ref, s.mass/s.rho, math.NaN(), 0.02) // Newton does the rest
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

// lever is GZ at a held heel with trim free.
func (s *solver) lever(start pose, heelDeg float64) float64 {
	p := pose{trim: start.trim, heel: heelDeg * math.Pi / 180, h: start.h}
	s.float(&p)
	_, b, ok := s.newton(p, true)
	if !ok {
		p.trim = 0
		q, found := s.descend(p, true)
		if !found {
			return math.NaN()
		}
		b = s.at(q)
	}
	return -b.port / s.mass
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
	f.Lowest = Freeboard{Name: "sheer", M: math.Inf(1)}
	for _, at := range s.Shell.Sheer {
		if m := f.FreeboardAt(at); m < f.Lowest.M {
			f.Lowest.M, f.Lowest.At = m, at
		}
	}
	for _, p := range s.floods {
		fb := Freeboard{p.Name, f.FreeboardAt(p.At), p.At}
		f.Freeboards = append(f.Freeboards, fb)
		if fb.M < f.Lowest.M {
			f.Lowest = fb
		}
	}
	return f
}

// FreeboardAt is how far a point of the boat is over the water, along the
// world's vertical, in metres; negative when it is under.
func (f *Figures) FreeboardAt(p r3.Vec) float64 { return r3.Dot(f.Up, p) - f.Level }
