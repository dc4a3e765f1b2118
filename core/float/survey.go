package float

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ergasia/core/check"

	"gonum.org/v1/gonum/spatial/r3"
)

// Reading is a freeboard read with a tape: from a point of the boat straight
// down to the water, metres.
type Reading struct {
	Name string
	At   r3.Vec
	M    float64
}

// Survey is a float check: what was read on calm water, with everyone standing
// where the ledger says. Sigma is how well one reading is known, metres: a tape
// read to the step s in glassy water is s/√12, and ripples come on top.
type Survey struct {
	Readings []Reading
	Sigma    float64
	Z        float64 // height at which a mass found is taken to lie, metres
}

// held is how well a tape is held at its point and upright, metres, one standard
// deviation. Practice.
const held = 0.0004

// ReadingSigma is how well a freeboard is known that is read to the step, with
// the water moving by ripple (one standard deviation); metres. Rounding to a
// step has the deviation step/√12.
func ReadingSigma(step, ripple float64) float64 {
	return math.Sqrt(step*step/12 + ripple*ripple + held*held)
}

// Check says what is wrong with the survey as input, as check.Faults, or nil.
func (v Survey) Check() error {
	var fs check.Faults
	if n := len(v.Readings); n < 3 || n > 24 {
		fs.Add("readings", n, "a float check needs from 3 to 24 readings")
	}
	for i, r := range v.Readings {
		fs.Within(fmt.Sprintf("readings[%d].freeboard_m", i), r.M, -1, 5)
		checkPlace(&fs, fmt.Sprintf("readings[%d].at_m", i), r.At, -maxAt)
	}
	fs.Within("sigma_m", v.Sigma, 0.0001, 0.1)
	return fs.Err()
}

// Finding is what the readings say against the ledger. Bands are half-widths of
// 95 % intervals, from the readings' errors alone.
type Finding struct {
	Figures      *Figures // of the boat as she lay
	Displacement float64  // kg, measured
	Kg           float64  // more than the ledger; negative when less
	KgBand       float64
	Agrees       bool   // the ledger is within the band: no mass can be placed
	At           r3.Vec // where the mass lies, at the height asked for
	Band         r3.Vec // of its x and y
	Residuals    []float64
	Doubtful     int     // index of the reading that fits worst, -1 where all fit
	Misfit       float64 // root of the mean square residual over its expected value; near 1 when sigma is right
	Suspects     []Suspect
}

// Candidate is something that the mass may be: a thing weighed badly, a tank,
// water in the bilge. Sigma is how far its mass may be off, kilograms; Low and
// High bound what it may be off by.
type Candidate struct {
	Name      string
	At        r3.Vec
	Sigma     float64
	Low, High float64
}

// Suspect is a candidate with how well it alone explains what was found.
type Suspect struct {
	Candidate
	Kg     float64 // by which it would be off
	Chance float64 // what all of them lack to one is the chance of something else
}

// normal95 is the two-sided 95 % point of the normal distribution.
const normal95 = 1.959964

// Survey fits a plane of water through the readings by least squares, weighs the
// boat by the volume under it, and says what has to be added to the ledger, and
// where, for her to lie so. The load and the survey must have passed Check.
func (boat *Boat) Survey(l Load, v Survey, candidates []Candidate) (Finding, error) {
	s := newSolver(boat, l)
	p, cov, err := s.fit(v)
	if err != nil {
		return Finding{}, err
	}
	b := s.at(p)
	if b.wet.volume <= 0 || b.wet.area <= 0 {
		return Finding{}, check.Faults{{Field: "readings",
			Want: "by these readings she would lie out of the water or wholly under it: check the points and the unit"}}
	}
	found := Finding{Figures: s.figures(p, b), Displacement: s.rho * b.wet.volume, Kg: b.force, Doubtful: -1}
	found.Figures.DisplacementKg = found.Displacement
	s.residuals(p, v, &found)
	j := s.jacobian(b)
	spread := congruent(j, cov) // of force, forward and port moments
	found.KgBand = normal95 * math.Sqrt(spread[0][0])
	found.Agrees = math.Abs(found.Kg) < found.KgBand
	if !found.Agrees {
		s.place(b, spread, v.Z, &found)
	}
	found.Suspects = s.suspects(b, spread, candidates)
	return found, nil
}

