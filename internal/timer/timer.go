// Package timer tells searches of the core how much of their time is over; the core has no
// clock.
package timer

import (
	"context"
	"time"

	"ulpa/core/calc"
)

// Of gives a search the seconds that it asks for, but no more than most, and none after the
// context is done.
func Of(ctx context.Context, most time.Duration) calc.Clock {
	return func(seconds float64) func() float64 {
		begun, whole := time.Now(), min(time.Duration(seconds*float64(time.Second)), most)
		return func() float64 {
			if ctx.Err() != nil {
				return 1
			}
			return float64(time.Since(begun)) / float64(whole)
		}
	}
}
