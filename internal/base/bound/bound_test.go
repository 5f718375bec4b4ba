package bound_test

import (
	"context"
	"math/rand/v2"
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/bound"
)

func asker(school, person int) bound.Asker {
	id := func(kind, n int) uuid.UUID { return uuid.UUID{0: byte(kind), 15: byte(n)} }
	return bound.Asker{School: id(1, school), Person: id(2, 100*school+person)}
}

// Whatever comes, waits, works and goes away, no more are at work than may be, in all, of a
// school and of a person; nobody waits longer than the patience of the line, nobody works longer
// than it lasts, and in the end every place is free.
func TestALineHoldsItsBounds(t *testing.T) {
	for seed := range uint64(20) {
		synctest.Test(t, func(t *testing.T) {
			l := &bound.Line{AtOnce: 4, School: 2, Person: 1, Waiting: 10, Patience: 5 * time.Second, Lasts: 8 * time.Second}
			rng := rand.New(rand.NewPCG(seed, 7))
			var mu sync.Mutex
			at, served, turned := map[any]int{}, 0, 0
			count := func(a bound.Asker, n int) {
				mu.Lock()
				defer mu.Unlock()
				for who, most := range map[any]int{"all": l.AtOnce, a.School: l.School, a.Person: l.Person} {
					at[who] += n
					require.LessOrEqual(t, at[who], most)
				}
			}
			var all sync.WaitGroup
			for range 300 {
				time.Sleep(time.Duration(rng.IntN(1500)) * time.Millisecond)
				a, works, gone := asker(rng.IntN(4), rng.IntN(3)), time.Duration(rng.IntN(12000))*time.Millisecond, rng.IntN(5) == 0
				all.Go(func() {
					ctx, cancel := context.WithCancel(t.Context())
					defer cancel()
					if gone {
						time.AfterFunc(works/2, cancel)
					}
					came := time.Now()
					in, done, err := l.Enter(ctx, a)
					require.LessOrEqual(t, time.Since(came), l.Patience)
					if err != nil {
						if full, ok := err.(bound.Full); ok {
							require.Positive(t, full.Wait)
						} else {
							require.ErrorIs(t, err, context.Canceled)
						}
						mu.Lock()
						turned++
						mu.Unlock()
						return
					}
					require.Same(t, l, bound.Of(in))
					count(a, 1)
					began := time.Now()
					select {
					case <-time.After(works):
					case <-in.Done():
					}
					require.LessOrEqual(t, time.Since(began), l.Lasts)
					count(a, -1)
					done()
					done() // twice is once
					mu.Lock()
					served++
					mu.Unlock()
				})
			}
			all.Wait()
			working, waiting := l.Busy()
			require.Zero(t, working+waiting)
			require.Positive(t, turned)
			require.Greater(t, served, 100)
		})
	}
}

// However much one school asks for, another's turn comes at once.
func TestOneSchoolDoesNotKeepTheOthersAway(t *testing.T) {
	for _, l := range bound.All() {
		if l.AtOnce == l.School { // calculators, and secrets, which have no school yet
			continue
		}
		var places []func()
		for n := range 3 * l.AtOnce {
			if _, done, ok := l.Try(t.Context(), asker(1, n)); ok {
				places = append(places, done)
			}
		}
		require.Len(t, places, l.School, l.Name)
		_, done, ok := l.Try(t.Context(), asker(2, 1))
		require.True(t, ok, l.Name)
		done()
		for _, done := range places {
			done()
		}
		working, _ := l.Busy()
		require.Zero(t, working, l.Name)
	}
}

// What all that is at work at once may take fits into what the process has for it.
func TestTheMemoryOfAllThatIsAtWork(t *testing.T) {
	sum := int64(0)
	for _, l := range bound.All() {
		require.NotEmpty(t, l.Name)
		require.Positive(t, l.Lasts, l.Name)
		sum += int64(l.AtOnce) * l.Memory
	}
	require.LessOrEqual(t, sum, int64(bound.Whole))
}
