package tank

import (
	"math"
	"time"

	"ulpa/core/vessel"
)

// Event is something that was done at a tank or read of it.
type Event struct {
	At      time.Time
	Reading *Reading
	Treat   *Treatment
}

// Mark is the water line of a jar at one time.
type Mark struct {
	At    time.Time
	CM    float64 // over the floor
	Litre float64
	Read  bool    // by somebody; else worked out from what it drinks
	Hang  bool    // roots hung free by what was known then
	Pour  float64 // litres that came then, negative: that went
	Over  bool    // poured higher than roots that hang tolerate
	Dry   bool    // read at or below where it counts as dry
}

// Month is what came to a jar, went and was drunk in a month, litres.
type Month struct {
	Begins                time.Time
	Drunk, Poured         float64
	Drained, Unwritten    float64 // Unwritten is what must have come in between: nobody wrote it down
	Pours, Over, Dry      int
	LowestCM, HighestCM   float64
	PHLow, PHHigh, ECHigh *float64
	ECLow, RootsCM        *float64
}

// Strip is a jar's life as one line of its water, and month by month. What was there, what
// came, went and was drunk adds up over any run of months.
type Strip struct {
	HeightCM, FootCM float64
	LowCM, HighCM    float64 // what roots that hang want: a quarter to a third of the depth
	Marks            []Mark  // by time; a pour is two of them
	Months           []Month // the oldest first
}

// StripOf goes through all that happened at a jar, in order, up to now; planted is when each
// of its plants came.
func StripOf(spec Spec, events []Event, planted []time.Time, now time.Time, zone *time.Location) Strip {
	shape, foot := spec.jar()
	s := stripper{spec: spec, zone: zone, planted: planted, foot: foot, depth: func(l float64) float64 { return shape.Depth(min(l, spec.CapacityL)) }}
	s.out = Strip{HeightCM: shape.HeightCM, FootCM: foot, LowCM: foot / 4, HighCM: foot / 3}
	for _, e := range events {
		if e.At.After(now) {
			break
		}
		s.take(e)
	}
	if s.known() {
		s.to(now, s.state.LevelOn(spec, now))
		s.mark(Mark{At: now, Litre: s.level})
	}
	return s.out
}

type stripper struct {
	spec    Spec
	zone    *time.Location
	state   State
	planted []time.Time
	foot    float64
	depth   func(litres float64) float64
	at      time.Time // of the last level
	level   float64
	out     Strip
}

func (s *stripper) known() bool { return s.state.LevelL != nil }

// month is that of a time, with those that came between.
func (s *stripper) month(at time.Time) *Month {
	y, m, _ := at.In(s.zone).Date()
	begins := time.Date(y, m, 1, 0, 0, 0, 0, s.zone)
	for {
		n := len(s.out.Months)
		next := begins
		if n > 0 {
			if next = s.out.Months[n-1].Begins.AddDate(0, 1, 0); next.After(begins) {
				return &s.out.Months[n-1]
			}
		}
		s.out.Months = append(s.out.Months, Month{Begins: next, LowestCM: math.Inf(1), HighestCM: math.Inf(-1)})
	}
}

// to is what was drunk from the last level to one now, month by month; more than there was
// came in between.
func (s *stripper) to(at time.Time, litres float64) {
	gone := s.level - litres
	if gone < 0 {
		s.month(at).Unwritten -= gone
	} else if all := at.Sub(s.at); all <= 0 {
		s.month(at).Drunk += gone
	} else {
		for from := s.at; from.Before(at); {
			m := s.month(from)
			until := m.Begins.AddDate(0, 1, 0)
			if until.After(at) {
				until = at
			}
			m.Drunk += gone * float64(until.Sub(from)) / float64(all)
			from = until
		}
	}
	s.at, s.level = at, litres
}

// mark draws the line on to a level.
func (s *stripper) mark(m Mark) {
	m.CM = s.depth(m.Litre)
	var planted time.Time
	for _, p := range s.planted {
		if !p.After(m.At) {
			planted = p
		}
	}
	m.Hang = s.state.Roots(s.spec, m.CM, planted, m.At) >= vessel.RootsHangFrom
	s.out.Marks = append(s.out.Marks, m)
	month := s.month(m.At)
	month.LowestCM, month.HighestCM = min(month.LowestCM, m.CM), max(month.HighestCM, m.CM)
	if m.Over {
		month.Over++
	}
	if m.Dry {
		month.Dry++
	}
}

func (s *stripper) take(e Event) {
	before := s.known()
	if r := e.Reading; r != nil {
		s.state.Read(s.spec, *r, e.At)
		if r.LevelL != nil {
			if !before {
				s.at, s.level = e.At, *r.LevelL
			}
			s.to(e.At, *r.LevelL)
			s.mark(Mark{At: e.At, Litre: s.level, Read: true, Dry: *r.LevelL <= s.spec.DryBelowL})
		}
		m := s.month(e.At)
		m.PHLow, m.PHHigh = within(m.PHLow, r.PH, math.Min), within(m.PHHigh, r.PH, math.Max)
		m.ECLow, m.ECHigh = within(m.ECLow, r.ECMS, math.Min), within(m.ECHigh, r.ECMS, math.Max)
		m.RootsCM = within(m.RootsCM, r.RootsCM, math.Max)
	}
	if t := e.Treat; t != nil {
		level := 0.0
		if before {
			level = s.state.LevelOn(s.spec, e.At)
			s.to(e.At, level)
			s.mark(Mark{At: e.At, Litre: level})
		}
		highest := s.depth(level)
		for i := len(s.out.Marks) - 1; i >= 0 && e.At.Sub(s.out.Marks[i].At) <= restDays*24*time.Hour; i-- {
			highest = max(highest, s.out.Marks[i].CM)
		}
		hung := s.hung(e.At)
		s.state.Treat(s.spec, *t, e.At)
		total := *s.state.LevelL
		s.at, s.level = e.At, total
		drained := min(t.DrainL, level)
		m := s.month(e.At)
		m.Drained += drained
		if t.WaterL > 0 {
			m.Pours++
			m.Poured += t.WaterL
		}
		if unsaid := total - (level - drained + t.WaterL); unsaid > 0 { // nothing was known of it before
			m.Unwritten += unsaid
		}
		over := hung && t.WaterL > 0 && drained < level/2 && s.depth(total) > min(highest+1, s.foot*2/3)+slackCM
		s.mark(Mark{At: e.At, Litre: total, Pour: t.WaterL - drained, Over: over})
	}
}

// hung tells whether roots were known to hang before the day of a pour: what is filled on
// the day a seedling goes in drowns nothing.
func (s *stripper) hung(at time.Time) bool {
	for i := len(s.out.Marks) - 1; i >= 0; i-- {
		if m := s.out.Marks[i]; at.Sub(m.At) >= 24*time.Hour {
			return m.Hang
		}
	}
	return false
}

// For so many days a level is remembered by roots, and so much is nobody's mistake.
const (
	restDays = 3
	slackCM  = 0.3
)

func within(a, b *float64, pick func(x, y float64) float64) *float64 {
	if a == nil || b == nil {
		if a == nil {
			return b
		}
		return a
	}
	x := pick(*a, *b)
	return &x
}
