package ical

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"ulpa/core/calendar"
)

// rule says on which days an event comes again (RFC 5545, 3.3.10), as far as days go: what comes
// several times a day, or by the moon, is none of ours. Every day of a span is looked at once, so
// that a rule which never comes takes no longer than one that comes daily.
type rule struct {
	period                                 string // DAILY, WEEKLY, MONTHLY or YEARLY
	every, count                           int    // count 0: for ever
	until                                  calendar.Day
	months, monthDays, yearDays, weeks, at []int // at: which of those that a period has (BYSETPOS)
	days                                   []weekday
	weekBegins                             time.Weekday
}

// weekday is a day of the week; n the n-th of a month or year, from the end when negative, 0 any.
type weekday struct {
	day time.Weekday
	n   int
}

var weekdays = map[string]time.Weekday{
	"SU": time.Sunday, "MO": time.Monday, "TU": time.Tuesday, "WE": time.Wednesday, "TH": time.Thursday, "FR": time.Friday, "SA": time.Saturday,
}

// farthest is how many years a rule that counts its times is followed.
const farthest = 20

// readRule reads one; false when it cannot be understood, or could come more often than daily.
func readRule(text string) (r rule, ok bool) {
	r = rule{every: 1, weekBegins: time.Monday}
	for _, part := range strings.Split(strings.Trim(text, "; "), ";") {
		name, value, _ := strings.Cut(strings.ToUpper(strings.TrimSpace(part)), "=")
		ok = true
		switch name {
		case "FREQ":
			r.period, ok = value, slices.Contains([]string{"DAILY", "WEEKLY", "MONTHLY", "YEARLY"}, value)
		case "INTERVAL":
			r.every, ok = number(value, 1, 1000)
		case "COUNT":
			r.count, ok = number(value, 1, 100_000)
		case "UNTIL":
			r.until, ok = dayOf(value, time.UTC) // a day counts whole, whatever its hour
		case "BYMONTH":
			r.months, ok = numbers(value, 1, 12, false)
		case "BYMONTHDAY":
			r.monthDays, ok = numbers(value, 1, 31, true)
		case "BYYEARDAY":
			r.yearDays, ok = numbers(value, 1, 366, true)
		case "BYWEEKNO":
			r.weeks, ok = numbers(value, 1, 53, true)
		case "BYSETPOS":
			r.at, ok = numbers(value, 1, 366, true)
		case "BYDAY":
			for _, d := range strings.Split(value, ",") {
				w, fine := readWeekday(d)
				r.days, ok = append(r.days, w), ok && fine
			}
			ok = ok && len(r.days) <= mostNumbers
		case "WKST":
			r.weekBegins, ok = weekdays[value]
		case "BYHOUR", "BYMINUTE", "BYSECOND": // the day stays the same
		default:
			ok = strings.HasPrefix(name, "X-")
		}
		if !ok {
			return r, false
		}
	}
	return r, r.period != ""
}

const mostNumbers = 400 // of a list

func numbers(text string, low, high int, backwards bool) (out []int, ok bool) {
	for _, s := range strings.Split(text, ",") {
		n, ok := number(s, -high, high)
		if !ok || n < low && (!backwards || n > -low) || len(out) == mostNumbers {
			return nil, false
		}
		out = append(out, n)
	}
	return out, true
}

func number(text string, low, high int) (int, bool) {
	n, err := strconv.Atoi(text)
	return n, err == nil && n >= low && n <= high
}

func readWeekday(text string) (w weekday, ok bool) {
	if len(text) < 2 {
		return w, false
	}
	if w.day, ok = weekdays[text[len(text)-2:]]; !ok || len(text) == 2 {
		return w, ok
	}
	w.n, ok = number(text[:len(text)-2], -53, 53)
	return w, ok && w.n != 0
}

// from gives the days on which an event of that first day comes, from one day to another; false
// when it would have to be followed for too long.
func (r rule) from(first, from, to calendar.Day) (out []calendar.Day, ok bool) {
	r.usual(first)
	begin := max(first, from)
	if r.count > 0 { // the times before are counted too
		if begin = first; to-first > farthest*366 {
			return nil, false
		}
	}
	if r.until != 0 {
		to = min(to, r.until)
	}
	seen := 0
	for start := r.periodOf(begin); start <= to; {
		next := r.next(start)
		if r.steps(first, start)%r.every == 0 {
			for _, d := range r.within(start, next) {
				if d < first {
					continue
				}
				if seen++; d > to || r.count > 0 && seen > r.count || len(out) == mostTimes {
					return out, true
				}
				if d >= from {
					out = append(out, d)
				}
			}
		}
		start = next
	}
	return out, true
}

