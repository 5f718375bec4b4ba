package store

import (
	"context"
	"errors"
	"sync"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// keeper holds what was worked out from schools' data. It is no state that one
// process knows better than another: each value is good under the school's mark
// only, which every transaction that writes replaces.
type keeper struct {
	mu      sync.Mutex
	schools map[uuid.UUID]*keptSchool
}

type keptSchool struct {
	mark   uuid.UUID
	values map[string]any
}

// How much is kept at most; whatever does not fit is worked out again.
const keptSchools, keptValues = 64, 256

// Keep returns what work returns, from an earlier transaction when nobody has
// written to the school since. The key says what is worked out, and from what
// beside the school's data: the day, units. Nobody may change the value. In a
// transaction that writes nothing is kept.
func Keep[T any](ctx context.Context, tx *Tx, key string, work func() (T, error)) (T, error) {
	if tx.kept == nil {
		return work()
	}
	if tx.mark == nil {
		mark, err := tx.Mark(ctx)
		if err != nil && !errors.Is(err, pgx.ErrNoRows) { // no mark: nobody has written yet
			var none T
			return none, err
		}
		tx.mark = &mark
	}
	if v, ok := tx.kept.find(tx.Who.School, *tx.mark, key); ok {
		return v.(T), nil
	}
	v, err := work()
	if err == nil {
		tx.kept.put(tx.Who.School, *tx.mark, key, v)
	}
	return v, err
}

func (k *keeper) find(school, mark uuid.UUID, key string) (any, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	s := k.schools[school]
	if s == nil || s.mark != mark {
		return nil, false
	}
	v, ok := s.values[key]
	return v, ok
}

func (k *keeper) put(school, mark uuid.UUID, key string, v any) {
	k.mu.Lock()
	defer k.mu.Unlock()
	s := k.schools[school]
	if s == nil && len(k.schools) >= keptSchools || k.schools == nil {
		k.schools = map[uuid.UUID]*keptSchool{}
	}
	if s == nil || s.mark != mark || len(s.values) >= keptValues {
		s = &keptSchool{mark, map[string]any{}}
		k.schools[school] = s
	}
	s.values[key] = v
}
