package gear

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/find"
	"ergasia/formats/table"
	"ergasia/store"
	"ergasia/store/model"
)

// LeftOut is the column of a heading whose cells are not read.
const LeftOut = "-"

// Heading is a heading of a table, and what its column is read as.
type Heading struct {
	Heading string `json:"heading"`
	Column  string `json:"column" doc:"Empty where nobody has said what it is; - where it is left out"`
	How     string `json:"how" enum:"same,read,remembered,chosen,unknown" doc:"How the column was found; read: by what the heading says"`
	Sample  string `json:"sample" doc:"The first cell that holds something"`
}

// ColumnChoice is what a heading may be said to be.
type ColumnChoice struct {
	Column string `json:"column"`
	Label  string `json:"label"`
}

// alsoRead are columns that are read and never written: sides and masses in other
// units, and all three sides in one cell.
var alsoRead = []ColumnChoice{{"size", "Size, three sides"}, {"mass", "Mass, with its unit"}, {"lb", "Mass, lb"},
	{"g", "Mass, g"}, {"oz", "Mass, oz"},
	{"length", "Length, with its unit"}, {"breadth", "Breadth, with its unit"}, {"height", "Height, with its unit"},
	{"length_in", "Length, in"}, {"breadth_in", "Breadth, in"}, {"height_in", "Height, in"},
	{"length_mm", "Length, mm"}, {"breadth_mm", "Breadth, mm"}, {"height_mm", "Height, mm"},
	{"length_m", "Length, m"}, {"breadth_m", "Breadth, m"}, {"height_m", "Height, m"},
	{"length_ft", "Length, ft"}, {"breadth_ft", "Breadth, ft"}, {"height_ft", "Height, ft"}}

// columnChoices are all columns with their names, as a person chooses from.
var columnChoices = func() []ColumnChoice {
	var list []ColumnChoice
	for _, f := range Fields {
		label := f.Label
		if f.Kind == Side {
			label += ", cm"
		} else if f.Kind == Mass {
			label += ", kg"
		}
		list = append(list, ColumnChoice{f.column, label})
		if f.column == "owner" {
			list = append(list, ColumnChoice{"place", "Place"})
		}
	}
	return slices.Concat(list, alsoRead, []ColumnChoice{{"id", "Id"}, {LeftOut, "leave it out"}})
}()

func isColumn(name string) bool {
	return slices.ContainsFunc(columnChoices, func(c ColumnChoice) bool { return c.Column == name })
}

// said are the words by which people head a column. Practice.
var said = map[string]string{"item": "name", "items": "name", "gear": "name", "thing": "name", "description": "name",
	"what": "name", "article": "name", "product": "name", "equipment": "name", "qty": "count", "quantity": "count",
	"pieces": "count", "pcs": "count", "amount": "count", "no of": "count", "number of": "count", "how many": "count",
	"pack": "count", "weight": "mass", "wt": "mass", "mass": "mass", "each": "mass", "long": "length", "l": "length",
	"width": "breadth", "wide": "breadth", "w": "breadth", "b": "breadth", "depth": "height", "d": "height", "h": "height",
	"high": "height", "thickness": "height", "dimensions": "size", "dims": "size", "l x w x h": "size", "lxwxh": "size",
	"measurements": "size", "whose": "owner", "belongs to": "owner", "person": "owner", "location": "place", "where": "place",
	"stored": "place", "stowed": "place", "stowage": "place", "compartment": "place", "spot": "place", "category": "tags",
	"categories": "tags", "tag": "tags", "type": "tags", "kind": "tags", "technique": "tags", "also called": "nickname",
	"expires": "expires_on", "expiry": "expires_on", "expiry date": "expires_on", "best before": "expires_on",
	"use by": "expires_on", "serial number": "serial", "serial no": "serial", "sn": "serial", "price": "cost", "value": "cost",
	"dry": "needs_dry", "keep dry": "needs_dry", "state": "condition"}

// headingUnits are units that a heading may end in.
var headingUnits = []string{"kg", "lb", "lbs", "g", "oz", "cm", "mm", "m", "in", "inches", "inch", "ft", "kilos", "pounds",
	"grams"}

