package field

import "ulpa/core/say"

// Question is an error that only asks: what was sent hardly can be, or would hurt. Nothing has been
// kept, and the same sent again as sure is kept. Forms show it with a button, programs are
// answered 409.
type Question interface {
	error
	Why() say.Text // the question
	Asks() bool    // true
}
