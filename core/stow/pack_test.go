package stow

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// sawn cuts a whole into n boxes, each cut straight through one box, to the
// millimetre. That they fit into the whole is known by how they were made.
func sawn(r *rand.Rand, whole r3.Vec, n int) []Piece {
	boxes := []r3.Vec{whole}
	mm := func(v float64) float64 { return math.Round(v*1000) / 1000 }
	for len(boxes) < n {
		i := r.IntN(len(boxes))
		for j, b := range boxes { // mostly the largest, so that no box is a splinter
			if r.Float64() < 0.8 && b.X*b.Y*b.Z > boxes[i].X*boxes[i].Y*boxes[i].Z {
				i = j
			}
		}
		a, b := boxes[i], boxes[i]
		share := 0.25 + 0.5*r.Float64()
		switch r.IntN(3) {
		case 0:
			a.X = mm(b.X * share)
			b.X = mm(b.X - a.X)
		case 1:
			a.Y = mm(b.Y * share)
			b.Y = mm(b.Y - a.Y)
		default:
			a.Z = mm(b.Z * share)
			b.Z = mm(b.Z - a.Z)
		}
		if min(a.X, a.Y, a.Z, b.X, b.Y, b.Z) >= 0.02 {
			boxes[i] = a
			boxes = append(boxes, b)
		}
	}
	return asPieces(r, boxes)
}

func asPieces(r *rand.Rand, boxes []r3.Vec) []Piece {
	var list []Piece
	for i, b := range boxes {
		list = append(list, Piece{ID: fmt.Sprintf("%02d", i), Size: b, Kg: 1, Count: 1, Turn: []Turn{TurnNone, TurnUpright,
			TurnAny}[r.IntN(3)]})
	}
	r.Shuffle(len(list), func(i, j int) { list[i], list[j] = list[j], list[i] })
	return list
}

// sound checks a layout without the code that made it: every piece as it may
// lie, inside, apart from all others, and with its floor on something, seen at a
// grid of points.
func sound(t testing.TB, p Place, pieces []Piece, laid []Laid) {
	const eps = 1e-6
	for i, a := range laid {
		k := slices.IndexFunc(pieces, func(o Piece) bool { return o.ID == a.ID })
		require.GreaterOrEqual(t, k, 0)
		given, lies := []float64{pieces[k].Size.X, pieces[k].Size.Y, pieces[k].Size.Z}, []float64{a.Size.X, a.Size.Y,
			a.Size.Z}
		switch pieces[k].Turn {
		case TurnNone:
			assert.Equal(t, given, lies)
		case TurnUpright:
			assert.InDelta(t, given[2], lies[2], eps)
		}
		slices.Sort(given)
		slices.Sort(lies)
		assert.InDeltaSlice(t, given, lies, eps)
		top := r3.Add(a.At, a.Size)
		assert.True(t, min(a.At.X, a.At.Y, a.At.Z) >= -eps && top.X <= p.Size.X+eps && top.Y <= p.Size.Y+eps &&
			top.Z <= p.Size.Z+eps, "%v is out of the place", a)
		for _, b := range laid[:i] {
			bt := r3.Add(b.At, b.Size)
			apart := a.At.X >= bt.X-eps || b.At.X >= top.X-eps || a.At.Y >= bt.Y-eps || b.At.Y >= top.Y-eps ||
				a.At.Z >= bt.Z-eps || b.At.Z >= top.Z-eps
			assert.True(t, apart, "%v and %v overlap", a, b)
		}
		if a.At.Z < eps {
			continue
		}
		const grid = 20
		held := 0
		for gx := range grid {
			for gy := range grid {
				x, y := a.At.X+a.Size.X*(float64(gx)+0.5)/grid, a.At.Y+a.Size.Y*(float64(gy)+0.5)/grid
				if slices.ContainsFunc(laid, func(b Laid) bool {
					return math.Abs(b.At.Z+b.Size.Z-a.At.Z) < eps && x > b.At.X && x < b.At.X+b.Size.X && y > b.At.Y &&
						y < b.At.Y+b.Size.Y
				}) {
					held++
				}
			}
		}
		assert.Greater(t, float64(held), 0.5*grid*grid, "%v is in the air", a)
	}
}

func taken(laid []Laid) (m3 float64) {
	for _, l := range laid {
		m3 += l.Size.X * l.Size.Y * l.Size.Z
	}
	return m3
}

