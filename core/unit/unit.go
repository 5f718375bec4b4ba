// Package unit turns the core's metric figures into what a person reads, and
// back. The core keeps litres, degrees Celsius, centimetres, grams and mS/cm
// at 25 °C; people may prefer US customary units or a "ppm" conductivity scale.
//
//	p := unit.Parse("us", "ppm500")
//	p.Format(20, unit.Celsius) // "68 °F"
package unit

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// The names a figure's unit goes by inside the program.
const (
	Litre      = "L"
	Millilitre = "mL"
	Celsius    = "°C"
	Centimetre = "cm"
	Metre      = "m"
	Gram       = "g"
	Kilogram   = "kg"
	Kelvin     = "K" // a difference of temperatures
	DegreeDays = "°C·days"
	MS         = "mS/cm"
	Teaspoons  = "level teaspoons"
)

// customary are the US names, and what one is in metric units: exact or conventional
// factors. US liquid gallon and ounce, avoirdupois ounce: NIST Handbook 44, appendix C.
var customary = map[string]struct {
	name string
	is   float64
}{
	Litre: {"gal", 3.785411784}, Centimetre: {"in", 2.54}, Metre: {"ft", 0.3048}, Gram: {"oz", 28.349523125},
	Kilogram: {"lb", 0.45359237},
	Celsius:  {"°F", 5. / 9}, Kelvin: {"°F", 5. / 9}, DegreeDays: {"°F·days", 5. / 9},
}

// freezingF is 0 °C.
const freezingF = 32

// Prefs says how one person reads figures. The zero value is metric and mS/cm.
type Prefs struct {
	US  bool
	PPM int // 0, 500 or 700: the scale a ppm meter multiplies mS/cm by
}

// Parse makes Prefs from the stored names ("metric" or "us"; "ms", "ppm500" or "ppm700").
func Parse(system, scale string) Prefs {
	p := Prefs{US: system == "us"}
	switch scale {
	case "ppm500":
		p.PPM = 500
	case "ppm700":
		p.PPM = 700
	}
	return p
}

// System is the stored name of the measuring system.
func (p Prefs) System() string {
	if p.US {
		return "us"
	}
	return "metric"
}

// Scale is the stored name of the conductivity scale.
func (p Prefs) Scale() string {
	if p.PPM == 0 {
		return "ms"
	}
	return "ppm" + strconv.Itoa(p.PPM)
}

// Name is what the unit is called for this person.
func (p Prefs) Name(u string) string {
	if u == MS && p.PPM > 0 {
		return fmt.Sprintf("ppm (%d scale)", p.PPM)
	}
	if c, ok := customary[u]; ok && p.US {
		return c.name
	}
	if u == Kelvin {
		return Celsius // as people call a difference too
	}
	return u
}

// Out converts a metric figure to this person's unit. Millilitres stay: doses
// are measured with syringes and cylinders that carry them everywhere.
func (p Prefs) Out(v float64, u string) float64 {
	if u == MS && p.PPM > 0 {
		return v * float64(p.PPM)
	}
	c, ok := customary[u]
	switch {
	case !ok || !p.US:
		return v
	case u == Celsius:
		return v/c.is + freezingF
	}
	return v / c.is
}

// In converts what this person typed to the metric figure.
func (p Prefs) In(v float64, u string) float64 {
	if u == MS && p.PPM > 0 {
		return v / float64(p.PPM)
	}
	c, ok := customary[u]
	switch {
	case !ok || !p.US:
		return v
	case u == Celsius:
		return (v - freezingF) * c.is
	}
	return v * c.is
}

// US cups and fluid ounces, L: NIST Handbook 44, appendix C.
const cup, fluidOunce, halfGallon = 0.2365882365, 0.0295735295625, 1.892705892

// Small is a small amount of a liquid as people who read gallons measure it: in cups below
// half a gallon, in fluid ounces below a cup. ok is false for any other amount.
func (p Prefs) Small(v float64, u string) (figure, name string, ok bool) {
	a := math.Abs(v)
	switch {
	case !p.US || u != Litre || a == 0 || a >= halfGallon:
		return "", "", false
	case a < cup:
		return trim(v/fluidOunce, 1), "fl oz", true
	}
	return trim(v/cup, 1), "cups", true
}

// Figure is the number alone, in this person's unit, rounded as people say it.
func (p Prefs) Figure(v float64, u string) string {
	x := p.Out(v, u)
	switch {
	case u == "pH":
		return trim(x, 1)
	case u == MS && p.PPM > 0:
		return trim(math.Round(x/10)*10, 0)
	case u == MS:
		return trim(x, 2)
	case u == Celsius:
		return trim(x, 1)
	}
	switch a := math.Abs(x); {
	case a >= 100:
		return trim(x, 0)
	case a >= 10:
		return trim(x, 1)
	case a >= 1, u == Litre && a >= 0.1: // nobody reads a jar to the thousandth
		return trim(x, 2)
	case a == 0:
		return "0"
	default:
		return Plainly(strconv.FormatFloat(x, 'g', 3, 64))
	}
}

// Plainly writes out a figure that has an exponent, as long as people read it so: "1.1e+02" is
// 110. What is as good as nothing (below 1e-7) keeps it, and so does what is no figure.
func Plainly(s string) string {
	v, err := strconv.ParseFloat(s, 64)
	if a := math.Abs(v); err != nil || !strings.ContainsRune(s, 'e') || a >= 1e15 || a < 1e-7 {
		return s
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}

// Format is the number with its unit.
func (p Prefs) Format(v float64, u string) string {
	if figure, name, ok := p.Small(v, u); ok {
		return figure + " " + name
	}
	return Beside(p.Figure(v, u), u, p.Name(u))
}

// Beside is a figure as it was written, with the name of its unit where that stands.
func Beside(figure, u, name string) string {
	switch u {
	case "":
		return figure
	case "pH":
		return "pH " + figure
	}
	return figure + " " + name
}

func trim(x float64, decimals int) string {
	s := strconv.FormatFloat(x, 'f', decimals, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}

// ErrNumber is the answer to what is no number.
type ErrNumber string

func (e ErrNumber) Error() string { return fmt.Sprintf("%q is not a number", string(e)) }

// thousands are whole numbers with spaces between their thousands, as some languages write them.
var thousands = regexp.MustCompile(`^[-+]?\d{1,3}([ \x{00A0}\x{202F}]\d{3})+([.,]\d+)?$`)

// Read reads a number as people type it: a comma or a point, spaces around it and between
// thousands. It fails on anything else, and on what is not finite.
func Read(s string) (float64, error) {
	s = strings.TrimSpace(s)
	if thousands.MatchString(s) {
		s = strings.NewReplacer(" ", "", "\u00a0", "", "\u202f", "").Replace(s)
	}
	s = strings.ReplaceAll(s, ",", ".")
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) || strings.ContainsAny(s, "xXpP_") {
		return 0, ErrNumber(s)
	}
	return v, nil
}
