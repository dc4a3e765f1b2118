package find

import (
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// recursive is the definition of the distance, as slow as definitions are.
func recursive(a, b []rune) int {
	if len(a) == 0 || len(b) == 0 {
		return len(a) + len(b)
	}
	change := 1
	if a[len(a)-1] == b[len(b)-1] {
		change = 0
	}
	best := min(recursive(a[:len(a)-1], b)+1, recursive(a, b[:len(b)-1])+1, recursive(a[:len(a)-1], b[:len(b)-1])+change)
	if len(a) > 1 && len(b) > 1 && a[len(a)-1] == b[len(b)-2] && a[len(a)-2] == b[len(b)-1] {
		best = min(best, recursive(a[:len(a)-2], b[:len(b)-2])+1)
	}
	return best
}

func TestDistanceIsItsDefinition(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := rapid.StringMatching(`[abå]{0,5}`)
		a, b := word.Draw(t, "a"), word.Draw(t, "b")
		if got, want := Distance(a, b), recursive([]rune(a), []rune(b)); got != want {
			t.Fatalf("%q %q: %d, not %d", a, b, got, want)
		}
	})
}

func TestWordsAreTheSameHoweverTextIsWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOfN(rapid.RuneFrom([]rune("abÅåéØ 12,-/\n#'")), 0, 30, -1).Draw(t, "text")
		words := Words(text)
		if again := Words(strings.Join(words, " ")); !assert.ObjectsAreEqual(words, again) {
			t.Fatalf("%q: %v, then %v", text, words, again)
		}
		if upper := Words(strings.ToUpper(text)); !assert.ObjectsAreEqual(words, upper) {
			t.Fatalf("%q: %v, in capitals %v", text, words, upper)
		}
		for _, w := range words {
			for _, r := range w {
				if !unicode.IsLetter(r) && !unicode.IsDigit(r) {
					t.Fatalf("%q has %q", w, r)
				}
			}
		}
	})
}

func TestOneSlipInAWordIsAlwaysForgiven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := []rune(rapid.StringMatching(`[a-z]{4,12}`).Draw(t, "word"))
		i := rapid.IntRange(0, len(word)-2).Draw(t, "at")
		slip := append([]rune{}, word...)
		switch rapid.IntRange(0, 3).Draw(t, "slip") {
		case 0:
			slip[i], slip[i+1] = slip[i+1], slip[i]
		case 1:
			slip[i] = 'å'
		case 2:
			slip = append(slip[:i], slip[i+1:]...)
		default:
			slip = append(slip[:i], append([]rune{'ø'}, slip[i:]...)...)
		}
		if Match(string(slip), string(word)) == None {
			t.Fatalf("%q for %q", string(slip), string(word))
		}
	})
}

func TestABetterMatchIsNeverRankedLower(t *testing.T) {
	names := []string{"anchor", "anchor line", "ancohr", "rope"}
	ranked := Rank([]string{"anchor"}, []Candidate{{Names: names[3:4]}, {Names: names[2:3]}, {Names: names[1:2]},
		{Names: names[:1]}})
	var order []string
	for _, c := range ranked {
		order = append(order, c.Names[0])
	}
	assert.Equal(t, names, order, "the whole name, a word of it, nearly, not at all")
}
