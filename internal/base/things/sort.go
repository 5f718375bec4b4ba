package things

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Sort is a Kind of whatever: what pages and programs ask of it.
type Sort interface {
	Called() Called
	Inputs() []ledger.Input
	// Look reads the list, and the fields of one of them, or of a new one for the zero id.
	Look(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (Look, error)
	// Change keeps a thing with other values in its fields; a new one begins blank. What seldom
	// is so is Asked about, unless they are sure.
	Change(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, was string, sure bool, values func(was map[string]any) map[string]any) error
	Retire(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, retired bool) error
	Delete(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, was string) error
	Move(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, by int) error
	Arrange(ctx context.Context, s *store.Store, w who.Who, ids []uuid.UUID) error
	// ListJSON, GetJSON and PutJSON are the same for programs. With was the empty text a thing
	// must be new.
	ListJSON(ctx context.Context, s *store.Store, w who.Who) ([]any, error)
	GetJSON(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (v any, tag string, err error)
	PutJSON(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, body []byte, was string) (tag string, err error)
	Example() any
	IDOf(v any) uuid.UUID // of one that ListJSON gave
}

// Called is what a kind is called and what can be done with its things.
type Called struct {
	Name, Path      string
	One, Add        say.Words
	Title, About    say.Words
	May             who.Ability
	Orders, Retires bool
	Deletes         bool
}

// Item is a thing in the list.
type Item struct {
	ID      uuid.UUID
	Name    string
	Says    say.Text
	Page    string // where it is looked at; empty when it has none
	Retired bool
}

// Look is a list of things and the fields of one.
type Look struct {
	Items   []Item
	Options Options
	One     Item
	Tag     string // New for a new one
	Values  map[string]any
	Needed  map[string]bool // of a new one: the fields that must be given
	Alters  []say.Text
}

// Called says what the kind is called.
func (k *Kind[T]) Called() Called {
	return Called{
		Name: k.Name, One: k.One, Add: k.Add, Title: k.Title, About: k.About, May: k.May,
		Orders: k.Order != nil, Retires: k.Retired != nil, Deletes: k.Drop != nil,
	}
}

// Inputs are what its forms ask for.
func (k *Kind[T]) Inputs() (out []ledger.Input) {
	for _, f := range k.Fields {
		out = append(out, f.Input)
	}
	return out
}

func (k *Kind[T]) values(v *T) map[string]any {
	out := map[string]any{}
	for _, f := range k.Fields {
		out[f.Name] = f.Of(v)
	}
	return out
}

// Look reads the list, and the fields of one of them, or of a new one for the zero id.
func (k *Kind[T]) Look(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (out Look, err error) {
	if err := w.Must(k.May); err != nil {
		return out, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		all, err := k.All(ctx, tx)
		if err != nil {
			return err
		}
		if out.Options, err = k.options(ctx, tx); err != nil {
			return err
		}
		one := k.blank()
		found := id == uuid.Nil
		for _, v := range all {
			item := k.item(v)
			out.Items = append(out.Items, item)
			if item.ID == id {
				found, one, out.One, out.Tag = true, v, item, Tag(v)
			}
		}
		if !found {
			return store.ErrNotFound
		}
		out.Values = k.values(&one)
		if id == uuid.Nil {
			out.Needed = k.needed(ctx, tx)
		}
		if out.Tag != New && k.Alters != nil {
			out.Alters, err = k.Alters(ctx, tx, one)
		}
		if out.Tag != New && k.Used != nil && k.Used(one) {
			out.Alters = append(out.Alters, say.T(k.Hangs))
		}
		return err
	})
	return out, err
}

// needed are the fields for which a blank thing is refused: those that must be given.
func (k *Kind[T]) needed(ctx context.Context, tx *store.Tx) map[string]bool {
	blank, out := k.blank(), map[string]bool{}
	var refused field.Errors
	if errors.As(k.Check(ctx, tx, nil, &blank), &refused) {
		for _, e := range refused {
			out[e.Field] = true
		}
	}
	return out
}

func (k *Kind[T]) item(v T) Item {
	x := Item{ID: *k.ID(&v), Name: k.Label(v), Says: k.Says(v), Retired: k.retired(&v)}
	if k.Page != nil && !x.Retired {
		x.Page = k.Page(v)
	}
	return x
}

// Change keeps a thing with other values in its fields; a new one begins blank.
func (k *Kind[T]) Change(
	ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, was string, sure bool, values func(map[string]any) map[string]any,
) error {
	if err := w.Must(k.May); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		v, err := k.find(ctx, tx, id)
		there := err == nil
		if errors.Is(err, store.ErrNotFound) && was == New {
			blank := k.blank()
			v, err = &blank, nil
		}
		if err != nil {
			return err
		}
		if there && was == New { // a form sent twice: what it said then is what is compared
			blank := k.blank()
			v = &blank
		}
		*k.ID(v) = id
		before := *v
		typed := values(k.values(v))
		if typed == nil {
			return nil // the form says what is wrong
		}
		for _, f := range k.Fields {
			if x, ok := typed[f.Name]; ok {
				f.Put(v, x)
			}
		}
		if _, err = k.PutIn(ctx, tx, *v, was); err != nil || sure {
			return err
		}
		return k.asks(&before, v)
	})
}

// ListJSON reads them all.
func (k *Kind[T]) ListJSON(ctx context.Context, s *store.Store, w who.Who) (out []any, err error) {
	list, err := k.List(ctx, s, w)
	for _, v := range list {
		out = append(out, v)
	}
	return out, err
}

// GetJSON reads one, with its tag.
func (k *Kind[T]) GetJSON(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (any, string, error) {
	v, err := k.Get(ctx, s, w, id)
	return v, Tag(v), err
}

// PutJSON keeps one as body says.
func (k *Kind[T]) PutJSON(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, body []byte, was string) (string, error) {
	v := k.blank()
	if err := Decode(body, &v); err != nil {
		return "", err
	}
	if said := *k.ID(&v); said != uuid.Nil && said != id {
		return "", field.Refuse("id", "is not the one in the address")
	}
	*k.ID(&v) = id
	return k.Put(ctx, s, w, v, was)
}

func (k *Kind[T]) blank() (v T) {
	if k.Blank != nil {
		v = k.Blank()
	}
	return v
}

// Example is one of the kind with nothing in it.
func (k *Kind[T]) Example() any { return k.blank() }

// IDOf is the id of one that ListJSON gave.
func (k *Kind[T]) IDOf(v any) uuid.UUID {
	t, _ := v.(T)
	return *k.ID(&t)
}

// Decode reads strict JSON: one object, no unknown field.
func Decode(body []byte, into any) error {
	d := json.NewDecoder(bytes.NewReader(body))
	d.DisallowUnknownFields()
	err := d.Decode(into)
	if err == nil && d.More() {
		return field.Refuse("body", "holds more than one object")
	}
	var wrong *json.UnmarshalTypeError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &wrong) && wrong.Field != "":
		return field.Refuse(wrong.Field, "must be another type than %s", wrong.Value)
	case strings.HasPrefix(err.Error(), "json: unknown field "):
		name := strings.Trim(strings.TrimPrefix(err.Error(), "json: unknown field "), `"`)
		return field.Refuse(name, "is not a field of this")
	}
	return field.Refuse("body", "is not an object of JSON that can be read here")
}
