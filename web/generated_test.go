package web_test

import (
	"encoding/json"
	"fmt"
	"maps"
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
		"units.gen.ts": unitsFile(t), "levels.gen.ts": levelsFile(), "words.gen.ts": wordsFile(),
		"gear.gen.ts": gearFile(t),
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

// levelsFile has the one list that the first page needs; the others come with their pages.
func levelsFile() string {
	return "export const LEVELS = " + pairs("levels", "") + " as const;\n"
}

// wordsFile has the other lists of core/words.
func wordsFile() string {
	var text strings.Builder
	text.WriteString("export const WORDS = {\n")
	for _, name := range slices.Sorted(maps.Keys(words.Lists)) {
		if name != "levels" {
			fmt.Fprintf(&text, "  %s: %s,\n", name, pairs(name, "  "))
		}
	}
	text.WriteString("} as const;\n")
	return text.String()
}

// pairs has a list as pairs of key and label.
func pairs(list, indent string) string {
	var text strings.Builder
	text.WriteString("[\n")
	for _, w := range words.Lists[list] {
		fmt.Fprintf(&text, "%s  [%q, %q],\n", indent, w.Key, w.Label)
	}
	text.WriteString(indent + "]")
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
