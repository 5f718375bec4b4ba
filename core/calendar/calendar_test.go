package calendar_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
)

func TestDaysAsPeopleSayThem(t *testing.T) {
	d := calendar.Date(2027, 3, 18)
	require.Equal(t, "2027-03-18", d.String())
	require.Equal(t, "Thu 18 March", d.Long().String())
	require.Equal(t, "Thu 18 Mar", d.Short().String())
	require.Equal(t, time.Thursday, d.Weekday())
	require.Equal(t, calendar.Date(2027, 3, 1), calendar.Date(2027, 2, 29), "29 February of a common year is 1 March")
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	require.Equal(t, d, calendar.Of(time.Date(2027, 3, 18, 0, 30, 0, 0, zone)))
	require.Equal(t, "2027-03-28T01:00:00Z", calendar.Date(2027, 3, 28).At(2, 0, zone).UTC().Format(time.RFC3339), "the day the clocks change")
}

func TestJSON(t *testing.T) {
	b, err := json.Marshal(calendar.Date(2027, 3, 18))
	require.NoError(t, err)
	require.Equal(t, `"2027-03-18"`, string(b))
	var d calendar.Day
	require.NoError(t, json.Unmarshal(b, &d))
	require.Equal(t, calendar.Date(2027, 3, 18), d)
	for _, bad := range []string{`"2027-02-30"`, `"18 March"`, `5`, `""`} {
		require.Error(t, json.Unmarshal([]byte(bad), &d), bad)
	}
}

var school = calendar.School{Closures: []calendar.Closure{
	{From: calendar.Date(2027, 3, 22), To: calendar.Date(2027, 3, 22)},
	{From: calendar.Date(2027, 3, 29), To: calendar.Date(2027, 4, 9)},
}}

func TestOpenDays(t *testing.T) {
	for day, open := range map[calendar.Day]bool{
		calendar.Date(2027, 3, 19): true, calendar.Date(2027, 3, 20): false, calendar.Date(2027, 3, 21): false, calendar.Date(2027, 3, 22): false,
		calendar.Date(2027, 3, 23): true, calendar.Date(2027, 3, 29): false, calendar.Date(2027, 4, 9): false, calendar.Date(2027, 4, 12): true,
	} {
		require.Equal(t, open, school.Open(day), day.Long())
	}
	require.Equal(t, calendar.Date(2027, 3, 23), school.NextOpen(calendar.Date(2027, 3, 19)))
	require.Equal(t, calendar.Date(2027, 4, 12), school.NextOpen(calendar.Date(2027, 3, 26)))
	closed := calendar.School{Closures: []calendar.Closure{{From: 0, To: 1e6}}}
	require.False(t, closed.Open(closed.NextOpen(calendar.Date(2027, 1, 1))), "a school that never opens is not looked for forever")
}

func TestParseIsTheInverseOfString(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := calendar.Day(rapid.IntRange(-100000, 100000).Draw(t, "day"))
		back, err := calendar.ParseDay(d.String())
		require.NoError(t, err)
		require.Equal(t, d, back)
		require.Equal(t, (int(d.Weekday())+1)%7, int((d + 1).Weekday()))
	})
}

// A day's minutes are those that were said of it, else its periods', else the usual ones on
// every day on which somebody is there; who has periods on a Saturday is there then.
func TestMinutesOfADay(t *testing.T) {
	monday := calendar.Date(2027, 3, 15)
	closed := calendar.Closure{From: monday + 7, To: monday + 11}
	plain := calendar.School{Closures: []calendar.Closure{closed}}
	weeks := plain
	weeks.Periods = []calendar.Period{{Weekday: 2, Minutes: 45, Whom: "Punt"}, {Weekday: 2, Minutes: 30, Whom: "Dory"}, {Weekday: 6, Minutes: 60}}
	weeks.Specials = []calendar.Special{
		{Closure: calendar.Closure{From: monday + 8, To: monday + 8}, Minutes: 20}, {Closure: calendar.Closure{From: monday + 15, To: monday + 15}},
	}
	weeks.Terms = []calendar.Closure{{From: monday, To: monday + 11, Name: "Spring term"}}
	for i, want := range []struct {
		day          calendar.Day
		plain, weeks int
		open         bool
	}{
		{monday, 40, 0, true},
		{monday + 1, 40, 75, true},
		{monday + 5, 0, 60, true},
		{monday + 6, 0, 0, false},
		{monday + 7, 0, 0, false},
		{monday + 8, 0, 20, true},
		{monday + 15, 40, 0, true},
	} {
		require.Equal(t, want.plain, plain.Minutes(want.day, 40), i)
		require.Equal(t, want.weeks, weeks.Minutes(want.day, 40), i)
		require.Equal(t, want.open, weeks.Open(want.day), i)
	}
	require.Equal(t, "Punt, Dory", weeks.Whom(monday+1))
	require.Equal(t, "Spring term", weeks.Term(monday))
	require.Empty(t, weeks.Term(monday+12))
}
