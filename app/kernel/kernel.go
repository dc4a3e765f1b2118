// Package kernel is what every use case stands on: who asks and what their role
// may do, one transaction within one crew, writes that may be repeated, days.
package kernel

import (
	"time"

	"ergasia/store"
)

// Kernel is a database and a clock. The wings share one.
type Kernel struct {
	DB  *store.DB
	Now func() time.Time
}
