package kernel

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
)

// NewToken is a secret of 256 bits, for a link or a secret address.
func NewToken() string {
	raw := make([]byte, 32)
	_, _ = rand.Read(raw) // never fails
	return base64.RawURLEncoding.EncodeToString(raw)
}

// HashOf a token is what is kept of it: whoever reads the database can't use it.
func HashOf(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}
