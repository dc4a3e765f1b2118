package fitting_test

import (
	"testing"

	"ergasia/core/fitting"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestScrewsAreFoundByTheirName(t *testing.T) {
	for _, name := range []string{"M6", "m6", " M6 ", "#10-24", "1/4-20"} {
		s, err := fitting.ScrewNamed(name)
		require.NoError(t, err, name)
		assert.Positive(t, s.Area)
	}
	_, err := fitting.ScrewNamed("M7")
	require.ErrorContains(t, err, "must be one of M4")
}

// Sizes go up together: no smaller screw is stronger, or wants a wider hole.
func TestScrewsAreInOrder(t *testing.T) {
	for i := 1; i < len(fitting.Screws); i++ {
		a, b := fitting.Screws[i-1], fitting.Screws[i]
		assert.LessOrEqual(t, a.Diameter, b.Diameter, b.Name)
		assert.LessOrEqual(t, a.Area, b.Area, b.Name)
		assert.LessOrEqual(t, a.Clearance, b.Clearance, b.Name)
		assert.LessOrEqual(t, a.Washer, b.Washer, b.Name)
		assert.LessOrEqual(t, a.Torque, b.Torque, b.Name)
		assert.Greater(t, b.Washer, 2*b.Diameter, "a broad washer is broad")
	}
	lengths := fitting.UsualLengths()
	for i := 1; i < len(lengths); i++ {
		assert.Less(t, lengths[i-1], lengths[i])
	}
	lengths[0] = 999
	assert.InDelta(t, 10, fitting.UsualLengths()[0], 0, "nobody else's list is changed")
}

func TestFastenersAreReadAsPeopleWriteThem(t *testing.T) {
	for line, want := range map[string]struct {
		size   string
		length float64
	}{
		"cleat M8 x 50": {"M8", 50}, "M5x20mm hook": {"M5", 20}, "pad eye 1/4-20": {"1/4-20", 0}, "rail #10-24 × 25": {"#10-24", 25},
		"holder m6 x 45,5 mm": {"M6", 45.5}, "no screws here": {"", 0}, "M99 x 3": {"", 0},
	} {
		size, length, _ := fitting.ReadFastener(line)
		assert.Equal(t, want.size, size, line)
		assert.InDelta(t, want.length, length, 1e-9, line)
	}
}

// The usual pattern of every number of screws stands about its middle, inside its foot.
func TestPatternsStandAboutTheirMiddle(t *testing.T) {
	for n := 1; n <= 12; n++ {
		p := fitting.Screwed([2]float64{200, 100}, n, nil)
		require.Len(t, p, n)
		x, y := 0.0, 0.0
		for _, at := range p {
			x, y = x+at[0], y+at[1]
			assert.LessOrEqual(t, at[0], 100.0)
			assert.LessOrEqual(t, at[1], 50.0)
		}
		if n != 3 {
			assert.InDelta(t, 0, x, 1e-9, "%d", n)
		}
		assert.InDelta(t, 0, y, 1e-9, "%d", n)
	}
	own := [][2]float64{{1, 2}, {3, 4}}
	assert.Equal(t, own, fitting.Screwed([2]float64{200, 100}, 6, own))
	assert.Empty(t, fitting.Screwed([2]float64{200, 100}, 0, nil))
}
