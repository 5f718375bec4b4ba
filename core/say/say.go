// Package say is what the program has to say, in nobody's language and nobody's units yet.
//
//	t := say.T("%s is warm: shade it", say.Of(26, unit.Celsius))
//	t.String()           // "26 °C is warm: shade it"
//	t.In(reader)         // "Está a 78,8 °F: póngale sombra"
//
// The English sentence is the key of its translations. Whoever shows a text to somebody says
// it In their Reader; String is English and metric, for the command line, the API and tests.
package say

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"ulpa/core/unit"
)

// Text is something to be said. The nil Text says nothing.
type Text interface {
	In(Reader) string
	fmt.Stringer
}

// Words are an English sentence of the program's own, or a part of one. As a format they
// have fmt's verbs.
type Words string

// In is the words in the reader's language.
func (w Words) In(r Reader) string {
	if r.Tongue == nil {
		return w.String()
	}
	return r.Tongue.Sentence(w)
}

// String is the words in English. What stands behind ## tells two alike apart for
// those who translate them ("Read %s##noted") and is not said.
func (w Words) String() string {
	s, _, _ := strings.Cut(string(w), "##")
	return s
}

// MarshalText is the words in English.
func (w Words) MarshalText() ([]byte, error) { return []byte(w.String()), nil }

// Name is what people have written, or what has the same name in all languages.
type Name string

// In is the name as it is.
func (n Name) In(Reader) string { return string(n) }

// String is the name as it is.
func (n Name) String() string { return string(n) }

// sentence is words with what stands in them.
type sentence struct {
	words Words
	args  []any
}

// T is a text of words. Arguments may be texts; figures with a unit are texts (Of).
func T(w Words, args ...any) Text {
	if len(args) == 0 {
		return w
	}
	return sentence{w, args}
}

func (s sentence) In(r Reader) string {
	args := make([]any, len(s.args))
	for i, a := range s.args {
		switch x := a.(type) {
		case Text:
			if args[i] = x.In(r); r.Tongue != nil {
				args[i] = said(x, args[i].(string))
			}
		case float64:
			args[i] = decimal{x, r.Tongue}
		case nil:
			args[i] = ""
		default:
			args[i] = a
		}
	}
	if r.Tongue == nil || !lettered(string(s.words)) {
		return fmt.Sprintf(s.words.String(), args...)
	}
	return r.Tongue.Sentence(s.words, args...)
}

func (s sentence) String() string               { return s.In(Reader{}) }
func (s sentence) MarshalText() ([]byte, error) { return []byte(s.In(Reader{Machine: true})), nil }

// lettered tells whether a format has anything to translate.
func lettered(format string) bool {
	for i := 0; i < len(format); i++ {
		if format[i] == '%' {
			for i++; i < len(format) && strings.IndexByte("0123456789.+-[]#", format[i]) >= 0; i++ {
			}
			continue
		}
		if c := format[i]; c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' {
			return true
		}
	}
	return false
}

// Lettered tells whether words have anything that another language says otherwise.
func Lettered(w Words) bool { return lettered(string(w)) }

// decimal is a figure that a format writes with the reader's decimal mark.
type decimal struct {
	v      float64
	tongue Tongue
}

// Format is fmt's, with the decimal mark of the language.
func (d decimal) Format(f fmt.State, verb rune) {
	s := unit.Plainly(fmt.Sprintf(fmt.FormatString(f, verb), d.v))
	if d.tongue != nil {
		s = d.tongue.Mark(s)
	}
	_, _ = f.Write([]byte(s))
}

// amount is a figure with its unit, metric.
type amount struct {
	value float64
	unit  string
	bare  bool
}

// Of is a metric figure with its unit, in words.
func Of(v float64, u string) Text { return amount{v, u, false} }

// Figure is a metric figure without its unit.
func Figure(v float64, u string) Text { return amount{v, u, true} }

func (a amount) In(r Reader) string {
	if a.bare {
		return r.Figure(a.value, a.unit)
	}
	return r.Format(a.value, a.unit)
}

func (a amount) String() string               { return a.In(Reader{}) }
func (a amount) MarshalText() ([]byte, error) { return []byte(a.String()), nil }

// closely is a figure to four digits, for what was typed.
type closely amount

// Close is a metric figure with its unit, as exactly as somebody may have typed it.
func Close(v float64, u string) Text { return closely{value: v, unit: u} }

func (c closely) In(r Reader) string {
	s := r.Decimal("%.4g", r.Out(c.value, c.unit))
	if c.unit == "pH" {
		return s
	}
	return s + " " + r.Name(c.unit)
}

func (c closely) String() string               { return c.In(Reader{}) }
func (c closely) MarshalText() ([]byte, error) { return []byte(c.String()), nil }

// unitName is what a unit is called.
type unitName string

// Unit is what a unit is called, in the reader's system and language.
func Unit(u string) Text { return unitName(u) }

func (u unitName) In(r Reader) string { return r.Name(string(u)) }
func (u unitName) String() string     { return u.In(Reader{}) }

// Chance is a share as people say a chance: never none at all, and never certain.
func Chance(share float64) Text { return T("%.0f %%", min(99, max(1, 100*share))) }

// count is a number of things.
type count struct {
	n   int
	one Words
}

// Plural is a number with the thing it counts, in one or in many: "1 day", "3 days".
func Plural(n int, one Words) Text { return count{n, one} }

