package store

import (
	"context"
	"crypto/sha256"
	"time"
)

// Sessions keeps sign-ins in PostgreSQL, by the hash of their token: whoever
// reads the table cannot sign in with what it holds, and the application cannot
// read the table, only ask for one.
type Sessions struct{ store *Store }

// Sessions of this store.
func (s *Store) Sessions() Sessions { return Sessions{s} }

// FindCtx returns a session's data unless it is over.
func (s Sessions) FindCtx(ctx context.Context, token string) (data []byte, found bool, err error) {
	h := sha256.Sum256([]byte(token))
	err = s.store.pool.QueryRow(ctx, "SELECT session_find($1)", h[:]).Scan(&data)
	return data, data != nil, err
}

// CommitCtx stores a session.
func (s Sessions) CommitCtx(ctx context.Context, token string, data []byte, expiry time.Time) error {
	h := sha256.Sum256([]byte(token))
	_, err := s.store.pool.Exec(ctx, "SELECT session_keep($1, $2, $3)", h[:], data, expiry)
	return err
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	h := sha256.Sum256([]byte(token))
	_, err := s.store.pool.Exec(ctx, "SELECT session_end($1)", h[:])
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

// Sweep forgets sessions and counts of wrong tries that are over, and devices that nobody
// has used for a year.
func (s *Store) Sweep(ctx context.Context) error {
	_, err := s.pool.Exec(ctx, "SELECT sweep()")
	return err
}
