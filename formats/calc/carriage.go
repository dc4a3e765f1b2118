package calc

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"ergasia/core/carriage"
	"ergasia/core/check"
	"ergasia/core/due"
	"ergasia/formats/rulepacks"
)

type carriageIn struct {
	Boat struct {
		Length     float64  `json:"length_m"`
		Propulsion string   `json:"propulsion"`
		Power      *float64 `json:"power_kw"`
		Fuel       string   `json:"fuel"`
		Closed     *bool    `json:"closed_spaces"`
		Built      int      `json:"built"`
	} `json:"boat"`
	Trip struct {
		Country string `json:"country"`
		Water   string `json:"water"`
		Night   bool   `json:"night"`
		LastDay string `json:"last_day"`
		Use     string `json:"use"`
		Persons []struct {
			Name  string   `json:"name"`
			Kg    float64  `json:"kg"`
			Age   *float64 `json:"age"`
			Guest bool     `json:"guest"`
		} `json:"persons"`
	} `json:"trip"`
	Aboard []struct {
		ID      string      `json:"id"`
		Class   string      `json:"class"`
		Also    []string    `json:"also"`
		Count   *int        `json:"count"`
		Fits    *[2]float64 `json:"fits_kg"`
		Expires string      `json:"expires_on"`
		Seconds *float64    `json:"seconds"`
		WornBy  string      `json:"worn_by"`
		Inside  []string    `json:"inside"`
	} `json:"aboard"`
	Packs []string          `json:"packs"`
	Own   []json.RawMessage `json:"own_packs"`
}

type carriageRow struct {
	Rule    string   `json:"rule"`
	What    string   `json:"what"`
	Pack    string   `json:"pack"`
	Status  string   `json:"status"`
	By      []string `json:"by"`
	Missing int      `json:"missing,omitempty"`
	Why     string   `json:"why"`
	Source  string   `json:"source"`
	Memory  bool     `json:"memory,omitempty"`
	Note    string   `json:"note,omitempty"`
	Also    []string `json:"also_asked_by,omitempty"`
}

type carriageOut struct {
	Rows []carriageRow `json:"rows"`
	Law  string        `json:"law"`
}

// dayOf is a date as core counts days.
func dayOf(fs *check.Faults, field, text string) due.Day {
	t, err := time.Parse(time.DateOnly, text)
	if err != nil {
		fs.Add(field, text, "must be a date, written as 2027-03-31")
		return 0
	}
	return due.Day(t.Unix() / 86400)
}

// country is a country's two letters, however it was written.
func country(name string) string {
	switch c := strings.ToUpper(strings.TrimSpace(name)); c {
	case "USA", "UNITED STATES":
		return "US"
	default:
		return c
	}
}

func (in carriageIn) boat() carriage.Boat {
	b := in.Boat
	return carriage.Boat{Length: b.Length, Propulsion: b.Propulsion, Power: b.Power, Fuel: b.Fuel, Closed: b.Closed, Built: b.Built}
}

func (in carriageIn) trip(fs *check.Faults) carriage.Trip {
	t := carriage.Trip{Country: country(in.Trip.Country), Water: in.Trip.Water, Night: in.Trip.Night, Use: in.Trip.Use,
		LastDay: dayOf(fs, "trip.last_day", in.Trip.LastDay)}
	names := map[string]bool{}
	for i, p := range in.Trip.Persons {
		if names[p.Name] {
			fs.Add(fmt.Sprintf("trip.persons[%d].name", i), p.Name, "must be a name of its own")
		}
		names[p.Name] = true
		t.Persons = append(t.Persons, carriage.Person{Name: p.Name, Kg: p.Kg, Age: p.Age, Guest: p.Guest})
	}
	return t
}

func (in carriageIn) aboard(fs *check.Faults) (list []carriage.Item) {
	ids := map[string]bool{}
	for i, a := range in.Aboard {
		at := fmt.Sprintf("aboard[%d]", i)
		if ids[a.ID] {
			fs.Add(at+".id", a.ID, "must be an id of its own")
		}
		ids[a.ID] = true
		if a.Fits != nil && a.Fits[0] > a.Fits[1] {
			fs.Add(at+".fits_kg", *a.Fits, "must be from the lighter to the heavier body")
		}
		if a.Count != nil && *a.Count == 0 {
			continue
		}
		it := carriage.Item{ID: a.ID, Name: a.ID, Class: a.Class, Also: a.Also, Count: 1, Fits: a.Fits, Seconds: a.Seconds,
			WornBy: a.WornBy, Inside: a.Inside}
		if a.Count != nil {
			it.Count = *a.Count
		}
		if a.Expires != "" {
			day := dayOf(fs, at+".expires_on", a.Expires)
			it.Expires = &day
		}
		list = append(list, it)
	}
	return list
}

// library is the packs that are shipped, and those that came with the input.
func (in carriageIn) library(fs *check.Faults) carriage.Library {
	lib := rulepacks.Shipped()
	for i, text := range in.Own {
		at := fmt.Sprintf("own_packs[%d]", i)
		p, err := rulepacks.Read(text)
		if wrong, is := err.(check.Faults); is {
			for _, f := range wrong {
				fs.Add(at+"."+f.Field, f.Value, f.Want)
			}
			continue
		}
		if _, taken := lib[p.Name]; taken {
			fs.Add(at+".name", p.Name, "is the name of another pack: choose another, and inherit from that")
			continue
		}
		lib[p.Name] = p
	}
	return lib
}

func runCarriage(data []byte, _ time.Time) (any, error) {
	var in carriageIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	var fs check.Faults
	b, t, aboard, lib := in.boat(), in.trip(&fs), in.aboard(&fs), in.library(&fs)
	if err := fs.Err(); err != nil {
		return nil, err
	}
	rules, err := lib.All(in.Packs)
	if err != nil {
		return nil, err
	}
	rows, err := carriage.Check(context.Background(), rules, b, t, aboard)
	if err != nil {
		return nil, err
	}
	out := carriageOut{Rows: []carriageRow{}, Law: carriage.Law}
	for _, r := range rows {
		out.Rows = append(out.Rows, carriageRow{Rule: r.Rule, What: r.What, Pack: r.Pack, Status: r.Status, By: r.By,
			Missing: r.Missing, Why: r.Why, Source: r.Source, Memory: r.Memory, Note: r.Note, Also: r.Also})
	}
	return out, nil
}
