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
	ID      string
	Name    string
	Size    r3.Vec  // along x, y, z
	Opening r3.Vec  // in the top, along x and y; nought means the whole top
	MaxKg   float64 // nought means no limit
	Dry     bool    // stays dry inside
	Rods    Rods    // for rods only where it is a bed, tubes or holders
	Fixed   []Laid  // where pieces were laid by hand; see Lay

	// Stop says that the caller's time is up: what lays pieces then gives up, and has
	// found no way. Nil is never.
	Stop func() bool
}

func (p Place) stopped() bool { return p.Stop != nil && p.Stop() }

// Rods says how a place takes rods; without a form it takes anything, as boxes.
type Rods struct {
	Form     string // bed, tubes or upright; empty is none of them
	Slots    int    // tubes or holders
	Diameter float64
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
	Top      bool    // fragile: nothing may lie on it
	Soft     bool    // gives way: see SoftShare
	Bends    bool    // jointed, coiled or loose: bends round the rim of an opening
	Uses     float64 // times a day; what is used often should lie on top
	Guide    float64 // of a rod, the height of its largest guide; nought is no rod
}

// SoftShare is what of a side of a soft piece is left when it is pressed along
// it. Practice, no source.
const SoftShare = 0.8

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
	Ends *Ends // of a rod
}

// Ends are what a rod takes up across at its after and fore end, from and to.
type Ends struct {
	Aft, Fore [2]float64
	Reversed  bool // butt forward
	Slot      int  // of tubes and holders
	Doubled   bool // tip by butt with another, or two in one tube
}

// touch is how far pieces may overlap and still lie side by side, metres.
const touch = 0.002

// Over says whether it lies on or above another piece, in part.
func (l Laid) Over(o Laid) bool {
	x, y, _ := overlap(l, o)
	return l.At.Z >= o.At.Z+o.Size.Z-touch && x > touch && y > touch
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

	RuleAir     = "air"
	RuleOverlap = "overlap"
	RuleTurn    = "turn"

	RulePinned   = "pinned"
	RuleReserved = "reserved"
	RuleReach    = "reach"
	RuleHazard   = "hazard"
	RuleBalance  = "balance"
)

