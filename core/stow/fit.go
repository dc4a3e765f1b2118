package stow

import (
	"fmt"
	"math"
	"slices"

	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

// Place is the inside of a locker, tray, bed or spot on deck.
type Place struct {
	Name    string
	Size    r3.Vec  // along x, y, z
	Opening r3.Vec  // in the top, along x and y; nought means the whole top
	MaxKg   float64 // nought means no limit
	Dry     bool    // stays dry inside
}

// Piece is one kind of thing, Count of them, each of Size and Kg.
type Piece struct {
	ID       string
	Name     string
	Size     r3.Vec
	Kg       float64
	Count    int
	NeedsDry bool
	Turn     Turn
}

// Turn says how a piece may be turned.
type Turn string

const (
	TurnNone    Turn = "none"    // lies as it is
	TurnUpright Turn = "upright" // may be turned about the vertical
	TurnAny     Turn = "any"     // may lie on any side
)

// Laid is where one of a piece lies: its corner of least x, y, z in the place.
type Laid struct {
	ID   string
	At   r3.Vec
	Size r3.Vec
}

// Centre is the middle of the laid piece, in the place's frame.
func (l Laid) Centre() r3.Vec { return r3.Add(l.At, r3.Scale(0.5, l.Size)) }

// Refusal is why a piece does not go into a place: a rule's name and a sentence.
type Refusal struct {
	Rule     string
	Sentence string
}

// The rules by name.
const (
	RuleDry     = "dry"
	RuleSize    = "size"
	RuleOpening = "opening"
	RuleLimit   = "limit"
	RuleRoom    = "room"
)

// Refuse lists every rule that keeps a piece out of the place, with what lies
// there already; empty where it goes in. Sentences are in the reader's units.
func Refuse(p Place, there []Piece, piece Piece, u units.System) []Refusal {
	var rs []Refusal
	refuse := func(rule, format string, values ...any) {
		rs = append(rs, Refusal{rule, fmt.Sprintf(format, values...)})
	}
	if piece.NeedsDry && !p.Dry {
		refuse(RuleDry, "%s must stay dry, and %s gets wet.", piece.Name, p.Name)
	}
	if !anyTurn(piece, func(s r3.Vec) bool { return inside(s, p.Size) }) {
		refuse(RuleSize, "%s is %s; %s is %s inside.", piece.Name, sides(u, piece.Size.X, piece.Size.Y, piece.Size.Z),
			p.Name, sides(u, p.Size.X, p.Size.Y, p.Size.Z))
	} else if !anyTurn(piece, func(s r3.Vec) bool { return inside(s, p.Size) && passes(s, p.Opening) }) {
		refuse(RuleOpening, "%s does not pass the opening of %s, %s.", piece.Name, p.Name, sides(u, p.Opening.X, p.Opening.Y))
	}
	load := mass(append(slices.Clone(there), piece))
	if p.MaxKg > 0 && load > p.MaxKg+1e-9 {
		refuse(RuleLimit, "%s carries %.1f %s at most; with %s it would hold %.1f %[3]s.",
			p.Name, u.Mass.FromSI(p.MaxKg), u.Mass.Symbol, piece.Name, u.Mass.FromSI(load))
	}
	if len(rs) > 0 {
		return rs
	}
	if n := len(apart(there)) + max(piece.Count, 1); n > maxPieces {
		refuse(RuleRoom, "%s would hold %d pieces; %d is the most that is laid out: keep small things together in boxes.", p.Name, n, maxPieces)
		return rs
	}
	if _, ok := Lay(p, append(slices.Clone(there), piece)); !ok {
		litres := func(m3 float64) float64 { return u.Volume.FromSI(m3 * 1000) }
		refuse(RuleRoom, "There is no room left for %s in %s: %.0f of its %.0f %s are taken.",
			piece.Name, p.Name, litres(volume(there)), litres(p.Size.X*p.Size.Y*p.Size.Z), u.Volume.Symbol)
	}
	return rs
}

// sides writes lengths as a person would with a tape: to the centimetre, or to
// the tenth of an inch.
func sides(u units.System, metres ...float64) string {
	digits := 0
	if u.Side.SI > 0.01 {
		digits = 1
	}
	text := ""
	for i, m := range metres {
		if i > 0 {
			text += " x "
		}
		text += fmt.Sprintf("%.*f", digits, u.Side.FromSI(m))
	}
	return text + " " + u.Side.Symbol
}

func mass(pieces []Piece) (kg float64) {
	for _, p := range pieces {
		kg += p.Kg * float64(p.Count)
	}
	return kg
}

func volume(pieces []Piece) (m3 float64) {
	for _, p := range pieces {
		m3 += p.Size.X * p.Size.Y * p.Size.Z * float64(p.Count)
	}
	return m3
}

const slack = 1e-9 // metres of rounding

func inside(s, room r3.Vec) bool {
	return s.X <= room.X+slack && s.Y <= room.Y+slack && s.Z <= room.Z+slack
}

// passes says whether a piece held as it will lie goes through the opening,
// level or tipped on end.
func passes(s, opening r3.Vec) bool {
	if opening.X <= 0 || opening.Y <= 0 {
		return true
	}
	sides := []float64{s.X, s.Y, s.Z}
	slices.Sort(sides)
	small, large := min(opening.X, opening.Y), max(opening.X, opening.Y)
	return sides[0] <= small+slack && sides[1] <= large+slack
}

func anyTurn(p Piece, ok func(r3.Vec) bool) bool { return slices.ContainsFunc(turns(p), ok) }

// turns are the sizes along x, y, z in which the piece may lie.
func turns(p Piece) []r3.Vec {
	x, y, z := p.Size.X, p.Size.Y, p.Size.Z
	all := []r3.Vec{{X: x, Y: y, Z: z}}
	switch p.Turn {
	case TurnUpright:
		all = append(all, r3.Vec{X: y, Y: x, Z: z})
	case TurnAny:
		all = append(all, r3.Vec{X: y, Y: x, Z: z}, r3.Vec{X: x, Y: z, Z: y}, r3.Vec{X: z, Y: x, Z: y},
			r3.Vec{X: y, Y: z, Z: x}, r3.Vec{X: z, Y: y, Z: x})
	}
	return all
}

// maxPieces bounds the work for one place: it grows with the square of the
// pieces. A locker of more is better entered as boxes with things in them.
const maxPieces = 120

// Lay finds how the pieces lie in the place, or says that it found no way. The
// order of its answer is the order in which they are set. It is deterministic.
func Lay(p Place, pieces []Piece) ([]Laid, bool) {
	singles := apart(pieces)
	if len(singles) > maxPieces {
		return nil, false
	}
	for _, order := range orders {
		slices.SortStableFunc(singles, order)
		if laid, ok := layInOrder(p, singles); ok {
			return laid, true
		}
	}
	return nil, false
}

func apart(pieces []Piece) []Piece {
	var singles []Piece
	for _, p := range pieces {
		for range max(p.Count, 1) {
			singles = append(singles, p)
		}
	}
	slices.SortFunc(singles, func(a, b Piece) int { // whatever order they came in
		if a.ID < b.ID {
			return -1
		} else if a.ID > b.ID {
			return 1
		}
		return 0
	})
	return singles
}

// orders in which to try: heavy first, so that it lies low; then big floor,
// big volume, longest side first.
var orders = []func(a, b Piece) int{
	descending(func(p Piece) float64 { return p.Kg }),
	descending(func(p Piece) float64 { return p.Size.X * p.Size.Y }),
	descending(func(p Piece) float64 { return p.Size.X * p.Size.Y * p.Size.Z }),
	descending(func(p Piece) float64 { return max(p.Size.X, p.Size.Y, p.Size.Z) }),
}

func descending(key func(Piece) float64) func(a, b Piece) int {
	return func(a, b Piece) int {
		switch d := key(b) - key(a); {
		case d > 0:
			return 1
		case d < 0:
			return -1
		}
		return 0
	}
}

func layInOrder(p Place, pieces []Piece) ([]Laid, bool) {
	laid := make([]Laid, 0, len(pieces))
	points := []r3.Vec{{}}
	for _, piece := range pieces {
		best, found := Laid{}, false
		for _, at := range points {
			for _, size := range turns(piece) {
				l := Laid{piece.ID, at, size}
				if passes(size, p.Opening) && lies(p, laid, l) && (!found || lower(l, best)) {
					best, found = l, true
				}
			}
		}
		if !found {
			return nil, false
		}
		laid = append(laid, best)
		points = useful(p, laid, append(points, corners(laid, best)...))
	}
	return laid, true
}

// useful leaves out points that are there twice, out of the place, or taken by
// the piece that was laid last.
func useful(p Place, laid []Laid, points []r3.Vec) []r3.Vec {
	last := laid[len(laid)-1]
	within := func(v, low, size float64) bool { return v > low-slack && v < low+size-slack }
	kept := points[:0]
	for _, at := range points {
		taken := within(at.X, last.At.X, last.Size.X) && within(at.Y, last.At.Y, last.Size.Y) && within(at.Z, last.At.Z, last.Size.Z)
		out := at.X > p.Size.X-slack || at.Y > p.Size.Y-slack || at.Z > p.Size.Z-slack
		if !taken && !out && !slices.Contains(kept, at) {
			kept = append(kept, at)
		}
	}
	return kept
}

// lower prefers a low top, then aft, then starboard.
func lower(a, b Laid) bool {
	for _, d := range []float64{
		(a.At.Z + a.Size.Z) - (b.At.Z + b.Size.Z), (a.At.X + a.Size.X) - (b.At.X + b.Size.X),
		(a.At.Y + a.Size.Y) - (b.At.Y + b.Size.Y)} {
		if math.Abs(d) > slack {
			return d < 0
		}
	}
	return false
}

// supported is the share of a piece's floor that must rest on something.
// Practice, no source.
const supported = 0.6

func lies(p Place, laid []Laid, l Laid) bool {
	if !inside(r3.Add(l.At, l.Size), p.Size) {
		return false
	}
	rests := 0.0
	for _, o := range laid {
		x, y, z := overlap(l, o)
		if x > slack && y > slack && z > slack {
			return false
		}
		if math.Abs(o.At.Z+o.Size.Z-l.At.Z) <= slack && x > 0 && y > 0 {
			rests += x * y
		}
	}
	return l.At.Z <= slack || rests >= supported*l.Size.X*l.Size.Y
}

func overlap(a, b Laid) (x, y, z float64) {
	side := func(a, as, b, bs float64) float64 { return min(a+as, b+bs) - max(a, b) }
	return side(a.At.X, a.Size.X, b.At.X, b.Size.X),
		side(a.At.Y, a.Size.Y, b.At.Y, b.Size.Y),
		side(a.At.Z, a.Size.Z, b.At.Z, b.Size.Z)
}

// corners are the extreme points that a newly laid piece makes: beside it,
// ahead of it and on top of it, each slid down and back until it meets a piece
// or a wall.
func corners(laid []Laid, l Laid) []r3.Vec {
	ahead := r3.Vec{X: l.At.X + l.Size.X, Y: l.At.Y, Z: l.At.Z}
	beside := r3.Vec{X: l.At.X, Y: l.At.Y + l.Size.Y, Z: l.At.Z}
	above := r3.Vec{X: l.At.X, Y: l.At.Y, Z: l.At.Z + l.Size.Z}
	return []r3.Vec{ahead, beside, above,
		slide(laid, ahead, 1), slide(laid, ahead, 2), slide(laid, beside, 0), slide(laid, beside, 2),
		slide(laid, above, 0), slide(laid, above, 1)}
}

// slide moves a point towards nought along an axis until a piece stops it.
func slide(laid []Laid, at r3.Vec, axis int) r3.Vec {
	stop := 0.0
	p := [3]float64{at.X, at.Y, at.Z}
	for _, o := range laid {
		low, size := [3]float64{o.At.X, o.At.Y, o.At.Z}, [3]float64{o.Size.X, o.Size.Y, o.Size.Z}
		a, b := (axis+1)%3, (axis+2)%3
		over := p[a] >= low[a]-slack && p[a] < low[a]+size[a]-slack && p[b] >= low[b]-slack && p[b] < low[b]+size[b]-slack
		if end := low[axis] + size[axis]; over && end <= p[axis]+slack {
			stop = max(stop, end)
		}
	}
	p[axis] = stop
	return r3.Vec{X: p[0], Y: p[1], Z: p[2]}
}
