package round

import (
	"ulpa/core/say"
	"ulpa/internal/ledger"
)

// Decision is what somebody decided about a task of the walk.
type Decision struct {
	Task string   `json:"task"` // its key
	What say.Kept `json:"what"` // its words
}

// A stop's task done, or left for today.
var (
	TickedOff = ledger.Declare(ledger.Kind[Decision]{Name: "tick", Says: func(t Decision) say.Text { return say.T("Done: %s", t.What.Text) }})
	PutOff    = ledger.Declare(ledger.Kind[Decision]{Name: "skip", Says: func(t Decision) say.Text { return say.T("Not today: %s", t.What.Text) }})
)
