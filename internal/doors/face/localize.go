package face

import (
	"fmt"
	"html"
	"regexp"
	"strings"
	"unicode"

	nethtml "golang.org/x/net/html"

	"ulpa/core/say"
)

// Localize says a template's own words in another language: the texts between its tags and
// actions, the attributes that are read aloud or shown, and the labels of its fields. A
// text that actions interrupt is several texts; where a sentence must stay whole the
// template says {{t "so many of %d" .N}}.
func Localize(src string, in func(say.Words) string) (string, error) {
	bare, actions, err := cutActions(src, in)
	if err != nil {
		return "", err
	}
	var out strings.Builder
	z := nethtml.NewTokenizer(strings.NewReader(bare))
	verbatim := false
	for {
		kind := z.Next()
		if kind == nethtml.ErrorToken {
			break
		}
		raw := string(z.Raw())
		switch kind {
		case nethtml.TextToken:
			if verbatim {
				out.WriteString(raw)
				continue
			}
			out.WriteString(localText(raw, in))
		case nethtml.StartTagToken, nethtml.SelfClosingTagToken, nethtml.EndTagToken:
			name, _ := z.TagName()
			if n := string(name); n == "script" || n == "style" || n == "kbd" {
				verbatim = kind == nethtml.StartTagToken
			}
			out.WriteString(spokenAttributes.ReplaceAllStringFunc(raw, func(s string) string {
				m := spokenAttributes.FindStringSubmatch(s)
				return m[1] + localText(m[2], in) + `"`
			}))
		default:
			out.WriteString(raw)
		}
	}
	return putActions(out.String(), actions), nil
}

// spokenAttributes are those that somebody reads or hears.
var spokenAttributes = regexp.MustCompile(`(\s(?:aria-label|title|placeholder|alt|data-words-[a-z]+)=")([^"]*)"`)

// An action is one rune of the private area while the HTML around it is read.
const firstAction = 0xE000

func cutActions(src string, in func(say.Words) string) (bare string, actions []string, err error) {
	var b strings.Builder
	for {
		at := strings.Index(src, "{{")
		if at < 0 {
			b.WriteString(src)
			return b.String(), actions, nil
		}
		end := strings.Index(src[at:], "}}")
		if end < 0 || len(actions) >= 0xF8FF-firstAction {
			return "", nil, fmt.Errorf("an action that does not end, or too many of them")
		}
		b.WriteString(src[:at])
		b.WriteRune(rune(firstAction + len(actions)))
		actions = append(actions, fieldCall.ReplaceAllStringFunc(src[at:at+end+2], func(s string) string {
			m := fieldCall.FindStringSubmatch(s)
			return m[1] + quoted(m[2], in) + " " + quoted(m[3], in) + " " + m[4] + " " + quoted(m[5], in)
		}))
		src = src[at+end+2:]
	}
}

// fieldCall is field FORM NAME LABEL UNIT KIND HINT.
var fieldCall = regexp.MustCompile(`(\bfield (?:\((?:[^()]|\([^()]*\))*\)|[^\s()]+) (?:"[^"]*"|\.\w+) )("[^"]*") ("[^"]*"|\([^()]*\)) ("[^"]*") ("[^"]*")`)

func quoted(s string, in func(say.Words) string) string {
	text, ok := strings.CutPrefix(s, `"`)
	text, ended := strings.CutSuffix(text, `"`)
	if !ok || !ended || !read(text) {
		return s
	}
	return `"` + in(say.Words(text)) + `"`
}

func putActions(s string, actions []string) string {
	var b strings.Builder
	for _, r := range s {
		if i := int(r) - firstAction; i >= 0 && i < len(actions) {
			b.WriteString(actions[i])
			continue
		}
		b.WriteRune(r)
	}
	return b.String()
}

// localText says the texts between actions.
func localText(s string, in func(say.Words) string) string {
	var b strings.Builder
	from := 0
	say := func(to int) {
		b.WriteString(piece(s[from:to], in))
	}
	for i, r := range s {
		if r >= firstAction && r <= 0xF8FF {
			say(i)
			b.WriteRune(r)
			from = i + len(string(r))
		}
	}
	say(len(s))
	return b.String()
}

func piece(s string, in func(say.Words) string) string {
	text := strings.TrimFunc(s, func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune("·,;:()–→←×=", r) })
	text = strings.TrimPrefix(text, ". ")
	if !read(text) {
		return s
	}
	at := strings.Index(s, text)
	key := say.Words(strings.Join(strings.Fields(html.UnescapeString(text)), " "))
	said := in(key)
	if said == string(key) {
		return s
	}
	return s[:at] + html.EscapeString(said) + s[at+len(text):]
}

// read tells whether a text has words.
func read(s string) bool { return strings.ContainsFunc(s, unicode.IsLetter) }
