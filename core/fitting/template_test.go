package fitting_test

import (
	"math"
	"testing"

	"ergasia/core/fitting"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func drawn() fitting.Drawn {
	return fitting.Drawn{
		Foot:   [2]float64{200, 100},
		Holes:  [][2]float64{{-80, -30}, {80, 30}, {10, 0}},
		Drill:  6.6,
		Cut:    [2]float64{120, 60},
		Corner: 12,
	}
}

func TestMirroredTwiceIsItself(t *testing.T) {
	d := drawn()
	once := d
	once.Mirrored = true
	twice := once
	twice.Holes = once.Make().Holes
	assert.Equal(t, d.Make().Holes, twice.Make().Holes)
	assert.NotEqual(t, d.Make().Holes, once.Make().Holes)
}

// The area of a rectangle with round corners is ab - (4 - π) r².
func TestACutOutHasRoundCorners(t *testing.T) {
	area := 0.0
	cut := drawn().Make().Cut
	for i, p := range cut {
		q := cut[(i+1)%len(cut)]
		area += (p[0]*q[1] - q[0]*p[1]) / 2
	}
	assert.InDelta(t, 120*60-(4-math.Pi)*144, area, 1)
	round := fitting.Drawn{Cut: [2]float64{50, 50}, Corner: 25}.Make()
	for _, p := range round.Cut {
		assert.InDelta(t, 25, math.Hypot(p[0], p[1]), 1e-9)
	}
}

// On a wall of radius R the arc over a chord of 2x is 2 R asin(x/R).
func TestACurvedWallStretchesThePattern(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := drawn()
		d.Curve = rapid.Float64Range(100, 5000).Draw(t, "R")
		require.NoError(t, d.Check())
		made := d.Make()
		assert.InDelta(t, d.Curve*math.Asin(100/d.Curve), made.High[0], 1e-9)
		assert.InDelta(t, 50, made.High[1], 1e-9)
		for i, h := range made.Holes { // bent round the wall again, holes are where they were
			assert.InDelta(t, d.Holes[i][0], d.Curve*math.Sin(h[0]/d.Curve), 1e-9)
		}
	})
	d := drawn()
	d.Curve = 90
	require.ErrorContains(t, d.Check(), "no wall bends so")
}

func TestAbsurdTemplatesAreRefused(t *testing.T) {
	for _, change := range []func(*fitting.Drawn){
		func(d *fitting.Drawn) { d.Foot[0] = -5 }, func(d *fitting.Drawn) { d.Cut[1] = 0 }, func(d *fitting.Drawn) { d.Corner = 40 },
		func(d *fitting.Drawn) { d.Drill = math.NaN() }, func(d *fitting.Drawn) { *d = fitting.Drawn{} },
	} {
		d := drawn()
		change(&d)
		assert.Error(t, d.Check())
	}
}
