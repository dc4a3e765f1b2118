package calc

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// bySchema runs an engine and checks its answer against the schema that it gives.
func bySchema(t *testing.T, engine, in string, into any) {
	text, err := Run(engine, strings.NewReader(in))
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(string(text)))
	require.NoError(t, err)
	schema, err := compile(engine + ".out.schema.json")
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc))
	require.NoError(t, json.Unmarshal(text, into))
}

const twoPlaces = `{"places": [{"id": "a", "size_m": [0.5,0.4,0.3], "max_kg": 10, "dry": true, "at_m": [1,0.5,0.3]},
	{"id": "b", "size_m": [0.6,0.4,0.3], "max_kg": 12, "at_m": [3,-0.5,0.3]}],
	"items": [{"id": "x", "size_m": [0.3,0.2,0.2], "kg": 3, "count": 2, "uses_per_day": 5}, {"id": "y", "size_m": [0.4,0.3,0.2], "kg": 8, "needs_dry": true},
	{"id": "z", "size_m": [0.7,0.1,0.1], "kg": 1}, {"id": "w", "kg": 7, "needs_dry": true}]}`

func TestStowAnswersByItsSchema(t *testing.T) {
	var out stowOut
	bySchema(t, "stow", twoPlaces, &out)
	at := map[string][]string{}
	for _, p := range out.Placed {
		at[p.Item] = append(at[p.Item], p.Place)
		require.NotNil(t, p.At)
	}
	assert.Equal(t, map[string][]string{"x": {"b", "b"}, "y": {"a"}}, at)
	require.Len(t, out.Unplaced, 2)
	assert.Equal(t, stowUnplacedOut{Item: "z", Reason: "No place takes z: 2 places are too small for it."},
		out.Unplaced[0])
	assert.Contains(t, out.Clash, "z is too large for some places")
	assert.LessOrEqual(t, out.LowerBound, out.Cost)
}

func TestStowTakesCostsGroupsAndLimits(t *testing.T) {
	in := `{"places": [{"id": "p", "max_kg": 5, "at_m": [1,1,0]}, {"id": "s", "max_kg": 5, "at_m": [1,-1,0]}],
		"items": [{"id": "a", "kg": 2, "cost_s_by_place": {"p": 1, "s": 4}}, {"id": "b", "kg": 2, "cost_s_by_place": {"p": 1, "s": 2}}],
		"groups": [{"id": "g", "items": ["a", "b"], "split_cost_s": 10}]`
	var out stowOut
	bySchema(t, "stow", in+`}`, &out)
	assert.InDelta(t, 2, out.Cost, 1e-9)
	assert.Equal(t, "proved", out.StoppedBy)
	bySchema(t, "stow", in+`, "limits": {"heel_moment_kg_m": 1}}`, &out)
	assert.InDelta(t, 13, out.Cost, 1e-9, "level, one to either side: 1 + 2 and the split")
	assert.True(t, out.Within)
	bySchema(t, "stow", in+`, "limits": {"heel_moment_kg_m": 1}, "options": {"time_ms": 0}}`, &out)
	assert.NotEqual(t, "steps", out.StoppedBy)
}

func TestAForbiddenPlaceIsNotUsedAndAReservedOneIsKept(t *testing.T) {
	var out stowOut
	bySchema(t, "stow", `{"places": [{"id": "p", "reserved_for": "b"}, {"id": "q", "max_kg": 0}], "items": [{"id": "a", "kg": 2}, {"id": "b", "kg": 1}, {"id": "c", "kg": 1, "cost_s_by_place": {}}]}`, &out)
	require.Len(t, out.Placed, 1)
	assert.Equal(t, "b", out.Placed[0].Item)
	assert.Nil(t, out.Placed[0].At, "without a size it has no corner")
	assert.Contains(t, out.Unplaced[0].Reason, "1 place is kept for other things")
	assert.Contains(t, out.Unplaced[0].Reason, "1 place can't carry it")
	assert.Contains(t, out.Unplaced[1].Reason, "1 place is forbidden")
}

func TestStowNamesWhatIsWrong(t *testing.T) {
	for in, says := range map[string]string{
		`{"places": [{"id": "p"}, {"id": "p"}], "items": []}`:                                                         "places[1].id is \"p\": must not be there twice",
		`{"places": [{"id": "p"}], "items": [{"id": "a", "kg": 1, "pinned_to": "x"}]}`:                                "items[0].pinned_to is \"x\": must be the id of a place",
		`{"places": [{"id": "p"}], "items": [{"id": "a", "kg": 1, "cost_s_by_place": {"x": 1}}]}`:                     "must be ids of places",
		`{"places": [{"id": "p"}], "items": [], "groups": [{"id": "g", "items": ["x"], "split_cost_s": 1}]}`:          "groups[0].items is \"x\"",
		`{"places": [{"id": "p"}], "items": [], "limits": {"trim_moment_kg_m": [2, 1]}}`:                              "must be the least, then the most",
		`{"places": [{"id": "p", "size_m": [1, 1]}], "items": []}`:                                                    "places[0].size_m",
		`{"places": [{"id": "p"}], "items": [{"id": "a", "kg": 1, "count": 4000}, {"id": "b", "kg": 1, "count": 1}]}`: "must be at most 4000 pieces in all",
	} {
		_, err := Run("stow", strings.NewReader(in))
		assert.ErrorContains(t, err, says)
	}
}

const launch = `{"half_breadth_xy_m": [[0,1],[5,1]], "posts": [{"name": "helm", "at_m": [1,0,0.3]}],
	"places": [{"id": "locker", "corner_m": [3,-0.3,0.3], "size_m": [0.5,0.6,0.4], "lid": "hinged"}, {"id": "tray", "inside": "locker", "corner_m": [3,-0.3,0.5], "size_m": [0.3,0.3,0.1]},
	{"id": "mast", "corner_m": [9,0,3], "size_m": [0.2,0.2,0.2]}],
	"items": [{"id": "pliers", "place": "locker", "post": "helm", "uses_per_day": 30, "others": 2}, {"id": "flag", "place": "mast", "post": "helm", "uses_per_day": 1}]}`

func TestReachAnswersByItsSchema(t *testing.T) {
	var out reachOut
	bySchema(t, "reach", launch, &out)
	require.Len(t, out.Ways, 3)
	assert.InDelta(t, *out.Ways[0].Seconds, *out.Ways[1].Seconds, 1e-9, "the tray is open, in the locker")
	assert.Nil(t, out.Ways[2].Seconds)
	require.NotNil(t, out.Items[0].Minutes)
	assert.InDelta(t, *out.Items[0].Minutes, out.Rummage, 1e-9, "what is out of reach is not counted")
	quick := out.Rummage
	bySchema(t, "reach", strings.Replace(launch, `"half_breadth`, `"times": {"look_s": 0}, "half_breadth`, 1), &out)
	assert.InDelta(t, quick-30*2*0.5/60, out.Rummage, 1e-9)
}

func TestReachNamesWhatIsWrong(t *testing.T) {
	for was, is := range map[string][2]string{
		`"inside": "locker"`:               {`"inside": "nowhere"`, "places[1].inside is \"nowhere\""},
		`"place": "mast"`:                  {`"place": "x"`, "items[1].place is \"x\""},
		`[[0,1],[5,1]]`:                    {`[[5,1],[0,1]]`, "must go from aft to forward"},
		`"id": "tray", "inside": "locker"`: {`"id": "locker"`, "places[1].id is \"locker\""},
	} {
		_, err := Run("reach", strings.NewReader(strings.Replace(launch, was, is[0], 1)))
		assert.ErrorContains(t, err, is[1])
	}
}
