package ledger

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/internal/base/store"
)

// ThingKind is what sort of thing entries are about.
type ThingKind string

// The things of a school that entries are about: a row of thing each, made with the batch,
// the place and so on by the database.
const (
	ABatch ThingKind = "batch"
	APlace ThingKind = "place"
	ATank  ThingKind = "tank"
	ATray  ThingKind = "tray"
	ALot   ThingKind = "lot"
	AWater ThingKind = "water"
	AMeter ThingKind = "meter"
	AFish  ThingKind = "fish"
	AStock ThingKind = "stock"
)

// Thing is something that an entry is about.
type Thing struct {
	ID   uuid.UUID `json:"id"`
	Kind ThingKind `json:"kind"`
	Name string    `json:"name"`
}

// Things are what an entry is about, as the database lists them.
type Things []Thing

// ThingsOf reads such a list, by kind and name.
func ThingsOf(list []byte) (t Things, err error) {
	err = json.Unmarshal(list, &t)
	slices.SortFunc(t, func(a, b Thing) int { return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Name, b.Name)) })
	return t, err
}

// A is the first of a kind; nil without one.
func (t Things) A(kind ThingKind) *Thing {
	for i := range t {
		if t[i].Kind == kind {
			return &t[i]
		}
	}
	return nil
}

// IDs are those of all of them.
func (t Things) IDs() (ids []uuid.UUID) {
	for _, x := range t {
		ids = append(ids, x.ID)
	}
	return ids
}

// Entry is a fact as it was kept.
type Entry struct {
	ID                    uuid.UUID
	Kind                  string
	HappenedAt, WrittenAt time.Time
	Person                string
	PersonID              uuid.UUID
	Data                  []byte
	About                 Things
	Corrects              *uuid.UUID // the entry whose place it takes
	Corrected             bool       // another has taken its place

	seq    int64
	inLine *int64
	words  string
	sent   []byte
}

// Get reads an entry.
func Get(ctx context.Context, tx *store.Tx, id uuid.UUID) (Entry, error) {
	r, err := tx.GetEntry(ctx, id)
	if err != nil {
		return Entry{}, err
	}
	about, err := ThingsOf(r.About)
	return Entry{
		r.ID, r.Kind, r.HappenedAt, r.WrittenAt, r.Person, r.PersonID, r.Data, about, r.Corrects, r.Corrected,
		r.Seq, r.PlaceInLine, r.Words, r.Sent,
	}, err
}
