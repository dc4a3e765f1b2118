// Command ergasia is the whole program: the server, its upkeep and the
// engines on the command line. One file a command.
package main

import (
	"errors"
	"fmt"
	"os"

	"ergasia/core/check"

	"github.com/spf13/cobra"
)

// exitBadInput is the exit code for an input that is wrong.
const exitBadInput = 2

func main() {
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
