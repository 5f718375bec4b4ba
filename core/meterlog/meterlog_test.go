package meterlog_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/meterlog"
)

func TestParse(t *testing.T) {
	zone := time.FixedZone("x", 3600)
	rows, problems := meterlog.Parse(strings.NewReader("\ufeffSeries, unit ,time,value\n north ec,µS/cm,2027-03-18 09:30,1710\nnorth ec,uS/cm,2027-03-18T08:45:00Z,\"1,7e3\"\nair,°F,2027-03-18 09:30,68\n"), zone)
	require.Empty(t, problems)
	require.Len(t, rows, 3)
	require.Equal(t, meterlog.Row{At: time.Date(2027, 3, 18, 8, 30, 0, 0, time.UTC), Series: "north ec", Value: 1.71, Unit: "mS/cm"}, rows[0])
	require.InDelta(t, 1.7, rows[1].Value, 1e-12)
	require.InDelta(t, 20, rows[2].Value, 1e-9)
}

func TestEveryProblemIsNamedByLineAndColumn(t *testing.T) {
	head := "time,series,value,unit\n"
	for body, want := range map[string]meterlog.Problem{
		"yesterday,a,6,pH":                                 {Line: 2, Column: "time", Message: "is not a time"},
		"2027-03-18 09:30,,6,pH":                           {Line: 2, Column: "series", Message: "takes a name"},
		"2027-03-18 09:30,a,six,pH":                        {Line: 2, Column: "value", Message: "not a number"},
		"2027-03-18 09:30,a,NaN,pH":                        {Line: 2, Column: "value", Message: "not a number"},
		"2027-03-18 09:30,a,6,furlong":                     {Line: 2, Column: "unit", Message: "is not known"},
		"2027-03-18 09:30,a,61,pH":                         {Line: 2, Column: "value", Message: "cannot be"},
		"2027-03-18 09:30,a,6,\"pH\"0":                     {Line: 2, Column: "", Message: "cannot be read"},
		"2027-03-18 09:30,a,6":                             {Line: 2, Column: "unit", Message: "is missing"},
		"2027-03-18 09:30,a,6,pH\n2027-03-18 09:30,a,7,pH": {Line: 3, Column: "time", Message: "another value"},
		"2027-03-18 09:30,a,6,pH\n2027-03-18 09:32,a,6,pH\n2027-03-18 09:31,a,6,pH\n2027-03-18 09:30,a,6,pH\n2027-03-18 09:31,a,7,pH": {Line: 6, Column: "time", Message: "another value"},
		"2027-03-18 09:30,a,6,pH\n2027-03-18 09:31,a,7,mS/cm":                                                                         {Line: 3, Column: "unit", Message: "further up"},
	} {
		rows, problems := meterlog.Parse(strings.NewReader(head+body), time.UTC)
		require.Empty(t, rows, body)
		require.Len(t, problems, 1, body)
		require.Equal(t, want.Line, problems[0].Line, body)
		require.Equal(t, want.Column, problems[0].Column, body)
		require.Contains(t, problems[0].Message, want.Message, body)
	}
	_, problems := meterlog.Parse(strings.NewReader("when,value\n"), time.UTC)
	require.Len(t, problems, 3)
}

func FuzzParse(f *testing.F) {
	f.Add("time,series,value,unit\n2027-03-18 09:30,a,6,pH\n")
	f.Add("unit,value,time,series\nµS/cm,\"1,7e3\",2027-03-18T09:30:00Z,a\n°F,1e999,2027-03-18 09:30,b\"\n")
	f.Fuzz(func(t *testing.T, s string) {
		rows, problems := meterlog.Parse(strings.NewReader(s), time.UTC)
		if (len(rows) == 0) == (len(problems) == 0) {
			t.Fatalf("%d rows and %d problems", len(rows), len(problems))
		}
		seen := map[meterlog.Row]bool{}
		for _, r := range rows {
			at := meterlog.Row{At: r.At, Series: r.Series}
			require.False(t, seen[at], "%v comes twice", r)
			require.False(t, r.Series == "" || r.Unit == "" || math.IsNaN(r.Value) || math.IsInf(r.Value, 0), "%v", r)
			seen[at] = true
		}
	})
}
