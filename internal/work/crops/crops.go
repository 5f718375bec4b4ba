// Package crops is the catalogue as one school knows it: the usual values, and
// before them those that the school has found out for itself.
//
//	book, err := crops.Get(ctx, store, who)
//	lettuce := book.Find("lettuce")
package crops

import (
	"cmp"
	"context"
	"errors"
	"net/url"
	"slices"
	"strings"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// Book is the catalogue with what a school has of its own.
type Book struct {
	known map[string]crop.Crop // with values of the school's own, or its own crops
	own   map[string]bool      // the school's own crops, and whether each is in use
}

// Load reads the school's own values. One that a later version does not know
// any more is left out.
func Load(ctx context.Context, tx *store.Tx) (Book, error) {
	return store.Keep(ctx, tx, "crops", func() (Book, error) { return load(ctx, tx) })
}

func load(ctx context.Context, tx *store.Tx) (Book, error) {
	rows, err := tx.CropValues(ctx)
	b := Book{map[string]crop.Crop{}, map[string]bool{}}
	for _, r := range rows {
		c := b.Find(r.Crop)
		if r.Name == "" {
			b.known[r.Crop], b.own[r.Crop] = c, r.Value != ""
		} else if changed, err := c.With(r.Name, r.Value); err == nil {
			b.known[r.Crop] = changed
		}
	}
	return b, err
}

// Find is a crop with the school's own values; the zero Crop when nobody knows it.
func (b Book) Find(id string) crop.Crop {
	if c, ok := b.known[id]; ok {
		return c
	}
	c, _ := crop.Of(id)
	return c
}

// Path is a crop's page.
func Path(id string) string { return (&url.URL{Path: "/crops/" + id}).String() }

// Has tells whether it is a crop of the catalogue, or of the school's own.
func (b Book) Has(id string) bool {
	_, catalogue := crop.Find(id)
	_, own := b.own[id]
	return catalogue || own
}

// All is the whole catalogue and the school's own crops in use, in the order of their English names.
func (b Book) All() []crop.Crop { return b.list(false) }

// Listed are the same as a reader looks for them: in the alphabet of their language.
func (b Book) Listed(r say.Reader) []crop.Crop {
	all := b.All()
	say.Sort(r, all, func(c crop.Crop) string { return r.Say(c.Name) })
	return all
}

func (b Book) list(retired bool) []crop.Crop {
	all := crop.All()
	for i := range all {
		all[i] = b.Find(all[i].ID)
	}
	for id, inUse := range b.own {
		if inUse || retired {
			all = append(all, b.Find(id))
		}
	}
	slices.SortFunc(all, func(a, b crop.Crop) int {
		return cmp.Or(strings.Compare(string(a.Name), string(b.Name)), strings.Compare(a.ID, b.ID))
	})
	return all
}

// Get reads the catalogue as the school knows it.
func Get(ctx context.Context, s *store.Store, w who.Who) (b Book, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		b, err = Load(ctx, tx)
		return err
	})
	return b, err
}

// Set writes down values as the catalogue's table writes them, by column. A
// value that is the catalogue's own takes the school's back. It refuses columns
// by name, and all of them when one is refused.
func Set(ctx context.Context, s *store.Store, w who.Who, id string, values map[string]string) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	usual, ok := crop.Of(id)
	if !ok || id == crop.Unknown {
		return store.ErrNotFound
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		book, err := Load(ctx, tx)
		if err != nil {
			return err
		}
		if !book.Has(id) {
			return store.ErrNotFound
		}
		own, refused := book.Find(id), field.Errors{}
		for _, k := range crop.Columns {
			value, given := values[k.Name]
			if !given {
				continue
			}
			if own, err = own.With(k.Name, value); err != nil {
				refused.Tell(k.Name, say.Why(err))
			}
		}
		var together field.Errors
		if errors.As(own.Check(), &together) {
			refused = slices.Concat(refused, together)
		}
		if err := refused.Err(); err != nil {
			return err
		}
		for _, k := range crop.Columns {
			if _, given := values[k.Name]; !given {
				continue
			}
			if value := k.Of(own); value != k.Of(usual) {
				err = tx.PutCropValue(ctx, db.PutCropValueParams{SchoolID: w.School, Crop: id, Name: k.Name, Value: value})
			} else {
				err = tx.ForgetCropValue(ctx, db.ForgetCropValueParams{Crop: id, Name: k.Name})
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
}
