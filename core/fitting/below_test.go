package fitting_test

import (
	"math"
	"testing"

	"ergasia/core/fitting"
	"ergasia/core/hull"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
)

// A V of 12 degrees, chine at 0.8 m, then the side up to 0.7 m.
func vee() hull.Hull {
	z := 0.8 * math.Tan(12*math.Pi/180)
	half := []hull.Point{{Y: 0, Z: 0}, {Y: 0.8, Z: z}, {Y: 0.95, Z: 0.7}}
	return hull.Hull{Stations: []hull.Station{{X: 0, Half: half}, {X: 5, Half: half}}}
}

func TestATransducerSitsUnderTheHullsOwnBottom(t *testing.T) {
	h := vee()
	at := 0.42 * math.Tan(12*math.Pi/180)
	s := fitting.Transducer{Y: -0.42, Bottom: at - 0.006}.Seat(h, 0.25)
	assert.InDelta(t, at, s.Hull, 1e-9)
	assert.InDelta(t, 0.006, s.Under, 1e-9)
	assert.InDelta(t, 12, s.Deadrise, 1e-9)
	assert.InDelta(t, 0.38, s.Strake, 1e-9, "to the chine")
	assert.InDelta(t, 0.42, s.Propeller, 1e-9)
	assert.InDelta(t, 0.25-at+0.006, s.Wet, 1e-9)
	assert.True(t, s.Onto)
	assert.False(t, fitting.Transducer{Y: 0.9}.Seat(h, 0.25).Onto, "beside the chine there is no bottom")
}

// By hand: 10 m of 8 mm chain weigh 14 kg, which is 1.79 L of steel and 3.9 heaped; 60 m
// of 12 mm rope are 6.79 L, 19 flaked. Seven times 8 + 1 m of bow is 63.
func TestARodeByHand(t *testing.T) {
	r := fitting.Rode{Chain: 10, ChainMM: 8, Rope: 60, RopeMM: 12, Depth: 8, Bow: 1, Locker: 20}
	a := r.Anchor()
	assert.InDelta(t, 63, a.Needed, 1e-9)
	assert.Zero(t, a.Short)
	assert.InDelta(t, 9, a.Deepest, 1e-9)
	assert.InDelta(t, 14.016, a.Kg, 1e-9)
	chain, rope := 14.016/7850*1000*2.2, 60*math.Pi/4*144/1000*2.8
	assert.InDelta(t, chain+rope, a.Litres, 1e-9)
	assert.InDelta(t, 60-(16-chain)/(rope/60), a.Over, 1e-9)
	r.Windlass = 20
	assert.InDelta(t, 63.0/20*60, r.Anchor().Up, 1e-9)
	r.Depth = 12
	assert.InDelta(t, 91-70, r.Anchor().Short, 1e-9)
	r.Rope, r.Chain = 0, 30
	assert.InDelta(t, 5, r.Anchor().Scope, 0)
}

// A rod of 2 m that leans 30 degrees straight out ends 1 m further out; two leaned to
// either side run as far apart as their feet and both.
func TestLinesRunApartByAngleAndLength(t *testing.T) {
	rod := func(id string, y, out float64) fitting.Rigged {
		return fitting.Rigged{
			ID:   id,
			Foot: r3.Vec{X: 1, Y: y, Z: 0.8},
			At:   r3.Vec{X: 1, Y: y + out*2*math.Sin(math.Pi/6), Z: 0.8 + 2*math.Cos(math.Pi/6)},
		}
	}
	lines, crossed := fitting.Spread(
		[]fitting.Rigged{rod("starboard", -0.9, -1), rod("port", 0.9, 1), rod("middle", 0.1, 0)},
	)
	assert.Equal(t, "port", lines[0].ID)
	assert.InDelta(t, 1.8, lines[0].Gap, 1e-9)
	assert.InDelta(t, 3.8, fitting.Width(lines), 1e-9)
	assert.Empty(t, crossed)
	a := fitting.Rigged{ID: "a", Foot: r3.Vec{X: 0, Y: 0}, At: r3.Vec{X: 1, Y: 1}}
	b := fitting.Rigged{ID: "b", Foot: r3.Vec{X: 0, Y: 1}, At: r3.Vec{X: 1, Y: 0}}
	_, crossed = fitting.Spread([]fitting.Rigged{a, b})
	assert.Equal(t, []fitting.Crossed{{A: "a", B: "b"}}, crossed)
}

func TestAPlaceForTheSonarIsScoredByTheCrewsWeights(t *testing.T) {
	s := fitting.Sonar{Ratings: fitting.Ratings["portable"], Sees: 0.5, Seconds: 60, Cable: 3, Folds: 2, Used: 2, Kg: 5}
	only := func(key string) map[string]float64 {
		w := map[string]float64{}
		for _, c := range fitting.Criteria {
			w[c.Key] = 0
		}
		w[key] = 1
		return w
	}
	for key, want := range map[string]float64{"sees": 50, "seconds": 50, "cable": 75, "folds": 100 / 1.2, "mass": 80, "while_holding": 100, "hands_free": 50} {
		assert.InDelta(t, want, s.Score(only(key)), 1e-9, key)
	}
	assert.Zero(
		t,
		s.Score(
			map[string]float64{
				"hands_free":    0,
				"while_holding": 0,
				"scouting":      0,
				"sees":          0,
				"quiet":         0,
				"seconds":       0,
				"cable":         0,
				"folds":         0,
				"other_boat":    0,
				"mass":          0,
			},
		),
	)
	better := s
	better.Seconds = 20
	assert.Greater(t, better.Score(nil), s.Score(nil))
}
