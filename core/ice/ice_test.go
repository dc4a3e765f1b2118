package ice

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// By hand: 1 W/K at 20 °C lets in 20 W, 72 kJ an hour, which melts 0.2156 kg.
func TestMelting(t *testing.T) {
	assert.InDelta(t, 0.2156, Melts(1, 20), 1e-4)
	assert.InDelta(t, 46.4, Lasts(10, 1, 20), 0.1)
	assert.Zero(t, Melts(1, -5), "frost melts nothing")
	assert.True(t, math.IsInf(Lasts(10, 1, -5), 1))
}

// FAO 331 (memory): chilling fish from 25 °C asks for about a kilogram of ice for four
// of fish, and from 10 °C for one of ten.
func TestChilling(t *testing.T) {
	assert.InDelta(t, 0.25, Chills(1, 25), 0.005)
	assert.InDelta(t, 0.10, Chills(1, 10), 0.005)
}

func TestWhatIsLearnedGivesTheSameHours(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ua, air, kg := rapid.Float64Range(0.1, 5).
			Draw(t, "ua"),
			rapid.Float64Range(1, 40).
				Draw(t, "air"),
			rapid.Float64Range(1, 100).
				Draw(t, "kg")
		assert.InEpsilon(t, ua, LearnUA(kg, Lasts(kg, ua, air), air), 1e-9)
	})
	assert.Zero(t, LearnUA(10, 0, 20))
}
