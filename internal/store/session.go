package store

import (
	"context"
	"crypto/sha256"
	"errors"
	"time"

	"github.com/jackc/pgx/v5"
)

// Sessions keeps sign-ins in PostgreSQL, by the hash of their token: whoever
// reads the table cannot sign in with what it holds.
type Sessions struct{ store *Store }

// Sessions of this store.
func (s *Store) Sessions() Sessions { return Sessions{s} }

// FindCtx returns a session's data unless it is over.
func (s Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	h := sha256.Sum256([]byte(token))
	var data []byte
	err := s.store.pool.QueryRow(ctx, "SELECT data FROM session WHERE token_hash = $1 AND expiry > now()", h[:]).Scan(&data)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// CommitCtx stores a session, and now and then forgets those that are over.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	h := sha256.Sum256([]byte(token))
	if h[0] == 0 {
		if _, err := s.store.pool.Exec(ctx, "DELETE FROM session WHERE expiry < now()"); err != nil {
			return err
		}
	}
	_, err := s.store.pool.Exec(ctx, `INSERT INTO session VALUES ($1, $2, $3)
		ON CONFLICT (token_hash) DO UPDATE SET data = excluded.data, expiry = excluded.expiry`, h[:], data, expiry)
	return err
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	h := sha256.Sum256([]byte(token))
	_, err := s.store.pool.Exec(ctx, "DELETE FROM session WHERE token_hash = $1", h[:])
	return err
}

// Find, Commit and Delete are what the session library asks for without a context.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit without a context.
func (s Sessions) Commit(token string, data []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, data, expiry)
}

// Delete without a context.
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
