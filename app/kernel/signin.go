package kernel

import (
	"github.com/google/uuid"
)

// SignedIn is who a session belongs to. Epoch ends it when the user's is raised.
type SignedIn struct {
	User  uuid.UUID
	Epoch int
}
