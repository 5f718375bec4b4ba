package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"

	"github.com/spf13/cobra"

	"ulpa/internal/base/postgres"
	"ulpa/internal/doors/seasontrial"
)

func seasonTrialCommand() *cobra.Command {
	o := seasontrial.Options{}
	said := false
	c := &cobra.Command{
		Use:   "season-trial",
		Short: "Play made-up seasons by Ulpa’s advice, a wall chart and a good grower",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			if said {
				o.Log = func(line string) { fmt.Fprintln(os.Stderr, line) }
			}
			return runSeasonTrial(ctx, o)
		},
	}
	c.Flags().IntVar(&o.Seasons, "seasons", 30, "how many seasons of each group of scenarios")
	c.Flags().Uint64Var(&o.Seed, "seed", 1, "which ones; the same number gives the same seasons")
	c.Flags().BoolVar(&o.OverHTTP, "over-http", false, "ask a server over HTTP, instead of the same operations in this process")
	c.Flags().IntVar(&o.Workers, "at-once", 2, "how many seasons are played at once")
	c.Flags().StringVar(&o.Only, "only", "", "one scenario by its name")
	c.Flags().BoolVar(&said, "refusals", false, "show what Ulpa did not take")
	return c
}

func runSeasonTrial(ctx context.Context, o seasontrial.Options) (err error) {
	dir, err := os.MkdirTemp("/var/tmp", "ulpa-season-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	if err := os.Chmod(dir, 0o755); err != nil { // #nosec G302 -- PostgreSQL's own user must get in
		return err
	}
	pg, err := postgres.Start(ctx, filepath.Join(dir, "postgres"))
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, pg.Stop()) }()
	t, err := seasontrial.New(ctx, pg, o)
	if err != nil {
		return err
	}
	return t.Run(ctx, os.Stdout)
}
