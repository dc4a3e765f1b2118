// Package storetest gives each test a database of its own on the throwaway
// server that `make test` starts.
package storetest

import (
	"context"
	"database/sql"
	"fmt"
	"net/url"
	"os"
	"strings"
	"testing"

	"ergasia/store"

	"github.com/stretchr/testify/require"
)

// server is the address of the throwaway server.
func server(t testing.TB) string {
	address := os.Getenv("TEST_DATABASE_URL")
	require.NotEmpty(t, address, "TEST_DATABASE_URL is not set: run the tests with `make test`, or through scripts/with-postgres.sh")
	return address
}

// URL makes an empty database and gives its address; it is dropped afterwards.
func URL(t testing.TB) string { return database(t, "template1") }

// New makes a migrated database and opens it: a copy of one that was migrated once.
func New(t testing.TB) *store.DB {
	address := database(t, migrated(t))
	db, err := store.Open(context.Background(), address, 8)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	return db
}

// database makes a database like another; it is dropped afterwards.
func database(t testing.TB, like string) string {
	admin, err := sql.Open("pgx", server(t))
	require.NoError(t, err)
	name := "test_" + strings.ReplaceAll(store.NewID().String(), "-", "")
	_, err = admin.Exec("CREATE DATABASE " + name + " TEMPLATE " + like + " STRATEGY file_copy")
	require.NoError(t, err)
	t.Cleanup(func() {
		_, err := admin.Exec("DROP DATABASE " + name + " WITH (FORCE)")
		require.NoError(t, err)
		require.NoError(t, admin.Close())
	})
	return address(t, name)
}

func address(t testing.TB, name string) string {
	u, err := url.Parse(server(t))
	require.NoError(t, err)
	u.Path = "/" + name
	return u.String()
}

// migrated names a migrated database that nobody uses but to copy it.
func migrated(t testing.TB) string {
	return template(t, fmt.Sprintf("migrated_%d", store.Version()), func(address string) {
		require.NoError(t, store.Migrate(context.Background(), address))
	})
}

// Like makes a copy of a database that fill makes the first time that its name
// is asked for, and gives the copy's address; the copy is dropped afterwards.
func Like(t testing.TB, name string, fill func(address string)) string {
	return database(t, template(t, name, fill))
}

// template fills a database once. Whichever test comes first does it; the others,
// in this program or another, wait for it.
func template(t testing.TB, name string, fill func(address string)) string {
	ctx := context.Background()
	admin, err := sql.Open("pgx", server(t))
	require.NoError(t, err)
	defer func() { _ = admin.Close() }()
	conn, err := admin.Conn(ctx)
	require.NoError(t, err)
	defer func() { _ = conn.Close() }()
	_, err = conn.ExecContext(ctx, "SELECT pg_advisory_lock(hashtext($1))", name)
	require.NoError(t, err)
	defer func() { _, _ = conn.ExecContext(ctx, "SELECT pg_advisory_unlock(hashtext($1))", name) }()
	var known bool
	require.NoError(t, conn.QueryRowContext(ctx, "SELECT EXISTS (SELECT FROM pg_database WHERE datname = $1)",
		name).Scan(&known))
	if !known {
		_, err = conn.ExecContext(ctx, "CREATE DATABASE "+name)
		require.NoError(t, err)
		fill(address(t, name))
	}
	return name
}