func (c count) In(r Reader) string {
	if r.Tongue != nil {
		return r.Tongue.Count(c.n, c.one)
	}
	if c.n == 1 {
		return "1 " + c.one.String()
	}
	return fmt.Sprintf("%d %ss", c.n, c.one)
}

func (c count) String() string               { return c.In(Reader{}) }
func (c count) MarshalText() ([]byte, error) { return []byte(c.String()), nil }

// many is a number of plants of a crop, or of what else has a name of its own.
type many struct {
	n    int
	noun Text
}

// Many is so many plants of a crop: "12 lettuce plants". A language may say it by the name of the crop
// alone, in one or in many.
func Many(n int, noun Text) Text { return many{n, noun} }

func (m many) In(r Reader) string {
	s := m.noun.In(r)
	if r.Tongue == nil {
		if m.n == 1 {
			return "1 " + s + " plant"
		}
		return fmt.Sprintf("%d %s plants", m.n, s)
	}
	return r.Tongue.Many(m.n, said(m.noun, s))
}

func (m many) String() string               { return m.In(Reader{}) }
func (m many) MarshalText() ([]byte, error) { return []byte(m.String()), nil }

// date is a day or a time as people say it.
type date struct {
	t      time.Time
	layout string
}

// Date is a time in a layout of package time's.
func Date(t time.Time, layout string) Text { return date{t, layout} }

// In is the date in the reader's language; one of another year than the reader's says so.
func (d date) In(r Reader) string {
	layout := d.layout
	if r.Year != 0 && d.t.Year() != r.Year && strings.Contains(layout, "2 Jan") && !strings.Contains(layout, "2006") {
		month := "Jan"
		if strings.Contains(layout, "January") {
			month = "January"
		}
		layout = strings.Replace(layout, month, month+" 2006", 1)
	}
	if r.Tongue == nil {
		return d.t.Format(layout)
	}
	return r.Tongue.Date(d.t, layout)
}

func (d date) String() string               { return d.In(Reader{}) }
func (d date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// joined are texts with something between them.
type joined struct {
	sep, last Words
	list      []Text
}

// Join are texts with a mark between them.
func Join(sep string, list ...Text) Text { return joined{Words(sep), Words(sep), list} }

// andWords stand before the last of a list.
const andWords Words = " and "

// List is "a, b and c".
func List(list ...Text) Text { return joined{", ", andWords, list} }

// Either is "a or b".
func Either(list ...Text) Text { return joined{orWords, orWords, list} }

// orWords stand between what one may choose from.
const orWords Words = " or "

// Then is "a, then b, then c".
func Then(list ...Text) Text { return joined{thenWords, thenWords, list} }

// thenWords stand between what is done one after the other.
const thenWords Words = ", then "

func (j joined) In(r Reader) string {
	var b strings.Builder
	n := 0
	for i, t := range j.list {
		if t == nil {
			continue
		}
		s := t.In(r)
		switch {
		case n == 0 || s == "":
		case i == len(j.list)-1 && j.last == andWords && r.Tongue != nil:
			b.WriteString(r.Tongue.And(s))
		case i == len(j.list)-1:
			b.WriteString(j.last.In(r))
		default:
			b.WriteString(j.sep.In(r))
		}
		if s != "" {
			n++
		}
		b.WriteString(s)
	}
	return b.String()
}

func (j joined) String() string               { return j.In(Reader{}) }
func (j joined) MarshalText() ([]byte, error) { return []byte(j.String()), nil }

// cased is a text whose first letter is made large or small.
type cased struct {
	text  Text
	large bool
}

// Capital begins with a capital letter.
func Capital(t Text) Text { return recase(t, true) }

// proper are the words that keep their capital wherever they stand.
var proper = []string{"Brussels", "Busy", "Chinese", "French", "New Zealand"}

// Lower begins with a small letter, unless with a proper name.
func Lower(t Text) Text { return recase(t, false) }

func recase(t Text, large bool) Text {
	if t == nil {
		return nil
	}
	return cased{t, large}
}

func (c cased) In(r Reader) string {
	s := c.text.In(r)
	first, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	if !c.large && r.Tongue != nil && r.Tongue.Capitals() {
		return s
	}
	if !c.large && slices.ContainsFunc(proper, func(p string) bool { return strings.HasPrefix(s, p+" ") }) {
		return s
	}
	if c.large {
		return string(unicode.ToUpper(first)) + s[n:]
	}
	return string(unicode.ToLower(first)) + s[n:]
}

func (c cased) String() string               { return c.In(Reader{}) }
func (c cased) MarshalText() ([]byte, error) { return []byte(c.String()), nil }

// Names are texts of what people have written.
func Names(list ...string) []Text {
	out := make([]Text, len(list))
	for i, s := range list {
		out[i] = Name(s)
	}
	return out
}

// wrong is an error that people read.
type wrong struct{ Text }

func (w wrong) Error() string { return w.String() }

// Wrong is an error that says what is wrong to whoever reads it.
func Wrong(w Words, args ...any) error { return wrong{T(w, args...)} }

// Why is what an error says: its text, or its English where it is none of ours.
func Why(err error) Text {
	var w wrong
	var number unit.ErrNumber
	var refused interface{ Why() Text }
	switch {
	case errors.As(err, &w):
		return w.Text
	case errors.As(err, &refused):
		return refused.Why()
	case errors.As(err, &number):
		return T("%q is not a number", string(number))
	}
	return Name(err.Error())
}
