// Package meterlog reads the file that a meter or a logger wrote: a line a
// reading, with its time, the name of its series, the value and its unit.
//
//	log, problems := meterlog.Parse(file, meterlog.Bounds{Zone: zone, From: from, To: to})
package meterlog

import (
	"encoding/csv"
	"errors"
	"io"
	"slices"
	"sort"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"ulpa/core/say"
	"ulpa/core/unit"
)

// Log is a whole file, in the units the program keeps. It takes twenty bytes a reading.
type Log struct {
	Series   []*Series // in the order they first appear
	Readings int
	Twice    int // readings of an hour that the clock shows twice, told apart by their order
}

// Series is what one meter wrote: times in microseconds since 1970, UTC, rising.
type Series struct {
	Name, Unit string // pH, mS/cm, °C, L, cm, %
	At         []int64
	Values     []float64

	lines  []int32 // where each reading stands
	rises  bool    // no time so far was before the one above it
	falls  bool    // the newest stands first
	latest int64   // as it stands last
}

// From and To are its first and last times.
func (s *Series) From() time.Time { return time.UnixMicro(s.At[0]).UTC() }

// To is its last time.
func (s *Series) To() time.Time { return time.UnixMicro(s.At[len(s.At)-1]).UTC() }

// Problem is what is wrong with one field of the file.
type Problem struct {
	Line    int // as an editor counts, from 1
	Column  string
	Message say.Text
}

// Bounds are how a file is read: in whose time, and between which times its readings lie.
type Bounds struct {
	Zone     *time.Location
	From, To time.Time
}

// MaxRows is the longest file that is taken in one go.
const MaxRows = 1_000_000

const (
	maxProblems = 200
	maxSeries   = 400     // a logger has some dozens
	maxRecord   = 1 << 16 // bytes of a line, or of what stands in quotation marks over several
)

// errLong is a record that would have to be held whole and is too long for that.
var errLong = errors.New("a line, or a quotation mark that is not closed, is longer than 65536 bytes")

// records passes a file on and ends where a record becomes too long.
type records struct {
	from   io.Reader
	length int
	quoted bool
}

func (r *records) Read(p []byte) (int, error) {
	n, err := r.from.Read(p)
	for _, b := range p[:n] {
		switch b {
		case '"':
			r.quoted = !r.quoted
		case '\n':
			if !r.quoted {
				r.length = -1
			}
		}
		if r.length++; r.length > maxRecord {
			return 0, errLong
		}
	}
	return n, err
}

var columns = [4]string{"time", "series", "value", "unit"}

// Parse reads a whole file. With any problem there are no readings: it is all or
// nothing. Times are RFC 3339, or 2027-03-18 09:30 in the school's zone; where the clock
// shows an hour twice, the order of the file tells which it is.
func Parse(r io.Reader, b Bounds) (Log, []Problem) {
	c := csv.NewReader(&records{from: r})
	c.FieldsPerRecord = -1
	c.ReuseRecord = true
	head, err := c.Read()
	if errors.Is(err, io.EOF) {
		return Log{}, []Problem{{1, "", say.T("the file is empty; the first line names the columns: time, series, value, unit")}}
	}
	if err != nil {
		return Log{}, []Problem{{1, "", say.T("cannot be read: %s", err)}}
	}
	at, problems := readHead(head)
	if problems != nil {
		return Log{}, problems
	}
	p := parser{Bounds: b, at: at, series: map[string]*Series{}}
	for len(p.problems) < maxProblems {
		rec, err := c.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var bad *csv.ParseError
		if errors.As(err, &bad) {
			p.add(bad.Line, "", "cannot be read: %s", bad.Err)
			break
		}
		if err != nil {
			p.add(p.log.Readings+2, "", "cannot be read: %s", err)
			break
		}
		line, _ := c.FieldPos(0)
		if p.log.Readings >= MaxRows {
			p.add(line, "", "the file has more than a million readings; split it")
			break
		}
		p.row(line, rec)
	}
	p.settle()
	if len(p.problems) > 0 {
		return Log{}, p.problems
	}
	if p.log.Readings == 0 {
		return Log{}, []Problem{{2, "", say.T("there is no reading under the column names")}}
	}
	return p.log, nil
}

