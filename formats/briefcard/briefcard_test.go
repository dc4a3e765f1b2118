package briefcard

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func card(points int, said string) Card {
	c := Card{
		Boat:    "Dunlin",
		Outline: [][2]float64{{0, 0.9}, {3, 1}, {5.4, 0}},
		Call:    []string{"MAYDAY, MAYDAY, MAYDAY."},
		Relief:  []string{"Call for help."},
		Link:    "https://boat.example/aboard#" + strings.Repeat("x", 43),
	}
	for i := range points {
		c.Points = append(
			c.Points,
			Point{Number: i + 1, Title: fmt.Sprintf("Thing %d", i+1), Said: said, At: [][2]float64{{2, 0.1}, {2, 0.1}}},
		)
	}
	return c
}

func pages(text []byte) int {
	return bytes.Count(text, []byte("/Type /Page")) - bytes.Count(text, []byte("/Type /Pages"))
}

func TestACardIsOnePageWhateverIsSaid(t *testing.T) {
	for _, said := range []string{"", "It is in the locker.", strings.Repeat("It is in the locker, under the seat. ", 4)} {
		text, err := Write(card(9, said))
		require.NoError(t, err)
		assert.Equal(t, 1, pages(text))
		assert.True(t, bytes.Contains(text, []byte("595.28]")), "A5 is 210 mm high")
	}
}

func TestWhatDoesNotFitIsNotCutSilently(t *testing.T) {
	_, err := Write(card(40, strings.Repeat("It is in the locker, under the seat. ", 8)))
	assert.ErrorContains(t, err, "more to say than fits on one page")
}

func TestABoatWithoutAShapeAndStrangeLettersArePrinted(t *testing.T) {
	c := card(2, "Ørnen 🎣 \u202e is in the locker.")
	c.Outline, c.Link = nil, ""
	text, err := Write(c)
	require.NoError(t, err)
	assert.Equal(t, 1, pages(text))
}

func TestNumbersDoNotLieOnOneAnother(t *testing.T) {
	same := func(v float64) float64 { return v * 10 }
	list := spread(card(9, "").Points, same, same)
	require.Len(t, list, 18)
	for i, a := range list {
		for _, b := range list[:i] {
			assert.GreaterOrEqual(t, (a.x-b.x)*(a.x-b.x)+(a.y-b.y)*(a.y-b.y), 4.19*4.19)
		}
	}
}
