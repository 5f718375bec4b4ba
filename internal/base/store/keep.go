package store

import (
	"context"
	"math"
	"sync"

	"github.com/google/uuid"
)

// Topic is what kept values hang on: the school's books, or its meters' readings.
type Topic string

// The topics.
const (
	Books  Topic = "books"
	Meters Topic = "meters"
)

// keeper holds what was worked out from schools' data. It is no state that one
// process knows better than another: each value is good under the school's mark of its
// topic only, which every transaction that writes to that replaces.
type keeper struct {
	mu      sync.Mutex
	schools map[keptKey]*keptSchool
	turn    uint64 // counts, so that what was asked for longest ago goes first
}

type keptKey struct {
	school uuid.UUID
	topic  Topic
}

type keptSchool struct {
	mark   uuid.UUID
	values map[string]any
	turn   uint64
}

// How much is kept at most; whatever does not fit is worked out again.
const keptSchools, keptValues = 128, 256

// Keep returns what work returns, from an earlier transaction when nobody has
// written to the school's books since. The key says what is worked out, and from what
// beside the school's data: the day, units. Nobody may change the value. In a
// transaction that writes nothing is kept.
func Keep[T any](ctx context.Context, tx *Tx, key string, work func() (T, error)) (T, error) {
	return KeepOf(ctx, tx, Books, key, work)
}

// KeepOf is Keep for what hangs on one topic alone.
func KeepOf[T any](ctx context.Context, tx *Tx, topic Topic, key string, work func() (T, error)) (T, error) {
	if tx.kept == nil {
		return work()
	}
	if tx.mark == nil {
		marks, err := tx.Marks(ctx)
		if err != nil {
			var none T
			return none, err
		}
		tx.mark = map[string]uuid.UUID{} // no mark: nobody has written yet
		for _, m := range marks {
			tx.mark[m.Topic] = m.Mark
		}
	}
	at, mark := keptKey{tx.Who.School, topic}, tx.mark[string(topic)]
	if v, ok := tx.kept.find(at, mark, key); ok {
		return v.(T), nil
	}
	v, err := work()
	if err == nil {
		tx.kept.put(at, mark, key, v)
	}
	return v, err
}

func (k *keeper) find(at keptKey, mark uuid.UUID, key string) (any, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	s := k.schools[at]
	if s == nil || s.mark != mark {
		return nil, false
	}
	k.turn++
	s.turn = k.turn
	v, ok := s.values[key]
	return v, ok
}

func (k *keeper) put(at keptKey, mark uuid.UUID, key string, v any) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.schools == nil {
		k.schools = map[keptKey]*keptSchool{}
	}
	s := k.schools[at]
	if s == nil && len(k.schools) >= keptSchools {
		k.forget()
	}
	if s == nil || s.mark != mark || len(s.values) >= keptValues {
		s = &keptSchool{mark: mark, values: map[string]any{}}
		k.schools[at] = s
	}
	k.turn++
	s.turn, s.values[key] = k.turn, v
}

// forget drops what was asked for longest ago.
func (k *keeper) forget() {
	var oldest keptKey
	least := uint64(math.MaxUint64)
	for at, s := range k.schools {
		if s.turn < least {
			oldest, least = at, s.turn
		}
	}
	delete(k.schools, oldest)
}
