// Package pictures is what was photographed: scaled down, with nothing beside what is seen,
// and kept with an entry of the notebook. Taking the entry back deletes the picture.
//
//	id, err := pictures.Add(ctx, store, who, pictures.New{ID: id, File: file, About: &batch, Note: "First leaves"})
package pictures

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/picture"
	"ulpa/core/say"
	"ulpa/internal/base/apart"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// Picture is what an entry keeps of one.
type Picture struct {
	Picture uuid.UUID `json:"picture"` // its id, which stays when the entry is corrected
	Width   int       `json:"width"`
	Height  int       `json:"height"`
	Note    string    `json:"note,omitempty"`
}

// Taken is a picture with a note.
var Taken = ledger.Declare(ledger.Kind[Picture]{
	Name: "picture",
	Free: true,
	Says: func(p Picture) say.Text {
		if p.Note == "" {
			return say.T("A picture")
		}
		return say.T("A picture: %s", say.Name(p.Note))
	},
	Fields: []ledger.Field[Picture]{ledger.Short("note", "What it shows", func(p *Picture) *string { return &p.Note })},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, p Picture) (Picture, error) {
		var e field.Errors
		p.Note = name.Line(&e, "note", p.Note, mostNote)
		return p, e.Err()
	},
	Gone: func(ctx context.Context, tx *store.Tx, p Picture) error { return tx.DropPicture(ctx, p.Picture) },
})

// Of reads what an entry keeps of its picture.
func Of(data []byte) (p Picture, err error) {
	err = json.Unmarshal(data, &p)
	return p, err
}

// Bounds of what a school keeps.
const (
	Most     = 2000 // pictures in a school
	mostNote = 200  // letters of a note
)

// New is a picture to be kept.
type New struct {
	ID    uuid.UUID // of the entry; the picture takes it too
	File  []byte
	Note  string
	About *uuid.UUID // a thing of the school; nil: nothing in particular
	At    time.Time  // zero: now
}

// shrinker unfolds what anybody may have made in a process of its own.
var shrinker = apart.Declare("shrink", apart.Limits{Memory: picture.MostMemory + 160<<20, Seconds: 8, Answer: 8 << 20}, func(file []byte) ([]byte, error) {
	k, err := picture.Shrink(file)
	if err != nil {
		return nil, err
	}
	return json.Marshal(k)
})

func shrink(ctx context.Context, w who.Who, file []byte) (k picture.Kept, err error) {
	if err := picture.Check(file); err != nil {
		return k, err
	}
	ctx, done, err := bound.Shrinking.Enter(ctx, bound.Asker{School: w.School, Person: w.Person})
	if err != nil {
		return k, err
	}
	defer done()
	out, err := shrinker.Run(ctx, file)
	switch {
	case errors.Is(err, apart.ErrRefused):
		return k, picture.ErrBreaksOff
	case errors.Is(err, apart.ErrEnded):
		return k, picture.ErrTooMuch
	case errors.Is(err, apart.ErrLate):
		return k, bound.Full{Wait: 10 * time.Second}
	case err != nil:
		return k, err
	}
	return k, json.Unmarshal(out, &k)
}

// Add keeps a picture.
func Add(ctx context.Context, s *store.Store, w who.Who, n New) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	var e field.Errors
	n.Note = name.Line(&e, "note", n.Note, mostNote)
	e.Require(len(n.File) > 0, "file", "take a picture, or choose one")
	if err := e.Err(); err != nil {
		return err
	}
	kept, err := shrink(ctx, w, n.File)
	if err != nil {
		return err
	}
	sent := ledger.Sent{ID: n.ID, Verb: "pictures.Add", What: []any{sha256.Sum256(n.File), n.Note, n.About, n.At}}
	return ledger.Once(ctx, s, w, sent, func(tx *store.Tx) error {
		many, err := tx.CountPictures(ctx)
		if err != nil {
			return err
		}
		if many >= Most {
			return field.Refuse("file", "the school’s %d picture places are full: an adult has to undo some pictures first", Most)
		}
		f := ledger.Fact{ID: n.ID, Kind: Taken.Name, HappenedAt: n.At, Data: Picture{n.ID, kept.Width, kept.Height, n.Note}}
		if n.About != nil {
			t, err := tx.GetThing(ctx, *n.About)
			if err != nil {
				return err
			}
			f.About, f.Names = []uuid.UUID{*n.About}, t.Name
		}
		if again, err := ledger.Write(ctx, tx, f); again || err != nil {
			return err
		}
		return tx.AddPicture(ctx, db.AddPictureParams{SchoolID: tx.Who.School, ID: n.ID, Large: kept.Large, Small: kept.Small})
	})
}

// Read is a picture as a file, JPEG: large, or small enough for a list.
func Read(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, small bool) (file []byte, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		if small {
			file, err = tx.GetSmallPicture(ctx, id)
		} else {
			file, err = tx.GetPicture(ctx, id)
		}
		return err
	})
	return file, err
}

// Get is the entry that keeps a picture now, and what it keeps; ErrNotFound when it is gone.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (e ledger.Entry, p Picture, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		entry, err := tx.EntryOfPicture(ctx, id.String())
		if err != nil {
			return err
		}
		if e, err = ledger.Get(ctx, tx, entry); err == nil {
			p, err = Of(e.Data)
		}
		return err
	})
	return e, p, err
}
