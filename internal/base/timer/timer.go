// Package timer tells searches of the core how much of their time is over; the core has no
// clock. A search takes a core for itself, so each has a place in a line (package bound).
package timer

import (
	"context"
	"time"

	"ulpa/core/calc"
	"ulpa/internal/base/bound"
)

// Of gives a search the seconds that it asks for, but no more than most, and none after the
// context is done.
func Of(ctx context.Context, most time.Duration) calc.Clock {
	return func(seconds float64) func() float64 {
		bound.Dear(ctx, "a search")
		begun, whole := time.Now(), min(time.Duration(seconds*float64(time.Second)), most)
		return func() float64 {
			if ctx.Err() != nil {
				return 1
			}
			return float64(time.Since(begun)) / float64(whole)
		}
	}
}

// Looks gives a search so many looks at the clock, so that the same question has the same answer
// however busy the machine is; none after the context is done. What was found then is not the
// answer: whoever asks looks at the context's error.
func Looks(ctx context.Context, most int) func() float64 {
	bound.Dear(ctx, "a search")
	n := 0
	return func() float64 {
		if n++; ctx.Err() != nil {
			return 1
		}
		return float64(n) / float64(most)
	}
}
