package used_test

import (
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ulpa/internal/base/store"
	"ulpa/internal/base/words"
	"ulpa/internal/base/words/used"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/people"
)

const module = "../../../.."

// verb is one of fmt's in a format, with the argument it may name.
var verb = regexp.MustCompile(`%(?:\[\d+\])?[-+#0]*[\d.]*(?:\[\d+\])?[a-zA-Z]`)

func verbs(format string) []string {
	var out []string
	for _, v := range verb.FindAllString(strings.ReplaceAll(format, "%%", ""), -1) {
		out = append(out, v[len(v)-1:])
	}
	slices.Sort(out)
	return out
}

// Every text of the program is in every language's file, with the same figures in it, and
// no file has one that is never said.
func TestEveryLanguageHasEveryText(t *testing.T) {
	texts, err := used.Texts(module)
	require.NoError(t, err)
	require.Greater(t, len(texts), 2000)
	for _, l := range words.All() {
		has, had := l.Keys(), map[string]bool{}
		var never, missing []string
		for _, text := range has {
			if had[text] = true; texts[text] == "" {
				never = append(never, text)
			}
		}
		for text, at := range texts {
			if !had[text] {
				missing = append(missing, fmt.Sprintf("%q (%s)", text, at))
				continue
			}
			for _, said := range l.Forms(text) {
				if strings.Contains(text, "%") && verb.MatchString(text) {
					require.Equal(t, verbs(text), verbs(said), "%s: %q", l.Tag(), said)
				}
				require.NotEmpty(t, strings.TrimSpace(said), text)
			}
		}
		slices.Sort(missing)
		require.Empty(t, missing, "%s lacks these", l.Tag())
		require.Empty(t, never, "%s has these, and they are never said", l.Tag())
	}
}

// givenUpHere are words that docs and programs are not told any more.
const givenUpHere = `(?i)\b(bears?|borne|foretold|reckon(s|ed)?|second proof|unhardened|(put|bring) (it |%s )?right|taken? (it )?back)\b[^":_]`

// quoted is a text in code.
var quoted = regexp.MustCompile(`"[^"\n]*"`)

// A word that was given up for another (docs/writing.md) does not come back, in any language, in
// docs, or in what programs and the command line are told.
func TestTheGlossaryHolds(t *testing.T) {
	texts, err := used.Texts(module)
	require.NoError(t, err)
	for _, files := range []string{"docs/*.md", "*.md", "internal/doors/api/*.go", "cmd/ulpa/*.go"} {
		list, err := filepath.Glob(filepath.Join(module, files))
		require.NoError(t, err)
		require.NotEmpty(t, list, files)
		for _, f := range list {
			b, err := os.ReadFile(f)
			require.NoError(t, err)
			if filepath.Base(f) == "writing.md" || strings.HasSuffix(f, "_test.go") {
				continue
			}
			said := []string{string(b)}
			if filepath.Ext(f) == ".go" {
				said = quoted.FindAllString(said[0], -1)
			}
			for _, text := range said {
				require.NotRegexp(t, givenUpHere, text, f)
			}
		}
	}
	givenUp := map[string]*regexp.Regexp{
		"": regexp.MustCompile(`(?i)\b(bears?|borne|foretold|reckon(s|ed)?|reservoirs?|second proof|unhardened|nearest kind|agents?|bands?|ramp|` +
			`(put|bring) (it |%s )?right|(take|took|taken) (it |that |this )?back)\b`),
		"es": regexp.MustCompile(`(?i)(\b(tú|tu|tus|tienes|puedes|sabes|necesitas|dilo|tíralo|mídelo|déjalo)\b|\bdelicada|` +
			`tampón|\btarros?\b|\bpienso\b|alvéolo|\brepisa|endurec|el rastro\b(?: dice|:)|hora semanal)`),
	}
	for text := range texts {
		require.NotRegexp(t, givenUp[""], text)
		for _, l := range words.All() {
			for _, said := range l.Forms(text) {
				if no := givenUp[l.Tag()]; no != nil {
					require.NotRegexp(t, no, said)
				}
			}
		}
	}
}

// pseudo is a language made of the program's own texts, each between marks: what a third
// language takes is this one file.
func pseudo(t *testing.T, texts map[string]string) *words.Language {
	file := map[string]any{
		"language": "qps", "name": "⟦Pseudo⟧", "comma": true, "and": "⟦+⟧",
		"months": make([]string, 12), "short_months": make([]string, 12), "days": make([]string, 7), "short_days": make([]string, 7),
	}
	said := map[string]string{}
	for text := range texts {
		plain, _, _ := strings.Cut(text, "##")
		said[text] = "⟦" + plain + "⟧"
	}
	for name, n := range map[string]int{"months": 12, "short_months": 12, "days": 7, "short_days": 7} {
		var list []string
		for i := range n {
			list = append(list, fmt.Sprintf("⟦%s %d⟧", name, i+1))
		}
		file[name] = list
	}
	file["words"] = said
	b, err := json.Marshal(file)
	require.NoError(t, err)
	l, err := words.Read(b)
	require.NoError(t, err)
	return l
}

