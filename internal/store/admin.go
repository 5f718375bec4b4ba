package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// NewSchool is what it takes to begin: a school, and its first coordinator.
type NewSchool struct {
	Slug, Name, Zone, UnitSystem string
}

// EnsureSchool makes a school unless one with that short name is there, and
// returns its id. Like migrations it runs as the owner of the tables.
func EnsureSchool(ctx context.Context, ownerURL string, n NewSchool) (uuid.UUID, error) {
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return uuid.Nil, fmt.Errorf("database: %w", err)
	}
	defer conn.Close(ctx)
	var id uuid.UUID
	err = conn.QueryRow(ctx, "SELECT id FROM school WHERE slug = $1", n.Slug).Scan(&id)
	if !errors.Is(err, pgx.ErrNoRows) {
		return id, err
	}
	if id, err = uuid.NewV7(); err != nil {
		return id, err
	}
	_, err = conn.Exec(ctx, "INSERT INTO school (id, slug, name, zone, unit_system) VALUES ($1, $2, $3, $4, $5)",
		id, n.Slug, n.Name, n.Zone, n.UnitSystem)
	return id, err
}

// Upkeep opens the store for the owner of the tables, acting as the application and bound
// as it is, and lists the schools.
func Upkeep(ctx context.Context, ownerURL string, now func() time.Time) (*Store, []uuid.UUID, error) {
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return nil, nil, fmt.Errorf("database: %w", err)
	}
	defer conn.Close(ctx)
	_, err = conn.Exec(
		ctx,
		`DO $$ BEGIN IF NOT pg_has_role(current_user, 'ulpa_app', 'USAGE') THEN EXECUTE format('GRANT ulpa_app TO %I', current_user); END IF; END $$`,
	)
	if err != nil {
		return nil, nil, fmt.Errorf("the owner may not act as ulpa_app: %w", err)
	}
	rows, err := conn.Query(ctx, "SELECT id FROM school ORDER BY slug")
	if err != nil {
		return nil, nil, err
	}
	schools, err := pgx.CollectRows(rows, pgx.RowTo[uuid.UUID])
	if err != nil {
		return nil, nil, err
	}
	cfg, err := pgxpool.ParseConfig(ownerURL)
	if err != nil {
		return nil, nil, err
	}
	cfg.ConnConfig.RuntimeParams["role"] = "ulpa_app"
	s, err := open(ctx, cfg, now)
	return s, schools, err
}
