package ical_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/internal/base/ical"
)

// The ways in which real exports are odd.
func TestOddCalendars(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	from, to := calendar.Date(2027, 1, 1), calendar.Date(2027, 12, 31)
	for name, x := range map[string]struct {
		lines string
		want  []string
	}{
		"an end is the day after":          {"DTSTART;VALUE=DATE:20270329\nDTEND;VALUE=DATE:20270410", []string{"2027-03-29 2027-04-09"}},
		"no end is one day":                {"DTSTART;VALUE=DATE:20270503", []string{"2027-05-03 2027-05-03"}},
		"an end on the same day":           {"DTSTART;VALUE=DATE:20270503\nDTEND;VALUE=DATE:20270503", []string{"2027-05-03 2027-05-03"}},
		"days as a duration":               {"DTSTART;VALUE=DATE:20270503\nDURATION:P1W", []string{"2027-05-03 2027-05-09"}},
		"a date without saying that it is": {"DTSTART:20270503", []string{"2027-05-03 2027-05-03"}},
		"midnight to midnight":             {"DTSTART:20270503T000000\nDTEND:20270505T000000", []string{"2027-05-03 2027-05-04"}},
		"midnight of a zone, in UTC":       {"DTSTART:20270502T230000Z\nDTEND:20270503T230000Z", []string{"2027-05-03 2027-05-03"}},
		"midnight of a zone that is named": {
			"DTSTART;TZID=Europe/London:20270503T000000\nDTEND;TZID=Europe/London:20270504T000000", []string{"2027-05-03 2027-05-03"},
		},
		"at a time of day":        {"DTSTART:20270503T090000Z\nDTEND:20270503T100000Z", nil},
		"called off":              {"DTSTART;VALUE=DATE:20270503\nSTATUS:CANCELLED", nil},
		"long ago":                {"DTSTART;VALUE=DATE:20200503", nil},
		"an end before it begins": {"DTSTART;VALUE=DATE:20270503\nDTEND;VALUE=DATE:20270401", nil},
		"every year":              {"DTSTART;VALUE=DATE:20200501\nRRULE:FREQ=YEARLY", []string{"2027-05-01 2027-05-01"}},
		"each second Friday but one": {
			"DTSTART;VALUE=DATE:20270108\nRRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=4\nEXDATE;VALUE=DATE:20270122",
			[]string{"2027-01-08 2027-01-08", "2027-02-05 2027-02-05", "2027-02-19 2027-02-19"},
		},
		"until an hour of the last day": {
			"DTSTART;VALUE=DATE:20270105\nRRULE:FREQ=WEEKLY;UNTIL=20270119T235959Z",
			[]string{"2027-01-05 2027-01-05", "2027-01-12 2027-01-12", "2027-01-19 2027-01-19"},
		},
		"a rule that nobody understands": {"DTSTART;VALUE=DATE:20270105\nRRULE:FREQ=SOMETIMES", nil},
		"one time moved": {
			"DTSTART;VALUE=DATE:20270105\nRRULE:FREQ=WEEKLY;COUNT=2\nEND:VEVENT\nBEGIN:VEVENT\nUID:1\nSUMMARY:Closed\nRECURRENCE-ID;VALUE=DATE:20270112\n" +
				"DTSTART;VALUE=DATE:20270113", []string{"2027-01-05 2027-01-05", "2027-01-13 2027-01-13"},
		},
		"everything twice": {
			"DTSTART;VALUE=DATE:20270503\nEND:VEVENT\nBEGIN:VEVENT\nUID:2\nSUMMARY:Closed\nDTSTART;VALUE=DATE:20270503", []string{"2027-05-03 2027-05-03"},
		},
	} {
		for odd, wrap := range map[string]func(string) string{
			"as the standard says": func(s string) string { return strings.ReplaceAll(s, "\n", "\r\n") },
			"with a mark before it and empty lines, for another system": func(s string) string { return "\ufeff" + strings.ReplaceAll(s, "\n", "\n\n") },
		} {
			head := "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nX-WR-TIMEZONE:Mars/Base\nBEGIN:VEVENT\nUID:1\nSUMMARY:Clo\n sed\n"
			text := wrap(head + x.lines + "\nEND:VEVENT\nEND:VCALENDAR\n")
			got, err := ical.DaysOf(t.Context(), text, from, to, zone)
			require.NoError(t, err, name)
			var days []string
			for _, d := range got.Days {
				require.Equal(t, "Closed", d.Name, name)
				days = append(days, d.From.String()+" "+d.To.String())
			}
			require.Equal(t, x.want, days, "%s, %s", name, odd)
		}
	}
	for _, text := range []string{"", "hello", "BEGIN:VCALENDAR\nBEGIN:VEVENT\n"} {
		_, err := ical.DaysOf(t.Context(), text, from, to, zone)
		require.Error(t, err, text)
	}
}

