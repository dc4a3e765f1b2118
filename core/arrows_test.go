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
	"api":        {"app", "store", "core"},         // store for ids and the session table
	"demo":       {"app", "store", "core", "demo"}, // demotest opens it
	"simulators": {"core"},
	"app":        {"app", "store", "formats", "core"},
	"store":      {"store", "core"}, // the rows keep core's values as JSON
	"formats":    {"formats", "core"},
	"web":        {},
}

// engines in order: each may import those before it.
var engines = []string{
	"core/words", "core/units", "core/check", "core/hull", "core/float", "core/capacity", "core/road", "core/rods",
	"core/stow", "core/reach", "core/find", "core/entry", "core/kit", "core/due", "core/where", "core/weigh",
	"core/fuel", "core/way", "core/sun", "core/ice", "core/day", "core/catch",
	"core/fitting", "core/clear", "core/carriage", "core/wire", "core/power", "core/circuits", "core/pump",
}

// wings of app in order: each may import those before it, and app.go all of them.
var wings = []string{
	"app/refuse", "app/aboard", "app/aboard/aboardtest", "app/kernel", "app/crew", "app/fleet", "app/where", "app/gear",
	"app/shed", "app/trips", "app/fuel",
	"app/due", "app/kits", "app/rigging", "app/power", "app/days", "app/jobs", "app/safety", "app/lists", "app/brief",
	"app/ready", "app/stowing", "app/floating", "app/weighing", "app/undoing",
}

// pure wings know no database, not even through what they import.
var pure = []string{"app/refuse", "app/aboard"}

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
				assert.False(
					t,
					imported == bad || strings.HasPrefix(imported, bad+"/") && imported != seeded,
					"%s imports %s",
					pkg,
					imported,
				)
			}
			if strings.Contains(strings.Split(imported, "/")[0], ".") {
				assert.True(
					t,
					slices.ContainsFunc(outside, func(p string) bool { return strings.HasPrefix(imported, p) }),
					"%s imports %s",
					pkg,
					imported,
				)
			}
		}
	}
	assert.Equal(t, len(engines), seen)
}

func TestWingsImportDownward(t *testing.T) {
	seen := 0
	for pkg, list := range imports(t) {
		if !strings.HasPrefix(pkg, "app/") {
			continue
		}
		seen++
		place := slices.Index(wings, pkg)
		require.GreaterOrEqual(t, place, 0, "%s has no place among the wings", pkg)
		for _, imported := range list {
			ours, _ := strings.CutPrefix(imported, "ergasia/")
			if strings.HasPrefix(ours, "app") {
				at := slices.Index(wings, ours)
				assert.True(t, at >= 0 && at < place, "%s imports %s, which is not below it", pkg, ours)
			}
			assert.NotContains(t, imported, "gorm.io/", "%s: the database is reached through store", pkg)
		}
	}
	assert.Equal(t, len(wings), seen)
}

func TestPureWingsKnowNoDatabase(t *testing.T) {
	for _, wing := range pure {
		out, err := exec.Command("go", "list", "-deps", "ergasia/"+wing).Output()
		require.NoError(t, err)
		for _, dep := range strings.Fields(string(out)) {
			assert.NotContains(t, []string{"database/sql", "net/http", "ergasia/store", "ergasia/api"}, dep, wing)
			assert.False(t, strings.HasPrefix(dep, "gorm.io/"), "%s needs %s", wing, dep)
		}
	}
}

// layers of the web in order: each may import those before it. A feature imports
// no other feature; what two of them need is a part.
var layers = []string{"api", "domain", "ui", "drawing", "parts", "features", "shell"}

func TestTheWebImportsDownward(t *testing.T) {
	imports := regexp.MustCompile(`(?:from|import)\s*\(?"(\.[^"]+)"`)
	root := filepath.Join("..", "web", "src")
	seen := 0
	require.NoError(t, filepath.WalkDir(root, func(file string, entry os.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasPrefix(filepath.Ext(file), ".ts") {
			return err
		}
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		from := layerOf(t, root, file)
		for _, m := range imports.FindAllStringSubmatch(string(text), -1) {
			seen++
			to := layerOf(t, root, filepath.Join(filepath.Dir(file), m[1]))
			assert.LessOrEqual(t, to.floor, from.floor, "%s imports %s, which is not below it", file, m[1])
			if from.feature != "" && to.feature != "" {
				assert.Equal(t, from.feature, to.feature, "%s imports another feature", file)
			}
		}
		return nil
	}))
	assert.Greater(t, seen, 200)
}

type layer struct {
	floor   int
	feature string
}

// layerOf says where a file of the web stands; App.tsx and main.tsx stand on top.
func layerOf(t *testing.T, root, file string) layer {
	within, err := filepath.Rel(root, file)
	require.NoError(t, err)
	parts := strings.Split(filepath.ToSlash(within), "/")
	if len(parts) == 1 {
		return layer{floor: len(layers)}
	}
	floor := slices.Index(layers, parts[0])
	require.GreaterOrEqual(t, floor, 0, "%s has no place among the layers", file)
	at := layer{floor: floor}
	if parts[0] == "features" {
		at.feature = parts[1]
	}
	return at
}
