// Package fuel reckons a trip's fuel: what its way takes, what is kept, what goes into
// each tank, and how she floats before and after.
package fuel

import (
	"ergasia/app/kernel"
	"ergasia/app/where"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	where   *where.Wing
	reading *kernel.Turns // files of tracks that are read
}

// New makes the wing.
func New(k *kernel.Kernel, w *where.Wing) *Wing {
	return &Wing{Kernel: k, where: w, reading: kernel.NewTurns(1)}
}
