package round

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ulpa/core/away"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/base/store"
)

// Part is what an area gives to the round: how its things are read, what is due of each of them,
// how each fares while nobody is there, and the pages on which its tasks are done. Every function
// but Read looks at one thing alone.
type Part[T any] struct {
	Order int                                           // among the parts: what is due at one place stands in this order
	Read  func(context.Context, *store.Tx) ([]T, error) // asks for the day itself (DayOf), so that what it holds hangs on that too
	Due   func(core.Day, T) []core.Task                 // nil: nothing is ever due
	Fares func(core.Day, away.Span, T) []away.Thing     // nil: it needs nobody
	Came  func(T, away.Span) (found Found, ok bool)     // what was found of it after nobody was there; nil: nothing is kept
	Pages map[*core.Kind]Page
}

// Page is where tasks of a kind are done, and what one does there.
type Page struct {
	Path func(core.Task) string
	Do   say.Words
}

// At is a page whose path ends with the id of what the task is about, and perhaps a place on it.
func At(path, place string, do say.Words) Page {
	return Page{func(t core.Task) string { return path + t.Of + place }, do}
}

// Declare makes a part of the round known, as a variable of its area.
func Declare[T any](p Part[T]) bool {
	parts = append(parts, part{p.Order, fmt.Sprintf("part %d of %T", p.Order, p), p.read})
	slices.SortStableFunc(parts, func(a, b part) int { return cmp.Compare(a.order, b.order) })
	for k, page := range p.Pages {
		pages[k] = page
	}
	return true
}

// Ground has an area fill in what every part goes by: when somebody is there, the nights, where
// one walks by.
func Ground(lay func(context.Context, *store.Tx, *core.Day) error) bool {
	grounds = append(grounds, lay)
	return true
}

// part is a Part of any thing.
type part struct {
	order int
	name  string
	read  func(context.Context, *store.Tx, core.Day) (held, error)
}

// held is the part as it stands, until something is written that it was read from, for a minute at
// most.
func (p part) held(ctx context.Context, tx *store.Tx) (held, error) {
	return store.Keep(ctx, tx, fmt.Sprint(p.name, tx.Who.Prefs, tx.Minute()), func() (held, error) {
		day, err := DayOf(ctx, tx)
		if err != nil {
			return held{}, err
		}
		return p.read(ctx, tx, day)
	})
}

// held are the things of a part as they were read.
type held struct {
	due   []core.Task
	fares func(away.Span) []away.Thing
	came  func(away.Span) []Found
}

var (
	parts   []part
	grounds []func(context.Context, *store.Tx, *core.Day) error
	pages   = map[*core.Kind]Page{}
)

func (p Part[T]) read(ctx context.Context, tx *store.Tx, d core.Day) (out held, err error) {
	things, err := p.Read(ctx, tx)
	if err != nil {
		return out, err
	}
	if p.Due != nil {
		for _, x := range things {
			out.due = append(out.due, p.Due(d, x)...)
		}
	}
	out.fares = func(s away.Span) (all []away.Thing) {
		if p.Fares != nil {
			for _, x := range things {
				all = append(all, p.Fares(d, s, x)...)
			}
		}
		return all
	}
	out.came = func(s away.Span) (all []Found) {
		if p.Came != nil {
			for _, x := range things {
				if f, ok := p.Came(x, s); ok {
					all = append(all, f)
				}
			}
		}
		return all
	}
	return out, nil
}

// PageOf is where a task is done, and what one does there; "" where it has no page.
func PageOf(t core.Task) (path string, do say.Words) {
	p, ok := pages[t.Kind]
	if !ok {
		return "", ""
	}
	return p.Path(t), p.Do
}
