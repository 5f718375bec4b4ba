package store

import (
	"context"

	"github.com/jackc/pgx/v5"

	"ulpa/internal/base/who"
)

// snapshot is one transaction that several readers share, so that what they read is of
// one moment. It begins with the first of them.
type snapshot struct {
	store *Store
	ctx   context.Context // in which it was begun, and is ended
	tx    *Tx
	over  bool
}

type snapshotKey struct{}

// Snapshot gives a context in which all reading of one school sees the same moment, from the first
// read until done is called. Only one goroutine may read in that context. Between the first read and
// done nothing but the database may be waited for, because the snapshot holds a connection.
func (s *Store) Snapshot(ctx context.Context) (in context.Context, done func()) {
	x := &snapshot{store: s, ctx: ctx}
	return context.WithValue(ctx, snapshotKey{}, x), func() { x.end() }
}

// Release ends the snapshot of a context, if the context has one. Each later read in that context
// sees the moment at which it is made.
func Release(ctx context.Context) {
	if x, _ := ctx.Value(snapshotKey{}).(*snapshot); x != nil {
		x.end()
	}
}

// read joins the snapshot of a context; false when there is none for this reader.
func (x *snapshot) read(ctx context.Context, w who.Who, fn func(*Tx) error) (joined bool, err error) {
	if x == nil || x.over || x.tx != nil && x.tx.Who.School != w.School {
		return false, nil
	}
	if x.tx == nil {
		conn, err := x.store.pool.BeginTx(ctx, pgx.TxOptions{BeginQuery: beginRead + inSchool(w)})
		if err != nil {
			return true, translate(err)
		}
		x.tx = x.store.reading(conn, w)
	}
	// Each reader has who they are and their own now; the transaction and the marks are one.
	tx := *x.tx
	tx.Who, tx.Now = w, x.store.now()
	err = fn(&tx)
	x.tx.Who, x.tx.at = w, tx.at
	if err != nil && !wellFormed(err) {
		x.end() // the transaction can read nothing more
	}
	return true, translate(err)
}

// wellFormed tells an answer of the database's from a failure, which ends its transaction.
func wellFormed(err error) bool {
	return OutageOf(err) == None && !isPgError(err)
}

func (x *snapshot) end() {
	if x.over = true; x.tx != nil {
		_ = x.tx.conn.Rollback(context.WithoutCancel(x.ctx)) // it changed nothing
		x.tx = nil
	}
}
