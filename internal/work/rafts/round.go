package rafts

import (
	"context"

	"ulpa/core/round"
	"ulpa/internal/base/store"
	"ulpa/internal/work/batches"
	walk "ulpa/internal/work/round"
	"ulpa/internal/work/site"
)

// Boards that are to be moved are part of the round.
var _ = walk.Declare(walk.Part[round.Raft]{
	Order: 110, Read: afloat,
	Due:   func(d round.Day, r round.Raft) []round.Task { return d.OfRaft(r) },
	Pages: map[*round.Kind]walk.Page{round.Boards: walk.At("/rafts/", "", "Open")},
})

func afloat(ctx context.Context, tx *store.Tx) ([]round.Raft, error) {
	places, err := site.PlacesOfWalk(ctx, tx)
	if err != nil {
		return nil, err
	}
	lines, err := batches.Lines(ctx, tx)
	if err != nil {
		return nil, err
	}
	return Afloat(ctx, tx, places, lines)
}
