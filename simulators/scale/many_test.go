package scale

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSeveralReadTheSameLoadAndARudeOneHarmsNobody(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	s := New(2, time.Now)
	go func() { ended <- s.Serve(ctx, l) }()
	rude, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	_, _ = rude.Write([]byte(strings.Repeat("x", 10_000))) // a line without an end
	require.NoError(t, s.Hang(9))
	var group sync.WaitGroup
	for range 5 {
		group.Go(func() {
			conn, err := net.Dial("tcp", l.Addr().String())
			if !assert.NoError(t, err) {
				return
			}
			defer func() { _ = conn.Close() }()
			lines := bufio.NewScanner(conn)
			seen := 0
			for lines.Scan() && seen < 4 {
				var kg float64
				if n, _ := fmt.Sscanf(lines.Text(), "kg %f", &kg); n == 1 {
					assert.InDelta(t, 9, kg, 9*swing+0.2)
					seen++
				}
			}
			assert.Equal(t, 4, seen)
		})
	}
	group.Wait()
	cancel()
	assert.NoError(t, <-ended)
}

func TestTheSameSeedGivesTheSameNoise(t *testing.T) {
	at := time.Unix(100, 0)
	clock := func() time.Time { return at }
	a, b, c := New(1, clock), New(1, clock), New(2, clock)
	other := false
	for range 50 {
		x := a.Line()
		assert.Equal(t, x, b.Line())
		other = other || x != c.Line()
	}
	assert.True(t, other, "another seed gives other noise")
}
