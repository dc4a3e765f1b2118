package main

import (
	"fmt"
	"net"
	"os/signal"
	"syscall"
	"time"

	"ergasia/simulators/scale"

	"github.com/spf13/cobra"
)

// scaleCommand runs the simulated hanging scale.
func scaleCommand() *cobra.Command {
	var address string
	var seed uint64
	c := &cobra.Command{
		Use:   "scale",
		Short: "Run a simulated hanging scale; point ERGASIA_SCALE at it",
		Long:  "Run a simulated hanging scale: ten readings a second, with noise and swing.\nIts line protocol is in docs/formats.md; it takes \"hang 12.3\" and \"take\".",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), syscall.SIGINT, syscall.SIGTERM)
			defer stop()
			l, err := net.Listen("tcp", address)
			if err != nil {
				return fmt.Errorf("%s can't be listened on: choose another --address (%w)", address, err)
			}
			fmt.Fprintln(cmd.OutOrStdout(), "The scale is at", l.Addr())
			return scale.New(seed, time.Now).Serve(ctx, l)
		},
	}
	c.Flags().StringVar(&address, "address", "127.0.0.1:8095", "where it listens")
	c.Flags().Uint64Var(&seed, "seed", 1, "of its noise")
	return c
}
