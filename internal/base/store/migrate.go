package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"github.com/jackc/pgx/v5"
	_ "github.com/jackc/pgx/v5/stdlib" // goose speaks database/sql
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrate brings the database to the newest shape. It connects as the owner of
// the tables, not as the application, and says whether what is kept beside the facts is
// whole: if not, it must be worked out anew, and Whole says then that it was. With an
// appPassword the application's role may sign in with it.
func Migrate(ctx context.Context, ownerURL, appPassword string) (whole bool, err error) {
	conn, err := sql.Open("pgx", ownerURL)
	if err != nil {
		return false, fmt.Errorf("database address: %w", err)
	}
	defer conn.Close()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return false, err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, conn, files)
	if err != nil {
		return false, err
	}
	if there, err := p.GetDBVersion(ctx); err == nil && there > shape {
		return false, ErrShape{fmt.Sprintf("the database has shape %d; this program is written for %d", there, shape)}
	}
	if _, err := p.Up(ctx); err != nil {
		return false, fmt.Errorf("migrations: %w", err)
	}
	// Where there is no school yet there is nothing to work out.
	if _, err := conn.ExecContext(ctx, "UPDATE rebuilt SET shape = $1 WHERE NOT EXISTS (SELECT FROM school)", shape); err != nil {
		return false, err
	}
	if err := conn.QueryRowContext(ctx, "SELECT shape = $1 FROM rebuilt", shape).Scan(&whole); err != nil {
		return false, err
	}
	// Another era begins: nothing that a program has worked out from what was there before holds.
	if _, err := conn.ExecContext(ctx, "DELETE FROM change; DELETE FROM stamp"); err != nil {
		return false, err
	}
	// A restored database has the usual rights again: everybody may make temporary tables.
	if _, err := conn.ExecContext(ctx, `DO $$ BEGIN EXECUTE format('REVOKE TEMPORARY ON DATABASE %I FROM PUBLIC, ulpa_app',
		current_database()); END $$`); err != nil {
		return false, err
	}
	if appPassword == "" {
		return whole, nil
	}
	quoted := "'" + strings.ReplaceAll(appPassword, "'", "''") + "'"
	_, err = conn.ExecContext(ctx, "ALTER ROLE ulpa_app LOGIN PASSWORD "+quoted)
	return whole, err
}

// Whole says that what is kept beside the facts was worked out to the end.
func Whole(ctx context.Context, ownerURL string) error {
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return fmt.Errorf("database: %w", err)
	}
	_, err = conn.Exec(ctx, "UPDATE rebuilt SET shape = $1", shape)
	return errors.Join(err, conn.Close(ctx))
}
