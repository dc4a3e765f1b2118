package lidcards

import (
	"bytes"
	"fmt"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func card(name string, things int) Card {
	c := Card{Place: name, Boat: "Dunlin", Code: "PQFBGF", Note: "dry, 4.6 of 25 kg", Length: 0.5, Breadth: 0.4,
		Layers: [][]Box{nil, nil, nil, nil}}
	for i := range things {
		c.List = append(c.List, fmt.Sprintf("%d  thing %d", i+1, i+1))
		c.Layers[i%4] = append(c.Layers[i%4], Box{X: 0.1, Y: 0.1, Length: 0.2, Breadth: 0.1, Number: i + 1})
	}
	return c
}

func pages(text []byte) int { return bytes.Count(text, []byte("/Type /Page\n")) }

func TestTwoCardsToASheet(t *testing.T) {
	for n, sheets := range map[int]int{1: 1, 2: 1, 3: 2, 0: 1} {
		var cards []Card
		for i := range n {
			cards = append(cards, card(fmt.Sprint("locker ", i), 3))
		}
		text, err := Write(cards)
		require.NoError(t, err)
		assert.Equal(t, sheets, pages(text), "%d cards", n)
	}
}

// What is printed, read back by poppler's pdftotext where it is there.
func TestACardNamesWhatLiesUnderTheLid(t *testing.T) {
	long := card("a locker whose name is longer than any that a crew would write upon its lid, and then some more", 120)
	text, err := Write([]Card{card("port bench", 5), long})
	require.NoError(t, err)
	if _, err := exec.LookPath("pdftotext"); err != nil {
		t.Skip("pdftotext is not installed")
	}
	read := exec.Command("pdftotext", "-layout", "-", "-")
	read.Stdin = bytes.NewReader(text)
	out, err := read.Output()
	require.NoError(t, err)
	for _, want := range []string{"port bench", "PQFBGF", "dry, 4.6 of 25 kg", "thing 5", "on the floor, bow up",
		"on top, bow up", "more"} {
		assert.Contains(t, string(out), want)
	}
	assert.Contains(t, string(out), "…", "a long name is cut, not set beside the paper")
	assert.Equal(t, 2, strings.Count(string(out), "PQFBGF"))
}
