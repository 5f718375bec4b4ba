// Package notebook reads what happened, takes notes, and puts mistakes right.
//
//	err := notebook.Note(ctx, store, who, notebook.NoteRequest{ID: id, Text: "Aphids", About: []uuid.UUID{tray}})
//	lines, err := notebook.Read(ctx, store, who, notebook.Filter{Find: "aphids"})
package notebook

import (
	"context"
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
)

// Few is how many lines the page of a batch, a place or a tank shows.
const Few = 8

// Filter chooses entries. Before and BeforeSeq page on from an entry.
type Filter struct {
	About     *uuid.UUID // a thing of the school; nil: everything
	Find      string
	Before    *time.Time
	BeforeSeq int64
	Most      int // 0: 40
}

// Thing reads what something is called.
func Thing(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (t ledger.Thing, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		row, err := tx.GetThing(ctx, id)
		t = ledger.Thing{ID: id, Kind: ledger.ThingKind(row.Kind), Name: row.Name}
		return err
	})
	return t, err
}

// Line is one entry as it is read.
type Line struct {
	ledger.Entry
	Seq  int64
	Says say.Text
	May  bool // this person may correct it
}

// Read lists entries, newest first, in the reader's units.
func Read(ctx context.Context, s *store.Store, w who.Who, f Filter) (out []Line, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = In(ctx, tx, f)
		return err
	})
	return out, err
}

// In is Read within a transaction.
func In(ctx context.Context, tx *store.Tx, f Filter) (out []Line, err error) {
	if f.Most == 0 {
		f.Most = 40
	}
	if f.Find != "" || f.Before != nil {
		out, err = read(ctx, tx, f)
	} else {
		out, err = store.Keep(ctx, tx, fmt.Sprint("notebook ", f.About, f.Most), func() ([]Line, error) { return read(ctx, tx, f) })
		out = slices.Clone(out)
	}
	for i, l := range out {
		out[i].May = !l.Corrected && l.Kind != ledger.Void.Name && (l.Person == tx.Who.Name || tx.Who.May(who.Correct))
	}
	return out, err
}

func read(ctx context.Context, tx *store.Tx, f Filter) ([]Line, error) {
	var find []string
	if strings.TrimSpace(f.Find) != "" {
		for _, way := range words.Askings(f.Find) {
			find = append(find, "%"+strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(way)+"%")
		}
	}
	rows, err := tx.Notebook(ctx, db.NotebookParams{
		Thing: f.About, Ways: find, Before: f.Before, BeforeSeq: f.BeforeSeq, Most: f.Most,
	})
	var out []Line
	for _, r := range rows {
		about, err := ledger.ThingsOf(r.About)
		if err != nil {
			return nil, err
		}
		out = append(out, Line{Seq: r.Seq, Says: ledger.Said(tx, r.ID, r.Kind, r.Data), Entry: ledger.Entry{
			ID: r.ID, Kind: r.Kind, HappenedAt: r.HappenedAt, WrittenAt: r.WrittenAt, Person: r.Person, Data: r.Data, About: about,
			Corrects: r.Corrects, Corrected: r.Corrected,
		}})
	}
	return out, err
}

// CSV writes every entry the filter chooses, page by page, each read in a transaction of
// its own: whoever takes it in slowly holds nothing of the database. A cell that a
// spreadsheet would take for a formula is written so that it stays text.
func CSV(ctx context.Context, s *store.Store, w who.Who, f Filter, to io.Writer) error {
	out := csv.NewWriter(to)
	f.Most = 500
	if err := out.Write([]string{"happened", "written", "who", "batch", "place", "tank", "tray", "lot", "kind", "what", "corrected", "entry"}); err != nil {
		return err
	}
	for {
		lines, err := Read(ctx, s, w, f)
		if err != nil {
			return err
		}
		for _, l := range lines {
			corrected := ""
			if l.Corrected {
				corrected = "yes"
			}
			named := func(kind ledger.ThingKind) string {
				if t := l.About.A(kind); t != nil {
					return t.Name
				}
				return ""
			}
			rec := []string{
				l.HappenedAt.In(w.Zone).Format(time.RFC3339), l.WrittenAt.In(w.Zone).Format(time.RFC3339),
				l.Person, named(ledger.ABatch), named(ledger.APlace), named(ledger.ATank),
				named(ledger.ATray), named(ledger.ALot), l.Kind, w.Prefs.Say(l.Says), corrected, l.ID.String(),
			}
			for i := range rec {
				rec[i] = name.Cell(rec[i])
			}
			if err := out.Write(rec); err != nil {
				return err
			}
		}
		if len(lines) < f.Most {
			out.Flush()
			return out.Error()
		}
		last := lines[len(lines)-1]
		f.Before, f.BeforeSeq = &last.HappenedAt, last.Seq
	}
}