// Boxes cut from a known whole: a feasible packing is known by construction.
func TestBoxesSawnFromAWholeGoBackIntoIt(t *testing.T) {
	whole := Place{Size: r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}}
	larger := Place{Size: r3.Scale(1.1, whole.Size)}
	var shares []float64
	all, tries := 0, 0
	for n := 10; n <= 40; n += 2 {
		for seed := range uint64(3) {
			pieces := sawn(rand.New(rand.NewPCG(seed, uint64(n))), whole.Size, n)
			laid, left := Pack(whole, pieces, 300)
			assert.Len(t, laid, n-len(left))
			sound(t, whole, pieces, laid)
			shares = append(shares, taken(laid)/(0.8*0.6*0.5))
			laid, left = Pack(larger, pieces, 300)
			sound(t, larger, pieces, laid)
			tries++
			if len(left) == 0 {
				all++
			}
		}
	}
	slices.Sort(shares)
	t.Logf("median %.3f, least %.3f; a tenth larger takes all in %d of %d", shares[len(shares)/2], shares[0], all, tries)
	assert.GreaterOrEqual(t, shares[len(shares)/2], 0.9)
	assert.GreaterOrEqual(t, float64(all), 0.9*float64(tries))
}

// Five boxes about a middle, which no straight cut parts.
func TestAPinwheelGoesIn(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	pieces := asPieces(r, []r3.Vec{{X: 0.5, Y: 0.3, Z: 0.4}, {X: 0.3, Y: 0.5, Z: 0.4}, {X: 0.5, Y: 0.3, Z: 0.4},
		{X: 0.3, Y: 0.5, Z: 0.4}, {X: 0.2, Y: 0.2, Z: 0.4}})
	p := Place{Size: r3.Vec{X: 0.8, Y: 0.8, Z: 0.4}}
	laid, left := Pack(p, pieces, 500)
	assert.Empty(t, left)
	sound(t, p, pieces, laid)
}

func TestNothingLiesOnWhatIsFragile(t *testing.T) {
	p := Place{Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.4}}
	glass := Piece{ID: "glass", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.1}, Kg: 5, Count: 1, Top: true}
	tin := Piece{ID: "tin", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.1}, Kg: 1, Count: 1}
	laid, ok := Lay(p, []Piece{glass, tin})
	require.True(t, ok)
	assert.Equal(t, "tin", laid[0].ID, "although the glass is heavier")
	glass.Count = 2
	_, ok = Lay(p, []Piece{glass})
	assert.False(t, ok)
}

func TestSoftGoodsArePressedIn(t *testing.T) {
	p := Place{Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.25}}
	jacket := Piece{ID: "j", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.3}, Kg: 1, Count: 1}
	_, ok := Lay(p, []Piece{jacket})
	assert.False(t, ok)
	jacket.Soft = true
	laid, ok := Lay(p, []Piece{jacket})
	require.True(t, ok)
	assert.InDelta(t, 0.24, laid[0].Size.Z, 1e-9)
}

func TestWhatIsUsedOftenLiesOnTop(t *testing.T) {
	p := Place{Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.4}}
	often := Piece{ID: "often", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.2}, Kg: 5, Count: 1, Uses: 10}
	seldom := Piece{ID: "seldom", Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.2}, Kg: 4, Count: 1, Uses: 1}
	laid, ok := Lay(p, []Piece{often, seldom})
	require.True(t, ok)
	assert.Equal(t, []string{"seldom", "often"}, []string{laid[0].ID, laid[1].ID})
}

// Three lifejackets went into this place on the boat, and were once refused.
func TestAPatientHandIsNotOutdone(t *testing.T) {
	p := Place{Size: r3.Vec{X: 0.35, Y: 0.5, Z: 0.18}}
	jacket := Piece{ID: "j", Size: r3.Vec{X: 0.34, Y: 0.2, Z: 0.08}, Kg: 1, Count: 4, Turn: TurnAny}
	laid, ok := Lay(p, []Piece{jacket})
	require.True(t, ok)
	sound(t, p, []Piece{jacket}, laid)
}

func BenchmarkPackFortySawnBoxes(b *testing.B) {
	whole := Place{Size: r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}}
	pieces := sawn(rand.New(rand.NewPCG(1, 40)), whole.Size, 40)
	for b.Loop() {
		Pack(whole, pieces, 300)
	}
}

