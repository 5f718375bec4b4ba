package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/signal"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"ulpa/core/field"
	"ulpa/internal/base/postgres"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/work/people"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/upkeep"
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

// asOwner opens the store for whoever holds the owner's address: they act for a school
// itself, in nobody's name.
type asOwner struct{ owner, app string }

func (o *asOwner) flags(c *cobra.Command) {
	ownerFlag(c, &o.owner)
	appFlag(c, &o.app)
}

func (o *asOwner) open(ctx context.Context) (*store.Store, error) {
	if o.owner == "" || o.app == "" {
		return nil, errors.New("give both --owner-url (ULPA_OWNER_URL) and --database-url (ULPA_DATABASE_URL)")
	}
	if err := store.Owns(ctx, o.owner); err != nil {
		return nil, err
	}
	return store.Open(ctx, o.app, time.Now)
}

// school is in whose name a command acts on the school with that short name.
func (o *asOwner) school(ctx context.Context, slug string) (who.Who, error) {
	id, err := store.SchoolBySlug(ctx, o.owner, slug)
	return who.Who{School: id, Kind: who.Coordinator, Zone: time.UTC}, err
}

// schoolFlags are what it takes to begin a school.
func schoolFlags(c *cobra.Command, n *store.NewSchool, what string) (place *[2]string) {
	place = new([2]string)
	f := c.Flags()
	f.StringVar(&n.Slug, "school", "", "the school's short name, like ferrywharf")
	f.StringVar(&n.Name, "school-name", "", "its full name"+what)
	f.StringVar(&n.Zone, "zone", "UTC", "its time zone"+what)
	f.StringVar(&n.UnitSystem, "units", "metric", "metric or us"+what)
	f.StringVar(&n.Language, "language", "en", "en or es"+what)
	f.StringVar(&place[0], "latitude", "", "degrees, north above 0"+what)
	f.StringVar(&place[1], "longitude", "", "degrees, east above 0"+what)
	return place
}

// checked is a school as it may begin.
func checked(n store.NewSchool, place *[2]string) (store.NewSchool, error) {
	facts := people.SchoolFacts{Name: n.Name, Zone: n.Zone, Period: 45}
	for i, to := range []**float64{&facts.Latitude, &facts.Longitude} {
		if place[i] != "" {
			v, err := strconv.ParseFloat(place[i], 64)
			if err != nil {
				return n, fmt.Errorf("--latitude and --longitude must be degrees, like 51.5: %w", err)
			}
			*to = &v
		}
	}
	var e field.Errors
	e.Join(facts.Check())
	people.CheckSlug(&e, n.Slug)
	e.Require(n.UnitSystem == "metric" || n.UnitSystem == "us", "units", "must be metric or us")
	e.Require(words.Known(n.Language), "language", "is not one of those there are")
	n.Name, n.Latitude, n.Longitude = facts.Name, facts.Latitude, facts.Longitude
	return n, e.Err()
}

func schoolCommand() *cobra.Command {
	var owner string
	var n store.NewSchool
	var place *[2]string
	add := &cobra.Command{
		Use: "add", Short: "Add a school", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if owner == "" {
				return errNoOwner
			}
			school, err := checked(n, place)
			if err != nil {
				return err
			}
			if _, err := store.SchoolBySlug(cmd.Context(), owner, school.Slug); err == nil {
				return fmt.Errorf("there is a school with the short name %s already", school.Slug)
			} else if !errors.Is(err, store.ErrNotFound) {
				return err
			}
			if _, err = store.EnsureSchool(cmd.Context(), owner, school); err == nil {
				fmt.Printf("%s is set up. Add its first coordinator with: ulpa user add --school %s --login LOGIN --name NAME\n", school.Name, school.Slug)
			}
			return err
		},
	}
	ownerFlag(add, &owner)
	place = schoolFlags(add, &n, "")
	c := &cobra.Command{Use: "school", Short: "Schools"}
	c.AddCommand(add)
	return c
}

func userCommand() *cobra.Command {
	c := &cobra.Command{Use: "user", Short: "People who can sign in"}
	c.AddCommand(userAddCommand(), userResetCommand())
	return c
}

