package rulepacks

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"ergasia/core/carriage"
	"ergasia/core/due"
	"ergasia/core/words"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheSchemaAndTheReaderAgree(t *testing.T) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema()))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("pack", doc))
	schema, err := c.Compile("pack")
	require.NoError(t, err)
	names := []string{"us-federal", "prudent-coastal", "prudent-offshore", "tournament", "guiding", "night", "guests"}
	assert.Len(t, Shipped(), len(names))
	for _, name := range names {
		text, err := files.ReadFile(name + ".pack.json")
		require.NoError(t, err)
		pack, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		require.NoError(t, err)
		assert.NoError(t, schema.Validate(pack), name)
		_, err = Shipped().Rules(name)
		assert.NoError(t, err, name)
	}
	for _, class := range words.SafetyClasses.Keys() {
		assert.Contains(t, string(Schema()), `"`+class+`"`)
	}
	for _, broken := range []string{`{"name": "p", "title": "P", "rules": [{"id": "a"}]}`,
		`{"name": "P!", "title": "P", "rules": []}`,
		`{"name": "p", "title": "P", "rules": [{"id":"a","what":"w","source":"s","need":[{"class":["x"]}]}]}`} {
		pack, err := jsonschema.UnmarshalJSON(strings.NewReader(broken))
		require.NoError(t, err)
		assert.Error(t, schema.Validate(pack))
		_, err = Read([]byte(broken))
		assert.Error(t, err)
	}
}

func TestABrokenFileIsRefusedByItsRow(t *testing.T) {
	row := `{"id":"a","what":"w","source":"s","need":[{"class":["horn"]}]}`
	pack := func(second string) string {
		return "{\"name\": \"p\", \"title\": \"P\", \"rules\": [\n" + row + ",\n" + second + "\n]}"
	}
	for text, says := range map[string]string{
		pack(`{"id":"b","wath":"w","source":"s","need":[]}`):                               "rules[1].wath: is no field of a pack",
		pack(`{"id":"b","what":3,"source":"s","need":[]}`):                                 "rules[1].what is \"number\": must be text in quotation marks",
		pack(`{"id":"b","what":"w","source":"s","need":[{"class":"horn"}]}`):               "must be a list in square brackets",
		pack(`{"id":"b","what":"w","source":"s","need":[{"class":["horn"],"count":"2"}]}`): "rules[1].count is \"string\": must be a number",
		pack(`{"id":"b" "what":"w"}`):                                                      "rules[1]: is no JSON in line 3",
		``:                                                                                 "is no JSON",
		`{"name":"p"`:                                                                      "is no JSON",
		pack(row) + `{}`:                                                                   "nothing after it",
		pack(row):                                                                          `is the id of rule 1 too`,
		strings.Repeat(" ", MaxBytes+1):                                                    "must be at most",
	} {
		_, err := Read([]byte(text))
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), says)
		assert.Less(t, len(err.Error()), 600)
	}
}

// what meets each line of a rule, for these people.
func stock(lines []carriage.Line, persons int) (list []carriage.Item) {
	for i, l := range lines {
		n := max(l.Count, 1)
		if l.Per == "person" {
			n = n*persons + l.Spare
		}
		it := carriage.Item{ID: string(rune('a' + i)), Class: l.Class[0], Count: n, Fits: &[2]float64{10, 200}}
		if l.Inside != "" {
			it.Inside = []string{l.Inside}
		}
		list = append(list, it)
	}
	return list
}

// suits is a boat and a trip to which a rule applies.
func suits(w carriage.When) (carriage.Boat, carriage.Trip) {
	number := func(r *carriage.Range, usual float64) float64 {
		switch {
		case r == nil:
			return usual
		case r.From != nil:
			return *r.From
		}
		return *r.Under - 1
	}
	word := func(list []string, usual string) string {
		if len(list) > 0 {
			return list[0]
		}
		return usual
	}
	power, age := number(w.Power, 40), number(w.Ages, 40)
	b := carriage.Boat{Length: number(w.Length, 5), Power: &power, Propulsion: word(w.Propulsion, "outboard"),
		Fuel: word(w.Fuel, "petrol"), Built: int(number(w.Built, 2020)), Closed: w.Closed}
	if b.Closed == nil {
		b.Closed = new(bool)
	}
	return b, carriage.Trip{
		Country: word(w.Country, "US"),
		Water:   word(w.Water, "coastal"),
		Use:     word(w.Use, "private"),
		Night:   w.Night != nil && *w.Night,
		LastDay: 1000,
		Persons: []carriage.Person{
			{Name: "A", Kg: 80},
			{Name: "B", Kg: 40, Age: &age, Guest: w.Guests != nil && *w.Guests},
		},
	}
}

// Every shipped rule is met by what it asks for, in each of its ways, and fails with one
// thing less, with things out of date, and with things too far away where it asks that.
func TestEveryRuleIsMetAndFails(t *testing.T) {
	for name, p := range Shipped() {
		for _, r := range p.Rules {
			about := name + " " + r.ID
			b, trip := suits(r.When)
			status := func(aboard []carriage.Item) string {
				rows, err := carriage.Check(t.Context(), []carriage.Held{{Rule: r, Pack: name}}, b, trip, aboard)
				require.NoError(t, err)
				require.Len(t, rows, 1)
				return rows[0].Status
			}
			for _, way := range append([][]carriage.Line{r.Need}, r.Or...) {
				have := stock(way, len(trip.Persons))
				if len(r.Need) > 0 && r.Need[0].Ages != nil {
					have = stock(way, 1)
				}
				assert.Equal(t, carriage.Met, status(have), about)
				less := append([]carriage.Item{}, have...)
				if less[0].Count--; less[0].Count == 0 {
					less = less[1:]
				}
				assert.Equal(t, carriage.Short, status(less), about)
			}
			old, far := due.Day(999), 4000.0
			have := stock(r.Need, len(trip.Persons))
			for i := range have {
				have[i].Expires, have[i].Seconds = &old, &far
			}
			l := r.Need[0]
			switch {
			case l.InDate:
				assert.Equal(t, carriage.Expired, status(have), about)
			case l.Within > 0:
				assert.Equal(t, carriage.Slow, status(have), about)
			default:
				assert.Equal(t, carriage.Met, status(have), about)
			}
			if l.Fits {
				tiny := stock(r.Need, len(trip.Persons))
				tiny[0].Fits = &[2]float64{5, 12}
				assert.Equal(t, carriage.Size, status(tiny), about)
			}
		}
	}
}

func TestWhatIsFromMemorySaysSo(t *testing.T) {
	for name, p := range Shipped() {
		for _, r := range p.Rules {
			assert.Equal(
				t,
				strings.Contains(r.Source, "CFR") || strings.Contains(r.Source, "USC"),
				r.Memory,
				name+" "+r.ID,
			)
			if !r.Memory {
				assert.Equal(t, "practice, no source", r.Source)
			}
		}
	}
	text, err := json.Marshal(Shipped()["us-federal"])
	require.NoError(t, err)
	assert.Contains(t, string(text), "practice, no source", "seconds that no law names are marked")
}
