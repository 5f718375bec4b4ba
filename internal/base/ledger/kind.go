package ledger

import (
	"context"
	"encoding/json"
	"fmt"

	"ulpa/core/say"
	"ulpa/internal/base/store"
)

// Kind declares a kind of entry, once, with its area: what it says, how it folds into the
// present, what of it can be corrected, and what is refused then. T is the entry's data.
type Kind[T any] struct {
	Name string
	// Act is folded into the books of its batch by core/batch; Tank into its tank. A kind
	// with neither changes nothing but what is known.
	Act  bool
	Tank func(*Tank, *Past, T)
	Says func(T) say.Text
	// Free entries may name what is retired: a note about it, or what is still counted of it.
	Free bool
	// Fields are what is asked for and can be corrected in place. Without any an entry is
	// undone and done again.
	Fields []Field[T]
	// Right checks an entry that is corrected as a new one is checked, and returns it as it
	// is kept; nil lets it pass.
	Right func(context.Context, *store.Tx, Entry, T) (T, error)
	// Gone takes along what is kept beside an entry that is undone; nil: nothing is.
	Gone func(context.Context, *store.Tx, T) error
	// Settle brings what is kept beside in step, after an entry about these things was corrected
	// or undone; nil: nothing is kept.
	Settle func(context.Context, *store.Tx, Things) error
}

// kind is what the ledger and the pages ask of any Kind.
type kind interface {
	act() bool
	free() bool
	tank(t *Tank, p *Past, data []byte) (folds bool, err error)
	says(data []byte) (say.Text, error)
	Inputs() []Input
	Values(data []byte) (map[string]any, error)
	right(ctx context.Context, tx *store.Tx, e Entry, values map[string]any) (any, error)
	gone(ctx context.Context, tx *store.Tx, data []byte) error
	settle(ctx context.Context, tx *store.Tx, about Things) error
	holds(data any) bool
}

var kinds = map[string]kind{}

// Declare makes a kind known. The same name twice is a mistake of the program's.
func Declare[T any](k Kind[T]) *Kind[T] {
	if kinds[k.Name] != nil {
		panic("the kind of entry " + k.Name + " is declared twice")
	}
	kinds[k.Name] = &k
	return &k
}

// ErrUnknownKind is the answer to an entry of a kind that this release does not declare.
type ErrUnknownKind struct{ Kind string }

// Error names it.
func (e ErrUnknownKind) Error() string {
	return fmt.Sprintf("no kind of entry is called %q", e.Kind)
}

// kindOf finds a kind by its name.
func kindOf(name string) (kind, error) {
	if k := kinds[name]; k != nil {
		return k, nil
	}
	return nil, ErrUnknownKind{name}
}

// Kinds lists the names of all that are declared.
func Kinds() (names []string) {
	for n := range kinds {
		names = append(names, n)
	}
	return names
}

// InputsOf is what of an entry can be corrected in place; nothing: it is undone and
// done again.
func InputsOf(name string) []Input {
	if k := kinds[name]; k != nil {
		return k.Inputs()
	}
	return nil
}

// ValuesOf is what an entry holds in its fields.
func ValuesOf(name string, data []byte) (map[string]any, error) {
	k, err := kindOf(name)
	if err != nil {
		return nil, err
	}
	return k.Values(data)
}

func (k *Kind[T]) act() bool { return k.Act }

func (k *Kind[T]) free() bool { return k.Free }

func (k *Kind[T]) holds(data any) bool {
	_, ok := data.(T)
	return ok
}

func (k *Kind[T]) read(data []byte) (v T, err error) {
	if err = json.Unmarshal(data, &v); err != nil {
		err = fmt.Errorf("%s: %w", k.Name, err)
	}
	return v, err
}

func (k *Kind[T]) tank(t *Tank, p *Past, data []byte) (folds bool, err error) {
	if k.Tank == nil {
		return false, nil
	}
	v, err := k.read(data)
	if err == nil {
		k.Tank(t, p, v)
	}
	return true, err
}

func (k *Kind[T]) says(data []byte) (say.Text, error) {
	v, err := k.read(data)
	if err != nil {
		return nil, err
	}
	return k.Says(v), nil
}

// right is an entry with other values in its fields; what is in none stays as it was.
func (k *Kind[T]) right(ctx context.Context, tx *store.Tx, e Entry, values map[string]any) (any, error) {
	v, err := k.read(e.Data)
	if err != nil {
		return nil, err
	}
	k.Set(&v, values)
	if k.Right != nil {
		v, err = k.Right(ctx, tx, e, v)
	}
	return v, err
}

func (k *Kind[T]) gone(ctx context.Context, tx *store.Tx, data []byte) error {
	if k.Gone == nil {
		return nil
	}
	v, err := k.read(data)
	if err != nil {
		return err
	}
	return k.Gone(ctx, tx, v)
}

func (k *Kind[T]) settle(ctx context.Context, tx *store.Tx, about Things) error {
	if k.Settle == nil {
		return nil
	}
	return k.Settle(ctx, tx, about)
}
