package crop

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Column is one value that is known of a crop: its name in the table, what a
// person calls it, its unit, and what it takes.
type Column struct {
	Name      string
	Label     say.Words
	Unit      string
	Group     say.Words // the heading it stands under
	Low, High float64
	Choices   []string
	cardinal  bool // of germination: a value of the school's own goes before the germination table
	at        func(*Crop) any
}

// The headings of the schema, in order.
const (
	groupKind   say.Words = "What it is"
	groupSow    say.Words = "Sowing"
	groupStages say.Words = "Stages"
	groupStand  say.Words = "Where it is"
	groupWater  say.Words = "Its solution"
)

// ColumnOf is the column with that name, and whether there is one.
func ColumnOf(name string) (Column, bool) {
	i := slices.IndexFunc(Columns, func(k Column) bool { return k.Name == name })
	if i < 0 {
		return Column{}, false
	}
	return Columns[i], true
}

// set reads a value as the table writes it: a number in the column's metric
// unit, two with a dash for a window, yes or no, a word, or words.
func (k Column) set(c *Crop, value string) error {
	switch at := k.at(c).(type) {
	case *float64:
		v, err := k.number(value)
		*at = v
		return err
	case *int:
		v, err := k.number(value)
		if err == nil && v != math.Trunc(v) {
			err = say.Wrong("must be a whole number")
		}
		*at = int(v)
		return err
	case *Range:
		low, high, ok := strings.Cut(value, "-")
		if !ok {
			return say.Wrong("needs two numbers with a dash, like 5.5-6.3")
		}
		l, err1 := k.number(low)
		h, err2 := k.number(high)
		*at = Range{l, h}
		if err := cmp.Or(err1, err2); err != nil {
			return err
		}
		if h < l {
			return say.Wrong("must be the lower number first")
		}
	case *bool:
		*at = value == "yes"
		if value != "yes" && value != "no" {
			return say.Wrong("must be yes or no")
		}
	case *Shares:
		x, err := readShares(value)
		*at = x
		return err
	case *[]string:
		*at = strings.Fields(value)
		for _, w := range *at {
			if !slices.Contains(k.Choices, w) {
				return k.offer()
			}
		}
		if len(*at) == 0 {
			return k.offer()
		}
	case *say.Words:
		*at = say.Words(value)
		if len(value) > 200 {
			return say.Wrong("must be at most 200 letters")
		}
	case *string:
		*at = value
		if k.Choices != nil && !slices.Contains(k.Choices, value) {
			return k.offer()
		}
		if len(value) > 200 {
			return say.Wrong("must be at most 200 letters")
		}
	}
	return nil
}

func (k Column) offer() error {
	return say.Wrong("must be %s", say.Name(strings.Join(k.Choices, ", ")))
}

func (k Column) number(s string) (float64, error) {
	v, err := unit.Read(s)
	if err != nil || v < k.Low || v > k.High {
		return 0, say.Wrong("must be %s", say.Join(" ", say.T("%v to %v", k.Low, k.High), say.Unit(k.Unit)))
	}
	return v, nil
}

// Of is the crop's value as the table writes it.
func (k Column) Of(c Crop) string {
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	switch at := k.at(&c).(type) {
	case *float64:
		return number(*at)
	case *int:
		return strconv.Itoa(*at)
	case *Range:
		return number(at.Low) + "-" + number(at.High)
	case *bool:
		if *at {
			return "yes"
		}
		return "no"
	case *Shares:
		return at.String()
	case *[]string:
		return strings.Join(*at, " ")
	case *say.Words:
		return string(*at)
	case *string:
		return *at
	}
	return ""
}

// Measured tells whether the column is one number or a window of two, in its unit.
func (k Column) Measured() (number, window bool) {
	switch k.at(&Crop{}).(type) {
	case *float64, *int:
		return true, false
	case *Range:
		return false, true
	}
	return false, false
}

// Worded tells whether the column is words of the program's, which each reader reads in
// their language.
func (k Column) Worded() bool {
	_, ok := k.at(&Crop{}).(*say.Words)
	return ok
}

// Check refuses values that do not go together, by column.
func (c Crop) Check() error {
	var e field.Errors
	e.Require(c.BaseC < c.OptimumC, "optimum_c", "must be above the base temperature")
	e.Require(c.OptimumC < c.CeilingC, "ceiling_c", "must be above the optimum")
	e.Require(c.PlateauC < c.CeilingC, "plateau_c", "must be below the temperature that is too hot")
	e.Require(c.UnhardenedC >= c.SafeC, "unhardened_c", "must not be colder than what it stands once hardened off")
	e.Require(c.Ready.Leaves > 0 || c.Ready.HeightCM > 0 || c.Ready.AgeDays > 0, "ready_leaves", "enter leaves, a height or an age; one is enough")
	return e.Err()
}
