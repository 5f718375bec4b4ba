package sowing

import (
	"context"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

// Shelf is what there is to sow from and into.
type Shelf struct {
	Packets []seeds.Packet
	Trays   []site.Tray
}

// Freshest is the packet of a crop that was packed last, of a variety where there is one of
// it, and whether there is any.
func (x Shelf) Freshest(cropID, variety string) (last seeds.Packet, found bool) {
	meant := false
	for _, l := range x.Packets {
		this := variety != "" && l.Variety == variety
		if l.Crop == cropID && (!found || this && !meant || this == meant && l.Packed > last.Packed) {
			last, found, meant = l, true, this
		}
	}
	return last, found
}

// GetShelf reads the packets of seed and the trays.
func GetShelf(ctx context.Context, s *store.Store, w who.Who) (x Shelf, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		x, err = ShelfIn(ctx, tx)
		return err
	})
	return x, err
}

// ShelfIn is GetShelf within a transaction.
func ShelfIn(ctx context.Context, tx *store.Tx) (x Shelf, err error) {
	if x.Packets, err = seeds.Packets(ctx, tx); err != nil {
		return x, err
	}
	x.Trays, err = site.Trays(ctx, tx)
	return x, err
}
