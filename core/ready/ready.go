// Package ready judges whether a batch can move on, by the school's rule.
//
//	v := ready.Judge(lettuce.Ready, ready.Grown{Sown: sown, Today: today, Seen: seen})
package ready

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Rule says when a crop is ready to move: so many true leaves, or that height,
// or that age, or roots that hold; Every asks for all that are set instead of any. A measure that
// is 0 is not part of the rule.
type Rule struct {
	Leaves   int
	HeightCM float64
	AgeDays  int
	Roots    bool // its roots hold the ball
	Every    bool
	HoldDays int // how long it can then wait in its cell
}

// Seen is what was looked at, and when; the zero Day means nobody has looked.
type Seen struct {
	Leaves   int
	HeightCM float64
	On       calendar.Day
	Hold     bool // its roots hold the ball
	Round    bool // its roots go round and round: it is late, whatever the rule
}

// Grown is what is known of a batch's growth.
type Grown struct {
	Sown, Today calendar.Day
	Up          calendar.Day // half of it was up; 0: not known
	WarmC       float64      // where it stands
	LeafCD      float64      // warmth that a leaf takes, °C·days; 0: not known
	Seen        Seen
}

// Word is the verdict.
type Word string

// Early, time to look, Ready or Late. Age alone only says that it is time to look.
const (
	Early Word = "early"
	Look  Word = "look"
	Ready Word = "ready"
	Late  Word = "late"
)

// Verdict says how far a batch is, since or until when, and why.
type Verdict struct {
	Word  Word
	Since calendar.Day // Ready, Late: the day it became ready; Look: when it should have been
	Until calendar.Day // the last day it can wait
	About calendar.Day // Early: when it should be ready
	Why   say.Text
}

// DaysLeft is how many days it can still wait on a day; negative when late.
func (v Verdict) DaysLeft(today calendar.Day) int { return int(v.Until - today) }

const (
	leafBaseC = 4   // no leaf unfolds below it
	fresh     = 3   // days for which what was seen holds
	farthest  = 120 // days that are forecast at most
)

// PaceOf is the warmth that a leaf takes when so many stood on a day after half were
// up; 0 when that cannot be told.
func PaceOf(leaves int, days, warmC float64) float64 {
	if leaves < 1 || days <= 0 || warmC <= leafBaseC {
		return 0
	}
	return days * (warmC - leafBaseC) / float64(leaves)
}

// leavesOn is how many leaves are to be expected on a day.
func (g Grown) leavesOn(d calendar.Day) float64 {
	pace := max(0, g.WarmC-leafBaseC) / g.LeafCD
	if g.Seen.On != 0 {
		return float64(g.Seen.Leaves) + pace*float64(d-g.Seen.On)
	}
	return pace * float64(d-g.Up)
}

// due is the day on which the leaves should be there; without a pace the crop's usual age.
func (g Grown) due(r Rule) calendar.Day {
	age := g.Sown + calendar.Day(r.AgeDays)
	if r.Leaves == 0 || g.LeafCD <= 0 || g.Up == 0 && g.Seen.On == 0 {
		if r.AgeDays == 0 {
			return g.Today + fresh
		}
		return age
	}
	from := max(g.Up, g.Seen.On)
	for d := from; d < from+farthest; d++ {
		if g.leavesOn(d) >= float64(r.Leaves)-1e-9 {
			return d
		}
	}
	return from + farthest
}

