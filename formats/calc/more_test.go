package calc

import (
	"bytes"
	"encoding/json"
	"math"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func with(in, more string) string {
	return strings.Replace(in, `"gz_heel_deg"`, more+`, "gz_heel_deg"`, 1)
}

// The box of the contract: GM 1.54 m, notch 0.32 m over water on the centreline.
func TestFloatGivesCurvesBandsWindAndReadings(t *testing.T) {
	in := with(boxIn, `"curve": {"to_deg": 60, "steps": 12}, "wind": {"speed_m_s": 10, "sails": [{"area_m2": 2, "z_m": 1.2}]},
		"swamped": {"hull_kg": 300, "hull_cg_m": [2.5,0,0.3], "skin_density_kg_m3": 2660, "foam_m": [[[0,-1,0.3],[5,1,0.7]]],
			"things": [{"kg": 45, "density_kg_m3": 5000, "at_m": [0.2,0,0.5], "size_m": [0.3,0.3,0.6]}]},
		"readings": {"step_m": 0.005, "points": [{"at_m": [0,1,0.7], "freeboard_m": 0.50}, {"at_m": [0,-1,0.7], "freeboard_m": 0.50},
			{"at_m": [5,1,0.7], "freeboard_m": 0.52}, {"at_m": [5,-1,0.7], "freeboard_m": 0.52}]}`)
	out := run(t, in)
	require.NotNil(t, out.Bands)
	assert.InDelta(t, 50, out.Bands.Displacement, 1e-9)
	assert.InDelta(t, 50/1025.0/10, out.Bands.Lowest, 1e-4, "50 kg over 10 m² of waterplane")
	require.Len(t, out.Curves, 2)
	assert.Equal(t, "starboard", out.Curves[0].Side)
	assert.Len(t, out.Curves[0].Levers, 13)
	assert.InDelta(t, -*out.Curves[0].Levers[6].GZ, *out.Curves[1].Levers[6].GZ, 1e-6, "to port it is the mirror")
	require.NotNil(t, out.Wind)
	assert.Greater(t, *out.Wind.Heel, 0.3)
	require.NotNil(t, out.Swamped)
	assert.True(t, out.Swamped.Floats)
	require.NotNil(t, out.Found)
	// 10 mm deeper all over is 102.5 kg; the trim says that it lies aft of the middle.
	assert.InDelta(t, 102.5, out.Found.More, 0.1)
	assert.Less(t, out.Found.At[0], 2.5)
}

func TestASpaceFloodsAndABilgeIsPartOfTheHull(t *testing.T) {
	in := strings.Replace(boxIn, `"at_m": [0,0,0.5]}]`, `"at_m": [0,0,0.15], "space": "well"}],
		"spaces": [{"name": "well", "box_m": [[0,-1,0.1],[1,1,1]]}]`, 1)
	out := run(t, in)
	require.Len(t, out.Awash, 1)
	assert.Equal(t, "well", out.Awash[0].Space)
	assert.EqualValues(t, "afloat", out.Status)
	bilge := run(t, with(boxIn, `"tanks": [{"name": "bilge", "in_hull_m": [[1,-1,0],[4,1,0.1]], "fill": 0.5, "density_kg_m3": 1025}]`))
	assert.InDelta(t, 1845+3*2*0.05*1025, bilge.Displacement, 1e-6)
	_, err := Run("float", strings.NewReader(with(boxIn, `"tanks": [{"fill": 0.5, "density_kg_m3": 1025}]`)))
	assert.ErrorContains(t, err, "tanks[0]: give size_m and corner_m, or in_hull_m")
	_, err = Run("float", strings.NewReader(with(boxIn, `"tanks": [{"in_hull_m": [[8,0,0],[9,1,1]], "fill": 0.5, "density_kg_m3": 1025}]`)))
	assert.ErrorContains(t, err, "holds nothing")
}

func TestCapacityAnswersByItsSchema(t *testing.T) {
	in := `{"water": {"density_kg_m3": 1000}, "hull": {"stations": [{"x_m": 0, "half_section_yz_m": [[0,0],[0.9,0],[0.9,0.5]]},
		{"x_m": 4.5, "half_section_yz_m": [[0,0],[0.9,0],[0.9,0.5]]}], "flood_points": [{"name": "notch", "at_m": [0,0,0.4]}]},
		"masses": [{"kg": 150, "at_m": [2.25,0,0.2]}, {"kg": 60, "at_m": [2.25,0,0.2]}],
		"boat_kg": 150, "motor_kg": 60, "propulsion": "outboard", "flat_bottom": true, "transom_beam_m": 1.8, "edge_m": [2.25,0.8,0.3]}`
	text, err := Run("capacity", strings.NewReader(in))
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(string(text)))
	require.NoError(t, err)
	schema, err := compile("capacity.out.schema.json")
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc))
	var out capacityOut
	require.NoError(t, json.Unmarshal(text, &out))
	assert.Equal(t, 8, *out.Persons) // by hand, in core/capacity
	assert.Equal(t, 30.0, *out.Power)
	assert.InDelta(t, 3239, math.Round(*out.Maximum), 1e-9)

	refused, err := Run("capacity", strings.NewReader(strings.Replace(in, `"boat_kg"`, `"kind": "inflatable", "boat_kg"`, 1)))
	require.NoError(t, err)
	assert.Contains(t, string(refused), `"applies": false`)
	_, err = Run("capacity", strings.NewReader(strings.Replace(in, `"outboard"`, `"oars"`, 1)))
	assert.ErrorContains(t, err, "propulsion")
}

