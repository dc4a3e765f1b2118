package store

import "gorm.io/gorm"

// Gorm lets the tests of this package ask without the crew, which nothing else can.
func (tx *Tx) Gorm() *gorm.DB { return tx.db }