// NoteRequest is a free note about things of the school, or about nothing in particular.
type NoteRequest struct {
	ID    uuid.UUID
	Text  string
	About []uuid.UUID
	At    time.Time // zero: now
}

// Note writes a note.
func Note(ctx context.Context, s *store.Store, w who.Who, r NoteRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	note, err := ledger.NewNote(r.Text)
	if err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "notebook.Note", What: r}, func(tx *store.Tx) error {
		names := ""
		for _, id := range r.About {
			t, err := tx.GetThing(ctx, id)
			if err != nil {
				return err
			}
			names += " " + t.Name
		}
		_, err := ledger.Write(
			ctx,
			tx,
			ledger.Fact{ID: r.ID, Kind: ledger.Noted.Name, HappenedAt: r.At, About: r.About, Data: note, Names: names},
		)
		return err
	})
}

// Undo writes that an entry does not count. A crew may undo its own entries, not those of others.
func Undo(ctx context.Context, s *store.Store, w who.Who, act ledger.Act) error {
	return ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: "notebook.Undo", What: act.On}, func(tx *store.Tx) error {
		if _, err := mayCorrect(ctx, tx, act.On); err != nil {
			return err
		}
		return ledger.TakeBack(ctx, tx, act.ID, act.On)
	})
}

// UndoVisit undoes what a visit to a tray wrote of each batch there; entry is the first of it. What
// was corrected or undone since stays as it is.
func UndoVisit(ctx context.Context, s *store.Store, w who.Who, act ledger.Act) error {
	return ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: "notebook.UndoVisit", What: act.On}, func(tx *store.Tx) error {
		all, err := tx.WrittenWith(ctx, act.On)
		if err != nil {
			return err
		}
		if len(all) == 0 {
			return store.ErrNotFound
		}
		for _, entry := range all {
			e, err := mayCorrect(ctx, tx, entry)
			if err != nil {
				return err
			}
			id := act.ID
			if entry != act.On {
				of := e.About.A(ledger.ABatch)
				if of == nil || entry != ledger.InVisit(act.On, of.ID, 1) || e.Corrected {
					continue
				}
				id = uuid.NewSHA1(act.ID, entry[:])
			}
			if err := ledger.TakeBack(ctx, tx, id, entry); err != nil {
				return err
			}
		}
		return nil
	})
}

func mayCorrect(ctx context.Context, tx *store.Tx, entry uuid.UUID) (ledger.Entry, error) {
	e, err := ledger.Get(ctx, tx, entry)
	if err != nil {
		return e, err
	}
	if e.PersonID != tx.Who.Person {
		return e, tx.Who.Must(who.Correct)
	}
	return e, nil
}

// Entry reads one entry for putting right.
func Entry(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (e ledger.Entry, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		e, err = mayCorrect(ctx, tx, id)
		return err
	})
	return e, err
}

// Correct corrects an entry: values in its kind's fields (ledger.Field), by name. Both can still
// be read; only the newer one counts. An entry of a kind without fields is undone and entered
// again.
func Correct(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, values map[string]any) error {
	return ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: "notebook.Correct", What: []any{act.On, values}}, func(tx *store.Tx) error {
		if _, err := mayCorrect(ctx, tx, act.On); err != nil {
			return err
		}
		return ledger.Correct(ctx, tx, act.ID, act.On, values)
	})
}
