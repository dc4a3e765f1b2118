package entry

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Bare reads what a line says and leaves the rest empty: nothing is taken from a usual
// thing of gear, since another list says what is usual. A length alone stays in the name,
// as crews call such things.
func TestABareLineLeavesEmptyWhatItDoesNotSay(t *testing.T) {
	known := Known{Places: []string{"port quarter", "helm"}}
	for line, want := range map[string]struct {
		name, place string
		count       int
		kg          float64
		size        [3]float64
		weighed     bool
	}{
		"cleat":                       {name: "cleat", count: 1},
		"2 cleats 0.5 kg":             {name: "cleats", count: 2, kg: 0.5},
		"antenna 2.4 m":               {name: "antenna 2.4 m", count: 1, size: [3]float64{2.4, 0, 0}},
		"bracket 10 x 20 x 30 cm":     {name: "bracket", count: 1, size: [3]float64{0.1, 0.2, 0.3}},
		"rod holder @port quarter":    {name: "rod holder", place: "port quarter", count: 1},
		"display 1.6 kg weighed":      {name: "display", count: 1, kg: 1.6, weighed: true},
		"lifejacket":                  {name: "lifejacket", count: 1}, // no size of a usual one
		"grab rail 90 cm @helm 2 kg":  {name: "grab rail 90 cm", place: "helm", count: 1, kg: 2, size: [3]float64{0.9, 0, 0}},
		"three hooks":                 {name: "hooks", count: 3},
		"winch, 2 lb":                 {name: "winch", count: 1, kg: 0.90718474},
		"seat 20 in x 18 in x 22 in ": {name: "seat", count: 1, size: [3]float64{0.508, 0.4572, 0.5588}},
	} {
		e := Bare(line, known)
		assert.Equal(t, want.name, strings.Trim(e.Name, " ,;"), line)
		assert.Equal(t, want.place, e.Place, line)
		assert.Equal(t, want.count, e.Count, line)
		assert.InDelta(t, want.kg, e.Kg, 1e-6, line)
		assert.InDeltaSlice(t, want.size[:], e.Size[:], 1e-9, line)
		assert.Equal(t, map[bool]string{true: "weighed", false: "guess"}[want.weighed], e.MassKnown, line)
	}
}

func TestABareLineDoubtsWhatItCannotRead(t *testing.T) {
	assert.Contains(t, strings.Join(Bare("cleat @nowhere", Known{}).Doubts, " "), "No place is called")
	long := Bare(strings.Repeat("x", maxLine+1), Known{})
	assert.Empty(t, long.Name)
	assert.Contains(t, long.Doubts[0], "longer than")
	assert.Empty(t, Bare("   ", Known{}).Name)
	us := Bare("strut 12", Known{US: true})
	assert.NotContains(t, us.Name, "@")
}
