package tripsheets

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func pages(t *testing.T, sheets ...Sheet) int {
	text, err := Write(sheets)
	require.NoError(t, err)
	require.True(t, bytes.HasPrefix(text, []byte("%PDF-")))
	return bytes.Count(text, []byte("/Type /Page\n"))
}

func TestASheetTakesAsManyPagesAsItNeeds(t *testing.T) {
	s := Sheet{Title: "Packing list", About: "cod run", Foot: strings.Repeat("calm water only ", 60)}
	for k := range 3 {
		sec := SheetPart{Title: fmt.Sprint("shelf ", k)}
		for i := range 40 {
			sec.Lines = append(sec.Lines, SheetLine{Text: fmt.Sprint("tray ", i), Right: "1.2 kg", Tick: true})
		}
		s.Sections = append(s.Sections, sec)
	}
	assert.Equal(t, 4, pages(t, s), "120 lines, 40 to a page, with titles")
	assert.Equal(t, 1, pages(t))
	assert.Equal(t, 2, pages(t, Sheet{Title: "a"}, Sheet{Title: "b"}), "each from a page of its own")
}

func TestWhateverPeopleTypedIsPrinted(t *testing.T) {
	odd := strings.Repeat("wordwithoutanend", 40) + " 🎣 \x00 ελ"
	assert.GreaterOrEqual(
		t,
		pages(
			t,
			Sheet{Title: odd, About: odd, Sections: []SheetPart{{Title: odd, Lines: []SheetLine{{Text: odd, Right: "x"}, {}}}}},
		),
		1,
	)
}
