// Package ical reads whole days from iCalendar files (RFC 5545) as calendars really export
// them: folded oddly, with or without ends, repeated, moved and called off.
//
//	days, err := ical.DaysOf(ctx, text, from, to, zone)
package ical

import (
	"cmp"
	"context"
	"crypto/sha256"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
)

// Days is an event that lasts whole days.
type Days struct {
	ID       string // the same in the same file
	Name     string
	From, To calendar.Day // both included
}

// Read is what was found, and how many events were passed over: those at times of day that are
// no weekly ones, and those that cannot be read.
type Read struct {
	Days            []Days
	Weekly          []Weekly
	All             int // of whole days, of which Days are the first
	Timed, Unclear  int
	CalledOff, Past int
}

// Weekly is an event at a time of day that comes on the same day of the week again and again.
type Weekly struct {
	ID, Name string
	Weekday  int    // 1 (Monday) to 7
	Starts   string // 10:40, in the school's zone
	Minutes  int
}

// often is how many times an event must come for it to be a weekly one.
const often = 3

// Bounds of what is read.
const (
	MaxFile    = 4 << 20
	mostDays   = 120 // of one event
	mostTimes  = 500 // of a repeated one
	mostShown  = 300 // events that are found
	mostFound  = 20_000
	mostWeekly = 60
	mostEvents = 5_000 // in a file
	mostLines  = 200_000
	mostName   = 120
	mostDepth  = 4 // of parts within parts: calendars have three
)

// check refuses, before anything is taken apart, what is no calendar or larger than one is.
func check(text string) error {
	if !strings.Contains(text, "BEGIN:VCALENDAR") || !strings.Contains(text, "END:VCALENDAR") {
		return field.Refuse("text", "is not an iCalendar file: it begins with BEGIN:VCALENDAR")
	}
	lines, depth, events := 0, 0, 0
	for line := range strings.Lines(strings.ReplaceAll(text, "\r", "\n")) {
		lines++
		switch upper := strings.ToUpper(line[:min(len(line), 12)]); {
		case strings.HasPrefix(upper, "BEGIN:"):
			if depth++; strings.HasPrefix(upper, "BEGIN:VEVENT") {
				events++
			}
		case strings.HasPrefix(upper, "END:"):
			depth--
		}
		if depth > mostDepth {
			return field.Refuse("text", "is nested more deeply than any calendar; export it again")
		}
	}
	if events > mostEvents || lines > mostLines {
		return field.Refuse("text", "holds more than %d events: export this school year alone", mostEvents)
	}
	return nil
}

// DaysOf reads the events that last whole days, and touch the days from one to another. A
// repeated one stands there each time; what was moved or called off is as it is now. Midnight
// to midnight, in whatever zone, is whole days too: some exports say it so. Of many events the
// first are given; it ends with the context's error when that is over.
func DaysOf(ctx context.Context, text string, from, to calendar.Day, zone *time.Location) (out Read, err error) {
	bound.Dear(ctx, "a calendar")
	if len(text) > MaxFile {
		return out, field.Refuse("text", "is larger than 4 MB")
	}
	if err := check(text); err != nil {
		return out, err
	}
	cal, err := ics.ParseCalendar(strings.NewReader(mended(text)))
	if err != nil {
		return out, field.Refuse("text", "is not an iCalendar file: it begins with BEGIN:VCALENDAR")
	}
	r := reader{
		from: from, to: to, zone: zone, moved: movedOf(cal, zone),
		seen: map[string]bool{}, weekly: map[Weekly]int{}, events: map[Weekly]int{},
	}
	for _, e := range cal.Events() {
		if ctx.Err() != nil {
			return Read{}, ctx.Err()
		}
		r.take(e)
	}
	return r.found(), nil
}

// movedOf are the times of each event, by its id, that another line tells.
func movedOf(cal *ics.Calendar, zone *time.Location) map[string]map[calendar.Day]bool {
	out := map[string]map[calendar.Day]bool{}
	for _, e := range cal.Events() {
		p := e.GetProperty(ics.ComponentPropertyRecurrenceId)
		if p == nil {
			continue
		}
		if d, ok := dayOf(p.Value, zone); ok {
			id := idOf(e)
			if out[id] == nil {
				out[id] = map[calendar.Day]bool{}
			}
			out[id][d] = true
		}
	}
	return out
}

