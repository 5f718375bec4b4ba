package ledger

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Sent is a record as its writer sends it. The id, made by whoever writes, names it: sent
// again it is the same record, and stored once; with another content it is refused.
type Sent struct {
	ID   uuid.UUID
	Verb string // what it was called when it was first kept so: another name would make it another record
	What any    // all that was said, as it was said
}

// mark is what two records are told apart by.
func (x Sent) mark() ([]byte, error) {
	said, err := json.Marshal(x.What)
	h := sha256.Sum256(append([]byte(x.Verb+"\n"), said...))
	return h[:], err
}

// errKept ends a transaction that finds its record stored.
var errKept = errors.New("kept already")

// Once runs a verb that stores a record. Whatever fn refuses may be the trace of the
// record itself, which got there first while its answer was lost: then it is kept, and
// nothing is refused. Every verb that writes an entry goes through here.
func Once(ctx context.Context, s *store.Store, w who.Who, x Sent, fn func(*store.Tx) error) error {
	if x.ID == uuid.Nil {
		return field.Refuse("id", "is missing; load the page again")
	}
	mark, err := x.mark()
	if err != nil {
		return err
	}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		tx.Sent = mark
		if err := tx.UseThings(ctx, w.School.String()); err != nil {
			return err
		}
		if again, err := Known(ctx, tx, x.ID); again || err != nil {
			return keptOr(err)
		}
		return fn(tx)
	})
	if err == nil || errors.Is(err, errKept) {
		return nil
	}
	if store.OutageOf(err) != store.None || errors.Is(err, who.ErrNotAllowed) || errors.Is(err, context.Canceled) {
		return err
	}
	looked := s.Read(ctx, w, func(tx *store.Tx) error {
		tx.Sent = mark
		again, err := Known(ctx, tx, x.ID)
		if again {
			return errKept
		}
		return err
	})
	switch {
	case errors.Is(looked, errKept):
		return nil
	case looked != nil:
		return looked
	}
	return err
}

func keptOr(err error) error {
	if err == nil {
		return errKept
	}
	return err
}

// Known tells whether the record that is being written is stored already. One of another
// content under its id is a conflict, which says what was kept.
func Known(ctx context.Context, tx *store.Tx, id uuid.UUID) (bool, error) {
	e, err := Get(ctx, tx, id)
	if errors.Is(err, pgx.ErrNoRows) {
		return false, nil
	}
	if err != nil {
		return false, err
	}
	if e.sent == nil || bytes.Equal(e.sent, tx.Sent) { // entries of earlier releases have no mark
		return true, nil
	}
	return false, field.Refuse(
		"sent",
		"Already saved, on %s at %s by %s: “%s”. What you typed now is different and has not been saved. Send it again to save it as well, or correct "+
			"the earlier entry in the notebook.",
		say.Date(e.WrittenAt.In(tx.Who.Zone), "2 Jan"),
		e.WrittenAt.In(tx.Who.Zone).Format("15:04"),
		e.Person,
		Sentence(e.Kind, e.Data),
	)
}
