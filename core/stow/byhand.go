package stow

import (
	"fmt"
	"math"
	"slices"

	"ergasia/core/units"

	"gonum.org/v1/gonum/spatial/r3"
)

// around lays the pieces around those that were laid by hand. It is false where
// none was, or where it finds no way.
func (p Place) around(singles []Piece) ([]Laid, bool) {
	kept, free := p.standing(singles)
	if len(kept) == 0 {
		return nil, false
	}
	kinds, of := makes(free)
	s := newPacker(p, singleLumps(p, kinds, of))
	for _, l := range kept {
		piece := pieceOf(singles, l.ID)
		kinds, of = append(kinds, piece), append(of, []Piece{piece})
		m := len(kinds) - 1
		f := form{size: l.Size, parts: []part{{make: m, at: r3.Vec{}, size: l.Size, top: piece.Top}}, top: piece.Top}
		needs := make([]int, m+1)
		needs[m] = 1
		s.fixed = append(s.fixed, set{lump: len(s.lumps), form: &f, at: l.At})
		s.alike = append(s.alike, len(s.lumps))
		s.lumps = append(s.lumps, lump{forms: []form{f}, needs: needs, volume: piece.Size.X * piece.Size.Y * piece.Size.Z})
	}
	if len(free) == 0 {
		return kept, true
	}
	if laid, ok := s.handiest(kinds, of, singles); ok {
		return laid, true
	}
	steps := patience(len(singles))
	b := s.squeak(&steps, 1, s.finish(s.start()))
	if b.left() > 0 {
		return nil, false
	}
	laid, _ := s.answer(b, of)
	return laid, true
}

// standing are the pieces laid by hand that can lie so, from the floor up, and
// the others.
func (p Place) standing(singles []Piece) (kept []Laid, free []Piece) {
	free = slices.Clone(singles)
	fixed := slices.Clone(p.Fixed)
	slices.SortStableFunc(fixed, func(a, b Laid) int { return compare(a.At.Z, b.At.Z) })
	for _, l := range fixed {
		i := slices.IndexFunc(free, func(f Piece) bool { return f.ID == l.ID })
		if i >= 0 && p.wrong(singles, kept, l, units.System{}) == nil {
			kept = append(kept, l)
			free = slices.Delete(free, i, i+1)
		}
	}
	return kept, free
}

func pieceOf(pieces []Piece, id string) Piece {
	return pieces[slices.IndexFunc(pieces, func(p Piece) bool { return p.ID == id })]
}

// CheckLaid says what is wrong with a way in which someone laid all the pieces;
// nil where nothing is.
func CheckLaid(p Place, pieces []Piece, laid []Laid, u units.System) []Refusal {
	sorted := slices.Clone(laid)
	slices.SortStableFunc(sorted, func(a, b Laid) int { return compare(a.At.Z, b.At.Z) })
	var rs []Refusal
	for i, l := range sorted {
		if r := p.wrong(pieces, sorted[:i], l, u); r != nil {
			rs = append(rs, *r)
		}
	}
	return rs
}

// wrong says why a piece can't lie so on and among others that are below it.
func (p Place) wrong(pieces []Piece, below []Laid, l Laid, u units.System) *Refusal {
	piece := pieceOf(pieces, l.ID)
	refuse := func(rule, format string, values ...any) *Refusal {
		return &Refusal{Rule: rule, Sentence: fmt.Sprintf(format, values...)}
	}
	const mm = 1e-3
	if !slices.ContainsFunc(turns(piece), func(s r3.Vec) bool { return r3.Norm(r3.Sub(s, l.Size)) < mm }) {
		return refuse(RuleTurn, "%s may not be turned that way.", piece.Name)
	}
	if !p.admits(piece, l.Size) {
		return refuse(RuleOpening, "%s does not pass the opening of %s turned that way.", piece.Name, p.Name)
	}
	end := r3.Add(l.At, l.Size)
	if out := max(-l.At.X, -l.At.Y, -l.At.Z, end.X-p.Size.X, end.Y-p.Size.Y, end.Z-p.Size.Z); out > mm {
		return refuse(RuleSize, "%s would stick out of %s by %s.", piece.Name, p.Name, sides(u, out))
	}
	held := 0.0
	for _, o := range below {
		x, y, z := overlap(l, o)
		if x <= touch || y <= touch {
			continue
		}
		if z > touch {
			return refuse(RuleOverlap, "%s and %s would be in each other's way.", piece.Name, pieceOf(pieces, o.ID).Name)
		}
		if math.Abs(o.At.Z+o.Size.Z-l.At.Z) > touch {
			continue
		}
		if under := pieceOf(pieces, o.ID); under.Top {
			return refuse(RuleAir, "Nothing may lie on %s.", under.Name)
		}
		held += x * y
	}
	if share := held / (l.Size.X * l.Size.Y); l.At.Z > touch && share < supported {
		return refuse(RuleAir, "%s would lie on %.0f %% of its floor; %.0f %% is the least.", piece.Name, 100*share,
			100*supported)
	}
	return nil
}

// catch is how near an edge must come to another to be laid against it, metres.
const catch = 0.015

// Put lays one of the pieces elsewhere by hand: its corner at x, y or against
// what is near, let down onto what lies there; turned on by so many of its ways.
func Put(p Place, pieces []Piece, laid []Laid, which int, x, y float64, turn int) []Laid {
	l := laid[which]
	ways := formsIn(pieceOf(pieces, l.ID), p)
	if now := slices.IndexFunc(ways, func(s r3.Vec) bool { return r3.Norm(r3.Sub(s, l.Size)) < 1e-3 }); now >= 0 {
		l.Size = ways[(now+turn)%len(ways)]
	}
	others := slices.Delete(slices.Clone(laid), which, which+1)
	xs, ys := []float64{0, p.Size.X - l.Size.X}, []float64{0, p.Size.Y - l.Size.Y}
	for _, o := range others {
		xs = append(xs, o.At.X-l.Size.X, o.At.X+o.Size.X, o.At.X)
		ys = append(ys, o.At.Y-l.Size.Y, o.At.Y+o.Size.Y, o.At.Y)
	}
	l.At = r3.Vec{X: against(x, xs, p.Size.X-l.Size.X), Y: against(y, ys, p.Size.Y-l.Size.Y)}
	for _, o := range others {
		if dx, dy, _ := overlap(l, o); dx > touch && dy > touch {
			l.At.Z = max(l.At.Z, o.At.Z+o.Size.Z)
		}
	}
	return append(others, l)
}

// against is the nearest of some edges, where one is near, within 0 and most.
func against(v float64, edges []float64, most float64) float64 {
	v = max(0, min(v, most))
	best := v
	near := catch
	for _, e := range edges {
		if d := math.Abs(e - v); d < near && e >= 0 && e <= most+slack {
			best, near = e, d
		}
	}
	return best
}
