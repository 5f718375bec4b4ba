package site

import (
	"fmt"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
)

// What is written down of plants that go from one place to another.
var (
	Moved = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Move), Act: true, Says: func(_ unit.Prefs, a batch.Act) string {
		return "Moved " + say.Plural(batch.PlantsIn(a.To), "plant") + lostWords(a)
	}})
	Hardening = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Harden), Act: true, Says: func(_ unit.Prefs, a batch.Act) string {
		return fmt.Sprintf("Began hardening %s over %d days", say.Plural(batch.PlantsIn(a.To), "plant"), a.RampDays) + lostWords(a)
	}})
	WasSetOut = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.SetOut), Act: true, Says: func(_ unit.Prefs, a batch.Act) string {
		return "Set out " + say.Plural(batch.PlantsIn(a.To), "plant") + lostWords(a)
	}})
)

func lostWords(a batch.Act) string {
	if len(a.Lost) == 0 {
		return ""
	}
	return fmt.Sprintf("; lost %d: %s", batch.PlantsIn(a.Lost), a.Cause)
}
