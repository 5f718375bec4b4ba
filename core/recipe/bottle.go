package recipe

import (
	"math"
	"sort"
	"time"
)

// Flow is what went into a stock bottle, or out of it, litres.
type Flow struct {
	At      time.Time
	In, Out float64
}

// Bottle is how a stock bottle stands.
type Bottle struct {
	LeftL   float64
	Known   bool     // something was ever mixed into it
	LDay    float64  // taken, by its last weeks
	Days    *float64 // that lasts; nil: nothing is taken
	MixedAt *time.Time
}

// paceDays are the last days by which a bottle's use is told.
const paceDays = 28

// BottleOf folds what happened to a bottle that holds so much: it neither overflows nor
// holds less than nothing. A mixing that is as large as the bottle fills it anew.
func BottleOf(holdsL float64, flows []Flow, now time.Time) (b Bottle) {
	list := append([]Flow(nil), flows...)
	sort.SliceStable(list, func(i, j int) bool { return list[i].At.Before(list[j].At) })
	taken := 0.0
	var since time.Time
	for _, f := range list {
		if f.In > 0 {
			b.LeftL, b.Known = math.Min(holdsL, b.LeftL+f.In), true
			at := f.At
			b.MixedAt = &at
		}
		b.LeftL = math.Max(0, b.LeftL-f.Out)
		if f.Out > 0 && now.Sub(f.At).Hours() <= 24*paceDays {
			if taken == 0 {
				since = f.At
			}
			taken += f.Out
		}
	}
	if taken > 0 {
		b.LDay = taken / math.Max(7, now.Sub(since).Hours()/24)
		days := b.LeftL / b.LDay
		b.Days = &days
	}
	return b
}
