package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Key is a program's: what it is called, and what it may.
type Key struct {
	ID     uuid.UUID
	Name   string
	Scope  string
	MadeBy string
	MadeAt time.Time
	UsedAt *time.Time
	Holds  bool // it has not been withdrawn
}

// Scopes of keys, as people choose them.
var Scopes = []struct {
	ID   string
	Says say.Words
}{
	{who.ScopeRead, "read"},
	{who.ScopeMeasure, "read and measure"},
	{who.ScopeAll, "all but people, acid and alkali"},
	{who.ScopeDose, "all but people: acid and alkali too"},
	{who.ScopeCalendar, "the season’s calendar alone"},
}

// ScopeWords are what a scope is called.
func ScopeWords(scope string) say.Words {
	for _, x := range Scopes {
		if x.ID == scope {
			return x.Says
		}
	}
	return say.Words(scope)
}

// NewKeyText is a key as a program sends it: 160 bits.
func NewKeyText() string { return "ulpa_" + strings.ToLower(rand.Text()+rand.Text()[:6]) }

// KeyHash is what a program's key is known by.
func KeyHash(key string) []byte {
	h := sha256.Sum256([]byte("ulpa key " + key))
	return h[:]
}

// AddKey makes a program that comes with a key, known by its hash alone.
func AddKey(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, called, scope, key string) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	var e field.Errors
	called = name.Take(&e, "name", called, 60)
	known := false
	for _, x := range Scopes {
		known = known || x.ID == scope
	}
	e.Require(known, "scope", "choose what it may")
	e.Require(id != uuid.Nil, "id", "is missing; load the page again")
	if err := e.Err(); err != nil {
		return err
	}
	var by *uuid.UUID
	if w.Person != uuid.Nil {
		by = &w.Person
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := tx.AddPerson(ctx, db.AddPersonParams{SchoolID: w.School, ID: id, Kind: string(who.Program), Name: called, SecretHash: "-"}); err != nil {
			return err
		}
		if err := tx.PutProgramKey(ctx, db.PutProgramKeyParams{
			SchoolID: w.School, ID: id, Token: KeyHash(key), Scope: scope, MadeBy: by, MadeAt: tx.Now,
		}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Made a key for the program %s: %s", say.Name(called), ScopeWords(scope))
	})
}

// Keys lists the programs' keys, those that were withdrawn last.
func Keys(ctx context.Context, s *store.Store, w who.Who) (out []Key, err error) {
	if err := w.Must(who.People); err != nil {
		return nil, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.ListProgramKeys(ctx)
		for _, r := range rows {
			out = append(out, Key{r.ID, r.Name, r.Scope, r.MadeBy, r.MadeAt, r.UsedAt, r.Active})
		}
		return err
	})
	return out, err
}

// WithdrawKey ends a key at once; what it did stays in the books.
func WithdrawKey(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	if err := w.Must(who.People); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.ListProgramKeys(ctx)
		if err != nil {
			return err
		}
		for _, r := range rows {
			if r.ID != id {
				continue
			}
			if _, err := tx.SetActive(ctx, db.SetActiveParams{ID: id, Active: false}); err != nil {
				return err
			}
			return trail.Write(ctx, tx, "Withdrew the key of the program %s", say.Name(r.Name))
		}
		return store.ErrNotFound
	})
}

// KeyUsed notes that a key was used, now and then.
func KeyUsed(ctx context.Context, s *store.Store, w who.Who) error {
	return s.Aside(ctx, w, func(tx *store.Tx) error {
		at := tx.Now
		return tx.UseProgramKey(ctx, db.UseProgramKeyParams{ID: w.Person, UsedAt: &at})
	})
}
