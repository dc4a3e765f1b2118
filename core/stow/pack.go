package stow

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// Pack looks longer than Lay for a way to lay the pieces, and where not all go
// in, for one that takes as much volume as possible; left is what stays out. It
// fills maximal empty spaces (after Parreño, Alvarez-Valdes, Tamarit, Oliveira,
// "A maximal-space algorithm for the container loading problem", INFORMS Journal
// on Computing 20, 2008; from memory) with single pieces and with blocks of
// pieces whose faces meet. A step is one filling of the place; steps bounds the
// work. Deterministic.
func Pack(p Place, pieces []Piece, steps int) (laid []Laid, left []Piece) {
	kinds, of := makes(apart(pieces))
	all := blocks(p, kinds, of)
	var best *branch
	var by *packer
	for i, share := range []float64{1.01, 0.3, 0} {
		if i > 0 && share > 0 && len(all) == 0 {
			continue
		}
		s := newPacker(p, condense(p, all, kinds, of, share))
		b := s.finish(s.start())
		part := steps / (3 - i)
		steps -= part
		half := part / 2
		part -= half
		b = s.squeak(&half, uint64(i+1), b)
		for width := 1; part > 0 && b.left() > 0 && !p.stopped(); width *= 2 {
			before := part
			if b = s.beam(width, &part, b); part == before {
				break // nothing goes in anywhere, and no wider search would find where
			}
		}
		if best == nil || b.left() == 0 || b.volume > best.volume+slack {
			best, by = b, s
		}
		if b.left() == 0 {
			break
		}
	}
	return by.answer(best, of)
}

// packer is what all branches of a search share.
type packer struct {
	place Place
	lumps []lump
	alike []int // index of the first lump of the same make
	whole float64
	least r3.Vec  // sides that some lump has: a space with a smaller one takes none
	fixed []set   // laid before all others
	spare []space // memory for the spaces of the next filling
	cut   []space
	work  int // spaces that were looked at, some nanoseconds each
}

func newPacker(p Place, lumps []lump) *packer {
	s := &packer{place: p, lumps: lumps, whole: p.Size.X * p.Size.Y * p.Size.Z, least: p.Size}
	for i, l := range lumps {
		for _, f := range l.forms {
			s.least = r3.Vec{X: min(s.least.X, f.size.X), Y: min(s.least.Y, f.size.Y), Z: min(s.least.Z, f.size.Z)}
		}
		first := i
		if i > 0 && slices.Equal(lumps[i-1].needs, l.needs) {
			first = s.alike[i-1]
		}
		s.alike = append(s.alike, first)
	}
	return s
}

// branch is a half-filled place.
type branch struct {
	laid   []set
	spaces []space
	used   []bool
	volume float64
	end    float64 // volume of the greedy end
}

// set is a lump put down.
type set struct {
	lump int
	form *form
	at   r3.Vec
}

type space struct{ low, high r3.Vec }

func (b *branch) left() int { return len(b.used) - len(b.laid) }

func (s *packer) start() *branch {
	b := &branch{spaces: []space{{high: s.place.Size}}, used: make([]bool, len(s.lumps))}
	for _, f := range s.fixed {
		s.lay(b, f)
	}
	for _, f := range s.fixed { // what stands in the middle carries something too
		top := space{low: f.at, high: r3.Add(f.at, f.form.size)}
		top.low.Z, top.high.Z = top.high.Z, s.place.Size.Z
		free := !slices.ContainsFunc(s.fixed, func(o set) bool {
			return top.meets(space{low: o.at,
				high: r3.Add(o.at, o.form.size)})
		})
		if free && top.high.Z-top.low.Z > 1e-3 {
			b.spaces = append(b.spaces, top)
		}
	}
	return b
}

func (a space) meets(b space) bool {
	return a.low.X < b.high.X-slack && b.low.X < a.high.X-slack && a.low.Y < b.high.Y-slack && b.low.Y < a.high.Y-slack &&
		a.low.Z < b.high.Z-slack && b.low.Z < a.high.Z-slack
}

func (b *branch) clone() *branch {
	return &branch{laid: slices.Clone(b.laid), spaces: slices.Clone(b.spaces), used: slices.Clone(b.used),
		volume: b.volume, end: b.end}
}

