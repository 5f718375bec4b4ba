package round

import (
	"ulpa/core/unit"
	"ulpa/internal/ledger"
)

// Decision is what somebody decided about a task of the walk.
type Decision struct {
	Task string `json:"task"` // its key
	What string `json:"what"` // its words
}

// A stop's task done, or left for today.
var (
	TickedOff = ledger.Declare(ledger.Kind[Decision]{Name: "tick", Says: func(_ unit.Prefs, t Decision) string { return "Done: " + t.What }})
	PutOff    = ledger.Declare(ledger.Kind[Decision]{Name: "skip", Says: func(_ unit.Prefs, t Decision) string { return "Not today: " + t.What }})
)
