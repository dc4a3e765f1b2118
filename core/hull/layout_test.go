package hull

import (
	"strings"
	"testing"

	"ergasia/core/check"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/spatial/r3"
)

// Every usual layout fits into the usual boat of every form, most of it whole,
// in pairs alike, and nothing of it overlaps.
func TestUsualLayoutsFitIntoUsualBoats(t *testing.T) {
	suits := map[string][]string{"vee": {"console", "tournament", "benches"}, "skiff": {"skiff", "tournament"},
		"flat":  {"benches", "tournament"},
		"round": {"benches"}, "craft": {"watercraft"}}
	for _, f := range Forms() {
		h := f.Hull(f.Usual())
		for _, l := range Layouts {
			fitted, posts := l.Fit(h)
			assert.Len(t, posts, len(l.Spots))
			for i, c := range fitted {
				by, where := h.Leaves(c.Low, c.High)
				assert.Zero(t, by, "%s %s in %s %s", l.Name, c.Name, f.Name, where)
				for _, d := range fitted[:i] {
					overlap := min(c.High.X, d.High.X) > max(c.Low.X, d.Low.X)+1e-9 && min(c.High.Y, d.High.Y) > max(c.Low.Y,
						d.Low.Y)+1e-9 &&
						min(c.High.Z, d.High.Z) > max(c.Low.Z, d.Low.Z)+1e-9
					assert.False(t, overlap, "%s: %s and %s", l.Name, c.Name, d.Name)
				}
				if other, ok := strings.CutPrefix(c.Name, "starboard "); ok {
					port := fitted[i-1]
					assert.Equal(t, "port "+other, port.Name)
					assert.InDelta(t, -port.High.Y, c.Low.Y, 1e-12)
				}
			}
			for _, name := range suits[f.Name] {
				if name == l.Name {
					assert.GreaterOrEqual(t, len(fitted), len(l.Cells)-2, "%s in %s", l.Name, f.Name)
				}
			}
		}
	}
}

func TestADeckAndAWellMakeSpacesWithTheirOpenings(t *testing.T) {
	f := form(t, "vee")
	h := f.Hull(f.Usual()).WithDeck(Deck{Sole: 0.3, Aft: 0.5, Fore: 3.5,
		Scuppers: []Scupper{{Name: "port scupper", At: [3]float64{0.5, 0.7, 0.31}}}})
	h = h.WithWell(Well{Length: 0.4, Breadth: 0.8, Floor: 0.4, Bulkhead: 0.62})
	require.NoError(t, h.Check(""))
	assert.Len(t, h.Spaces, 2)
	byName := map[string]FloodPoint{}
	for _, p := range h.FloodPoints {
		byName[p.Name] = p
	}
	assert.Equal(t, WellSpace, byName["transom notch"].Space)
	assert.Equal(t, DeckSpace, byName["port scupper"].Space)
	assert.Empty(t, byName["splash well bulkhead"].Space)
	assert.InDelta(t, 0.62, byName["splash well bulkhead"].At.Z, 1e-12)

	var fs check.Faults
	Deck{Sole: 0.3, Aft: 2, Fore: 1}.Check(&fs, "deck.")
	Well{Length: 0.3, Breadth: 0.5, Floor: 0.5, Bulkhead: 0.4}.Check(&fs, "well.")
	assert.ErrorContains(t, fs, "deck.fore_m is 1: must be ahead")
	assert.ErrorContains(t, fs, "well.bulkhead_m is 0.4: must be higher")
	both := f.Hull(f.Usual()).WithDeck(Deck{Sole: 0.3, Aft: 0.1, Fore: 3.5}).WithWell(Well{Length: 0.4, Breadth: 0.8,
		Floor: 0.4, Bulkhead: 0.62})
	assert.ErrorContains(t, both.Check(""), "overlaps deck: let one end where the other begins")
	bad := f.Hull(f.Usual())
	bad.FloodPoints = append(bad.FloodPoints, FloodPoint{Name: "x", Space: "hold"})
	bad.Spaces = []Space{{Name: "wrong", Low: r3.Vec{X: 1}, High: r3.Vec{}}}
	assert.ErrorContains(t, bad.Check(""), "flood_points[1].space")
	assert.ErrorContains(t, bad.Check(""), "must be over low_m")
}
