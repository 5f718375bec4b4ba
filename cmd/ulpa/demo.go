package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"os/signal"
	"path/filepath"
	"strconv"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/spf13/cobra"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/postgres"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/upkeep"
)

type demoOptions struct {
	dir, today string
	port       int
	fresh      bool
	makeOnly   bool
	years      int
	empty      bool
}

func demoCommand() *cobra.Command {
	var o demoOptions
	c := &cobra.Command{
		Use:   "demo",
		Short: "Start the made-up school on a private PostgreSQL",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			return runDemo(ctx, o)
		},
	}
	port, _ := strconv.Atoi(setting("ULPA_DEMO_PORT", "8080"))
	c.Flags().StringVar(&o.dir, "dir", setting("ULPA_DEMO_DIR", besideCheckout()), "folder for its files (ULPA_DEMO_DIR)")
	c.Flags().StringVar(&o.today, "today", setting("ULPA_DEMO_TODAY", demo.Day.String()), "the day on which it starts (ULPA_DEMO_TODAY)")
	c.Flags().IntVar(&o.port, "port", port, "port to listen on; the next free one when taken (ULPA_DEMO_PORT)")
	c.Flags().BoolVar(&o.fresh, "fresh", false, "start over")
	c.Flags().BoolVar(&o.makeOnly, "make", false, "only make its private server's files, so that it starts sooner")
	c.Flags().BoolVar(&o.empty, "empty", false, "without the made-up school, to try how one is set up")
	c.Flags().IntVar(&o.years, "years", 0, "years of a busy school behind it, to try it under load (takes a minute or two)")
	return c
}

// besideCheckout is the ignored folder of the checkout that the program was
// built in, wherever it is called from; elsewhere, one in this folder.
func besideCheckout() string {
	if exe, err := os.Executable(); err == nil {
		root := filepath.Dir(filepath.Dir(exe))
		if _, err := os.Stat(filepath.Join(root, "go.mod")); err == nil {
			return filepath.Join(root, ".ulpa")
		}
	}
	return ".ulpa"
}

func runDemo(ctx context.Context, o demoOptions) (err error) {
	day, err := calendar.ParseDay(o.today)
	if err != nil {
		return err
	}
	dir, err := filepath.Abs(o.dir)
	if err != nil {
		return err
	}
	if home := postgres.Home(dir); home != dir {
		fmt.Printf("PostgreSQL's own user cannot enter %s; its files are in %s.\n", dir, home)
		dir = home
	}
	if err := os.MkdirAll(dir, 0o755); err != nil { // #nosec G301 -- PostgreSQL's own user must get in
		return err
	}
	lock, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600) // #nosec G304 -- the folder is whoever started it says
	if err != nil {
		return err
	}
	defer lock.Close()
	if err := syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil && o.makeOnly {
		return nil // whoever runs there has made them
	} else if err != nil {
		return fmt.Errorf("a demo is already running on %s; stop it first, or give another --dir", dir)
	}
	files := filepath.Join(dir, "postgres")
	if o.makeOnly {
		return postgres.Make(ctx, files)
	}
	log, err := os.OpenFile(
		filepath.Join(dir, "ulpa.log"),
		os.O_CREATE|os.O_WRONLY|os.O_APPEND,
		0o600,
	) // #nosec G304 -- the folder is whoever started it says
	if err != nil {
		return err
	}
	defer log.Close()
	pg, err := postgres.Start(ctx, files)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, pg.Stop()) }()
	zone, err := time.LoadLocation(demo.Zone)
	if err != nil {
		return err
	}
	clock := &demo.Clock{}
	clock.Set(day.At(10, 5, zone))
	if err := prepareDemo(ctx, pg, clock, day, o, clockFile(dir)); err != nil {
		return err
	}
	s, err := store.Open(ctx, pg.AppURL("ulpa"), clock.Now)
	if err != nil {
		return err
	}
	defer s.Close()
	l, err := listenFrom(o.port)
	if err != nil {
		return err
	}
	key, err := beginKey(ctx, s, os.Stdout, l.Addr().String())
	if err != nil {
		return err
	}
	announce(os.Stdout, l.Addr().(*net.TCPAddr).Port, o.port, day, o.empty)
	notice := func() say.Text {
		return say.T("A made-up school, set on %s. Nothing here is real.", say.Date(clock.Now().In(zone), "Mon 2 January 2006"))
	}
	clock.OnMove(func(to time.Time) error { return os.WriteFile(clockFile(dir), []byte(to.Format(time.RFC3339)), 0o600) })
	err = serve(ctx, l, face.Config{Store: s, Log: newLog(log), Notice: notice, Clock: clock, BeginKey: key})
	fmt.Println("Stopped.")
	return err
}

