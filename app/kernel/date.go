package kernel

import (
	"fmt"
	"time"

	"ergasia/core/due"
)

// Date is a day without an hour, written 2006-01-02.
type Date struct{ At time.Time }

// MarshalText writes the day.
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads a day.
func (d *Date) UnmarshalText(text []byte) error {
	t, err := time.Parse(time.DateOnly, string(text))
	if err != nil || t.Year() < 1900 || t.Year() > 2200 {
		return fmt.Errorf("%q is no date: write it as 2027-03-31", text)
	}
	d.At = t
	return nil
}

// String is the day as it is written.
func (d Date) String() string { return d.At.Format(time.DateOnly) }

// DayOf is the day of an instant, in UTC.
func DayOf(t time.Time) Date { return Date{At: t.UTC().Truncate(24 * time.Hour)} }

// Add gives the day so many days later.
func (d Date) Add(days int) Date { return Date{At: d.At.AddDate(0, 0, days)} }

// DateOf and time are nil where there is no date.
func DateOf(t *time.Time) *Date {
	if t == nil {
		return nil
	}
	d := DayOf(*t)
	return &d
}

// Time is the day as the database keeps it; nil where none was said.
func (d *Date) Time() *time.Time {
	if d == nil || d.At.IsZero() {
		return nil
	}
	return &d.At
}

// DayOfTime counts days as core/due does, from 1970.
func DayOfTime(t time.Time) due.Day { return due.Day(t.UTC().Unix() / 86400) }

// DayDate is a day that core counts, as a date.
func DayDate(d due.Day) Date { return Date{At: time.Unix(int64(d)*86400, 0).UTC()} }