// reader gathers what the events of a file come to.
type reader struct {
	Read
	from, to       calendar.Day
	zone           *time.Location
	moved          map[string]map[calendar.Day]bool
	seen           map[string]bool // names and days: some exports hold everything twice
	weekly, events map[Weekly]int  // times within the days asked about, and events
}

// take takes one event in.
func (r *reader) take(e *ics.VEvent) {
	id := idOf(e)
	one, whole, ok := spanOf(e, r.zone)
	switch {
	case value(e, ics.ComponentPropertyStatus) == "CANCELLED":
		r.CalledOff++
		return
	case !ok:
		r.Unclear++
		return
	case !whole:
		r.Timed++
	}
	starts := []calendar.Day{one.From}
	if e.GetProperty(ics.ComponentPropertyRrule) != nil && e.GetProperty(ics.ComponentPropertyRecurrenceId) == nil {
		if starts, ok = times(e, one.From, r.from-mostDays, r.to, r.zone); !ok {
			r.Unclear++
			return
		}
		starts = slices.DeleteFunc(starts, func(d calendar.Day) bool { return r.moved[id][d] })
	}
	if !whole {
		r.timed(e, one, starts)
		return
	}
	for _, d := range starts {
		r.add(Days{ID: id + " " + d.String(), Name: one.Name, From: d, To: d + one.To - one.From})
	}
}

// timed counts an event at a time of day: it may be a weekly one.
func (r *reader) timed(e *ics.VEvent, one Days, starts []calendar.Day) {
	w, ok := weeklyOf(e, one, r.zone)
	if !ok {
		return
	}
	r.events[w]++
	for _, d := range starts {
		if d >= r.from && d <= r.to && int(d-d.Monday())+1 == w.Weekday {
			r.weekly[w]++
		}
	}
}

// add keeps whole days that touch those asked about.
func (r *reader) add(x Days) {
	if x.To < r.from || x.From > r.to {
		r.Past++
		return
	}
	key := x.Name + x.From.String() + x.To.String()
	if r.seen[key] {
		return
	}
	r.seen[key] = true
	if r.All++; len(r.Days) < mostFound {
		r.Days = append(r.Days, x)
	}
}

// found is what was gathered, in order and within bounds.
func (r *reader) found() Read {
	out := r.Read
	for w, times := range r.weekly {
		if times >= often {
			out.Timed -= r.events[w]
			w.ID = strings.Join([]string{w.Name, strconv.Itoa(w.Weekday), w.Starts}, " ")
			out.Weekly = append(out.Weekly, w)
		}
	}
	slices.SortFunc(out.Weekly, func(a, b Weekly) int {
		return cmp.Or(cmp.Compare(a.Weekday, b.Weekday), strings.Compare(a.Starts, b.Starts), strings.Compare(a.Name, b.Name), a.Minutes-b.Minutes)
	})
	slices.SortStableFunc(out.Days, func(a, b Days) int { return cmp.Or(cmp.Compare(a.From, b.From), strings.Compare(a.Name, b.Name)) })
	out.Days = out.Days[:min(len(out.Days), mostShown):min(len(out.Days), mostShown)]
	out.Weekly = out.Weekly[:min(len(out.Weekly), mostWeekly)]
	return out
}

// mended takes away what some programs put before and between lines.
func mended(text string) string {
	text = strings.TrimPrefix(text, "\ufeff")
	text = strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
	var lines []string
	for _, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) != "" {
			lines = append(lines, line)
		}
	}
	return strings.Join(lines, "\r\n") + "\r\n"
}

// idOf is an event's id; of one that is longer than ids are, what tells it apart.
func idOf(e *ics.VEvent) string {
	if id := e.Id(); len(id) <= 2*mostName {
		return id
	}
	return fmt.Sprintf("%x", sha256.Sum256([]byte(e.Id())))
}

func value(e *ics.VEvent, p ics.ComponentProperty) string {
	if x := e.GetProperty(p); x != nil {
		return x.Value
	}
	return ""
}

// dayOf is the day of a date or a moment as it stands in a file.
func dayOf(v string, zone *time.Location) (calendar.Day, bool) {
	if len(v) < 8 {
		return 0, false
	}
	if strings.HasSuffix(v, "Z") {
		if t, err := time.Parse("20060102T150405Z", v); err == nil {
			return calendar.Of(t.In(zone)), true
		}
	}
	t, err := time.Parse("20060102", v[:8])
	if err != nil {
		return 0, false
	}
	return calendar.Of(t), true
}

