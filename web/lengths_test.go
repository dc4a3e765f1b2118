package web_test

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"ergasia/core/units"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// reads runs the page's reader of lengths over texts as JSON on its input.
const reads = `import { parseLength } from "./lengths.mjs";
import { readFileSync } from "node:fs";
const list = JSON.parse(readFileSync(0, "utf8"));
console.log(JSON.stringify(list.map((c) => parseLength(c.text, c.unit) ?? null)));`

// The page reads lengths by the core's rules: the same examples give the same metres.
func TestThePageReadsLengthsAsTheCoreDoes(t *testing.T) {
	dir := t.TempDir()
	bundle := exec.Command("node_modules/.bin/rolldown", "src/ui/lengths.ts", "--format", "esm", "--file",
		filepath.Join(dir, "lengths.mjs"))
	out, err := bundle.CombinedOutput()
	require.NoError(t, err, "%s (npm ci in web/ installs rolldown)", out)
	script := filepath.Join(dir, "reads.mjs")
	require.NoError(t, os.WriteFile(script, []byte(reads), 0o600))
	asked, err := json.Marshal(units.Lengths)
	require.NoError(t, err)
	node := exec.Command("node", script)
	node.Stdin = strings.NewReader(string(asked))
	answer, err := node.Output()
	require.NoError(t, err)
	var got []*float64
	require.NoError(t, json.Unmarshal(answer, &got))
	require.Len(t, got, len(units.Lengths))
	for i, c := range units.Lengths {
		if c.Refused {
			assert.Nil(t, got[i], "%q was taken", c.Text)
		} else if assert.NotNil(t, got[i], c.Text) {
			assert.InDelta(t, c.M, *got[i], 1e-12, c.Text)
		}
	}
}
