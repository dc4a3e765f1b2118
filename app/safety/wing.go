// Package safety knows what must be aboard: safety equipment, papers, packs of rules, and
// the check of a trip against them.
package safety

import (
	"ergasia/app/days"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/kernel"
	"ergasia/app/trips"
	"ergasia/app/where"
)

// Wing has the use cases.
type Wing struct {
	*kernel.Kernel
	fleet *fleet.Wing
	where *where.Wing
	gear  *gear.Wing
	trips *trips.Wing
	days  *days.Wing
}

// New makes the wing.
func New(k *kernel.Kernel, f *fleet.Wing, w *where.Wing, g *gear.Wing, t *trips.Wing, d *days.Wing) *Wing {
	return &Wing{Kernel: k, fleet: f, where: w, gear: g, trips: t, days: d}
}
