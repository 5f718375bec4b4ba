package solution

import (
	"context"
	"errors"
	"io"
	"runtime"
	"strings"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/meterlog"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
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
	Twice    int // readings of an hour that the clock shows twice
	Series   []SeriesPreview
	Problems []meterlog.Problem
}

const (
	yearsBack = 20 // before today are taken
	partSize  = 1 << 18
	draftDays = 1
)

// parse reads a file whose readings lie in the school's own years, for as long as somebody waits
// for it. Nothing of the database is held meanwhile.
func parse(ctx context.Context, s *store.Store, w who.Who, body io.Reader) (meterlog.Log, []meterlog.Problem, error) {
	bound.Dear(ctx, "a meter's file")
	now := s.Now()
	waited := readerFunc(func(p []byte) (int, error) {
		if ctx.Err() != nil {
			return 0, ctx.Err()
		}
		return body.Read(p)
	})
	defer runtime.GC() // what a long file leaves behind is twice as much as it holds: others need it
	log, problems := meterlog.Parse(waited, meterlog.Bounds{Zone: w.Zone, From: now.AddDate(-yearsBack, 0, 0), To: now.AddDate(0, 0, 1)})
	return log, problems, ctx.Err()
}

type readerFunc func(p []byte) (int, error)

func (f readerFunc) Read(p []byte) (int, error) { return f(p) }

// Examine reads a file without storing a reading; the file waits as a draft
// until somebody confirms it, a day at most.
func Examine(ctx context.Context, s *store.Store, w who.Who, file string, body io.ReadSeeker) (p Preview, err error) {
	if err := w.Must(who.Plan); err != nil {
		return p, err
	}
	if size, err := body.Seek(0, io.SeekEnd); err != nil || size > MaxFile {
		return p, errors.Join(err, field.Refuse("file", "is larger than 64 MB; split it"))
	}
	if file = name.Clean(file); name.Wrong(file, 200) != nil {
		return p, field.Refuse("file", "has a name that cannot be read; rename it")
	}
	if _, err := body.Seek(0, io.SeekStart); err != nil {
		return p, err
	}
	log, problems, err := parse(ctx, s, w, body)
	if err != nil {
		return p, err
	}
	p = Preview{Name: file, Problems: problems, Rows: log.Readings, Twice: log.Twice}
	return p, s.Aside(ctx, w, func(tx *store.Tx) error {
		if err := p.fill(ctx, tx, log); err != nil || len(p.Problems) > 0 {
			return err
		}
		if _, err := body.Seek(0, io.SeekStart); err != nil {
			return err
		}
		p.Draft, err = putDraft(ctx, tx, file, body)
		return err
	})
}

// putDraft keeps a file in pieces.
func putDraft(ctx context.Context, tx *store.Tx, name string, body io.Reader) (uuid.UUID, error) {
	id, err := uuid.NewV7()
	if err != nil {
		return id, err
	}
	if err := tx.DropDraft(ctx, db.DropDraftParams{ID: id, Older: tx.Now.AddDate(0, 0, -draftDays)}); err != nil {
		return id, err
	}
	if err := tx.AddDraft(ctx, db.AddDraftParams{SchoolID: tx.Who.School, ID: id, MadeAt: tx.Now, Name: name}); err != nil {
		return id, err
	}
	defer runtime.GC() // as in parse
	part := make([]byte, partSize)
	for n := 0; ; n++ {
		k, err := io.ReadFull(body, part)
		if k > 0 {
			if err := tx.AddDraftPart(ctx, db.AddDraftPartParams{SchoolID: tx.Who.School, DraftID: id, N: n, Body: part[:k]}); err != nil {
				return id, err
			}
		}
		if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
			return id, nil
		}
		if err != nil {
			return id, err
		}
	}
}

// draft reads a file that waits, piece by piece, each by itself.
type draft struct {
	ctx  context.Context
	s    *store.Store
	w    who.Who
	id   uuid.UUID
	n    int
	left []byte
}

// Read the next of it.
func (d *draft) Read(p []byte) (int, error) {
	if len(d.left) == 0 {
		err := d.s.Read(d.ctx, d.w, func(tx *store.Tx) (err error) {
			d.left, err = tx.GetDraftPart(d.ctx, db.GetDraftPartParams{DraftID: d.id, N: d.n})
			return err
		})
		if errors.Is(err, store.ErrNotFound) {
			return 0, io.EOF
		}
		if err != nil {
			return 0, err
		}
		d.n++
	}
	k := copy(p, d.left)
	d.left = d.left[k:]
	return k, nil
}

// fill finds which series are known, and names a unit that does not fit.
func (p *Preview) fill(ctx context.Context, tx *store.Tx, log meterlog.Log) error {
	known, err := tx.ListSeries(ctx)
	if err != nil {
		return err
	}
	tanks, err := ledger.Tanks(ctx, tx)
	if err != nil {
		return err
	}
	twins := map[string]string{}
	for _, x := range log.Series {
		if says := name.Wrong(x.Name, 100); says != nil {
			p.Problems = append(p.Problems, meterlog.Problem{Column: "series", Message: say.T("%q %s", x.Name, says)})
		}
		if twin, ok := twins[name.Key(x.Name)]; ok {
			p.Problems = append(p.Problems, meterlog.Problem{Column: "series", Message: say.T("%q and %q look the same; use only one of them", twin, x.Name)})
		}
		twins[name.Key(x.Name)] = x.Name
		p.Series = append(p.Series, newSeries(x, known, tanks, p))
	}
	return nil
}