// spanOf is from when to when an event lasts, and whether in whole days.
func spanOf(e *ics.VEvent, zone *time.Location) (d Days, whole, ok bool) {
	start, end := value(e, ics.ComponentPropertyDtStart), value(e, ics.ComponentPropertyDtEnd)
	d.Name = strings.TrimSpace(ics.FromText(value(e, ics.ComponentPropertySummary)))
	if letters := []rune(d.Name); len(letters) > mostName {
		d.Name = string(letters[:mostName-1]) + "…"
	}
	if d.From, ok = dayOf(start, zone); !ok {
		return d, false, false
	}
	d.To = d.From
	date := len(start) == 8
	if end != "" {
		last, fine := dayOf(end, zone)
		if !fine || last < d.From {
			return d, false, false
		}
		d.To = max(d.From, last-1) // the end is the day after; where it is the same day, some mean that day
	} else if days, fine := daysLong(value(e, ics.ComponentPropertyDuration)); fine {
		d.To = d.From + calendar.Day(days) - 1
	}
	midnight := func(v string) bool {
		if strings.HasSuffix(v, "Z") {
			t, err := time.Parse("20060102T150405Z", v)
			return err == nil && t.In(zone).Format("150405") == "000000"
		}
		return strings.HasSuffix(v, "T000000")
	}
	whole = date || midnight(start) && midnight(end) && end != start
	if !whole {
		d.To = d.From
	}
	if d.To-d.From > mostDays {
		return d, whole, false
	}
	return d, whole, true
}

// momentOf is when an event begins or ends, in the school's zone.
func momentOf(e *ics.VEvent, p ics.ComponentProperty, zone *time.Location) (time.Time, bool) {
	x := e.GetProperty(p)
	if x == nil {
		return time.Time{}, false
	}
	if t, err := time.Parse("20060102T150405Z", x.Value); err == nil {
		return t.In(zone), true
	}
	in := zone
	if tz := x.ICalParameters["TZID"]; len(tz) == 1 {
		if z, err := time.LoadLocation(strings.Trim(tz[0], `"`)); err == nil {
			in = z
		}
	}
	t, err := time.ParseInLocation("20060102T150405", x.Value, in)
	return t.In(zone), err == nil
}

// weeklyOf is what an event at a time of day would be, if it came every week.
func weeklyOf(e *ics.VEvent, one Days, zone *time.Location) (w Weekly, ok bool) {
	start, ok := momentOf(e, ics.ComponentPropertyDtStart, zone)
	if !ok {
		return w, false
	}
	end, ok := momentOf(e, ics.ComponentPropertyDtEnd, zone)
	if !ok {
		long, err := time.ParseDuration(strings.ToLower(strings.TrimPrefix(value(e, ics.ComponentPropertyDuration), "PT")))
		if err != nil {
			return w, false
		}
		end = start.Add(long)
	}
	d := calendar.Of(start)
	w = Weekly{Name: one.Name, Weekday: int(d-d.Monday()) + 1, Starts: start.Format("15:04"), Minutes: int(end.Sub(start).Minutes())}
	return w, w.Minutes >= 5 && w.Minutes <= 600
}

// daysLong reads a duration of whole days or weeks.
func daysLong(v string) (int, bool) {
	v, ok := strings.CutPrefix(v, "P")
	if !ok || v == "" {
		return 0, false
	}
	n, err := strconv.Atoi(v[:len(v)-1])
	switch {
	case err != nil || n < 1:
		return 0, false
	case strings.HasSuffix(v, "D"):
		return n, true
	case strings.HasSuffix(v, "W"):
		return 7 * n, true
	}
	return 0, false
}

// times are the days on which a repeated event begins, from one day to another.
func times(e *ics.VEvent, first, from, to calendar.Day, zone *time.Location) ([]calendar.Day, bool) {
	r, ok := readRule(value(e, ics.ComponentPropertyRrule))
	if !ok {
		return nil, false
	}
	out, ok := r.from(first, from, to)
	left := map[calendar.Day]bool{}
	for _, p := range e.GetProperties(ics.ComponentPropertyExdate) {
		for _, v := range strings.Split(p.Value, ",") {
			if d, ok := dayOf(strings.TrimSpace(v), zone); ok {
				left[d] = true
			}
		}
	}
	return slices.DeleteFunc(out, func(d calendar.Day) bool { return left[d] }), ok
}

// Nothing tells that nothing was found.
func (r Read) Nothing() say.Text {
	return say.T("No all-day events from today on; %d at a time of day, %d that cannot be read.", r.Timed, r.Unclear)
}
