package say

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"time"

	"golang.org/x/text/collate"
	"golang.org/x/text/language"

	"ulpa/core/unit"
)

// Tongue is a language other than English.
type Tongue interface {
	// Tag is its BCP 47 tag, like "es".
	Tag() string
	// Sentence is words in it. Arguments are in it already; texts are Said.
	Sentence(w Words, args ...any) string
	// Count is so many of a thing.
	Count(n int, one Words) string
	// Many is so many of what has a name, which may be in it in one or in many.
	Many(n int, noun Said) string
	// Date is a time in a layout of package time's, with the language's names of days and
	// months, in its order.
	Date(t time.Time, layout string) string
	// And puts the last of a list behind the others.
	And(last string) string
	// Capitals tells whether nouns keep their capital inside a sentence.
	Capitals() bool
	// Mark writes a figure with the language's marks of decimals and of thousands.
	Mark(figure string) string
}

// Said is a text as it is said inside a sentence, with what that sentence may have to agree
// with: a language has genders, and its own way with one and with many.
type Said struct {
	Text  string
	Words Words // what it names, where that is a word of the program's own ("Lettuce")
	Count int   // of what is counted in it; −1: nothing is
}

// String is the text.
func (s Said) String() string { return s.Text }

// said is a text inside a sentence.
func said(t Text, in string) Said {
	out := Said{Text: in, Count: -1}
	for {
		switch x := t.(type) {
		case Words:
			out.Words = x
		case count:
			out.Count = x.n
		case many:
			out.Count = x.n
		case cased:
			t = x.text
			continue
		case sentence:
			// "Lettuce Little Gem" is a lettuce.
			if first, ok := x.args[0].(Text); ok && !lettered(string(x.words)) {
				t = first
				continue
			}
		}
		return out
	}
}

// Reader is for whom something is said: the language (none is English) and the units. The
// zero Reader reads English and metric.
type Reader struct {
	unit.Prefs
	Tongue  Tongue
	Year    int  // in which it is read: dates of another say theirs; 0: none does
	Machine bool // a program reads: what has a name in the contract is called by that
	Lines   bool // it is set in lines: a figure and its unit stay in one
}

// Language is the tag of the reader's language.
func (r Reader) Language() string {
	if r.Tongue == nil {
		return "en"
	}
	return r.Tongue.Tag()
}

// Say is a text in the reader's words; nothing for nil.
func (r Reader) Say(t Text) string {
	if t == nil {
		return ""
	}
	return t.In(r)
}

// T is words with what stands in them, in the reader's language.
func (r Reader) T(w Words, args ...any) string { return T(w, args...).In(r) }

// All are texts in the reader's words.
func (r Reader) All(list []Text) []string {
	var out []string
	for _, t := range list {
		out = append(out, r.Say(t))
	}
	return out
}

// Figure is a metric figure alone, in the reader's unit and with their decimal mark.
func (r Reader) Figure(v float64, u string) string { return r.Mark(r.Prefs.Figure(v, u)) }

// Mark writes a figure with the reader's decimal mark.
func (r Reader) Mark(s string) string {
	if r.Tongue != nil {
		return r.Tongue.Mark(s)
	}
	return s
}

// Sort orders a list by a name of each, as the reader's alphabet does, and 2 before 10. What has
// the same name stays in its order.
func Sort[T any](r Reader, list []T, name func(T) string) {
	type keyed struct {
		of  T
		key []byte
	}
	alphabet, buffer := collate.New(language.Make(r.Language()), collate.Numeric), collate.Buffer{}
	sorted := make([]keyed, len(list))
	for i, x := range list {
		sorted[i] = keyed{x, alphabet.KeyFromString(&buffer, name(x))}
	}
	slices.SortStableFunc(sorted, func(a, b keyed) int { return bytes.Compare(a.key, b.key) })
	for i, x := range sorted {
		list[i] = x.of
	}
}

// Decimal is a number in fmt's way with the reader's decimal mark.
func (r Reader) Decimal(format string, v float64) string {
	return r.Mark(unit.Plainly(fmt.Sprintf(format, v)))
}

// Name is what a unit is called for the reader.
func (r Reader) Name(u string) string {
	switch w, ok := worded[u]; {
	case r.Tongue == nil:
	case ok:
		return w.In(r)
	case u == unit.MS && r.PPM > 0:
		return r.T("ppm (%d scale)", r.PPM)
	case u == unit.DegreeDays:
		return r.T("%s·days", r.Prefs.Name(unit.Celsius))
	}
	return r.Prefs.Name(u)
}

// Format is a metric figure with its unit, as the reader says it.
func (r Reader) Format(v float64, u string) string {
	s := unit.Beside(r.Figure(v, u), u, r.Name(u))
	if figure, name, ok := r.Small(v, u); ok {
		s = r.Mark(figure) + " " + Words(name).In(r)
	}
	if r.Lines {
		s = strings.Replace(s, " ", "\u00a0", 1)
	}
	return s
}

// worded are the units whose names are words, or have a word in them.
var worded = map[string]Words{
	"days": "days", "share": "share", "a day": "a day", "years": "years", "bits": "bits", "% by mass": "% by mass", "seeds": "seeds",
	"cups": "cups", "level teaspoons": "level teaspoons", "fl oz": "fl oz", "cells": "cells", "plants": "plants", "hours": "hours", "mg/L CaCO₃": "mg/L CaCO₃",
}
