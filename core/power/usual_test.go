package power

import (
	"testing"

	"ergasia/core/words"

	"github.com/stretchr/testify/assert"
)

func TestEveryKindOfLoadHasAUsualDraw(t *testing.T) {
	phases := words.PhaseKinds.Keys()
	for _, kind := range words.LoadKinds.Keys() {
		l, ok := UsualLoads[kind]
		assert.True(t, ok, kind)
		assert.Positive(t, l.Amps, kind)
		assert.True(t, l.Duty > 0 && l.Duty <= 1, kind)
		assert.NotEmpty(t, l.On, kind)
		assert.Subset(t, phases, l.On, kind)
	}
	assert.Len(t, UsualLoads, len(words.LoadKinds))
	for _, known := range words.DrawKnown.Keys() {
		assert.Positive(t, Sigmas[known], known)
	}
	for _, c := range words.Chemistries.Keys() {
		assert.Positive(t, Usual("x", Chemistry(c), 12, 1).Peukert, c)
	}
	assert.Len(t, words.Chemistries, len(Chemistries))
	assert.Greater(t, Sigmas["guess"], Sigmas["measured"])
}