// What comes at a time of day every week can be a period: in the school's zone, whatever zone
// the file is in, over the change of the clocks, and not what comes once or twice.
func TestWeeklyPeriods(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	from, to := calendar.Date(2027, 1, 1), calendar.Date(2027, 12, 31)
	tuesday := []ical.Weekly{{ID: "Punt 2 10:40", Name: "Punt", Weekday: 2, Starts: "10:40", Minutes: 45}}
	for name, x := range map[string]struct {
		lines string
		want  []ical.Weekly
	}{
		"in the school's time": {"DTSTART:20270105T104000\nDTEND:20270105T112500\nRRULE:FREQ=WEEKLY;COUNT=20", tuesday},
		"in UTC":               {"DTSTART:20270105T104000Z\nDTEND:20270105T112500Z\nRRULE:FREQ=WEEKLY;COUNT=20", tuesday},
		"in another zone": {
			"DTSTART;TZID=Europe/Berlin:20270105T114000\nDTEND;TZID=Europe/Berlin:20270105T122500\nRRULE:FREQ=WEEKLY;COUNT=20", tuesday,
		},
		"for so long":     {"DTSTART:20270105T104000\nDURATION:PT45M\nRRULE:FREQ=WEEKLY;UNTIL=20270701T000000Z", tuesday},
		"every other one": {"DTSTART:20270105T104000\nDTEND:20270105T112500\nRRULE:FREQ=WEEKLY;INTERVAL=2;COUNT=9", tuesday},
		"once":            {"DTSTART:20270105T104000\nDTEND:20270105T112500", nil},
		"twice":           {"DTSTART:20270105T104000\nDTEND:20270105T112500\nRRULE:FREQ=WEEKLY;COUNT=2", nil},
		"over":            {"DTSTART:20250107T104000\nDTEND:20250107T112500\nRRULE:FREQ=WEEKLY;COUNT=20", nil},
		"on two days": {
			"DTSTART:20270105T104000\nDTEND:20270105T112500\nRRULE:FREQ=WEEKLY;BYDAY=TU;COUNT=9\nEND:VEVENT\nBEGIN:VEVENT\nUID:2\nSUMMARY:Punt\n" +
				"DTSTART:20270107T090000\nDTEND:20270107T094500\nRRULE:FREQ=WEEKLY;COUNT=9",
			append(tuesday, ical.Weekly{ID: "Punt 4 09:00", Name: "Punt", Weekday: 4, Starts: "09:00", Minutes: 45}),
		},
	} {
		text := "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nBEGIN:VEVENT\nUID:1\nSUMMARY:Punt\n" + x.lines + "\nEND:VEVENT\nEND:VCALENDAR\n"
		got, err := ical.DaysOf(t.Context(), strings.ReplaceAll(text, "\n", "\r\n"), from, to, zone)
		require.NoError(t, err, name)
		require.Equal(t, x.want, got.Weekly, name)
		require.Equal(t, x.want == nil, got.Timed == 1, name)
		require.Empty(t, got.Days, name)
	}
}

