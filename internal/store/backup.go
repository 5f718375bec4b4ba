package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"github.com/jackc/pgx/v5"

	"ulpa/internal/postgres"
)

// Backup writes everything but sessions and tries to sign in into a file, in
// pg_dump's own format, as one moment of the database: people may go on working.
// The file has its name only once it is whole.
func Backup(ctx context.Context, ownerURL, file string) error {
	part := file + ".part"
	err := program(ctx, ownerURL, "pg_dump", "--format=custom", "--no-owner", "--exclude-table-data=session", "--exclude-table-data=sign_in_attempt", "--file="+part)
	if err != nil {
		return errors.Join(err, ignoreMissing(os.Remove(part)))
	}
	return os.Rename(part, file)
}

// Restore fills an empty database from a backup, all or nothing, and brings it
// to the newest shape.
func Restore(ctx context.Context, ownerURL, file, appPassword string) error {
	if _, err := os.Stat(file); err != nil {
		return err
	}
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return err
	}
	var tables int
	err = conn.QueryRow(ctx, "SELECT count(*) FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind IN ('r', 'p')").Scan(&tables)
	if err == nil && tables > 0 {
		err = fmt.Errorf("the database is not empty (%d tables): restore into a new one", tables)
	}
	if err == nil { // the backup grants to the role, which belongs to the server
		_, err = conn.Exec(ctx, `DO $$ BEGIN CREATE ROLE ulpa_app NOLOGIN NOSUPERUSER NOBYPASSRLS; EXCEPTION WHEN duplicate_object THEN NULL; END $$`)
	}
	if err = errors.Join(err, conn.Close(ctx)); err != nil {
		return err
	}
	if err := program(ctx, ownerURL, "pg_restore", "--exit-on-error", "--single-transaction", "--no-owner", "--dbname="+databaseOf(ownerURL), file); err != nil {
		return err
	}
	return Migrate(ctx, ownerURL, appPassword)
}

// program runs one of PostgreSQL's own; the password goes by its environment,
// where other people on the machine do not see it.
func program(ctx context.Context, ownerURL, name string, args ...string) error {
	at, err := pgx.ParseConfig(ownerURL)
	if err != nil {
		return err
	}
	path, err := exec.LookPath(name)
	if err != nil {
		dir, err := postgres.FindPrograms()
		if err != nil {
			return err
		}
		path = filepath.Join(dir, name)
	}
	cmd := exec.CommandContext(ctx, path, args...) // #nosec G204 -- PostgreSQL's own programs
	cmd.Env = append(os.Environ(), "PGHOST="+at.Host, fmt.Sprintf("PGPORT=%d", at.Port), "PGUSER="+at.User, "PGPASSWORD="+at.Password, "PGDATABASE="+at.Database)
	if u, err := url.Parse(ownerURL); err == nil && u.Query().Get("sslmode") != "" {
		cmd.Env = append(cmd.Env, "PGSSLMODE="+u.Query().Get("sslmode"))
	}
	var said bytes.Buffer
	cmd.Stdout, cmd.Stderr = &said, &said
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("%s: %w: %s", name, err, strings.TrimSpace(said.String()))
	}
	return nil
}

func databaseOf(ownerURL string) string {
	at, err := pgx.ParseConfig(ownerURL)
	if err != nil {
		return ""
	}
	return at.Database
}

func ignoreMissing(err error) error {
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	return err
}