// columnSaid finds what a heading says that its column is; empty where it says
// nothing that is known.
func columnSaid(heading string) string {
	if h := strings.ToLower(strings.TrimSpace(heading)); isColumn(h) && h != LeftOut {
		return h
	}
	words := find.Words(heading)
	unit := ""
	if n := len(words); n > 0 && slices.Contains(headingUnits, words[n-1]) {
		unit, words = words[n-1], words[:n-1]
		unit = map[string]string{"lbs": "lb", "pounds": "lb", "grams": "g", "kilos": "kg", "inches": "in", "inch": "in"}[unit]
		if unit == "" {
			unit = find.Words(heading)[n-1]
		}
	}
	words = slices.DeleteFunc(words, func(w string) bool {
		return slices.Contains([]string{"the", "of", "one", "in", "stowed", "name"}, w) && len(words) > 1
	})
	base := strings.Join(words, " ")
	column := said[base]
	if column == "" && isColumn(strings.ReplaceAll(base, " ", "_")) {
		column = strings.ReplaceAll(base, " ", "_")
	}
	mass := slices.Contains([]string{"kg", "lb", "g", "oz"}, unit)
	switch {
	case (column == "mass" || base == "") && mass:
		return unit
	case slices.Contains([]string{"length", "breadth", "height"}, column) && unit != "" && !mass:
		return column + "_" + unit
	case unit != "" && column != "size" && column != "mass":
		return ""
	}
	return column
}

// headings says what each column of a table is: what was chosen now before what
// the crew chose another time, and that before what the heading says.
func headings(t table.Table, chosen, remembered map[string]string) []Heading {
	list := []Heading{}
	taken := map[string]bool{}
	for _, h := range t.Headings {
		if h == "" {
			continue
		}
		one := Heading{Heading: h, How: "unknown"}
		key := strings.ToLower(h)
		for _, way := range []struct{ column, how string }{{chosen[key], "chosen"}, {remembered[key], "remembered"},
			{columnSaid(h), "read"}} {
			if way.column != "" && (way.column == LeftOut || !taken[way.column]) {
				one.Column, one.How = way.column, way.how
				break
			}
		}
		if one.How == "read" && one.Column == key {
			one.How = "same"
		}
		taken[one.Column] = true
		for _, r := range t.Rows {
			if one.Sample = r.Cells[h]; strings.TrimSpace(one.Sample) != "" {
				break
			}
		}
		if r := []rune(one.Sample); len(r) > 40 {
			one.Sample = string(r[:40]) + "…"
		}
		list = append(list, one)
	}
	return list
}

// inColumns gives the rows with their cells under columns in place of headings.
func inColumns(t table.Table, list []Heading) []table.Row {
	rows := make([]table.Row, len(t.Rows))
	for i, r := range t.Rows {
		rows[i] = table.Row{Line: r.Line, Cells: make(map[string]string, len(list))}
		for _, h := range list {
			if text, has := r.Cells[h.Heading]; has && h.Column != "" && h.Column != LeftOut {
				rows[i].Cells[h.Column] = text
			}
		}
	}
	return rows
}

// unsettled refuses an import while nobody has said what a column is.
func unsettled(list []Heading) error {
	for _, h := range list {
		if h.Column == "" {
			return &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf(
				"Nobody has said what the column %q is: choose what it is, or leave it out.", h.Heading)}
		}
	}
	return nil
}

// Bounds of what is remembered of headings.
const (
	maxRemembered = 200
	maxChosen     = 16_000 // bytes
)

// ReadChoices reads what a person chose for the headings of a table, as a JSON
// object of columns by heading.
func ReadChoices(text string) (map[string]string, error) {
	chosen := map[string]string{}
	if text == "" {
		return chosen, nil
	}
	given := map[string]string{}
	if len(text) > maxChosen || json.Unmarshal([]byte(text), &given) != nil {
		return nil, &refuse.Error{Kind: refuse.Invalid, Sentence: "The choice of columns can't be read: it must be an object of columns by heading."}
	}
	for heading, column := range given {
		if !isColumn(column) {
			return nil, &refuse.Error{Kind: refuse.Invalid, Sentence: fmt.Sprintf("%q is no column of the list.", column)}
		}
		chosen[strings.ToLower(heading)] = column
	}
	return chosen, nil
}

// remembered are the columns that the crew chose for headings.
func remembered(tx *store.Tx) (map[string]string, error) {
	var crew model.Crew
	if err := store.One(tx, &crew, ""); err != nil {
		return nil, kernel.Absent(err, "crew")
	}
	return crew.Headings, nil
}

// remember keeps what was chosen; the oldest choices are not told from the newest,
// so where there are too many none is added.
func remember(tx *store.Tx, was map[string]string, list []Heading) error {
	now := maps.Clone(was)
	if now == nil {
		now = map[string]string{}
	}
	for _, h := range list {
		if h.How == "chosen" {
			now[strings.ToLower(h.Heading)] = h.Column
		}
	}
	if maps.Equal(now, was) || len(now) > maxRemembered {
		return nil
	}
	return store.Set[model.Crew](tx, map[string]any{"headings": model.Headings(now)}, "true")
}