// usual fills in what the first day says when the rule says nothing.
func (r *rule) usual(first calendar.Day) {
	if r.days != nil || r.monthDays != nil || r.yearDays != nil || r.weeks != nil {
		return
	}
	at := first.UTC()
	switch r.period {
	case "WEEKLY":
		r.days = []weekday{{day: at.Weekday()}}
	case "YEARLY":
		if r.months == nil {
			r.months = []int{int(at.Month())}
		}
		r.monthDays = []int{at.Day()}
	case "MONTHLY":
		r.monthDays = []int{at.Day()}
	}
}

// periodOf is the first day of the period in which a day lies.
func (r rule) periodOf(d calendar.Day) calendar.Day {
	at := d.UTC()
	switch r.period {
	case "WEEKLY":
		return d - calendar.Day(at.Weekday()-r.weekBegins+7)%7
	case "MONTHLY":
		return calendar.Date(at.Year(), at.Month(), 1)
	case "YEARLY":
		return calendar.Date(at.Year(), time.January, 1)
	}
	return d
}

// next is the first day of the period after one.
func (r rule) next(start calendar.Day) calendar.Day {
	at := start.UTC()
	switch r.period {
	case "WEEKLY":
		return start + 7
	case "MONTHLY":
		return calendar.Date(at.Year(), at.Month()+1, 1)
	case "YEARLY":
		return calendar.Date(at.Year()+1, time.January, 1)
	}
	return start + 1
}

// steps is how many periods lie between that of the first day and one.
func (r rule) steps(first, start calendar.Day) int {
	a, b := r.periodOf(first).UTC(), start.UTC()
	switch r.period {
	case "WEEKLY":
		return int(start-r.periodOf(first)) / 7
	case "MONTHLY":
		return 12*(b.Year()-a.Year()) + int(b.Month()-a.Month())
	case "YEARLY":
		return b.Year() - a.Year()
	}
	return int(start - first)
}

// within are the days of a period that the rule names.
func (r rule) within(start, next calendar.Day) (out []calendar.Day) {
	for d := start; d < next; d++ {
		if r.names(d.UTC()) {
			out = append(out, d)
		}
	}
	if r.at == nil {
		return out
	}
	var some []calendar.Day
	for _, n := range r.at {
		if n < 0 {
			n += len(out) + 1
		}
		if n >= 1 && n <= len(out) {
			some = append(some, out[n-1])
		}
	}
	slices.Sort(some)
	return slices.Compact(some)
}

// names tells whether a day is one of those that the rule lists.
func (r rule) names(d time.Time) bool {
	in := func(list []int, n, of int) bool {
		return list == nil || slices.Contains(list, n) || slices.Contains(list, n-of-1)
	}
	long := 365
	if leap(d.Year()) {
		long = 366
	}
	return in(r.months, int(d.Month()), -1) && in(r.monthDays, d.Day(), monthLong(d)) && in(r.yearDays, d.YearDay(), long) &&
		(r.weeks == nil || r.inWeek(d)) && (r.days == nil || slices.ContainsFunc(r.days, func(w weekday) bool { return r.isDay(w, d, long) }))
}

func (r rule) isDay(w weekday, d time.Time, yearLong int) bool {
	if w.day != d.Weekday() {
		return false
	}
	at, of := d.Day(), monthLong(d)
	switch {
	case w.n == 0 || r.period == "DAILY" || r.period == "WEEKLY":
		return true
	case r.period == "YEARLY" && r.months == nil:
		at, of = d.YearDay(), yearLong
	}
	return (at-1)/7+1 == w.n || -((of-at)/7+1) == w.n
}

// inWeek tells whether a day lies in one of the weeks that are named: the first is the first with
// four days in the year.
func (r rule) inWeek(d time.Time) bool {
	n, of := r.weekOf(d)
	year := d.Year()
	switch {
	case n < 1: // it belongs to the year before
		last := time.Date(year-1, time.December, 31, 0, 0, 0, 0, time.UTC)
		n, of = r.weekOf(last)
	case n > of:
		n, of = 1, 0
		_, of = r.weekOf(time.Date(year+1, time.July, 1, 0, 0, 0, 0, time.UTC))
	}
	return slices.Contains(r.weeks, n) || slices.Contains(r.weeks, n-of-1)
}

// weekOf is the number of a day's week in its own year, and how many weeks that has.
func (r rule) weekOf(d time.Time) (n, of int) {
	first := func(year int) calendar.Day { // of its weeks
		fourth := calendar.Date(year, time.January, 4)
		return fourth - calendar.Day(fourth.Weekday()-r.weekBegins+7)%7
	}
	begin, next := first(d.Year()), first(d.Year()+1)
	at := calendar.Of(d)
	if at < begin {
		return 0, 0
	}
	return int(at-begin)/7 + 1, int(next-begin) / 7
}

func leap(year int) bool {
	return monthLong(time.Date(year, time.February, 1, 0, 0, 0, 0, time.UTC)) == 29
}

func monthLong(d time.Time) int {
	return time.Date(d.Year(), d.Month()+1, 0, 0, 0, 0, 0, time.UTC).Day()
}