// Refuse lists every rule that keeps a piece out of the place, with what lies
// there already; empty where it goes in. Sentences are in the reader's units.
func Refuse(p Place, there []Piece, piece Piece, u units.System) []Refusal {
	var rs []Refusal
	refuse := func(rule, format string, values ...any) {
		rs = append(rs, Refusal{Rule: rule, Sentence: fmt.Sprintf(format, values...)})
	}
	if piece.NeedsDry && !p.Dry {
		refuse(RuleDry, "%s must stay dry, and %s gets wet.", piece.Name, p.Name)
	}
	if p.Rods.Form != "" {
		if said := p.Rods.refuses(p, piece, u); said != "" {
			refuse(RuleSize, "%s", said)
		}
	} else if !anyTurn(piece, func(s r3.Vec) bool { return inside(s, p.Size) }) {
		refuse(RuleSize, "%s is %s; %s is %s inside.", piece.Name, sides(u, piece.Size.X, piece.Size.Y, piece.Size.Z),
			p.Name, sides(u, p.Size.X, p.Size.Y, p.Size.Z))
	} else if !anyTurn(piece, func(s r3.Vec) bool { return inside(s, p.Size) && p.admits(piece, s) }) {
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
		refuse(RuleRoom, "%s would hold %d pieces; %d is the most that is laid out: keep small things together in boxes.",
			p.Name, n, maxPieces)
		return rs
	}
	if _, ok := Lay(p, append(slices.Clone(there), piece)); !ok && p.Rods.Form != "" {
		refuse(RuleRoom, "%s is full for %s: it holds %d as they are, also tip by butt.", p.Name, piece.Name,
			len(apart(there)))
	} else if !ok {
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
	if p.Soft {
		for _, s := range slices.Clone(all) {
			all = append(all, r3.Vec{X: s.X * SoftShare, Y: s.Y, Z: s.Z}, r3.Vec{X: s.X, Y: s.Y * SoftShare, Z: s.Z},
				r3.Vec{X: s.X, Y: s.Y, Z: s.Z * SoftShare})
		}
	}
	return all
}

// maxPieces bounds the work for one place: it grows with the square of the
// pieces. A locker of more is better entered as boxes with things in them.
const maxPieces = 120

// Lay finds how the pieces lie in the place, or says that it found no way. Of
// the ways that a few orders give it takes the handiest; where none of them
// does, it looks longer. What was laid by hand stays as it is, as far as it can
// lie there, and the rest is laid around it; where that finds no way, all is laid
// anew. The answer is in an order in which they can be laid. It is deterministic.
func Lay(p Place, pieces []Piece) ([]Laid, bool) {
	singles := apart(pieces)
	if len(singles) == 0 {
		return nil, true
	}
	if len(singles) > maxPieces {
		return nil, false
	}
	if p.Rods.Form != "" {
		return p.layRods(singles)
	}
	if laid, ok := p.around(singles); ok {
		return laid, true
	}
	if laid, ok := handiest(p, singles); ok {
		return laid, true
	}
	if p.stopped() || volume(pieces) > p.Size.X*p.Size.Y*p.Size.Z+slack {
		return nil, false
	}
	laid, left := Pack(p, singles, patience(len(singles)))
	if len(left) > 0 {
		return nil, false
	}
	return laid, true
}

// patience is how many fillings of so many pieces are tried where the quick ones
// found no way: a few milliseconds' work.
func patience(pieces int) int { return min(max(2000/pieces, 24), 400) }

// handiest lays the pieces in each of the orders, and keeps the way that costs
// least to live with; where one taste finds none, by the next.
func handiest(p Place, singles []Piece) ([]Laid, bool) {
	kinds, of := makes(singles)
	return newPacker(p, singleLumps(p, kinds, of)).handiest(kinds, of, singles)
}

// enoughLaid is how many pieces are laid in looking for the handiest way: all orders
// are tried of some fifty pieces, and fewer of more.
const enoughLaid = 240

func (s *packer) handiest(kinds []Piece, of [][]Piece, singles []Piece) ([]Laid, bool) {
	var best []Laid
	least := math.Inf(1)
	enough := max(1, enoughLaid/max(len(singles), 1))
	for _, by := range tastes {
		for i := range orders {
			if best != nil && i >= enough {
				break
			}
			laid, ok := s.inTurn(i, by, kinds, of)
			if s.place.stopped() {
				return nil, false
			}
			if !ok {
				continue
			}
			if b := bother(laid, singles); b < least-slack {
				best, least = laid, b
			}
		}
		if best != nil {
			break
		}
	}
	return best, best != nil
}

// fewPieces are laid by every taste, since that is quick.
const fewPieces = 12

// quickly looks for the first order in which the pieces go in. Way is which one
// that is, for layBy; work counts what it took, see packer.
func quickly(p Place, singles []Piece) (way int, ok bool, work int) {
	if p.Rods.Form != "" {
		_, ok = p.layRods(singles)
		return 0, ok, len(singles) * len(singles)
	}
	kinds, of := makes(singles)
	s := newPacker(p, singleLumps(p, kinds, of))
	tried := len(orders)
	if len(singles) <= fewPieces {
		tried *= len(tastes)
	}
	for way := range tried {
		if _, ok := s.inTurn(way%len(orders), tastes[way/len(orders)], kinds, of); ok || p.stopped() {
			return way, ok, s.work
		}
	}
	return 0, false, s.work
}

// layBy lays the pieces the way that quickly found.
func layBy(p Place, singles []Piece, way int) []Laid {
	if p.Rods.Form != "" {
		laid, _ := p.layRods(singles)
		return laid
	}
	kinds, of := makes(singles)
	s := newPacker(p, singleLumps(p, kinds, of))
	laid, _ := s.inTurn(way%len(orders), tastes[way/len(orders)], kinds, of)
	return laid
}

// inTurn lays all lumps in one of the orders, by a taste.
func (s *packer) inTurn(order int, by taste, kinds []Piece, of [][]Piece) ([]Laid, bool) {
	turn := make([]int, len(s.lumps))
	for i := range turn {
		turn[i] = i
	}
	slices.SortStableFunc(turn, func(a, b int) int {
		return orders[order](kinds[s.lumps[a].first()],
			kinds[s.lumps[b].first()])
	})
	b := s.inOrder(turn, by)
	if b.left() > 0 {
		return nil, false
	}
	laid, _ := s.answer(b, of)
	return laid, true
}

// bother is what a way of laying costs to live with, in liftings a day: for each
// use all that lies on the piece is lifted off. What is heavy and high counts a
// little, so that heavy goes low where uses do not say.
func bother(laid []Laid, pieces []Piece) (sum float64) {
	for _, l := range laid {
		piece := pieces[slices.IndexFunc(pieces, func(p Piece) bool { return p.ID == l.ID })]
		sum += 0.01 * piece.Kg * l.At.Z
		if piece.Uses == 0 {
			continue
		}
		for _, o := range laid {
			if o.Over(l) {
				sum += piece.Uses
			}
		}
	}
	return sum
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
// big volume, longest side, seldom used first.
var orders = []func(a, b Piece) int{
	descending(func(p Piece) float64 { return p.Kg }),
	descending(func(p Piece) float64 { return p.Size.X * p.Size.Y }),
	descending(func(p Piece) float64 { return p.Size.X * p.Size.Y * p.Size.Z }),
	descending(func(p Piece) float64 { return max(p.Size.X, p.Size.Y, p.Size.Z) }),
	descending(func(p Piece) float64 { return -p.Uses }),
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

// supported is the share of a piece's floor that must rest on something.
// Practice, no source.
const supported = 0.6

func overlap(a, b Laid) (x, y, z float64) {
	side := func(a, as, b, bs float64) float64 { return min(a+as, b+bs) - max(a, b) }
	return side(a.At.X, a.Size.X, b.At.X, b.Size.X),
		side(a.At.Y, a.Size.Y, b.At.Y, b.Size.Y),
		side(a.At.Z, a.Size.Z, b.At.Z, b.Size.Z)
}