// Every page in a language that is made up: nothing is left on it that is neither a text of
// that language nor something people wrote.
func TestNoPageHasAWordOfItsOwn(t *testing.T) {
	texts, err := used.Texts(module)
	require.NoError(t, err)
	forget := words.Speak(pseudo(t, texts))
	defer forget()
	d := testdb.Demo(t)
	handler, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(t, err)
	server := httptest.NewServer(handler)
	defer server.Close()
	ines := d.Ines(t)
	require.NoError(t, people.SetLanguage(t.Context(), d.Store, ines, "qps"))
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	browser := &http.Client{Jar: jar}
	_, err = browser.PostForm(server.URL+"/sign-in", url.Values{"login": {demo.People[0].Login}, "password": {demo.People[0].Secret}})
	require.NoError(t, err)
	written, ids := writtenBy(t, d)
	pages, bare := 0, map[string]string{}
	for _, r := range web.Samples() {
		method, path, _ := strings.Cut(r.On, " ")
		if r.Ask != "" {
			path = r.Ask
		}
		for name, id := range ids {
			path = strings.ReplaceAll(path, "{"+name+"}", id)
		}
		for _, path := range variants(path, ids) {
			if method != http.MethodGet || strings.HasPrefix(path, "/api/") || strings.HasPrefix(path, "/static/") || strings.HasSuffix(path, "z") ||
				strings.HasSuffix(path, ".csv") {
				continue
			}
			res, err := browser.Get(server.URL + path)
			require.NoError(t, err)
			if !strings.HasPrefix(res.Header.Get("Content-Type"), "text/html") {
				continue
			}
			doc, err := html.Parse(res.Body)
			require.NoError(t, err)
			require.NoError(t, res.Body.Close())
			for _, text := range shown(doc) {
				if left := leftOver(text, written); left != "" {
					bare[left] = path
				}
			}
			pages++
		}
	}
	require.Empty(t, bare)
	require.Greater(t, pages, 60)
}

// variants are more ways to ask for a page than its sample.
func variants(path string, ids map[string]string) []string {
	list := []string{path}
	switch path {
	case "/sums/air":
		for _, name := range []string{
			"seed-rate", "germination-time", "emergence", "expected-count", "back-schedule", "frost", "vessel", "recipe", "conductivity",
			"reservoir-adjust", "ph-adjust", "learn-dose", "combine", "runs-dry", "jar", "site-night", "daylight", "oxygen", "ammonia", "compare",
			"calibrate", "drift", "spoon", "dechlorinate", "indoor-water", "fish",
		} {
			list = append(list, "/sums/"+name)
		}
		list = append(list, "/sums/ph-adjust?volume_l=x", "/sums/recipe?units=us%2Fppm500", "/sums/seed-rate?plants_wanted=0")
	case "/":
		for name, id := range ids {
			if strings.HasPrefix(name, "place") {
				list = append(list, "/?stop="+id)
			}
		}
	case "/sow":
		list = append(list, "/sow?lot="+ids["lot"]+"&tray="+ids["tray"]+"&wanted=24")
	case "/notebook":
		list = append(list, "/notebook?q=nothing+at+all", "/nowhere")
	case "/crops":
		list = append(list, "/crops/chilli", "/crops/basil", "/crops?crop=qq")
	}
	for name, id := range ids {
		for kind, at := range map[string]string{"batch": "/batches/", "place": "/places/", "tank": "/tanks/", "tray": "/trays/"} {
			if strings.HasPrefix(name, kind+" ") && path == at+ids[kind] {
				list = append(list, at+id)
			}
		}
	}
	return list
}

