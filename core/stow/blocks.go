package stow

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// part is one piece in a lump, from the lump's corner.
type part struct {
	make int
	at   r3.Vec
	size r3.Vec
	top  bool // nothing may lie on it
}

// form is one way in which a lump may lie: its outer size and its parts. top
// says that nothing may lie on some of it.
type form struct {
	size  r3.Vec
	parts []part
	top   bool
}

// lump is one piece, or several that meet face to face and are laid as one.
type lump struct {
	forms  []form
	needs  []int // how many of each make
	volume float64
}

// makes puts pieces of the same kind together, and counts them.
func makes(pieces []Piece) (kinds []Piece, of [][]Piece) {
	for _, p := range pieces {
		i := slices.IndexFunc(kinds, func(o Piece) bool {
			return o.Size == p.Size && o.Turn == p.Turn && o.Top == p.Top && o.Soft == p.Soft && o.Kg == p.Kg && o.Uses == p.Uses
		})
		if i < 0 {
			i, kinds, of = len(kinds), append(kinds, p), append(of, nil)
		}
		of[i] = append(of[i], p)
	}
	return kinds, of
}

const (
	maxBlocks = 2000
	meets     = 1e-6 // metres that faces may differ and still meet
)

// first is the make of the first part: of all of a single piece.
func (l lump) first() int { return slices.IndexFunc(l.needs, func(n int) bool { return n > 0 }) }

// formsIn are the sizes in which a piece may lie in a place and pass its opening.
func formsIn(piece Piece, p Place) (sizes []r3.Vec) {
	for _, size := range turns(piece) {
		if inside(size, p.Size) && p.admits(piece, size) && !slices.Contains(sizes, size) {
			sizes = append(sizes, size)
		}
	}
	return sizes
}

// singleLumps is a lump for each piece.
func singleLumps(p Place, kinds []Piece, of [][]Piece) []lump {
	var list []lump
	for i, kind := range kinds {
		var forms []form
		for _, size := range formsIn(kind, p) {
			forms = append(forms, form{size: size, parts: []part{{make: i, at: r3.Vec{}, size: size, top: kind.Top}},
				top: kind.Top})
		}
		needs := make([]int, len(kinds))
		needs[i] = 1
		for range of[i] {
			list = append(list, lump{forms: forms, needs: needs, volume: kind.Size.X * kind.Size.Y * kind.Size.Z})
		}
	}
	return list
}

// block is a form with what it takes of each make.
type block struct {
	form
	needs []int
}

// builder joins what goes together face to face, as far as there are pieces for it.
type builder struct {
	place  Place
	of     [][]Piece
	blocks []block
	seen   map[string]bool
	probes int // that are left to look for pinwheels
}

// blocks joins lumps whose faces meet, two and two or five about a middle, again
// and again, as boxes that were sawn from one would go together (block building
// after Eley, "Solving container loading problems by block arrangement", European
// Journal of Operational Research 141, 2002; from memory).
func blocks(p Place, kinds []Piece, of [][]Piece) []lump {
	b := &builder{place: p, of: of, seen: map[string]bool{}, probes: maxProbes}
	last := -1
	for _, l := range singleLumps(p, kinds, of) {
		if one := slices.Index(l.needs, 1); one != last {
			last = one
			for _, f := range l.forms {
				b.add(block{form: f, needs: l.needs})
			}
		}
	}
	single := len(b.blocks)
	for done := 0; done < len(b.blocks) && !p.stopped(); {
		done = b.pairs(done)
		b.pinwheels()
	}
	return asLumps(b.blocks[single:], kinds)
}

func (b *builder) add(n block) {
	key := signature(n.size, n.needs)
	if len(b.blocks) < maxBlocks && !b.seen[key] && inside(n.size, b.place.Size) {
		b.seen[key] = true
		b.blocks = append(b.blocks, n)
	}
}

