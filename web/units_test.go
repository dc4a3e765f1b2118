package web_test

import (
	"encoding/json"
	"fmt"
	"os"
	"testing"

	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The web app has no factors of its own: its units file is written from
// core/units. Run with UPDATE=1 to write it anew.
func TestTheWebAppsUnitsAreThoseOfTheCore(t *testing.T) {
	systems, err := json.MarshalIndent(map[string]units.System{"metric": units.Metric, "us": units.US}, "", "  ")
	require.NoError(t, err)
	want := fmt.Sprintf("// Written from core/units by web/units_test.go; do not edit.\nexport const SYSTEMS = %s as const;\n", systems)
	if os.Getenv("UPDATE") != "" {
		require.NoError(t, os.WriteFile("src/units.gen.ts", []byte(want), 0o644))
	}
	got, err := os.ReadFile("src/units.gen.ts")
	require.NoError(t, err)
	assert.Equal(t, want, string(got), "run UPDATE=1 go test ./web")
}
