// Package where knows where everything is, and is the one writer of it: moves, undo, and the
// log of both that the rest stands on.
package where

import (
	"ergasia/app/fleet"
	"ergasia/app/kernel"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	fleet *fleet.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, f *fleet.Wing) *Wing {
	return &Wing{Kernel: k, fleet: f}
}
