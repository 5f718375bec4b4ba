package things

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"reflect"
	"slices"
	"strconv"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Kind declares a kind of thing. Fields are named as in T's JSON.
type Kind[T any] struct {
	Name  string    // in addresses, of pages and of the API: "places"
	One   say.Words // what one is called
	Add   say.Words // what the button says: "Add a place"
	Title say.Words
	About say.Words // what it is for, in a sentence
	May   who.Ability
	// Fields are what forms ask for.
	Fields  []ledger.Field[T]
	ID      func(*T) *uuid.UUID
	Retired func(*T) *bool                                          // kept in the books, off the lists; nil: it is not retired, only deleted
	Blank   func() T                                                // what a new one begins with; nil: with nothing
	All     func(context.Context, *store.Tx) ([]T, error)           // in order, those that are retired too
	Label   func(T) string                                          // what it is called
	Says    func(T) say.Text                                        // beside its name in the list
	Page    func(T) string                                          // where it is looked at; nil: it has no page
	Pick    func(context.Context, *store.Tx) (Options, error)       // what there is to pick, by field
	Check   func(context.Context, *store.Tx, *T, *T) error          // cleans the new one and refuses it; the old is nil for a new thing
	Doubts  func(T) field.Errors                                    // what can be and seldom is: people are asked about it; nil: nothing
	Keep    func(context.Context, *store.Tx, *T, T) error           // writes it
	Drop    func(context.Context, *store.Tx, T) error               // deletes it; nil: never
	Alters  func(context.Context, *store.Tx, T) ([]say.Text, error) // what hangs on it, so what a change alters
	Order   func(context.Context, *store.Tx, []uuid.UUID) error     // puts them in an order; nil: they have none of their own
	// Used tells whether something rests on it that no row of the database refers by: then it is
	// not deleted, because of Stays, and whoever changes it is told what Hangs on it. Nil: never.
	Used         func(T) bool
	Stays, Hangs say.Words
}

// Options are what there is to pick, by field.
type Options = map[string][]ledger.Option

// New is the tag of what is not there yet.
const New = ""

// Tag tells one content of a thing from another.
func Tag(v any) string {
	b, err := json.Marshal(v)
	if err != nil {
		panic(err) // things are plain values
	}
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:10])
}

// Stale is the answer to a change of what has been changed meanwhile: nothing was kept.
type Stale struct{ field.Errors }

// Unwrap lets a form show it as any refusal.
func (s Stale) Unwrap() error { return s.Errors }

func stale(label string) error {
	return Stale{field.Errors{{Field: "was", Message: say.T("Somebody else changed %s in the meantime; look at it again, then make your change", label)}}}
}

// Asked is the answer to a form with figures that seldom are so: nothing was kept until the
// same is sent again as sure.
type Asked struct{ field.Errors }

// Unwrap lets a form show each beside its field.
func (a Asked) Unwrap() error { return a.Errors }

// Asks tells that it is a field.Question.
func (Asked) Asks() bool { return true }

var _ field.Question = Asked{}

// Why is the question.
func (Asked) Why() say.Text {
	return say.T("Some of this is unusual: look at the marked fields again.")
}

// asks is what to ask about a thing that was otherwise before: not again about what stays.
func (k *Kind[T]) asks(old, v *T) error {
	if k.Doubts == nil {
		return nil
	}
	before := k.Doubts(*old)
	list := slices.DeleteFunc(k.Doubts(*v), func(e field.Error) bool {
		return slices.ContainsFunc(before, func(b field.Error) bool { return b.Field == e.Field && b.Message.String() == e.Message.String() })
	})
	if len(list) == 0 {
		return nil
	}
	return Asked{list}
}

// List reads them all, in order, those that are retired too.
func (k *Kind[T]) List(ctx context.Context, s *store.Store, w who.Who) (out []T, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = k.All(ctx, tx)
		return err
	})
	return out, err
}

// InUse lists those that are not retired.
func (k *Kind[T]) InUse(ctx context.Context, tx *store.Tx) ([]T, error) {
	all, err := k.All(ctx, tx)
	return slices.DeleteFunc(all, func(v T) bool { return k.retired(&v) }), err
}

