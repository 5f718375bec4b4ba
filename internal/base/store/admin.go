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
	Language                     string   // "": English
	Latitude, Longitude          *float64 // degrees; nil: not told
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
	if n.Language == "" {
		n.Language = "en"
	}
	_, err = conn.Exec(ctx, "INSERT INTO school (id, slug, name, zone, unit_system, language, latitude, longitude) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
		id, n.Slug, n.Name, n.Zone, n.UnitSystem, n.Language, n.Latitude, n.Longitude)
	return id, err
}

// SchoolBySlug finds a school by its short name, for the owner of the tables.
func SchoolBySlug(ctx context.Context, ownerURL, slug string) (id uuid.UUID, err error) {
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return uuid.Nil, fmt.Errorf("database: %w", err)
	}
	defer conn.Close(ctx)
	return id, translate(conn.QueryRow(ctx, "SELECT id FROM school WHERE slug = $1", slug).Scan(&id))
}

// Owns tells an error unless the address is one of the owner of the tables, or of whoever
// may act as it: commands that let people in are theirs.
func Owns(ctx context.Context, ownerURL string) error {
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return fmt.Errorf("database: %w", err)
	}
	defer conn.Close(ctx)
	var owns bool
	err = conn.QueryRow(
		ctx, "SELECT pg_has_role(current_user, tableowner, 'USAGE') FROM pg_tables WHERE schemaname = 'public' AND tablename = 'person'",
	).Scan(&owns)
	if err == nil && !owns {
		return errors.New("the --owner-url is not that of the owner of the tables")
	}
	return translate(err)
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
	if err != nil {
		return nil, nil, err
	}
	if err := s.shaped(ctx); err != nil {
		s.Close()
		return nil, nil, err
	}
	return s, schools, nil
}
