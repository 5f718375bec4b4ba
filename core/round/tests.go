package round

import (
	"cmp"
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

// CountTest is the count of a test of seed.
var CountTest = declare(Kind{Name: "test", Of: Packets, Writes: true, EndedBy: []string{"seed_seen", "seed_over"}})

// OfTest asks for a count of a test where it lies, or at the bench when nobody said where.
func (s Day) OfTest(x SeedTest) []Task {
	if x.Due() > s.Today {
		return nil
	}
	days := int(s.Today - x.Begun)
	t := s.task(CountTest, x.Packet, cmp.Or(x.Place, s.sowingPlace()))
	t.Part = x.ID
	t.Before, t.Code, t.Urgency, t.Minutes = say.T("Count the seed test of"), x.Name, Today, 3
	t.Why = say.T("Laid out %s ago. Count those that have germinated, and take them out.", say.Plural(days, "day"))
	if next, _ := s.next(); next-s.Today > between {
		t.Why = say.T("%s Nobody is here before %s: wet the paper well.", t.Why, next.Long())
	}
	if x.DaysUp > 0 && float64(days) > slow*x.DaysUp+between {
		t.Why = say.T("Laid out %s ago: what has not germinated by now hardly will. Count once more, then end the test.", say.Plural(days, "day"))
	}
	return []Task{t}
}
