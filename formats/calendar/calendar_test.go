package calendar

import (
	"bytes"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
