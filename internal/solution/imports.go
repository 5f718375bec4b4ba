package solution

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/core/field"
	"ulpa/core/meterlog"
	"ulpa/internal/ledger"
	"ulpa/internal/site"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// MaxFile bounds a meter's file, in bytes.
const MaxFile = 64 << 20

// SeriesPreview is one series of a file.
type SeriesPreview struct {
	Name, Unit string
	Rows       int
	From, To   time.Time
	New        bool
	Tank       string // the tank it belongs to, by its name; "" for none
	tank       *uuid.UUID
}

// Preview is what a file holds, or what is wrong with it.
type Preview struct {
	Draft    uuid.UUID
	Name     string
	Rows     int
	Series   []SeriesPreview
	Problems []meterlog.Problem
}

// Examine reads a file without storing a reading; the file waits as a draft
// until somebody confirms it, a day at most.
func Examine(ctx context.Context, s *store.Store, w who.Who, name string, body []byte) (p Preview, err error) {
	if err := w.Must(who.Plan); err != nil {
		return p, err
	}
	if len(body) > MaxFile {
		return p, field.Refuse("file", "is larger than 64 MB; split it")
	}
	rows, problems := meterlog.Parse(bytes.NewReader(body), w.Zone)
	p = Preview{Name: name, Rows: len(rows), Problems: problems}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		if err := p.fill(ctx, tx, rows); err != nil || len(p.Problems) > 0 {
			return err
		}
		if p.Draft, err = uuid.NewV7(); err != nil {
			return err
		}
		if err := tx.DropDraft(ctx, db.DropDraftParams{ID: p.Draft, Older: tx.Now.Add(-24 * time.Hour)}); err != nil {
			return err
		}
		return tx.AddDraft(ctx, db.AddDraftParams{SchoolID: w.School, ID: p.Draft, MadeAt: tx.Now, Name: name, Body: body})
	})
	return p, err
}

// fill finds which series are known, and names a unit that does not fit.
func (p *Preview) fill(ctx context.Context, tx *store.Tx, rows []meterlog.Row) error {
	known, err := tx.ListSeries(ctx)
	if err != nil {
		return err
	}
	tanks, err := site.Tanks(ctx, tx)
	if err != nil {
		return err
	}
	index := map[string]int{}
	for _, r := range rows {
		i, ok := index[r.Series]
		if !ok {
			i = len(p.Series)
			index[r.Series] = i
			p.Series = append(p.Series, newSeries(r, known, tanks, p))
		}
		x := &p.Series[i]
		x.Rows++
		if r.At.Before(x.From) {
			x.From = r.At
		}
		if r.At.After(x.To) {
			x.To = r.At
		}
	}
	return nil
}

func newSeries(r meterlog.Row, known []db.Series, tanks []ledger.Tank, p *Preview) SeriesPreview {
	x := SeriesPreview{Name: r.Series, Unit: r.Unit, From: r.At, To: r.At, New: true}
	for _, k := range known {
		if k.Name != r.Series {
			continue
		}
		x.New, x.tank = false, k.ReservoirID
		if k.Unit != r.Unit {
			p.Problems = append(p.Problems, meterlog.Problem{Column: "unit", Message: r.Series + " has been kept in " + k.Unit + " so far, and is in " + r.Unit + " here"})
		}
	}
	for _, t := range tanks {
		if x.New && strings.HasPrefix(strings.ToLower(r.Series), strings.ToLower(t.Name)) {
			id := t.ID
			x.tank = &id
		}
		if x.tank != nil && *x.tank == t.ID {
			x.Tank = t.Name
		}
	}
	return x
}

// Imported is what an import changed.
type Imported struct{ Rows, New, Changed int }

// Confirm stores a draft's readings, all or none. A reading that is there
// already with another value is put right; the same file twice changes nothing.
func Confirm(ctx context.Context, s *store.Store, w who.Who, draft uuid.UUID) (out Imported, err error) {
	if err := w.Must(who.Plan); err != nil {
		return out, err
	}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		d, err := tx.GetDraft(ctx, draft)
		if err != nil {
			return store.Missing(err, "file", "is no longer waiting; choose it again")
		}
		if out, err = importBody(ctx, tx, d.Name, d.Body); err != nil {
			return err
		}
		return tx.DropDraft(ctx, db.DropDraftParams{ID: draft, Older: tx.Now.Add(-24 * time.Hour)})
	})
	return out, err
}

