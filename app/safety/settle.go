package safety

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"ergasia/app/aboard"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/app/trips"
	"ergasia/core/carriage"
	"ergasia/core/check"
	"ergasia/core/find"
	"ergasia/core/reach"
	"ergasia/core/words"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
)

func faulty(fs check.Faults) error { return refuse.Faulty(fs.Err()) }

func openTrip(tx *store.Tx, id uuid.UUID) (model.Trip, error) { return trips.Open(tx, id) }

// mostElsewhere is how many pieces in other places are looked at. Practice.
const mostElsewhere = 500

// elsewhere is safety equipment of the classes that is not along yet.
type elsewhere struct {
	gear.At
	class string
	where string
}

// settle adds to each row that is not met what would settle it.
func (a *Wing) settle(tx *store.Tx, c checked, out *CheckView) error {
	var classes []string
	for _, r := range c.rows {
		if unmet(r) {
			classes = append(classes, r.Classes...)
		}
	}
	if len(classes) == 0 {
		return nil
	}
	others, err := notAlong(tx, c, classes)
	if err != nil {
		return err
	}
	for _, r := range c.rows {
		if !unmet(r) {
			continue
		}
		i := slices.IndexFunc(out.Rows, func(v RowView) bool { return v.What == r.What })
		out.Rows[i].Settle = c.settles(r, others)
	}
	return nil
}

// notAlong reads the safety equipment of some classes that does not come along yet.
func notAlong(tx *store.Tx, c checked, classes []string) (list []elsewhere, err error) {
	tags := []string{"-"}
	for tag, class := range aboard.TagsOf() {
		if slices.Contains(classes, class) {
			tags = append(tags, find.Tag(tag))
		}
	}
	rows, err := gear.Rows(
		tx,
		`WHERE gear.crew_id = @crew AND (gear.safety_class IN @classes OR gear.safety_class = '' AND
		gear.id IN (SELECT gear_id FROM gear_word WHERE crew_id = @crew AND word IN @tags))
		ORDER BY gear.sort_name, gear.id LIMIT @most`,
		store.Args{"classes": classes, "tags": tags, "most": mostElsewhere},
	)
	if err != nil {
		return nil, err
	}
	rows = slices.DeleteFunc(rows, func(r gear.At) bool {
		return slices.ContainsFunc(c.pieces, func(p Piece) bool { return p.Gear != nil && p.Gear.ID == r.ID }) ||
			r.Condition == "broken" || r.Count == 0 || r.Stowage.Kind == "lent"
	})
	views, err := gear.ViewRows(tx, rows)
	for i, v := range views {
		class, _ := aboard.ClassOf(rows[i].Gear)
		list = append(list, elsewhere{At: rows[i], class: class, where: v.Spot.Text})
	}
	return list, err
}

// mostSettles is how many ways are offered for a row.
const mostSettles = 4

// settles are what would settle a row, the nearest first.
func (c checked) settles(r carriage.Row, others []elsewhere) []Settle {
	list := []Settle{}
	if r.Status == carriage.Slow {
		for _, id := range r.By {
			if s, ok := c.nearer(r, id); ok {
				list = append(list, s)
			}
		}
	}
	for _, o := range others {
		if slices.Contains(r.Classes, o.class) && c.helps(r, o.Gear) && len(list) < mostSettles-1 {
			id := o.ID
			list = append(
				list,
				Settle{Kind: "promise", GearID: &id, Said: fmt.Sprintf("Take %s along: %s.", o.Name, o.where)},
			)
		}
	}
	if r.Status != carriage.Slow && !strings.Contains(r.Why, "not in the") {
		text := cut(fmt.Sprintf("Buy: %s", c.bought(r)), 200)
		list = append(list, Settle{Kind: "buy", Said: text + ".", Text: text})
	}
	return list
}

func cut(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most])
	}
	return text
}

func (c checked) bought(r carriage.Row) string {
	what := r.What
	if len(r.Classes) > 0 {
		what = words.SafetyClasses.Label(r.Classes[0])
	}
	said := fmt.Sprintf("%d × %s", max(r.Missing, 1), what)
	if r.Status == carriage.Size {
		said += " for " + strings.Join(r.Persons, ", ")
		for _, p := range c.trip.Persons {
			if slices.Contains(r.Persons, p.Name) && p.Kg > 0 && c.masses {
				said += " (" + c.outing.Laden.MassText(p.Kg) + ")"
			}
		}
	}
	return said
}

// helps says whether a piece from elsewhere is in date, and fits who has none.
func (c checked) helps(r carriage.Row, g model.Gear) bool {
	if g.ExpiresOn != nil && kernel.DayOfTime(*g.ExpiresOn) < c.trip.LastDay {
		return false
	}
	if r.Status != carriage.Size {
		return true
	}
	return slices.ContainsFunc(c.trip.Persons, func(p carriage.Person) bool {
		return slices.Contains(r.Persons, p.Name) && g.FitsHigh > 0 && p.Kg >= g.FitsLow && p.Kg <= g.FitsHigh
	})
}

// nearer is the quickest place that takes a piece which is too slow to reach, where one is
// quick enough.
func (c checked) nearer(r carriage.Row, id string) (Settle, bool) {
	s := c.outing.Laden
	p := aboard.First(c.pieces, func(p Piece) bool { return p.Item.ID == id })
	if p == nil || p.Gear == nil || p.Seconds == nil || *p.Seconds <= r.Within {
		return Settle{}, false
	}
	at := s.Stowage[p.Gear.ID]
	for _, spot := range quickest(s, *p.Gear, r.Within) {
		to := model.Whereabouts{Kind: "boat", BoatID: &s.Boat.ID, PlaceID: &spot.place.ID}
		if at.PlaceID != nil && *at.PlaceID == spot.place.ID && at.InsideID == nil {
			continue
		}
		refusals, err := s.Refuse(model.Event{GearID: &p.Gear.ID}, to)
		if err != nil || len(refusals) > 0 {
			continue
		}
		return Settle{Kind: "move", GearID: &p.Gear.ID, PlaceID: &spot.place.ID, Version: at.Version, Said: fmt.Sprintf(
			"Move %s to %s: %.0f s instead of %.0f.", p.Gear.Name, spot.place.Name, spot.seconds, *p.Seconds)}, true
	}
	return Settle{}, false
}

type nearPlace struct {
	place   model.Place
	seconds float64
}

// quickest are the places from which a thing is in a hand within so many seconds, the
// quickest first.
func quickest(s *aboard.Laden, g model.Gear, within float64) (list []nearPlace) {
	if len(s.Posts) == 0 {
		return nil
	}
	d := s.Decks()
	for j, place := range s.Places {
		f, ok := d.Fetch(s.Table, g.UsedFrom, j, reach.Lying{HandZ: place.Z + place.Height/2})
		if ok && f.Seconds <= within && !math.IsInf(f.Seconds, 0) {
			list = append(list, nearPlace{place: place, seconds: f.Seconds})
		}
	}
	slices.SortStableFunc(list, func(a, b nearPlace) int { return cmp.Compare(a.seconds, b.seconds) })
	return list
}
