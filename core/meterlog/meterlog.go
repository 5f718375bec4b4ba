// Package meterlog reads the file that a meter or a logger wrote: a line a
// reading, with its time, the name of its series, the value and its unit.
package meterlog

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"strings"
	"time"

	"ulpa/core/unit"
)

// Row is one reading, in the unit the program keeps.
type Row struct {
	At     time.Time
	Series string
	Value  float64
	Unit   string // pH, mS/cm, °C, L, cm, %
}

// Problem is what is wrong with one field of the file.
type Problem struct {
	Line    int // as an editor counts, from 1
	Column  string
	Message string
}

// MaxRows is the longest file that is taken in one go.
const MaxRows = 1_000_000

const maxProblems = 200

var columns = [4]string{"time", "series", "value", "unit"}

// Parse reads a whole file. With any problem there are no rows: it is all or
// nothing. Times are RFC 3339, or 2027-03-18 09:30 in the school's zone.
func Parse(r io.Reader, zone *time.Location) ([]Row, []Problem) {
	c := csv.NewReader(r)
	c.FieldsPerRecord = -1
	c.ReuseRecord = true
	head, err := c.Read()
	if err != nil {
		return nil, []Problem{{1, "", "the file is empty; the first line names the columns: time, series, value, unit"}}
	}
	at, problems := readHead(head)
	if problems != nil {
		return nil, problems
	}
	p := parser{zone: zone, at: at, series: map[string]*series{}}
	if r, ok := r.(interface{ Len() int }); ok { // a line takes thirty letters or more
		p.rows = make([]Row, 0, min(r.Len()/30, MaxRows))
	}
	for len(p.problems) < maxProblems {
		rec, err := c.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var bad *csv.ParseError
		if errors.As(err, &bad) {
			p.add(bad.Line, "", "cannot be read: "+bad.Err.Error())
			break
		}
		if err != nil {
			p.add(len(p.rows)+2, "", "cannot be read: "+err.Error())
			break
		}
		line, _ := c.FieldPos(0)
		if len(p.rows) >= MaxRows {
			p.add(line, "", "the file has more than a million readings; split it")
			break
		}
		p.row(line, rec)
	}
	if len(p.problems) > 0 {
		return nil, p.problems
	}
	if len(p.rows) == 0 {
		return nil, []Problem{{2, "", "there is no reading under the column names"}}
	}
	return p.rows, nil
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
			problems = append(problems, Problem{1, want, "this column is missing; the first line names time, series, value, unit"})
		}
	}
	return at, problems
}

type parser struct {
	zone     *time.Location
	at       [4]int
	rows     []Row
	problems []Problem
	series   map[string]*series
}

// series is what the file has said of one so far: its unit, its latest time in
// microseconds and, once a time has not been later than the one before, which row
// has the reading of a time.
type series struct {
	name, unit string
	latest     int64
	rows       map[int64]int
}

// find is the row that has a series' reading of a time already.
func (p *parser) find(of *series, at int64) (row int, found bool) {
	if of.rows == nil && at > of.latest {
		return 0, false
	}
	if of.rows == nil {
		of.rows = map[int64]int{}
		for i, r := range p.rows {
			if r.Series == of.name {
				of.rows[r.At.UnixMicro()] = i
			}
		}
	}
	row, found = of.rows[at]
	return row, found
}

func (p *parser) add(line int, column, message string) {
	p.problems = append(p.problems, Problem{line, column, message})
}

func (p *parser) row(line int, rec []string) {
	var f [4]string
	for i, j := range p.at {
		if j >= len(rec) {
			p.add(line, columns[i], "is missing on this line")
			return
		}
		f[i] = strings.TrimSpace(rec[j])
	}
	before := len(p.problems)
	when, err := parseTime(f[0], p.zone)
	if err != nil {
		p.add(line, "time", err.Error())
	}
	if f[1] == "" || len(f[1]) > 80 {
		p.add(line, "series", "takes a name of 1 to 80 letters")
	}
	value, err := unit.Read(f[2])
	if err != nil {
		p.add(line, "value", err.Error())
	}
	name, value, ok := canonical(f[3], value)
	if !ok {
		p.add(line, "unit", fmt.Sprintf("%q is not known; it takes pH, mS/cm, µS/cm, ppm500, ppm700, °C, °F, L, gal, cm, in or %%", f[3]))
	}
	if len(p.problems) > before {
		return
	}
	if low, high := bounds(name); value < low || value > high {
		p.add(line, "value", fmt.Sprintf("%.4g %s cannot be; it takes %.4g to %.4g", value, name, low, high))
		return
	}
	of, ok := p.series[f[1]]
	if !ok {
		of = &series{name: strings.Clone(f[1]), unit: name, latest: math.MinInt64}
		p.series[of.name] = of
	} else if of.unit != name {
		p.add(line, "unit", fmt.Sprintf("is %s here and %s further up, in the same series", name, of.unit))
		return
	}
	stamp := when.UnixMicro()
	if first, twice := p.find(of, stamp); twice {
		if p.rows[first].Value != value {
			p.add(line, "time", "the same series has another value at this time further up")
		}
		return
	}
	of.latest = max(of.latest, stamp)
	if of.rows != nil {
		of.rows[stamp] = len(p.rows)
	}
	p.rows = append(p.rows, Row{when, of.name, value, name})
}

func parseTime(s string, zone *time.Location) (time.Time, error) {
	for _, layout := range []string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02 15:04", "2006-01-02T15:04:05", "2006-01-02T15:04"} {
		if t, err := time.ParseInLocation(layout, s, zone); err == nil {
			if t.Year() < 1995 || t.Year() > 2090 {
				return t, fmt.Errorf("%s is no year of ours", t.Format("2006"))
			}
			return t.UTC().Truncate(time.Microsecond), nil
		}
	}
	return time.Time{}, fmt.Errorf("%q is not a time like 2027-03-18 09:30 or 2027-03-18T09:30:00Z", s)
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
