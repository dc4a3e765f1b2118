package main

import (
	"bufio"
	"fmt"
	"os"
	"strings"

	"ergasia/api"
	"ergasia/app"
	"ergasia/app/refuse"
	"ergasia/store"

	"github.com/spf13/cobra"
)

func migrateCommand() *cobra.Command {
	var down bool
	c := &cobra.Command{
		Use:   "migrate",
		Short: "Bring the database's schema up to date",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := readSettings()
			if err != nil {
				return err
			}
			if down {
				return store.MigrateDown(cmd.Context(), s.MigrateURL)
			}
			return store.Migrate(cmd.Context(), s.MigrateURL)
		},
	}
	c.Flags().BoolVar(&down, "down", false, "take every table away instead, and all data with them")
	return c
}

// foundCommand makes a crew and its first owner. The password comes from
// standard input, so that no process list or shell history keeps it.
func foundCommand() *cobra.Command {
	var crew, name, login string
	c := &cobra.Command{
		Use:   "found --crew NAME --name NAME --login LOGIN < password",
		Short: "Make a crew with its first owner; the password is read from standard input",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := readSettings()
			if err != nil {
				return err
			}
			if info, err := os.Stdin.Stat(); err == nil && info.Mode()&os.ModeCharDevice != 0 {
				fmt.Fprint(os.Stderr, "Password, at least 10 characters (it is shown): ")
			}
			password, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
			if err != nil && password == "" {
				return fmt.Errorf("no password on standard input: %w", err)
			}
			if err := store.Migrate(cmd.Context(), s.MigrateURL); err != nil {
				return err
			}
			db, err := store.Open(cmd.Context(), s.DatabaseURL, 2)
			if err != nil {
				return err
			}
			defer func() { _ = db.Close() }()
			if _, _, err := app.New(db).Crew.Found(cmd.Context(), crew, name, login,
				strings.TrimRight(password, "\r\n")); err != nil {
				return sentence(err)
			}
			fmt.Printf("Crew %q is founded; %s signs in as %q.\n", crew, name, login)
			return nil
		},
	}
	c.Flags().StringVar(&crew, "crew", "", "the crew's name")
	c.Flags().StringVar(&name, "name", "", "what the crew calls its first owner")
	c.Flags().StringVar(&login, "login", "", "the owner's login")
	for _, flag := range []string{"crew", "name", "login"} {
		_ = c.MarkFlagRequired(flag) // they exist
	}
	return c
}

// sentence spells a refusal out with its faults, for a terminal.
func sentence(err error) error {
	if refusal, ok := err.(*refuse.Error); ok && len(refusal.Faults) > 0 {
		return fmt.Errorf("%w\n%w", err, refusal.Faults)
	}
	return err
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "openapi",
		Short: "Print the OpenAPI 3.1 document of the interface",
		Args:  cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			spec, err := api.Spec()
			if err == nil {
				_, err = fmt.Print(string(spec))
			}
			return err
		},
	}
}
