// Package storetest gives each test a database of its own on the throwaway
// server that `make test` starts.
package storetest

import (
	"context"
	"database/sql"
	"net/url"
	"os"
	"strings"
	"testing"

	"ergasia/store"

	"github.com/stretchr/testify/require"
)

// URL makes an empty database and gives its address; it is dropped afterwards.
func URL(t testing.TB) string {
	server := os.Getenv("TEST_DATABASE_URL")
	require.NotEmpty(t, server, "TEST_DATABASE_URL is not set: run the tests with `make test`, or through scripts/with-postgres.sh")
	admin, err := sql.Open("pgx", server)
	require.NoError(t, err)
	name := "test_" + strings.ReplaceAll(store.NewID().String(), "-", "")
	_, err = admin.Exec("CREATE DATABASE " + name)
	require.NoError(t, err)
	t.Cleanup(func() {
		_, err := admin.Exec("DROP DATABASE " + name + " WITH (FORCE)")
		require.NoError(t, err)
		require.NoError(t, admin.Close())
	})
	u, err := url.Parse(server)
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}

// New makes a migrated database and opens it.
func New(t testing.TB) *store.DB {
	address := URL(t)
	require.NoError(t, store.Migrate(context.Background(), address))
	db, err := store.Open(context.Background(), address, 8)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	return db
}
