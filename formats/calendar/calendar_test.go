package calendar

import (
	"bytes"
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

var written = time.Date(2026, 11, 25, 6, 0, 0, 0, time.UTC)

func TestWholeDaysEndTheDayAfter(t *testing.T) { // RFC 5545, 3.6.1
	text := Write("crew", written, []Entry{{ID: "a", Title: "flares; out, of date\nsoon", Note: "glove box",
		First: time.Date(2026, 12, 5, 0, 0, 0, 0, time.UTC), Last: time.Date(2026, 12, 6, 0, 0, 0, 0, time.UTC)}})
	assert.Contains(t, string(text), "DTSTART;VALUE=DATE:20261205")
	assert.Contains(t, string(text), "DTEND;VALUE=DATE:20261207")
	assert.Contains(t, string(text), `SUMMARY:flares\; out\, of date\nsoon`, "nothing in a title breaks the line (RFC 5545, 3.3.11)")
	for line := range strings.Lines(string(text)) {
		assert.True(t, strings.HasSuffix(line, "\r\n"))
		assert.LessOrEqual(t, len(strings.TrimSuffix(line, "\r\n")), 75, "RFC 5545, 3.1")
	}
	read, err := ics.ParseCalendar(bytes.NewReader(text))
	require.NoError(t, err)
	require.Len(t, read.Events(), 1)
	assert.Equal(t, "a@ergasia", read.Events()[0].Id(), "the same at every writing")
	assert.Equal(t, text, Write("crew", written, []Entry{{ID: "a", Title: "flares; out, of date\nsoon", Note: "glove box",
		First: time.Date(2026, 12, 5, 0, 0, 0, 0, time.UTC), Last: time.Date(2026, 12, 6, 0, 0, 0, 0, time.UTC)}}))
}

// Whatever people call a thing, a calendar reads it back, and no line of theirs becomes one of the file's.
func TestAnyTitleIsReadBackByAParser(t *testing.T) {
	day := time.Date(2026, 12, 5, 0, 0, 0, 0, time.UTC)
	rapid.Check(t, func(t *rapid.T) {
		letters := rapid.OneOf(rapid.RuneFrom([]rune("\n\r\\;,:\"-EVND ÅΩ🎣餌")), rapid.Rune())
		draw := func(name string) string { return rapid.StringOfN(letters, 0, 120, -1).Draw(t, name) }
		title, note := draw("title"), draw("note")
		text := Write(draw("crew"), written, []Entry{{ID: "a", Title: title, Note: note, First: day, Last: day},
			{ID: "b", Title: "-END:VEVENT", Note: title + "\r\nEND:VEVENT", First: day, Last: day}})
		read, err := ics.ParseCalendar(bytes.NewReader(text))
		require.NoError(t, err)
		require.Len(t, read.Events(), 2)
		value := func(p ics.ComponentProperty) string {
			return read.Events()[0].GetProperty(p).Value
		}
		assert.Equal(t, plain(title), value(ics.ComponentPropertySummary))
		assert.Equal(t, plain(note), value(ics.ComponentPropertyDescription))
		for line := range strings.SplitSeq(strings.TrimSuffix(string(text), "\r\n"), "\r\n") {
			assert.LessOrEqual(t, len(line), 75)
			assert.True(t, utf8.ValidString(line), "no letter is cut (RFC 5545, 3.1)")
			assert.NotContains(t, line, "\r")
			assert.NotContains(t, line, "\n")
		}
	})
}
