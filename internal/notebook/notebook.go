// Package notebook reads what happened, takes notes, and puts mistakes right.
package notebook

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"io"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/solution"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Filter chooses entries. Before and BeforeSeq page on from an entry.
type Filter struct {
	Batch, Place, Reservoir *uuid.UUID
	Find                    string
	Before                  *time.Time
	BeforeSeq               int64
	Most                    int // 0: 40
}

// Line is one entry as it is read.
type Line struct {
	db.NotebookRow
	Says string
	May  bool // this person may correct it
}

// Read lists entries, newest first, in the reader's units.
func Read(ctx context.Context, s *store.Store, w who.Who, f Filter) (out []Line, err error) {
	if f.Most == 0 {
		f.Most = 40
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = read(ctx, tx, f)
		return err
	})
	return out, err
}

func read(ctx context.Context, tx *store.Tx, f Filter) ([]Line, error) {
	find := strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(strings.TrimSpace(f.Find))
	rows, err := tx.Notebook(ctx, db.NotebookParams{
		Batch: f.Batch, Place: f.Place, Reservoir: f.Reservoir, Find: find, Before: f.Before, BeforeSeq: f.BeforeSeq, Most: f.Most,
	})
	var out []Line
	for _, r := range rows {
		l := Line{NotebookRow: r, Says: ledger.Said(tx, r.ID, r.Kind, r.Data)}
		l.May = !r.Corrected && r.Kind != ledger.KindVoid && (r.Person == tx.Who.Name || tx.Who.May(who.Correct))
		out = append(out, l)
	}
	return out, err
}

// CSV writes every entry the filter chooses, page by page, each read in a transaction of
// its own: whoever takes it in slowly holds nothing of the database. A cell that a
// spreadsheet would take for a formula is written so that it stays text.
func CSV(ctx context.Context, s *store.Store, w who.Who, f Filter, to io.Writer) error {
	out := csv.NewWriter(to)
	f.Most = 500
	if err := out.Write([]string{"happened", "written", "who", "batch", "place", "reservoir", "kind", "what", "corrected", "entry"}); err != nil {
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
			rec := []string{
				l.HappenedAt.In(w.Zone).Format(time.RFC3339), l.WrittenAt.In(w.Zone).Format(time.RFC3339),
				l.Person, l.Code, l.Place, l.Reservoir, l.Kind, l.Says, corrected, l.ID.String(),
			}
			for i := range rec {
				rec[i] = plain(rec[i])
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

func plain(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}

// NoteRequest is a free note about a batch, a place or a reservoir, or about nothing in particular.
type NoteRequest struct {
	ID                      uuid.UUID
	Text                    string
	Batch, Place, Reservoir *uuid.UUID
	At                      time.Time // zero: now
}

// Note writes a note.
func Note(ctx context.Context, s *store.Store, w who.Who, r NoteRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	note, err := noteOf(r.Text)
	if err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "notebook.Note", What: r}, func(tx *store.Tx) error {
		about := ""
		if r.Batch != nil {
			b, err := tx.GetBatch(ctx, *r.Batch)
			if err != nil {
				return err
			}
			about = b.Code + " " + b.Crop
		}
		_, err := ledger.Write(ctx, tx, ledger.Fact{ID: r.ID, Kind: ledger.KindNote, HappenedAt: r.At, Batch: r.Batch, Place: r.Place, Reservoir: r.Reservoir, Data: note, About: about})
		return err
	})
}

// noteOf is a note as it is kept, at first and when it is put right.
func noteOf(text string) (ledger.Note, error) {
	n := ledger.Note{Text: strings.TrimSpace(text)}
	if n.Text == "" || utf8.RuneCountInString(n.Text) > 4000 {
		return n, field.Refuse("text", "takes 1 to 4,000 letters")
	}
	return n, nil
}

// Undo takes an entry back. A crew may take back its own, not others'.
func Undo(ctx context.Context, s *store.Store, w who.Who, id, entry uuid.UUID) error {
	return ledger.Once(ctx, s, w, ledger.Sent{ID: id, Verb: "notebook.Undo", What: entry}, func(tx *store.Tx) error {
		if _, err := mayCorrect(ctx, tx, entry); err != nil {
			return err
		}
		return ledger.Correct(ctx, tx, id, entry, nil, true)
	})
}

func mayCorrect(ctx context.Context, tx *store.Tx, entry uuid.UUID) (db.GetEntryRow, error) {
	e, err := tx.GetEntry(ctx, entry)
	if err != nil {
		return e, err
	}
	if e.PersonID != tx.Who.Person {
		return e, tx.Who.Must(who.Correct)
	}
	return e, nil
}

// Entry reads one entry for putting right.
func Entry(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (e db.GetEntryRow, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		e, err = mayCorrect(ctx, tx, id)
		return err
	})
	return e, err
}