// fit finds the pose by Gauss-Newton, and its covariance.
func (s *solver) fit(v Survey) (pose, [3][3]float64, error) {
	var p pose
	var cov [3][3]float64
	mean := 0.0
	for _, r := range v.Readings {
		mean += (r.At.Z - r.M - s.ref.Z) / float64(len(v.Readings))
	}
	p.h = mean
	for range 30 {
		f := attitude(p.trim, p.heel)
		var n [3][3]float64
		var rhs [3]float64
		for _, r := range v.Readings {
			arm := r3.Sub(r.At, s.ref)
			row := [3]float64{-1, r3.Dot(f.forward, arm), math.Cos(p.trim) * r3.Dot(f.port, arm)}
			off := r.M - (r3.Dot(f.up, arm) - p.h)
			for i := range 3 {
				rhs[i] += row[i] * off
				for k := range 3 {
					n[i][k] += row[i] * row[k]
				}
			}
		}
		inverse, ok := invert3(n)
		if !ok || !(inverse[1][1] > 0 && inverse[1][1] < 4 && inverse[2][2] > 0 && inverse[2][2] < 40) {
			return p, cov, check.Faults{{Field: "readings",
				Want: "the points lie nearly in a line: read at bow and stern, and on both sides"}}
		}
		var step [3]float64
		for i := range 3 {
			for k := range 3 {
				step[i] += inverse[i][k] * rhs[k]
				cov[i][k] = inverse[i][k] * v.Sigma * v.Sigma
			}
		}
		p.h, p.trim, p.heel = p.h+step[0], p.trim+step[1], p.heel+step[2]
		if math.Abs(p.trim) > 0.6 || math.Abs(p.heel) > 0.8 || math.IsNaN(p.h) {
			break
		}
		if math.Abs(step[0])+math.Abs(step[1])+math.Abs(step[2]) < 1e-12 {
			return p, cov, nil
		}
	}
	return p, cov, check.Faults{{Field: "readings", Want: "they fit no plane of water: one of them is far off"}}
}

func (s *solver) residuals(p pose, v Survey, found *Finding) {
	f := attitude(p.trim, p.heel)
	sum, worst := 0.0, 0.0
	for i, r := range v.Readings {
		off := r.M - (r3.Dot(f.up, r3.Sub(r.At, s.ref)) - p.h)
		found.Residuals = append(found.Residuals, off)
		sum += off * off
		if math.Abs(off) > max(worst, 3*v.Sigma) {
			worst, found.Doubtful = math.Abs(off), i
		}
	}
	if free := len(v.Readings) - 3; free > 0 {
		found.Misfit = math.Sqrt(sum/float64(free)) / v.Sigma
	}
}

// jacobian is how force, forward and port moments change with level, trim and
// heel (the heel's column times cos trim).
func (s *solver) jacobian(b balance) [3][3]float64 {
	w := b.wet
	c := math.Cos(math.Asin(b.frame.up.X))
	return [3][3]float64{
		{s.rho * w.area, -s.rho * w.sForward, -s.rho * w.sPort * c},
		{s.rho * w.sForward, -s.rho*w.iFF - b.up + b.freeFF, (-s.rho*w.iFP + b.freeFP) * c},
		{s.rho * w.sPort, -s.rho*w.iFP + b.freeFP, (-s.rho*w.iPP - b.up + b.freePP) * c},
	}
}

// place finds where the mass lies, and its band to first order.
func (s *solver) place(b balance, spread [3][3]float64, z float64, found *Finding) {
	kg := b.force
	at := func(d [3]float64) r3.Vec {
		f := b.frame
		x, _ := solve3([3][4]float64{
			{f.forward.X, f.forward.Y, f.forward.Z, d[1] / d[0]},
			{f.port.X, f.port.Y, f.port.Z, d[2] / d[0]},
			{0, 0, 1, z - s.ref.Z},
		})
		return r3.Add(s.ref, r3.Vec{X: x[0], Y: x[1], Z: x[2]})
	}
	d := [3]float64{kg, b.forward, b.port}
	found.At = at(d)
	var grad [3]r3.Vec
	for i := range 3 {
		step := 1e-4 * max(math.Abs(kg), 1)
		e := d
		e[i] += step
		grad[i] = r3.Scale(1/step, r3.Sub(at(e), found.At))
	}
	var vx, vy float64
	for i := range 3 {
		for k := range 3 {
			vx += grad[i].X * spread[i][k] * grad[k].X
			vy += grad[i].Y * spread[i][k] * grad[k].Y
		}
	}
	found.Band = r3.Vec{X: normal95 * math.Sqrt(max(vx, 0)), Y: normal95 * math.Sqrt(max(vy, 0))}
}

