package words_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/words"
)

// german has what English and Spanish do without: nouns with capitals, three genders, points
// between thousands, and a comma and a point in its dates.
const german = `{"language": "de", "name": "Deutsch", "comma": true, "thousands": ".", "capitals": true, "and": "und",
"dates": [["Mon 2 January 2006", "Mon, 2. January 2006"], ["Mon 2 January", "Mon, 2. January"], ["2 January", "2. January"]],
"months": ["Januar", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"],
"short_months": ["Jan.", "Feb.", "März", "Apr.", "Mai", "Juni", "Juli", "Aug.", "Sep.", "Okt.", "Nov.", "Dez."],
"days": ["Sonntag", "Montag", "Dienstag", "Mittwoch", "Donnerstag", "Freitag", "Samstag"],
"short_days": ["So", "Mo", "Di", "Mi", "Do", "Fr", "Sa"],
"nouns": {"Tomato": {"gender": "f", "many": "Tomaten"}, "Radish": {"gender": "n", "many": "Radieschen"}},
"also": {"Tomate": ["Paradeiser"]},
"words": {"Tomato": "Tomate", "Radish": "Radieschen", "Basil": "Basilikum", "Save": "Speichern", "days": "Tage",
"%d cell": {"one": "%d Zelle", "other": "%d Zellen"}, "%s a week": "%s in der Woche", "%s, %d free": "%s, davon %d frei",
"like %s": {"of": 1, "f": "wie die %s", "n": "wie das %s", "other": "wie %s"}, "%d at %s": "an %[2]s: %[1]d",
"%s are left of it.": {"one": "Davon bleibt %s.", "other": "Davon bleiben %s."},
"Lift out %d of %d": {"by": 2, "one": "Heben Sie %d der einen heraus", "other": "Heben Sie %d von %d heraus"},
"sown on %s": "gesät am %s"}}`

// A language that needs more than the two there are is a file, and nothing else.
func TestAThirdLanguageIsAFile(t *testing.T) {
	l, err := words.Read([]byte(german))
	require.NoError(t, err)
	r := say.Reader{Tongue: l, Year: 2026}
	day := time.Date(2027, 3, 18, 0, 0, 0, 0, time.UTC)
	tomato, radish := say.Words("Tomato"), say.Words("Radish")
	for want, text := range map[string]say.Text{
		"Speichern":                     say.T("Save"),
		"1 Zelle":                       say.Plural(1, "cell"),
		"12.500 Zellen":                 say.Plural(12500, "cell"),
		"1 Tomate in der Woche":         say.T("%s a week", say.Many(1, say.Lower(tomato))),
		"12 Tomaten in der Woche":       say.T("%s a week", say.Many(12, say.Lower(tomato))),
		"12 Tomaten Roma, davon 3 frei": say.T("%s, %d free", say.Many(12, say.T("%s %s", tomato, say.Name("Roma"))), 3),
		"wie die Tomate":                say.T("like %s", say.Lower(tomato)),
		"wie das Radieschen":            say.T("like %s", radish),
		"wie Krautstiel":                say.T("like %s", say.Name("Krautstiel")),
		"Davon bleibt 1 Zelle.":         say.T("%s are left of it.", say.Plural(1, "cell")),
		"Davon bleiben 2 Zellen.":       say.T("%s are left of it.", say.Plural(2, "cell")),
		"Heben Sie 1 von 3 heraus":      say.T("Lift out %d of %d", 1, 3),
		"an Long table: 4":              say.T("%d at %s", 4, say.Name("Long table")),
		"gesät am Do, 18. März 2027":    say.T("sown on %s", say.Date(day, "Mon 2 January")),
		"Tomate und Basilikum":          say.List(tomato, say.Words("Basil")),
		"1,25 g":                        say.Of(1.25, unit.Gram),
		"12.500 L":                      say.Of(12500, unit.Litre),
	} {
		require.Equal(t, want, text.In(r))
	}
	names := []string{"Zwiebel", "Äpfel", "Apfel 10", "Apfel 2", "Öl", "Ohr"}
	say.Sort(r, names, func(s string) string { return s })
	require.Equal(t, []string{"Äpfel", "Apfel 2", "Apfel 10", "Ohr", "Öl", "Zwiebel"}, names)
	_, err = words.Read([]byte(strings.Replace(german, `"other": "%d Zellen"`, `"many": "%d Zellen"`, 1)))
	require.ErrorContains(t, err, "other")

	polish, err := words.Read([]byte(strings.Replace(strings.Replace(german, `"de"`, `"pl"`, 1), `{"one": "%d Zelle", "other": "%d Zellen"}`,
		`{"one": "%d komórka", "few": "%d komórki", "many": "%d komórek", "other": "%d komórki"}`, 1)))
	require.NoError(t, err)
	for n, want := range map[int]string{1: "1 komórka", 3: "3 komórki", 5: "5 komórek", 22: "22 komórki"} {
		require.Equal(t, want, say.Plural(n, "cell").In(say.Reader{Tongue: polish}))
	}
}

// Spanish has its dates, its plurals, its thousands and its alphabet.
func TestSpanishAsItIsWritten(t *testing.T) {
	r := say.Reader{Tongue: words.Find("es"), Year: 2027}
	day := time.Date(2027, 3, 18, 0, 0, 0, 0, time.UTC)
	for want, text := range map[string]say.Text{
		"jue 18 de marzo":         say.Date(day, "Mon 2 January"),
		"18 de marzo de 2027":     say.Date(day, "2 January 2006"),
		"jue 18 mar":              say.Date(day, "Mon 2 Jan"),
		"marzo de 2027":           say.Date(day, "January 2006"),
		"12 lechugas a la semana": say.T("%s a week", say.Many(12, say.Lower(say.Words("Lettuce")))),
		"1 lechuga a la semana":   say.T("%s a week", say.Many(1, say.Lower(say.Words("Lettuce")))),
		"12\u00a0500 semillas":    say.Plural(12500, "seed"),
		"1500 semillas":           say.Plural(1500, "seed"),
	} {
		require.Equal(t, want, text.In(r))
	}
	names := []string{"Ñame", "Nabo", "Óregano", "Oca"}
	say.Sort(r, names, func(s string) string { return s })
	require.Equal(t, []string{"Nabo", "Ñame", "Oca", "Óregano"}, names)
}

// Search understands what other people call a thing, and a word half typed.
func TestOtherWordsAreUnderstood(t *testing.T) {
	for asked, own := range map[string]string{
		"ejote": "judia verde", "Frijol": "judia de enrame", "frij": "judia de enrame", "reservoir": "tank", "EC": "strength", "clean the reserv": "clean the tank",
		"zucchini": "courgette", "el tanque norte": "el deposito norte", "poroto verde": "judia verde",
	} {
		require.Contains(t, words.Askings(asked), own, asked)
	}
	require.Equal(t, "el tanque norte", words.Askings("El TANQUE  norte")[0], "what was asked comes first")
	require.NotContains(t, words.Askings("poroto verde"), "judia de enrame verde", "the longer word goes first")
	require.Len(t, words.Askings("lettuce"), 1)
	require.Equal(t, []string{"courgette", "calabacin"}, words.Called("Zucchini"))
}
