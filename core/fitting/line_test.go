package fitting_test

import (
	"strings"
	"testing"

	"ergasia/core/entry"
	"ergasia/core/fitting"
	"ergasia/core/words"

	"github.com/stretchr/testify/assert"
)

// known is what a crew calls its posts and lockers.
var known = entry.Known{Places: []string{"port quarter", "helm", "console"}}

func TestALineTellsAFitting(t *testing.T) {
	for line, want := range map[string]struct {
		name, kind, place, side, screw, method string
		count                                  int
		kg, lean                               float64
	}{
		"rod holder 15° port @port quarter 0.6 kg M6x50 bolted": {"rod holder port", "rod-holder", "port quarter", "port", "M6", "through-bolt", 1, 0.6, 15},
		"2 cleats starboard":                     {"cleats starboard", "cleat", "", "starboard", "", "", 2, 0.5, 0},
		"bow motor 24 kg":                        {"bow motor", "bow-motor", "", "", "", "", 1, 24, 0},
		"display 12 in @helm":                    {"display", "display", "helm", "", "", "", 1, 1.6, -10},
		"sonar pole clamped":                     {"sonar pole", "pole", "", "", "", "clamp", 1, 2.5, 0},
		"whatsit 5 x 6 x 7 cm":                   {"whatsit", "other", "", "", "", "", 1, 0.5, 0},
		"bilge pump glued price 45":              {"bilge pump", "pump", "", "", "", "adhesive", 1, 0.6, 0},
		"antenna 2.4 m at 1.9, -0.8, 0.9 1.1 kg": {"antenna", "antenna", "", "", "", "", 1, 1.1, 0},
	} {
		s := fitting.ReadLine(line, known)
		assert.Equal(t, want.kind, s.Kind(), line)
		assert.True(t, strings.HasPrefix(s.Name, strings.Split(want.name, " ")[0]), "%s: %s", line, s.Name)
		assert.Equal(
			t,
			[]any{want.place, want.side, want.screw, want.method, want.count},
			[]any{s.Place, s.Side, s.Screw, s.Method, s.Count},
			line,
		)
		assert.InDelta(t, want.kg, s.Kg, 1e-9, line)
		assert.InDelta(t, want.lean, s.Lean, 1e-9, line)
	}
	s := fitting.ReadLine("antenna 2.4 m at 1.9, -0.8, 0.9", known)
	assert.Equal(t, &[3]float64{1.9, -0.8, 0.9}, s.At)
	assert.InDelta(t, 2.4, s.Size[2], 1e-9, "an antenna's one length is how tall it is")
	assert.InDelta(t, 45, *fitting.ReadLine("pump price 45", known).Cost, 0)
	assert.NotEmpty(t, fitting.ReadLine("   ", known).Doubts)
	assert.Contains(t, strings.Join(fitting.ReadLine("gizmo", known).Doubts, " "), "Nothing usual has this name")
}

func TestEveryUsualFittingIsWhole(t *testing.T) {
	for _, u := range fitting.Usuals {
		assert.Contains(t, words.FittingKinds.Keys(), u.Kind)
		assert.Contains(t, words.Stands.Keys(), u.Stands, u.Name)
		assert.Contains(t, words.Methods.Keys(), u.Method, u.Name)
		_, err := fitting.ScrewNamed(u.Screw)
		assert.NoError(t, err, u.Name)
		assert.Positive(t, u.Size[0]*u.Size[1]*u.Size[2]*u.Kg*u.Foot[0]*u.Foot[1], u.Name)
		if u.Name != fitting.Usuals[len(fitting.Usuals)-1].Name {
			named, found := fitting.UsualNamed(u.Name)
			assert.True(t, found, u.Name)
			assert.Equal(t, u.Kind, named.Kind, u.Name)
		}
	}
}
