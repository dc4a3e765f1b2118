// Package stowing says what goes where: the bench, plans, reach, rods, lid cards.
package stowing

import (
	"ergasia/app/days"
	"ergasia/app/kernel"
	"ergasia/app/where"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	where    *where.Wing
	days     *days.Wing
	planning *kernel.Turns // plans that are looked for
}

// New makes the wing.
func New(k *kernel.Kernel, w *where.Wing, d *days.Wing, planning *kernel.Turns) *Wing {
	return &Wing{Kernel: k, where: w, days: d, planning: planning}
}
