package site

import (
	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/internal/ledger"
)

// What is written down of plants that go from one place to another.
var (
	Moved = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Move), Act: true, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Moved %s", say.Plural(batch.PlantsIn(a.To), "plant")))
	}})
	Hardening = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.Harden), Act: true, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Began hardening %s over %d days", say.Plural(batch.PlantsIn(a.To), "plant"), a.RampDays))
	}})
	WasSetOut = ledger.Declare(ledger.Kind[batch.Act]{Name: string(batch.SetOut), Act: true, Says: func(a batch.Act) say.Text {
		return lostToo(a, say.T("Set out %s", say.Plural(batch.PlantsIn(a.To), "plant")))
	}})
)

func lostToo(a batch.Act, did say.Text) say.Text {
	if len(a.Lost) == 0 {
		return did
	}
	return say.T("%s; lost %d: %s", did, batch.PlantsIn(a.Lost), say.Words(a.Cause))
}
