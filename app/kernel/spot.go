package kernel

import (
	"github.com/google/uuid"
)

// Named is an id with its name.
type Named struct {
	ID   uuid.UUID
	Name string
}
