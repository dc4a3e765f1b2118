package web_test

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"ergasia/app/gear"
	"ergasia/core/units"
	"ergasia/core/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The web app has no factors, words and gear fields of its own: these files are
// written from the program's. Run with UPDATE=1 to write them anew.
func TestWhatIsGeneratedForTheWebAppIsCurrent(t *testing.T) {
	for file, want := range map[string]string{
		"units.gen.ts": unitsFile(t), "words.gen.ts": wordsFile(), "gear.gen.ts": gearFile(t),
	} {
		path := "src/domain/" + file
		want = "// Written by web/generated_test.go; do not edit.\n" + want
		if os.Getenv("UPDATE") != "" {
			require.NoError(t, os.WriteFile(path, []byte(want), 0o644))
		}
		got, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, want, string(got), "run UPDATE=1 go test ./web")
	}
}

func unitsFile(t *testing.T) string {
	systems, err := json.MarshalIndent(map[string]units.System{"metric": units.Metric, "us": units.US}, "", "  ")
	require.NoError(t, err)
	return fmt.Sprintf("export const SYSTEMS = %s as const;\n", systems)
}

// wordsFile has each list of core/words as pairs of key and label.
func wordsFile() string {
	var names []string
	for name := range words.Lists {
		names = append(names, name)
	}
	slices.Sort(names)
	var text strings.Builder
	text.WriteString("export const WORDS = {\n")
	for _, name := range names {
		fmt.Fprintf(&text, "  %s: [\n", name)
		for _, w := range words.Lists[name] {
			fmt.Fprintf(&text, "    [%q, %q],\n", w.Key, w.Label)
		}
		text.WriteString("  ],\n")
	}
	text.WriteString("} as const;\n")
	return text.String()
}

func gearFile(t *testing.T) string {
	fields, err := json.MarshalIndent(gear.Fields, "", "  ")
	require.NoError(t, err)
	groups, err := json.Marshal(gear.Groups)
	require.NoError(t, err)
	return fmt.Sprintf("export const GEAR_GROUPS = %s as const;\nexport const GEAR_FIELDS = %s as const;\n", groups,
		fields)
}
