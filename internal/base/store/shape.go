package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
)

// Shape is the number of the newest migration: which shape of the database this program
// is written for.
func Shape() int64 { return shape }

var shape = newest()

func newest() (n int64) {
	files, err := fs.Glob(migrations, "migrations/*.sql")
	for _, f := range files {
		number, _, _ := strings.Cut(path.Base(f), "_")
		v, e := strconv.ParseInt(number, 10, 64)
		n, err = max(n, v), errors.Join(err, e)
	}
	if err != nil {
		panic(err) // the files are compiled in
	}
	return n
}

// shapeDiffers is the code by which the database refuses what another release writes.
const shapeDiffers = "UL001"

// ErrShape is the answer when the database has another shape than this program is
// written for: nothing can be read safely, and nothing is written.
type ErrShape struct{ says string }

// Error says what to do.
func (e ErrShape) Error() string {
	return e.says + "; stop every ulpa serve, back up, run ulpa migrate of the newest release, and start that release"
}

// Fits tells whether the database has the shape that this program is written for, and whether
// what is kept beside the facts was worked out for it, to the end.
func (s *Store) Fits(ctx context.Context) error {
	if err := s.shaped(ctx); err != nil {
		return err
	}
	var whole int64
	if err := s.pool.QueryRow(ctx, "SELECT rebuilt_shape()").Scan(&whole); err != nil {
		return err
	}
	if whole != shape {
		return ErrShape{fmt.Sprintf("the database was brought to shape %d, and what is kept beside the facts was not worked out for it", shape)}
	}
	return nil
}

// shaped tells whether the database has the shape that this program is written for.
func (s *Store) shaped(ctx context.Context) error {
	var there int64
	err := s.pool.QueryRow(ctx, "SELECT shape()").Scan(&there)
	var pg *pgconn.PgError
	switch {
	case errors.As(err, &pg) && pg.Code == "42883":
		return ErrShape{fmt.Sprintf("the database has a shape from before 10; this program is written for %d", shape)}
	case err != nil:
		return err
	case there != shape:
		return ErrShape{fmt.Sprintf("the database has shape %d; this program is written for %d", there, shape)}
	}
	return nil
}
