// Package site is what stands where: places, their ports, and moving plants
// between them.
//
//	err := site.Move(ctx, store, who, site.MoveRequest{ID: id, Batch: batch, From: cells, To: tower, Fill: true})
package site

import (
	"context"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/harden"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/season"
)

// MoveRequest takes plants of one batch to one place. From lists cells, ports or
// a number of plants in a stand; Lost lists those that did not survive the move.
type MoveRequest struct {
	ID       uuid.UUID
	Batch    uuid.UUID
	From     []batch.Spot
	To       uuid.UUID
	Ports    []tray.Cell // where the place has ports
	Fill     bool        // without Ports: those that are free, from the bottom
	Lost     []batch.Spot
	Cause    batch.Cause
	RampDays int       // to a cold frame: the working days of the ramp
	Pot      uuid.UUID `json:",omitzero"` // into pots of this size; none: each as it stands
	Mix      uuid.UUID `json:",omitzero"` // that they are filled with
	Sure     bool      `json:"-"`         // what speaks against it was read
	At       time.Time // zero: now
}

// Warned is what speaks against a move: nothing has been stored until the person says
// again that it is to be.
type Warned []say.Text

// Error is the reasons.
func (w Warned) Error() string { return w.Why().String() }

// Why is the same for whoever reads it.
func (w Warned) Why() say.Text { return say.Join(" ", w...) }

// Asks tells that it is a field.Question.
func (Warned) Asks() bool { return true }

var _ field.Question = Warned(nil)

// Move records plants moved on. A place's kind says what the move is: into a
// frame it begins hardening, into a bed it sets out, onto a bench or shelf it brings
// in. Out of doors the nights ahead may speak against it (Warned).
func Move(ctx context.Context, s *store.Store, w who.Who, r MoveRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "site.Move", What: r}, func(tx *store.Tx) error {
		return MoveIn(ctx, tx, r)
	})
}

// MoveIn is the same as a part of something else.
func MoveIn(ctx context.Context, tx *store.Tx, r MoveRequest) error {
	p, err := Hold(ctx, tx, r.To)
	if err != nil {
		return err
	}
	a := batch.Act{Kind: batch.Move, From: r.From, Lost: r.Lost, Cause: r.Cause}
	switch p.Kind {
	case "frame":
		a.Kind, a.RampDays = batch.Harden, r.RampDays
		if a.RampDays == 0 {
			if a.RampDays, err = rampOf(ctx, tx, r.Batch); err != nil {
				return err
			}
		}
		if a.RampDays < harden.MinDays || a.RampDays > harden.MaxDays {
			return field.Refuse("ramp", "must be %d to %d working days", harden.MinDays, harden.MaxDays)
		}
	case "bed":
		a.Kind = batch.SetOut
	case "bench", "shelf", "warm_shelf", "sill", "other":
		if r.Pot != uuid.Nil {
			a.Kind = batch.PotOn
		} else if !slices.ContainsFunc(r.From, func(s batch.Spot) bool { return s.Kind == batch.InStand }) ||
			slices.ContainsFunc(r.From, func(s batch.Spot) bool { return s.Kind != batch.InStand }) {
			return field.Refuse("to", "is for plants brought in from outside; those in cells or ports stay in their tray or tower")
		}
	}
	if !r.Sure && (p.Kind == "frame" || p.Kind == "bed") {
		if reasons, err := against(ctx, tx, r.Batch, p.Kind); err != nil || len(reasons) > 0 {
			return errors.Join(err, reasons.orNil())
		}
	}
	if p.HasPorts() {
		ports, err := ChoosePorts(ctx, tx, p, r.Ports, plants(r.From), r.Fill)
		if err != nil {
			return err
		}
		for _, c := range ports {
			a.To = append(a.To, batch.Spot{Kind: batch.InPort, In: p.ID.String(), Row: c.Row, Col: c.Col})
		}
	} else if n := plants(r.From); n > 0 {
		to := batch.Spot{Kind: batch.InStand, In: p.ID.String(), N: n}
		switch {
		case r.Pot != uuid.Nil:
			to.Pot = r.Pot.String()
			if err := intoPots(ctx, tx, r, n, &a); err != nil {
				return err
			}
		case p.Kind != "bed":
			to.Pot = batch.SamePot
		}
		a.To = []batch.Spot{to}
	}
	if len(a.Lost) > 0 && a.Cause == "" {
		return field.Refuse("cause", "enter what happened to the lost ones")
	}
	_, err = ledger.OnBatch(ctx, tx, ledger.BatchAct{ID: r.ID, Batch: r.Batch, Place: &p.ID, HappenedAt: r.At, Act: a})
	return err
}

// usualRamp is how many working days plants get used to the weather where nobody said.
const usualRamp = 10

// rampOf is how many working days hardening off takes: as many as there are until the day on which
// the season has the plants planted out, and no more than usual.
func rampOf(ctx context.Context, tx *store.Tx, batch uuid.UUID) (int, error) {
	moves, err := season.MovesPlanned(ctx, tx)
	if err != nil {
		return 0, err
	}
	out := moves[batch].Outward
	if out == nil || out.Out == 0 {
		return usualRamp, nil
	}
	school, err := season.Calendar(ctx, tx)
	days := 0
	for d := tx.Who.Day(tx.Now); d < out.Out; d++ {
		if school.Open(d) {
			days++
		}
	}
	return max(harden.MinDays, min(usualRamp, days)), err
}

