// Package lists makes the checklists of a trip from the boat's own equipment, the trip, the
// rules, the road and what is due, and keeps who ticked what.
package lists

import (
	"ergasia/app/days"
	"ergasia/app/due"
	"ergasia/app/kernel"
	"ergasia/app/safety"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	days *days.Wing
	due  *due.Wing
	safe *safety.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, d *days.Wing, du *due.Wing, s *safety.Wing) *Wing {
	return &Wing{Kernel: k, days: d, due: du, safe: s}
}
