package entry

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// A line that says everything is read as it was meant, in any order of its parts.
func TestWhatALineSaysIsWhatIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		side := func(name string) float64 { return float64(rapid.IntRange(2, 200).Draw(t, name)) }
		x, y, z := side("x"), side("y"), side("z")
		grams := float64(rapid.IntRange(int(x*y*z*0.02)+1, int(x*y*z*4)+1).Draw(t, "g"))
		if grams > 400_000 {
			grams = 400_000
		}
		count := rapid.IntRange(1, 60).Draw(t, "count")
		unit := rapid.SampledFrom([]struct {
			name string
			cm   float64
		}{{"", 1}, {"cm", 1}, {"mm", 0.1}, {"m", 100}, {" cm", 1}}).Draw(t, "unit")
		times := rapid.SampledFrom([]string{"x", " x ", "×", "*"}).Draw(t, "times")
		size := strings.Join([]string{fmt.Sprintf("%g", x/unit.cm), fmt.Sprintf("%g", y/unit.cm),
			fmt.Sprintf("%g", z/unit.cm)}, times) + unit.name
		mass := fmt.Sprintf("%gg", grams)
		if rapid.Bool().Draw(t, "kg") {
			mass = strings.Replace(fmt.Sprintf("%g kg", grams/1000), ".", rapid.SampledFrom([]string{".", ","}).Draw(t,
				"point"), 1)
		}
		name := rapid.SampledFrom([]string{"thingummy", "big thingummy", "net bag, green"}).Draw(t, "name")
		parts := []string{size, mass, "weighed", "@port bench", "+Oskar", "#pike"}
		for i := range parts {
			j := rapid.IntRange(i, len(parts)-1).Draw(t, "swap")
			parts[i], parts[j] = parts[j], parts[i]
		}
		text := fmt.Sprintf("%d %s %s", count, name, strings.Join(parts, " "))
		e := Line(text, crew)
		near := func(a, b float64) bool { return math.Abs(a-b) < 1e-9*math.Max(1, math.Abs(b)) }
		if e.Name != name || e.Count != count || !near(e.Size[0], x/100) || !near(e.Size[1], y/100) ||
			!near(e.Size[2], z/100) || !near(e.Kg, grams/1000) ||
			e.Place != "port bench" || e.Owner != "Oskar" || !slices.Equal(e.Tags, []string{"pike"}) ||
			e.MassKnown != "weighed" {
			t.Fatalf("%q was read as %+v", text, e)
		}
	})
}

// Every example that the program itself shows is read without a doubt.
func TestTheExamplesAreReadWithoutADoubt(t *testing.T) {
	for text, us := range map[string]bool{"4 tray 36x23x5 1.2kg dry @port bench +Oskar #pike": false,
		"4 tray 14x9x2 2.6lb dry @port bench +Oskar #pike": true} {
		k := crew
		k.US = us
		e := Line(text, k)
		assert.Empty(t, e.Doubts, text)
		assert.Equal(t, 4, e.Count)
		assert.InDelta(t, 0.36, e.Size[0], 0.005)
		assert.InDelta(t, 1.2, e.Kg, 0.03)
	}
}

func TestUnitsOfTheOtherSystemAreUnderstood(t *testing.T) {
	for text, want := range map[string][4]float64{
		"box 14x9x4in 5lb":         {14 * 0.0254, 9 * 0.0254, 4 * 0.0254, 5 * 0.45359237},
		`box 14 x 9 x 4 " 80 oz`:   {14 * 0.0254, 9 * 0.0254, 4 * 0.0254, 5 * 0.45359237},
		"box 1.5x1x0.5 ft 2.5 lbs": {1.5 * 0.3048, 0.3048, 0.5 * 0.3048, 2.5 * 0.45359237},
		"box 30x20x10 about 2 kg":  {0.3, 0.2, 0.1, 2},
	} {
		e := Line(text, crew)
		assert.Equal(t, "box", e.Name, text)
		assert.InDeltaSlice(t, want[:3], e.Size[:], 1e-9, text)
		assert.InDelta(t, want[3], e.Kg, 1e-9, text)
	}
}
