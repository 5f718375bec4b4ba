package site

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/raft"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// BoardsMoved is written down when the boards of a raft float in another order, or were
// scrubbed.
var BoardsMoved = ledger.Declare(ledger.Kind[raft.Moved]{Name: "boards_moved", Says: raft.Moved.Says})

// floating is how a place's boards float, and since when.
type floating struct {
	raft.Raft
	since time.Time // zero: they were never moved
}

// floats are how the boards of places float now, in the same order; a place that is no raft
// in boards has none.
func floats(ctx context.Context, tx *store.Tx, places []Place) (out []floating, err error) {
	var rafts []uuid.UUID
	for _, p := range places {
		r := raft.Raft{Rows: p.Tiers, Columns: p.Columns, Boards: p.Boards}
		if p.Kind == "raft" && r.Parted() {
			rafts = append(rafts, p.ID)
		} else {
			r.Boards = 0
		}
		out = append(out, floating{Raft: r})
	}
	if len(rafts) == 0 {
		return out, nil
	}
	rows, err := tx.BoardsNow(ctx, rafts)
	for _, x := range rows {
		var m raft.Moved
		if err := json.Unmarshal(x.Data, &m); err != nil {
			return nil, err
		}
		f := &out[slices.IndexFunc(places, func(p Place) bool { return p.ID == x.PlaceID })]
		f.Floats, f.since = m.Order, x.HappenedAt
	}
	return out, err
}

// BoardsRequest is boards that float in another order from a time on.
type BoardsRequest struct {
	ID    uuid.UUID
	Place uuid.UUID
	raft.Moved
	At time.Time // zero: now
}

// MoveBoards writes down that they do. Was is the order that the person saw: another since
// then is not written over.
func MoveBoards(ctx context.Context, s *store.Store, w who.Who, q BoardsRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: q.ID, Verb: "site.MoveBoards", What: q}, func(tx *store.Tx) error {
		if err := tx.LockPlace(ctx, q.Place); err != nil {
			return err
		}
		p, err := GetPlace(ctx, tx, q.Place)
		if err != nil {
			return err
		}
		list, err := floats(ctx, tx, []Place{p})
		if err != nil {
			return err
		}
		r := list[0]
		if q.Was == nil {
			q.Was = r.Order()
		}
		if err := q.Check(r.Raft); err != nil {
			return err
		}
		if !slices.Equal(q.Was, r.Order()) {
			return field.Refuse("order", "somebody else moved the boards; look at them again")
		}
		if !q.At.IsZero() && q.At.Before(r.since) {
			return field.Refuse("when", "they have been moved since then; undo that first")
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: q.ID, Kind: BoardsMoved.Name, HappenedAt: q.At, About: []uuid.UUID{q.Place}, Data: q.Moved, Names: p.Name})
		return err
	})
}
