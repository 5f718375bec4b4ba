// Package words holds the languages that the program speaks beside English: one file each.
//
//	es := words.Find("es")
//	say.Reader{Tongue: es}.T("Sow") // "Sembrar"
//
// A file maps the English sentence to the other language's, or to its forms (grammar.go); it has
// the language's own order of dates, marks in figures, nouns, and the words that search
// understands besides (also.go). A third language is one more file.
package words

import (
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strings"
	"time"

	"golang.org/x/text/language"

	"ulpa/core/say"
)

//go:embed *.json
var files embed.FS

// Language is one language's words.
type Language struct {
	tag   language.Tag
	file  file
	order *strings.Replacer // of day, month and year
	dates *strings.Replacer
	also  []also
}

// file is a language as it is written down.
type file struct {
	Language    string              `json:"language"` // BCP 47
	Name        string              `json:"name"`     // of the language, in itself
	Comma       bool                `json:"comma"`    // before decimals
	Thousands   string              `json:"thousands"`
	Capitals    bool                `json:"capitals"` // of nouns, inside a sentence too
	And         string              `json:"and"`
	AndBefore   map[string]string   `json:"and_before"` // another, by how the next word begins
	Dates       [][2]string         `json:"dates"`      // package time's layouts in English, and the language's
	Months      []string            `json:"months"`
	ShortMonths []string            `json:"short_months"`
	Days        []string            `json:"days"` // Sunday first
	ShortDays   []string            `json:"short_days"`
	Nouns       map[string]noun     `json:"nouns"` // by the English
	Also        map[string][]string `json:"also"`  // what search understands besides, by what the language says
	Words       map[string]line     `json:"words"`
}

// all are the languages of the program beside English, and english what search understands in it.
var all, english = load(files)

// load reads every file; one that cannot be read is a mistake of the program's.
func load(files fs.FS) (list []*Language, english *Language) {
	names, err := fs.Glob(files, "*.json")
	if err != nil {
		panic(err)
	}
	for _, n := range names {
		b, err := fs.ReadFile(files, n)
		if err != nil {
			panic(err)
		}
		l, err := Read(b)
		if err != nil {
			panic(fmt.Errorf("%s: %w", path.Base(n), err))
		}
		if l.tag == language.English {
			english = l
			continue
		}
		list = append(list, l)
	}
	return list, english
}

// Read makes a language from its file.
func Read(b []byte) (*Language, error) {
	l := &Language{}
	if err := json.Unmarshal(b, &l.file); err != nil {
		return nil, err
	}
	var err error
	if l.tag, err = language.Parse(l.file.Language); err != nil {
		return nil, err
	}
	var pairs []string
	for _, d := range l.file.Dates {
		pairs = append(pairs, d[0], d[1])
	}
	l.order = strings.NewReplacer(pairs...)
	l.also = alsoOf(l.file.Also)
	if l.tag != language.English {
		l.dates, err = l.file.names()
	}
	return l, err
}

// names turns the names of days and months in an English date into the language's.
func (f file) names() (*strings.Replacer, error) {
	var pairs []string
	add := func(have []string, want int, english func(int) string) error {
		if len(have) != want {
			return fmt.Errorf("%d names of days or months instead of %d", len(have), want)
		}
		for i, n := range have {
			pairs = append(pairs, english(i), n)
		}
		return nil
	}
	month := func(i int) string { return time.Month(i + 1).String() }
	day := func(i int) string { return time.Weekday(i).String() }
	for _, err := range []error{
		add(f.Months, 12, func(i int) string { return "[" + month(i) + "]" }), add(f.ShortMonths, 12, func(i int) string { return "{" + month(i)[:3] + "}" }),
		add(f.Days, 7, func(i int) string { return "[" + day(i) + "]" }), add(f.ShortDays, 7, func(i int) string { return "{" + day(i)[:3] + "}" }),
	} {
		if err != nil {
			return nil, err
		}
	}
	return strings.NewReplacer(pairs...), nil
}

// Speak adds a language until it is forgotten: how tests hear one that is made up.
func Speak(l *Language) (forget func()) {
	before := all
	all = append(slices.Clone(all), l)
	return func() { all = before }
}

// Find is a language by its tag; nil for English, and for one that is not here.
func Find(tag string) say.Tongue {
	for _, l := range all {
		if l.Tag() == tag {
			return l
		}
	}
	return nil
}

// Choice is a language that can be chosen.
type Choice struct{ Tag, Name string }

// Choices are the languages that can be chosen, each by its own name.
func Choices() []Choice {
	list := []Choice{{"en", "English"}}
	for _, l := range all {
		list = append(list, Choice{l.Tag(), l.file.Name})
	}
	return list
}

// Known tells whether a tag is one that can be chosen.
func Known(tag string) bool {
	return slices.ContainsFunc(Choices(), func(c Choice) bool { return c.Tag == tag })
}

// Everywhere says a text in all languages, for what is looked for by its words.
func Everywhere(t say.Text) string { return strings.Join(Ways(t), " ") }

// Ways are a text as each language says it.
func Ways(t say.Text) []string {
	list := []string{t.String()}
	for _, l := range all {
		list = append(list, t.In(say.Reader{Tongue: l}))
	}
	return list
}

// Wanted is the language that a browser asks for (Accept-Language), of those there are.
func Wanted(header string) string {
	tags := []language.Tag{language.English}
	for _, l := range all {
		tags = append(tags, l.tag)
	}
	asked, _, err := language.ParseAcceptLanguage(header)
	if err != nil {
		return "en"
	}
	_, i, sure := language.NewMatcher(tags).Match(asked...)
	if sure == language.No {
		return "en"
	}
	return tags[i].String()
}

// Tag is the language's tag.
func (l *Language) Tag() string { return l.file.Language }

// Keys are the sentences that the language has.
func (l *Language) Keys() []string {
	var keys []string
	for k := range l.file.Words {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// Forms are what a sentence is in the language: one, or one for each number.
func (l *Language) Forms(key string) []string { return l.file.Words[key].all() }

// All are the languages, for tests of their words.
func All() []*Language { return all }

// Sentence is words in the language; English where it has none.
func (l *Language) Sentence(w say.Words, args ...any) string {
	w = today(w)
	said, ok := l.file.Words[string(w)]
	if len(args) == 0 {
		if ok {
			return said.text
		}
		return w.String()
	}
	format := w.String()
	if ok {
		format = l.right(said, args)
	}
	for i, a := range args {
		switch x := a.(type) {
		case int:
			args[i] = whole{x, l}
		case say.Said:
			args[i] = inside{x, l}
		}
	}
	return fmt.Sprintf(format, args...)
}

// Count is so many of a thing: the file's "%d tray".
func (l *Language) Count(n int, one say.Words) string {
	return l.Sentence("%d "+one, n)
}

// Date is a date in the language.
func (l *Language) Date(t time.Time, layout string) string {
	layout = l.order.Replace(layout)
	for _, name := range []string{"January", "Monday"} {
		layout = strings.ReplaceAll(layout, name, "["+name+"]")
	}
	if !strings.Contains(layout, "[J") {
		layout = strings.ReplaceAll(layout, "Jan", "{Jan}")
	}
	if !strings.Contains(layout, "[M") {
		layout = strings.ReplaceAll(layout, "Mon", "{Mon}")
	}
	return l.dates.Replace(t.Format(layout))
}

// And puts the last of a list behind the others.
func (l *Language) And(last string) string {
	for begins, and := range l.file.AndBefore {
		if strings.HasPrefix(strings.ToLower(last), begins) {
			return " " + and + " "
		}
	}
	return " " + l.file.And + " "
}
