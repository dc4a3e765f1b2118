package weighing

import (
	"fmt"
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhatDoesNotGreetLikeAScaleIsNone(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = l.Close() }()
	go func() {
		if conn, err := l.Accept(); err == nil {
			_, _ = fmt.Fprintln(conn, "HTTP/1.1 400")
			_ = conn.Close()
		}
	}()
	assert.ErrorContains(t, (&Scale{}).read(t.Context(), l.Addr().String()), "is no scale")
}
