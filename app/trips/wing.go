// Package trips has the trips, and what is promised to them, lent or borrowed.
package trips

import (
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/where"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	gear  *gear.Wing
	where *where.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, g *gear.Wing, w *where.Wing) *Wing {
	return &Wing{Kernel: k, gear: g, where: w}
}
