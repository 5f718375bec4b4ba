package solution

import (
	"context"

	"github.com/google/uuid"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/notebook"
)

// Screen is what a tank's page shows, all of one moment.
type Screen struct {
	Page
	Others []Glance        // every tank, this one too
	Meters []meters.Meter  // that are in use
	Lines  []notebook.Line // the latest about it
}

// ReadScreen reads a tank, with so long a past, and what stands around it on its page.
func ReadScreen(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, span Span) (x Screen, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		if x.Page, err = read(ctx, tx, id, span); err != nil {
			return err
		}
		if x.Others, err = glances(ctx, tx); err != nil {
			return err
		}
		if x.Meters, err = meters.Read(ctx, tx); err != nil {
			return err
		}
		x.Lines, err = notebook.In(ctx, tx, notebook.Filter{About: &id, Most: notebook.Few})
		return err
	})
	return x, err
}
