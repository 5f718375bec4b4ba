// Package ready judges whether a batch can move on, by the school's rule.
package ready

import (
	"fmt"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/unit"
)

// Rule says when a crop is ready to move: so many true leaves, or that height,
// or that age; Every asks for all that are set instead of any. A measure that
// is 0 is not part of the rule.
type Rule struct {
	Leaves   int
	HeightCM float64
	AgeDays  int
	Every    bool
	HoldDays int // how long it can then wait in its cell
}

// Seen is what was looked at, and when; the zero Day means nobody has looked.
type Seen struct {
	Leaves   int
	HeightCM float64
	On       calendar.Day
}

// Word is the verdict.
type Word string

// Early, Ready or Late.
const (
	Early Word = "early"
	Ready Word = "ready"
	Late  Word = "late"
)

// Verdict says how far a batch is, since or until when, and why.
type Verdict struct {
	Word  Word
	Since calendar.Day // Ready, Late: the day it became ready
	Until calendar.Day // the last day it can wait
	About calendar.Day // Early: when it should be ready
	Why   string
}

// DaysLeft is how many days it can still wait on a day; negative when late.
func (v Verdict) DaysLeft(today calendar.Day) int { return int(v.Until - today) }

// Judge applies the rule, and says why in the reader's units. The age counts from
// sowing. What is seen counts from the day it was seen; between looks a batch does
// not become ready by leaves.
func Judge(r Rule, sown, today calendar.Day, seen Seen, p unit.Prefs) Verdict {
	var met, unmet []string
	var since []calendar.Day
	looked := seen.On != 0
	test := func(ok bool, on calendar.Day, yes, no string) {
		if ok {
			met, since = append(met, yes), append(since, on)
		} else {
			unmet = append(unmet, no)
		}
	}
	if r.Leaves > 0 {
		no := fmt.Sprintf("%d of %d true leaves", seen.Leaves, r.Leaves)
		if !looked {
			no = fmt.Sprintf("nobody has counted leaves yet (%d wanted)", r.Leaves)
		}
		test(looked && seen.Leaves >= r.Leaves, seen.On, fmt.Sprintf("%d true leaves, %d wanted", seen.Leaves, r.Leaves), no)
	}
	if r.HeightCM > 0 {
		is, wanted := p.Format(seen.HeightCM, unit.Centimetre), p.Format(r.HeightCM, unit.Centimetre)
		test(looked && seen.HeightCM >= r.HeightCM, seen.On, is+" tall, "+wanted+" wanted", is+" of "+wanted)
	}
	age := int(today - sown)
	ageDay := sown + calendar.Day(r.AgeDays)
	if r.AgeDays > 0 {
		// Leaves seen since speak louder than the calendar.
		young := looked && r.Leaves > 0 && !r.Every && seen.Leaves < r.Leaves && seen.On >= ageDay
		test(age >= r.AgeDays && !young, ageDay, fmt.Sprintf("day %d, usual at %d", age, r.AgeDays), fmt.Sprintf("day %d of %d", age, r.AgeDays))
	}
	ok := len(met) > 0 && (!r.Every || len(unmet) == 0)
	if !ok {
		v := Verdict{Word: Early, About: ageDay, Why: strings.Join(unmet, "; ")}
		if r.AgeDays == 0 || ageDay <= today {
			v.About = today + 3
		}
		v.Until = v.About + calendar.Day(r.HoldDays)
		return v
	}
	first := since[0]
	for _, d := range since[1:] {
		if r.Every {
			first = max(first, d)
		} else {
			first = min(first, d)
		}
	}
	v := Verdict{Word: Ready, Since: first, Until: first + calendar.Day(r.HoldDays), Why: strings.Join(met, "; ")}
	if today > v.Until {
		v.Word = Late
	}
	return v
}