// prepareDemo makes the database unless one of that day is there already.
func prepareDemo(ctx context.Context, pg *postgres.Server, clock *demo.Clock, day calendar.Day, o demoOptions, kept string) error {
	conn, err := pgx.Connect(ctx, pg.URL("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	var made string
	err = conn.QueryRow(ctx, "SELECT coalesce(shobj_description(oid, 'pg_database'), '') FROM pg_database WHERE datname = 'ulpa'").Scan(&made)
	if err != nil && !errors.Is(err, pgx.ErrNoRows) {
		return err
	}
	want := "ulpa demo of " + day.String()
	if o.years > 0 {
		want += fmt.Sprintf(" with %d years", o.years)
	}
	if o.empty {
		want += ", empty"
	}
	if made == want && !o.fresh {
		if err := upkeep.Migrate(ctx, pg.URL("ulpa"), ""); err != nil {
			return err
		}
		return errors.Join(resume(ctx, pg, clock), resumeClock(clock, kept))
	}
	_ = os.Remove(kept)
	go demo.Prepare() // while the tables are made
	for _, q := range []string{"DROP DATABASE IF EXISTS ulpa WITH (FORCE)", "CREATE DATABASE ulpa"} {
		if _, err := conn.Exec(ctx, q); err != nil {
			return err
		}
	}
	if err := upkeep.Migrate(ctx, pg.URL("ulpa"), pg.Password()); err != nil {
		return err
	}
	if !o.empty {
		if err := loadDemo(ctx, pg, clock, day, o.years); err != nil {
			return err
		}
	}
	_, err = conn.Exec(ctx, "COMMENT ON DATABASE ulpa IS '"+want+"'")
	return err
}

// loadDemo writes the made-up school.
func loadDemo(ctx context.Context, pg *postgres.Server, clock *demo.Clock, day calendar.Day, years int) error {
	school, err := store.EnsureSchool(ctx, pg.URL("ulpa"), demo.School)
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, pg.AppURL("ulpa"), clock.Now)
	if err != nil {
		return err
	}
	defer s.Close()
	if err := demo.Load(ctx, s, clock, school, day); err != nil {
		return err
	}
	if err := demo.LetPrograms(ctx, s, school); err != nil || years == 0 {
		return err
	}
	return demo.Grow(ctx, pg.URL("ulpa"), school, day, demo.Busy(years))
}

// resume lets the demo's clock go on from the last thing written down.
func resume(ctx context.Context, pg *postgres.Server, clock *demo.Clock) error {
	conn, err := pgx.Connect(ctx, pg.URL("ulpa"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	var last *time.Time
	if err := conn.QueryRow(ctx, "SELECT max(written_at) FROM entry").Scan(&last); err != nil {
		return err
	}
	if last != nil && last.After(clock.Now()) {
		clock.Set(*last)
	}
	return nil
}

// clockFile keeps to when somebody has moved the demo's clock.
func clockFile(dir string) string { return filepath.Join(dir, "clock") }

// resumeClock lets the clock go on from where somebody moved it to.
func resumeClock(clock *demo.Clock, kept string) error {
	text, err := os.ReadFile(kept) // #nosec G304 -- the folder is whoever started it says
	if errors.Is(err, os.ErrNotExist) {
		return nil
	} else if err != nil {
		return err
	}
	at, err := time.Parse(time.RFC3339, string(text))
	if err == nil && at.After(clock.Now()) {
		clock.Set(at)
	}
	return err
}

// listenFrom takes the port, or the next free one.
func listenFrom(port int) (net.Listener, error) {
	var err error
	for p := port; p < port+100; p++ {
		var l net.Listener
		if l, err = net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", p)); err == nil || port == 0 {
			return l, err
		}
	}
	return nil, fmt.Errorf("no free port from %d on: %w", port, err)
}

func announce(w io.Writer, port, wanted int, day calendar.Day, empty bool) {
	if port != wanted && wanted != 0 {
		fmt.Fprintf(w, "Port %d is taken; using %d.\n", wanted, port)
	}
	if empty {
		fmt.Fprintf(w, "\n  http://127.0.0.1:%d\n\nCtrl-C stops it.\n", port)
		return
	}
	fmt.Fprintf(w, "\n%s, a made-up school, on %s %s\n\n  http://127.0.0.1:%d\n\n", demo.School.Name, day.Long(), day.UTC().Format("2006"), port)
	for _, p := range demo.People {
		if p.Login != "" {
			fmt.Fprintf(w, "  %-12s %-11s %s / %s\n", p.Name, p.Kind, p.Login, p.Secret)
		} else {
			fmt.Fprintf(w, "  %-12s %-11s PIN %s at http://127.0.0.1:%d/sign-in?school=%s\n", p.Name, p.Kind, p.Secret, port, demo.School.Slug)
		}
	}
	fmt.Fprintf(w, "  %-12s %-11s %s at http://127.0.0.1:%d/api/v1/openapi.json\n", demo.KeyName, "key", demo.Key, port)
	fmt.Fprint(w, "\nCtrl-C stops it.\n")
}
