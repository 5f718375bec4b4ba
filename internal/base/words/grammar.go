package words

import (
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/feature/plural"

	"ulpa/core/say"
)

// A line of a language's file is a sentence, or several of which one is said:
//
//	"%d tray":    {"one": "%d bandeja", "other": "%d bandejas"}
//	"%s of %d cells": {"by": 2, "one": "…", "other": "…"}     the second argument is counted
//	"%s is ready":    {"of": 1, "f": "%s está lista", "other": "%s está listo"}
//
// "by" is the number of the argument that counts (1 if it is left out), "of" that of the one
// whose gender counts. A form may have forms of its own. "other" is what is said where no
// other form is right, and must be there. "%+s" says a noun in its plural.
type line struct {
	text   string
	by, of int
	forms  map[string]line
}

// UnmarshalJSON reads a line.
func (l *line) UnmarshalJSON(b []byte) error {
	if json.Unmarshal(b, &l.text) == nil {
		return nil
	}
	var raw map[string]json.RawMessage
	if err := json.Unmarshal(b, &raw); err != nil {
		return err
	}
	l.by, l.forms = 1, map[string]line{}
	for key, value := range raw {
		var err error
		switch key {
		case "by":
			err = json.Unmarshal(value, &l.by)
		case "of":
			err = json.Unmarshal(value, &l.of)
		default:
			var form line
			err = json.Unmarshal(value, &form)
			l.forms[key] = form
		}
		if err != nil {
			return fmt.Errorf("%q: %w", key, err)
		}
	}
	if _, ok := l.forms["other"]; !ok {
		return errors.New(`has no "other"`)
	}
	return nil
}

// all are the sentences of which one is said.
func (l line) all() (out []string) {
	if l.forms == nil {
		return []string{l.text}
	}
	for _, f := range l.forms {
		out = append(out, f.all()...)
	}
	return out
}

// noun is what a word of the program's own is in a sentence.
type noun struct {
	Gender string `json:"gender"`
	Many   string `json:"many"`
}

// right is the form that agrees with what stands in the sentence.
func (l *Language) right(s line, args []any) string {
	for s.forms != nil {
		key := ""
		if s.of > 0 && s.of <= len(args) {
			if x, ok := args[s.of-1].(say.Said); ok {
				key = l.file.Nouns[string(x.Words)].Gender
			}
		} else if s.by <= len(args) {
			switch x := args[s.by-1].(type) {
			case int:
				key = l.number(x)
			case say.Said:
				if x.Count >= 0 {
					key = l.number(x.Count)
				}
			}
		}
		next, ok := s.forms[key]
		if !ok {
			next = s.forms["other"]
		}
		s = next
	}
	return s.text
}

// categories are the language's ways to count, as CLDR calls them.
var categories = map[plural.Form]string{
	plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few", plural.Many: "many", plural.Other: "other",
}

// number is which of the language's ways of counting a number takes.
func (l *Language) number(n int) string {
	return categories[plural.Cardinal.MatchPlural(l.tag, max(n, -n), 0, 0, 0, 0)]
}

// whole is a number with the language's mark of thousands.
type whole struct {
	n int
	l *Language
}

// Format is fmt's.
func (w whole) Format(f fmt.State, verb rune) {
	_, _ = f.Write([]byte(w.l.Mark(fmt.Sprintf(fmt.FormatString(f, verb), w.n))))
}

// inside is a text in a sentence: with %+s in its plural.
type inside struct {
	say.Said
	l *Language
}

// Format is fmt's.
func (i inside) Format(f fmt.State, verb rune) {
	s := i.Text
	if f.Flag('+') {
		s = i.l.plural(i.Said)
	}
	if verb == 'q' {
		s = fmt.Sprintf("%q", s)
	}
	_, _ = f.Write([]byte(s))
}

// plural is a text whose noun is in its plural, where the language has one for it.
func (l *Language) plural(s say.Said) string {
	one, many := l.file.Words[string(s.Words)].text, l.file.Nouns[string(s.Words)].Many
	if many == "" || len(s.Text) < len(one) || !strings.EqualFold(s.Text[:len(one)], one) {
		return s.Text
	}
	if first, _ := utf8.DecodeRuneInString(s.Text); unicode.IsUpper(first) {
		many = say.Capital(say.Name(many)).String()
	}
	return many + s.Text[len(one):]
}

// Capitals tells whether nouns keep their capital inside a sentence.
func (l *Language) Capitals() bool { return l.file.Capitals }

// Many is so many of a crop, or of what else has a name.
func (l *Language) Many(n int, noun say.Said) string {
	if l.number(n) == "one" {
		return l.Mark(strconv.Itoa(n)) + " " + noun.Text
	}
	return l.Mark(strconv.Itoa(n)) + " " + l.plural(noun)
}

// Mark writes a figure as the language does: its mark of decimals, and its mark of thousands from
// five digits on.
func (l *Language) Mark(s string) string {
	first := strings.IndexFunc(s, unicode.IsDigit)
	if first < 0 {
		return s
	}
	digits, rest := s[first:], ""
	if end := strings.IndexFunc(digits, func(r rune) bool { return !unicode.IsDigit(r) }); end >= 0 {
		digits, rest = digits[:end], digits[end:]
	}
	if l.file.Comma {
		rest = strings.Replace(rest, ".", ",", 1)
	}
	if l.file.Thousands != "" && len(digits) > 4 && digits[0] != '0' {
		for at := len(digits) - 3; at > 0; at -= 3 {
			digits = digits[:at] + l.file.Thousands + digits[at:]
		}
	}
	return s[:first] + digits + rest
}
