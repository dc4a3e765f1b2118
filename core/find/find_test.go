package find

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestWordsAreFoldedAlikeOnBothSides(t *testing.T) {
	assert.Equal(t, []string{"landing", "net", "1", "m"}, Words("Landing net, 1.1 m", "NET"))
	assert.Equal(t, []string{"hake", "e"}, Words("Håke \u00e9"))
	assert.Empty(t, Words(" =+;", ""))
	assert.Len(t, Words(strings.Repeat("ab1 ", 3)+numbered(100)), MaxWords)
	assert.Equal(t, "#sea-trout", Tag("Sea trout"))
}

func numbered(n int) string {
	var b strings.Builder
	for i := range n {
		b.WriteString(" w" + string(rune('a'+i%26)) + string(rune('a'+i/26)))
	}
	return b.String()
}

// Worked pairs of the literature on edit distance (kitten and sitting are 3
// apart; from memory), and swaps, which count one.
func TestDistanceCountsSlips(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want int
	}{{"kitten", "sitting", 3}, {"net", "net", 0}, {"nte", "net", 1}, {"", "abc", 3}, {"ca", "abc", 3},
		{"flaks", "flasks", 1}} {
		assert.Equal(t, c.want, Distance(c.a, c.b), "%s %s", c.a, c.b)
		assert.Equal(t, c.want, Distance(c.b, c.a), "the same the other way")
	}
}

func TestDistanceIsNoughtForTheSameAndAtMostTheLonger(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := rapid.StringMatching(`[a-eå]{0,8}`)
		a, b := word.Draw(t, "a"), word.Draw(t, "b")
		d := Distance(a, b)
		if (d == 0) != (a == b) || d > max(len([]rune(a)), len([]rune(b))) || d != Distance(b, a) {
			t.Fatalf("%q %q: %d", a, b, d)
		}
	})
}

func TestSlipsAreForgivenInLongWordsOnly(t *testing.T) {
	assert.Equal(t, Exact, Match("net", "net"))
	assert.Equal(t, Starts, Match("ext", "extinguisher"))
	assert.Greater(t, Match("extingisher", "extinguisher"), None)
	assert.Greater(t, Match("binocolars", "binoculars"), None)
	assert.Greater(t, Match("ancohr", "anchor"), None)
	assert.Greater(t, Match("extnig", "extinguisher"), None, "a slip in what was typed so far")
	assert.Equal(t, None, Match("ax", "ox"))
	assert.Equal(t, None, Match("rope", "reel"))
	assert.Equal(t, []string{"anchor", "anchovy"}, Closest("ancho", []string{"reel", "anchor", "anchovy", "torch"}, 2))
	assert.Equal(t, []string{"reel", "reef"}, Closest("reel", []string{"reef", "reel"}, 5), "best first")
	assert.Empty(t, Closest("zzzz", []string{"reel"}, 3))
}

func TestRecentAndUsualComeFirstAmongEquals(t *testing.T) {
	old := Candidate{Names: []string{"landing net"}, Days: 300}
	recent := Candidate{Names: []string{"landing net"}, Days: 1}
	usual := Candidate{Names: []string{"landing net"}, Days: 300, Uses: 40}
	inPlace := Candidate{Names: []string{"gaff"}, Others: []string{"net locker"}, Days: 0, Uses: 40, Aboard: true}
	ranked := Rank([]string{"net"}, []Candidate{inPlace, old, recent, usual})
	assert.Equal(t, []int{3, 2, 1, 0}, []int{ranked[0].Ordinal, ranked[1].Ordinal, ranked[2].Ordinal, ranked[3].Ordinal},
		"a name before a place, usual and recent before old")
	exact := Score([]string{"net"}, Candidate{Names: []string{"net"}, Days: 300})
	assert.Greater(t, exact, Score([]string{"net"}, old), "the whole name before a part of one")
}
