package things

import (
	"context"

	"github.com/google/uuid"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Full reads things of a kind together with what is known of each: their entries, and what
// hangs on them.
type Full[T, F any] struct {
	Kind *Kind[T]
	Read func(ctx context.Context, tx *store.Tx, list []T) ([]F, error)
}

// InUse lists those that are not retired.
func (f Full[T, F]) InUse(ctx context.Context, tx *store.Tx) ([]F, error) {
	used, err := f.Kind.InUse(ctx, tx)
	if err != nil || len(used) == 0 {
		return nil, err
	}
	return f.Read(ctx, tx, used)
}

// One is one of them, a retired one too.
func (f Full[T, F]) One(ctx context.Context, tx *store.Tx, id uuid.UUID) (one F, err error) {
	v, err := f.Kind.Find(ctx, tx, id)
	if err != nil {
		return one, err
	}
	list, err := f.Read(ctx, tx, []T{v})
	if err != nil {
		return one, err
	}
	return list[0], nil
}

// All is InUse in a transaction of its own.
func (f Full[T, F]) All(ctx context.Context, s *store.Store, w who.Who) (out []F, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = f.InUse(ctx, tx)
		return err
	})
	return out, err
}

// Get is One in a transaction of its own.
func (f Full[T, F]) Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (one F, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		one, err = f.One(ctx, tx, id)
		return err
	})
	return one, err
}
