// Package power knows a boat's electrics: banks, circuits and what stands between them, what
// wire and fuse each circuit needs, what is wrong with them, and how long batteries last
// through a day.
package power

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