// suspectSpread is how far a candidate's mass may lie from its named place,
// metres, suspectFloor how well the hull itself is known, kg. Practice.
const (
	suspectSpread = 0.15
	suspectFloor  = 2.0
	somethingElse = 9.0 // chi-square at which a candidate is no likelier than something that is not listed
)

// suspects weighs candidates by how well each alone explains the difference: the
// least chi-square over its mass, with its own uncertainty as a prior.
func (s *solver) suspects(b balance, spread [3][3]float64, candidates []Candidate) []Suspect {
	d := [3]float64{b.force, b.forward, b.port}
	c := spread
	c[0][0] += suspectFloor * suspectFloor
	c[1][1] += math.Pow(b.force*suspectSpread, 2) + math.Pow(suspectFloor*s.length/4, 2)
	c[2][2] += math.Pow(b.force*suspectSpread, 2) + math.Pow(suspectFloor*s.length/16, 2)
	w, ok := invert3(c)
	if !ok {
		return nil
	}
	quad := func(x, y [3]float64) (sum float64) {
		for i := range 3 {
			for k := range 3 {
				sum += x[i] * w[i][k] * y[k]
			}
		}
		return sum
	}
	var list []Suspect
	total := math.Exp(-somethingElse / 2)
	for _, cand := range candidates {
		arm := r3.Sub(cand.At, s.ref)
		a := [3]float64{1, r3.Dot(b.frame.forward, arm), r3.Dot(b.frame.port, arm)}
		prior := 1 / (cand.Sigma * cand.Sigma)
		kg := min(max(quad(a, d)/(quad(a, a)+prior), cand.Low), cand.High)
		var off [3]float64
		for i := range 3 {
			off[i] = d[i] - kg*a[i]
		}
		chance := math.Exp(-(quad(off, off) + kg*kg*prior) / 2)
		list = append(list, Suspect{Candidate: cand, Kg: kg, Chance: chance})
		total += chance
	}
	for i := range list {
		list[i].Chance /= total
	}
	slices.SortStableFunc(list, func(a, b Suspect) int { return cmp.Compare(b.Chance, a.Chance) })
	return list
}

// congruent is J C Jᵀ.
func congruent(j, c [3][3]float64) (out [3][3]float64) {
	for i := range 3 {
		for k := range 3 {
			for m := range 3 {
				for n := range 3 {
					out[i][k] += j[i][m] * c[m][n] * j[k][n]
				}
			}
		}
	}
	return out
}

func invert3(m [3][3]float64) (inverse [3][3]float64, ok bool) {
	for c := range 3 {
		var e [3]float64
		e[c] = 1
		var a [3][4]float64
		for r := range 3 {
			a[r] = [4]float64{m[r][0], m[r][1], m[r][2], e[r]}
		}
		x, fine := solve3(a)
		if !fine {
			return inverse, false
		}
		for r := range 3 {
			inverse[r][c] = x[r]
		}
	}
	return inverse, true
}

// Inclining is an inclining check: a mass of the load, by its index, was moved
// across, and the heel read before and after.
type Inclining struct {
	Kg             float64 // moved, already in the load where it was before
	From, To       r3.Vec
	Before, After  float64 // heel read, degrees, starboard down positive
	SigmaDeg       float64 // of one reading
	HullKg, HullKZ float64 // the mass whose height is in question, and its height in the ledger
}

// Inclined is what an inclining check says.
type Inclined struct {
	GM, GMBand       float64 // by w d / (Δ tan φ), with free surface as she was; 95 % half-width
	Computed         float64 // GM by the ledger
	TurnDeg          float64 // that was read
	ComputedTurn     float64 // that the ledger gives
	HullZ, HullZBand float64 // height of the hull's centre that gives the turn read
	Possible         bool    // some height within the boat gives it
	HigherBy         float64 // by which that raises the centre of all of her, metres
	Noise            float64 // share of the turn that may be reading error
}

