package kernel

import (
	"os"
	"slices"
	"strings"
	"testing"

	"ergasia/core/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheRolesTableOfTheDocsIsTheProgramsOwn(t *testing.T) {
	text, err := os.ReadFile("../../docs/roles.md")
	require.NoError(t, err)
	rows := 0
	for line := range strings.Lines(string(text)) {
		cells := strings.Split(strings.Trim(strings.TrimSpace(line), "|"), "|")
		if len(cells) != 5 {
			continue
		}
		i := slices.IndexFunc(words.Permissions, func(w words.Word) bool { return w.Label == strings.TrimSpace(cells[0]) })
		if i < 0 {
			continue
		}
		action := Action(words.Permissions[i].Key)
		rows++
		for column, role := range Roles {
			assert.Equal(t, Allowed(role, action), strings.TrimSpace(cells[column+1]) == "yes", "%s: %s", role, action)
		}
	}
	assert.Equal(t, len(allowed), rows, "every action has a row")
	assert.Len(t, words.Permissions, len(allowed), "and a word")
}
