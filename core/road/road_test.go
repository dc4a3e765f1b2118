package road

import (
	"math"
	"slices"
	"strings"
	"testing"

	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var trailer = Trailer{Kg: 240, CG: 2.2, Axle: 1.6, Hitch: 6.6, RatedKg: 1200, AxleRatedKg: 1100, HitchRatedKg: 75,
	Tyres: 2, TyreRatedKg: 560, TyrePressure: 2.5, BrakedOver: 750, Brakes: true, StrapRatedKg: 400, Straps: 2}

// By hand, moments about the axle: 240 x 0.6 + 700 x 0.2 = 284 kg m over 5 m.
func TestHitchAndAxleByHand(t *testing.T) {
	require.NoError(t, trailer.Check(""))
	w := Work(trailer, []Mass{{Name: "boat", Kg: 700, X: 1.8}}, SchoolNamed("boat"))
	assert.InDelta(t, 940, w.Total, 1e-9)
	assert.InDelta(t, 56.8, w.HitchKg, 1e-9)
	assert.InDelta(t, 883.2, w.AxleKg, 1e-9)
	assert.InDelta(t, 56.8/940, w.Share, 1e-12)
	assert.True(t, w.Met)
	assert.Zero(t, w.Move)
	assert.Empty(t, w.Out)
	assert.False(t, Work(trailer, []Mass{{Kg: 700, X: 1.8}}, SchoolNamed("america")).Met)
}

// The boat moved on the trailer as far as it says is where the school wants her.
func TestTheMoveBringsTheShareIntoTheBand(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		tr := trailer
		tr.HitchRatedKg = 0
		school := Schools[rapid.IntRange(0, 1).Draw(t, "school")]
		boat := []Mass{{Kg: f("kg", 200, 900), X: f("x", 0.5, 3.5)}, {Kg: f("gear", 0, 150), X: f("gx", 0, 5)}}
		w := Work(tr, boat, school)
		for i := range boat {
			boat[i].X += w.Move
		}
		again := Work(tr, boat, school)
		assert.GreaterOrEqual(t, again.Share, school.Low-1e-9)
		assert.LessOrEqual(t, again.Share, school.High+1e-9)
		assert.Zero(t, again.Move)
	})
}

func TestAHeavyBoatNamesWhatMustRideElsewhere(t *testing.T) {
	boat := []Mass{{ID: "b", Name: "boat", Kg: 900, X: 1.7}, {ID: "c", Name: "cooler", Kg: 38, X: 0.4, Loose: true},
		{ID: "a", Name: "anchor", Kg: 9, X: 4.8, Loose: true}, {ID: "n", Name: "net", Kg: 1, X: 2, Loose: true},
		{ID: "f", Name: "fuel cans", Kg: 45, X: 1, Loose: true}}
	tr := trailer
	tr.AxleRatedKg, tr.TyreRatedKg = 0, 0
	w := Work(tr, boat, SchoolNamed("boat"))
	require.False(t, w.Met)
	var names []string
	for _, m := range w.Out {
		names = append(names, m.Name)
	}
	assert.Equal(t, []string{"cooler"}, names, "33 kg over: the cooler is enough and the lightest that is")
	boat[0].Kg = 2000
	assert.Len(t, Work(trailer, boat, SchoolNamed("boat")).Out, 4, "all that is loose, and still too much")
}

func TestEachRatingIsARowThatCanFail(t *testing.T) {
	find := func(w Tow, key string) Row {
		for _, r := range w.Rows {
			if r.Key == key {
				return r
			}
		}
		t.Fatalf("no row %q", key)
		return Row{}
	}
	boat := []Mass{{Kg: 1600, X: 2.6}}
	tr := trailer
	tr.Brakes = false
	w := Work(tr, boat, SchoolNamed("europe"))
	for _, key := range []string{"total", "axle", "tyre", "hitch", "share", "brakes"} {
		assert.False(t, find(w, key).Met, key)
	}
	assert.True(t, find(w, "straps").Met)
	tail := Work(trailer, []Mass{{Kg: 500, X: 0.2}}, SchoolNamed("boat"))
	assert.Negative(t, tail.HitchKg)
	assert.False(t, find(tail, "hitch").Met, "a light hitch swings and lifts the car")
	assert.Positive(t, tail.Move)
	assert.True(t, math.IsNaN(find(w, "total").Low))
}

func TestTheChecklistNamesThisTrailer(t *testing.T) {
	w := Work(trailer, []Mass{{Kg: 700, X: 1.8}}, Schools[0])
	lines := Lines(trailer, w, units.Metric)
	assert.Contains(t, lines, "Tyres cold at 2.5 bar, 2 of them; 442 kg stand on each.")
	assert.Contains(t, lines[2], "2 straps tight")
	assert.Contains(t, Lines(Trailer{}, w, units.Metric)[1], "by the plate")
}

func TestATrailerThatCannotBeIsNamed(t *testing.T) {
	tr := trailer
	tr.Hitch = 1.7
	assert.ErrorContains(t, tr.Check("trailer."),
		"trailer.hitch_m is 1.7: must be at least half a metre ahead of the axle")
	tr.Kg = math.NaN()
	assert.ErrorContains(t, tr.Check(""), "kg is NaN")
}

// By hand: 1500 kg in all with 7 % on the hitch is 105 kg, in the band of 5 to 10 %
// and over a rating of 80. Boat and gear, 1200 kg, go aft by (105 - 0.95·80)·4/1200.
func TestAHitchOverItsRatingIsSaidThoughItsShareIsGood(t *testing.T) {
	trailer := Trailer{Kg: 300, CG: 0, Axle: 0, Hitch: 4, HitchRatedKg: 80}
	w := Work(trailer, []Mass{{Kg: 1200, X: 105.0 * 4 / 1200}}, SchoolNamed("boat"))
	require.InDelta(t, 0.07, w.Share, 1e-12)
	assert.False(t, w.Met)
	assert.InDelta(t, -(105-0.95*80)*4/1200, w.Move, 1e-9)
	moved := Work(trailer, []Mass{{Kg: 1200, X: 105.0*4/1200 + w.Move}}, SchoolNamed("boat"))
	assert.True(t, moved.Met, "%+v", moved.Rows)
	// Where even the least share is more than the rating, no move helps, and it is said.
	trailer.HitchRatedKg = 50
	w = Work(trailer, []Mass{{Kg: 1200, X: 105.0 * 4 / 1200}}, SchoolNamed("boat"))
	i := slices.IndexFunc(w.Rows, func(r Row) bool { return r.Key == "share" })
	assert.Contains(t, w.Rows[i].Sentence, "75 kg, 165 lb at least, more than the hitch is rated for")
}

// Whoever reads in miles is told miles, whether anybody counted the straps or not.
func TestTheRoadsLinesSpeakInTheReadersUnits(t *testing.T) {
	for _, straps := range []int{0, 1, 3} {
		text := strings.Join(Lines(Trailer{Straps: straps}, Tow{}, units.US), " ")
		assert.Contains(t, text, "6 mi")
		assert.NotContains(t, text, "km")
	}
	assert.Contains(t, strings.Join(Lines(Trailer{Straps: 1}, Tow{}, units.Metric), " "), "1 strap tight")
}
