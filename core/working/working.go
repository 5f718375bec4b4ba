// Package working carries how an answer was reached. A function that answers
// a question somebody will act on returns its steps, and every face shows the
// same ones.
//
//	steps = append(steps, working.Step{Name: say.T("To add"), Formula: say.T("%s − %s", fill, level), Value: 18, Unit: unit.Litre})
package working

import "ulpa/core/say"

// Step is one line of arithmetic.
type Step struct {
	Name    say.Text `json:"name"`              // what the figure is, in words
	Formula say.Text `json:"formula,omitempty"` // the sum with its numbers in it
	Value   float64  `json:"value"`
	Unit    string   `json:"unit,omitempty"`   // as unit.Format takes it; "" for a bare number
	Source  say.Text `json:"source,omitempty"` // the published source of the formula
}
