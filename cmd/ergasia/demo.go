package main

import (
	"context"

	"ergasia/api"
	"ergasia/app"
	"ergasia/demo"

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
			return serve(cmd.Context(), s, func(ctx context.Context, a *app.App) (*api.Demo, error) {
				crew, err := demo.Load(ctx, a)
				return &api.Demo{Crew: crew}, err
			})
		},
	}
}
