package floating

import (
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/aboard/aboardtest"
	"ergasia/core/float"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestABoatThatLollsInATestIsToldSo(t *testing.T) {
	b := aboardtest.New(t)
	s := laden{b.Laden}
	l := s.Ledger().Load
	for s.Craft.Float.Solve(l, nil).Status == float.Afloat { // as high as it takes
		l.Masses[0].At.Z += 0.02
	}
	v := s.test(l, "nobody", "Nobody aboard", nil, 30)
	require.Equal(t, float.Unstable, v.Status)
	assert.False(t, v.Met)
	assert.Contains(t, v.Sentence, "She won't stay upright: she lolls")
}

func TestACrewTestFailsByItsOwnLimit(t *testing.T) {
	b := aboardtest.New(t)
	s := laden{b.Laden}
	base := s.Ledger().Load
	aside := []float.Mass{{Name: "I", Kg: 78}}
	aside[0].At.X, aside[0].At.Y, aside[0].At.Z = 1.5, 0.7, 0.9
	kept := s.test(base, "port", "All to the port side", aside, 30)
	assert.True(t, kept.Met, kept.Sentence)
	assert.Negative(t, kept.Attitude.HeelDeg, "weight to port heels her to port")
	assert.Contains(t, kept.Sentence, "to port")
	failed := s.test(base, "port", "All to the port side", aside, 1)
	assert.False(t, failed.Met)
	assert.Contains(t, failed.Sentence, "more than the 1° of an offset-load test")
	drowned := s.test(base, "aft", "All walk aft", []float.Mass{{Name: "all", Kg: 2500}}, 30)
	assert.False(t, drowned.Met)
	assert.NotEqual(t, float.Afloat, drowned.Status)
}

func TestABoatThatTakesWaterInATestIsToldWhere(t *testing.T) {
	b := aboardtest.New(t)
	s := laden{b.Laden}
	v := TestView{Status: float.Afloat}
	for kg := 200.0; v.Status == float.Afloat && kg < 5000; kg += 20 {
		all := float.Mass{Name: "all", Kg: kg}
		all.At.X, all.At.Z = 1.2, 0.2
		v = s.test(s.Ledger().Load, "aft", "All walk aft", []float.Mass{all}, 30)
	}
	require.Equal(t, float.Swamped, v.Status)
	require.NotNil(t, v.Attitude)
	assert.False(t, v.Met)
	assert.Contains(t, v.Sentence, "Water comes in at the ")
}

func TestNobodyAboardMeansTwoAdultsStandIn(t *testing.T) {
	b := aboardtest.New(t)
	two := laden{b.Laden}.standIns()
	assert.Len(t, two, 2)
	for _, p := range two {
		assert.InDelta(t, standardKg, p.Body.Kg, 1e-9)
		assert.InDelta(t, 1.5, p.Body.At.X, 1e-9, "at a post of hers")
	}
	b.Posts = nil
	assert.InDelta(t, 2, laden{b.Laden}.standIns()[0].Body.At.X, 1e-9, "at two fifths of her length without posts")
}

func TestHowSureALimitIsKeptInWords(t *testing.T) {
	for sure, want := range map[float64]string{1: "sure", 0.976: "sure", 0.97: "likely", 0.81: "likely", 0.79: "open",
		0.5: "open", 0.21: "open", 0.19: "unlikely", 0.03: "unlikely", 0.02: "broken", 0: "broken"} {
		assert.Equal(t, want, aboard.Certainty(sure), "%g", sure)
	}
}