// pairs joins each block from an index on with those before it, and what comes of
// that too; it returns how many blocks were looked at.
func (b *builder) pairs(from int) int {
	i := from
	for ; i < len(b.blocks); i++ {
		for j := 0; j <= i; j++ {
			for axis := range 3 {
				lower, upper := b.blocks[i], b.blocks[j]
				if !faceToFace(lower.size, upper.size, axis) {
					continue
				}
				needs, enough := b.together(lower.needs, upper.needs)
				if !enough {
					break
				}
				if axis == 2 && lower.top {
					lower, upper = upper, lower
				}
				if axis == 2 && lower.top {
					continue
				}
				b.add(block{form: joined(lower.form, upper.form, axis), needs: needs})
			}
		}
	}
	return i
}

// asLumps puts blocks of the same pieces together, as forms of one lump; the largest come first.
func asLumps(blocks []block, kinds []Piece) (lumps []lump) {
	byNeeds := map[string]int{}
	for _, b := range blocks {
		key := signature(r3.Vec{}, b.needs)
		i, known := byNeeds[key]
		if !known {
			i = len(lumps)
			byNeeds[key] = i
			l := lump{needs: b.needs}
			for m, n := range b.needs {
				l.volume += float64(n) * kinds[m].Size.X * kinds[m].Size.Y * kinds[m].Size.Z
			}
			lumps = append(lumps, l)
		}
		lumps[i].forms = append(lumps[i].forms, b.form)
	}
	slices.SortStableFunc(lumps, func(a, b lump) int { return cmp.Compare(b.volume, a.volume) })
	return lumps
}

func signature(size r3.Vec, needs []int) string {
	key := make([]byte, 0, len(needs)+6)
	for _, v := range []float64{size.X, size.Y, size.Z} {
		mm := int(math.Round(v * 500))
		key = append(key, byte(mm), byte(mm>>8))
	}
	for _, n := range needs {
		key = append(key, byte(n))
	}
	return string(key)
}

// together is what several blocks take of each make, and whether there is enough.
func (b *builder) together(needs ...[]int) ([]int, bool) {
	sum := make([]int, len(b.of))
	for _, n := range needs {
		for i := range n {
			if sum[i] += n[i]; sum[i] > len(b.of[i]) {
				return nil, false
			}
		}
	}
	return sum, true
}

func along(v r3.Vec, axis int) float64 { return [3]float64{v.X, v.Y, v.Z}[axis] }

func faceToFace(a, b r3.Vec, axis int) bool {
	u, v := (axis+1)%3, (axis+2)%3
	return math.Abs(along(a, u)-along(b, u)) < meets && math.Abs(along(a, v)-along(b, v)) < meets
}

// joined sets b behind a along an axis.
func joined(a, b form, axis int) form {
	by := [3]float64{}
	by[axis] = along(a.size, axis)
	shift := r3.Vec{X: by[0], Y: by[1], Z: by[2]}
	f := form{parts: slices.Clone(a.parts), top: b.top || axis != 2 && a.top}
	for _, q := range b.parts {
		q.at = r3.Add(q.at, shift)
		f.parts = append(f.parts, q)
	}
	end := r3.Add(shift, b.size)
	f.size = r3.Vec{X: max(a.size.X, end.X), Y: max(a.size.Y, end.Y), Z: max(a.size.Z, end.Z)}
	return f
}

// condense takes the largest blocks up to a share of the place, and what is
// left over as single pieces.
func condense(p Place, all []lump, kinds []Piece, of [][]Piece, share float64) []lump {
	free := make([]int, len(of))
	for i := range of {
		free[i] = len(of[i])
	}
	whole := p.Size.X * p.Size.Y * p.Size.Z
	var list []lump
	for _, l := range all {
		enough := l.volume <= share*whole
		for i, n := range l.needs {
			enough = enough && n <= free[i]
		}
		if enough {
			list = append(list, l)
			for i, n := range l.needs {
				free[i] -= n
			}
		}
	}
	rest := make([][]Piece, len(of))
	for i, n := range free {
		rest[i] = of[i][:n]
	}
	return append(list, singleLumps(p, kinds, rest)...)
}
