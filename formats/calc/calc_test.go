package calc

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"ergasia/core/check"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A box 5 x 2 m of 1845 kg draws 0.18 m in water of 1025 kg/m³.
const boxIn = `{"water": {"density_kg_m3": 1025},
 "hull": {"stations": [{"x_m": 0, "half_section_yz_m": [[0,0],[1,0],[1,0.7]]}, {"x_m": 5, "half_section_yz_m": [[0,0],[1,0],[1,0.7]]}],
          "flood_points": [{"name": "notch", "at_m": [0,0,0.5]}]},
 "masses": [{"name": "hull", "kg": 1800, "at_m": [2.5,0,0.4], "sigma_kg": 30}, {"kg": 45, "at_m": [2.5,0,0.4], "sigma_kg": 40}],
 "gz_heel_deg": [0, 5]}`

func run(t *testing.T, in string) floatOut {
	text, err := Run("float", strings.NewReader(in))
	require.NoError(t, err)
	var out floatOut
	require.NoError(t, json.Unmarshal(text, &out))
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(string(text)))
	require.NoError(t, err)
	schema, err := compile("float.out.schema.json")
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc), "the output is as its schema says")
	return out
}

func TestFloatAnswersByTheContract(t *testing.T) {
	out := run(t, boxIn)
	assert.EqualValues(t, "afloat", out.Status)
	assert.InDelta(t, 1845, out.Displacement, 1e-9)
	assert.InDelta(t, 50, out.Sigma, 1e-9)
	assert.InEpsilon(t, 0.18, *out.DraftAft, 1e-9)
	assert.InEpsilon(t, 0.18, *out.DraftFwd, 1e-9)
	assert.InEpsilon(t, 4.0/12/0.18+0.09-0.4, *out.GMT, 1e-9)
	assert.Equal(t, "notch", out.Freeboards[0].Name)
	assert.InEpsilon(t, 0.32, out.Freeboards[0].M, 1e-9)
	assert.Len(t, out.GZ, 2)
	assert.InDelta(t, 0, *out.GZ[0].GZ, 1e-12)
}

func TestAShipThatSinksHasNullFigures(t *testing.T) {
	out := run(t, strings.Replace(boxIn, `"kg": 1800`, `"kg": 18000`, 1))
	assert.EqualValues(t, "swamped", out.Status)
	assert.Nil(t, out.DraftAft)
	assert.Nil(t, out.GZ)
	assert.NotEmpty(t, out.Why)
}

func TestATankIsPartOfTheDisplacement(t *testing.T) {
	tank := `"tanks": [{"name": "livewell", "size_m": [0.6,0.5,0.4], "corner_m": [2.2,-0.25,0.1], "fill": 0.5, "density_kg_m3": 1000}], "gz`
	out := run(t, strings.Replace(boxIn, `"gz`, tank, 1))
	assert.InDelta(t, 1905, out.Displacement, 1e-9)
	assert.InEpsilon(t, 1000*0.6*0.125/12/1905, *out.FreeSurface, 1e-9)
}

func TestEveryFaultOfAnInputIsALine(t *testing.T) {
	for change, want := range map[[2]string][]string{
		{`"x_m": 5`, `"x_m": "five"`}:                             {"hull.stations[1].x_m: got string, want number"},
		{`"x_m": 5`, `"x_m": 0`}:                                  {"hull.stations[1].x_m is 0: must be forward"},
		{`"kg": 1800`, `"kg": -3`}:                                {"masses[0].kg: minimum: got -3, want 0"},
		{`"kg": 1800, "at_m": [2.5,0,0.4]`, `"kg": "x"`}:          {"masses[0]: missing property 'at_m'", "masses[0].kg: got string"},
		{`"gz_heel_deg"`, `"gz_heel"`}:                            {"additional properties 'gz_heel' not allowed"},
		{`[2.5,0,0.4]`, `[1e400,0,0.4]`}:                          {"masses[0].at_m[0] is"},
		{`[[0,0],[1,0],[1,0.7]]}]`, `[[0,0],[1,0]]}]`}:            {"same number of points"},
		{`{"water"`, `["water"`}:                                  {"must be one JSON object"},
		{`[[0,0],[1,0],[1,0.7]]}, `, `[[0,0],[-1,0],[1,0.7]]}, `}: {"half_section_yz_m[1][0] is -1"},
	} {
		require.Contains(t, boxIn, change[0])
		_, err := Run("float", strings.NewReader(strings.Replace(boxIn, change[0], change[1], 1)))
		var faults check.Faults
		require.True(t, errors.As(err, &faults), "%s: %v", change[1], err)
		for _, w := range want {
			assert.ErrorContains(t, err, w)
		}
		assert.Len(t, strings.Split(err.Error(), "\n"), len(faults), "a line for each fault")
	}
}

func TestUnknownEnginesAndSchemasAreNamed(t *testing.T) {
	_, err := Run("sink", strings.NewReader("{}"))
	assert.ErrorContains(t, err, `no engine "sink"`)
	_, err = Schema("float", "sideways")
	assert.ErrorContains(t, err, "must be in or out")
	for _, way := range []string{"in", "out"} {
		text, err := Schema("float", way)
		require.NoError(t, err)
		assert.True(t, json.Valid(text))
	}
}

func TestNumbersOutOfAllBoundsAreNamed(t *testing.T) {
	for _, n := range []string{"1e-10000000", "1e400", "-1e10000000", "1e-400"} {
		_, err := Run("stow", strings.NewReader(`{"places":[{"id":"a"}],"items":[{"id":"i","kg":`+n+`}]}`))
		var fs check.Faults
		require.ErrorAs(t, err, &fs, n)
		assert.Contains(t, fs.Error(), "items[0].kg is")
	}
}
