// Package app composes the use cases. Each wing is a package of its own that
// loads what an engine needs, runs it and saves, inside one transaction and one
// crew. Interfaces (HTTP, command line) call them; they know none of those.
package app

import (
	"context"
	"time"

	"ergasia/app/aboard"
	"ergasia/app/brief"
	"ergasia/app/crew"
	"ergasia/app/days"
	"ergasia/app/due"
	"ergasia/app/fleet"
	"ergasia/app/floating"
	"ergasia/app/fuel"
	"ergasia/app/gear"
	"ergasia/app/jobs"
	"ergasia/app/kernel"
	"ergasia/app/kits"
	"ergasia/app/lists"
	"ergasia/app/power"
	"ergasia/app/ready"
	"ergasia/app/rigging"
	"ergasia/app/safety"
	"ergasia/app/shed"
	"ergasia/app/stowing"
	"ergasia/app/trips"
	"ergasia/app/undoing"
	"ergasia/app/weighing"
	"ergasia/app/where"
	"ergasia/store"
)

// App is every use case over one database.
type App struct {
	Kernel   *kernel.Kernel
	Crew     *crew.Wing
	Fleet    *fleet.Wing
	Where    *where.Wing
	Gear     *gear.Wing
	Shed     *shed.Wing
	Trips    *trips.Wing
	Fuel     *fuel.Wing
	Due      *due.Wing
	Kits     *kits.Wing
	Rigging  *rigging.Wing
	Power    *power.Wing
	Days     *days.Wing
	Safety   *safety.Wing
	Jobs     *jobs.Wing
	Lists    *lists.Wing
	Brief    *brief.Wing
	Ready    *ready.Wing
	Stowing  *stowing.Wing
	Floating *floating.Wing
	Weighing *weighing.Wing
	Undoing  *undoing.Wing

	shared shared
}

// shared is what lasts longer than a transaction.
type shared struct {
	boats    *aboard.BoatCache
	scale    *weighing.Scale
	hashing  chan struct{}
	planning *kernel.Turns
	trying   *kernel.Turns
	drawing  *kernel.Turns
	writes   *kernel.Queue
}

// How much may run at once, since each takes a core or much memory.
const (
	hashesAtOnce = 4
	plansAtOnce  = 2

	picturesAtOnce = 1 // each takes 300 MB at most
)

// New makes the use cases over a database.
func New(db *store.DB) *App {
	return compose(&kernel.Kernel{DB: db, Now: time.Now}, shared{writes: kernel.NewQueue(store.LockWait), boats: aboard.NewBoatCache(), scale: &weighing.Scale{},
		hashing: make(chan struct{}, hashesAtOnce), planning: kernel.NewTurns(plansAtOnce),
		trying: kernel.NewTurns(plansAtOnce), drawing: kernel.NewTurns(picturesAtOnce)})
}

func compose(k *kernel.Kernel, s shared) *App {
	k.Writes = s.writes
	a := &App{Kernel: k, shared: s}
	a.Crew = crew.New(k, s.hashing)
	a.Fleet = fleet.New(k, s.boats, s.drawing)
	a.Where = where.New(k, a.Fleet)
	a.Gear = gear.New(k, a.Where)
	a.Shed = shed.New(k)
	a.Trips = trips.New(k, a.Gear, a.Where)
	a.Fuel = fuel.New(k, a.Where)
	a.Due = due.New(k, a.Gear, a.Trips)
	a.Kits = kits.New(k, a.Gear, a.Trips)
	a.Rigging = rigging.New(k, a.Where)
	a.Power = power.New(k, a.Where)
	a.Days = days.New(k, a.Where, s.trying)
	a.Safety = safety.New(k, a.Fleet, a.Where, a.Gear, a.Trips, a.Days)
	a.Jobs = jobs.New(k)
	a.Lists = lists.New(k, a.Days, a.Due, a.Safety)
	a.Brief = brief.New(k, a.Where, a.Days)
	a.Ready = ready.New(k, a.Days, a.Kits, a.Due, a.Safety)
	a.Stowing = stowing.New(k, a.Where, a.Days, s.planning)
	a.Floating = floating.New(k, a.Fleet, a.Where)
	a.Undoing = undoing.New(k, a.Where, a.Gear)
	a.Weighing = weighing.New(k, a.Gear, a.Where, s.scale)
	return a
}

// Whole runs several use cases of which all are kept or none.
func (a *App) Whole(ctx context.Context, fn func(*App) error) error {
	return a.Kernel.DB.Whole(ctx, func(db *store.DB) error {
		return fn(compose(&kernel.Kernel{DB: db, Now: a.Kernel.Now}, a.shared))
	})
}

// Serves says whether requests can be served.
func (a *App) Serves(ctx context.Context) error { return a.Kernel.DB.Ready(ctx) }
