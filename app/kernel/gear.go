package kernel

import (
	"time"
)

// Today is the day it is, as the program's clock says it, in UTC.
func (a *Kernel) Today() time.Time { return a.Now().UTC().Truncate(24 * time.Hour) }
