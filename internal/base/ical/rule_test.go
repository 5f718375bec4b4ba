package ical

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/teambition/rrule-go"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
)

// drawRule makes a rule as a calendar might export it; often the odd ones.
func drawRule(t *rapid.T) string {
	list := func(name string, low, high int) string {
		var out []string
		for _, n := range rapid.SliceOfNDistinct(rapid.IntRange(low, high).Filter(func(n int) bool { return n != 0 }), 1, 3, rapid.ID).Draw(t, name) {
			out = append(out, fmt.Sprint(n))
		}
		return ";" + name + "=" + strings.Join(out, ",")
	}
	maybe := func(name string) bool { return rapid.IntRange(0, 3).Draw(t, name+"?") == 0 }
	period := rapid.SampledFrom([]string{"DAILY", "WEEKLY", "MONTHLY", "YEARLY"}).Draw(t, "period")
	out := "FREQ=" + period
	if maybe("INTERVAL") {
		out += fmt.Sprintf(";INTERVAL=%d", rapid.IntRange(1, 5).Draw(t, "every"))
	}
	if maybe("BYMONTH") {
		out += list("BYMONTH", 1, 12)
	}
	if period != "WEEKLY" && maybe("BYMONTHDAY") {
		out += list("BYMONTHDAY", -31, 31)
	}
	if period == "YEARLY" && maybe("BYYEARDAY") {
		out += list("BYYEARDAY", -366, 366)
	}
	if period == "YEARLY" && maybe("BYWEEKNO") {
		out += list("BYWEEKNO", 2, 50) // on the weeks between two years the library differs from the standard
	}
	if maybe("BYDAY") {
		var days []string
		nth := (period == "MONTHLY" || period == "YEARLY" && !strings.Contains(out, "BYWEEKNO")) && maybe("nth") // all or none: the library mixes them up
		for _, d := range rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"MO", "TU", "WE", "TH", "FR", "SA", "SU"}), 1, 3, rapid.ID).Draw(t, "days") {
			if nth {
				d = fmt.Sprint(rapid.SampledFrom([]int{-2, -1, 1, 2, 3}).Draw(t, "n")) + d
			}
			days = append(days, d)
		}
		out += ";BYDAY=" + strings.Join(days, ",")
	}
	if (period == "MONTHLY" || period == "YEARLY") && strings.Contains(out, "BY") && maybe("BYSETPOS") {
		out += list("BYSETPOS", -3, 3)
	}
	if maybe("COUNT") {
		out += fmt.Sprintf(";COUNT=%d", rapid.IntRange(1, 40).Draw(t, "times"))
	}
	return out
}

// On the rules that a library of long standing understands, our days are its days.
func TestDaysOfARuleAreThoseOfALibrary(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := drawRule(t)
		first := calendar.Date(2024, 1, 1) + calendar.Day(rapid.IntRange(0, 1500).Draw(t, "first"))
		from := first + calendar.Day(rapid.IntRange(-30, 500).Draw(t, "from"))
		to := from + 380
		option, err := rrule.StrToROption(text)
		require.NoError(t, err, text)
		option.Dtstart = first.UTC()
		option.Until = to.UTC() // so that the library ends soon
		its, err := rrule.NewRRule(*option)
		require.NoError(t, err, text)
		endless, _ := readRule(text)
		endless.count = 0
		if ever, ok := endless.from(first, first, first+40*366); !ok || len(ever) == 0 {
			t.Skip("the library looks for it until the year 9999")
		}
		var want []calendar.Day
		for _, at := range its.Between(from.UTC(), to.UTC(), true) {
			want = append(want, calendar.Of(at))
		}
		r, ok := readRule(text)
		require.True(t, ok, text)
		got, ok := r.from(first, from, to)
		require.True(t, ok, text)
		require.Equal(t, want, got, "%s from %s, asked from %s", text, first, from)
	})
}

// What is no rule of days, or names what cannot be, is not understood.
func TestRulesThatAreNotUnderstood(t *testing.T) {
	for _, text := range []string{
		"", "FREQ=", "FREQ=SOMETIMES", "FREQ=HOURLY;INTERVAL=24;BYHOUR=5", "FREQ=MINUTELY", "FREQ=SECONDLY", "FREQ=YEARLY;BYEASTER=500", "INTERVAL=2",
		"FREQ=DAILY;INTERVAL=0", "FREQ=DAILY;INTERVAL=-1", "FREQ=DAILY;COUNT=0", "FREQ=DAILY;UNTIL=soon", "FREQ=YEARLY;BYMONTH=13", "FREQ=YEARLY;BYMONTH=0",
		"FREQ=MONTHLY;BYDAY=XX", "FREQ=MONTHLY;BYDAY=99MO", "FREQ=DAILY;BYSETPOS=367", "FREQ=MONTHLY;BYMONTHDAY=32",
		"FREQ=DAILY;BYMONTH=" + strings.Repeat("1,", 500) + "1",
	} {
		_, ok := readRule(text)
		require.False(t, ok, text)
	}
	r, ok := readRule("FREQ=DAILY;COUNT=99999")
	require.True(t, ok)
	_, ok = r.from(calendar.Date(1900, 1, 1), calendar.Date(2027, 1, 1), calendar.Date(2028, 1, 1))
	require.False(t, ok, "it would be followed for more than a century")
}
