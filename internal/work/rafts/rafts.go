// Package rafts is boards of plants that float on water and move along as they age: what
// stands on each, what is to be done today, what comes next, and what was harvested from a board.
//
//	r, err := rafts.Get(ctx, store, who, place, rafts.Asked{})
//	err = rafts.Plant(ctx, store, who, rafts.PlantRequest{ID: id, Place: place, Batch: batch, Board: 1, Plants: 12})
package rafts

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/raft"
	"ulpa/core/ready"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
)

// Raft is a water with its boards, and what is to come.
type Raft struct {
	raft.Raft
	Place     site.Contents
	Today     calendar.Day
	Boards    []raft.Board // in the order they float
	Seedlings []raft.Seedlings
	Do        []raft.Do
	Crop      crop.Crop // that the rhythm and what is to be sown are for
	Crops     []crop.Crop
	Every     int  // days from one board to the next
	Apart     bool // every second hole, for this crop
	Rhythm    raft.Rhythm
	Ahead     []raft.Next
	Weeks     []raft.Week
}

// Asked is what a raft's rhythm is asked for; zero values take what is usual there.
type Asked struct {
	Crop  string
	Every int // days from one board to the next, 1 to 60
}

const (
	weekDays     = 7
	weeksAhead   = 9
	usualCrop    = "lettuce"
	rememberDays = 400 // that a raft's boards are looked back on
)

// Get reads a raft.
func Get(ctx context.Context, s *store.Store, w who.Who, place uuid.UUID, asked Asked) (r Raft, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		r, err = read(ctx, tx, place, asked)
		return err
	})
	return r, err
}

func read(ctx context.Context, tx *store.Tx, place uuid.UUID, asked Asked) (r Raft, err error) {
	if r.Place, err = site.Load(ctx, tx, place); err != nil {
		return r, err
	}
	r.Raft, r.Today = r.Place.Raft, tx.Who.Day(tx.Now)
	lines, err := batches.Lines(ctx, tx)
	if err != nil {
		return r, err
	}
	days, err := season.Calendar(ctx, tx)
	if err != nil {
		return r, err
	}
	r.Boards = boards(r.Raft, r.Place.Ports, lines)
	purposes, err := r.purposes(ctx, tx)
	if err != nil {
		return r, err
	}
	r.Seedlings = r.onTheWay(lines, purposes)
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return r, err
	}
	r.choose(asked, book, tx.Who.Prefs)
	r.Apart = raft.Apart(r.Crop.SpacingCM, holesApart(r.Place.Place))
	r.Rhythm = r.RhythmOf(r.Crop, r.Every, r.Apart)
	for i := range r.Boards {
		r.Boards[i].Holes = max(r.Rhythm.Plants, r.Boards[i].Plants())
	}
	r.Do = raft.Advise(r.Boards, r.Seedlings, r.Today)
	r.Ahead = raft.Ahead(r.Boards, r.Seedlings, r.Crop, r.Today, weekDays*weeksAhead, days.Open)
	r.Weeks = raft.Weeks(r.Boards, r.Ahead, r.Today, weeksAhead)
	return r, nil
}

// holesApart is how far the holes of a raft are from one another; 0: nobody measured it.
func holesApart(p site.Place) float64 {
	if p.LengthCM <= 0 || p.WidthCM <= 0 || !p.HasPorts() {
		return 0
	}
	return min(p.LengthCM/float64(p.Columns), p.WidthCM/float64(p.Tiers))
}

// Afloat reads the boards of every raft among the places.
func Afloat(ctx context.Context, tx *store.Tx, places []site.Place, lines []batches.Line) (out []round.Raft, err error) {
	list, err := site.LoadPorts(ctx, tx, slices.DeleteFunc(slices.Clone(places), func(p site.Place) bool { return p.Boards < 2 })...)
	for _, p := range list {
		out = append(out, round.Raft{Place: p.ID.String(), Boards: boards(p.Raft, p.Ports, lines)})
	}
	return out, err
}

