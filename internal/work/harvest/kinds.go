package harvest

import (
	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
)

// Harvested is a harvest weighed: cut, or plants taken whole.
var Harvested = ledger.Declare(ledger.Kind[batch.Act]{
	Name: string(batch.Harvest), Act: true, Right: ledger.RightAct,
	Says: func(a batch.Act) say.Text {
		if a.Whole {
			return say.T("Harvested %s, %s whole", say.Of(a.Grams, unit.Gram), say.Plural(batch.PlantsIn(a.From), "plant"))
		}
		return say.T("Harvested %s, cut", say.Of(a.Grams, unit.Gram))
	},
	Fields: []ledger.Field[batch.Act]{ledger.Amount("grams", "Weight", unit.Gram, func(a *batch.Act) *float64 { return &a.Grams })},
})
