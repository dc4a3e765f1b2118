package paper

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestWhatTheFacesDontHaveHasAStandIn(t *testing.T) {
	for text, want := range map[string]string{
		"Ålesund, Ωmega, Жук":       "Ålesund, Ωmega, Жук",
		"lure 🎣 box":                "lure □ box",
		"family 👨‍👩‍👧":              "family □□□",
		"thumb 👍🏽":                  "thumb □",
		"heart ❤️":                  "heart □",
		"餌 bait":                    "□ bait",
		"a\x00b\u200bc\ufffed\xff":  "abcd□",
		"flag \U0001F1F3\U0001F1F4": "flag □□",
	} {
		assert.Equal(t, want, Printable(text))
	}
	assert.True(t, drawn(standIn), "the stand-in itself is drawn")
}

func TestAnyTextIsPrinted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.OneOf(rapid.String(), rapid.StringOfN(rapid.Rune(), 1, 40, -1)).Draw(t, "text")
		d := New("P", "A4", text)
		d.AddPage()
		d.Face(rapid.Bool().Draw(t, "bold"), 12)
		short := d.Cut(text, 40)
		assert.LessOrEqual(t, d.GetStringWidth(short), 40.0+d.GetStringWidth("…"))
		d.Text(10, 10, text)
		_, err := d.Bytes()
		require.NoError(t, err)
	})
}
