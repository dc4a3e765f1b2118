package catch

import (
	"math"
	"testing"

	"ergasia/core/check"

	"github.com/stretchr/testify/assert"
	"gonum.org/v1/gonum/spatial/r3"
	"pgregory.net/rapid"
)

func named(name string) Species {
	for _, s := range Usual {
		if s.Name == name {
			return s
		}
	}
	return Species{}
}

// The standard weight of pike, log W = -5.437 + 3.096 log L in g and mm (Anderson and
// Neumann 1996, memory): 7.10 kg at a metre. The others by what anglers' tables have
// (practice): within a sixth.
func TestWhatAFishOfALengthWeighs(t *testing.T) {
	assert.InDelta(t, math.Pow(10, -5.437+3.096*3)/1000, named("pike").Kg(1), 0.02)
	for name, known := range map[string][2]float64{"cod": {0.70, 3.4}, "perch": {0.35, 0.63}, "sea trout": {0.60, 2.2}, "zander": {0.60, 2.0}} {
		assert.InEpsilon(t, known[1], named(name).Kg(known[0]), 1.0/6, name)
	}
	assert.Zero(t, named("cod").Kg(-1))
}

func TestLengthAndMassGoBothWays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.SampledFrom(Usual).Draw(t, "species")
		l := rapid.Float64Range(0.05, 1.6).Draw(t, "length")
		assert.InEpsilon(t, l, s.Length(s.Kg(l)), 1e-9)
	})
}

func TestTheLightestGoesBack(t *testing.T) {
	fish := []Fish{{"a", 1}, {"b", 3}, {"c", 2}, {"d", 0.5}}
	kept, back, total := Best(fish, 3)
	assert.Equal(t, []Fish{{"b", 3}, {"c", 2}, {"a", 1}}, kept)
	assert.Equal(t, []Fish{{"d", 0.5}}, back)
	assert.InDelta(t, 6, total, 1e-9)
	_, back, total = Best(fish, 0)
	assert.Empty(t, back)
	assert.InDelta(t, 6.5, total, 1e-9)
	assert.Equal(t, Fish{"a", 1}, fish[0], "the list is left as it is")
}

func TestAFishLiesFromCornerToCorner(t *testing.T) {
	assert.InDelta(t, 0.7, Longest(r3.Vec{X: 0.6, Y: 0.3, Z: 0.2}), 1e-9)
}

func TestATableOfSpeciesIsChecked(t *testing.T) {
	var fs check.Faults
	Check(&fs, "species", []Species{{Name: "cod", A: 0.01, B: 3}, {Name: "cod", A: 9, B: 1}})
	assert.Len(t, fs, 3)
	fs = nil
	Check(&fs, "species", Usual)
	assert.Empty(t, fs)
}
