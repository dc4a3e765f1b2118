package clear

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Grid is a room parted into cells, of which some are taken. What is found in it is
// free to the size of a cell, on the safe side: a cell counts as taken as soon as
// something stands in any of it.
type Grid struct {
	Low   r3.Vec
	Step  float64 // m, side of a cell
	n     [3]int
	taken []bool
}

// NewGrid parts a room from low to high; cells of which a corner is not inside are
// taken.
func NewGrid(low, high r3.Vec, step float64, inside func(r3.Vec) bool) *Grid {
	g := &Grid{Low: low, Step: step}
	for k, d := range []float64{high.X - low.X, high.Y - low.Y, high.Z - low.Z} {
		g.n[k] = max(int(d/step+1e-9), 0)
	}
	g.taken = make([]bool, g.n[0]*g.n[1]*g.n[2])
	corner := make([]bool, (g.n[0]+1)*(g.n[1]+1)*(g.n[2]+1))
	at := func(i, j, k int) int { return (k*(g.n[1]+1)+j)*(g.n[0]+1) + i }
	for k := range g.n[2] + 1 {
		for j := range g.n[1] + 1 {
			for i := range g.n[0] + 1 {
				corner[at(i, j, k)] = inside(
					r3.Add(low, r3.Vec{X: float64(i) * step, Y: float64(j) * step, Z: float64(k) * step}),
				)
			}
		}
	}
	g.each(func(i, j, k int) {
		for c := range 8 {
			if !corner[at(i+c&1, j+c>>1&1, k+c>>2)] {
				g.taken[g.at(i, j, k)] = true
			}
		}
	})
	return g
}

func (g *Grid) at(i, j, k int) int { return (k*g.n[1]+j)*g.n[0] + i }

func (g *Grid) each(do func(i, j, k int)) {
	for k := range g.n[2] {
		for j := range g.n[1] {
			for i := range g.n[0] {
				do(i, j, k)
			}
		}
	}
}

// Take takes all cells that a box along the axes meets.
func (g *Grid) Take(low, high r3.Vec) {
	var from, to [3]int
	for k, v := range [][2]float64{{low.X - g.Low.X, high.X - g.Low.X}, {low.Y - g.Low.Y, high.Y - g.Low.Y}, {low.Z - g.Low.Z, high.Z - g.Low.Z}} {
		from[k] = max(int(math.Floor(v[0]/g.Step+1e-6)), 0)
		to[k] = min(int(math.Ceil(v[1]/g.Step-1e-6)), g.n[k])
	}
	for k := from[2]; k < to[2]; k++ {
		for j := from[1]; j < to[1]; j++ {
			for i := from[0]; i < to[0]; i++ {
				g.taken[g.at(i, j, k)] = true
			}
		}
	}
}

// TakeBounds takes all cells that the bounds of a body meet.
func (g *Grid) TakeBounds(s Solid) { g.Take(s.low, s.high) }

// Free is a box that is free, along the axes.
type Free struct{ Low, Size r3.Vec }

// Litres that it holds.
func (f Free) Litres() float64 { return f.Size.X * f.Size.Y * f.Size.Z * 1000 }

// Largest is the free box of greatest volume whose sides, sorted, are at least so
// long, m; false where there is none. For each stretch of heights the cells that are
// free all through it are a plane, whose largest rectangles are found row by row as
// under a skyline (memory).
func (g *Grid) Largest(least [3]float64) (best Free, found bool) {
	var need [3]int
	for k := range need {
		need[k] = int(math.Ceil(least[k]/g.Step - 1e-9))
	}
	volume := 0
	plane := make([]bool, g.n[0]*g.n[1])
	for from := range g.n[2] {
		for c := range plane {
			plane[c] = false
		}
		for to := from; to < g.n[2]; to++ {
			for c := range plane {
				plane[c] = plane[c] || g.taken[to*len(plane)+c]
			}
			high := to - from + 1
			g.rectangles(plane, func(i, j, long, broad int) {
				if long*broad*high > volume && large([3]int{long, broad, high}, need) {
					volume, found = long*broad*high, true
					best = Free{Low: r3.Add(g.Low, r3.Scale(g.Step, r3.Vec{X: float64(i), Y: float64(j), Z: float64(from)})),
						Size: r3.Scale(g.Step, r3.Vec{X: float64(long), Y: float64(broad), Z: float64(high)})}
				}
			})
		}
	}
	return best, found
}

// large says whether sides, sorted, reach those needed, sorted.
func large(sides, need [3]int) bool {
	for _, s := range []*[3]int{&sides, &need} {
		if s[0] > s[1] {
			s[0], s[1] = s[1], s[0]
		}
		if s[1] > s[2] {
			s[1], s[2] = s[2], s[1]
		}
		if s[0] > s[1] {
			s[0], s[1] = s[1], s[0]
		}
	}
	return sides[0] >= need[0] && sides[1] >= need[1] && sides[2] >= need[2]
}

// rectangles offers every rectangle of free cells that can't grow.
func (g *Grid) rectangles(plane []bool, offer func(i, j, long, broad int)) {
	deep := make([]int, g.n[0]) // free cells from here back across the boat
	type step struct{ from, deep int }
	for j := range g.n[1] {
		var stack []step
		for i := 0; i <= g.n[0]; i++ {
			d := 0
			if i < g.n[0] {
				if plane[j*g.n[0]+i] {
					deep[i] = 0
				} else {
					deep[i]++
				}
				d = deep[i]
			}
			from := i
			for len(stack) > 0 && stack[len(stack)-1].deep >= d {
				top := stack[len(stack)-1]
				stack = stack[:len(stack)-1]
				if top.deep > 0 {
					offer(top.from, j-top.deep+1, i-top.from, top.deep)
				}
				from = top.from
			}
			stack = append(stack, step{from: from, deep: d})
		}
	}
}

// Spaces are the largest free boxes one after another, each with the room of those
// before it taken.
func (g *Grid) Spaces(most int, least [3]float64) (list []Free) {
	for len(list) < most {
		f, found := g.Largest(least)
		if !found {
			break
		}
		list = append(list, f)
		g.Take(f.Low, r3.Add(f.Low, f.Size))
	}
	return list
}
