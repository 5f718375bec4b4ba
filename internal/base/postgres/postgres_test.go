package postgres_test

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/postgres"
)

func folder(t *testing.T) string {
	dir, err := os.MkdirTemp("/tmp", "ulpa-pg-test-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { os.RemoveAll(dir) })
	return filepath.Join(dir, "pg")
}

// One server is made, found again while it runs, stopped, and started on the
// same data; a half-made one is made anew.
func TestAServerComesAndGoes(t *testing.T) {
	ctx := context.Background()
	dir := folder(t)
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "data"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "data", "half"), []byte("made"), 0o600))
	s, err := postgres.Start(ctx, dir)
	require.NoError(t, err)
	ask := func(url, sql string) (n int) {
		conn, err := pgx.Connect(ctx, url)
		require.NoError(t, err)
		defer conn.Close(ctx)
		require.NoError(t, conn.QueryRow(ctx, sql).Scan(&n))
		return n
	}
	conn, err := pgx.Connect(ctx, s.RootURL("postgres"))
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "CREATE TABLE kept (n int); INSERT INTO kept VALUES (1)")
	require.NoError(t, errors.Join(err, conn.Close(ctx)))
	found, err := postgres.Start(ctx, dir)
	require.NoError(t, err)
	require.Equal(t, s.URL("postgres"), found.URL("postgres"), "a running server is taken over, not doubled")
	require.NoError(t, found.Stop())
	_, err = pgx.Connect(ctx, s.URL("postgres"))
	require.Error(t, err)
	again, err := postgres.Start(ctx, dir)
	require.NoError(t, err)
	defer func() { require.NoError(t, again.Stop()) }()
	require.Equal(t, 1, ask(again.RootURL("postgres"), "SELECT count(*) FROM kept"))
	for _, url := range []string{again.URL("postgres"), again.AppURL("postgres")} {
		require.Zero(t, ask(url, "SELECT count(*) FROM pg_roles WHERE rolname = current_user AND (rolsuper OR rolbypassrls)"))
	}
}

// A server that hangs, and hears nothing, is ended by force, and starts again on what was kept.
func TestAServerThatHangsIsEnded(t *testing.T) {
	ctx := context.Background()
	dir := folder(t)
	s, err := postgres.Start(ctx, dir)
	require.NoError(t, err)
	b, err := os.ReadFile(filepath.Join(dir, "data", "postmaster.pid"))
	require.NoError(t, err)
	pid, err := strconv.Atoi(strings.SplitN(string(b), "\n", 2)[0])
	require.NoError(t, err)
	require.NoError(t, syscall.Kill(pid, syscall.SIGSTOP))
	require.NoError(t, s.Stop())
	require.ErrorIs(t, syscall.Kill(pid, 0), syscall.ESRCH)
	again, err := postgres.Start(ctx, dir)
	require.NoError(t, err)
	require.NoError(t, again.Stop())
}

func TestAHomeThatPostgresCanEnter(t *testing.T) {
	open := t.TempDir()
	require.NotEmpty(t, postgres.Home(filepath.Join(open, "x")))
	if os.Geteuid() != 0 {
		t.Skip("only root hands the server to another user")
	}
	closed := filepath.Join(folder(t), "private")
	require.NoError(t, os.MkdirAll(closed, 0o700))
	require.NoError(t, os.Chmod(closed, 0o700))
	home := postgres.Home(filepath.Join(closed, "checkout", ".ulpa"))
	require.Contains(t, home, "/var/tmp/ulpa-", "under a private folder the files lie elsewhere")
	require.Equal(t, "/srv/x", postgres.Home("/srv/x"))
}