func (k *Kind[T]) retired(v *T) bool { return k.Retired != nil && *k.Retired(v) }

// Get reads one.
func (k *Kind[T]) Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (out T, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		at, err := k.find(ctx, tx, id)
		if err == nil {
			out = *at
		}
		return err
	})
	return out, err
}

func (k *Kind[T]) find(ctx context.Context, tx *store.Tx, id uuid.UUID) (*T, error) {
	all, err := k.All(ctx, tx)
	if err != nil {
		return nil, err
	}
	for i := range all {
		if *k.ID(&all[i]) == id {
			return &all[i], nil
		}
	}
	return nil, store.ErrNotFound
}

// Put keeps a thing as v is. was is the tag of what it was changed from, or New. What is so
// already is not written again; what is otherwise than was says is Stale.
func (k *Kind[T]) Put(ctx context.Context, s *store.Store, w who.Who, v T, was string) (tag string, err error) {
	if err := w.Must(k.May); err != nil {
		return "", err
	}
	return tag, s.InSchool(ctx, w, func(tx *store.Tx) error {
		tag, err = k.PutIn(ctx, tx, v, was)
		return err
	})
}

// PutIn is Put within a transaction.
func (k *Kind[T]) PutIn(ctx context.Context, tx *store.Tx, v T, was string) (string, error) {
	if err := tx.SettingsAlone(ctx, tx.Who.School.String()); err != nil {
		return "", err
	}
	old, err := k.find(ctx, tx, *k.ID(&v))
	switch {
	case err == store.ErrNotFound:
		if was != New {
			return "", err
		}
	case err != nil:
		return "", err
	}
	if k.retired(&v) && (old == nil || !k.retired(old)) { // nobody writes about it meanwhile
		if err := tx.RetireAlone(ctx, tx.Who.School.String()); err != nil {
			return "", err
		}
		if old, err = k.find(ctx, tx, *k.ID(&v)); err != nil && !errors.Is(err, store.ErrNotFound) {
			return "", err
		}
	}
	if err := k.Check(ctx, tx, old, &v); err != nil {
		return "", err
	}
	if old != nil {
		if now := Tag(*old); now == Tag(v) { // sent twice, or nothing was changed
			return now, nil
		} else if now != was {
			return "", stale(k.Label(*old))
		}
	}
	if err := k.Keep(ctx, tx, old, v); err != nil {
		return "", err
	}
	kept, err := k.find(ctx, tx, *k.ID(&v))
	if err != nil {
		return "", err
	}
	return Tag(*kept), k.noted(ctx, tx, old, *kept)
}

// noted writes a line of the trail that says what was changed.
func (k *Kind[T]) noted(ctx context.Context, tx *store.Tx, old *T, v T) error {
	name, one := say.Name(k.Label(v)), k.One
	switch {
	case old == nil:
		return trail.Write(ctx, tx, "Added %s: %s", one, name)
	case k.retired(old) != k.retired(&v):
		if k.retired(&v) {
			return trail.Write(ctx, tx, "Retired %s: %s", one, name)
		}
		return trail.Write(ctx, tx, "Restored %s: %s", one, name)
	}
	options, err := k.options(ctx, tx)
	if err != nil {
		return err
	}
	var what []say.Text
	for _, f := range k.Fields {
		if was, is := f.Of(old), f.Of(&v); !reflect.DeepEqual(was, is) {
			what = append(what, say.T("%s from %s to %s", f.Label, shown(f.Input, was, options), shown(f.Input, is, options)))
		}
	}
	if len(what) == 0 {
		return nil
	}
	return trail.Write(ctx, tx, "Changed %s %s: %s", one, name, say.Join("; ", what...))
}

// shown is a value as people read it.
func shown(i ledger.Input, v any, options Options) say.Text {
	switch x := v.(type) {
	case *float64:
		if x == nil {
			return say.T("nothing##value")
		}
		return say.Of(*x, i.Quantity)
	case int:
		return say.Name(strconv.Itoa(x))
	case bool:
		if x {
			return say.T("yes")
		}
		return say.T("no")
	case string:
		for _, o := range append(i.Options, options[i.Name]...) {
			if o.Value == x {
				return o.Name
			}
		}
		if day, err := calendar.ParseDay(x); err == nil && i.Type == ledger.Date {
			return day.Short()
		}
		if x != "" {
			return say.Name(x)
		}
	}
	return say.T("nothing##value")
}

