package store

import (
	"context"
	"database/sql"
	"embed"
	"fmt"
	"io/fs"
	"strings"

	_ "github.com/jackc/pgx/v5/stdlib" // goose speaks database/sql
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrate brings the database to the newest shape. It connects as the owner of
// the tables, not as the application, and says whether anything changed. With an
// appPassword the application's role may sign in with it.
func Migrate(ctx context.Context, ownerURL, appPassword string) (changed bool, err error) {
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
	done, err := p.Up(ctx)
	if err != nil {
		return false, fmt.Errorf("migrations: %w", err)
	}
	// A restored database has the usual rights again: everybody may make temporary tables.
	if _, err := conn.ExecContext(ctx, `DO $$ BEGIN EXECUTE format('REVOKE TEMPORARY ON DATABASE %I FROM PUBLIC, ulpa_app',
		current_database()); END $$`); err != nil {
		return false, err
	}
	if appPassword == "" {
		return len(done) > 0, nil
	}
	quoted := "'" + strings.ReplaceAll(appPassword, "'", "''") + "'"
	_, err = conn.ExecContext(ctx, "ALTER ROLE ulpa_app LOGIN PASSWORD "+quoted)
	return len(done) > 0, err
}