// Import stores a file's readings in one go, for the command line.
func Import(ctx context.Context, s *store.Store, w who.Who, name string, body []byte) (out Imported, problems []meterlog.Problem, err error) {
	if err := w.Must(who.Plan); err != nil {
		return out, nil, err
	}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		out, err = importBody(ctx, tx, name, body)
		return err
	})
	if r, ok := err.(refusedFile); ok {
		return out, r, nil
	}
	return out, nil, err
}

type refusedFile []meterlog.Problem

func (r refusedFile) Error() string { return r[0].Message }

func importBody(ctx context.Context, tx *store.Tx, name string, body []byte) (out Imported, err error) {
	rows, problems := meterlog.Parse(bytes.NewReader(body), tx.Who.Zone)
	p := Preview{Problems: problems}
	// One import of a school at a time: what two bring into one quarter hour would
	// be missing from each other's roll-up, which each works out from what it sees.
	if _, err := tx.Conn().Exec(ctx, "SELECT pg_advisory_xact_lock(hashtextextended('readings of ' || $1::text, 0))", tx.Who.School.String()); err != nil {
		return out, err
	}
	if err := p.fill(ctx, tx, rows); err != nil {
		return out, err
	}
	if len(p.Problems) > 0 {
		return out, refusedFile(p.Problems)
	}
	ids, err := ensureSeries(ctx, tx, p.Series)
	if err != nil {
		return out, err
	}
	from, to := p.Series[0].From, p.Series[0].To
	for _, x := range p.Series {
		if x.From.Before(from) {
			from = x.From
		}
		if x.To.After(to) {
			to = x.To
		}
		for m := time.Date(x.From.Year(), x.From.Month(), 1, 0, 0, 0, 0, time.UTC); !m.After(x.To); m = m.AddDate(0, 1, 0) {
			if err := tx.EnsureReadingMonth(ctx, m); err != nil {
				return out, err
			}
		}
	}
	conn := tx.Conn()
	if _, err := conn.Exec(ctx, "CREATE TEMPORARY TABLE incoming (series_id uuid, at timestamptz, value float8) ON COMMIT DROP"); err != nil {
		return out, err
	}
	_, err = conn.CopyFrom(ctx, pgx.Identifier{"incoming"}, []string{"series_id", "at", "value"}, pgx.CopyFromSlice(len(rows), func(i int) ([]any, error) {
		return []any{ids[rows[i].Series], rows[i].At, rows[i].Value}, nil
	}))
	if err != nil {
		return out, err
	}
	out.Rows = len(rows)
	if out.New, out.Changed, err = keepIncoming(ctx, tx, from, to); err != nil || out.New+out.Changed == 0 {
		return out, err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return out, err
	}
	_, err = ledger.Write(ctx, tx, ledger.Fact{ID: id, Kind: ledger.KindNote, Data: ledger.Note{Text: out.Say(name)}})
	return out, err
}

func ensureSeries(ctx context.Context, tx *store.Tx, series []SeriesPreview) (map[string]uuid.UUID, error) {
	for _, x := range series {
		if !x.New {
			continue
		}
		id, err := uuid.NewV7()
		if err != nil {
			return nil, err
		}
		if err := tx.AddSeries(ctx, db.AddSeriesParams{SchoolID: tx.Who.School, ID: id, Name: x.Name, Unit: x.Unit, ReservoirID: x.tank}); err != nil {
			return nil, err
		}
	}
	known, err := tx.ListSeries(ctx)
	ids := map[string]uuid.UUID{}
	for _, k := range known {
		ids[k.Name] = k.ID
	}
	return ids, err
}

// Say tells what an import of a file changed.
func (i Imported) Say(name string) string {
	s := fmt.Sprintf("Imported %s: %d readings, %d of them new", name, i.Rows, i.New)
	if i.Changed > 0 {
		s += fmt.Sprintf(", %d put right", i.Changed)
	}
	return s
}