func readHead(head []string) (at [4]int, problems []Problem) {
	for i, want := range columns {
		at[i] = -1
		for j, got := range head {
			if strings.EqualFold(strings.Trim(got, " \ufeff"), want) {
				at[i] = j
			}
		}
		if at[i] < 0 {
			problems = append(problems, Problem{1, want, say.T("this column is missing; the first line names time, series, value, unit")})
		}
	}
	return at, problems
}

type parser struct {
	Bounds
	at       [4]int
	log      Log
	problems []Problem
	series   map[string]*Series
	layout   int // of layouts, by which the last time was read
}

func (p *parser) add(line int, column string, w say.Words, args ...any) {
	p.problems = append(p.problems, Problem{line, column, say.T(w, args...)})
}

func (p *parser) row(line int, rec []string) {
	var f [4]string
	for i, j := range p.at {
		if j >= len(rec) {
			p.add(line, columns[i], "is missing on this line")
			return
		}
		if f[i] = strings.TrimSpace(rec[j]); !utf8.ValidString(f[i]) || strings.ContainsRune(f[i], 0) {
			p.add(line, columns[i], "is not written in UTF-8; save the file as UTF-8 and choose it again")
			return
		}
	}
	before := len(p.problems)
	name := f[1]
	if name == "" || len(name) > 80 || strings.ContainsFunc(name, unicode.IsControl) {
		p.add(line, "series", "must be a name of 1 to 80 letters")
	}
	value, err := unit.Read(f[2])
	if err != nil {
		p.add(line, "value", "%s", say.Why(err))
	}
	in, value, ok := canonical(f[3], value)
	if !ok {
		p.add(line, "unit", "%q is not a unit Ulpa knows; use pH, mS/cm, µS/cm, ppm500, ppm700, °C, °F, L, gal, cm, in or %%", f[3])
	}
	of := p.series[name]
	when, err := p.time(f[0], of)
	if err != nil {
		p.add(line, "time", "%s", say.Why(err))
	}
	if len(p.problems) > before {
		return
	}
	if low, high := bounds(in); value < low || value > high {
		p.add(line, "value", "%.4g %s cannot be; it takes %.4g to %.4g", value, in, low, high)
		return
	}
	if of == nil {
		of = &Series{Name: strings.Clone(name), Unit: in, rises: true, falls: true}
		p.series[of.Name], p.log.Series = of, append(p.log.Series, of)
		if len(p.series) > maxSeries {
			p.add(line, "series", "makes more than %d series in one file; check that this column holds the series’ names", maxSeries)
			return
		}
	} else if of.Unit != in {
		p.add(line, "unit", "is %s here and %s further up, in the same series", in, of.Unit)
		return
	}
	of.put(when.UnixMicro(), value, line)
	p.log.Readings++
}

func (s *Series) put(at int64, value float64, line int) {
	if len(s.At) > 0 {
		s.rises, s.falls = s.rises && at >= s.latest, s.falls && at <= s.latest
	}
	s.latest = at
	s.At, s.Values, s.lines = append(s.At, at), append(s.Values, value), append(s.lines, int32(line)) // #nosec G115 -- a file has few lines
}

// settle brings every series into the order of time, with each reading once.
func (p *parser) settle() {
	for _, s := range p.log.Series {
		if !s.rises {
			sort.Stable(s)
		}
		n := 0
		for i, at := range s.At {
			if n > 0 && s.At[n-1] == at {
				if s.Values[n-1] != s.Values[i] {
					p.add(int(max(s.lines[i], s.lines[n-1])), "time", "the same series has another value at this time further up")
				}
				p.log.Readings--
				continue
			}
			s.At[n], s.Values[n], s.lines[n] = at, s.Values[i], s.lines[i]
			n++
		}
		s.At, s.Values, s.lines = s.At[:n], s.Values[:n], nil
	}
	slices.SortStableFunc(p.problems, func(a, b Problem) int { return a.Line - b.Line })
	p.problems = p.problems[:min(len(p.problems), maxProblems)]
}

// Len is how many readings there are. With Less and Swap it lets sort put a series in the order of time.
func (s *Series) Len() int { return len(s.At) }

