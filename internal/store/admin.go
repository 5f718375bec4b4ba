package store

import (
	"context"
	"errors"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
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
