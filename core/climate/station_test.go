package climate_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/field"
)

// One and the same three nights, as files have them.
func TestStationsFilesAreRead(t *testing.T) {
	want := []climate.Minimum{{Day: calendar.Date(2026, 4, 13), C: -1.5}, {Day: calendar.Date(2026, 4, 14), C: 0}, {Day: calendar.Date(2026, 4, 16), C: 3.2}}
	for name, c := range map[string]struct{ file, unit string }{
		"plain":         {"date,tmin\n2026-04-13,-1.5\n2026-04-14,0\n2026-04-16,3.2\n", climate.Celsius},
		"mark and CRLF": {"\ufeffDATE,TMAX,TMIN\r\n2026-04-13,9,-1.5\r\n2026-04-14,8,0\r\n2026-04-16,7,3.2\r\n", climate.Celsius},
		"semicolons":    {"Datum;Wind;TN\n13.04.2026;4;-1,5\n14.04.2026;4;0,0\n16.04.2026;4;3,2\n", climate.Celsius},
		"tabs, missing": {"day\tmin\n20260413\t-1.5\n20260414\t0\n20260415\t-9999\n20260416\t3.2\n", climate.Celsius},
		"comments":      {"# a station\n# by a river, far away\nday,min\n2026-04-13,-1.5\n2026-04-14,0\n2026-04-16,3.2\n", climate.Celsius},
		"out of order":  {"day,min\n2026-04-16,3.2\n2026-04-13,−1.5\n2026-04-14,0\n", climate.Celsius},
		"with times":    {"time,min\n2026-04-13T00:00,-1.5\n2026-04-14T00:00,0\n2026-04-16T00:00,3.2\n", climate.Celsius},
		"slashes":       {"date,low\n04/13/2026,-1.5\n04/14/2026,0\n04/16/2026,3.2\n", climate.Celsius},
		"three columns": {"year,month,day,tmin\n2026,4,13,-1.5\n2026,4,14,0\n2026,4,16,3.2\n", climate.Celsius},
		"fahrenheit":    {"date,tmin\n2026-04-13,29.3\n2026-04-14,32\n2026-04-16,37.76\n", climate.Fahrenheit},
	} {
		table, err := climate.ReadTable(c.file)
		require.NoError(t, err, name)
		day, low, _ := table.Guess()
		got, err := table.Nights(day, low, c.unit)
		require.NoError(t, err, name)
		require.Len(t, got, len(want), name)
		for i, n := range got {
			require.Equal(t, want[i].Day, n.Day, name)
			require.InDelta(t, want[i].C, n.C, 1e-9, name)
		}
	}
	var tenths strings.Builder
	tenths.WriteString("date,tmin\n")
	for d := range 40 {
		fmt.Fprintf(&tenths, "%s,%d\n", calendar.Date(2026, 1, 1)+calendar.Day(d), 150-10*d)
	}
	table, err := climate.ReadTable(tenths.String())
	require.NoError(t, err)
	_, _, unit := table.Guess()
	require.Equal(t, climate.TenthCelsius, unit)

	// What cannot be read is refused by its line, and nothing of it is kept.
	for file, at := range map[string]string{
		"date,tmin\n2026-04-13,-1.5\nyesterday,2\n":     "day",
		"date,tmin\n2026-04-13,-1.5\n2026-04-14,cold\n": "low",
		"date,tmin\n2026-04-13,-1.5\n2026-04-13,2\n":    "day",
		"date,tmin\n2026-04-13,-150\n2026-04-14,-1\n":   "unit",
		"date,tmin\n2026-04-13,\n2026-04-14,NA\n":       "low",
	} {
		table, err := climate.ReadTable(file)
		require.NoError(t, err)
		_, err = table.Nights(0, 1, climate.Celsius)
		var wrong field.Errors
		require.ErrorAs(t, err, &wrong, file)
		require.Equal(t, at, wrong[0].Field, file)
	}
	for _, file := range []string{"", "hello", "a\nb\nc\n"} {
		_, err := climate.ReadTable(file)
		require.Error(t, err, file)
	}
}
