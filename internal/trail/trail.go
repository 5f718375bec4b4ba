// Package trail keeps who signed in, who changed people or settings, and what
// was taken out of the school's books.
package trail

import (
	"context"

	"github.com/google/uuid"

	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Write notes what the person of the transaction did.
func Write(ctx context.Context, tx *store.Tx, says string) error {
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	return tx.AddTrail(ctx, db.AddTrailParams{SchoolID: tx.Who.School, ID: id, At: tx.Now, PersonID: tx.Who.Person, Says: says})
}

// Note is Write in a transaction of its own.
func Note(ctx context.Context, s *store.Store, w who.Who, says string) error {
	return s.InSchool(ctx, w, func(tx *store.Tx) error { return Write(ctx, tx, says) })
}

// Read is the latest of the trail, for the coordinator.
func Read(ctx context.Context, s *store.Store, w who.Who) (lines []db.ListTrailRow, err error) {
	if err := w.Must(who.Settings); err != nil {
		return nil, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		lines, err = tx.ListTrail(ctx, 300)
		return err
	})
	return lines, err
}