func newSeries(r *meterlog.Series, known []db.Series, tanks []ledger.Tank, p *Preview) SeriesPreview {
	x := SeriesPreview{Name: r.Name, Unit: r.Unit, Rows: len(r.At), From: r.From(), To: r.To(), New: true}
	for _, k := range known {
		if name.Key(k.Name) != name.Key(r.Name) {
			continue
		}
		x.New, x.tank = false, k.TankID
		if k.Unit != r.Unit {
			p.Problems = append(
				p.Problems,
				meterlog.Problem{Column: "unit", Message: say.T("%s has been recorded in %s so far, but is in %s here", r.Name, k.Unit, r.Unit)},
			)
		}
	}
	for _, t := range tanks {
		if x.New && strings.HasPrefix(strings.ToLower(r.Name), strings.ToLower(t.Name)) {
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
type Imported struct {
	File    string `json:"file"`
	Rows    int    `json:"rows"`
	New     int    `json:"new"`
	Changed int    `json:"changed,omitempty"` // corrected
}

// Confirm stores a draft's readings, all or none. A reading that is there
// already with another value is corrected; the same file twice changes nothing.
func Confirm(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (out Imported, err error) {
	if err := w.Must(who.Plan); err != nil {
		return out, err
	}
	waits := func(tx *store.Tx) (db.ImportDraft, error) {
		d, err := tx.GetDraft(ctx, id)
		return d, store.Missing(err, "file", "is no longer waiting; choose it again")
	}
	if err := s.Read(ctx, w, func(tx *store.Tx) error { _, err := waits(tx); return err }); err != nil {
		return out, err
	}
	log, problems, err := parse(ctx, s, w, &draft{ctx: ctx, s: s, w: w, id: id})
	if err != nil {
		return out, err
	}
	return out, s.ReadIn(ctx, w, func(tx *store.Tx) error {
		d, err := waits(tx)
		if err != nil {
			return err
		}
		if out, err = bring(ctx, tx, d.Name, log, problems); err != nil {
			return err
		}
		return tx.DropDraft(ctx, db.DropDraftParams{ID: id, Older: tx.Now.AddDate(0, 0, -draftDays)})
	})
}

// Import stores a file's readings in one go, for the command line.
func Import(ctx context.Context, s *store.Store, w who.Who, name string, body io.Reader) (out Imported, problems []meterlog.Problem, err error) {
	if err := w.Must(who.Plan); err != nil {
		return out, nil, err
	}
	log, problems, err := parse(ctx, s, w, body)
	if err != nil {
		return out, nil, err
	}
	err = s.ReadIn(ctx, w, func(tx *store.Tx) error {
		out, err = bring(ctx, tx, name, log, problems)
		return err
	})
	if r, ok := err.(refusedFile); ok {
		return out, r, nil
	}
	return out, nil, err
}

type refusedFile []meterlog.Problem

func (r refusedFile) Error() string { return r[0].Message.String() }

// Why is the first of its problems.
func (r refusedFile) Why() say.Text { return r[0].Message }

// bring keeps the readings of a file.
func bring(ctx context.Context, tx *store.Tx, file string, log meterlog.Log, problems []meterlog.Problem) (out Imported, err error) {
	p := Preview{Problems: problems}
	// One import of a school at a time: what two bring into one quarter hour would
	// be missing from each other's roll-up, which each works out from what it sees.
	if _, err := tx.Conn().Exec(ctx, "SELECT pg_advisory_xact_lock(hashtextextended('readings of ' || $1::text, 0))", tx.Who.School.String()); err != nil {
		return out, err
	}
	if err := p.fill(ctx, tx, log); err != nil {
		return out, err
	}
	if len(p.Problems) > 0 {
		return out, refusedFile(p.Problems)
	}
	ids, err := ensureSeries(ctx, tx, p.Series)
	if err != nil {
		return out, err
	}
	out.File, out.Rows = file, log.Readings
	for _, x := range log.Series {
		fresh, changed, err := keep(ctx, tx, ids[name.Key(x.Name)], x)
		if err != nil {
			return out, err
		}
		out.New, out.Changed = out.New+fresh, out.Changed+changed
	}
	if out.New+out.Changed == 0 {
		return out, nil
	}
	id, err := uuid.NewV7()
	if err != nil {
		return out, err
	}
	_, err = ledger.Write(ctx, tx, ledger.Fact{ID: id, Kind: Brought.Name, Data: out})
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
		if err := tx.AddSeries(ctx, db.AddSeriesParams{SchoolID: tx.Who.School, ID: id, Name: x.Name, Unit: x.Unit, TankID: x.tank}); err != nil {
			return nil, err
		}
	}
	known, err := tx.ListSeries(ctx)
	ids := map[string]uuid.UUID{}
	for _, k := range known {
		ids[name.Key(k.Name)] = k.ID
	}
	return ids, err
}

// Say tells what an import of a file changed.
func (i Imported) Say() say.Text {
	if i.Changed > 0 {
		return say.T("Imported %s: %d readings, %d of them new, %d corrected", i.File, i.Rows, i.New, i.Changed)
	}
	return say.T("Imported %s: %d readings, %d of them new", i.File, i.Rows, i.New)
}
