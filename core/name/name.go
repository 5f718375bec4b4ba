// Package name is what may be the name of a thing or a person: what can be read, and told
// from every other.
//
//	n := name.Clean("  North  tower ")
//	if says := name.Wrong(n, 40); says != nil { ... }
package name

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Clean is a name as it is kept: composed (NFC), and with single spaces between its words.
func Clean(s string) string { return strings.Join(strings.Fields(norm.NFC.String(s)), " ") }

// Wrong says what keeps a cleaned name of at most so many letters from being one; nil when
// nothing does.
func Wrong(s string, most int) say.Text {
	if n := utf8.RuneCountInString(s); n == 0 || n > most {
		return say.T("must be a name of 1 to %d letters", most)
	}
	return Unseen(s)
}

// Line cleans a text of one line that names nothing (what a sowing is for) and refuses,
// by field, one that is too long or holds what nobody can see. It may be empty.
func Line(e *field.Errors, at, s string, most int) string {
	s = Clean(s)
	if utf8.RuneCountInString(s) > most {
		e.Add(at, "must be at most %d letters", most)
	} else if says := Unseen(s); says != nil {
		e.Tell(at, says)
	}
	return s
}

// Take cleans a name and refuses, by field, what cannot be one.
func Take(e *field.Errors, at, s string, most int) string {
	s = Clean(s)
	if says := Wrong(s, most); says != nil {
		e.Tell(at, says)
	}
	return s
}

// alike turns letters of other alphabets into those that they look like. The sign of a
// millionth, which is a Greek letter too, stays what it is.
var alike = strings.NewReplacer(pairs("авекмнорстухіјѕԁԛԝһӏαβεζηικνορτυχωıɡ", "abekmhopctyxijsdqwhlabezhikvoptyxwig")...)

func pairs(from, to string) (out []string) {
	latin := []rune(to)
	for i, r := range []rune(from) {
		out = append(out, string(r), string(latin[i]))
	}
	return out
}

// Key is what two names that look alike have in common: compatible forms, capitals, letters of
// another alphabet that look the same and what cannot be seen make no other name. The database's
// name_key does the same.
func Key(s string) string {
	return alike.Replace(strings.ToLower(Clean(strings.Map(func(r rune) rune {
		if hidden(r) {
			return -1
		}
		return r
	}, norm.NFKC.String(s)))))
}

// Found is a text as search compares it: besides what Key makes alike, letters have no accents.
func Found(s string) string {
	return Key(strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Mn, r) {
			return -1
		}
		return r
	}, norm.NFD.String(s)))
}

// Unseen says that a text holds what nobody can see, or what turns its letters around;
// nil when it does not.
func Unseen(s string) say.Text {
	seen := false
	for _, r := range s {
		if !utf8.ValidString(s) || r == utf8.RuneError || hidden(r) {
			return say.T("has letters that cannot be seen, or that reverse the line; type it again")
		}
		seen = seen || unicode.In(r, unicode.L, unicode.N, unicode.P, unicode.S)
	}
	if !seen && s != "" {
		return say.T("has nothing in it that can be seen")
	}
	return nil
}

// hidden are control and format characters, private ones, and what Unicode calls
// ignorable by default.
func hidden(r rune) bool {
	return unicode.In(
		r,
		unicode.Cc,
		unicode.Cf,
		unicode.Co,
		unicode.Cs,
		unicode.Zl,
		unicode.Zp,
		unicode.Other_Default_Ignorable_Code_Point,
		unicode.Variation_Selector,
	) ||
		r == '\u2800'
}

// Cell is a text as it may stand in a spreadsheet's cell: never taken for a formula.
func Cell(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}
