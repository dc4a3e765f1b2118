// Package crew has the people of a crew: members and their masses, invitations and reset links,
// signing in, and how long things take with them.
package crew

import (
	"ergasia/app/kernel"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	// hashing has room for as many password hashes as may be computed at once.
	hashing  chan struct{}
	founding founding
}

// New makes the wing.
func New(k *kernel.Kernel, hashing chan struct{}) *Wing {
	return &Wing{Kernel: k, hashing: hashing}
}
