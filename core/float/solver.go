package float

import (
	"math"

	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

// Boat is a shell made ready for floating. It is not changed by use, so many
// goroutines may share it.
type Boat struct {
	Shell  *hull.Shell
	floods []hull.FloodPoint
	spaces []space
	solid  *solid
	holds  float64 // m³, lid on
}

// space is a part of the inside that the sea fills through its own openings.
type space struct {
	name string
	mesh hull.Mesh
}

// NewBoat makes a shell ready, with the points at which water comes in.
func NewBoat(shell *hull.Shell, floods []hull.FloodPoint) *Boat {
	return &Boat{Shell: shell, floods: floods, solid: newSolid(shell.Mesh), holds: shell.Holds}
}

// NewCraft makes a hull ready with her flood points and spaces. The hull must
// have passed Check.
func NewCraft(h hull.Hull) (*Boat, error) {
	shell, err := h.Shell()
	if err != nil {
		return nil, err
	}
	b := NewBoat(shell, h.FloodPoints)
	for _, s := range h.Spaces {
		if m := shell.Within(s.Low, s.High); m.Volume() > 1e-6 {
			b.spaces = append(b.spaces, space{name: s.Name, mesh: m})
		}
	}
	return b, nil
}

// flooded is the boat with the sea standing in some of her spaces: they carry
// nothing. The spaces must not overlap.
func (boat *Boat) flooded(names map[string]bool) *Boat {
	parts := []hull.Mesh{boat.Shell.Mesh}
	for _, s := range boat.spaces {
		if names[s.name] {
			parts = append(parts, s.mesh.Inverted())
		}
	}
	b := *boat
	joined := hull.Join(parts...)
	b.solid, b.holds = newSolid(joined), joined.Volume()
	return &b
}

// solver carries one load on one boat through attitudes. It holds scratch, so
// it serves one goroutine.
type solver struct {
	*Boat
	hull   *body
	rho    float64
	mass   float64 // all, kg
	ref    r3.Vec  // point of reference: the solid masses' centre of gravity
	tanks  []slackTank
	length float64
	height float64
}

// slackTank is a tank whose liquid moves.
type slackTank struct {
	*body
	volume, density float64
	level           float64 // the last one found, where the next search starts
}

func newSolver(boat *Boat, l Load) *solver {
	size := r3.Sub(boat.Shell.High, boat.Shell.Low)
	s := &solver{Boat: boat, hull: newBody(boat.solid), rho: l.WaterDensity, length: size.X, height: size.Z}
	solid := Load{Masses: l.Masses}
	for _, t := range l.Tanks {
		if t.Fill < nearlyEmpty || t.Fill > 1-nearlyEmpty { // next to nothing can move
			solid.Masses = append(solid.Masses[:len(solid.Masses):len(solid.Masses)], Mass{Kg: t.Kg(), At: t.CG()})
		} else {
			s.tanks = append(s.tanks, slackTank{body: newBody(newSolid(t.inside())), volume: t.Kg() / t.Density,
				density: t.Density, level: math.NaN()})
			s.mass += t.Kg()
		}
	}
	total := solid.Total()
	s.mass += total.Kg
	s.ref = total.CG
	return s
}

// on is the solver with its load on another form of the boat.
func (s *solver) on(boat *Boat) *solver {
	other := *s
	other.Boat, other.hull = boat, newBody(boat.solid)
	return &other
}

// pose is an attitude with the level of the water's surface over ref.
type pose struct{ trim, heel, h float64 } // radians, radians, metres

// balance is what is out of balance at a pose, and how it changes.
type balance struct {
	frame
	wet                    immersion
	force                  float64 // ρV - M, kg
	forward, port, up      float64 // of ρ∫r dV - Σm r, kg m; nought forward and to port at rest
	freeFF, freePP, freeFP float64 // Σρi of slack liquid, kg m
	gravity                r3.Vec  // Σm r, kg m
}

func (s *solver) at(p pose) balance {
	b := balance{frame: attitude(p.trim, p.heel)}
	b.wet = s.hull.immerse(b.frame, s.ref, p.h)
	s.settle(&b)
	return b
}

// float is at with the level found for the boat's displacement.
func (s *solver) float(p *pose) balance {
	b := balance{frame: attitude(p.trim, p.heel)}
	p.h, b.wet = s.hull.fill(b.frame, s.ref, s.mass/s.rho, p.h, settled)
	s.settle(&b)
	return b
}

// settle lets the tanks' liquid come to rest and adds up the moments.
func (s *solver) settle(b *balance) {
	for i := range s.tanks {
		t := &s.tanks[i]
		var im immersion
		t.level, im = t.fill(b.frame, s.ref, t.volume, t.level, settled)
		b.gravity = r3.Add(b.gravity, r3.Scale(t.density, im.moment))
		b.freeFF += t.density * (im.iFF - im.sForward*im.sForward/im.area)
		b.freePP += t.density * (im.iPP - im.sPort*im.sPort/im.area)
		b.freeFP += t.density * (im.iFP - im.sForward*im.sPort/im.area)
	}
	m := r3.Sub(r3.Scale(s.rho, b.wet.moment), b.gravity)
	b.force = s.rho*b.wet.volume - s.mass
	b.forward, b.port, b.up = r3.Dot(b.frame.forward, m), r3.Dot(b.frame.port, m), r3.Dot(b.frame.up, m)
}

// stiffness is the restoring moment per radian of trim, heel and both at
// constant displacement, kg m: Δ·GM_L, Δ·GM_T and the coupling.
func (s *solver) stiffness(b balance) (ff, pp, fp float64) {
	w := b.wet
	ff = s.rho*(w.iFF-w.sForward*w.sForward/w.area) - b.freeFF + b.up
	pp = s.rho*(w.iPP-w.sPort*w.sPort/w.area) - b.freePP + b.up
	fp = s.rho*(w.iFP-w.sForward*w.sPort/w.area) - b.freeFP
	return ff, pp, fp
}

// nearlyEmpty is the fill, or what is left of one, under which a tank's liquid
// counts as fixed: its surface would be too small to divide by.
const nearlyEmpty = 1e-6

const (
	maxTurn   = 0.15  // radians in one step
	settled   = 1e-12 // of mass and of mass times length
	maxNewton = 25
	maxDown   = 200
	restArm   = 1e-9 // of the length: buoyancy's arm about the weight at rest
)

// newton finds rest near a start; with the heel held it finds trim alone.
func (s *solver) newton(p pose, holdHeel bool) (pose, balance, bool) {
	for range maxNewton {
		b := s.at(p)
		if b.wet.area <= 0 {
			return p, b, false
		}
		port := b.port
		if holdHeel {
			port = 0
		}
		arm := s.mass * s.length
		if math.Abs(b.force) <= settled*s.mass && math.Abs(b.forward) <= settled*arm && math.Abs(port) <= settled*arm {
			return p, b, true
		}
		step, ok := s.newtonStep(b, holdHeel)
		if !ok {
			return p, b, false
		}
		shrink := max(math.Abs(step[0])/(0.25*s.height), math.Abs(step[1])/maxTurn, math.Abs(step[2])/maxTurn, 1)
		p.h += step[0] / shrink
		p.trim += step[1] / shrink
		p.heel += step[2] / shrink / math.Cos(p.trim)
		if math.Abs(p.trim) > 1.4 {
			return p, b, false
		}
	}
	return p, balance{}, false
}

// newtonStep solves the Jacobian for sinkage and the two turns.
func (s *solver) newtonStep(b balance, holdHeel bool) ([3]float64, bool) {
	w := b.wet
	j := [3][4]float64{
		{s.rho * w.area, -s.rho * w.sForward, -s.rho * w.sPort, -b.force},
		{s.rho * w.sForward, -s.rho*w.iFF - b.up + b.freeFF, -s.rho*w.iFP + b.freeFP, -b.forward},
		{s.rho * w.sPort, -s.rho*w.iFP + b.freeFP, -s.rho*w.iPP - b.up + b.freePP, -b.port},
	}
	if holdHeel {
		j[0][2], j[1][2] = 0, 0
		j[2] = [4]float64{0, 0, 1, 0}
	}
	return solve3(j)
}

// solve3 is Gauss with pivots on three equations, right-hand side last.
func solve3(a [3][4]float64) (x [3]float64, ok bool) {
	for c := range 3 {
		pivot := c
		for r := c + 1; r < 3; r++ {
			if math.Abs(a[r][c]) > math.Abs(a[pivot][c]) {
				pivot = r
			}
		}
		a[c], a[pivot] = a[pivot], a[c]
		if a[c][c] == 0 {
			return x, false
		}
		for r := c + 1; r < 3; r++ {
			k := a[r][c] / a[c][c]
			for i := c; i < 4; i++ {
				a[r][i] -= k * a[c][i]
			}
		}
	}
	for r := 2; r >= 0; r-- {
		x[r] = a[r][3]
		for i := r + 1; i < 3; i++ {
			x[r] -= a[r][i] * x[i]
		}
		x[r] /= a[r][r]
	}
	return x, true
}

// descend follows the potential energy downhill at constant displacement, as
// height of the centre of gravity over that of buoyancy, to a stable rest.
func (s *solver) descend(p pose, holdHeel bool) (pose, bool) {
	b := s.float(&p)
	for range maxDown {
		gf, gp := -b.forward/s.mass, -b.port/s.mass
		if holdHeel {
			gp = 0
		}
		if math.Hypot(gf, gp) <= restArm*s.length {
			return p, true
		}
		a, c := s.downhill(b, gf, gp, holdHeel)
		energy, slope := -b.up, (gf*a+gp*c)*s.mass
		moved := false
		for share := 1.0; share > 1e-9; share /= 2 {
			q := pose{trim: p.trim + share*a, heel: p.heel + share*c/math.Cos(p.trim), h: p.h}
			next := s.float(&q)
			if -next.up <= energy+1e-4*share*slope+1e-11*s.mass*s.height && math.Abs(q.trim) < 1.5 {
				p, b, moved = q, next, true
				break
			}
		}
		if !moved {
			return p, math.Hypot(gf, gp) <= 1e3*restArm*s.length // rounding hides what is left
		}
	}
	return p, false
}

// downhill is the Newton step of the energy, turned into one that goes down
// where the stiffness is not positive, and no longer than maxTurn.
func (s *solver) downhill(b balance, gf, gp float64, holdHeel bool) (trim, heel float64) {
	ff, pp, fp := s.stiffness(b)
	ff, pp, fp = ff/s.mass, pp/s.mass, fp/s.mass
	if holdHeel {
		fp, pp = 0, math.Abs(ff)+1
	}
	least := (ff+pp)/2 - math.Hypot((ff-pp)/2, fp)
	if floor := 1e-3 * s.height; least < floor {
		ff += floor - least
		pp += floor - least
	}
	det := ff*pp - fp*fp
	trim, heel = -(pp*gf-fp*gp)/det, -(ff*gp-fp*gf)/det
	if turn := math.Hypot(trim, heel); turn > maxTurn {
		trim, heel = trim*maxTurn/turn, heel*maxTurn/turn
	}
	return trim, heel
}
