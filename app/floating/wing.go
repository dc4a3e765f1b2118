// Package floating says how a laden boat floats, what float checks find, and how she rides the road.
package floating

import (
	"ergasia/app/fleet"
	"ergasia/app/kernel"
	"ergasia/app/where"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	fleet *fleet.Wing
	where *where.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, f *fleet.Wing, w *where.Wing) *Wing {
	return &Wing{Kernel: k, fleet: f, where: w}
}