// hostile are calendars that take everything from whoever takes them at their word.
func hostile() map[string]string {
	wrap := func(lines ...string) string {
		return "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n" + strings.Join(lines, "\r\n") + "\r\nEND:VCALENDAR\r\n"
	}
	event := func(n int, lines string) string {
		return fmt.Sprintf("BEGIN:VEVENT\r\nUID:%d\r\nSUMMARY:Day %d\r\n%s\r\nEND:VEVENT", n, n, lines)
	}
	many := func(n int, lines string) string {
		var all []string
		for i := range n {
			all = append(all, event(i, lines))
		}
		return wrap(all...)
	}
	const day = "DTSTART;VALUE=DATE:20270105\r\nRRULE:"
	return map[string]string{
		"hours":        wrap(event(1, day+"FREQ=HOURLY;INTERVAL=24;BYHOUR=5")),
		"seconds":      wrap(event(1, day+"FREQ=SECONDLY;BYSETPOS=366")),
		"Easter":       wrap(event(1, day+"FREQ=YEARLY;BYEASTER=500")),
		"never":        many(300, day+"FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31"),
		"counted":      many(100, "DTSTART;VALUE=DATE:20080105\r\nRRULE:FREQ=DAILY;COUNT=90000;BYMONTHDAY=31;BYMONTH=2"),
		"daily":        many(2000, day+"FREQ=DAILY"),
		"nested":       wrap(strings.Repeat("BEGIN:VEVENT\r\n", 10_000)),
		"too many":     many(5_001, "DTSTART;VALUE=DATE:20270105"),
		"empty lines":  wrap(strings.Repeat("\r\n", 300_000)),
		"a long name":  wrap(event(1, "X-A:"+strings.Repeat("a", 1_000_000)+"\r\nSUMMARY:"+strings.Repeat("b", 1_000_000)+"\r\n"+day+"FREQ=DAILY")),
		"a long id":    wrap("BEGIN:VEVENT\r\nUID:" + strings.Repeat("u", 1_000_000) + "\r\n" + day + "FREQ=DAILY\r\nEND:VEVENT"),
		"long lists":   wrap(event(1, day+"FREQ=YEARLY;BYYEARDAY="+strings.Repeat("1,", 30_000)+"1")),
		"exceptions":   wrap(event(1, "EXDATE:"+strings.Repeat("20270105,", 40_000)+"20270105\r\n"+day+"FREQ=DAILY")),
		"of long ago":  wrap(event(1, "DTSTART;VALUE=DATE:00010105\r\nRRULE:FREQ=DAILY")),
		"and far away": wrap(event(1, "DTSTART;VALUE=DATE:99991231\r\nRRULE:FREQ=YEARLY")),
	}
}

// quickly reads a calendar and bounds what that takes: time, what is found, and how long its
// names are. The time is some hundred times what it takes.
func quickly(t testing.TB, text string) ical.Read {
	begun := time.Now()
	got, err := ical.DaysOf(t.Context(), text, calendar.Date(2027, 1, 1), calendar.Date(2028, 2, 5), time.UTC)
	require.Less(t, time.Since(begun), time.Minute)
	var refused field.Errors
	if err != nil {
		require.ErrorAs(t, err, &refused)
	}
	require.LessOrEqual(t, len(got.Days)+len(got.Weekly), 360)
	for _, d := range got.Days {
		require.LessOrEqual(t, len(d.ID)+len(d.Name), 1000)
	}
	return got
}

// However a calendar is made, it is read soon and into little, and what is left out is counted.
func TestACalendarTakesLittle(t *testing.T) {
	for name, text := range hostile() {
		got := quickly(t, text)
		if name == "daily" {
			require.Equal(t, 2000*397, got.All)
			require.Len(t, got.Days, 300)
		}
	}
	got := quickly(t, hostile()["of long ago"])
	require.Equal(t, calendar.Date(2027, 1, 1), got.Days[0].From, "a daily one of long ago goes on")
	over, cancel := context.WithCancel(t.Context())
	cancel()
	_, err := ical.DaysOf(over, hostile()["daily"], 0, 1, time.UTC)
	require.ErrorIs(t, err, context.Canceled)
}

// FuzzDaysOf feeds it what anybody may send, by the clock.
func FuzzDaysOf(f *testing.F) {
	for _, text := range hostile() {
		if len(text) < 1000 {
			f.Add(text)
		}
	}
	f.Fuzz(func(t *testing.T, text string) { quickly(t, text) })
}
