// Package kits says what a kind of day wants, and what of it is missing.
package kits

import (
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/trips"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	gear  *gear.Wing
	trips *trips.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, g *gear.Wing, t *trips.Wing) *Wing {
	return &Wing{Kernel: k, gear: g, trips: t}
}
