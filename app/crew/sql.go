package crew

import (
	"fmt"

	"ergasia/store"
)

// oneAtATime lets one transaction in the whole program have a key until it ends.
func oneAtATime(tx *store.Tx, key string) error {
	if _, err := tx.Do("SELECT pg_advisory_xact_lock(hashtextextended(@key, 0))", store.Args{"key": key}); err != nil {
		return fmt.Errorf("waiting for other tries: %w", err)
	}
	return nil
}
