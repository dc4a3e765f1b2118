package calc

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"time"

	"ergasia/core/check"
	"ergasia/core/float"
)

// dayIn is a day: what is the same all day, and what each phase has beside it. A phase
// is an input of float with a name and hours; its hull and water may be the day's.
type dayIn struct {
	Water  json.RawMessage   `json:"water"`
	Hull   json.RawMessage   `json:"hull"`
	Masses []json.RawMessage `json:"masses"`
	Tanks  []json.RawMessage `json:"tanks"`
	Phases []map[string]any  `json:"phases"`
}

type dayRow struct {
	Name string  `json:"name"`
	From float64 `json:"from_h"`
	H    float64 `json:"h"`
	floatOut
}

type dayWorst struct {
	Phase  int           `json:"phase"`
	Name   string        `json:"name"`
	Status float.Status  `json:"status"`
	Lowest *freeboardOut `json:"lowest_freeboard"`
}

type dayOut struct {
	Phases []dayRow `json:"phases"`
	Worst  dayWorst `json:"worst"`
}

func runDay(data []byte, came time.Time) (any, error) {
	var in dayIn
	if err := json.Unmarshal(data, &in); err != nil {
		return nil, check.Faults{{Field: "input", Want: err.Error()}}
	}
	var out dayOut
	var fs check.Faults
	from, least := 0.0, math.Inf(1)
	for i, p := range in.Phases {
		at := fmt.Sprintf("phases[%d]", i)
		row, err := in.row(p, came)
		var found check.Faults
		if errors.As(err, &found) {
			for _, f := range found {
				fs.Add(at+"."+f.Field, f.Value, f.Want)
			}
			continue
		} else if err != nil {
			return nil, err
		}
		row.From = from
		from += row.H
		out.Phases = append(out.Phases, row)
		low := math.Inf(-1) // she sinks or capsizes
		if row.Lowest != nil {
			low = row.Lowest.M
		}
		if low < least || i == 0 {
			least = low
			out.Worst = dayWorst{Phase: i, Name: row.Name, Status: row.Status, Lowest: row.Lowest}
		}
	}
	return out, fs.Err()
}

// row floats a phase with what the day gives it.
func (in dayIn) row(p map[string]any, came time.Time) (dayRow, error) {
	row := dayRow{}
	row.Name, _ = p["name"].(string)
	row.H, _ = p["h"].(float64)
	whole := map[string]any{}
	for key, v := range p {
		if key != "name" && key != "h" {
			whole[key] = v
		}
	}
	for key, v := range map[string]json.RawMessage{"water": in.Water, "hull": in.Hull} {
		if _, own := whole[key]; !own && len(v) > 0 {
			whole[key] = v
		}
	}
	for key, list := range map[string][]json.RawMessage{"masses": in.Masses, "tanks": in.Tanks} {
		own, _ := whole[key].([]any)
		for _, one := range list {
			own = append(own, one)
		}
		if len(own) > 0 {
			whole[key] = own
		}
	}
	if whole["hull"] == nil {
		return row, check.Faults{{Field: "hull", Want: "must be given, for the phase or for the whole day"}}
	}
	text, err := json.Marshal(whole)
	if err != nil {
		return row, fmt.Errorf("reading a phase: %w", err)
	}
	answer, err := runFloat(text, came)
	if err != nil {
		return row, err
	}
	row.floatOut = answer.(floatOut)
	return row, nil
}
