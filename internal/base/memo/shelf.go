package memo

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"
	"sync"

	"github.com/google/uuid"
)

// Row is what a value hangs on, and what a write changes: rows of a table, or entries of a kind
// ("entry:note"), of one thing or, where that is zero, of any. "*" is everything.
type Row struct {
	Of    string
	Thing uuid.UUID
}

// entry tells whether it is of entries.
func (r Row) entry() bool { return strings.HasPrefix(r.Of, "entry:") }

// Every is every row of every table.
const Every = "*"

// entries of any kind, and those that take one back, of whatever kind that was.
const (
	AnyEntry  = "entry:*"
	takenBack = "entry:void"
)

// Rows are what a value hangs on.
type Rows map[Row]bool

// Hang adds rows.
func (r Rows) Hang(more Rows) { maps.Copy(r, more) }

// hit tells whether a change is of these rows.
func (r Rows) hit(c Row) bool {
	switch {
	case c.Of == Every || r[Row{Of: Every}] || r[c] || r[Row{Of: c.Of}]:
		return true
	case !c.entry():
		return c.Thing == uuid.Nil && r.some(c.Of)
	case r[Row{AnyEntry, c.Thing}] || r[Row{Of: AnyEntry}]:
		return true
	case c.Of != takenBack:
		return false // an entry is told of each thing that it is about
	}
	for x := range r { // whatever kind of entry it undoes
		if x.entry() && (x.Thing == uuid.Nil || x.Thing == c.Thing) {
			return true
		}
	}
	return false
}

// some tells whether a value hangs on any of a table's rows: a change that names no thing may be of
// each.
func (r Rows) some(of string) bool {
	for x := range r {
		if x.Of == of {
			return true
		}
	}
	return false
}

// Moment is a state of a school's books: so many writes into an era of counting.
type Moment struct {
	Era uuid.UUID
	N   int64
}

// Shelf holds what was worked out from schools' books. A value holds as long as no write changes
// what it hangs on.
type Shelf struct {
	Schools, Values int // so many at most; what was asked for longest ago goes first

	mu   sync.Mutex
	of   map[any]*books
	turn uint64 // counts askings
}

type books struct {
	Moment
	values map[string]*Kept
	turn   uint64
}

// Kept is a value, and what it hangs on.
type Kept struct {
	Value   any
	Rows    Rows
	Each    map[string]bool // tables of which each row is of one part of the value: a change wears that part out alone
	Touched map[uuid.UUID]bool
	since   int64  // the write after which it was worked out
	asked   uint64 // when it was asked for last
}

// Behind tells up to which write a school's values hold, when changes since then must be told (see
// Advance) before anything is found at a moment.
func (s *Shelf) Behind(school any, at Moment) (since int64, behind bool) {
	s.mu.Lock()
	defer s.mu.Unlock()
	b := s.books(school, at)
	return b.N, b.N < at.N
}

// books are a school's, of the era of a moment.
func (s *Shelf) books(school any, at Moment) *books {
	if s.of == nil {
		s.of = map[any]*books{}
	}
	b := s.of[school]
	if b == nil && len(s.of) >= s.Schools {
		s.forget()
	}
	if b == nil || b.Era != at.Era {
		b = &books{Moment: at, values: map[string]*Kept{}}
		s.of[school] = b
	}
	s.turn++
	b.turn = s.turn
	return b
}

// halve drops the half of the values that were asked for longest ago: of an earlier minute, or day.
func (b *books) halve() {
	all := slices.SortedFunc(maps.Keys(b.values), func(x, y string) int { return cmp.Compare(b.values[x].asked, b.values[y].asked) })
	for _, key := range all[:(len(all)+1)/2] {
		delete(b.values, key)
	}
}

// forget drops the school that was asked for longest ago.
func (s *Shelf) forget() {
	var oldest any
	least := uint64(math.MaxUint64)
	for of, b := range s.of {
		if b.turn < least {
			oldest, least = of, b.turn
		}
	}
	delete(s.of, oldest)
}

// Forget drops everything.
func (s *Shelf) Forget() {
	s.mu.Lock()
	defer s.mu.Unlock()
	clear(s.of)
}

// Advance takes what writes since one changed into account, up to a moment.
func (s *Shelf) Advance(school any, since int64, to Moment, changed []Row) {
	s.mu.Lock()
	defer s.mu.Unlock()
	b := s.books(school, to)
	if b.N != since {
		return // somebody else did
	}
	b.N = to.N
	for key, v := range b.values {
		for _, c := range changed {
			each := v.Each[c.Of] || c.entry() && v.Each[AnyEntry]
			if !v.Rows.hit(c) || each && c.Thing == uuid.Nil && c.entry() {
				continue // an entry is told of each thing that it is about besides
			}
			if !each || c.Thing == uuid.Nil {
				delete(b.values, key)
				break
			}
			next := *v // others read the one that was
			next.Touched = maps.Clone(v.Touched)
			if next.Touched == nil {
				next.Touched = map[uuid.UUID]bool{}
			}
			next.Touched[c.Thing] = true
			v = &next
			b.values[key] = v
		}
	}
}

// Find is a value that holds at a moment. One of which parts were touched is worn there only.
func (s *Shelf) Find(school any, at Moment, key string) *Kept {
	s.mu.Lock()
	defer s.mu.Unlock()
	b := s.books(school, at)
	v := b.values[key]
	if v == nil || v.since > at.N || b.N < at.N || b.N > at.N && len(v.Touched) > 0 {
		return nil
	}
	v.asked = s.turn
	return v
}

// Put keeps a value that was worked out at a moment, if that is still the latest.
func (s *Shelf) Put(school any, at Moment, key string, v Kept) {
	s.mu.Lock()
	defer s.mu.Unlock()
	b := s.books(school, at)
	if b.N != at.N {
		return
	}
	if _, there := b.values[key]; !there && len(b.values) >= s.Values {
		b.halve()
	}
	v.since, v.asked = at.N, s.turn
	b.values[key] = &v
}
