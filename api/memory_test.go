package api

import (
	"os"
	"runtime/debug"
	"strconv"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/require"
)

// memoryBeside is how much address space an attack may take beside what the program has at
// rest, in bytes.
const memoryBeside = 1 << 30

// withinMemory has everything that the test does end where the program would take too much.
func withinMemory(t testing.TB) {
	debug.FreeOSMemory()
	text, err := os.ReadFile("/proc/self/statm")
	require.NoError(t, err)
	pages, err := strconv.ParseUint(strings.Fields(string(text))[0], 10, 64)
	require.NoError(t, err)
	var was syscall.Rlimit
	require.NoError(t, syscall.Getrlimit(syscall.RLIMIT_AS, &was))
	least := syscall.Rlimit{Cur: pages*uint64(os.Getpagesize()) + memoryBeside, Max: was.Max}
	require.NoError(t, syscall.Setrlimit(syscall.RLIMIT_AS, &least))
	t.Cleanup(func() { require.NoError(t, syscall.Setrlimit(syscall.RLIMIT_AS, &was)) })
}
