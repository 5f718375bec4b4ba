// Package upkeep is what the owner of the tables does: brings the database to the newest
// shape, restores it, and sees to it that what is kept beside the facts is what they come to.
//
//	err := upkeep.Migrate(ctx, ownerURL, password)
package upkeep

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Migrate brings the database to the newest shape, and what is kept beside the facts with
// it: what earlier releases kept, or left out, is worked out anew. With an appPassword the
// application's role may sign in with it.
func Migrate(ctx context.Context, ownerURL, appPassword string) error {
	whole, err := store.Migrate(ctx, ownerURL, appPassword)
	if err != nil || whole {
		return err
	}
	if _, err = Audit(ctx, ownerURL, true); err != nil {
		return err
	}
	if err := store.Reword(ctx, ownerURL, ledger.FoundToday); err != nil {
		return err
	}
	return store.Whole(ctx, ownerURL)
}

// Restore fills an empty database from a backup, as store.Restore does. What was restored
// is brought to the newest shape and audited before it takes the empty one's place.
func Restore(ctx context.Context, ownerURL, file, appPassword, passphrase string, again bool) (found Found, err error) {
	return found, store.Restore(ctx, ownerURL, file, passphrase, again, func(beside string) error {
		if _, err := store.Migrate(ctx, beside, appPassword); err != nil {
			return err
		}
		if found, err = Audit(ctx, beside, true); err != nil {
			return err
		}
		if err := store.Reword(ctx, beside, ledger.FoundToday); err != nil {
			return err
		}
		return store.Whole(ctx, beside)
	})
}

// Found is what an audit found: how many of the faults it mended, and what stays.
type Found struct {
	Schools, Mended int
	Stays           []string
}

// Audit compares what is kept beside the facts with what they come to, in all schools, and
// with mend keeps that. Each batch and tank is mended in a transaction of its own, so that
// people may go on working.
func Audit(ctx context.Context, ownerURL string, mend bool) (out Found, err error) {
	s, schools, err := store.Upkeep(ctx, ownerURL, time.Now)
	if err != nil {
		return out, err
	}
	defer s.Close()
	for _, school := range schools {
		out.Schools++
		faults, err := look(ctx, s, school)
		if err != nil {
			return out, err
		}
		for _, f := range faults {
			if !mend || f.Batch == uuid.Nil && f.Tank == uuid.Nil {
				continue
			}
			if err := s.InSchool(ctx, keeper(school), func(tx *store.Tx) error { return ledger.Mend(ctx, tx, f) }); err != nil {
				return out, fmt.Errorf("%s: %w", f.Says, err)
			}
			out.Mended++
		}
		if out.Mended > 0 {
			if faults, err = look(ctx, s, school); err != nil {
				return out, err
			}
		}
		for _, f := range faults {
			out.Stays = append(out.Stays, f.Says)
		}
	}
	return out, nil
}

func look(ctx context.Context, s *store.Store, school uuid.UUID) (faults []ledger.Fault, err error) {
	err = s.Read(ctx, keeper(school), func(tx *store.Tx) error {
		faults, err = ledger.Audit(ctx, tx)
		return err
	})
	return faults, err
}

// keeper is whoever holds the owner's address, and nobody in the school.
func keeper(school uuid.UUID) who.Who {
	return who.Who{School: school, Kind: who.Coordinator, Zone: time.UTC, Prefs: say.Reader{}}
}
