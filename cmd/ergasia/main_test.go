package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"ergasia/core/check"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// built compiles the program once for these tests; it needs no web app.
func built(t *testing.T) string {
	bin := filepath.Join(t.TempDir(), "ergasia")
	out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	return bin
}

func runBuilt(t *testing.T, bin, in string, args ...string) (stdout, stderr string, code int) {
	cmd := exec.Command(bin, args...)
	cmd.Env = []string{"PATH=" + os.Getenv("PATH")} // no DATABASE_URL
	cmd.Stdin = strings.NewReader(in)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	err := cmd.Run()
	var exit *exec.ExitError
	if errors.As(err, &exit) {
		code = exit.ExitCode()
	} else {
		require.NoError(t, err)
	}
	return out.String(), errs.String(), code
}

const box = `{"hull": {"stations": [{"x_m": 0, "half_section_yz_m": [[0,0],[1,0],[1,0.7]]}, {"x_m": 5, "half_section_yz_m": [[0,0],[1,0],[1,0.7]]}]},
 "masses": [{"kg": 1845, "at_m": [2.5,0,0.4]}]}`

func TestCalcOnTheCommandLine(t *testing.T) {
	bin := built(t)

	out, errs, code := runBuilt(t, bin, box, "calc", "float")
	require.Equal(t, 0, code, errs)
	var answer map[string]any
	require.NoError(t, json.Unmarshal([]byte(out), &answer))
	assert.InDelta(t, 0.18, answer["draft_aft_m"], 1e-9)
	assert.Equal(t, "afloat", answer["status"])

	out, errs, code = runBuilt(t, bin, strings.Replace(box, `"x_m": 5`, `"x_m": -5, "y": 1`, 1), "calc", "float")
	assert.Equal(t, exitBadInput, code)
	assert.Empty(t, out, "nothing on standard output")
	assert.Contains(t, errs, "hull.stations[1]")

	two := strings.Replace(strings.Replace(box, "1845", "-1", 1), `"x_m": 0`, `"x_m": "a"`, 1)
	_, errs, code = runBuilt(t, bin, two, "calc", "float")
	assert.Equal(t, exitBadInput, code)
	assert.Len(t, strings.Split(strings.TrimSpace(errs), "\n"), 2, "a line for each fault: %s", errs)

	for _, way := range []string{"in", "out"} {
		out, _, code = runBuilt(t, bin, "", "calc", "float", "--schema", way)
		assert.Equal(t, 0, code)
		assert.True(t, json.Valid([]byte(out)))
	}
	_, errs, code = runBuilt(t, bin, "{}", "calc", "sink")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "the engines are capacity, carriage, day, fitting, float")
}

func TestTheProgramSaysWhatIsMissing(t *testing.T) {
	bin := built(t)
	for _, command := range [][]string{{"serve"}, {"demo"}, {"migrate"}} {
		_, errs, code := runBuilt(t, bin, "", command...)
		assert.Equal(t, 1, code)
		assert.Contains(t, errs, "DATABASE_URL is not set: give a PostgreSQL address")
	}
	_, errs, code := runBuilt(t, bin, "", "found")
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "crew")
}

func TestSettingsOutOfBoundsAreNamed(t *testing.T) {
	t.Setenv("DATABASE_URL", "postgres://127.0.0.1/none")
	t.Setenv("ERGASIA_CONNECTIONS", "1")
	_, err := readSettings()
	assert.ErrorContains(t, err, "ERGASIA_CONNECTIONS is 1: must be from 2 to 500")
	t.Setenv("ERGASIA_CONNECTIONS", "many")
	_, err = readSettings()
	assert.Error(t, err)
	t.Setenv("ERGASIA_CONNECTIONS", "8")
	s, err := readSettings()
	require.NoError(t, err)
	assert.Equal(t, s.DatabaseURL, s.MigrateURL, "one address is enough")
}

func TestATakenPortIsSaid(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = taken.Close() }()
	err = serve(context.Background(), settings{Address: taken.Addr().String()}, nil)
	assert.ErrorContains(t, err, "set ERGASIA_ADDRESS to a free one")
}

func TestALogThatCannotBeWrittenIsSaid(t *testing.T) {
	_, err := startLog(filepath.Join(t.TempDir(), "no", "such", "folder"))
	assert.ErrorContains(t, err, "ERGASIA_LOG")
}

func TestFaultsAreSpelledOutForATerminal(t *testing.T) {
	err := sentence(errors.New("plain"))
	assert.EqualError(t, err, "plain")
	var faults check.Faults
	assert.False(t, errors.As(err, &faults))
}
