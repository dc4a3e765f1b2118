// Package calendar writes days with a title as iCalendar (RFC 5545), for the
// calendars that people have in their pockets.
package calendar

import (
	"time"

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
	c.SetName(name)
	c.SetXWRCalName(name)
	for _, e := range entries {
		v := c.AddEvent(e.ID + "@ergasia")
		v.SetDtStampTime(now)
		v.SetSummary(e.Title)
		v.SetDescription(e.Note)
		v.SetAllDayStartAt(e.First)
		v.SetAllDayEndAt(e.Last.AddDate(0, 0, 1)) // the end of a whole day is the day after (RFC 5545, 3.6.1)
		v.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return []byte(c.Serialize(ics.WithNewLineWindows))
}