// Less tells whether reading i was made before reading j.
func (s *Series) Less(i, j int) bool { return s.At[i] < s.At[j] }

// Swap lets two readings change places, with their lines in the file.
func (s *Series) Swap(i, j int) {
	s.At[i], s.At[j] = s.At[j], s.At[i]
	s.Values[i], s.Values[j] = s.Values[j], s.Values[i]
	s.lines[i], s.lines[j] = s.lines[j], s.lines[i]
}

// layouts are how a time is written; all but the first in the school's zone.
var layouts = [...]string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02 15:04", "2006-01-02T15:04:05", "2006-01-02T15:04"}

// time reads one; of is its series so far, or nil.
func (p *parser) time(text string, of *Series) (time.Time, error) {
	t, err := time.Parse(layouts[p.layout], text) // as the line before, mostly: what fails costs memory
	for i := 0; err != nil && i < len(layouts); i++ {
		if t, err = time.Parse(layouts[i], text); err == nil {
			p.layout = i
		}
	}
	if err != nil {
		return t, say.Wrong("%q is not a time like 2027-03-18 09:30 or 2027-03-18T09:30:00Z", text)
	}
	if p.layout > 0 {
		read := t
		t = time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), t.Second(), t.Nanosecond(), p.Zone)
		if !p.wall(t).Equal(read) {
			return t, say.Wrong("%s did not exist on that day: the clocks went forward", read.Format("15:04"))
		}
		t = p.which(t, of)
	}
	if t = t.UTC().Truncate(time.Microsecond); t.Before(p.From) || t.After(p.To) {
		return t, say.Wrong("must be times from %s to %s", say.Date(p.From.In(p.Zone), "2 Jan 2006"), say.Date(p.To.In(p.Zone), "2 Jan 2006"))
	}
	return t, nil
}

// wall is what the clock shows, as if it were UTC.
func (p *parser) wall(t time.Time) time.Time {
	_, offset := t.In(p.Zone).Zone()
	return t.Add(time.Duration(offset) * time.Second).UTC()
}

// which is the earlier or the later of an hour that the clock shows twice, by the order
// in which the series stands in the file.
func (p *parser) which(t time.Time, of *Series) time.Time {
	early, late := t, t
	for _, by := range []time.Duration{30 * time.Minute, time.Hour, 2 * time.Hour} { // clocks are put back by so much
		if x := t.Add(by); p.wall(x).Equal(p.wall(t)) {
			late = x
		}
		if x := t.Add(-by); p.wall(x).Equal(p.wall(t)) {
			early = x
		}
	}
	if early.Equal(late) {
		return t
	}
	p.log.Twice++
	if of != nil && of.falls && !of.rises {
		if late.UnixMicro() < of.latest {
			return late
		}
		return early
	}
	if of != nil && early.UnixMicro() <= of.latest {
		return late
	}
	return early
}

// canonical brings a value to the unit the program keeps.
func canonical(u string, v float64) (string, float64, bool) {
	us := unit.Prefs{US: true}
	switch strings.ToLower(strings.ReplaceAll(u, " ", "")) {
	case "ph":
		return "pH", v, true
	case "ms/cm":
		return unit.MS, v, true
	case "µs/cm", "μs/cm", "us/cm":
		return unit.MS, v / 1000, true
	case "ppm500":
		return unit.MS, v / 500, true
	case "ppm700":
		return unit.MS, v / 700, true
	case "°c", "c", "degc":
		return unit.Celsius, v, true
	case "°f", "f", "degf":
		return unit.Celsius, us.In(v, unit.Celsius), true
	case "l":
		return unit.Litre, v, true
	case "gal":
		return unit.Litre, us.In(v, unit.Litre), true
	case "cm":
		return unit.Centimetre, v, true
	case "in":
		return unit.Centimetre, us.In(v, unit.Centimetre), true
	case "%":
		return "%", v, true
	}
	return u, v, false
}

func bounds(u string) (low, high float64) {
	switch u {
	case "pH":
		return 0, 14
	case unit.MS:
		return 0, 20
	case unit.Celsius:
		return -50, 80
	case "%":
		return 0, 100
	}
	return 0, 1e6
}
