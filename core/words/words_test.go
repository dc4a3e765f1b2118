package words

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestFieldsAreNamedInWords(t *testing.T) {
	for path, want := range map[string]string{
		"body.lines[0].choices": "line 1, choices", "size_m[2]": "size, height", "hull.measures.beam_m": "hull, beam",
		"outfit.tanks[1].fill": "tank 2, fill", "kg": "mass", "limits.freeboard_m.value": "limit, freeboard", "name": "name",
		"outfit.foam[0].high_m[1]": "foam 1, high, to port", "tags[3]": "tag 4",
		"stations[0].half_section_yz_m[1][0]": "station 1, half-section 2",
	} {
		assert.Equal(t, want, FieldName(path), path)
	}
}

func TestEveryListHasKeysAndLabelsOnce(t *testing.T) {
	assert.Greater(t, len(Lists), 20)
	for name, list := range Lists {
		seen := map[string]bool{}
		for _, w := range list {
			assert.NotEmpty(t, w.Key, name)
			assert.NotEmpty(t, w.Label, "%s: %s", name, w.Key)
			assert.False(t, seen[w.Key] || seen["label "+w.Label], "%s: %s is there twice", name, w.Key)
			seen[w.Key], seen["label "+w.Label] = true, true
			assert.Equal(t, w.Label, list.Label(w.Key))
		}
	}
	assert.Equal(t, "unheard of", Shapes.Label("unheard of"))
}

func TestOneIsNeverMany(t *testing.T) {
	assert.Equal(t, "no lines", HowMany(0, "line"))
	assert.Equal(t, "1 line", HowMany(1, "line"))
	assert.Equal(t, "21 batteries", HowMany(21, "battery", "batteries"))
}
