package round

import (
	"math"
	"slices"
	"time"
)

// Act is something that was written down: by whom, when, and of which kind of task.
type Act struct {
	Who, What string
	At        time.Time
}

// Took is how long a kind of task takes here: the median of so many times, in minutes.
type Took struct{ Minutes, Times int }

// A gap between two acts of one person is the time the second took, unless it is so short
// that both were written down afterwards, or so long that something else came between.
const (
	shortest  = 20 * time.Second
	longest   = 30 * time.Minute
	learnFrom = 5  // times at least
	learnLast = 20 // times at most, the latest
)

// Learn works out how long each kind of task takes, from acts in the order of time: the
// median of the gaps before them, walking included. Kinds done too seldom are left out.
func Learn(acts []Act) map[string]Took {
	last, gaps := map[string]time.Time{}, map[string][]time.Duration{}
	for _, a := range acts {
		before, known := last[a.Who]
		last[a.Who] = a.At
		if gap := a.At.Sub(before); known && gap >= shortest && gap <= longest {
			gaps[a.What] = append(gaps[a.What], gap)
		}
	}
	out := map[string]Took{}
	for what, list := range gaps {
		if len(list) < learnFrom {
			continue
		}
		list = list[max(0, len(list)-learnLast):]
		slices.Sort(list)
		middle := (list[(len(list)-1)/2] + list[len(list)/2]) / 2
		out[what] = Took{max(1, int(math.Round(middle.Minutes()))), len(list)}
	}
	return out
}

// Timing is what minutes are learned by: the kind of task, or of one that is like no other of its
// kind the thing too.
func (k *Kind) Timing(of string) string {
	if k.Alone {
		return k.Name + " " + of
	}
	return k.Name
}

// Timing of a task, as of its kind.
func (t Task) Timing() string { return t.Kind.Timing(t.Of) }