func (k *Kind[T]) options(ctx context.Context, tx *store.Tx) (Options, error) {
	if k.Pick == nil {
		return nil, nil
	}
	return k.Pick(ctx, tx)
}

// Retire takes a thing off the lists, or back onto them.
func (k *Kind[T]) Retire(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, retired bool) error {
	if err := w.Must(k.May); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		v, err := k.find(ctx, tx, id)
		if err != nil || k.Retired == nil {
			return err
		}
		was := Tag(*v)
		*k.Retired(v) = retired
		_, err = k.PutIn(ctx, tx, *v, was)
		return err
	})
}

// Delete removes a thing on which nothing hangs; was is its tag, or "" for as it is.
func (k *Kind[T]) Delete(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, was string) error {
	if err := w.Must(k.May); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SettingsAlone(ctx, w.School.String()); err != nil {
			return err
		}
		if err := tx.RetireAlone(ctx, w.School.String()); err != nil {
			return err
		}
		v, err := k.find(ctx, tx, id)
		if err != nil {
			return err
		}
		if was != "" && Tag(*v) != was {
			return stale(k.Label(*v))
		}
		if k.Drop == nil {
			return field.Refuse("id", "must stay on record; retire it instead")
		}
		if k.Used != nil && k.Used(*v) {
			return field.Refuse("id", k.Stays)
		}
		if err := k.Drop(ctx, tx, *v); err != nil {
			if store.Needed(err) {
				return field.Refuse("id", "is on record: something depends on it. Retire it instead")
			}
			return err
		}
		return trail.Write(ctx, tx, "Deleted %s: %s", k.One, say.Name(k.Label(*v)))
	})
}

// Move puts a thing so many steps later in the order, or before (negative).
func (k *Kind[T]) Move(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, by int) error {
	return k.reorder(ctx, s, w, func(ids []uuid.UUID) ([]uuid.UUID, error) {
		at := slices.Index(ids, id)
		if at < 0 {
			return nil, store.ErrNotFound
		}
		to := max(0, min(len(ids)-1, at+by))
		return slices.Insert(slices.Delete(ids, at, at+1), to, id), nil
	})
}

// Arrange puts the things in the order of ids; any that are not among them come last.
func (k *Kind[T]) Arrange(ctx context.Context, s *store.Store, w who.Who, wanted []uuid.UUID) error {
	return k.reorder(ctx, s, w, func(ids []uuid.UUID) ([]uuid.UUID, error) {
		var out []uuid.UUID
		for _, id := range append(slices.Clone(wanted), ids...) {
			if slices.Contains(ids, id) && !slices.Contains(out, id) {
				out = append(out, id)
			}
		}
		return out, nil
	})
}

func (k *Kind[T]) reorder(ctx context.Context, s *store.Store, w who.Who, do func([]uuid.UUID) ([]uuid.UUID, error)) error {
	if err := w.Must(k.May); err != nil {
		return err
	}
	if k.Order == nil {
		return store.ErrNotFound
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.SettingsAlone(ctx, w.School.String()); err != nil {
			return err
		}
		all, err := k.All(ctx, tx)
		if err != nil {
			return err
		}
		var ids []uuid.UUID
		for i := range all {
			if !k.retired(&all[i]) {
				ids = append(ids, *k.ID(&all[i]))
			}
		}
		before := slices.Clone(ids)
		after, err := do(ids)
		if err != nil || slices.Equal(before, after) {
			return err
		}
		if err := k.Order(ctx, tx, after); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Changed the order: %s", k.Title)
	})
}

// Find reads one within a transaction.
func (k *Kind[T]) Find(ctx context.Context, tx *store.Tx, id uuid.UUID) (out T, err error) {
	at, err := k.find(ctx, tx, id)
	if err == nil {
		out = *at
	}
	return out, err
}
