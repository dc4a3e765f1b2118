package kernel

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestASentenceBeginsWithACapital(t *testing.T) {
	for text, want := range map[string]string{
		"anchor": "Anchor", "2 hand flares": "2 hand flares", "ålesund": "Ålesund", "Ålesund": "Ålesund",
		"ωmega": "Ωmega",
		"":      "", "🎣 rod": "🎣 rod", "\xffrod": "\xffrod", "-END:VEVENT": "-END:VEVENT", "ß": "ß",
	} {
		assert.Equal(t, want, Capital(text), "%q", text)
	}
}
