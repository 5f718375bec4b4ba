// Package batches is what grows, batch by batch: what stands where, what was seen, lost and
// closed, how it compares with what was to be expected, and what may be wrong with it.
//
//	lines, err := batches.Lines(ctx, tx)
//	b, err := batches.Get(ctx, store, who, id)
package batches

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/round"
	"ulpa/core/seed"
	"ulpa/core/sprout"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

// Line is one open batch in a list.
type Line struct {
	ID      uuid.UUID
	Code    string
	Crop    crop.Crop
	Variety string
	Purpose string
	Wanted  int
	Sown    calendar.Day
	State   *batch.State
	Where   []Share
	Verdict ready.Verdict
	Seen    ready.Seen
	Counted calendar.Day // 0: never
	Cut     calendar.Day // last harvest; 0: never
	Harden  *Hardening
	SetOut  calendar.Day // 0: never
	Sprouts round.Sprouts
	// Comes is the share of the undecided cells that will still show a seedling.
	Comes  float64
	Care   *sprout.Care // of what is rinsed; nil: it is not
	Potted []Potted
	sownAt time.Time
	last   ledger.Latest
}

// Potted are plants of a batch that stand in pots of a size at a place.
type Potted struct {
	Place   uuid.UUID
	Size    uuid.UUID // of the pot
	Pot     string
	Plants  int
	Verdict ready.Verdict
}

// Share is a part of a batch that is at one place: in cells, ports or a stand.
type Share struct {
	Place           uuid.UUID
	Kind            string
	Plants, Waiting int
}

// Hardening is how a batch's ramp was begun.
type Hardening struct {
	Start calendar.Day
	Days  int
	Place uuid.UUID
}

// Plan is the batch's ramp, with the days on which its frame was opened.
func (h Hardening) Plan(school calendar.School, w who.Who, done map[calendar.Day]bool) harden.Plan {
	return harden.Plan{School: school, Start: h.Start, Steps: h.Days, DayHours: float64(w.DayEnds-w.DayBegins) / 60, Done: done}
}

// GoodDays is how long the batch has been outside: the days on which its frame was
// opened, and every day since it was set out.
func (l Line) GoodDays(done map[calendar.Day]bool, today calendar.Day) int {
	n := len(done)
	if l.SetOut != 0 && today > l.SetOut {
		n += int(today - l.SetOut)
	}
	return n
}

// InTrays counts the plants that still are in cells.
func (l Line) InTrays() int { return l.in("cell") }

// Undecided counts the cells of which nobody has said what became of them.
func (l Line) Undecided() int {
	n := 0
	for _, w := range l.Where {
		n += w.Waiting
	}
	return n
}

// Raising tells whether it is still being raised in trays: cells in which nothing came
// are none of that once the others have moved on.
func (l Line) Raising() bool {
	return l.InTrays() > 0 || l.Undecided() > 0 && l.InPorts()+l.InStands() == 0
}

// InPorts counts the plants in towers and rafts.
func (l Line) InPorts() int { return l.in("port") }

// InStands counts the plants in frames and beds.
func (l Line) InStands() int { return l.in("stand") }

func (l Line) in(kind string) int {
	n := 0
	for _, w := range l.Where {
		if w.Kind == kind {
			n += w.Plants
		}
	}
	return n
}

// ofBatches are tables of which each row is of one batch.
var ofBatches = []string{"batch", "cell", "port", "stand", "tray_part"}

// Lines reads every open batch with its verdict, in the order of sowing.
func Lines(ctx context.Context, tx *store.Tx) ([]Line, error) {
	return store.Keep(ctx, tx, linesKey(tx), func() ([]Line, error) {
		each, err := eachLine(ctx, tx)
		sorted := slices.SortedFunc(maps.Values(each), func(a, b *Line) int {
			return cmp.Or(a.sownAt.Compare(b.sownAt), cmp.Compare(a.Code, b.Code))
		})
		out := make([]Line, len(sorted))
		for i, l := range sorted {
			out[i] = *l
		}
		return out, err
	})
}

func linesKey(tx *store.Tx) string {
	return fmt.Sprint("lines ", tx.Who.Prefs, tx.Who.Day(tx.Now), tx.Hour())
}

