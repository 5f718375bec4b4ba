package trays

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// CaredFor is what was done to a tray from day to day.
var CaredFor = ledger.Declare(ledger.Kind[tray.Done]{
	Name: "tray_care", Says: careWords,
	Fields: []ledger.Field[tray.Done]{
		ledger.Maybe("lamp_cm", "Lamp above the leaves", unit.Centimetre, func(d *tray.Done) **float64 { return &d.LampCM }),
		ledger.Maybe("lamp_hours", "Hours with lamps on, a day", "hours", func(d *tray.Done) **float64 { return &d.LampHours }),
		ledger.Maybe("now_g", "It weighs", unit.Gram, func(d *tray.Done) **float64 { return &d.NowG }),
		ledger.Maybe("wet_g", "It weighs watered and drained", unit.Gram, func(d *tray.Done) **float64 { return &d.WetG }),
		ledger.Maybe("dry_g", "It weighs when it wants water", unit.Gram, func(d *tray.Done) **float64 { return &d.DryG }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, d tray.Done) (tray.Done, error) {
		return d, d.Check()
	},
})

func careWords(d tray.Done) say.Text {
	var parts []say.Text
	for _, x := range tray.Doings {
		for _, did := range d.Did {
			if did == x.ID {
				parts = append(parts, x.Name)
			}
		}
	}
	for _, x := range []struct {
		v    *float64
		says say.Words
		unit string
	}{
		{d.LampCM, "lamp %s above the leaves", unit.Centimetre},
		{d.LampHours, "lamps on for %s a day", "hours"},
		{d.NowG, "weighs %s", unit.Gram},
		{d.WetG, "%s when watered", unit.Gram},
		{d.DryG, "%s when dry", unit.Gram},
	} {
		if x.v != nil {
			parts = append(parts, say.T(x.says, say.Of(*x.v, x.unit)))
		}
	}
	return say.T("Tray: %s", say.Join(", ", parts...))
}

// Care records what was done to a tray, and says how much water it then lacks: nothing
// where that is not known.
func Care(ctx context.Context, s *store.Store, w who.Who, r ledger.Act, d tray.Done) (waterML float64, err error) {
	if err := w.Must(who.Record); err != nil {
		return 0, err
	}
	if err := d.Check(); err != nil {
		return 0, err
	}
	err = ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.CareFor", What: []any{r.On, d, r.At}}, func(tx *store.Tx) error {
		t, err := site.GetTray(ctx, tx, r.On)
		if err != nil {
			return err
		}
		again, err := ledger.Write(ctx, tx, ledger.Fact{ID: r.ID, Kind: CaredFor.Name, HappenedAt: r.At, About: []uuid.UUID{r.On, t.Place}, Data: d, Names: t.Name})
		if again || err != nil || d.NowG == nil {
			return err
		}
		cares, err := Cares(ctx, tx)
		waterML, _, _ = cares[r.On].Water(t.Drains)
		return err
	})
	return waterML, err
}

// careDays is how long what was done to a tray says something of it.
const careDays = 200

// Cares are how each tray is kept that anything was ever written of.
func Cares(ctx context.Context, tx *store.Tx) (map[uuid.UUID]tray.Care, error) {
	return store.Keep(ctx, tx, "tray care "+tx.Who.Day(tx.Now).String(), func() (map[uuid.UUID]tray.Care, error) { return cares(ctx, tx) })
}

func cares(ctx context.Context, tx *store.Tx) (map[uuid.UUID]tray.Care, error) {
	rows, err := tx.TrayCare(ctx, tx.Now.AddDate(0, 0, -careDays))
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]tray.Care{}
	for _, r := range rows {
		var d tray.Done
		if err := json.Unmarshal(r.Data, &d); err != nil {
			return nil, err
		}
		c := out[r.TrayID]
		c.See(d, tx.Who.Day(r.HappenedAt))
		out[r.TrayID] = c
	}
	return out, nil
}

// stageOf is what stands in a tray at a place, as its care asks.
func stageOf(p site.Place, latitude *float64, drains bool, waiting, standing int, today calendar.Day) tray.Stage {
	s := tray.Stage{Cells: waiting + standing, Up: standing, Window: p.Window(), Drains: drains, Today: today}
	if latitude != nil {
		s.LightMol = p.LightMol(*latitude, today)
	}
	return s
}

// Advised is what is to be done to a tray.
type Advised struct {
	Tray, Place uuid.UUID
	Name        string
	tray.Advice
}

// Advise is what is to be done to the trays in which something stands.
func Advise(ctx context.Context, tx *store.Tx) (out []Advised, err error) {
	cares, err := Cares(ctx, tx)
	if err != nil || len(cares) == 0 {
		return nil, err
	}
	trays, err := site.Trays(ctx, tx)
	if err != nil {
		return nil, err
	}
	places, err := site.Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	parts, err := tx.TraysOfBatches(ctx)
	if err != nil {
		return nil, err
	}
	at := map[uuid.UUID]site.Place{}
	for _, p := range places {
		at[p.ID] = p
	}
	for _, t := range trays {
		c, cared := cares[t.ID]
		waiting, standing := 0, 0
		for _, x := range parts {
			if x.TrayID == t.ID {
				waiting, standing = waiting+x.Waiting, standing+x.Standing
			}
		}
		if !cared || waiting+standing == 0 {
			continue
		}
		for _, a := range c.Advise(stageOf(at[t.Place], nil, t.Drains, waiting, standing, tx.Who.Day(tx.Now))) {
			out = append(out, Advised{t.ID, t.Place, t.Name, a})
		}
	}
	return out, nil
}
