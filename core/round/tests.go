package round

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/say"
)

// SeedTest is seed laid out somewhere to see how many come.
type SeedTest struct {
	ID, Packet, Name, Place string
	Begun, Counted          calendar.Day // Counted is 0 when nobody has yet
	DaysUp                  float64      // until half of what comes has; 0: nobody knows
}

// between is how many days pass from one count of a test to the next.
const between = 2

// Due is the day of its next count: the first when something can be seen, then every other.
func (t SeedTest) Due() calendar.Day {
	if t.Counted != 0 {
		return t.Counted + between
	}
	return t.Begun + calendar.Day(max(2, int(math.Round(0.7*t.DaysUp))))
}

// slow is after how many times the usual days nothing more is to come of a test.
const slow = 3

// testTasks ask for the counts of tests at a place.
func (s School) testTasks(p Place) (out []Task) {
	for _, t := range s.Tests {
		if t.Place != p.ID && (t.Place != "" || p.ID != s.sowingPlace()) || t.Due() > s.Today {
			continue
		}
		days := int(s.Today - t.Begun)
		task := Task{
			Key: s.key("test", t.ID), Kind: "test", Before: say.T("Count the seed test of"), Code: t.Name, Urgency: Today, Minutes: 3, Packet: t.Packet,
			Why: say.T("Laid out %s ago. Count those that have come, and take them out.", say.Plural(days, "day")),
		}
		if next, _ := s.Calendar.Next(s.Today); next-s.Today > between {
			task.Why = say.T("%s Nobody is here before %s: wet the paper well.", task.Why, next.Long())
		}
		if t.DaysUp > 0 && float64(days) > slow*t.DaysUp+between {
			task.Why = say.T("Laid out %s ago: what has not come by now hardly will. Count once more, and end it.", say.Plural(days, "day"))
		}
		out = append(out, task)
	}
	return out
}
