// Package weighing says what to weigh first, and keeps what a scale reads.
package weighing

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
	scale *Scale
}

// New makes the wing.
func New(k *kernel.Kernel, g *gear.Wing, w *where.Wing, s *Scale) *Wing {
	return &Wing{Kernel: k, gear: g, where: w, scale: s}
}