// candidate is a lump in a space, and how well it does there.
type candidate struct {
	set
	score float64
}

// beam keeps the best branches of each depth by where their greedy ends come to.
func (s *packer) beam(width int, steps *int, best *branch) *branch {
	level := []*branch{s.start()}
	for len(level) > 0 {
		var next []*branch
		for _, b := range level {
			for _, c := range s.candidates(b, width+1) {
				if *steps <= 0 || best.left() == 0 || s.place.stopped() {
					return best
				}
				*steps--
				child := b.clone()
				s.lay(child, c.set)
				end := s.finish(child)
				child.end = end.volume
				if end.volume > best.volume+slack {
					best = end
				}
				next = append(next, child)
			}
		}
		slices.SortStableFunc(next, func(a, b *branch) int { return cmp.Compare(b.end, a.end) })
		level = level[:0]
		for _, b := range next { // branches of the same end and filling are most often the same in another order
			if len(level) < width && !slices.ContainsFunc(level, func(o *branch) bool {
				return math.Abs(o.end-b.end) < slack && math.Abs(o.volume-b.volume) < slack
			}) {
				level = append(level, b)
			}
		}
	}
	return best
}

// finish fills a copy of the branch greedily.
func (s *packer) finish(b *branch) *branch {
	b = b.clone()
	for {
		c := s.candidates(b, 1)
		if len(c) == 0 || s.place.stopped() {
			return b
		}
		s.lay(b, c[0].set)
	}
}

// candidates are the best fillings of the space that is to be filled next, or
// of the one after it where nothing goes in.
func (s *packer) candidates(b *branch, most int) []candidate {
	for len(b.spaces) > 0 {
		next := s.nextSpace(b)
		e := b.spaces[next]
		room := r3.Sub(e.high, e.low)
		var list []candidate
		for i := range s.lumps {
			if b.used[i] || s.passedOver(b, i) {
				continue
			}
			for k := range s.lumps[i].forms {
				f := &s.lumps[i].forms[k]
				if !inside(f.size, room) {
					continue
				}
				at := s.corner(e, f.size)
				score := 2*exact(f.size, room) + 8*math.Cbrt(s.lumps[i].volume/s.whole) + f.size.X*f.size.Y/(room.X*room.Y)
				if len(list) == most && score <= list[most-1].score || !s.rests(b, at, f) {
					continue
				}
				if len(list) == most {
					list = list[:most-1]
				}
				list = append(list, candidate{set: set{lump: i, form: f, at: at}, score: score})
				slices.SortStableFunc(list, func(a, c candidate) int { return cmp.Compare(c.score, a.score) })
			}
		}
		if len(list) > 0 {
			return list
		}
		b.spaces = slices.Delete(b.spaces, next, next+1)
	}
	return nil
}

// passedOver says whether an earlier lump of the same make is still to lay.
func (s *packer) passedOver(b *branch, i int) bool {
	return i > s.alike[i] && !b.used[i-1]
}

// nextSpace is the lowest, and of those the one nearest a corner.
func (s *packer) nextSpace(b *branch) int {
	best, least := 0, math.Inf(1)
	for i, e := range b.spaces {
		x := min(e.low.X, s.place.Size.X-e.high.X)
		y := min(e.low.Y, s.place.Size.Y-e.high.Y)
		if key := e.low.Z*4 + x + y - 0.01*(e.high.X-e.low.X)*(e.high.Y-e.low.Y); key < least-slack {
			best, least = i, key
		}
	}
	return best
}

// corner of a space that is nearest a wall, for something of a size.
func (s *packer) corner(e space, size r3.Vec) r3.Vec {
	at := e.low
	if s.place.Size.X-e.high.X < e.low.X-slack {
		at.X = e.high.X - size.X
	}
	if s.place.Size.Y-e.high.Y < e.low.Y-slack {
		at.Y = e.high.Y - size.Y
	}
	return at
}

const flush = 0.002 // metres left over where a side counts as filling its room

// exact counts the sides that fill the room.
func exact(size, room r3.Vec) (n float64) {
	if room.X-size.X < flush {
		n++
	}
	if room.Y-size.Y < flush {
		n++
	}
	if room.Z-size.Z < flush {
		n++
	}
	return n
}