// Right is what an entry should have said. Which part counts follows from the
// entry's kind: Reading, Treat, Note; Leaves and HeightCM of a look; Grams of a
// harvest; Cause of a loss.
type Right struct {
	Reading  *solution.Reading
	Treat    *solution.Treatment
	Text     string
	Leaves   int
	HeightCM float64
	Grams    float64
	Cause    string
}

// Correct puts an entry right. Both stay readable; only the newer one counts.
// What an act moved is put right by taking it back and doing it again.
func Correct(ctx context.Context, s *store.Store, w who.Who, id, entry uuid.UUID, r Right) error {
	return ledger.Once(ctx, s, w, ledger.Sent{ID: id, Verb: "notebook.Correct", What: []any{entry, r}}, func(tx *store.Tx) error {
		e, err := mayCorrect(ctx, tx, entry)
		if err != nil {
			return err
		}
		data, err := r.data(ctx, tx, e)
		if err != nil {
			return err
		}
		return ledger.Correct(ctx, tx, id, entry, data, false)
	})
}

func (r Right) data(ctx context.Context, tx *store.Tx, e db.GetEntryRow) (any, error) {
	switch e.Kind {
	case ledger.KindNote:
		return noteOf(r.Text)
	case ledger.KindReading, ledger.KindTreat:
		return r.ofTank(ctx, tx, e)
	}
	var a batch.Act
	if err := json.Unmarshal(e.Data, &a); err != nil {
		return nil, err
	}
	switch a.Kind {
	case batch.Look:
		a.Leaves, a.HeightCM = r.Leaves, r.HeightCM
	case batch.Harvest:
		if r.Grams <= 0 {
			return nil, field.Refuse("grams", "weigh it: more than nothing")
		}
		a.Grams = r.Grams
	case batch.Lose:
		a.Cause = r.Cause
	default:
		return nil, field.Refuse("entry", "of this kind is put right by taking it back and doing it again")
	}
	return a, a.Check()
}

// ofTank is a reading or an addition put right, checked as a new one is: against the tank
// as it stood then.
func (r Right) ofTank(ctx context.Context, tx *store.Tx, e db.GetEntryRow) (any, error) {
	if _, err := ledger.LockTank(ctx, tx, *e.ReservoirID); err != nil {
		return nil, err
	}
	before, err := ledger.TankBefore(ctx, tx, *e.ReservoirID, e.ID)
	if err != nil {
		return nil, err
	}
	if e.Kind == ledger.KindTreat {
		if r.Treat == nil {
			return nil, field.Refuse("water", "say what was added or drained")
		}
		if r.Treat.Amount > 0 {
			if err := tx.Who.Must(who.Dose); err != nil {
				return nil, err
			}
		}
		return before.Spec.Measured(*r.Treat), r.Treat.Check(before.Spec, before.State, e.HappenedAt, tx.Who.Prefs)
	}
	var was solution.Reading
	if err := json.Unmarshal(e.Data, &was); err != nil {
		return nil, err
	}
	if r.Reading == nil {
		r.Reading = &solution.Reading{}
	}
	r.Reading.Plants = was.Plants // who drank there does not change by what was misread
	return *r.Reading, r.Reading.Check(before.Spec, e.HappenedAt, tx.Who.Prefs)
}

// CanCorrect tells whether entries of a kind are put right in place; the others
// are taken back and done again.
func CanCorrect(kind string) bool {
	switch kind {
	case ledger.KindNote, ledger.KindReading, ledger.KindTreat, string(batch.Look), string(batch.Harvest), string(batch.Lose):
		return true
	}
	return false
}
