package meterlog_test

import (
	"io"
	"math"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/meterlog"
	"ulpa/core/say"
)

var years = meterlog.Bounds{Zone: time.UTC, From: time.Date(2015, 1, 1, 0, 0, 0, 0, time.UTC), To: time.Date(2030, 1, 1, 0, 0, 0, 0, time.UTC)}

func TestParse(t *testing.T) {
	b := years
	b.Zone = time.FixedZone("x", 3600)
	log, problems := meterlog.Parse(
		strings.NewReader(
			"\ufeffSeries, unit ,time,value\n north ec,µS/cm,2027-03-18 09:30,1710\nnorth ec,uS/cm,2027-03-18T08:45:00Z,\"1,7e3\"\nair,°F,2027-03-18 9:30,68\n",
		),
		b,
	)
	require.Empty(t, problems)
	require.Equal(t, 3, log.Readings)
	north, air := log.Series[0], log.Series[1]
	require.Equal(t, []string{"north ec", "mS/cm", "air", "°C"}, []string{north.Name, north.Unit, air.Name, air.Unit})
	require.Equal(t, time.Date(2027, 3, 18, 8, 30, 0, 0, time.UTC), north.From())
	require.InDeltaSlice(t, []float64{1.71, 1.7}, north.Values, 1e-12)
	require.InDelta(t, 20, air.Values[0], 1e-9)
}

// Whatever the order of the file, an hour that the clock shows twice is told apart by it,
// and one that it leaves out is named.
func TestClocksThatArePutBackAndForward(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	b := years
	b.Zone = zone
	want := []int64{}
	var lines []string
	for at := time.Date(2026, 10, 24, 22, 0, 0, 0, time.UTC); len(want) < 16; at = at.Add(20 * time.Minute) {
		want = append(want, at.UnixMicro())
		lines = append(lines, at.In(zone).Format("2006-01-02 15:04")+",a,6,pH")
	}
	for _, backwards := range []bool{false, true} {
		if backwards {
			slices.Reverse(lines)
		}
		log, problems := meterlog.Parse(strings.NewReader("time,series,value,unit\n"+strings.Join(lines, "\n")), b)
		require.Empty(t, problems)
		require.Equal(t, want, log.Series[0].At)
		require.Equal(t, 6, log.Twice)
	}
	_, problems := meterlog.Parse(strings.NewReader("time,series,value,unit\n2027-03-28 01:30,a,6,pH"), b)
	require.Contains(t, problems[0].Message.String(), "01:30 did not exist on that day")
}

func TestEveryProblemIsNamedByLineAndColumn(t *testing.T) {
	head := "time,series,value,unit\n"
	for body, want := range map[string]meterlog.Problem{
		"yesterday,a,6,pH":                                 {Line: 2, Column: "time", Message: say.Words("is not a time")},
		"2027-03-18 09:30,,6,pH":                           {Line: 2, Column: "series", Message: say.Words("must be a name")},
		"2027-03-18 09:30,a,six,pH":                        {Line: 2, Column: "value", Message: say.Words("not a number")},
		"2027-03-18 09:30,a,NaN,pH":                        {Line: 2, Column: "value", Message: say.Words("not a number")},
		"2027-03-18 09:30,a,6,furlong":                     {Line: 2, Column: "unit", Message: say.Words("is not a unit Ulpa knows")},
		"2027-03-18 09:30,a,61,pH":                         {Line: 2, Column: "value", Message: say.Words("cannot be")},
		"2027-03-18 09:30,a,6,\"pH\"0":                     {Line: 2, Column: "", Message: say.Words("cannot be read")},
		"2047-03-18 09:30,a,6,pH":                          {Line: 2, Column: "time", Message: say.Words("must be times from 1 Jan 2015 to 1 Jan 2030")},
		"2027-03-18 09:30,\xe9\xff,6,pH":                   {Line: 2, Column: "series", Message: say.Words("not written in UTF-8")},
		"2027-03-18 09:30,a\x00,6,pH":                      {Line: 2, Column: "series", Message: say.Words("not written in UTF-8")},
		"2027-03-18 09:30,a,6":                             {Line: 2, Column: "unit", Message: say.Words("is missing")},
		"2027-03-18 09:30,a,6,pH\n2027-03-18 09:30,a,7,pH": {Line: 3, Column: "time", Message: say.Words("another value")},
		"2027-03-18 09:30,a,6,pH\n2027-03-18 09:32,a,6,pH\n2027-03-18 09:31,a,6,pH\n2027-03-18 09:30,a,6,pH\n2027-03-18 09:31,a,7,pH": {
			Line:   6,
			Column: "time", Message: say.Words("another value"),
		},
		"2027-03-18 09:30,a,6,pH\n2027-03-18 09:31,a,7,mS/cm": {
			Line:   3,
			Column: "unit", Message: say.Words("further up"),
		},
	} {
		rows, problems := meterlog.Parse(strings.NewReader(head+body), years)
		require.Zero(t, rows.Readings, body)
		require.Len(t, problems, 1, body)
		require.Equal(t, want.Line, problems[0].Line, body)
		require.Equal(t, want.Column, problems[0].Column, body)
		require.Contains(t, problems[0].Message.String(), want.Message.String(), body)
	}
	_, problems := meterlog.Parse(strings.NewReader("when,value\n"), years)
	require.Len(t, problems, 3)
}

