// Package bound keeps work that takes much in bounds: files that are read, documents that are
// drawn, searches, secrets that are compared. Each kind of such work has a line. So many are at
// work at once, of one school and one person fewer, so that nobody has it to themselves; so many
// wait for so long, first come first served; and whoever comes then is told when to come again.
//
//	ctx, done, err := bound.Papers.Enter(ctx, bound.Asker{School: school, Person: person})
//	if err != nil {
//		return err // bound.Full: nothing has begun
//	}
//	defer done()
//
// The context that Enter gives ends after the time that the work may take. The work itself must
// look at it: a place that is not given back is everybody's.
package bound

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"strconv"
	"sync"
	"time"

	"github.com/google/uuid"

	"ulpa/core/say"
)

// Asker is for whom work is done. A zero id is not counted.
type Asker struct{ School, Person uuid.UUID }

// Line is a kind of work, and who does it and waits for it now.
type Line struct {
	Name     string
	AtOnce   int           // at work
	School   int           // of them for one school
	Person   int           // of them for one person
	Waiting  int           // in line, of them half for one school
	Patience time.Duration // of whoever waits in line
	Lasts    time.Duration // the most that the work may take
	Memory   int64         // bytes that one of them takes at most
	// Late says that reading asks for its place where the work begins (see Need), and not before:
	// what is held already takes none.
	Late bool

	mu      sync.Mutex
	working []Asker
	waiting []*waiter
}

type waiter struct {
	Asker
	begin chan struct{} // closed when it is its turn
}

// Full says that there is no place now, and when it is worth coming again.
type Full struct {
	Own  bool // it is the asker's own work, or the school's, that has to end first
	Wait time.Duration
}

// Error is the same as Why.
func (f Full) Error() string { return f.Why().String() }

// Why says what to do.
func (f Full) Why() say.Text {
	if f.Own {
		return say.T("You, or somebody else at your school, are already having this done. Wait until it is finished, then send it again.")
	}
	return say.T("Too many people are having this done right now. Wait a moment, then send it again.")
}

// Answer is the status of an answer that says it, whose headers then say when to come again.
func (f Full) Answer(h http.Header) (status int) {
	h.Set("Retry-After", strconv.Itoa(int(f.Wait.Seconds())))
	if f.Own {
		return http.StatusTooManyRequests
	}
	return http.StatusServiceUnavailable
}

// Enter waits for a place in the line. The context it gives ends after the time that the work
// may take; done gives the place back. Without a place it gives Full, or the error of a context
// that ended meanwhile.
func (l *Line) Enter(ctx context.Context, a Asker) (in context.Context, done func(), err error) {
	l.mu.Lock()
	if l.fits(a) {
		l.working = append(l.working, a)
		l.mu.Unlock()
		in, done = l.at(ctx, a)
		return in, done, nil
	}
	if l.ofSchool(a) >= (l.Waiting+1)/2 || len(l.waiting) >= l.Waiting {
		full := l.full(a)
		l.mu.Unlock()
		return nil, nil, full
	}
	me := &waiter{a, make(chan struct{})}
	l.waiting = append(l.waiting, me)
	l.mu.Unlock()
	late := time.NewTimer(l.Patience)
	defer late.Stop()
	select {
	case <-me.begin:
		in, done = l.at(ctx, a)
		return in, done, nil
	case <-late.C:
		err = Full{}
	case <-ctx.Done():
		err = ctx.Err()
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	if at := slices.Index(l.waiting, me); at >= 0 {
		l.waiting = slices.Delete(l.waiting, at, at+1)
		if _, late := err.(Full); late {
			err = l.full(a)
		}
		return nil, nil, err
	}
	if ctx.Err() != nil { // its turn came in the same moment, and nobody is there
		l.leave(a)
		return nil, nil, ctx.Err()
	}
	in, done = l.at(ctx, a)
	return in, done, nil
}

// Try takes a place that is free, and does not wait; ok is false when none is.
func (l *Line) Try(ctx context.Context, a Asker) (in context.Context, done func(), ok bool) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if !l.fits(a) {
		return nil, nil, false
	}
	l.working = append(l.working, a)
	in, done = l.at(ctx, a)
	return in, done, true
}