// Check says what is wrong with an inclining check as input, as check.Faults, or nil.
func (in Inclining) Check() error {
	var fs check.Faults
	fs.Within("moved_kg", in.Kg, 1, 1000)
	fs.Within("sigma_deg", in.SigmaDeg, 0.005, 2)
	fs.Within("before_deg", in.Before, -20, 20)
	fs.Within("after_deg", in.After, -20, 20)
	if math.Abs(in.To.Y-in.From.Y) < 0.1 {
		fs.Add("moved_to", in.To.Y, "must be at least 10 cm across from where it was")
	}
	turn := in.After - in.Before
	if math.Abs(turn) < 3*in.SigmaDeg {
		fs.Add("after_deg", in.After, fmt.Sprintf("the heel changed by %.2f°, hardly more than it can be read: move more, or further", turn))
	} else if (turn > 0) != (in.To.Y < in.From.Y) {
		fs.Add("after_deg", in.After, "she heeled away from the weight: is starboard down positive?")
	}
	return fs.Err()
}

// Incline finds GM and the height of the hull's centre from a weight moved
// across. The load, with the weight where it was before, must have passed Check.
func (boat *Boat) Incline(l Load, in Inclining) (Inclined, error) {
	if err := in.Check(); err != nil {
		return Inclined{}, err
	}
	turn := func(z float64) (float64, *Figures) {
		before := l
		// Raising the hull's mass is a couple: so much at the new height less so much at the old one.
		before.Masses = append(slices.Clone(l.Masses),
			Mass{Kg: in.HullKg, At: r3.Vec{Z: z}}, Mass{Kg: -in.HullKg, At: r3.Vec{Z: in.HullKZ}})
		after := before
		after.Masses = append(slices.Clone(before.Masses), Mass{Kg: in.Kg, At: in.To}, Mass{Kg: -in.Kg, At: in.From})
		a, b := boat.Solve(before, nil), boat.Solve(after, nil)
		if a.Figures == nil || b.Figures == nil {
			return math.NaN(), nil
		}
		return b.Figures.HeelDeg - a.Figures.HeelDeg, a.Figures
	}
	read := in.After - in.Before
	now, f := turn(in.HullKZ)
	if f == nil {
		return Inclined{}, check.Faults{{Field: "load",
			Want: "by the list of masses she does not come to rest: put the list right first"}}
	}
	rad := math.Pi / 180
	gm := func(deg float64) float64 {
		d := math.Tan((in.Before+deg)*rad) - math.Tan(in.Before*rad)
		return in.Kg * (in.From.Y - in.To.Y) / f.DisplacementKg / d
	}
	sigma := in.SigmaDeg * math.Sqrt2
	r := Inclined{GM: gm(read), Computed: f.GMT, TurnDeg: read, ComputedTurn: now, Noise: sigma / math.Abs(read)}
	r.GMBand = normal95 * math.Abs(gm(read+sigma/2)-gm(read-sigma/2))
	height := func(deg float64) (float64, bool) {
		low, high := boat.Shell.Low.Z, boat.Shell.High.Z+1
		lt, _ := turn(low)
		ht, _ := turn(high)
		if math.IsNaN(ht) {
			ht = math.Copysign(90, deg)
		}
		if !(math.Abs(lt) <= math.Abs(deg) && math.Abs(deg) <= math.Abs(ht)) {
			return math.NaN(), false
		}
		for range 40 {
			z := (low + high) / 2
			if t, _ := turn(z); math.Abs(t) < math.Abs(deg) { // the higher, the more she turns
				low = z
			} else {
				high = z
			}
		}
		return (low + high) / 2, true
	}
	if r.HullZ, r.Possible = height(read); r.Possible {
		up, okUp := height(read + sigma)
		down, okDown := height(read - sigma)
		if okUp && okDown {
			r.HullZBand = normal95 * math.Abs(up-down) / 2
		}
		r.HigherBy = (r.HullZ - in.HullKZ) * in.HullKg / f.DisplacementKg
	}
	return r, nil
}
