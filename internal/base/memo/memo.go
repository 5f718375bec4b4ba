// Package memo holds what pure functions of the core gave, for those that take
// milliseconds and are asked the same again and again.
package memo

import "sync"

// Memo holds values by what they were worked out from. When there are as many as it
// may hold it begins anew.
type Memo[K comparable, V any] struct {
	Most int
	mu   sync.Mutex
	of   map[K]V
}

// Get is the value that work gives for the key, worked out at the first asking.
func (m *Memo[K, V]) Get(key K, work func() V) V {
	v, _ := m.Try(key, func() (V, error) { return work(), nil })
	return v
}

// Try is Get for work that may fail, of which nothing is held then.
func (m *Memo[K, V]) Try(key K, work func() (V, error)) (V, error) {
	m.mu.Lock()
	v, ok := m.of[key]
	m.mu.Unlock()
	if ok {
		return v, nil
	}
	v, err := work()
	if err != nil {
		return v, err
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.of == nil || len(m.of) >= m.Most {
		m.of = map[K]V{}
	}
	m.of[key] = v
	return v, nil
}
