package calc

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// answered runs an engine, holds its answer against its schema, and reads it.
func answered[T any](t *testing.T, engine, in string) (out T) {
	t.Helper()
	text, err := Run(engine, strings.NewReader(in))
	require.NoError(t, err)
	schema, err := compile(engine + ".out.schema.json")
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	require.NoError(t, schema.Validate(doc))
	require.NoError(t, json.Unmarshal(text, &out))
	return out
}

func refused(t *testing.T, engine, in string, changes map[[2]string]string) {
	t.Helper()
	for change, says := range changes {
		bad := strings.Replace(in, change[0], change[1], 1)
		require.NotEqual(t, in, bad, change[0])
		_, err := Run(engine, strings.NewReader(bad))
		require.Error(t, err, change[1])
		assert.Contains(t, err.Error(), says)
	}
}

func TestWireInAndOut(t *testing.T) {
	const in = `{"current_a": 20, "one_way_m": 4.572, "system_v": 12, "bundle": 1}`
	out := answered[wireOut](t, "wire", in)
	// 20 A over 30 ft there and back at 3 %: 17,917 circular mils, so 6 AWG; 16 mm².
	assert.Equal(t, "6", out.AWG)
	assert.InDelta(t, 17917, out.Mils, 1)
	assert.Equal(t, "drop", out.Decided)
	assert.InDelta(t, 10, out.Metric, 1e-9)
	assert.InDelta(t, 25, out.Fuse, 1e-9)
	assert.InDelta(t, 180, out.FuseMost, 1e-9)
	hot := answered[wireOut](t, "wire", strings.Replace(in, `"bundle": 1`, `"bundle": 30, "engine_space": true, "drop": 0.1`, 1))
	assert.Equal(t, "ampacity", hot.Decided)
	assert.InDelta(t, 60*0.85*0.4, hot.Ampacity, 1e-9)
	refused(t, "wire", in, map[[2]string]string{
		{`20`, `-20`}:                         "current_a",
		{`20`, `700`}:                         "the largest is 250 A",
		{`"system_v": 12, `, ``}:              "system_v",
		{`"bundle": 1`, `"bundle": 0`}:        "bundle",
		{`"bundle": 1`, `"gauge": 3`}:         "gauge",
		{`"bundle": 1`, `"conductor_c": 150`}: "conductor_c is 150: must be from -40 to 105",
	})
}

const powerInput = `{"banks": [{"id": "house", "chemistry": "agm", "nominal_v": 12, "capacity_ah": 100, "peukert": 1},
	{"id": "motor", "chemistry": "lifepo4", "nominal_v": 24, "capacity_ah": 60, "soc": 0.5, "factor": 0.9}],
	"loads": [{"id": "sonar", "bank": "house", "w": 36}, {"id": "pump", "bank": "house", "a": 4, "duty": 0.25},
	{"id": "bow motor", "bank": "motor", "a": 20}],
	"phases": [{"name": "run", "h": 1, "on": [], "charge_a": {"motor": 10}}, {"name": "fish", "h": 6, "on": ["sonar", "pump", "bow motor"]}]}`

func TestPowerInAndOut(t *testing.T) {
	out := answered[powerOut](t, "power", powerInput)
	assert.InDelta(t, 1-6*(3+1)/100., out.Banks[0].End, 1e-9, "36 W at 12 V, and 4 A a quarter of the time")
	assert.InDelta(t, 24, out.Banks[0].Drawn, 1e-9)
	assert.Nil(t, out.Banks[0].EmptyAt)
	assert.InDelta(t, 0.5+0.98*10/54, out.Phases[0].SoC["motor"], 1e-9)
	assert.Zero(t, out.Banks[1].End)
	require.NotNil(t, out.Banks[1].EmptyAt)
	assert.Less(t, *out.Banks[1].EmptyAt, *out.Banks[1].FlatAt)
	assert.InDelta(t, 120, out.Banks[1].Drawn+out.Banks[1].Short, 1e-9)
}

func TestPowerRefusesWhatCantBe(t *testing.T) {
	refused(t, "power", powerInput, map[[2]string]string{
		{`"duty": 0.25`, `"duty": -0.25`}:                 "loads[1].duty",
		{`"chemistry": "agm"`, `"chemistry": "agm, gel"`}: "banks[0].chemistry",
		{`"id": "pump"`, `"id": "sonar"`}:                 `loads[1].id is "sonar": must be an id of its own: a load hangs on one bank`,
		{`"bank": "motor"`, `"bank": "shed"`}:             `loads[2].bank is "shed": must be the id of a bank`,
		{`"w": 36`, `"w": 36, "a": 3`}:                    "loads[0]",
		{`["sonar", "pump"`, `["sonar", "kettle"`}:        `phases[1].on[1] is "kettle": must be the id of a load`,
		{`["sonar", "pump"`, `["pump", "pump"`}:           `phases[1].on[1] is "pump": is on already in this phase`,
		{`{"motor": 10}`, `{"shore": 10}`}:                `phases[0].charge_a is "shore"`,
		{`"id": "motor"`, `"id": "house"`}:                "banks[1].id",
		{`"h": 6`, `"h": -6`}:                             "phases[1].h",
	})
}
