package round

import (
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
)

// Decision is what somebody decided about a task of the walk.
type Decision struct {
	Task string   `json:"task"`           // its key
	Kind string   `json:"kind,omitempty"` // of task; "" in what earlier releases kept
	What say.Kept `json:"what"`           // its words
	// Unwritten: it has a page that writes down what was done, and somebody ticked it off
	// without.
	Unwritten bool `json:"unwritten,omitempty"`
}

// A stop's task done, or left for today.
var (
	TickedOff = ledger.Declare(ledger.Kind[Decision]{Name: "tick", Says: func(t Decision) say.Text {
		if t.Unwritten {
			return say.T("Ticked off, what was done is not written down: %s", t.What.Text)
		}
		return say.T("Done: %s", t.What.Text)
	}})
	PutOff = ledger.Declare(ledger.Kind[Decision]{Name: "skip", Says: func(t Decision) say.Text { return say.T("Not today: %s", t.What.Text) }})
)
