package main

import (
	"bufio"
	"net"
	"os"
	"os/exec"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestTheScaleCommandShowsALoad(t *testing.T) {
	cmd := exec.Command(built(t), "scale", "--address", "127.0.0.1:0", "--seed", "4")
	cmd.Env = []string{"PATH=" + os.Getenv("PATH")}
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	_, address, found := strings.Cut(strings.TrimSpace(line), "The scale is at ")
	require.True(t, found, line)
	conn, err := net.Dial("tcp", address)
	require.NoError(t, err)
	lines := bufio.NewScanner(conn)
	require.True(t, lines.Scan())
	assert.Equal(t, "ergasia-scale 1 step=0.02 max=60 simulated", lines.Text())
	_, err = conn.Write([]byte("hang 70\n"))
	require.NoError(t, err)
	for lines.Scan() && lines.Text() != "over" { // it may show a reading or two of before
		assert.Regexp(t, `^(ok|kg -?\d+\.\d\d)$`, lines.Text())
	}
	assert.Equal(t, "over", lines.Text())
	require.NoError(t, cmd.Process.Signal(syscall.SIGTERM))
	assert.NoError(t, cmd.Wait(), "it stops cleanly")
}

func TestATakenPortOfTheScaleIsSaid(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = taken.Close() }()
	_, errs, code := runBuilt(t, built(t), "", "scale", "--address", taken.Addr().String())
	assert.Equal(t, 1, code)
	assert.Contains(t, errs, "choose another --address")
}