// How long after its end a search still goes on, as a share of the time it had.
func BenchmarkStopping(b *testing.B) {
	p := crowded(60, 900)
	const had = 500 * time.Millisecond
	var over time.Duration
	for range b.N {
		ctx, stop := context.WithTimeout(b.Context(), had)
		start := time.Now()
		_, err := Solve(ctx, p, Options{Steps: 1 << 40, Tries: 2, Squeeze: true})
		require.NoError(b, err)
		over = max(over, time.Since(start)-had)
		stop()
	}
	b.ReportMetric(over.Seconds()/had.Seconds(), "overrun/time")
}

// A thing that was measured anew may be longer than its place: nothing goes in, and the search ends.
func TestWhatGoesInNowhereEndsTheSearch(t *testing.T) {
	p := Place{Size: r3.Vec{X: 0.4, Y: 0.4, Z: 0.3}}
	oar := Piece{ID: "oar", Size: r3.Vec{X: 2.4, Y: 0.2, Z: 0.1}, Count: 1}
	_, ok := Lay(p, []Piece{oar})
	assert.False(t, ok)
	laid, left := Pack(p, []Piece{oar, {ID: "tin", Size: r3.Vec{X: 0.1, Y: 0.1, Z: 0.1}, Count: 1}}, 200)
	assert.Len(t, laid, 1)
	assert.Len(t, left, 1)
}

// pinwheels cuts a whole into about n boxes; every cut but a few sets four boxes
// about a middle, so that no straight cut parts them.
func pinwheels(r *rand.Rand, whole r3.Vec, n int) []Piece {
	boxes := []r3.Vec{whole}
	mm := func(v float64) float64 { return math.Round(v*1000) / 1000 }
	for tries := 0; len(boxes) < n && tries < 1000; tries++ {
		i := r.IntN(len(boxes))
		for j, b := range boxes {
			if r.Float64() < 0.8 && b.X*b.Y*b.Z > boxes[i].X*boxes[i].Y*boxes[i].Z {
				i = j
			}
		}
		b := boxes[i]
		axis := r.IntN(3)
		w, h, thick := along(b, axis), along(b, (axis+1)%3), along(b, (axis+2)%3)
		d, a := mm(w*(0.2+0.25*r.Float64())), mm(w*(0.55+0.25*r.Float64()))
		low, c := mm(h*(0.2+0.25*r.Float64())), mm(h*(0.55+0.25*r.Float64()))
		five := [][2]float64{{a, low}, {w - a, c}, {w - d, h - c}, {d, h - low}, {a - d, c - low}}
		if slices.ContainsFunc(five, func(v [2]float64) bool { return min(v[0], v[1]) < 0.02 }) {
			continue
		}
		boxes = slices.Delete(boxes, i, i+1)
		for _, v := range five {
			var sides [3]float64
			sides[axis], sides[(axis+1)%3], sides[(axis+2)%3] = mm(v[0]), mm(v[1]), thick
			boxes = append(boxes, r3.Vec{X: sides[0], Y: sides[1], Z: sides[2]})
		}
	}
	return asPieces(r, boxes)
}

func TestPinwheelsGoBackIntoTheirWhole(t *testing.T) {
	whole := Place{Size: r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}}
	for n := 20; n <= 40; n += 4 {
		for seed := range uint64(8) {
			pieces := pinwheels(rand.New(rand.NewPCG(seed, uint64(n))), whole.Size, n)
			laid, left := Pack(whole, pieces, 300)
			assert.Empty(t, left, "%d of %d, seed %d", n, len(pieces), seed)
			sound(t, whole, pieces, laid)
		}
	}
}

// A fragile piece in a pinwheel that stands on edge has nothing on it either.
func TestNothingLiesOnWhatIsFragileInAPinwheel(t *testing.T) {
	whole := Place{Size: r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}}
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 5))
		pieces := pinwheels(r, whole.Size, 9)
		fragile := &pieces[r.IntN(len(pieces))]
		fragile.Top = true
		laid, _ := Pack(whole, pieces, 100)
		sound(t, whole, pieces, laid)
		for _, a := range laid {
			for _, b := range laid {
				x, y, _ := overlap(a, b)
				on := math.Abs(a.At.Z+a.Size.Z-b.At.Z) < 1e-6 && x > 1e-6 && y > 1e-6
				assert.False(t, on && a.ID == fragile.ID, "seed %d: %v lies on %v", seed, b, a)
			}
		}
	}
}

func BenchmarkPackFortyInPinwheels(b *testing.B) {
	whole := Place{Size: r3.Vec{X: 0.8, Y: 0.6, Z: 0.5}}
	pieces := pinwheels(rand.New(rand.NewPCG(1, 40)), whole.Size, 40)
	for b.Loop() {
		Pack(whole, pieces, 300)
	}
}
