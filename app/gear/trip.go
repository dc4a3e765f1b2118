package gear

import (
	"fmt"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// BookingView is gear that is promised to a trip.
type BookingView struct {
	ID      uuid.UUID    `json:"id" format:"uuid"`
	GearID  uuid.UUID    `json:"gear_id" format:"uuid"`
	Way     string       `json:"way" enum:"trip,lent,borrowed"`
	TripID  *uuid.UUID   `json:"trip_id,omitempty" format:"uuid"`
	Whom    string       `json:"whom" doc:"The trip's name, or who has it or lent it"`
	FromOn  kernel.Date  `json:"from_on"`
	UntilOn *kernel.Date `json:"until_on,omitempty"`
	By      string       `json:"by"`
	Ended   bool         `json:"ended"`
}

type bookingRow struct {
	model.Booking
	Called, ByName string
}

func (r bookingRow) view() BookingView {
	return BookingView{ID: r.ID, GearID: r.GearID, Way: r.Way, TripID: r.TripID, Whom: r.Called,
		FromOn: kernel.DayOf(r.FromOn), UntilOn: kernel.DateOf(r.UntilOn), By: r.ByName, Ended: r.EndedOn != nil}
}

// bookings of a piece: those that stand, then the latest that ended.
func bookings(tx *store.Tx, gear uuid.UUID) ([]BookingView, error) {
	list := []BookingView{}
	rows, err := bookingRows(tx, "b.gear_id = @gear ORDER BY b.ended_on IS NOT NULL, b.from_on DESC LIMIT 30",
		store.Args{"gear": gear})
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		list = append(list, r.view())
	}
	return list, nil
}

// Spoken says in a sentence what a piece is promised to between two days.
func Spoken(tx *store.Tx, g model.Gear, from time.Time, until *time.Time) error {
	rows, err := bookingRows(tx, `b.gear_id = @gear AND b.way <> 'borrowed' AND b.ended_on IS NULL
		AND daterange(b.from_on, b.until_on, '[]') && daterange(CAST(@from AS date), CAST(@until AS date), '[]') ORDER BY b.from_on LIMIT 1`,
		store.Args{"gear": g.ID, "from": from, "until": until})
	if err != nil || len(rows) == 0 {
		return err
	}
	return &refuse.Error{Kind: refuse.Refused, Sentence: rows[0].sentence(g.Name)}
}

func (r bookingRow) sentence(name string) string {
	days := kernel.DayOf(r.FromOn).String()
	if r.UntilOn == nil {
		days = "since " + days
	} else if !r.UntilOn.Equal(r.FromOn) {
		days += " to " + kernel.DayOf(*r.UntilOn).String()
	}
	if r.Way == "trip" {
		return fmt.Sprintf("%s is promised to %s, %s, by %s.", kernel.Capital(name), r.Called, days, r.ByName)
	}
	return fmt.Sprintf("%s is lent to %s, %s.", kernel.Capital(name), r.Called, days)
}