// boards are those of a raft in the order they float, with what stands on each.
func boards(of raft.Raft, ports []site.Port, lines []batches.Line) (out []raft.Board) {
	if !of.Parted() {
		return nil
	}
	for _, n := range of.Order() {
		b := raft.Board{Number: n, Holes: of.Rows * of.Wide()}
		for _, x := range ports {
			if of.Board(x.Col) != n {
				continue
			}
			at := slices.IndexFunc(b.Standing, func(s raft.Standing) bool { return s.Batch == x.Batch.String() })
			if at < 0 {
				at = len(b.Standing)
				s := raft.Standing{Batch: x.Batch.String(), Code: x.Code}
				if l := slices.IndexFunc(lines, func(l batches.Line) bool { return l.ID == x.Batch }); l >= 0 {
					s.Crop, s.Sown = lines[l].Crop, lines[l].Sown
					s.Due = s.Crop.HarvestDue(s.Sown, lines[l].Cut, lines[l].State.Taken > 0)
				}
				b.Standing = append(b.Standing, s)
			}
			b.Standing[at].Plants++
		}
		out = append(out, b)
	}
	return out
}

// purposes are what those who stand or stood there are grown for.
func (r Raft) purposes(ctx context.Context, tx *store.Tx) (map[string]bool, error) {
	came, err := tx.CameTo(ctx, db.CameToParams{Place: r.Place.ID, Since: tx.Now.AddDate(0, 0, -rememberDays)})
	out := map[string]bool{}
	for _, x := range came {
		out[x.Purpose] = x.Purpose != ""
	}
	return out, err
}

// onTheWay are batches in trays that can come to this raft: of a crop that grows there, and
// grown for what it has been planted for, where anything ever was.
func (r Raft) onTheWay(lines []batches.Line, purposes map[string]bool) (out []raft.Seedlings) {
	for _, l := range lines {
		mine := len(purposes) == 0 || purposes[l.Purpose]
		for _, b := range r.Boards {
			for _, s := range b.Standing {
				mine = mine || s.Crop.ID == l.Crop.ID && l.Purpose == ""
			}
		}
		if !mine || !l.Crop.Suits("raft") || l.Crop.Stays() || !l.Raising() {
			continue
		}
		s := raft.Seedlings{Batch: l.ID.String(), Code: l.Code, Crop: l.Crop, Plants: l.InTrays(), Ready: r.Today, Until: l.Verdict.Until}
		s.Due = l.Crop.HarvestDue(l.Sown, 0, false)
		if s.Up = s.Plants > 0; !s.Up {
			s.Plants = int(float64(l.Undecided()) * l.Crop.UsualRate / 100 * l.Crop.Survival)
		}
		switch {
		case !s.Up, l.Verdict.Word == ready.Early:
			s.Ready = max(l.Verdict.About, r.Today+1)
			s.Until = s.Ready + calendar.Day(l.Crop.Ready.HoldDays)
		case l.Verdict.Since > 0:
			s.Ready = min(l.Verdict.Since, r.Today)
		}
		if s.Plants > 0 {
			out = append(out, s)
		}
	}
	return out
}

// choose settles the crop: as asked, else what most of the plants there are, else what most
// of the seedlings are.
func (r *Raft) choose(asked Asked, book crops.Book, p say.Reader) {
	r.Every = weekDays
	if asked.Every >= 1 && asked.Every <= 60 {
		r.Every = asked.Every
	}
	count, most := map[string]int{}, 0
	add := func(id string, n int) {
		if count[id] += n; count[id] > most {
			r.Crop, most = book.Find(id), count[id]
		}
	}
	for _, b := range r.Boards {
		for _, s := range b.Standing {
			add(s.Crop.ID, 1000*s.Plants)
		}
	}
	for _, s := range r.Seedlings {
		add(s.Crop.ID, s.Plants)
	}
	if most == 0 {
		r.Crop = book.Find(usualCrop)
	}
	for _, c := range book.Listed(p) {
		if c.Suits("raft") && !c.Stays() && !c.Cuts {
			r.Crops = append(r.Crops, c)
			if c.ID == asked.Crop {
				r.Crop = c
			}
		}
	}
}

