package scale

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"strings"
	"testing"
	"time"

	"ergasia/core/weigh"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func kg(t *testing.T, line string) (n float64) {
	_, err := fmt.Sscanf(line, "kg %f", &n)
	require.NoError(t, err, line)
	return n
}

func TestALoadSwingsAndComesToRest(t *testing.T) {
	now := time.Unix(0, 0)
	s := New(1, func() time.Time { return now })
	require.NoError(t, s.Hang(12.34))
	var readings []float64
	stillAt := -1
	for i := range 80 {
		now = now.Add(period)
		readings = append(readings, kg(t, s.Line()))
		if still, ok := weigh.Steady(readings, Step); ok && stillAt < 0 {
			stillAt = i
			assert.InDelta(t, 12.34, still.Kg, 4*still.Sigma+0.01)
		}
	}
	assert.Greater(t, stillAt, weigh.Window, "not while it swings")
	assert.Less(t, stillAt, 60, "and within six seconds")
	require.NoError(t, s.Hang(70))
	assert.Equal(t, "over", s.Line())
	assert.Error(t, s.Hang(-1))
}

func TestTheScaleIsReadOverTheNetwork(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	go func() { ended <- New(1, time.Now).Serve(ctx, l) }()
	conn, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	lines := bufio.NewScanner(conn)
	next := func(prefix string) string {
		for lines.Scan() {
			if strings.HasPrefix(lines.Text(), prefix) {
				return lines.Text()
			}
		}
		t.Fatal("the scale hung up: ", lines.Err())
		return ""
	}
	assert.Contains(t, next("ergasia-scale 1"), "step=0.02 max=60 simulated")
	assert.InDelta(t, 0, kg(t, next("kg")), 0.1)
	for command, answer := range map[string]string{"hang 5": "ok", "hang many": "no: ", "hang NaN": "no: a load is",
		"dance": "no: say hang"} {
		_, err = fmt.Fprintln(conn, command)
		require.NoError(t, err)
		next(answer)
	}
	_, _ = fmt.Fprintln(conn, "take")
	next("ok")
	cancel()
	assert.NoError(t, <-ended)
}
