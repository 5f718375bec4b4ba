package store

import (
	"context"
	"fmt"
	"maps"

	"github.com/google/uuid"
	"golang.org/x/sync/singleflight"

	"ulpa/internal/base/memo"
	"ulpa/internal/base/store/db"
)

// Topic is what is counted by itself: writes to the school's books, or to its meters' readings.
type Topic string

// The topics.
const (
	Books  Topic = "books"
	Meters Topic = "meters"
)

// keeper holds what was worked out from schools' data. It is no state that one process knows
// better than another: a value holds until a write changes rows of the tables that it was worked
// out from, which the statements say by themselves, and writes tell in the database.
type keeper struct {
	shelf memo.Shelf
	busy  singleflight.Group // who asks for what somebody works out already waits for that
}

type keptKey struct {
	school uuid.UUID
	topic  Topic
}

// newKeeper says how much is kept at most; whatever does not fit is worked out again.
func newKeeper() *keeper {
	return &keeper{shelf: memo.Shelf{Schools: 128, Values: 1024}}
}

// toldWrites is of how many writes the database knows what they changed, or nearly.
const toldWrites = 900

// Keep returns what work returns, from an earlier transaction when nobody has since changed what
// that was worked out from. The key says what is worked out, and from what beside the school's
// data: the day, units. Nobody may change the value. In a transaction that writes nothing is kept.
func Keep[T any](ctx context.Context, tx *Tx, key string, work func() (T, error)) (T, error) {
	return KeepOf(ctx, tx, Books, key, work)
}

// Minute and Hour are for the keys of what is worked out from the time of day, or from what meters
// said, which tells of no change: it is worked out again after that long.
func (t *Tx) Minute() string { return fmt.Sprint("at minute ", t.Now.Unix()/60) }

// Hour is the same for what changes slowly.
func (t *Tx) Hour() string { return fmt.Sprint("in hour ", t.Now.Unix()/3600) }

// Light is for the keys of what hangs on the day and on how far north the school lies. Whoever
// asks carries the latitude, so it may be older than what is read here.
func (t *Tx) Light() string {
	if t.Who.Latitude == nil {
		return fmt.Sprint("on ", t.Who.Day(t.Now))
	}
	return fmt.Sprint("on ", t.Who.Day(t.Now), " at ", *t.Who.Latitude)
}

// KeepOf is Keep for what hangs on one topic alone.
func KeepOf[T any](ctx context.Context, tx *Tx, topic Topic, key string, work func() (T, error)) (T, error) {
	v, err := tx.keep(ctx, topic, key, func(*memo.Kept) (memo.Kept, error) {
		v, err := work()
		return memo.Kept{Value: v}, err
	})
	if err != nil {
		var none T
		return none, err
	}
	return v.(T), nil
}

// Each is something worked out for each of many things.
type Each[T any] map[uuid.UUID]T

// KeepEach is Keep for what is worked out thing by thing: when rows of some tables change, of which
// each belongs to one thing, only those things are worked out again. Work is given them, or nil for
// all, and gives those of them that there are.
func KeepEach[T any](ctx context.Context, tx *Tx, key string, tables []string, work func(of []uuid.UUID) (Each[T], error)) (Each[T], error) {
	each := map[string]bool{}
	for _, t := range tables {
		each[t] = true
	}
	v, err := tx.keep(ctx, Books, key, func(worn *memo.Kept) (memo.Kept, error) {
		if worn == nil {
			all, err := work(nil)
			return memo.Kept{Value: all, Each: each}, err
		}
		var touched []uuid.UUID
		next := maps.Clone(worn.Value.(Each[T]))
		for id := range worn.Touched {
			touched = append(touched, id)
			delete(next, id)
		}
		some, err := work(touched)
		maps.Copy(next, some)
		return memo.Kept{Value: next, Each: each, Rows: worn.Rows}, err
	})
	if err != nil {
		return nil, err
	}
	return v.(Each[T]), nil
}

// keep finds a value or has it worked out, from one of which parts are worn where there is one.
func (t *Tx) keep(ctx context.Context, topic Topic, key string, work func(worn *memo.Kept) (memo.Kept, error)) (any, error) {
	if t.kept == nil {
		v, err := work(nil)
		return v.Value, err
	}
	of := keptKey{t.Who.School, topic}
	at, err := t.moment(ctx, of)
	if err != nil {
		return nil, err
	}
	v := t.kept.shelf.Find(of, at, key)
	if v == nil || len(v.Touched) > 0 {
		mine := false
		do := func() (any, error) { mine = true; return t.work(of, at, key, v, work) }
		out, err, _ := t.kept.busy.Do(fmt.Sprint(of, at, key), do)
		if err != nil && !mine { // it came to nothing there
			out, err = do()
		}
		if err != nil {
			return nil, err
		}
		v = out.(*memo.Kept)
	}
	t.hang(v.Rows)
	return v.Value, nil
}

// work works a value out, and keeps it with what it hangs on.
func (t *Tx) work(of keptKey, at memo.Moment, key string, worn *memo.Kept, work func(*memo.Kept) (memo.Kept, error)) (*memo.Kept, error) {
	*t.notes = append(*t.notes, memo.Rows{})
	v, err := work(worn)
	last := len(*t.notes) - 1
	rows := (*t.notes)[last]
	*t.notes = (*t.notes)[:last]
	if err != nil {
		return nil, err
	}
	rows.Hang(v.Rows)
	v.Rows = rows
	t.kept.shelf.Put(of, at, key, v)
	return &v, nil
}

// hang adds to what is being worked out now that it hangs on rows.
func (t *Tx) hang(rows memo.Rows) {
	if n := len(*t.notes); n > 0 {
		(*t.notes)[n-1].Hang(rows)
	}
}

// moment is the state that this transaction sees, with what was kept brought up to it.
func (t *Tx) moment(ctx context.Context, of keptKey) (at memo.Moment, err error) {
	if t.at == nil {
		rows, err := t.Moments(ctx)
		if err != nil {
			return at, err
		}
		t.at = map[Topic]memo.Moment{} // none: nobody has written yet
		for _, m := range rows {
			t.at[Topic(m.Topic)] = memo.Moment{Era: m.Mark, N: m.N}
		}
	}
	at = t.at[of.topic]
	since, behind := t.kept.shelf.Behind(of, at)
	if !behind {
		return at, nil
	}
	changed := []memo.Row{{Of: memo.Every}}
	if of.topic == Books && at.N-since < toldWrites {
		if changed, err = t.changes(ctx, since); err != nil {
			return at, err
		}
	}
	t.kept.shelf.Advance(of, since, at, changed)
	return at, nil
}

// changes are what was told since a write. What tells of every change is added for those who hang
// on what is not told.
func (t *Tx) changes(ctx context.Context, since int64) (out []memo.Row, err error) {
	rows, err := db.New(t.conn).ChangesSince(ctx, since)
	for _, r := range rows {
		out = append(out, memo.Row{Of: r.What, Thing: r.Thing})
	}
	return append(out, memo.Row{Of: anyWrite}), err
}

// anyWrite is a change that every write makes, of nothing that a table holds.
const anyWrite = "a write"
