// Package demotest gives each test a demonstration of its own: a copy of one that was loaded
// once.
package demotest

import (
	"context"
	"testing"

	"ergasia/app"
	"ergasia/demo"
	"ergasia/store"
	"ergasia/store/storetest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// connections of a test's program.
const connections = 8

// New opens a loaded demonstration and gives its crew.
func New(t testing.TB) (*app.App, *store.DB, uuid.UUID) {
	address := Database(t)
	db, err := store.Open(t.Context(), address, connections)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	a := app.New(db)
	crew, err := demo.Load(t.Context(), a) // it is there: this finds it
	require.NoError(t, err)
	return a, db, crew
}

// Database is the address of a copy.
func Database(t testing.TB) string {
	return storetest.Like(t, "demo_in_memory", func(address string) {
		ctx := context.Background()
		require.NoError(t, store.Migrate(ctx, address))
		db, err := store.Open(ctx, address, connections)
		require.NoError(t, err)
		defer func() { require.NoError(t, db.Close()) }()
		_, err = demo.Load(ctx, app.New(db))
		require.NoError(t, err)
	})
}
