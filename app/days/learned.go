package days

import (
	"context"
	"fmt"

	"ergasia/app/kernel"
	"ergasia/app/power"
	corepower "ergasia/core/power"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// lastEvenings is from how many of a boat's last trips her banks are learned.
const lastEvenings = 24

// LearnBanks reads the volts at rest of a trip's boat again, after that trip was logged with
// some: what her banks hold, and what draws otherwise than said. It changes nothing of her
// electrics; a crew takes it over.
func (a *Wing) LearnBanks(ctx context.Context, actor kernel.Actor, trip uuid.UUID) error {
	var t model.Trip
	var list model.LearnedList
	err := a.In(ctx, actor, func(tx *store.Tx) error {
		if err := store.One(tx, &t, "id = ?", trip); err != nil {
			return kernel.Absent(err, "trip")
		}
		if t.BoatID == nil {
			return nil
		}
		var rows []model.Trip
		err := store.Some(tx, &rows, lastEvenings, "starts_on DESC, id",
			"boat_id = ? AND logged_at IS NOT NULL AND jsonb_array_length(COALESCE(log->'volts', '[]')) > 0", *t.BoatID)
		if err != nil {
			return fmt.Errorf("reading the volts at rest: %w", err)
		}
		list, err = a.learnBanks(tx, actor, rows)
		return err
	})
	if err != nil || list == nil {
		return err
	}
	return a.Write(ctx, actor, func(tx *store.Tx) error { return power.KeepLearned(tx, *t.BoatID, list) })
}

// learnBanks is nil where the boat has no electrics.
func (a *Wing) learnBanks(tx *store.Tx, actor kernel.Actor, rows []model.Trip) (model.LearnedList, error) {
	evenings := map[string][]corepower.Evening{}
	var wired *power.Electrics
	for i, t := range rows {
		o, err := a.Load(tx, actor, t.ID, nil)
		if err != nil {
			return nil, err
		}
		if o.Wired == nil {
			return nil, nil
		}
		if i == 0 {
			wired = o.Wired // as old as she was on the last of them
		}
		o.asLong(t.Hours)
		d := o.power()
		if d == nil {
			continue
		}
		for _, v := range t.Log.Volts {
			if e, ok := d.Evening(v); ok {
				evenings[v.Bank] = append(evenings[v.Bank], e)
			}
		}
	}
	if wired == nil {
		return nil, nil
	}
	list := model.LearnedList{}
	for _, b := range wired.Input.Banks {
		if l, ok := wired.Learn(b.Key, evenings[b.Key], rows[0].EndsOn); ok {
			list = append(list, l)
		}
	}
	return list, nil
}

// asLong makes a day that nobody wrote last as many hours afloat as were logged.
func (o *Outing) asLong(logged float64) {
	if o.Saved || logged <= 0 {
		return
	}
	working := o.workingHours() * float64(o.days())
	if working <= 0 {
		return
	}
	afloat := o.hours() * float64(o.days())
	stretch := max(0.1, (working+logged-afloat)/working)
	for i, p := range o.Plan.Phases {
		if p.Kind == "fish" || p.Kind == "bait" || p.Kind == "anchor" {
			o.Plan.Phases[i].Hours *= stretch
		}
	}
	o.banked = nil
}
