package calc

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const carriageInput = `{"boat":{"length_m":5.4,"propulsion":"outboard","power_kw":44,"closed_spaces":true,"built":2020},
"trip":{"country":"US","water":"coastal","night":false,"last_day":"2027-05-01","use":"private","persons":[{"name":"a","kg":80}]},
"aboard":[{"id":"j1","class":"lifejacket","fits_kg":[40,120]},{"id":"t","class":"throwable","seconds":3},
{"id":"e","class":"extinguisher 5-B","seconds":14},{"id":"f","class":"flare day and night","count":3,"expires_on":"2027-04-30"}],
"packs":["us-federal"]}`

func TestCarriageGivesARowForEachThing(t *testing.T) {
	text, err := Run("carriage", strings.NewReader(carriageInput))
	require.NoError(t, err)
	var out carriageOut
	require.NoError(t, json.Unmarshal(text, &out))
	status := map[string]string{}
	for _, r := range out.Rows {
		status[r.What] = r.Status
	}
	assert.Equal(t, map[string]string{"wearable lifejackets": "met", "lifejackets worn by children": "not_asked",
		"throwable device": "met", "fire extinguisher": "slow", "visual distress signals": "expired", "sound signal": "short",
		"engine stop cord": "short", "navigation lights": "not_asked"}, status)
	assert.Equal(t, "The law where you are decides.", out.Law)
}

func TestCarriageRefusesWhatItCantHold(t *testing.T) {
	for change, says := range map[[2]string]string{
		{`"2027-05-01"`, `"soon"`}:                                 "trip.last_day is \"soon\": must be a date",
		{`["us-federal"]`, `["moon"]`}:                             `packs is "moon": must be a pack that is there`,
		{`"class":"throwable"`, `"class":"ring of fire"`}:          "aboard[1].class",
		{`"id":"t"`, `"id":"j1"`}:                                  "aboard[1].id is \"j1\": must be an id of its own",
		{`[40,120]`, `[120,40]`}:                                   "aboard[0].fits_kg",
		{`"length_m":5.4`, `"length_m":-1`}:                        "boat.length_m",
		{`["us-federal"]`, `["us-federal"],"own_packs":[{"a":1}]`}: "own_packs[0].pack.a: is no field of a pack",
		{`["us-federal"]`, `["x"],"own_packs":[{"name":"x","title":"X","inherits":["x"],"rules":[]}]`}: "goes in a circle (x → x)",
		{`["us-federal"]`, `["x"],"own_packs":[{"name":"night","title":"X","rules":[]}]`}:              "is the name of another pack",
	} {
		in := strings.Replace(carriageInput, change[0], change[1], 1)
		require.NotEqual(t, carriageInput, in)
		_, err := Run("carriage", strings.NewReader(in))
		require.Error(t, err)
		assert.Contains(t, err.Error(), says)
	}
}

func TestACrewsOwnPackIsHeldWithTheOthers(t *testing.T) {
	own := `["us-federal","ours"],"own_packs":[{"name":"ours","title":"Ours","rules":[{"id":"horn","what":"sound signal",
		"need":[{"class":["horn"],"count":2}],"source":"our skipper"}]}]`
	text, err := Run("carriage", strings.NewReader(strings.Replace(strings.Replace(carriageInput, `["us-federal"]`, own, 1),
		`{"id":"t"`, `{"id":"h","class":"horn"},{"id":"t"`, 1)))
	require.NoError(t, err)
	var out carriageOut
	require.NoError(t, json.Unmarshal(text, &out))
	for _, r := range out.Rows {
		if r.What == "sound signal" {
			assert.Equal(t, "short", r.Status)
			assert.Equal(t, "ours", r.Pack)
			assert.Equal(t, []string{"us-federal"}, r.Also)
		}
	}
}
