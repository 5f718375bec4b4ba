package sim

import "ulpa/core/calendar"

// Crew is who looks after a school: people who are away, tick what they did not do, and read
// wrongly. What they do on a day is drawn by the day and the task, so that two players meet the
// same people.
type Crew struct {
	Seed     uint64
	Away     float64 // share of open days on which nobody comes
	Skips    float64 // share of tasks that are ticked and were not done
	Misreads float64 // share of readings that are wrong by much
}

// Usual is a crew as schools have it.
func Usual(seed uint64) Crew { return Crew{Seed: seed, Away: 0.06, Skips: 0.03, Misreads: 0.02} }

// Comes tells whether somebody comes on an open day.
func (c Crew) Comes(day calendar.Day) bool { return !ChanceOf(c.Seed, "away", day).Happens(c.Away) }

// Does tells whether a task of a day is really done.
func (c Crew) Does(day calendar.Day, task ...any) bool {
	return !ChanceOf(c.Seed, append([]any{"skips", day}, task...)...).Happens(c.Skips)
}

// Read is what a pen says of a tank: pH, strength and litres, each with its error; another one each
// time in a day.
func (c Crew) Read(t *Tank, day calendar.Day, time int) (ph, ecMS, litres float64) {
	luck := ChanceOf(c.Seed, "reads", t.Name, day, time)
	ph = luck.Normal(t.PH(), 0.08)
	ecMS = t.ECMS() * luck.Spread(0.025)
	litres = max(0, luck.Normal(t.L, 0.012*t.HoldsL))
	if luck.Happens(c.Misreads) {
		ph += luck.Normal(0, 0.7)
	}
	return ph, ecMS, litres
}

// Counts is how many true leaves somebody counts on most plants of a batch, and how tall they are.
func (c Crew) Counts(s *School, b *Batch) (leaves int, heightCM float64) {
	alive := s.Alive(b)
	if len(alive) == 0 {
		return 0, 0
	}
	sum, g := 0.0, 0.0
	for _, p := range alive {
		sum += p.leaves
		g += p.FreshG()
	}
	luck := ChanceOf(c.Seed, "counts", b.Name, s.Day())
	mean := sum / float64(len(alive))
	return int(max(0, luck.Normal(mean-0.2, 0.35))), 2 + 3*mean*0.6 + min(8, g/float64(len(alive)))
}
