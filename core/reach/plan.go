package reach

import (
	"container/heap"
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Post is where a person works; Z is the sole there.
type Post struct {
	Name   string
	At     r3.Vec
	Manned bool // someone is there, and is in the way of a lid that they stand on
	Seated bool
}

// Place is a place as a hand comes to it. It opens at its top.
type Place struct {
	ID, Name       string
	Corner, Size   r3.Vec
	Opening        r3.Vec // along x and y, in the middle of the top; nought is the whole top
	Lid            string // hinged, lift-off, sliding, soft, none
	Latched, Locks bool
	Inside         int // index of the place that this one is in, or -1
	Labelled       bool
}

func (p Place) closed() bool { return p.Lid != "" && p.Lid != "none" }

func (p Place) top() float64 { return p.Corner.Z + p.Size.Z }

func (p Place) over(x, y float64) bool {
	return x >= p.Corner.X && x <= p.Corner.X+p.Size.X && y >= p.Corner.Y && y <= p.Corner.Y+p.Size.Y
}

// opening is the middle of the opening, and half its sides.
func (p Place) opening() (middle, half r3.Vec) {
	middle = r3.Vec{X: p.Corner.X + p.Size.X/2, Y: p.Corner.Y + p.Size.Y/2, Z: p.top()}
	half = r3.Vec{X: p.Size.X / 2, Y: p.Size.Y / 2}
	if p.Opening.X > 0 && p.Opening.Y > 0 {
		half = r3.Vec{X: p.Opening.X / 2, Y: p.Opening.Y / 2}
	}
	return middle, half
}

// Boat is what people walk on. HalfBreadth gives the half breadth at the sheer
// at x, or nought where there is no boat.
type Boat struct {
	Length      float64
	HalfBreadth func(x float64) float64
	Posts       []Post
	Places      []Place
}

// Sheer reads the half breadth off points of x and y along the sheer, aft to
// fore; there is none beyond its ends.
func Sheer(line [][2]float64) func(x float64) float64 {
	return func(x float64) float64 {
		for i := 1; i < len(line); i++ {
			if a, b := line[i-1], line[i]; x >= a[0] && x <= b[0] && b[0] > a[0] {
				return a[1] + (b[1]-a[1])*(x-a[0])/(b[0]-a[0])
			}
		}
		return 0
	}
}

const (
	cell     = 0.1  // metres
	gunwale  = 0.12 // metres inside the sheer that nobody walks on
	step     = 0.55 // metres, the highest that people step up or down
	arm      = 0.65 // metres in plan from the feet to what a hand works at
	overArm  = 1.0  // metres, stretching
	kneeFrom = 0.0  // metres over the feet: a hand lower than this kneels
	bendFrom = 0.6
	highFrom = 1.6
)

// Field is the plan of cells, and how long it takes to walk to each from a post.
type Field struct {
	Cols, Rows int       // along x, along y
	Y0         float64   // y of the first row's middle
	Ground     []float64 // height to stand at; NaN where nobody stands
	Seconds    []float64 // from the post; +Inf where nobody comes
}

// Cell is the side of a cell, metres.
const Cell = cell

func (f Field) at(i int) (x, y float64) {
	return (float64(i%f.Cols) + 0.5) * cell, f.Y0 + float64(i/f.Cols)*cell
}

// ground lays out where people can stand. Open places are not stepped into;
// closed ones are stepped on.
func (b Boat) ground() Field {
	half := 0.0
	for x := 0.0; x <= b.Length; x += cell {
		half = max(half, b.HalfBreadth(x))
	}
	rows := 2*int(math.Ceil(half/cell)) + 1
	f := Field{Cols: int(math.Ceil(b.Length / cell)), Rows: rows, Y0: -float64(rows/2) * cell}
	f.Ground = make([]float64, f.Cols*f.Rows)
	for i := range f.Ground {
		f.Ground[i] = b.standing(f.at(i))
	}
	return f
}

func (b Boat) standing(x, y float64) float64 {
	if math.Abs(y) > b.HalfBreadth(x)-gunwale || len(b.Posts) == 0 {
		return math.NaN()
	}
	nearest, sole := math.Inf(1), 0.0
	for _, p := range b.Posts {
		if d := math.Hypot(p.At.X-x, p.At.Y-y); d < nearest {
			nearest, sole = d, p.At.Z
		}
	}
	z := sole
	for _, p := range b.Places {
		if p.Inside >= 0 || !p.over(x, y) || p.top() <= sole {
			continue
		}
		if !p.closed() {
			return math.NaN()
		}
		z = max(z, p.top())
	}
	return z
}

// From walks from a post to every cell by the quickest way (Dijkstra 1959).
func (b Boat) From(post int, t Table) Field { return b.walk(b.ground(), post, t) }

func (b Boat) walk(f Field, post int, t Table) Field {
	f.Seconds = make([]float64, len(f.Ground))
	for i := range f.Seconds {
		f.Seconds[i] = math.Inf(1)
	}
	at := b.Posts[post].At
	start, nearest := -1, math.Inf(1)
	for i, z := range f.Ground {
		x, y := f.at(i)
		if d := math.Hypot(math.Hypot(x-at.X, y-at.Y), z-at.Z); !math.IsNaN(z) && d < nearest {
			start, nearest = i, d
		}
	}
	if start < 0 {
		return f
	}
	f.Seconds[start] = 0
	q := &queue{{cell: start, s: 0}}
	for q.Len() > 0 {
		n := heap.Pop(q).(node)
		if n.s > f.Seconds[n.cell] {
			continue
		}
		col, row := n.cell%f.Cols, n.cell/f.Cols
		for dr := -1; dr <= 1; dr++ {
			for dc := -1; dc <= 1; dc++ {
				c, r := col+dc, row+dr
				if c < 0 || r < 0 || c >= f.Cols || r >= f.Rows {
					continue
				}
				to := r*f.Cols + c
				rise := math.Abs(f.Ground[to] - f.Ground[n.cell])
				if math.IsNaN(rise) || rise > step {
					continue
				}
				s := n.s + cell*math.Hypot(float64(dr), float64(dc))*t.WalkPerM + rise*t.Rise
				if s < f.Seconds[to]-1e-12 {
					f.Seconds[to] = s
					heap.Push(q, node{cell: to, s: s})
				}
			}
		}
	}
	return f
}

type node struct {
	cell int
	s    float64
}

type queue []node

func (q queue) Len() int           { return len(q) }
func (q queue) Less(i, j int) bool { return q[i].s < q[j].s }
func (q queue) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }
func (q *queue) Push(n any)        { *q = append(*q, n.(node)) }
func (q *queue) Pop() any {
	last := (*q)[len(*q)-1]
	*q = (*q)[:len(*q)-1]
	return last
}