func userAddCommand() *cobra.Command {
	var o asOwner
	var n people.NewPerson
	var school store.NewSchool
	var place *[2]string
	add := &cobra.Command{
		Use: "add", Short: "Add a person, and the school when it is new", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx := cmd.Context()
			if n.Secret == "" {
				n.Secret = os.Getenv("ULPA_SECRET")
			}
			s, err := o.open(ctx)
			if err != nil {
				return err
			}
			defer s.Close()
			w, err := o.school(ctx, school.Slug)
			if errors.Is(err, store.ErrNotFound) {
				fresh, err := checked(school, place)
				if err != nil {
					return err
				}
				n.Near = []string{fresh.Name, fresh.Slug}
				if _, err := people.Prepare(ctx, n); err != nil { // no school without its person
					return err
				}
				if w.School, err = store.EnsureSchool(ctx, o.owner, fresh); err != nil {
					return err
				}
				w.Kind, w.Zone = who.Coordinator, time.UTC
			} else if err != nil {
				return err
			}
			_, err = people.Add(ctx, s, w, n)
			return err
		},
	}
	o.flags(add)
	place = schoolFlags(add, &school, ", when it is new")
	f := add.Flags()
	f.StringVar((*string)(&n.Kind), "kind", "coordinator", "coordinator, staff or crew")
	f.StringVar(&n.Name, "name", "", "how the person is called; for a crew a made-up name")
	f.StringVar(&n.Login, "login", "", "what an adult signs in with")
	f.StringVar(&n.Secret, "secret", "", "password, or a crew's PIN (better: ULPA_SECRET)")
	return add
}

// userResetCommand is the way back of the last coordinator who forgot the password.
func userResetCommand() *cobra.Command {
	var o asOwner
	var login string
	var proof bool
	c := &cobra.Command{
		Use: "reset", Short: "Let somebody who forgot their password sign in again: prints a code, or sets ULPA_SECRET", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx := cmd.Context()
			s, err := o.open(ctx)
			if err != nil {
				return err
			}
			defer s.Close()
			school, person, err := s.PersonByLogin(ctx, strings.ToLower(login))
			if err != nil {
				return fmt.Errorf("--login %s: %w", login, err)
			}
			w := who.Who{School: school, Kind: who.Coordinator, Zone: time.UTC}
			if proof {
				if err := people.EndProof(ctx, s, w, person); err != nil {
					return err
				}
				fmt.Println("Two-step sign-in is off for this person.")
			}
			if secret := os.Getenv("ULPA_SECRET"); secret != "" {
				return people.SetSecret(ctx, s, w, person, secret)
			}
			code, err := people.WayBack(ctx, s, w, person)
			if err == nil {
				fmt.Printf("%s\n\nOpen /sign-in/code in the browser, type the code, and choose another password. It works once, within a day.\n", code)
			}
			return err
		},
	}
	o.flags(c)
	c.Flags().StringVar(&login, "login", "", "what they sign in with")
	c.Flags().BoolVar(&proof, "end-proof", false, "also turn off their two-step sign-in, when the telephone is lost")
	return c
}

// keyCommand makes keys for programs.
func keyCommand() *cobra.Command {
	var o asOwner
	var slug, called, scope string
	add := &cobra.Command{
		Use: "add", Short: "Make a key for a program, and print it", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx := cmd.Context()
			s, err := o.open(ctx)
			if err != nil {
				return err
			}
			defer s.Close()
			w, err := o.school(ctx, slug)
			if err != nil {
				return fmt.Errorf("--school %s: %w", slug, err)
			}
			id, err := uuid.NewV7()
			if err != nil {
				return err
			}
			key := people.NewKeyText()
			if err := people.AddKey(ctx, s, w, id, called, scope, key); err != nil {
				return err
			}
			fmt.Println(key)
			return nil
		},
	}
	o.flags(add)
	add.Flags().StringVar(&slug, "school", "", "the school's short name")
	add.Flags().StringVar(&called, "name", "", "what the program is called")
	add.Flags().StringVar(&scope, "scope", who.ScopeRead, "read, measure, all (except people, acid and alkali) or dose (acid and alkali too)")
	c := &cobra.Command{Use: "key", Short: "Keys for programs"}
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
				return errors.New("give --database-url (ULPA_DATABASE_URL) and --as LOGIN (ULPA_AS), the person in whose name readings are stored")
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
			w, err := people.Load(ctx, s, who.Who{School: school, Person: person})
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
