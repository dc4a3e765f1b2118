package store

import (
	"database/sql/driver"
	"errors"
	"io"
	"net"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// exclusionViolation is of a row for which others leave no room, as of days (PostgreSQL,
// appendix A).
const exclusionViolation = "23P01"

// state is PostgreSQL's code of an error; empty where it said none.
func state(err error) string {
	var said *pgconn.PgError
	if errors.As(err, &said) {
		return said.Code
	}
	return ""
}

// Excluded says whether an error is of a row for which others leave no room.
func Excluded(err error) bool { return state(err) == exclusionViolation }

// Busy says whether an error is of a lock that others held for too long:
// lock_not_available (PostgreSQL, appendix A).
func Busy(err error) bool {
	return state(err) == "55P03"
}

// Classes of PostgreSQL's errors (appendix A) that say nothing of what was asked, but that
// the server can't serve now: no connection, out of disk, memory or connections, being
// shut down or starting, and its files.
var away = []string{"08", "53", "57P", "58"}

// Away says whether an error is of a database that can't serve now: it may later.
func Away(err error) bool {
	if code := state(err); code != "" {
		return slices.ContainsFunc(away, func(class string) bool { return strings.HasPrefix(code, class) })
	}
	var dialled *pgconn.ConnectError
	var wire net.Error
	return errors.As(err, &dialled) || errors.As(err, &wire) || errors.Is(err, driver.ErrBadConn) ||
		errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, net.ErrClosed)
}
