package solution

import (
	"context"
	"strings"

	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Read is a reading of a tank, by a person.
var Read = ledger.Declare(ledger.Kind[tank.Reading]{
	Name: "reading",
	Tank: func(t *ledger.Tank, p *ledger.Past, r tank.Reading) {
		p.Reading = &r
		t.State.Read(t.Spec, r, p.At)
	},
	Says: readingWords,
	Fields: []ledger.Field[tank.Reading]{
		ledger.Maybe("ph", "pH", "pH", func(r *tank.Reading) **float64 { return &r.PH }),
		ledger.Maybe("ec", "Strength", unit.MS, func(r *tank.Reading) **float64 { return &r.ECMS }),
		ledger.Maybe("temp", "Temperature", unit.Celsius, func(r *tank.Reading) **float64 { return &r.TempC }),
		ledger.Maybe("level", "Level", unit.Litre, func(r *tank.Reading) **float64 { return &r.LevelL }),
	},
	Right: func(ctx context.Context, tx *store.Tx, e db.GetEntryRow, r tank.Reading) (tank.Reading, error) {
		before, err := ledger.TankBefore(ctx, tx, *e.ReservoirID, e.ID)
		if err != nil {
			return r, err
		}
		return r, r.Check(before.Spec, e.HappenedAt, tx.Who.Prefs)
	},
})

// Treated is what was added to a tank, or drained from it.
var Treated = ledger.Declare(ledger.Kind[tank.Treatment]{
	Name: "treat",
	Tank: func(t *ledger.Tank, p *ledger.Past, x tank.Treatment) {
		p.Treat = &x
		t.State.Treat(t.Spec, x, p.At)
	},
	Says: treatWords,
	Fields: []ledger.Field[tank.Treatment]{
		ledger.Amount("drain", "Drained", unit.Litre, func(t *tank.Treatment) *float64 { return &t.DrainL }),
		ledger.Amount("water", "Water", unit.Litre, func(t *tank.Treatment) *float64 { return &t.WaterL }),
		ledger.Amount("stock", "Each stock", unit.Millilitre, func(t *tank.Treatment) *float64 { return &t.StockML }),
		ledger.Amount("amount", "Acid or alkali", "", func(t *tank.Treatment) *float64 { return &t.Amount }),
	},
	Right: func(ctx context.Context, tx *store.Tx, e db.GetEntryRow, x tank.Treatment) (tank.Treatment, error) {
		if x.Amount > 0 {
			if err := tx.Who.Must(who.Dose); err != nil {
				return x, err
			}
		}
		before, err := ledger.TankBefore(ctx, tx, *e.ReservoirID, e.ID)
		if err != nil {
			return x, err
		}
		return before.Spec.Measured(x), x.Check(before.Spec, before.State, e.HappenedAt, tx.Who.Prefs)
	},
})

func readingWords(p unit.Prefs, r tank.Reading) string {
	var parts []string
	add := func(v *float64, before, u string) {
		if v != nil {
			parts = append(parts, before+p.Format(*v, u))
		}
	}
	add(r.PH, "", "pH")
	add(r.ECMS, "", unit.MS)
	add(r.TempC, "", unit.Celsius)
	add(r.LevelL, "level ", unit.Litre)
	return "Read " + strings.Join(parts, ", ")
}

func treatWords(p unit.Prefs, t tank.Treatment) string {
	var parts []string
	add := func(v float64, u, what string) {
		if v > 0 {
			parts = append(parts, p.Format(v, u)+" "+what)
		}
	}
	add(t.DrainL, unit.Litre, "drained")
	add(t.WaterL, unit.Litre, "water")
	add(t.StockML, unit.Millilitre, "of each stock")
	if t.Amount > 0 {
		parts = append(parts, p.Format(t.Amount, t.Unit)+" of "+t.Agent.Words())
	}
	return "Added " + strings.Join(parts, ", ")
}
