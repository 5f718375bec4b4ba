// Package calendar is the school's days: which are open, what the next open
// one is, and how people say a date.
//
//	d, err := calendar.ParseDay("2027-03-18")
//	d.Long().String() // "Thu 18 March"
package calendar

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"ulpa/core/say"
)

// Day is a date without a time or a zone: the number of days since 1 January 1970.
type Day int

// Of is the day that t falls on in its own zone.
func Of(t time.Time) Day {
	y, m, d := t.Date()
	return Date(y, m, d)
}

// Date makes a day from its parts.
func Date(y int, m time.Month, d int) Day {
	return Day(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / 86400)
}

// ParseDay reads an ISO date, 2027-03-18.
func ParseDay(s string) (Day, error) {
	t, err := time.Parse("2006-01-02", s)
	if err != nil {
		return 0, say.Wrong("%q is not a date like 2027-03-18", s)
	}
	return Of(t), nil
}

// UTC is the day's midnight in UTC: how it is stored in a date column.
func (d Day) UTC() time.Time { return time.Unix(int64(d)*86400, 0).UTC() }

// At is a time of the day in a zone.
func (d Day) At(hour, minute int, zone *time.Location) time.Time {
	y, m, day := d.UTC().Date()
	return time.Date(y, m, day, hour, minute, 0, 0, zone)
}

// Weekday of the day.
func (d Day) Weekday() time.Weekday { return d.UTC().Weekday() }

// Monday is the Monday of the week in which the day is.
func (d Day) Monday() Day { return d - Day(d.Weekday()+6)%7 }

// Clock is a time of the day, from minutes after midnight, as a clock shows it.
func Clock(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// String is the ISO date.
func (d Day) String() string { return d.UTC().Format("2006-01-02") }

// Long is how people at a school say it: Thu 18 March.
func (d Day) Long() say.Text { return say.Date(d.UTC(), "Mon 2 January") }

// Short is Thu 18 Mar.
func (d Day) Short() say.Text { return say.Date(d.UTC(), "Mon 2 Jan") }

// MarshalJSON writes the ISO date.
func (d Day) MarshalJSON() ([]byte, error) { return json.Marshal(d.String()) }

// UnmarshalJSON reads an ISO date.
func (d *Day) UnmarshalJSON(b []byte) error {
	var s string
	if err := json.Unmarshal(b, &s); err != nil {
		return err
	}
	v, err := ParseDay(s)
	*d = v
	return err
}

// Closure is a run of closed days, both ends included.
type Closure struct {
	From, To Day
	Name     string
}

// Period is a time in every week in which a group works.
type Period struct {
	Weekday int // 1 (Monday) to 7
	Minutes int
	Whom    string // who has it
}

// Special is days with minutes of their own, whatever is usual: exam weeks, a day on which
// somebody comes in though it is closed.
type Special struct {
	Closure
	Minutes int // for work, on each of them
}

// School says on which days somebody is there: Monday to Friday, and where there is a period,
// outside closures; and on closed days that have minutes nevertheless.
type School struct {
	Closures []Closure
	Periods  []Period
	Specials []Special
	Terms    []Closure // by name, from their first day to their last
}

// special is what was said of the day on its own.
func (s School) special(d Day) (minutes int, ok bool) {
	for _, x := range s.Specials {
		if d >= x.From && d <= x.To {
			return x.Minutes, true
		}
	}
	return 0, false
}

// number is 1 for Monday to 7 for Sunday.
func (d Day) number() int { return int(d-d.Monday()) + 1 }

// Minutes are those for work on a day: of its periods, where any are told, else as many as
// usual on every open day.
func (s School) Minutes(d Day, usual int) int {
	if m, ok := s.special(d); ok {
		return m
	}
	if !s.Open(d) {
		return 0
	}
	if s.Periods == nil {
		return usual
	}
	sum := 0
	for _, p := range s.Periods {
		if p.Weekday == d.number() {
			sum += p.Minutes
		}
	}
	return sum
}

// Whom are those who have the day's periods, in a line; "": nobody in particular.
func (s School) Whom(d Day) string {
	var all []string
	for _, p := range s.Periods {
		if p.Weekday == d.number() && p.Whom != "" && !slices.Contains(all, p.Whom) {
			all = append(all, p.Whom)
		}
	}
	return strings.Join(all, ", ")
}

// Term is the name of the term that the day is in; "": none.
func (s School) Term(d Day) string {
	for _, t := range s.Terms {
		if d >= t.From && d <= t.To {
			return t.Name
		}
	}
	return ""
}

// Open tells whether somebody is there on the day.
func (s School) Open(d Day) bool {
	if m, ok := s.special(d); ok && m > 0 {
		return true
	}
	if n := d.number(); n > 5 && !slices.ContainsFunc(s.Periods, func(p Period) bool { return p.Weekday == n }) {
		return false
	}
	for _, c := range s.Closures {
		if d >= c.From && d <= c.To {
			return false
		}
	}
	return true
}

// NextOpen is the first open day after d; it looks a year ahead and then gives up with that day.
func (s School) NextOpen(d Day) Day {
	for i := 1; i <= 366; i++ {
		if s.Open(d + Day(i)) {
			return d + Day(i)
		}
	}
	return d + 366
}

// Next is the first open day after d, and how many days in between nobody is there.
func (s School) Next(d Day) (back Day, closed int) {
	back = s.NextOpen(d)
	return back, int(back-d) - 1
}
