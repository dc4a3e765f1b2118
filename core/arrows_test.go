package core_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rooms are what each room may import of ours; imports run downward only.
var rooms = map[string][]string{
	"cmd":        {"api", "app", "demo", "simulators", "store", "formats", "web", "core"},
	"e2e":        {"api", "app", "demo", "simulators", "store", "web", "core"},
	"api":        {"app", "store"}, // store for ids and the session table
	"demo":       {"app", "core"},
	"simulators": {"core"},
	"app":        {"store", "formats", "core"},
	"store":      {"store"}, // storetest serves the tests of those above
	"formats":    {"core"},
	"web":        {},
}

// engines in order: each may import those before it.
var engines = []string{"core/units", "core/check", "core/hull", "core/float", "core/capacity", "core/road", "core/rods", "core/stow", "core/reach",
	"core/find", "core/entry", "core/kit", "core/due", "core/where", "core/weigh"}

// outside is what core may use beside Go's own pure packages.
var outside = []string{"gonum.org/v1/gonum/", "golang.org/x/text/"}

// impure packages of Go's own have no place in core.
var impure = []string{"os", "net", "database", "time", "log", "io/fs", "path/filepath", "syscall", "embed", "math/rand"}

// seeded is random numbers from a seed; what draws them without one is not used,
// which TestChanceInCoreHasASeed sees.
const seeded = "math/rand/v2"

func TestChanceInCoreHasASeed(t *testing.T) {
	files, err := filepath.Glob("*/*.go")
	require.NoError(t, err)
	use := regexp.MustCompile(`\brand\.(\w+)`)
	drawn := 0
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		if strings.HasSuffix(file, "_test.go") || !strings.Contains(string(text), `"`+seeded+`"`) {
			continue
		}
		drawn++
		for _, m := range use.FindAllStringSubmatch(string(text), -1) {
			assert.Contains(t, []string{"Rand", "New", "NewPCG"}, m[1], file)
		}
	}
	assert.Positive(t, drawn)
}

func imports(t *testing.T) map[string][]string {
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join .Imports \" \"}}", "ergasia/...").Output()
	require.NoError(t, err)
	all := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		all[strings.TrimPrefix(fields[0], "ergasia/")] = fields[1:]
	}
	return all
}

func TestImportsRunDownwardOnly(t *testing.T) {
	all := imports(t)
	require.Greater(t, len(all), 10)
	for pkg, list := range all {
		room, _, _ := strings.Cut(pkg, "/")
		for _, imported := range list {
			ours, isOurs := strings.CutPrefix(imported, "ergasia/")
			if !isOurs || room == "core" || strings.HasPrefix(room, "scratch") {
				continue
			}
			to, _, _ := strings.Cut(ours, "/")
			may, known := rooms[room]
			assert.True(t, known, "%s is in no room", pkg)
			assert.Contains(t, may, to, "%s imports %s", pkg, ours)
		}
	}
}

func TestCoreIsPlainComputation(t *testing.T) {
	seen := 0
	for pkg, list := range imports(t) {
		if !strings.HasPrefix(pkg, "core/") {
			continue
		}
		seen++
		place := slices.Index(engines, pkg)
		require.GreaterOrEqual(t, place, 0, "%s has no place among the engines", pkg)
		for _, imported := range list {
			if ours, isOurs := strings.CutPrefix(imported, "ergasia/"); isOurs {
				at := slices.Index(engines, ours)
				assert.True(t, at >= 0 && at < place, "%s imports %s, which is not below it", pkg, ours)
				continue
			}
			for _, bad := range impure {
				assert.False(t, imported == bad || strings.HasPrefix(imported, bad+"/") && imported != seeded, "%s imports %s", pkg, imported)
			}
			if strings.Contains(strings.Split(imported, "/")[0], ".") {
				assert.True(t, slices.ContainsFunc(outside, func(p string) bool { return strings.HasPrefix(imported, p) }), "%s imports %s", pkg, imported)
			}
		}
	}
	assert.Equal(t, len(engines), seen)
}
