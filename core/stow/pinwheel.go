package stow

import (
	"cmp"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"
)

// maxProbes bounds the search for pinwheels, some tens of nanoseconds each.
const maxProbes = 200_000

// pinwheel is four boxes about a fifth, of one thickness, seen along it:
//
//	D D C C C
//	D D C C C
//	D D E B B
//	A A A B B
//	A A A B B
//
// No straight cut parts them, so that joining two and two never makes one. The
// whole is a box: A and B are as wide together as D and C, A and D as high as B
// and C, and the middle fills what is left.
type pinwheel struct{ a, b, c, d, e block }

// pinwheels adds all that the blocks make.
func (b *builder) pinwheels() {
	for thick := range 3 {
		all := slices.Clone(b.blocks)
		slices.SortStableFunc(all, func(p, q block) int { return cmp.Compare(along(p.size, thick), along(q.size, thick)) })
		for from := 0; from < len(all); {
			to := from + 1
			for to < len(all) && along(all[to].size, thick)-along(all[from].size, thick) < meets {
				to++
			}
			if to-from >= 5 {
				b.pinwheelsOf(all[from:to], thick)
			}
			from = to
		}
	}
}

// pinwheelsOf adds those of blocks of one thickness. The middle and one beside it
// say how wide the next one is, and so on round: two are tried, three are looked up.
func (b *builder) pinwheelsOf(alike []block, thick int) {
	u, v := (thick+1)%3, (thick+2)%3
	byWidth, byHeight := sortedBy(alike, u), sortedBy(alike, v)
	for _, e := range alike {
		for _, a := range alike {
			if b.probes--; b.probes < 0 || b.place.stopped() {
				return
			}
			if _, enough := b.together(e.needs, a.needs); !enough {
				continue
			}
			for _, d := range withSide(byWidth, u, along(a.size, u)-along(e.size, u)) {
				for _, right := range withSide(byHeight, v, along(a.size, v)+along(e.size, v)) {
					b.probes--
					width := along(a.size, u) + along(right.size, u) - along(d.size, u)
					height := along(a.size, v) + along(d.size, v) - along(right.size, v)
					for _, c := range withSide(withSide(byWidth, u, width), v, height) {
						b.probes--
						b.addPinwheel(pinwheel{a: a, b: right, c: c, d: d, e: e}, thick)
					}
				}
			}
		}
	}
}

func sortedBy(list []block, axis int) []block {
	list = slices.Clone(list)
	slices.SortStableFunc(list, func(p, q block) int { return cmp.Compare(along(p.size, axis), along(q.size, axis)) })
	return list
}

// withSide are the blocks of a length along an axis, from a list in the order of it.
func withSide(list []block, axis int, length float64) []block {
	if length <= meets {
		return nil
	}
	at := func(limit float64) int {
		i, _ := slices.BinarySearchFunc(list, limit, func(p block, x float64) int { return cmp.Compare(along(p.size, axis), x) })
		return i
	}
	from := at(length - meets)
	return list[from:max(from, at(length+meets))]
}

func (b *builder) addPinwheel(p pinwheel, thick int) {
	needs, enough := b.together(p.a.needs, p.b.needs, p.c.needs, p.d.needs, p.e.needs)
	if !enough {
		return
	}
	u, v := (thick+1)%3, (thick+2)%3
	corner := func(x, y float64) r3.Vec {
		var at [3]float64
		at[u], at[v] = x, y
		return r3.Vec{X: at[0], Y: at[1], Z: at[2]}
	}
	left, right := along(p.d.size, u), along(p.a.size, u)
	low, high := along(p.a.size, v), along(p.b.size, v)
	n := block{needs: needs}
	put := func(q block, at r3.Vec) {
		end := r3.Add(at, q.size)
		n.size = r3.Vec{X: max(n.size.X, end.X), Y: max(n.size.Y, end.Y), Z: max(n.size.Z, end.Z)}
		n.top = n.top || q.top
		for _, part := range q.parts {
			part.at = r3.Add(part.at, at)
			n.parts = append(n.parts, part)
		}
	}
	put(p.a, corner(0, 0))
	put(p.b, corner(right, 0))
	put(p.c, corner(left, high))
	put(p.d, corner(0, low))
	put(p.e, corner(left, low))
	for _, part := range n.parts {
		if part.top && part.at.Z+part.size.Z < n.size.Z-meets {
			return // something would lie on what must have nothing on it
		}
	}
	b.add(n)
}