func FuzzParse(f *testing.F) {
	f.Add("time,series,value,unit\n2027-03-18 09:30,a,6,pH\n")
	f.Add("unit,value,time,series\nµS/cm,\"1,7e3\",2027-03-18T09:30:00Z,a\n°F,1e999,2027-03-18 09:30,b\"\n")
	f.Fuzz(func(t *testing.T, s string) {
		log, problems := meterlog.Parse(strings.NewReader(s), years)
		if (log.Readings == 0) == (len(problems) == 0) {
			t.Fatalf("%d readings and %d problems", log.Readings, len(problems))
		}
		n := 0
		for _, x := range log.Series {
			n += len(x.At)
			require.False(t, x.Name == "" || x.Unit == "" || len(x.At) != len(x.Values), "%v", x)
			for i, at := range x.At {
				require.True(t, i == 0 || x.At[i-1] < at, "%v comes twice", at)
				require.False(t, math.IsNaN(x.Values[i]) || math.IsInf(x.Values[i], 0), "%v", x.Values[i])
			}
		}
		require.Equal(t, log.Readings, n)
	})
}

// rows makes a file of so many rows as it is asked for.
type rows struct {
	line    func(n int) string
	n, most int
	left    []byte
}

func (r *rows) Read(p []byte) (int, error) {
	for len(r.left) == 0 {
		if r.n > r.most {
			return 0, io.EOF
		}
		r.left = []byte(r.line(r.n))
		r.n++
	}
	n := copy(p, r.left)
	r.left = r.left[n:]
	return n, nil
}

// However a large file is made, reading it takes little memory at any time: a fifth of the
// longest file a fifth of what that may take, and what is given up no more.
func TestALargeFileTakesLittleMemory(t *testing.T) {
	at := func(n int) string { return years.From.Add(time.Duration(n) * time.Minute).Format("2006-01-02 15:04") }
	for name, x := range map[string]struct {
		line func(n int) string
		fine bool
	}{
		"a million rows":      {func(n int) string { return at(n) + ",Vat,6.1,pH\n" }, true},
		"each a series":       {func(n int) string { return at(n) + ",Vat " + strconv.Itoa(n) + ",6.1,pH\n" }, false},
		"one line":            {func(int) string { return strings.Repeat("x,", 30) }, false},
		"a mark never closed": {func(n int) string { return at(n) + ",\"Vat,6.1,pH\n" + strings.Repeat("x\n", 30) }, false},
		"each wrong":          {func(int) string { return "soon,Vat,warm,pH\n" }, false},
	} {
		file := io.MultiReader(strings.NewReader("time,series,value,unit\n"), &rows{line: x.line, n: 1, most: meterlog.MaxRows / 5})
		if name == "one line" || name == "a mark never closed" {
			file = &rows{line: x.line, n: 1, most: meterlog.MaxRows / 5}
		}
		most, stop := watched()
		log, problems := meterlog.Parse(file, years)
		stop()
		require.Equal(t, x.fine, len(problems) == 0, name)
		require.Less(t, <-most>>20, uint64(100/5), name)
		runtime.KeepAlive(log)
	}
}

// watched looks at how much of the heap is in use until stop, and gives the most.
func watched() (most <-chan uint64, stop func()) {
	out, over := make(chan uint64, 1), make(chan struct{})
	runtime.GC()
	go func() {
		var m runtime.MemStats
		peak := uint64(0)
		for again := time.NewTicker(5 * time.Millisecond); ; {
			runtime.ReadMemStats(&m)
			peak = max(peak, m.HeapInuse)
			select {
			case <-over:
				again.Stop()
				out <- peak
				return
			case <-again.C:
			}
		}
	}()
	return out, sync.OnceFunc(func() { close(over) })
}
