package stow

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestALevelIsWhereAPlaceStandsAgainstTheSole(t *testing.T) {
	const sole = 0.34
	for _, c := range []struct {
		name       string
		floor, top float64
		lid        bool
		want       string
	}{
		{"a bilge box, flush with the sole", 0.05, 0.34, true, UnderSole},
		{"a bench with a lid", 0.34, 0.7, true, InLocker},
		{"a locker that reaches under the sole", 0.1, 0.5, true, InLocker},
		{"an open rod bed", 0.36, 0.51, false, OnDeck},
		{"holders at the seat", 0.8, 1.05, false, OnDeck},
		{"a lidded box on the console", 0.96, 1.14, true, InLocker},
		{"a rack under the top", 1.9, 2.1, false, Overhead},
		{"a box in the top", 1.84, 2, true, Overhead},
	} {
		assert.Equal(t, c.want, LevelOf(c.floor, c.top, sole, c.lid), c.name)
	}
}
