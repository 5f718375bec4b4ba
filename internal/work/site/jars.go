package site

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
)

// Jar is a port of a jar shelf, by its number from 1.
type Jar struct {
	Place  uuid.UUID
	Number int
}

// JarPlanted is when the plant of each jar came to it, where anything stands.
func JarPlanted(ctx context.Context, tx *store.Tx) (map[Jar]time.Time, error) {
	return store.Keep(ctx, tx, "jars planted", func() (map[Jar]time.Time, error) { return jarPlanted(ctx, tx) })
}

func jarPlanted(ctx context.Context, tx *store.Tx) (map[Jar]time.Time, error) {
	jars, err := tx.JarPorts(ctx)
	if err != nil || len(jars) == 0 {
		return nil, err
	}
	var ids []uuid.UUID
	for _, j := range jars {
		ids = append(ids, j.BatchID)
	}
	acts, err := ledger.ActsOn(ctx, tx, ids)
	if err != nil {
		return nil, err
	}
	type spot struct {
		batch uuid.UUID
		at    batch.Spot
	}
	came := map[spot]time.Time{}
	for _, x := range acts {
		for _, to := range x.Act.To {
			if to.Kind == batch.InPort {
				came[spot{x.Batch, batch.Spot{Kind: to.Kind, In: to.In, Row: to.Row, Col: to.Col}}] = x.At
			}
		}
	}
	out := map[Jar]time.Time{}
	for _, j := range jars {
		at := spot{j.BatchID, batch.Spot{Kind: batch.InPort, In: j.PlaceID.String(), Row: j.Tier, Col: j.Col}}
		out[Jar{j.PlaceID, j.Number}] = came[at]
	}
	return out, nil
}