// taste is by which of several spots a lump is laid.
type taste struct{ low, corner, exact, flat float64 }

var tastes = []taste{
	{low: 1, corner: 0.3, exact: 0.05, flat: 0}, {low: 2, corner: 0.1, exact: 0.2, flat: 0.1},
	{low: 0.5, corner: 0.5, exact: 0.1, flat: 0.3}, {low: 1, corner: 1, exact: 0.3, flat: 0},
}

// squeak lays the lumps in order of their urgency, again and again; those that
// were left out become more urgent (after Joslin and Clements, "Squeaky wheel
// optimization", 1999; from memory).
func (s *packer) squeak(steps *int, seed uint64, best *branch) *branch {
	r := rand.New(rand.NewPCG(seed, 1))
	urgency := make([]float64, len(s.lumps))
	for i, l := range s.lumps {
		urgency[i] = l.volume / s.whole
	}
	kept := slices.Clone(urgency)
	order := make([]int, len(s.lumps))
	least := math.Inf(-1)
	for *steps > 0 && best.left() > 0 && !s.place.stopped() {
		*steps--
		for i := range order {
			order[i] = i
		}
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(urgency[b], urgency[a]) })
		b := s.inOrder(order, tastes[r.IntN(len(tastes))])
		if b.volume > best.volume+slack {
			best = b
		}
		if b.volume >= least-slack {
			least = b.volume
			copy(kept, urgency)
		} else if r.IntN(8) == 0 {
			copy(urgency, kept)
		}
		for i, used := range b.used {
			if !used {
				urgency[i] *= 1.15 + 0.5*r.Float64()
			} else {
				urgency[i] *= 0.9 + 0.2*r.Float64()
			}
		}
	}
	return best
}

// inOrder lays each lump at its best spot; what finds none is passed over.
func (s *packer) inOrder(order []int, by taste) *branch {
	b := s.start()
	p := s.place.Size
	for _, i := range order {
		if s.place.stopped() {
			break
		}
		if b.used[i] {
			continue
		}
		s.work += len(b.spaces) * len(s.lumps[i].forms)
		best, found := candidate{}, false
		for _, e := range b.spaces {
			room := r3.Sub(e.high, e.low)
			for k := range s.lumps[i].forms {
				f := &s.lumps[i].forms[k]
				if !inside(f.size, room) {
					continue
				}
				at := s.corner(e, f.size)
				x := min(at.X, p.X-at.X-f.size.X) / p.X
				y := min(at.Y, p.Y-at.Y-f.size.Y) / p.Y
				score := -by.low*(at.Z+f.size.Z)/p.Z - by.corner*(x+y) + by.exact*exact(f.size, room) +
					by.flat*f.size.X*f.size.Y/(room.X*room.Y)
				if (!found || score > best.score) && s.rests(b, at, f) {
					best, found = candidate{set: set{lump: i, form: f, at: at}, score: score}, true
				}
			}
		}
		if found {
			s.lay(b, best.set)
		}
	}
	return b
}

// lay puts a lump down and cuts the spaces that it takes from.
func (s *packer) lay(b *branch, c set) {
	b.laid = append(b.laid, c)
	b.used[c.lump] = true
	b.volume += s.lumps[c.lump].volume
	low, high := c.at, r3.Add(c.at, c.form.size)
	cut, kept := s.cut[:0], s.spare[:0]
	for _, e := range b.spaces {
		if !e.meets(space{low: low, high: high}) {
			kept = append(kept, e)
			continue
		}
		for _, n := range [...]space{
			{low: e.low, high: r3.Vec{X: low.X, Y: e.high.Y, Z: e.high.Z}}, {low: r3.Vec{X: high.X, Y: e.low.Y, Z: e.low.Z},
				high: e.high},
			{low: e.low, high: r3.Vec{X: e.high.X, Y: low.Y, Z: e.high.Z}}, {low: r3.Vec{X: e.low.X, Y: high.Y, Z: e.low.Z},
				high: e.high},
			{low: e.low, high: r3.Vec{X: e.high.X, Y: e.high.Y, Z: low.Z}}, {low: r3.Vec{X: e.low.X, Y: e.low.Y, Z: high.Z},
				high: e.high}} {
			if inside(s.least, r3.Sub(n.high, n.low)) {
				cut = append(cut, n)
			}
		}
	}
	s.work += len(cut) * (len(kept) + len(cut))
	for i := range cut {
		n := &cut[i]
		covered := n.withinAny(kept)
		for j := 0; j < len(cut) && !covered; j++ {
			covered = j != i && n.within(&cut[j]) && (j < i || !cut[j].within(n))
		}
		if !covered {
			kept = append(kept, *n)
		}
	}
	s.cut, s.spare, b.spaces = cut, b.spaces, kept // a branch has its spaces to itself
}

