package main

import (
	"context"
	"fmt"
	"net"
	"time"

	"ergasia/api"
	"ergasia/app"
	"ergasia/demo"
	"ergasia/simulators/scale"

	"github.com/spf13/cobra"
)

// demoCommand serves the invented crew, whose people sign in by one press.
func demoCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "demo",
		Short: "Load the demonstration crew once and serve it; anyone who reaches it may sign in",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := readSettings()
			if err != nil {
				return err
			}
			if s.Scale == "" { // the demo has a scale of its own
				l, err := net.Listen("tcp", "127.0.0.1:0")
				if err != nil {
					return fmt.Errorf("starting the simulated scale: %w", err)
				}
				s.Scale = l.Addr().String()
				go func() { _ = scale.New(1, time.Now).Serve(cmd.Context(), l) }()
			}
			return serve(cmd.Context(), s, func(ctx context.Context, a *app.App) (*api.Demo, error) {
				crew, err := demo.Load(ctx, a)
				return &api.Demo{Crew: crew}, err
			})
		},
	}
}
