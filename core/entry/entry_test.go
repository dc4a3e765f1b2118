package entry

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

var crew = Known{Places: []string{"port bench", "port", "Boathouse, shelf A", "pilk box"},
	Owners: []string{"Oskar", "Ilse"}}

func TestALineMakesAPieceWithSizeMassPlaceAndOwner(t *testing.T) {
	e := Line("4 tray 36x23x5 1.2kg weighed dry @port bench +Oskar #pike #Sea-trout", crew)
	assert.Equal(t, Entry{Line: e.Line, Name: "tray", Count: 4, Size: [3]float64{0.36, 0.23, 0.05}, Kg: 1.2,
		MassKnown: "weighed",
		Shape:     "box", NeedsDry: true, Metal: true, Inside: e.Inside, Tags: []string{"pike", "sea trout"},
		Place: "port bench", Owner: "Oskar"}, e)
	assert.Less(t, e.Inside[0], e.Size[0], "what it holds is inside it")
	assert.Greater(t, e.Inside[0], 0.3)
}

func TestPeopleWriteTheSameInManyWays(t *testing.T) {
	for _, text := range []string{
		"3 x box 36 x 23 x 9 cm 2,5 kg", "3 box 0.36×0.23×0.09m 2500 g", "3 pcs box 360x230x90mm, 2.5 kg each", "box"} {
		e := Line(text, crew)
		assert.Equal(t, "box", e.Name, text)
		if text != "box" {
			assert.Equal(t, 3, e.Count, text)
			assert.InDeltaSlice(t, []float64{0.36, 0.23, 0.09}, e.Size[:], 1e-9, text)
			assert.InDelta(t, 2.5, e.Kg, 1e-9, text)
			assert.Empty(t, e.Doubts, text)
		}
	}
	us := Line(`2 box 14x9x4 5.5 lb`, Known{US: true})
	assert.InDeltaSlice(t, []float64{14 * 0.0254, 9 * 0.0254, 4 * 0.0254}, us.Size[:], 1e-9)
	assert.InDelta(t, 5.5*0.45359237, us.Kg, 1e-9)
}

func TestANumberOfAnotherKindIsNoCount(t *testing.T) {
	e := Line("10 L can 32x18x34 8.6kg", crew)
	assert.Equal(t, 1, e.Count)
	assert.Equal(t, "10 L can", e.Name)
	assert.Equal(t, []string{"fuel"}, e.Hazards, "a can is taken to hold fuel")
	rod := Line("cod rod 2.1 m ~0.8kg", crew)
	assert.Equal(t, "cod rod 2.1 m", rod.Name)
	assert.Equal(t, "rod", rod.Shape)
	assert.InDelta(t, 2.1, rod.Size[0], 1e-9)
	assert.Equal(t, "guess", rod.MassKnown, "about is a guess")
}

func TestDoubtsSayWhatWasMadeOfALine(t *testing.T) {
	for text, want := range map[string]string{
		"4 tray 36x23 1.2kg":           "Two sides only",
		"anchor":                       "No mass: 7.5 kg is a guess from anchor.",
		"thingummy 2kg":                "nothing usual has this name",
		"tray 28x19x5 1kg @attic":      `No place is called "attic"`,
		"tray 28x19x5 1kg +Bertil":     `Nobody in the crew is called "Bertil"`,
		"tray 28x19x5 1kg @port benhc": `"port benhc" was read as port bench.`,
		"tray 28x19x5 900kg":           "can't be carried",
		"tray 28x19x5 90kg":            "is a unit wrong?",
		"pole 5x0.03x0.03m 2kg":        "is long",
		"tray 28x19x5 1kg 44":          "44 was read as a part of the name.",
		"@port bench":                  "no name",
		strings.Repeat("a ", 200):      "longer than 300 letters",
	} {
		assert.Contains(t, strings.Join(Line(text, crew).Doubts, "\n"), want, text)
	}
}

func TestTheLongestKnownPlaceCounts(t *testing.T) {
	assert.Equal(t, "port bench", Line("tray @port bench 1kg 28x19x5", crew).Place)
	assert.Equal(t, "port", Line("tray @port 1kg 28x19x5", crew).Place)
	e := Line("tray 1kg 28x19x5 @boathouse shelf a +ilse", crew)
	assert.Equal(t, "Boathouse, shelf A", e.Place)
	assert.Equal(t, "Ilse", e.Owner)
	assert.Empty(t, e.Doubts, "case and commas don't matter")
	e = Line("tray 1kg 28x19x5 @boathouse", crew)
	assert.Equal(t, "Boathouse, shelf A", e.Place, "one place alone begins so")
	assert.Contains(t, e.Doubts[0], "was read as")
	two := Known{Places: []string{"shelf A", "shelf B"}}
	assert.Empty(t, Line("tray 1kg 28x19x5 @shelf", two).Place, "two begin so: which?")
}

func TestTwentyLinesMakeTwenty(t *testing.T) {
	text := strings.Repeat("2 tray 28x19x5 1.3kg dry\n\n", 20)
	assert.Len(t, Lines(text, crew), 20)
	assert.Len(t, Lines(strings.Repeat("a\n", 900), crew), MaxLines)
}

func TestAnyLineGivesALegalPiece(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		parts := rapid.SliceOfN(rapid.SampledFrom([]string{"4", "tray", "36x23x5", "0x0x0", "9999x1", "1.2kg", "1e9 kg",
			"dry", "@port", "@", "+", "+Oskar",
			"#", "#a b", "x", ",", "0", "99999", "\x00", "ä", "2.1 m", "=1+1", "'"}), 0, 12).Draw(t, "parts")
		e := Line(strings.Join(parts, " "), crew)
		if e.Name == "" && len(e.Doubts) == 0 {
			t.Fatalf("%q: no name and no doubt", e.Line)
		}
		if e.Name == "" {
			return
		}
		if e.Count < 1 || e.Count > 1000 || !(e.Kg >= 0 && e.Kg <= 500) {
			t.Fatalf("%q: %+v", e.Line, e)
		}
		for _, s := range e.Size {
			if !(s >= 0.001 && s <= 10) {
				t.Fatalf("%q: %+v", e.Line, e)
			}
		}
	})
}

func TestEveryTemplateIsFoundByItsOwnName(t *testing.T) {
	for _, one := range Templates {
		if one.Name == "dry box" || one.Name == "jig heads, a bag" {
			continue // read as a box; as what is in the bag
		}
		got, ok := template(one.Name)
		assert.True(t, ok, one.Name)
		assert.Equal(t, one.Name, got.Name)
		for i := range 3 {
			assert.True(t, one.Inside[i] < one.Size[i], "%s: what it holds is inside it", one.Name)
		}
	}
}