// writtenBy is all that people wrote in the demo, and the ids of its things: one of each by
// its kind, and all by kind and number.
func writtenBy(t *testing.T, d testdb.DB) (written []string, ids map[string]string) {
	ids = map[string]string{}
	require.NoError(t, d.Store.Read(t.Context(), d.Ines(t), func(tx *store.Tx) error {
		rows, err := tx.Conn().
			Query(t.Context(), `SELECT name FROM school UNION SELECT slug FROM school UNION SELECT name FROM person UNION SELECT login FROM person
			UNION SELECT name FROM place UNION SELECT name FROM tray UNION SELECT name FROM tank UNION SELECT name FROM seed_lot UNION SELECT name FROM variety 
			UNION SELECT kept_in FROM seed_lot
			UNION SELECT name FROM pot UNION SELECT name FROM mix UNION SELECT name FROM water UNION SELECT name FROM meter
			UNION SELECT name FROM salt UNION SELECT name FROM recipe UNION SELECT name FROM trough UNION SELECT name FROM stock
			UNION SELECT data ->> 'note' FROM entry WHERE kind = 'fish_stock'
			UNION SELECT data ->> 'note' FROM entry WHERE kind = 'picture'
			UNION SELECT name FROM closure UNION SELECT name FROM school_days UNION SELECT name FROM bed_section UNION SELECT whom FROM period
			UNION SELECT name FROM job UNION SELECT name FROM own_crop UNION SELECT name FROM goal UNION SELECT whom FROM goal
			UNION SELECT name FROM series UNION SELECT code FROM batch UNION SELECT purpose FROM batch UNION SELECT data ->>
				'text' FROM entry WHERE kind = 'note'
			UNION SELECT data ->> 'file' FROM entry WHERE kind = 'import'`)
		if err != nil {
			return err
		}
		for rows.Next() {
			var s *string
			if err := rows.Scan(&s); err != nil {
				return err
			}
			if s != nil && *s != "" {
				written = append(written, *s)
			}
		}
		for kind, table := range map[string]string{
			"batch": "batch", "tray": "tray", "place": "place", "tank": "tank", "lot": "seed_lot", "picture": "picture", "water": "water",
			"meter":  "meter",
			"recipe": "recipe", "raft": "place WHERE boards > 1",
			"entry": "entry WHERE kind = 'look'", "trough": "trough", "jars": "place WHERE kind = 'jars'", "jar": "tank WHERE name = 'Jar 3'",
		} {
			rows, err := tx.Conn().Query(t.Context(), "SELECT id::text FROM "+table+" ORDER BY 1 LIMIT 40")
			if err != nil {
				return err
			}
			for i := 0; rows.Next(); i++ {
				var id string
				if err := rows.Scan(&id); err != nil {
					return err
				}
				ids[kind], ids[fmt.Sprint(kind, " ", i)] = id, id
			}
		}
		return rows.Err()
	}))
	slices.SortFunc(written, func(a, b string) int { return len(b) - len(a) })
	return written, ids
}

// shown are the texts of a page that somebody reads or hears.
func shown(n *html.Node) (out []string) {
	if n.Type == html.ElementNode {
		if slices.Contains([]string{"script", "style", "kbd"}, n.Data) ||
			slices.ContainsFunc(n.Attr, func(a html.Attribute) bool { return a.Key == "lang" && n.Data != "html" }) {
			return nil
		}
		for _, a := range n.Attr {
			if slices.Contains([]string{"aria-label", "title", "placeholder", "alt"}, a.Key) {
				out = append(out, a.Val)
			}
		}
	}
	if n.Type == html.TextNode {
		out = append(out, n.Data)
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		out = append(out, shown(c)...)
	}
	return out
}

// universal is what is written alike everywhere: units, chemical signs, cells, the program.
var universal = regexp.MustCompile(
	`Ulpa|pH|[mµ]S/cm|µmol/m²/s|mo?l/m²|m?mol/L|meq/L|mg/L|g/mL|mL|MJ/m²|kPa|°C|°F|CaCO₃|CaCO3` +
		`|NO3_N|NH4_N|NO₃-N|NH₄-N|NH₄⁺|NO₃⁻|H₂PO₄⁻|SO₄²⁻|HCO₃⁻|NH4|NO3|H2PO4|SO4|HCO3` +
		`|\b[A-Z]{1,2}\d{1,2}\b|\b[A-Z][a-z]?\b|\bg/m²` +
		`|\b(?:L|m?g|mV|cm|mm|m|h|min|gal|in|ft|oz|lb|kg|K|ppm|atm|pp)\b|\be\d|log₂|\d+ x|CSV|PIN|UTC|[a-z]+_[a-z_0-9]+`,
)

// leftOver is what of a text is neither between marks, nor written by people, nor the same
// in all languages.
func leftOver(text string, written []string) string {
	var b strings.Builder
	depth := 0
	for _, r := range text {
		switch {
		case r == '⟦':
			depth++
		case r == '⟧':
			depth--
		case depth == 0:
			b.WriteRune(r)
		}
	}
	s := b.String()
	for _, w := range written {
		s = strings.ReplaceAll(s, w, "")
	}
	s = universal.ReplaceAllString(s, "")
	if !regexp.MustCompile(`\p{L}{2}`).MatchString(s) {
		return ""
	}
	return s
}