// PlantRequest is plants of a batch that come from their trays to a board.
type PlantRequest struct {
	ID     uuid.UUID
	Place  uuid.UUID
	Batch  uuid.UUID
	Board  int
	Plants int
	Apart  bool      `json:",omitzero"` // into every second hole
	At     time.Time // zero: now
}

// Plant puts them into the board's free holes, from the first on.
func Plant(ctx context.Context, s *store.Store, w who.Who, q PlantRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: q.ID, Verb: "rafts.Plant", What: q}, func(tx *store.Tx) error {
		p, err := site.Load(ctx, tx, q.Place)
		if err != nil {
			return err
		}
		var e field.Errors
		e.Require(p.Raft.Parted(), "board", "this place floats as one piece; enter in its settings how many boards it has")
		e.Require(q.Plants >= 1, "plants", "must be 1 or more")
		e.Require(q.Board >= 1 && q.Board <= max(1, p.Raft.Boards), "board", "must be boards 1 to %d", p.Raft.Boards)
		if err := e.Err(); err != nil {
			return err
		}
		taken := map[tray.Cell]bool{}
		for _, x := range p.Ports {
			taken[tray.Cell{Row: x.Tier, Col: x.Col}] = true
		}
		holes := p.Raft.Plant(q.Board, q.Plants, q.Apart, func(c tray.Cell) bool { return taken[c] })
		if len(holes) < q.Plants {
			return field.Refuse("plants", "board %d has room for %d", q.Board, len(holes))
		}
		from, err := fromTrays(ctx, tx, q.Batch, q.Plants)
		if err != nil {
			return err
		}
		return site.MoveIn(ctx, tx, site.MoveRequest{ID: q.ID, Batch: q.Batch, From: from, To: q.Place, Ports: holes, At: q.At})
	})
}

// fromTrays takes so many plants of a batch out of its trays, one tray after the other.
func fromTrays(ctx context.Context, tx *store.Tx, of uuid.UUID, plants int) (out []batch.Spot, err error) {
	rows, err := tx.TraysOfBatches(ctx)
	left := plants
	for _, t := range rows {
		if n := min(left, t.Standing); t.BatchID == of && n > 0 {
			out, left = append(out, batch.Spot{Kind: batch.InCell, In: t.TrayID.String(), N: n}), left-n
		}
	}
	if err == nil && left > 0 {
		err = field.Refuse("plants", "only %d of them are in trays", plants-left)
	}
	return out, err
}

// HarvestRequest is what was taken whole from a board: all of a batch that stands on it.
type HarvestRequest struct {
	ID    uuid.UUID
	Place uuid.UUID
	Batch uuid.UUID
	Board int
	Grams float64
	Sure  bool
	At    time.Time // zero: now
}

// Harvest weighs it.
func Harvest(ctx context.Context, s *store.Store, w who.Who, q HarvestRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	sure := q.Sure
	q.Sure = false // whoever says it a second time sends the same
	return ledger.Once(ctx, s, w, ledger.Sent{ID: q.ID, Verb: "rafts.Harvest", What: q}, func(tx *store.Tx) error {
		p, err := site.Load(ctx, tx, q.Place)
		if err != nil {
			return err
		}
		r := harvest.Request{ID: q.ID, Batch: q.Batch, Place: &q.Place, Grams: q.Grams, Sure: sure, At: q.At}
		for _, x := range p.Ports {
			if x.Batch == q.Batch && p.Raft.Board(x.Col) == q.Board {
				r.From = append(r.From, batch.Spot{Kind: batch.InPort, In: q.Place.String(), Row: x.Tier, Col: x.Col})
			}
		}
		if len(r.From) == 0 {
			return field.Refuse("board", "nothing of this batch is on board %d", q.Board)
		}
		return harvest.WeighIn(ctx, tx, r)
	})
}
