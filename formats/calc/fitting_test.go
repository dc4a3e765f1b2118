package calc_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"ergasia/formats/calc"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// By hand: ½·1025·1.2·0.04·0.7·v² for the pole, ½·1025·1.1·0.02·v² for its foot.
func TestFittingByHand(t *testing.T) {
	out, err := calc.Run("fitting", strings.NewReader(`{
		"pole": {"wet_m": 0.7, "diameter_m": 0.04, "clamp_to_water_m": 0.4, "foot_area_m2": 0.02, "speed_m_s": 3, "holds_n_m": 120},
		"bolts": {"pattern_mm": [[-40,-30],[40,-30],[-40,30],[40,30]], "size": "M6", "moment_n_m": 60, "shear_n": 200},
		"stack": {"layers_mm": [4, 12], "washer_mm": 1.6, "nut_mm": 6, "pitch_mm": 1, "behind_mm": 10, "lengths_mm": [20, 30, 25]}}`))
	require.NoError(t, err)
	var got struct {
		Pole  struct{ Drag_n, Moment_n_m, Folds_at_m_s float64 }
		Bolts struct {
			Tension_n                              []float64
			Shear_n, Stress_mpa, Proof_mpa, Factor float64
		}
		Stack struct{ Needed_mm, Length_mm, Fouls_mm float64 }
	}
	require.NoError(t, json.Unmarshal(out, &got))
	pole, foot := 0.5*1025*1.2*0.04*0.7*9, 0.5*1025*1.1*0.02*9
	moment := pole*0.75 + foot*1.1
	assert.InDelta(t, pole+foot, got.Pole.Drag_n, 1e-6)
	assert.InDelta(t, moment, got.Pole.Moment_n_m, 1e-6)
	assert.InDelta(t, 3*math.Sqrt(120/moment), got.Pole.Folds_at_m_s, 1e-6)
	assert.InDeltaSlice(t, []float64{-500, -500, 500, 500}, got.Bolts.Tension_n, 1e-6)
	assert.InDelta(t, 50, got.Bolts.Shear_n, 1e-6)
	assert.InDelta(t, 500/20.1, got.Bolts.Stress_mpa, 1e-6)
	assert.InDelta(t, 450*20.1/500, got.Bolts.Factor, 1e-6)
	assert.InDelta(t, 25.6, got.Stack.Needed_mm, 1e-6)
	assert.InDelta(t, 30, got.Stack.Length_mm, 1e-6)
	assert.InDelta(t, 4, got.Stack.Fouls_mm, 1e-6)
}

func TestFittingRefusesWhatIsAbsurd(t *testing.T) {
	for in, want := range map[string]string{
		`{}`: "input",
		`{"bolts": {"pattern_mm": [[0,0]], "size": "M7", "moment_n_m": 0, "shear_n": 1}}`:                        "bolts.size",
		`{"bolts": {"pattern_mm": [[0,0],[5,0]], "size": "M6", "moment_n_m": 9, "shear_n": 1}}`:                  "one line along x",
		`{"stack": {"layers_mm": [5], "nut_mm": 5, "pitch_mm": 1, "lengths_mm": [-20]}}`:                         "stack.lengths_mm[0]",
		`{"pole": {"wet_m": 12, "diameter_m": 0.04, "clamp_to_water_m": 0.4, "speed_m_s": 3}}`:                   "pole.wet_m",
		`{"pole": {"wet_m": 1, "diameter_m": 0.04, "clamp_to_water_m": 0.4, "speed_m_s": 3, "colour": "green"}}`: "pole",
	} {
		_, err := calc.Run("fitting", strings.NewReader(in))
		require.ErrorContains(t, err, want, in)
	}
}

func TestFittingSaysNothingOfAClampNobodyPulled(t *testing.T) {
	out, err := calc.Run(
		"fitting",
		strings.NewReader(`{"pole": {"wet_m": 0.7, "diameter_m": 0.04, "clamp_to_water_m": 0.4, "speed_m_s": 3},
		"bolts": {"pattern_mm": [[0,0]], "size": "M6", "moment_n_m": 0, "shear_n": 10}}`),
	)
	require.NoError(t, err)
	assert.Contains(t, string(out), `"folds_at_m_s": null`)
	assert.Contains(t, string(out), `"factor": null`)
}
