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

// peakMB is the most memory that this process had since withinMemory, as the kernel counts it.
func peakMB(t testing.TB) (mb int) {
	text, err := os.ReadFile("/proc/self/status")
	require.NoError(t, err)
	_, after, _ := strings.Cut(string(text), "VmHWM:")
	kb, err := strconv.Atoi(strings.Fields(after)[0])
	require.NoError(t, err)
	return kb >> 10
}

// withinMemory has everything that the test does end where the program would take too much.
func withinMemory(t testing.TB) {
	beforehand := debug.SetMemoryLimit(SoftMemory)
	t.Cleanup(func() { debug.SetMemoryLimit(beforehand) })
	debug.FreeOSMemory()
	require.NoError(t, os.WriteFile("/proc/self/clear_refs", []byte("5"), 0o600)) // the peak is counted anew from here
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
