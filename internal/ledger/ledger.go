// Package ledger writes facts and keeps the present state beside them. An
// entry is never changed: a mistake is put right by another that corrects it
// and takes its place in line; then the state is folded anew from the facts.
package ledger

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/unit"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
)

// The kinds of entry that are not acts on a batch.
const (
	KindReading = "reading" // of a reservoir, by a person
	KindTreat   = "treat"   // what was added to a reservoir
	KindNote    = "note"
	KindTick    = "tick" // a stop's task done
	KindSkip    = "skip" // a stop's task left for today
	KindVoid    = "void" // takes an entry back
)

// Note is the data of a note.
type Note struct {
	Text string `json:"text"`
}

// Tick is the data of a tick or skip.
type Tick struct {
	Task string `json:"task"`
	What string `json:"what"`
}

// Fact is an entry about to be written.
type Fact struct {
	ID         uuid.UUID // made by whoever writes; the same id twice is one entry
	Kind       string
	HappenedAt time.Time // zero: now
	Batch      *uuid.UUID
	Place      *uuid.UUID
	Reservoir  *uuid.UUID
	Data       any
	About      string // names to find the entry by, beside its own sentence

	corrects *uuid.UUID
	inLine   *int64
}

// Write stores a fact. It says again when the id is there already: then
// nothing is stored, and the caller has nothing more to do.
func Write(ctx context.Context, tx *store.Tx, f Fact) (again bool, err error) {
	if f.ID == uuid.Nil {
		return false, field.Refuse("id", "is missing; load the page again")
	}
	if f.HappenedAt.IsZero() {
		f.HappenedAt = tx.Now
	}
	if f.HappenedAt.After(tx.Now.Add(time.Minute)) {
		return false, field.Refuse("when", "lies in the future")
	}
	data, err := json.Marshal(f.Data)
	if err != nil {
		return false, err
	}
	words := strings.TrimSpace(f.About + " " + Sentence(unit.Prefs{}, f.Kind, data) + " " + tx.Who.Name)
	n, err := tx.AddEntry(ctx, db.AddEntryParams{
		SchoolID: tx.Who.School, ID: f.ID, Kind: f.Kind, HappenedAt: f.HappenedAt, WrittenAt: tx.Now, PersonID: tx.Who.Person,
		BatchID: f.Batch, PlaceID: f.Place, ReservoirID: f.Reservoir, Corrects: f.corrects, PlaceInLine: f.inLine, Data: data, Words: words, Sent: tx.Sent,
	})
	if n > 0 || err != nil {
		return false, err
	}
	return Known(ctx, tx, f.ID)
}

// Correct puts an entry right: data in place of its own, or void, which takes
// it back. What came later must still be possible; otherwise it is refused.
func Correct(ctx context.Context, tx *store.Tx, id, wrong uuid.UUID, data any, void bool) error {
	old, err := tx.GetEntry(ctx, wrong)
	if err != nil {
		return err
	}
	if old.Corrected {
		return field.Refuse("entry", "has been corrected already; correct the newer one")
	}
	if old.Kind == KindVoid {
		return field.Refuse("entry", "is itself an undo; write down what happened instead")
	}
	f := Fact{
		ID: id, Kind: old.Kind, HappenedAt: old.HappenedAt, Batch: old.BatchID, Place: old.PlaceID, Reservoir: old.ReservoirID,
		Data: data, About: "correction " + firstWord(old.Words), corrects: &old.ID, inLine: old.PlaceInLine,
	}
	if f.inLine == nil {
		f.inLine = &old.Seq
	}
	if void {
		f.Kind, f.Data = KindVoid, Note{Text: Sentence(unit.Prefs{}, old.Kind, old.Data)}
	}
	var before batchBooks
	if old.BatchID != nil {
		if _, err := tx.LockBatch(ctx, *old.BatchID); err != nil {
			return err
		}
		if before, err = foldBatch(ctx, tx, *old.BatchID); err != nil {
			return err
		}
	}
	if old.ReservoirID != nil {
		if _, err := tx.LockReservoir(ctx, *old.ReservoirID); err != nil {
			return err
		}
	}
	if _, err := Write(ctx, tx, f); err != nil {
		return err
	}
	if old.BatchID != nil {
		after, err := foldBatch(ctx, tx, *old.BatchID)
		if errors.As(err, &unfit{}) {
			return field.Refuse("entry", fmt.Sprintf("What was written down later rests on this (%s). Take that back first.", err))
		}
		if err != nil {
			return err
		}
		if err := putBatch(ctx, tx, *old.BatchID, before.state, after); err != nil {
			return err
		}
	}
	if old.ReservoirID != nil {
		_, err = refoldReservoir(ctx, tx, *old.ReservoirID)
	}
	return err
}

func firstWord(s string) string {
	w, _, _ := strings.Cut(s, " ")
	return w
}
