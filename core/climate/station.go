package climate

import (
	"errors"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/table"
)

// Table is a file of days as weather services publish it: one line a day, columns by name.
type Table struct{ table.Table }

// Bounds of a station's file.
const (
	MaxStationFile = 4 << 20
	maxNights      = 60 * 366
)

// ReadTable reads such a file. It refuses with field.Errors.
func ReadTable(text string) (Table, error) {
	t, err := table.Read(text)
	if err == nil && len(t.Rows) > maxNights {
		err = field.Refuse("text", "has more than 60 years of days")
	}
	return Table{t}, err
}

// Units of lows in files.
const (
	Celsius      = "c"
	TenthCelsius = "tenth"
	Fahrenheit   = "f"
)

// Units are those that a file's lows can be in.
var Units = []string{Celsius, TenthCelsius, Fahrenheit}

var (
	dayNames = regexp.MustCompile(`(?i)^(date|day|datum|fecha|time|valid_date|yyyymmdd|mess_?datum)$`)
	lowNames = regexp.MustCompile(`(?i)^(tmin|t_min|tn|tnk|min|min_?temp(erature)?|minimum|low|temp_min|minimum temperature.*)$`)
)

// Guess is which columns may be the day and the low, and in which unit: what is offered at
// first.
func (t Table) Guess() (day, low int, unit string) {
	day, low, unit = -1, -1, Celsius
	for i, h := range t.Head {
		if day < 0 && (dayNames.MatchString(h) || strings.EqualFold(h, "year") && i+2 < len(t.Head)) {
			day = i
		}
		if low < 0 && lowNames.MatchString(h) {
			low = i
		}
	}
	for i := range t.Head {
		_, err := t.day(t.Rows[0], i)
		if day < 0 && err == nil {
			day = i
		}
	}
	for i := len(t.Head) - 1; i >= 0; i-- {
		if _, ok := number(t.Rows[0][i]); low < 0 && ok && i != day {
			low = i
		}
	}
	most := 0.0
	for _, row := range t.Rows {
		if v, ok := number(row[max(0, low)]); ok {
			most = math.Max(most, math.Abs(v))
		}
	}
	if most > 130 {
		unit = TenthCelsius
	} else if most > 60 {
		unit = Fahrenheit
	}
	return max(0, day), max(0, low), unit
}

// missing is how files say that there is no value.
var missing = map[string]bool{
	"": true, "-": true, "m": true, "na": true, "nan": true, "null": true, "-999": true, "-9999": true, "9999": true, "-99.9": true, "-999.9": true,
}

func number(s string) (float64, bool) {
	s = strings.TrimSpace(strings.ReplaceAll(s, "−", "-"))
	if missing[strings.ToLower(s)] {
		return 0, false
	}
	v, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return v, err == nil && !math.IsNaN(v) && !math.IsInf(v, 0)
}

var errNoDay = errors.New("no day")

// day reads the day of a row: in one column, or in three that are called year, month, day.
func (t Table) day(row []string, at int) (calendar.Day, error) {
	s := strings.TrimSpace(row[at])
	if strings.EqualFold(t.Head[at], "year") && at+2 < len(row) {
		s = s + "-" + pad(row[at+1]) + "-" + pad(row[at+2])
	}
	s, _, _ = strings.Cut(s, "T")
	s, _, _ = strings.Cut(s, " ")
	for _, layout := range []string{"2006-01-02", "20060102", "2006/01/02", "02.01.2006", "2.1.2006"} {
		if d, err := time.Parse(layout, s); err == nil {
			return calendar.Of(d), nil
		}
	}
	return 0, errNoDay
}

func pad(s string) string {
	if s = strings.TrimSpace(s); len(s) == 1 {
		return "0" + s
	}
	return s
}

// slashed reads days like 13/4/2027: which part is the day is told by the whole column.
func (t Table) slashed(at int) (func([]string) (calendar.Day, error), bool) {
	first, second := 0, 0
	for _, row := range t.Rows {
		p := strings.Split(strings.TrimSpace(row[at]), "/")
		if len(p) != 3 {
			return nil, false
		}
		a, err1 := strconv.Atoi(p[0])
		b, err2 := strconv.Atoi(p[1])
		if err1 != nil || err2 != nil {
			return nil, false
		}
		first, second = max(first, a), max(second, b)
	}
	layout := "2/1/2006"
	if second > 12 && first <= 12 {
		layout = "1/2/2006"
	}
	return func(row []string) (calendar.Day, error) {
		d, err := time.Parse(layout, strings.TrimSpace(row[at]))
		return calendar.Of(d), err
	}, len(t.Rows[0]) > 0 && (first > 12) != (second > 12)
}

// Nights reads the lows, in °C, of the columns that were chosen, the days without one left
// out. A line that cannot be read refuses the whole file, by its number.
func (t Table) Nights(day, low int, unit string) ([]Minimum, error) {
	var e field.Errors
	e.Require(day >= 0 && day < len(t.Head), "day", "choose a column")
	e.Require(low >= 0 && low < len(t.Head) && low != day, "low", "choose another column")
	e.Require(slices.Contains(Units, unit), "unit", "must be one of these")
	if err := e.Err(); err != nil {
		return nil, err
	}
	read := func(row []string) (calendar.Day, error) { return t.day(row, day) }
	if f, ok := t.slashed(day); ok {
		read = f
	}
	seen := map[calendar.Day]bool{}
	var out []Minimum
	for i, row := range t.Rows {
		d, err := read(row)
		if err != nil {
			return nil, field.Refuse("day", "line %d: “%s” is not a day", t.Line[i], say.Name(row[day]))
		}
		v, ok := number(row[low])
		if !ok {
			if !missing[strings.ToLower(strings.TrimSpace(row[low]))] {
				return nil, field.Refuse("low", "line %d: “%s” is not a number", t.Line[i], say.Name(row[low]))
			}
			continue
		}
		switch unit {
		case TenthCelsius:
			v /= 10
		case Fahrenheit:
			v = (v - 32) / 1.8
		}
		switch {
		case v < -90 || v > 60:
			return nil, field.Refuse("unit", "line %d: %.1f °C cannot be the lowest of a night; is it another unit?", t.Line[i], v)
		case seen[d]:
			return nil, field.Refuse("day", "line %d: %s is in the list twice", t.Line[i], d.Long())
		}
		seen[d] = true
		out = append(out, Minimum{d, v})
	}
	if len(out) == 0 {
		return nil, field.Refuse("low", "has no lowest temperature at all; choose another column")
	}
	slices.SortFunc(out, func(a, b Minimum) int { return int(a.Day - b.Day) })
	return out, nil
}
