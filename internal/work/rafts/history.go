package rafts

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/raft"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Went is a day on which a board was moved or scrubbed.
type Went struct {
	On       calendar.Day
	Place    int  // where it floated from then on, from the planting end
	Scrubbed bool // while it was out
}

// Board is a board with what was harvested from it.
type Board struct {
	Raft     raft.Raft
	Place    site.Contents
	Number   int
	Today    calendar.Day
	Stays    []site.Stay  // the newest first
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
	all, err := site.StaysAt(ctx, tx, b.Place.Place, since, b.Raft.Boards, b.Raft.Part(b.Place.ID.String()))
	if err != nil {
		return err
	}
	var mine []batch.Stay
	for _, s := range all {
		if s.Part == b.Number {
			b.Stays, mine = append(b.Stays, s), append(mine, s.Stay)
			b.Grams += s.Grams
		}
	}
	slices.SortStableFunc(b.Stays, func(x, y site.Stay) int { return cmp.Compare(y.From, x.From) })
	b.Empty = batch.EmptyDays(mine, b.Today)
	return nil
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
