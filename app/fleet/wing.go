// Package fleet has the boats: their hulls and outfit, places, posts, pictures.
package fleet

import (
	"ergasia/app/aboard"
	"ergasia/app/kernel"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	boats   *aboard.BoatCache
	drawing *kernel.Turns // pictures
}

// New makes the wing.
func New(k *kernel.Kernel, boats *aboard.BoatCache, drawing *kernel.Turns) *Wing {
	return &Wing{Kernel: k, boats: boats, drawing: drawing}
}
