package solution

import (
	"context"

	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Read is a reading of a tank, by a person.
var Read = ledger.Declare(ledger.Kind[tank.Reading]{
	Name: ledger.TankRead,
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
		ledger.Maybe("roots", "Roots hang below the pot", unit.Centimetre, func(r *tank.Reading) **float64 { return &r.RootsCM }),
	},
	Right: func(ctx context.Context, tx *store.Tx, e ledger.Entry, r tank.Reading) (tank.Reading, error) {
		before, err := ledger.TankBefore(ctx, tx, e.About.A(ledger.ATank).ID, e.ID)
		if err != nil {
			return r, err
		}
		return r, r.Check(before.Spec, e.HappenedAt)
	},
})

// Treated is what was added to a tank, or drained from it.
var Treated = ledger.Declare(ledger.Kind[tank.Treatment]{
	Name: "treat",
	Tank: func(t *ledger.Tank, p *ledger.Past, x tank.Treatment) {
		p.Treat = &x
		t.State.Treat(t.Spec, x, p.At)
	},
	Says: TreatWords,
	Fields: []ledger.Field[tank.Treatment]{
		ledger.Amount("drain", "Drained", unit.Litre, func(t *tank.Treatment) *float64 { return &t.DrainL }),
		ledger.Amount("water", "Water", unit.Litre, func(t *tank.Treatment) *float64 { return &t.WaterL }),
		ledger.Amount("stock", "Each stock", unit.Millilitre, func(t *tank.Treatment) *float64 { return &t.StockML }),
		ledger.Amount("spoons", "Feed", unit.Teaspoons, func(t *tank.Treatment) *float64 { return &t.Spoons }),
		ledger.Amount("amount", "Acid or alkali", "", func(t *tank.Treatment) *float64 { return &t.Amount }),
	},
	Right: func(ctx context.Context, tx *store.Tx, e ledger.Entry, x tank.Treatment) (tank.Treatment, error) {
		if x.Amount > 0 {
			if err := tx.Who.Must(who.Dose); err != nil {
				return x, err
			}
		}
		before, err := ledger.TankBefore(ctx, tx, e.About.A(ledger.ATank).ID, e.ID)
		if err != nil {
			return x, err
		}
		return before.Spec.Measured(x), x.Check(before.Spec, before.State, e.HappenedAt)
	},
})

// Brought is what a file of readings brought.
var Brought = ledger.Declare(ledger.Kind[Imported]{Name: "import", Says: Imported.Say})

func readingWords(r tank.Reading) say.Text {
	var parts []say.Text
	add := func(v *float64, words say.Words, u string) {
		if v != nil {
			parts = append(parts, say.T(words, say.Of(*v, u)))
		}
	}
	add(r.PH, "%s", "pH")
	add(r.ECMS, "%s", unit.MS)
	add(r.TempC, "%s", unit.Celsius)
	add(r.LevelL, "level %s", unit.Litre)
	add(r.RootsCM, "roots hang %s", unit.Centimetre)
	return say.T("Read %s##noted", say.Join(", ", parts...))
}

// TreatWords are what was added or drained, in words.
func TreatWords(t tank.Treatment) say.Text {
	var parts []say.Text
	add := func(v float64, u string, words say.Words) {
		if v > 0 {
			parts = append(parts, say.T(words, say.Of(v, u)))
		}
	}
	add(t.DrainL, unit.Litre, "%s drained")
	add(t.WaterL, unit.Litre, "%s water")
	add(t.StockML, unit.Millilitre, "%s of each stock")
	add(t.Spoons, unit.Teaspoons, "%s of feed")
	if t.Amount > 0 {
		parts = append(parts, say.T("%s of %s", say.Of(t.Amount, t.Unit), t.Agent.Words()))
	}
	return say.T("Added %s", say.Join(", ", parts...))
}
