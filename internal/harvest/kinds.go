package harvest

import (
	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
)

// Harvested is a harvest weighed: cut, or plants taken whole.
var Harvested = ledger.Declare(ledger.Kind[batch.Act]{
	Name: string(batch.Harvest), Act: true, Right: ledger.RightAct,
	Says: func(p unit.Prefs, a batch.Act) string {
		s := "Harvested " + p.Format(a.Grams, unit.Gram)
		if a.Whole {
			return s + ", " + say.Plural(batch.PlantsIn(a.From), "plant") + " whole"
		}
		return s + ", cut"
	},
	Fields: []ledger.Field[batch.Act]{ledger.Amount("grams", "Weight", unit.Gram, func(a *batch.Act) *float64 { return &a.Grams })},
})