func TestFuelInAndOut(t *testing.T) {
	const in = `{"legs": [{"km": 50, "speed_kmh": 25}, {"km": 0, "speed_kmh": 40}], "rates": [{"speed_kmh": 10, "l_per_h": 10},
		{"speed_kmh": 40, "l_per_h": 30}], "tanks": [{"id": "main", "capacity_l": 60, "now_l": 30, "unusable_l": 2},
		{"id": "can", "capacity_l": 20, "now_l": 0, "portable": true}], "school": "thirds", "price_per_l": 2}`
	text, err := Run("fuel", strings.NewReader(in))
	require.NoError(t, err)
	schema, err := compile("fuel.out.schema.json")
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc))
	var out fuelOut
	require.NoError(t, json.Unmarshal(text, &out))
	assert.InDelta(t, 40, out.Burn, 1e-9) // by hand, in core/fuel
	assert.InDelta(t, 62, out.Need, 1e-9)
	assert.InDelta(t, 64, *out.Cost, 1e-9)
	assert.InDelta(t, 54/0.75, out.Range, 1e-9, "at 40 km/h")
	_, err = Run("fuel", strings.NewReader(strings.Replace(in, `"speed_kmh": 25`, `"speed_kmh": 45`, 1)))
	assert.ErrorContains(t, err, "legs[0].speed_kmh")
	assert.ErrorContains(t, err, "from 10 to 40 km/h")
	_, err = Run("fuel", strings.NewReader(strings.Replace(in, `"thirds"`, `"hope"`, 1)))
	assert.ErrorContains(t, err, "school")
}

// The box of the contract through a morning: alone, with 102.5 kg aboard (10 mm deeper
// over 10 m²), and with more than she carries.
func TestADayIsARowAPhaseAndTheWorst(t *testing.T) {
	const box = `"hull": {"stations": [{"x_m": 0, "half_section_yz_m": [[0,0],[1,0],[1,0.7]]}, {"x_m": 5, "half_section_yz_m": [[0,0],[1,0],[1,0.7]]}],
		"flood_points": [{"name": "notch", "at_m": [0,0,0.5]}]}`
	in := `{` + box + `, "masses": [{"kg": 1845, "at_m": [2.5,0,0.4]}], "phases": [{"name": "launch", "h": 0.5},
		{"name": "fish", "h": 4, "masses": [{"kg": 102.5, "at_m": [2.5,0,0.4]}], "gz_heel_deg": [5]}, {"name": "home", "h": 1}]}`
	text, err := Run("day", strings.NewReader(in))
	require.NoError(t, err)
	schema, err := compile("day.out.schema.json")
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc))
	var out dayOut
	require.NoError(t, json.Unmarshal(text, &out))
	require.Len(t, out.Phases, 3)
	assert.InDelta(t, 0.32, out.Phases[0].Lowest.M, 1e-9)
	assert.InDelta(t, 0.31, out.Phases[1].Lowest.M, 1e-9)
	assert.InDelta(t, 4.5, out.Phases[2].From, 1e-9)
	assert.Len(t, out.Phases[1].GZ, 1)
	assert.Equal(t, "fish", out.Worst.Name)
	assert.InDelta(t, 0.31, out.Worst.Lowest.M, 1e-9)

	text, err = Run("day", strings.NewReader(strings.Replace(in, "102.5", "9000", 1)))
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &out))
	assert.Equal(t, "fish", out.Worst.Name)
	assert.EqualValues(t, "swamped", out.Worst.Status)

	_, err = Run("day", strings.NewReader(strings.Replace(in, `"kg": 102.5, `, ``, 1)))
	assert.ErrorContains(t, err, "phases[1].masses[0]")
	_, err = Run("day", strings.NewReader(strings.Replace(in, `"h": 4`, `"h": -4`, 1)))
	assert.ErrorContains(t, err, "phases[1].h")
	_, err = Run("day", strings.NewReader(`{"phases": [{"name": "launch", "h": 1}]}`))
	assert.ErrorContains(t, err, "phases[0].hull")
}