// Judge applies the rule, and says why. What is seen counts from
// the day it was seen and goes before age: age, or the leaves that its warmth forecasts,
// only say when to look. A rule of age alone is judged by age.
func Judge(r Rule, g Grown) Verdict {
	var met, unmet []say.Text
	var since []calendar.Day
	looked := g.Seen.On != 0
	if looked && g.Seen.Round {
		return Verdict{Word: Late, Since: g.Seen.On, Until: g.Seen.On - 1, Why: say.T("roots circle the pot")}
	}
	test := func(ok bool, on calendar.Day, yes, no say.Text) {
		if ok {
			met, since = append(met, yes), append(since, on)
		} else {
			unmet = append(unmet, no)
		}
	}
	if r.Leaves > 0 {
		no := say.T("%d of %d true leaves", g.Seen.Leaves, r.Leaves)
		if !looked {
			no = say.T("nobody has counted leaves yet (%d wanted)", r.Leaves)
		}
		test(looked && g.Seen.Leaves >= r.Leaves, g.Seen.On, say.T("%d true leaves, %d wanted", g.Seen.Leaves, r.Leaves), no)
	}
	if r.HeightCM > 0 {
		is, wanted := say.Of(g.Seen.HeightCM, unit.Centimetre), say.Of(r.HeightCM, unit.Centimetre)
		test(looked && g.Seen.HeightCM >= r.HeightCM, g.Seen.On, say.T("%s tall, %s wanted", is, wanted), say.T("%s of %s", is, wanted))
	}
	if r.Roots {
		test(looked && g.Seen.Hold, g.Seen.On, say.T("roots hold the ball"), say.T("roots do not hold the ball yet, as far as anybody has seen"))
	}
	seen := r.Leaves > 0 || r.HeightCM > 0 || r.Roots
	age, ageDay := int(g.Today-g.Sown), g.Sown+calendar.Day(r.AgeDays)
	if r.AgeDays > 0 && (r.Every || !seen) {
		test(age >= r.AgeDays, ageDay, say.T("day %d, usual at %d", age, r.AgeDays), say.T("day %d of %d", age, r.AgeDays))
	}
	if len(met) == 0 || r.Every && len(unmet) > 0 {
		return g.notYet(r, seen, age, unmet)
	}
	first := since[0]
	for _, d := range since[1:] {
		if r.Every {
			first = max(first, d)
		} else {
			first = min(first, d)
		}
	}
	v := Verdict{Word: Ready, Since: first, Until: first + calendar.Day(r.HoldDays), Why: say.Join("; ", met...)}
	if g.Today > v.Until {
		v.Word = Late
	}
	return v
}

// notYet is early, or time to look.
func (g Grown) notYet(r Rule, seen bool, age int, unmet []say.Text) Verdict {
	v := Verdict{Word: Early, Why: say.Join("; ", unmet...)}
	due := g.due(r)
	if r.Every || !seen {
		due = max(due, g.Sown+calendar.Day(r.AgeDays))
	}
	recent := g.Seen.On != 0 && g.Today-g.Seen.On < fresh
	if seen && due <= g.Today && !recent {
		v.Word, v.Since, v.Until, v.About = Look, due, due+calendar.Day(r.HoldDays), g.Today
		v.Why = say.T("%s; day %d, and it should be ready since about %s", v.Why, age, due.Short())
		return v
	}
	if g.LeafCD > 0 && r.Leaves > 0 && g.WarmC <= leafBaseC {
		v.Why = say.T("%s; too cold here for new leaves", v.Why)
	}
	v.About = max(due, g.Today+1)
	v.Until = v.About + calendar.Day(r.HoldDays)
	return v
}

// Pricking is the rule for seedlings of a crop that stand close together in an open tray: they are
// pricked out at their first true leaf, and do not wait there long.
func Pricking(r Rule) Rule { return Rule{Leaves: 1, AgeDays: r.AgeDays / 2, HoldDays: prickHold} }

// prickHold is how many days seedlings can wait in an open tray once they have a true leaf.
const prickHold = 7

// PaceOfRule is the warmth that a leaf takes by a crop's own rule: its leaves at its
// age, kept at 20 °C and up after so many days; 0 when the rule does not say.
func PaceOfRule(r Rule, daysToUp float64) float64 {
	return PaceOf(r.Leaves, math.Max(0, float64(r.AgeDays)-daysToUp), 20)
}
