package demo

import (
	"bytes"
	"regexp"
	"strings"
	"testing"

	"ergasia/app/brief"
	"ergasia/app/kernel"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	word   = regexp.MustCompile(`[A-Za-z']+`)
	ends   = regexp.MustCompile(`[.!?:]+`)
	vowels = regexp.MustCompile(`[aeiouy]+`)
)

// syllables of a word, by its groups of vowels; a silent e at the end is none.
func syllables(w string) int {
	w = strings.ToLower(w)
	n := len(vowels.FindAllString(w, -1))
	if strings.HasSuffix(w, "e") && !strings.HasSuffix(w, "le") && n > 1 {
		n--
	}
	return max(n, 1)
}

// grade is the reading grade of a text: 0.39 words a sentence + 11.8 syllables a word
// - 15.59 (Kincaid and others, Navy research branch report 8-75, 1975, from memory).
func grade(text string) float64 {
	words := word.FindAllString(text, -1)
	sentences, parts := max(len(ends.FindAllString(text, -1)), 1), 0
	for _, w := range words {
		parts += syllables(w)
	}
	n := float64(len(words))
	return 0.39*n/float64(sentences) + 11.8*float64(parts)/n - 15.59
}

func TestTheGradeIsOfKnownTexts(t *testing.T) {
	// Worked by hand: 6 words in 1 sentence, 6 syllables: 2.34 + 11.8 - 15.59.
	assert.InDelta(t, -1.45, grade("The cat sat on the mat."), 0.01)
	// 8 words in 1 sentence, 25 syllables: 3.12 + 36.88 - 15.59; one is miscounted here.
	assert.InDelta(t, 24.4, grade("Emergency equipment positioned forward remains inaccessible during operations."), 1.5)
}

// spoken is what is read aloud; the distress call is mostly one word and would make it
// look easier than it is.
func spoken(v brief.BriefView) string {
	var said []string
	for _, p := range v.Points {
		said = append(said, p.Title+". "+p.Said)
	}
	said = append(said, v.Own...)
	said = append(said, v.Relief...)
	return strings.Join(said, " ")
}

// What guests are told is one A5 page for each boat, and reads at fifth grade or below.
func TestTheBriefIsShortAndReadsEasily(t *testing.T) {
	a, crew := loaded(t)
	actor := kernel.Actor{Crew: crew}
	trips, err := a.Trips.Trips(t.Context(), actor)
	require.NoError(t, err)
	for _, trip := range trips {
		if trip.Logged {
			continue
		}
		v, err := a.Brief.OfBoat(t.Context(), actor, *trip.BoatID)
		require.NoError(t, err)
		assert.Empty(t, v.Lacks, v.Boat)
		g := grade(spoken(v))
		t.Logf("%s: grade %.1f", v.Boat, g)
		assert.LessOrEqual(t, g, 5.0, v.Boat)
		text, err := v.Card("https://boat.example/aboard#" + strings.Repeat("x", 43))
		require.NoError(t, err)
		assert.Equal(t, 1, bytes.Count(text, []byte("/Type /Page"))-bytes.Count(text, []byte("/Type /Pages")))
	}
}