func (a *space) within(b *space) bool {
	return a.low.X >= b.low.X-slack && a.high.X <= b.high.X+slack && a.low.Y >= b.low.Y-slack &&
		a.high.Y <= b.high.Y+slack && a.low.Z >= b.low.Z-slack && a.high.Z <= b.high.Z+slack
}

// withinAny is the innermost loop of all packing.
func (a *space) withinAny(list []space) bool {
	for i := range list {
		if a.within(&list[i]) {
			return true
		}
	}
	return false
}

// rests says whether each piece at the foot of a lump would lie on the floor,
// or on enough of what lies below it and on nothing that must have nothing on it.
func (s *packer) rests(b *branch, at r3.Vec, f *form) bool {
	if f.top && underAnother(b.laid, at, f) {
		return false
	}
	if at.Z <= slack {
		return true
	}
	for _, q := range f.parts {
		if q.at.Z <= slack && !holds(b.laid, r3.Add(at, q.at), q.size) {
			return false
		}
	}
	return true
}

// underAnother says whether a lump that must have nothing on it in part would come
// to lie with that part under something that was laid before, and overhangs.
func underAnother(laid []set, at r3.Vec, f *form) bool {
	for _, q := range f.parts {
		if !q.top {
			continue
		}
		low := r3.Add(at, q.at)
		for _, o := range laid {
			if math.Abs(o.at.Z-low.Z-q.size.Z) > touch { // its foot; what is higher up in it stands on its own parts
				continue
			}
			for _, p := range o.form.parts {
				foot := r3.Add(o.at, p.at)
				x := min(low.X+q.size.X, foot.X+p.size.X) - max(low.X, foot.X)
				y := min(low.Y+q.size.Y, foot.Y+p.size.Y) - max(low.Y, foot.Y)
				if p.at.Z <= slack && x > slack && y > slack {
					return true
				}
			}
		}
	}
	return false
}

// holds says whether what is laid carries a piece.
func holds(laid []set, at, size r3.Vec) bool {
	held := 0.0
	for _, o := range laid {
		if math.Abs(o.at.Z+o.form.size.Z-at.Z) > 1e-6 {
			continue
		}
		for _, q := range o.form.parts {
			if math.Abs(q.at.Z+q.size.Z-o.form.size.Z) > 1e-6 {
				continue
			}
			x := min(at.X+size.X, o.at.X+q.at.X+q.size.X) - max(at.X, o.at.X+q.at.X)
			y := min(at.Y+size.Y, o.at.Y+q.at.Y+q.size.Y) - max(at.Y, o.at.Y+q.at.Y)
			if x > slack && y > slack {
				if q.top {
					return false
				}
				held += x * y
			}
		}
	}
	return held >= supported*size.X*size.Y
}

// answer lists what was laid, in an order in which it can be laid from above.
func (s *packer) answer(b *branch, of [][]Piece) (laid []Laid, left []Piece) {
	next := make([]int, len(of))
	for _, l := range b.laid {
		for _, q := range l.form.parts {
			laid = append(laid, Laid{ID: of[q.make][next[q.make]].ID, At: r3.Add(l.at, q.at), Size: q.size})
			next[q.make]++
		}
	}
	slices.SortStableFunc(laid, func(a, c Laid) int { return cmp.Compare(a.At.Z, c.At.Z) })
	for i, n := range next {
		left = append(left, of[i][n:]...)
	}
	return laid, left
}
