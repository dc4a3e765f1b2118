package stow

import (
	"math"
	"sync"

	"gonum.org/v1/gonum/spatial/r3"
)

// Whether a piece that will lie with its sides s can be brought in through the
// opening, which is in the middle of the top, with nothing in the way but the
// place itself. What bends passes with its two lesser sides. A rigid piece goes in
// level; or, where it may be tipped, tilted in one upright plane, one end first; or
// either of these turned by a quarter, where there is room inside to turn it back.
func (p Place) admits(piece Piece, s r3.Vec) bool {
	o := p.Opening
	if o.X <= 0 || o.Y <= 0 {
		return true
	}
	if piece.Soft || piece.Bends {
		return slips(s, o)
	}
	if p.entersAs(piece, s) {
		return true
	}
	turned := r3.Vec{X: s.Y, Y: s.X, Z: s.Z}
	return piece.Turn != TurnNone && math.Hypot(s.X, s.Y) <= min(p.Size.X, p.Size.Y)+slack && p.entersAs(piece, turned)
}

// slips says whether the two lesser sides pass the opening.
func slips(s, opening r3.Vec) bool {
	least := min(s.X, s.Y, s.Z)
	middle := s.X + s.Y + s.Z - least - max(s.X, s.Y, s.Z)
	return least <= min(opening.X, opening.Y)+slack && middle <= max(opening.X, opening.Y)+slack
}

// entersAs says whether a rigid piece comes in with its sides along the place's,
// level or tilted about one of them.
func (p Place) entersAs(piece Piece, s r3.Vec) bool {
	o := p.Opening
	if s.X <= o.X+slack && s.Y <= o.Y+slack {
		return true
	}
	most := tiltSteps - 1
	if piece.Turn != TurnAny {
		most = uprightTilt
	}
	along := slot{most: most, gap: o.X, width: p.Size.X, height: p.Size.Z, length: s.X, thick: s.Z}
	across := slot{most: most, gap: o.Y, width: p.Size.Y, height: p.Size.Z, length: s.Y, thick: s.Z}
	return s.Y <= o.Y+slack && along.remembered() || s.X <= o.X+slack && across.remembered()
}

// slot is the gap in the middle of the top of a box of width by height, and the
// rectangle of length by thick, longer than the gap, that is to come in through it
// and lie flat. A place as it is in the plane in which a piece is tilted. Metres.
type slot struct {
	gap, width, height, length, thick float64
	most                              int // how far it may be tilted, in steps
}

// The angles and heights that are looked at. Finer ones change no answer that the
// clearance below does not.
const (
	tiltSteps = 91
	riseSteps = 160
	clearance = 0.001 // metres, all round

	// uprightTilt is how far a thing that stays upright is tipped while it is brought
	// in, in steps: 45 degrees, closed. Practice, no source.
	uprightTilt = (tiltSteps - 1) / 2
)

// answers are what was found, since the same piece and place are asked for again and
// again while a plan is made. They are few: past the bound all are forgotten.
var answers struct {
	sync.Mutex
	known map[slot]bool
}

const maxAnswers = 20_000

func (s slot) remembered() bool {
	answers.Lock()
	in, known := answers.known[s]
	answers.Unlock()
	if known {
		return in
	}
	in = s.tiltsIn()
	answers.Lock()
	defer answers.Unlock()
	if answers.known == nil || len(answers.known) >= maxAnswers {
		answers.known = map[slot]bool{}
	}
	answers.known[s] = in
	return in
}

var tilts = func() (list [tiltSteps][2]float64) {
	for i := range list {
		list[i][0], list[i][1] = math.Sincos(float64(i) / (tiltSteps - 1) * math.Pi / 2)
	}
	return list
}()

// tiltsIn looks for a way from tilted over the gap to flat inside, by a search over
// the angle and the height of the rectangle's middle: at each of them it may be
// anywhere along one stretch of x, and where the stretches of two neighbours
// overlap it gets from one to the other.
func (s slot) tiltsIn() bool {
	if math.Hypot(s.length, s.thick) > s.width || s.thick > min(s.gap, s.height) {
		return false // laying it down takes it through its diagonal
	}
	type cell struct{ tilt, rise int }
	var seen [tiltSteps][riseSteps]bool
	start := cell{s.most, riseSteps - 1}
	seen[start.tilt][start.rise] = true
	queue := []cell{start}
	for len(queue) > 0 {
		at := queue[len(queue)-1] // the deepest first: mostly there is a way or there is none
		queue = queue[:len(queue)-1]
		low, high := s.stretch(at.tilt, at.rise)
		if at.tilt == 0 && s.rise(at.rise)+s.thick/2 <= s.height {
			return true
		}
		for _, d := range [...]cell{{0, 1}, {1, 0}, {1, 1}, {1, -1}, {-1, 1}, {-1, 0}, {-1, -1}, {0, -1}} {
			next := cell{at.tilt + d.tilt, at.rise + d.rise}
			if next.tilt < 0 || next.tilt > s.most || next.rise < 0 || next.rise >= riseSteps || seen[next.tilt][next.rise] {
				continue
			}
			if from, to := s.stretch(next.tilt, next.rise); max(low, from) <= min(high, to) {
				seen[next.tilt][next.rise] = true
				queue = append(queue, next)
			}
		}
	}
	return false
}

// rise is the height of the rectangle's middle over the floor: from lying on it to
// standing over the top.
func (s slot) rise(i int) float64 {
	low, high := s.thick/2, s.height+s.length/2
	return low + (high-low)*float64(i)/(riseSteps-1)
}

// stretch is where along x the rectangle's middle may be at an angle and a height:
// what of it is below the top within the walls, what is at the top within the gap.
// From is over to where it may be nowhere.
func (s slot) stretch(tilt, rise int) (from, to float64) {
	sin, cos := tilts[tilt][0], tilts[tilt][1]
	z := s.rise(rise)
	var x, up [4]float64
	for i, c := range [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		a, b := c[0]*s.length/2, c[1]*s.thick/2
		x[i], up[i] = a*cos-b*sin, z+a*sin+b*cos
	}
	from, to = math.Inf(-1), math.Inf(1)
	keep := func(at, half float64) {
		from, to = max(from, -half-at), min(to, half-at)
	}
	for i := range x {
		j := (i + 1) % 4
		switch {
		case up[i] < -slack:
			return 1, 0
		case up[i] < s.height:
			keep(x[i], s.width/2-clearance/2)
		}
		if (up[i] < s.height) != (up[j] < s.height) {
			keep(x[i]+(x[j]-x[i])*(s.height-up[i])/(up[j]-up[i]), s.gap/2-clearance/2)
		}
	}
	return from, to
}
