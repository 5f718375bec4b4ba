package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"ulpa/internal/people"
	"ulpa/internal/postgres"
	"ulpa/internal/solution"
	"ulpa/internal/store"
	"ulpa/internal/upkeep"
	"ulpa/internal/who"
)

func ownerFlag(c *cobra.Command, url *string) {
	c.Flags().StringVar(url, "owner-url", setting("ULPA_OWNER_URL", ""), "address of the database, as the owner of its tables (ULPA_OWNER_URL)")
}

func appFlag(c *cobra.Command, url *string) {
	c.Flags().StringVar(url, "database-url", setting("ULPA_DATABASE_URL", ""), "address of the database, as the role ulpa_app (ULPA_DATABASE_URL)")
}

func migrateCommand() *cobra.Command {
	var owner, password string
	c := &cobra.Command{
		Use: "migrate", Short: "Bring the database to the newest shape", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if owner == "" {
				return errNoOwner
			}
			return upkeep.Migrate(cmd.Context(), owner, password)
		},
	}
	ownerFlag(c, &owner)
	c.Flags().StringVar(&password, "app-password", setting("ULPA_APP_PASSWORD", ""), "password to give the role ulpa_app (ULPA_APP_PASSWORD)")
	return c
}

func userCommand() *cobra.Command {
	var owner, app, slug, school, zone, units string
	var n people.NewPerson
	add := &cobra.Command{
		Use: "add", Short: "Add a person, and the school when it is new", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx := cmd.Context()
			if owner == "" || app == "" {
				return errors.New("say both --owner-url (ULPA_OWNER_URL) and --database-url (ULPA_DATABASE_URL)")
			}
			loc, err := time.LoadLocation(zone)
			if err != nil {
				return fmt.Errorf("--zone: %w", err)
			}
			if n.Secret == "" {
				n.Secret = os.Getenv("ULPA_SECRET")
			}
			id, err := store.EnsureSchool(ctx, owner, store.NewSchool{Slug: slug, Name: school, Zone: zone, UnitSystem: units})
			if err != nil {
				return err
			}
			s, err := store.Open(ctx, app, time.Now)
			if err != nil {
				return err
			}
			defer s.Close()
			// Whoever holds the owner's address acts for the school itself.
			_, err = people.Add(ctx, s, who.Who{School: id, Kind: who.Coordinator, Zone: loc}, n)
			return err
		},
	}
	ownerFlag(add, &owner)
	appFlag(add, &app)
	f := add.Flags()
	f.StringVar(&slug, "school", "", "the school's short name, like ferrywharf")
	f.StringVar(&school, "school-name", "", "its full name, when it is new")
	f.StringVar(&zone, "zone", "UTC", "its time zone, when it is new")
	f.StringVar(&units, "units", "metric", "metric or us, when it is new")
	f.StringVar((*string)(&n.Kind), "kind", "coordinator", "coordinator, staff or crew")
	f.StringVar(&n.Name, "name", "", "how the person is called; for a crew a made-up name")
	f.StringVar(&n.Login, "login", "", "what an adult signs in with")
	f.StringVar(&n.Secret, "secret", "", "password, or a crew's PIN (better: ULPA_SECRET)")
	c := &cobra.Command{Use: "user", Short: "People who may sign in"}
	c.AddCommand(add)
	return c
}

func importCommand() *cobra.Command {
	var app, login string
	readings := &cobra.Command{
		Use: "readings FILE.csv", Short: "Store the readings of a meter's log, all or nothing", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			ctx := cmd.Context()
			if app == "" || login == "" {
				return errors.New("say --database-url (ULPA_DATABASE_URL) and --as LOGIN (ULPA_AS): in whose name")
			}
			body, err := os.Open(args[0])
			if err != nil {
				return err
			}
			defer body.Close()
			s, err := store.Open(ctx, app, time.Now)
			if err != nil {
				return err
			}
			defer s.Close()
			school, person, err := s.PersonByLogin(ctx, strings.ToLower(login))
			if err != nil {
				return fmt.Errorf("--as %s: %w", login, err)
			}
			w, err := people.Load(ctx, s, school, person)
			if err != nil {
				return err
			}
			name := filepath.Base(args[0])
			out, problems, err := solution.Import(ctx, s, w, name, body)
			for _, p := range problems {
				fmt.Fprintf(os.Stderr, "%s:%d: %s: %s\n", args[0], p.Line, p.Column, p.Message)
			}
			if len(problems) > 0 {
				return errors.New("nothing has been stored")
			}
			if err == nil {
				fmt.Println(out.Say().String() + ".")
			}
			return err
		},
	}
	appFlag(readings, &app)
	readings.Flags().StringVar(&login, "as", setting("ULPA_AS", ""), "the login in whose name they are stored (ULPA_AS)")
	c := &cobra.Command{Use: "import", Short: "Bring data in from files"}
	c.AddCommand(readings)
	return c
}

// withPostgresCommand runs a command beside a private server of its own, for
// the tests: the server is gone when the command ends, however it ends.
func withPostgresCommand() *cobra.Command {
	return &cobra.Command{
		Use: "with-postgres COMMAND...", Short: "Run a command beside a private PostgreSQL", Hidden: true, DisableFlagParsing: true, Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) (err error) {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			dir, err := os.MkdirTemp("/tmp", "ulpa-test-")
			if err != nil {
				return err
			}
			defer os.RemoveAll(dir)
			if err := os.Chmod(dir, 0o755); err != nil { // #nosec G302 -- PostgreSQL's own user must get in
				return err
			}
			pg, err := postgres.Start(ctx, filepath.Join(dir, "pg"))
			if err != nil {
				return err
			}
			defer func() { err = errors.Join(err, pg.Stop()) }()
			return runBeside(ctx, pg, args)
		},
	}
}

func runBeside(ctx context.Context, pg *postgres.Server, args []string) error {
	run := exec.CommandContext(ctx, args[0], args[1:]...) // #nosec G204 -- running what it is told is what it is for
	run.Cancel = func() error { return run.Process.Signal(os.Interrupt) }
	run.Stdin, run.Stdout, run.Stderr = os.Stdin, os.Stdout, os.Stderr
	run.Env = append(
		os.Environ(),
		"ULPA_TEST_OWNER_URL="+pg.URL("postgres"),
		"ULPA_TEST_ROOT_URL="+pg.RootURL("postgres"),
		"ULPA_TEST_APP_PASSWORD="+pg.Password(),
	)
	return run.Run()
}
