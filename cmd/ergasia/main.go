// Command ergasia is the whole program: the server, its upkeep and the
// engines on the command line. One file a command.
package main

import (
	"errors"
	"fmt"
	"os"
	"runtime/debug"

	"ergasia/core/check"

	"github.com/spf13/cobra"
)

// exitBadInput is the exit code for an input that is wrong.
const exitBadInput = 2

// exitPanic is the exit code for a fault of the program itself.
const exitPanic = 3

func main() {
	defer func() {
		if p := recover(); p != nil {
			fmt.Fprintf(os.Stderr, "This is a fault of the program, not of the input: %v\n%s", p, debug.Stack())
			os.Exit(exitPanic)
		}
	}()
	root := &cobra.Command{
		Use:           "ergasia",
		Short:         "Where each thing goes on a shared fishing boat, and how she floats with it",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.AddCommand(calcCommand(), serveCommand(), demoCommand(), migrateCommand(), foundCommand(), openapiCommand(),
		scaleCommand())
	if err := root.Execute(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		var faults check.Faults
		if errors.As(err, &faults) {
			os.Exit(exitBadInput)
		}
		os.Exit(1)
	}
}
