package gear

import (
	"fmt"

	"ergasia/app/kernel"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// ServiceInput is a service that comes round; nought is not counted so.
type ServiceInput struct {
	What       string      `json:"what"`
	EveryDays  int         `json:"every_days"`
	EveryHours float64     `json:"every_hours"`
	EveryTrips int         `json:"every_trips"`
	LastOn     kernel.Date `json:"last_on" doc:"When it was done last"`
}

// ServiceView is a service of a piece.
type ServiceView struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Version int       `json:"version"`
	ServiceInput
	LastHours float64 `json:"last_hours"`
	LastTrips int     `json:"last_trips"`
}

func services(tx *store.Tx, gear uuid.UUID) ([]ServiceView, error) {
	list := []ServiceView{}
	var rows []model.Service
	if err := store.All(tx, &rows, "what, id", "gear_id = ?", gear); err != nil {
		return nil, fmt.Errorf("loading services: %w", err)
	}
	for _, r := range rows {
		list = append(list, ServiceView{ID: r.ID, Version: r.Version, ServiceInput: ServiceInput{What: r.What,
			EveryDays: r.EveryDays, EveryHours: r.EveryHours, EveryTrips: r.EveryTrips,
			LastOn: kernel.DayOf(r.LastOn)}, LastHours: r.LastHours, LastTrips: r.LastTrips})
	}
	return list, nil
}

// ServicesOfGear is how many services a piece may have.
const ServicesOfGear = 20
