// Package calendar writes days with a title as iCalendar (RFC 5545), for the
// calendars that people have in their pockets.
package calendar

import (
	"strings"
	"time"
	"unicode"

	ics "github.com/arran4/golang-ical"
)

// Entry is something that takes whole days.
type Entry struct {
	ID          string // the same at every writing, so that a calendar changes it and adds none
	Title, Note string
	First, Last time.Time // days
}

// Write gives the calendar. now is when it was written.
func Write(name string, now time.Time, entries []Entry) []byte {
	c := ics.NewCalendar()
	c.SetMethod(ics.MethodPublish)
	c.SetProductId("-//Ergasia//due list//EN")
	c.SetName(plain(name))
	c.SetXWRCalName(plain(name))
	for _, e := range entries {
		v := c.AddEvent(e.ID + "@ergasia")
		v.SetDtStampTime(now)
		v.SetSummary(plain(e.Title))
		v.SetDescription(plain(e.Note))
		v.SetAllDayStartAt(e.First)
		v.SetAllDayEndAt(e.Last.AddDate(0, 0, 1)) // the end of a whole day is the day after (RFC 5545, 3.6.1)
		v.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return []byte(c.Serialize(ics.WithNewLineWindows))
}

// plain has one kind of line break and no other control character: the library
// escapes what the format gives a meaning, and passes these on (RFC 5545, 3.3.11).
func plain(text string) string {
	text = strings.NewReplacer("\r\n", "\n", "\r", "\n").Replace(strings.ToValidUTF8(text, "?"))
	return strings.Map(func(r rune) rune {
		if unicode.IsControl(r) && r != '\n' && r != '\t' {
			return -1
		}
		return r
	}, text)
}
