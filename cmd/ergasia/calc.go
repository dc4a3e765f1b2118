package main

import (
	"fmt"
	"strings"

	"ergasia/formats/calc"

	"github.com/spf13/cobra"
)

// calcCommand runs an engine on stdin, without server or database.
func calcCommand() *cobra.Command {
	var schema string
	names := calc.Engines()
	c := &cobra.Command{
		Use:   "calc ENGINE < in.json > out.json",
		Short: "Run one engine on JSON: " + strings.Join(names, ", "),
		Long: "Run one engine on JSON from standard input and write JSON to standard output.\n" +
			"An input that is wrong gives exit code 2 and a line for each fault; a fault of the\n" +
			"program itself gives 3.\n" +
			"The format is in docs/formats.md.",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			var out []byte
			var err error
			if schema != "" {
				out, err = calc.Schema(args[0], schema)
			} else {
				out, err = calc.Run(args[0], cmd.InOrStdin())
			}
			if err != nil {
				return err
			}
			_, err = fmt.Fprint(cmd.OutOrStdout(), string(out))
			return err
		},
	}
	c.Flags().StringVar(&schema, "schema", "", "print the JSON Schema of the input (in) or the output (out) instead")
	return c
}