type placeKey struct{}

// at is the work of somebody who has taken a place.
func (l *Line) at(ctx context.Context, a Asker) (in context.Context, done func()) {
	in, cancel := context.WithTimeout(context.WithValue(ctx, placeKey{}, l), l.Lasts)
	return in, sync.OnceFunc(func() {
		cancel()
		l.mu.Lock()
		defer l.mu.Unlock()
		l.leave(a)
	})
}

// Of is the line in which the work of a context has a place; nil: it has none.
func Of(ctx context.Context) *Line {
	l, _ := ctx.Value(placeKey{}).(*Line)
	return l
}

type lateKey struct{}

// ErrNoPlace says that work is to be done for which there is no place yet: it begins again in one.
var ErrNoPlace = errors.New("work that takes much has no place in its line")

// Late is a context of somebody who waits for a place in a line where the work asks for one.
func Late(ctx context.Context, l *Line) context.Context { return context.WithValue(ctx, lateKey{}, l) }

// Need is asked where the work of a late line begins. It gives ErrNoPlace to whoever is still to
// wait for a place.
func Need(ctx context.Context) error {
	if ctx.Value(lateKey{}) != nil && Of(ctx) == nil {
		return ErrNoPlace
	}
	return nil
}

// Busy is how many work and wait.
func (l *Line) Busy() (working, waiting int) {
	l.mu.Lock()
	defer l.mu.Unlock()
	return len(l.working), len(l.waiting)
}

// leave gives a place back, to the first in line whom it suits.
func (l *Line) leave(a Asker) {
	if at := slices.Index(l.working, a); at >= 0 {
		l.working = slices.Delete(l.working, at, at+1)
	}
	l.waiting = slices.DeleteFunc(l.waiting, func(w *waiter) bool {
		if !l.fits(w.Asker) {
			return false
		}
		l.working = append(l.working, w.Asker)
		close(w.begin)
		return true
	})
}

// fits tells whether there is a place for somebody.
func (l *Line) fits(a Asker) bool { return len(l.working) < l.AtOnce && !l.own(a) }

// own tells whether somebody's own work, or the school's, is as much as it may be.
func (l *Line) own(a Asker) bool {
	school, person := 0, 0
	for _, x := range l.working {
		if x.School == a.School && a.School != uuid.Nil {
			school++
		}
		if x.Person == a.Person && a.Person != uuid.Nil {
			person++
		}
	}
	return school >= l.School || person >= l.Person
}

// ofSchool is how many of the asker's school wait.
func (l *Line) ofSchool(a Asker) (n int) {
	for _, x := range l.waiting {
		if x.School == a.School && a.School != uuid.Nil {
			n++
		}
	}
	return n
}

func (l *Line) full(a Asker) Full {
	return Full{Own: l.own(a) || l.ofSchool(a) > 0, Wait: max(2*time.Second, min(l.Lasts/2, 10*time.Second))}
}

type watchKey struct{}

// Watch is a context in which f is told of what takes much, and of the line in which it has a
// place; nil: it has none. A test asks every route so.
func Watch(ctx context.Context, f func(what string, in *Line)) context.Context {
	return context.WithValue(ctx, watchKey{}, f)
}

// Dear marks where something begins that takes much, or would if it were not held.
func Dear(ctx context.Context, what string) {
	if f, ok := ctx.Value(watchKey{}).(func(string, *Line)); ok {
		in := Of(ctx)
		if late, ok := ctx.Value(lateKey{}).(*Line); ok && in == nil {
			in = late
		}
		f(what, in)
	}
}
