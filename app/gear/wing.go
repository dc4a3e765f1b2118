// Package gear has the crew's gear: the list, finding, entering it as lines or tables, labels.
package gear

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
func New(k *kernel.Kernel, w *where.Wing) *Wing {
	return &Wing{Kernel: k, where: w}
}
