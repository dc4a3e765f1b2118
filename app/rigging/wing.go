// Package rigging knows what is fastened to a boat: where each fitting stands, how it
// is held, what it is in the way of, and what it must bear.
package rigging

import (
	"ergasia/app/kernel"
	"ergasia/app/where"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	where *where.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, w *where.Wing) *Wing { return &Wing{Kernel: k, where: w} }
