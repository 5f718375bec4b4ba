package rafts

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/raft"
	"ulpa/internal/crops"
	"ulpa/internal/ledger"
	"ulpa/internal/site"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Stay is a batch on a board, by its code.
type Stay struct {
	raft.Stay
	Code string
	Crop crop.Crop
}

// Went is a day on which a board was moved or scrubbed.
type Went struct {
	On       calendar.Day
	Place    int  // where it floated from then on, from the planting end
	Scrubbed bool // while it was out
}

// Board is a board with what it has borne.
type Board struct {
	Raft     raft.Raft
	Place    site.Contents
	Number   int
	Today    calendar.Day
	Stays    []Stay       // the newest first
	Went     []Went       // the newest first
	Scrubbed calendar.Day // last; 0: never written down
	Empty    int          // days without a plant since the first came
	Grams    float64
}

// BoardOf reads what is known of a board; store.ErrNotFound: the raft has none of that number.
func BoardOf(ctx context.Context, s *store.Store, w who.Who, place uuid.UUID, n int) (b Board, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		b.Place, err = site.Load(ctx, tx, place)
		if err != nil {
			return err
		}
		b.Raft, b.Number, b.Today = b.Place.Raft, n, tx.Who.Day(tx.Now)
		if !b.Raft.Parted() || n < 1 || n > b.Raft.Boards {
			return store.ErrNotFound
		}
		if err := b.stays(ctx, tx); err != nil {
			return err
		}
		return b.moves(ctx, tx)
	})
	return b, err
}

func (b *Board) stays(ctx context.Context, tx *store.Tx) error {
	since := tx.Now.AddDate(0, 0, -rememberDays)
	came, err := tx.CameTo(ctx, db.CameToParams{Place: b.Place.ID, Since: since})
	if err != nil {
		return err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return err
	}
	var ids []uuid.UUID
	by := map[string]db.CameToRow{}
	for _, x := range came {
		ids, by[x.ID.String()] = append(ids, x.ID), x
	}
	facts, err := ledger.ActsOn(ctx, tx, ids)
	if err != nil {
		return err
	}
	var acts []raft.Happened
	for _, f := range facts {
		acts = append(acts, raft.Happened{Batch: f.Batch.String(), On: tx.Who.Day(f.At), Act: f.Act})
	}
	for _, x := range b.Raft.History(b.Place.ID.String(), acts) {
		if x.Board == b.Number {
			b.Stays = append(b.Stays, Stay{x, by[x.Batch].Code, book.Find(by[x.Batch].Crop)})
			b.Grams += x.Grams
		}
	}
	slices.SortStableFunc(b.Stays, func(x, y Stay) int { return cmp.Compare(y.From, x.From) })
	b.Empty = raft.EmptyDays(b.plain(), b.Today)
	return nil
}

func (b Board) plain() (out []raft.Stay) {
	for _, s := range b.Stays {
		out = append(out, s.Stay)
	}
	return out
}

func (b *Board) moves(ctx context.Context, tx *store.Tx) error {
	rows, err := tx.BoardMoves(ctx, db.BoardMovesParams{Place: b.Place.ID, Since: tx.Now.AddDate(0, 0, -rememberDays)})
	for _, x := range rows {
		var m raft.Moved
		if err := json.Unmarshal(x.Data, &m); err != nil {
			return err
		}
		place := slices.Index(m.Order, b.Number)
		scrubbed := slices.Contains(m.Scrubbed, b.Number)
		if place < 0 || slices.Index(m.Was, b.Number) == place && !scrubbed {
			continue
		}
		if scrubbed {
			b.Scrubbed = tx.Who.Day(x.HappenedAt)
		}
		b.Went = append([]Went{{tx.Who.Day(x.HappenedAt), place + 1, scrubbed}}, b.Went...)
	}
	return err
}
