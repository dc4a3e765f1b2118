// Package shed has the places ashore.
package shed

import (
	"ergasia/app/kernel"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
}

// New makes the wing.
func New(k *kernel.Kernel) *Wing {
	return &Wing{Kernel: k}
}