// Hold reads a place where plants are to stand: nobody takes its ports away meanwhile.
func Hold(ctx context.Context, tx *store.Tx, id uuid.UUID) (Place, error) {
	held, err := tx.HoldPlace(ctx, id)
	if err != nil {
		return Place{}, store.Missing(err, "place", "choose a place")
	}
	return placeOf(ctx, tx, held)
}

func (w Warned) orNil() error {
	if len(w) == 0 {
		return nil
	}
	return w
}

// against is what speaks against taking a batch out of doors today.
func against(ctx context.Context, tx *store.Tx, id uuid.UUID, kind string) (Warned, error) {
	row, err := store.One(tx.GetBatches(ctx, []uuid.UUID{id}))
	if err != nil {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	opened, err := season.Opened(ctx, tx)
	if err != nil {
		return nil, err
	}
	return Against(ctx, tx, book.Find(row.Crop), len(opened[id]), kind)
}

// Against is what speaks against plants of a crop that have been outside for so many good days in
// a kind of place today: nothing in one indoors.
func Against(ctx context.Context, tx *store.Tx, c crop.Crop, days int, kind string) (Warned, error) {
	if kind != "bed" && kind != "frame" {
		return nil, nil
	}
	nights, err := season.Cold(ctx, tx)
	if err != nil {
		return nil, err
	}
	today := tx.Who.Day(tx.Now)
	if kind == "bed" {
		return nights.Against(c, days, today), nil
	}
	school, err := season.Calendar(ctx, tx)
	worst, known := nights.Worst(c, days, cold.Cover, today, school.NextOpen(today))
	if known && worst.Protect {
		return Warned{worst.Says(c, days, cold.Cover)}, err
	}
	return nil, err
}

// ChoosePorts are those that were asked for, or free ones from the bottom. Two moves
// at the same moment both pass here; then the table's key decides.
func ChoosePorts(ctx context.Context, tx *store.Tx, p Place, ports []tray.Cell, wanted int, fill bool) ([]tray.Cell, error) {
	rows, err := tx.PortsOfPlaces(ctx, []uuid.UUID{p.ID})
	if err != nil {
		return nil, err
	}
	taken := map[tray.Cell]string{}
	for _, x := range rows {
		taken[tray.Cell{Row: x.Tier, Col: x.Col}] = x.Code
	}
	if len(ports) == 0 && !fill {
		return nil, field.Refuse("ports", "choose where the plants go, or fill from the bottom")
	}
	if len(ports) == 0 {
		ports = tray.FreeFromBottom(p.Tiers, p.Columns, wanted, func(c tray.Cell) bool { return taken[c] == "" })
	}
	for _, c := range ports {
		if c.Row < 0 || c.Col < 0 || c.Row >= p.Tiers || c.Col >= p.Columns {
			return nil, field.Refuse("ports", "%s is no port of this place; the last is %s", c.Name(), tray.Cell{Row: p.Tiers - 1, Col: p.Columns - 1}.Name())
		}
		if code := taken[c]; code != "" {
			return nil, field.Refuse("ports", "%s already holds a plant of %s", c.Name(), code)
		}
	}
	if len(ports) != wanted {
		return nil, field.Refuse("ports", "%s chosen for %s", say.Plural(len(ports), "port"), say.Plural(wanted, "plant"))
	}
	return ports, nil
}

func plants(spots []batch.Spot) int {
	n := 0
	for _, s := range spots {
		n += s.Plants()
	}
	return n
}

// Drinkers counts the plants at each tank: in a jar the one in its port, elsewhere those
// where is how many plants of each batch are where.
func where(ctx context.Context, tx *store.Tx) ([]db.WhereBatchesAreRow, error) {
	return store.Keep(ctx, tx, "where batches are", func() ([]db.WhereBatchesAreRow, error) { return tx.WhereBatchesAre(ctx, nil) })
}

// of the place, shared by its tanks.
func Drinkers(ctx context.Context, tx *store.Tx, tanks []ledger.Tank) (map[uuid.UUID]int, error) {
	where, err := where(ctx, tx)
	if err != nil {
		return nil, err
	}
	jars, err := tx.JarPorts(ctx)
	if err != nil {
		return nil, err
	}
	shared, err := tx.PumpedTanks(ctx)
	if err != nil {
		return nil, err
	}
	out, at, sharing := map[uuid.UUID]int{}, map[uuid.UUID]int{}, map[uuid.UUID]int{}
	for _, w := range where {
		if w.Kind != "cell" {
			at[w.PlaceID] += w.Plants
		}
	}
	for _, x := range shared {
		sharing[x.PlaceID] = x.Tanks
	}
	for _, t := range tanks {
		switch {
		case !t.Spec.Passive:
			out[t.ID] = at[t.Place] / max(1, sharing[t.Place])
		case t.Position == 0: // a carton that stands anywhere, with its own plant
			out[t.ID] = min(1, at[t.Place])
		case slices.ContainsFunc(jars, func(j db.JarPortsRow) bool { return j.PlaceID == t.Place && j.Number == t.Position }):
			out[t.ID] = 1
		}
	}
	return out, nil
}