// eachLine are the lines by batch: what is written of one is worked out for that one.
func eachLine(ctx context.Context, tx *store.Tx) (store.Each[*Line], error) {
	return store.KeepEach(ctx, tx, linesKey(tx)+" each", ofBatches, func(ids []uuid.UUID) (store.Each[*Line], error) { return lines(ctx, tx, ids) })
}

// lines are those of some batches, or of all.
func lines(ctx context.Context, tx *store.Tx, ids []uuid.UUID) (store.Each[*Line], error) {
	rows, err := tx.ListBatches(ctx, ids)
	if err != nil {
		return nil, err
	}
	where, err := tx.WhereBatchesAre(ctx, ids)
	if err != nil {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	at := map[uuid.UUID][]Share{}
	for _, x := range where {
		at[x.BatchID] = append(at[x.BatchID], Share{x.PlaceID, x.Kind, x.Plants, x.Waiting})
	}
	places, err := site.Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	tested, err := seeds.Tested(ctx, tx)
	if err != nil {
		return nil, err
	}
	potted, err := tx.PottedStands(ctx, ids)
	if err != nil {
		return nil, err
	}
	warmth := map[uuid.UUID]float64{}
	for _, p := range places {
		warmth[p.ID] = p.TemperatureC
	}
	pots := map[uuid.UUID][]db.PottedStandsRow{}
	for _, x := range potted {
		pots[x.BatchID] = append(pots[x.BatchID], x)
	}
	out := store.Each[*Line]{}
	for _, r := range rows {
		l, err := lineOf(tx, r, book, at[r.ID])
		if err != nil {
			return nil, err
		}
		l.pots(tx, pots[r.ID])
		l.judge(tx, warmth, lotOf(tested, r.SeedLotID, r.LabelRate, r.SownAt, r.Packed))
		out[l.ID] = &l
	}
	return out, nil
}

// lineOf is a batch as its books say.
func lineOf(tx *store.Tx, r db.ListBatchesRow, book crops.Book, where []Share) (Line, error) {
	l := Line{
		ID: r.ID, Code: r.Code, Crop: book.Find(r.Crop), Variety: r.Variety, Purpose: r.Purpose, Wanted: r.Wanted, Sown: tx.Who.Day(r.SownAt),
		State: batch.New(), Where: where, sownAt: r.SownAt,
	}
	if err := errors.Join(json.Unmarshal(r.State, l.State), json.Unmarshal(r.Latest, &l.last)); err != nil {
		return l, err
	}
	last := l.last
	if last.Looked != nil {
		l.Seen = seenOf(l.State, tx.Who.Day(*last.Looked))
	}
	l.Counted, l.Cut, l.SetOut = dayOf(tx.Who, last.Counted), dayOf(tx.Who, last.Cut), dayOf(tx.Who, last.SetOut)
	if last.Hardened != nil && last.Frame != nil {
		l.Harden = &Hardening{Start: tx.Who.Day(*last.Hardened), Days: last.RampDays, Place: *last.Frame}
	}
	if l.State.Start == batch.Soaked {
		care := careOf(r.SownAt, l.Sown, last)
		l.Care = &care
	}
	return l, nil
}

// pots adds in which pots its plants stand, and whether these are full.
func (l *Line) pots(tx *store.Tx, all []db.PottedStandsRow) {
	for _, x := range all {
		v := inPot(x.Days, tx.Who.Day(l.last.Potted[x.PotID.String()]), tx.Who.Day(tx.Now), l.State, l.Seen.On)
		l.Potted = append(l.Potted, Potted{x.PlaceID, x.PotID, x.Name, x.Plants, v})
	}
}

// judge says how far it is, where it stands.
func (l *Line) judge(tx *store.Tx, warmth map[uuid.UUID]float64, lot Lot) {
	bed := bedOf(l.Crop, lot, l.State, 18)
	for _, x := range l.Where {
		if x.Kind == "cell" {
			bed.tempC = warmth[x.Place]
		}
	}
	today := tx.Who.Day(tx.Now)
	l.Verdict = judge(bed, l.Sown, today, l.Seen)
	if l.InTrays()+l.Undecided() > 0 && l.State.Start == "" {
		l.outlook(bed, today)
	}
}

// lotOf is what was known of the seed of a batch; nothing where it was entered as it stood.
func lotOf(tested map[uuid.UUID]seed.Germination, lot *uuid.UUID, label *float64, sown time.Time, packed int) Lot {
	l := Lot{Label: label, AgeYears: sown.Year() - packed}
	if lot != nil {
		if g, ok := tested[*lot]; ok {
			l.Tested = &g
		}
	}
	return l
}

// judge tells how far a batch is by what was seen, by age, and by its leaves' pace.
func judge(bed seedbed, sown, today calendar.Day, seen ready.Seen) ready.Verdict {
	up := bed.daysToUp()
	g := ready.Grown{Sown: sown, Today: today, WarmC: bed.tempC, Seen: seen}
	if up > 0 {
		g.Up = sown + calendar.Day(math.Ceil(up))
		g.LeafCD = bed.leafCD(seen, float64(seen.On-g.Up))
	}
	return ready.Judge(bed.rule(), g)
}

// outlook is what to expect of the sowing now, and what its last count said.
func (l *Line) outlook(bed seedbed, today calendar.Day) {
	l.comes(bed)
	l.Sprouts = round.Sprouts{ComesUp: bed.comesUp(), Share: bed.share()}
	if day := float64(today - l.Sown); !l.Sprouts.ComesUp || day > 3*bed.daysToUp()+8 {
		return // what is not up by then does not come
	}
	l.Sprouts.Now = bed.on(float64(today-l.Sown), -1)
	if l.Counted != 0 {
		x := bed.on(float64(l.Counted-l.Sown), l.State.Sprouted)
		l.Sprouts.AtCount = &x
	}
}

// comes is what is to be expected of the cells in which nothing was up at the last count.
func (l *Line) comes(bed seedbed) {
	waiting := l.Undecided()
	if waiting == 0 || !bed.comesUp() {
		return
	}
	x, by := bed.on(float64(l.Counted-l.Sown), -1), 0.0
	if l.Counted == 0 {
		x = bed.on(0, -1)
	} else if x.ExpectedFinal > 0 {
		by = x.Expected / x.ExpectedFinal
	}
	share := x.ExpectedFinal / float64(max(1, l.State.Sown))
	l.Comes = seed.StillComes(l.State.Sown, l.State.Sprouted, waiting, share, by) / float64(waiting)
}

// Overview is the nursery at a glance.
type Overview struct {
	Today  calendar.Day
	Lines  []Line
	Closed []Past
	Trays  []site.Tray
	Places []site.Place
	In     map[uuid.UUID][]uuid.UUID // the trays in which a batch has seeds or plants
}

// Past is a batch that is closed.
type Past struct {
	ID                  uuid.UUID
	Code, Crop, Variety string
}

// ReadOverview reads the nursery at a glance.
func ReadOverview(ctx context.Context, s *store.Store, w who.Who) (o Overview, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o, err = store.Keep(ctx, tx, fmt.Sprint("nursery ", w.Day(tx.Now), tx.Hour()), func() (Overview, error) { return overview(ctx, tx) })
		return err
	})
	return o, err
}

func overview(ctx context.Context, tx *store.Tx) (o Overview, err error) {
	o.Today = tx.Who.Day(tx.Now)
	if o.Lines, err = Lines(ctx, tx); err != nil {
		return o, err
	}
	closed, err := tx.ListClosedBatches(ctx, 12)
	if err != nil {
		return o, err
	}
	for _, b := range closed {
		o.Closed = append(o.Closed, Past{b.ID, b.Code, b.Crop, b.Variety})
	}
	if o.Trays, err = site.Trays(ctx, tx); err != nil {
		return o, err
	}
	parts, err := InTrays(ctx, tx)
	if err != nil {
		return o, err
	}
	o.In = map[uuid.UUID][]uuid.UUID{}
	for batch, all := range parts.OfBatch {
		for _, p := range all {
			if p.Waiting+p.Standing > 0 {
				o.In[batch] = append(o.In[batch], p.Tray)
			}
		}
	}
	o.Places, err = site.Places(ctx, tx)
	return o, err
}
