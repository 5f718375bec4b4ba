// Package timer tells searches of the core how much of their time is over; the core has no
// clock. A search takes a core for itself, so each has a place in a line (package bound).
package timer

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"time"

	"ulpa/core/calc"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/memo"
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

// Found holds what a kind of search found, by what it was given: the same question has the same
// answer, whatever was written meanwhile.
type Found[T any] struct {
	held *memo.Memo[[sha256.Size]byte, T]
}

// Holding begins with nothing found.
func Holding[T any]() Found[T] { return Found[T]{&memo.Memo[[sha256.Size]byte, T]{Most: mostFound}} }

// Search is what search finds for a question within so many looks at the clock: what it found
// before, where it was given the same. A search asks for a place in its line.
func (f Found[T]) Search(ctx context.Context, question any, looks int, search func(spent func() float64) (T, error)) (found T, err error) {
	bound.Dear(ctx, "a search")
	asked, err := json.Marshal(question)
	if err != nil {
		return found, err
	}
	return f.held.Try(sha256.Sum256(asked), func() (T, error) {
		if err := bound.Need(ctx); err != nil {
			return found, err
		}
		found, err := search(Looks(ctx, looks))
		if err == nil {
			err = ctx.Err()
		}
		return found, err
	})
}

// mostFound are the answers of a kind of search that are held.
const mostFound = 256
