package check

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestEachFaultNamesFieldValueAndWhatWouldBeRight(t *testing.T) {
	var fs Faults
	fs.Within("mass_kg", -3, 0, 500)
	fs.Within("length_m", math.NaN(), 1, 12)
	fs.Within("depth_m", math.Inf(1), 0, math.Inf(1))
	fs.Text("name", strings.Repeat("x", 10000), 1, 80)
	fs.Text("mark", "a\nb", 1, 80)
	fs.OneOf("dryness", "soggy", "any", "dry")
	assert.Len(t, strings.Split(fs.Error(), "\n"), 6)
	assert.Contains(t, fs.Error(), "mass_kg is -3: must be from 0 to 500")
	assert.Contains(t, fs.Error(), `dryness is "soggy": must be one of any, dry`)
	assert.Less(t, len(fs.Error()), 600, "a long value is cut")
}

func TestNoFaultIsNoError(t *testing.T) {
	var fs Faults
	fs.Within("mass_kg", 3, 0, 500)
	fs.Text("name", "low boat", 1, 80)
	fs.OneOf("dryness", "dry", "any", "dry")
	assert.NoError(t, fs.Err())
}
