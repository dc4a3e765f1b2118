package gear

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestLabelCodesAreReadHoweverTheyAreTyped(t *testing.T) {
	for text, want := range map[string]string{"k7m2qr": "K7M2QR", " #K7M2QR ": "K7M2QR", "K7M2Q": "", "K7M2QRX": "",
		"ANCHOR": "", "K7M2Q1": "", "": ""} {
		assert.Equal(t, want, labelCode(text), text)
	}
	seen := map[string]bool{}
	for range 200 {
		code := newCode()
		assert.Equal(t, code, labelCode(code), "what is made is read")
		assert.Empty(t, strings.Trim(code, codeLetters))
		seen[code] = true
	}
	assert.Greater(t, len(seen), 195, "they hardly ever meet")
}
