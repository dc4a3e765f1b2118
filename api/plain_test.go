package api

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// machine is what only a program would say: keys with underscores, indexes,
// braces, and leftovers of formatting.
var machine = regexp.MustCompile(`%!|\w_\w|\[\d*\]|[{}]|\b(null|array|uuid|UUID|body|json|JSON schema)\b`)

func TestNoFieldPathReachesAPerson(t *testing.T) {
	s := newSite(t, true)
	v := s.as("Ilse")
	boat, _ := v.bench()
	crew, _, found := strings.Cut(boat, "/boats/")
	require.True(t, found)
	for name, c := range map[string]struct{ method, path, body, want string }{
		"no choices": {"POST", crew + "/kits",
			`{"name":"x","sort":"use","lines":[{"what":"a","amount":1,"per":"boat","nice":false,"choices":[]}]}`,
			"Line 1, choices: give at least 1."},
		"a word that is none": {"PUT", crew + "/settings", `{"units":"furlongs","theme":"paper"}`,
			"Units is furlongs: must be one of metric, us."},
		"an id that is none": {"POST", boat + "/moves", `{"gear_id":"nope","version":1}`, "Gear is nope: must be an id."},
		"nothing that moves": {"POST", boat + "/moves", `{"version":1}`, "Gear: name one thing or one person that moves."},
		"two spots": {"POST", boat + "/moves", `{"gear_id":"01a2186c-3812-77e5-afc5-ec26f0240000","version":1,
			"place_id":"01a2186c-3812-77e5-afc5-ec26f0240001","shed_id":"01a2186c-3812-77e5-afc5-ec26f0240001"}`,
			"Place: name one spot: a place, a box, a place ashore or a person."},
		"text for a number": {"POST", crew + "/gear", `{"name":"a","kg":"heavy","size_m":[1,1,1],"mass_known":"guess",
			"count":1,"turn":"any","needs_dry":false}`, "Mass is heavy: must be a number."},
		"half a size": {"POST", crew + "/gear", `{"name":"a","kg":1,"size_m":[1,1],"mass_known":"guess",
			"count":1,"turn":"any","needs_dry":false}`, "Size: give at least 3."},
		"a long page": {"GET", crew + "/gear?limit=99999", "", "Limit is 99999: must be at most 200."},
		"no crew":     {"GET", "/api/crews/not-a-crew/gear", "", "There is nothing at this address: it was copied in part, or is mistyped."},
		"half a body": {"POST", crew + "/gear", `{"name": `, ""},
		"another day": {"POST", crew + "/trips", `{"name":"t","water":"","starts_on":"2026-13-45","ends_on":"2026-12-01",
			"persons":1,"rods":1,"hours":1}`, ""},
	} {
		var body any
		if c.body != "" {
			body = c.body
		}
		_, text := v.send(c.method, c.path, body)
		p := problemOf(t, text)
		said := []string{p.Detail}
		for _, e := range p.Errors {
			said = append(said, e.Message)
		}
		for _, sentence := range said {
			assert.NotRegexp(t, machine, sentence, name)
		}
		if c.want != "" {
			assert.Contains(t, said, c.want, name)
		}
	}
}
