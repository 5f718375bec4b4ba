package ledger

import (
	"ulpa/core/field"
	"ulpa/core/say"
)

// Doubted is the answer to what hardly can be, or would hurt: nothing has been stored
// until the person says again that it is so.
type Doubted struct{ Says say.Text }

// Error is the question.
func (d Doubted) Error() string { return d.Says.String() }

// Why is the same for whoever reads it.
func (d Doubted) Why() say.Text { return d.Says }

// Asks tells that it is a field.Question.
func (Doubted) Asks() bool { return true }

var _ field.Question = Doubted{}
