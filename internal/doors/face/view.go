package face

import (
	"bytes"
	"embed"
	"fmt"
	"html/template"
	"io"
	"io/fs"
	"net/http"
	"path"
	"regexp"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/doors/help"
)

//go:embed view/*.html
var viewFiles embed.FS

// views holds, in each language, a template set for each page: the layout, every part, and
// the page.
type views struct {
	pages map[string]map[string]*template.Template
}

// loadViews reads the layout and the parts of every page, and the areas' pages, and says
// them in every language.
func loadViews(a *assets, areas []fs.FS) (*views, error) {
	own, err := fs.Sub(viewFiles, "view")
	if err != nil {
		return nil, err
	}
	v := &views{map[string]map[string]*template.Template{}}
	for _, l := range words.Choices() {
		if v.pages[l.Tag], err = loadPages(a, say.Reader{Tongue: words.Find(l.Tag)}, append([]fs.FS{own}, areas...)); err != nil {
			return nil, err
		}
	}
	return v, nil
}

func loadPages(a *assets, reader say.Reader, areas []fs.FS) (map[string]*template.Template, error) {
	options := languageOptions(reader.Language())
	base := template.New("").Funcs(template.FuncMap{
		"asset":     a.url,
		"newid":     NewID,
		"field":     MakeField,
		"t":         func(w any, args ...any) string { return sayIn(reader, w, args) },
		"language":  reader.Language,
		"date":      func(at any) string { return dateIn(reader, at) },
		"sure":      askSure,
		"ticks":     func(f *Form, list []TickView) ticksView { return ticksView{f, list} },
		"typed":     typed,
		"told":      told,
		"markword":  func(mark string) string { return reader.Say(marks[mark]) },
		"mark":      drawnMarks(reader),
		"languages": func() template.HTML { return options },
	})
	parts, err := fs.Glob(areas[0], "_*.html")
	if err != nil {
		return nil, err
	}
	for _, p := range parts {
		if err := parse(base, areas[0], p, reader); err != nil {
			return nil, err
		}
	}
	pages := map[string]*template.Template{}
	for _, files := range areas {
		names, err := fs.Glob(files, "[a-z]*.html")
		if err != nil {
			return nil, err
		}
		for _, p := range names {
			t, err := base.Clone()
			if err != nil {
				return nil, err
			}
			if err := parse(t, files, p, reader); err != nil {
				return nil, err
			}
			name := strings.TrimSuffix(path.Base(p), ".html")
			for _, others := range areas[1:] { // what other areas give to this page
				if _, err := fs.Stat(others, "_"+p); err != nil {
					continue
				}
				if err := parse(t, others, "_"+p, reader); err != nil {
					return nil, err
				}
			}
			if pages[name] != nil {
				return nil, fmt.Errorf("two pages are called %s", name)
			}
			pages[name] = t
		}
	}
	return pages, nil
}

// parse reads a template's file in the reader's language.
var indentation = regexp.MustCompile(`\n[ \n]+`)

func parse(t *template.Template, files fs.FS, name string, reader say.Reader) error {
	src, err := fs.ReadFile(files, name)
	if err != nil {
		return err
	}
	in := indentation.ReplaceAllString(string(src), "\n") // it is for whoever edits
	if reader.Tongue != nil {
		if in, err = Localize(in, func(w say.Words) string { return w.In(reader) }); err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
	}
	_, err = t.Parse(in)
	return err
}

// typed says how a browser lets a kind of field be typed.
func typed(kind string) template.HTMLAttr {
	switch kind {
	case "decimal":
		return `type="text" inputmode="decimal"`
	case "int":
		return `type="text" inputmode="numeric"`
	}
	return template.HTMLAttr(`type="` + template.HTMLEscapeString(kind) + `"`)
}

// told joins a field to what stands below it: its refusal, or else its hint.
func told(id, refused, hint string) template.HTMLAttr {
	says := template.HTMLAttr(`aria-describedby="` + template.HTMLEscapeString(id) + `-says"`)
	switch {
	case refused != "":
		return `aria-invalid="true" ` + says
	case hint != "":
		return says
	}
	return ""
}

// Doubt is something of what was typed that may be a mistake.
type Doubt struct{ Field, Message, Maybe string }

// sureView asks whether what was typed is right, and says what it means to keep it.
type sureView struct {
	Says   string
	Doubts []Doubt
	Keep   string
}

// askSure is used by templates: sure QUESTION KEEP, where the question is a text or doubts.
func askSure(question any, keep string) sureView {
	v := sureView{Keep: keep}
	switch q := question.(type) {
	case string:
		v.Says = q
	case []Doubt:
		v.Doubts = q
	}
	return v
}

// ticksView is what of a list was done, in a form: its ticks are named "did".
type ticksView struct {
	Form *Form
	List []TickView
}

// marks are said to those who do not see them.
var marks = map[string]say.Words{"": "nothing due", "none": "nothing due", "done": "done", "now": "now", "today": "today", "soon": "soon"}

// drawnMarks draws a mark of a size with its word. A list has a hundred of them, so each is
// written once.
func drawnMarks(reader say.Reader) func(size, mark string) template.HTML {
	drawn := map[[2]string]template.HTML{}
	for _, size := range []string{"", " small"} {
		for mark, word := range marks {
			drawn[[2]string{strings.TrimSpace(size), mark}] = template.HTML( // #nosec G203 -- none of it comes from people
				`<svg class="mark` + size + `" role="img" aria-label="` + reader.Say(word) + `"><use href="#m-` + mark + `"/></svg>`)
		}
	}
	return func(size, mark string) template.HTML { return drawn[[2]string{size, mark}] }
}

// languageOptions are the languages to choose from, with the one that is read.
func languageOptions(read string) template.HTML {
	var b strings.Builder
	for _, l := range words.Choices() {
		chosen := ""
		if l.Tag == read {
			chosen = " selected"
		}
		fmt.Fprintf(&b, "\n<option value=%q lang=%q%s>%s</option>", l.Tag, l.Tag, chosen, template.HTMLEscapeString(l.Name))
	}
	return template.HTML(b.String()) // #nosec G203 -- the files of the languages
}

// dateIn is a day of a time, or of one that is known.
func dateIn(reader say.Reader, at any) string {
	switch x := at.(type) {
	case time.Time:
		return reader.Say(say.Date(x, "2 Jan 2006"))
	case *time.Time:
		return reader.Say(say.Date(*x, "2 Jan 2006"))
	}
	return ""
}

// sayIn says what a template has: words with what stands in them, or a text.
func sayIn(reader say.Reader, w any, args []any) string {
	switch x := w.(type) {
	case string:
		return reader.T(say.Words(x), args...)
	case say.Text:
		return reader.Say(x)
	}
	return ""
}

// NewID is the id of an entry that a form may write: made when the form is
// shown, so that sending the form twice writes once.
func NewID() (string, error) {
	id, err := uuid.NewV7()
	return id.String(), err
}

// Page is what the layout needs; V is the page's own view model.
type Page struct {
	Title   string
	Area    say.Words // the name of the area that it belongs to; "": none
	Areas   []Link
	Who     who.Who
	P       say.Reader
	Signed  bool
	Notice  string
	Moves   bool // the clock can be moved on
	Today   calendar.Day
	Walk    []WalkMark
	Flash   string
	Undo    *Back
	Path    string
	MayPlan bool
	MaySet  bool
	MayDose bool
	MaySow  bool
	Crew    bool
	Help    []help.Topic // about this page

	V any
}

// Strip is what stands beside every page: the day, and the places of the walk.
type Strip struct {
	Today calendar.Day
	Marks []WalkMark
}

const stripKey = "strip"

// SetStrip keeps the strip that a page has worked out already.
func SetStrip(c *gin.Context, x Strip) { c.Set(stripKey, x) }

// WalkMark is a stop in the strip of places.
type WalkMark struct {
	Name, Path, Says, Mark string
	Here                   bool
}

// Render answers with a whole page; the walk beside it is worked out for
// everybody who is signed in.
func (s *Server) Render(c *gin.Context, status int, name string, area say.Words, v any) {
	reader := s.Reader(c)
	p := Page{Area: area, Areas: s.links, Notice: s.notice(reader), Moves: s.cfg.Clock != nil, P: reader, V: v, Path: c.Request.URL.RequestURI()}
	if w, ok := s.who(c); ok {
		p.Signed, p.Who, p.Help = true, w, help.Beside(name)
		p.MayPlan, p.MaySet, p.MayDose, p.MaySow = w.May(who.Plan), w.May(who.Settings), w.May(who.Dose), w.May(who.Sow)
		p.Crew = w.Kind == who.Crew
		strip, ok := c.Get(stripKey)
		if !ok && status < 500 {
			if fresh, err := s.cfg.Strip(c.Request.Context(), s.Store, w, c.Request.URL); err == nil {
				strip = fresh
			}
		}
		if x, ok := strip.(Strip); ok {
			p.Today, p.Walk = x.Today, x.Marks
		}
		p.Flash, p.Undo = s.sessions.PopString(c.Request.Context(), "flash"), s.undoOf(c, p.Path)
	}
	if t, ok := v.(interface{ Title() say.Text }); ok {
		p.Title = reader.Say(t.Title())
	}
	s.Write(c, status, name, "layout", p)
}

// draw runs the part of a page's templates.
func (v *views) draw(w io.Writer, language, page, part string, data any) error {
	t, ok := v.pages[language][page]
	if !ok {
		return fmt.Errorf("there is no page %q", page)
	}
	return t.ExecuteTemplate(w, part, data)
}

// Write runs a template into a buffer first, so that a fault in it is an error
// page and not half a page.
func (s *Server) Write(c *gin.Context, status int, name, part string, data any) {
	store.Release(c.Request.Context()) // all is read that is shown
	var buf bytes.Buffer
	if err := s.draw(&buf, s.Reader(c).Language(), name, part, data); err != nil {
		s.Log.Error("view", "name", name, "error", err)
		c.String(http.StatusInternalServerError, s.Reader(c).T("This page cannot be shown. Number %s", c.GetString(RequestID)))
		return
	}
	c.Data(status, "text/html; charset=utf-8", buf.Bytes())
}

// FieldView is one input with its label, unit, what was typed and what is wrong with it.
type FieldView struct {
	ID, Name, Label, Unit, Value, Error, Hint, Kind string
	Big, Needed                                     bool
}

// MakeField is used by templates: field FORM NAME LABEL UNIT KIND HINT.
func MakeField(f *Form, name, label, unit, kind, hint string) FieldView {
	if f == nil {
		f = &Form{}
	}
	big := strings.HasPrefix(kind, "big")
	kind = strings.TrimPrefix(kind, "big")
	if kind == "" {
		kind = "decimal"
	}
	return FieldView{
		ID:    "f-" + f.prefix + name,
		Name:  name,
		Label: label,
		Unit:  unit,
		Value: f.Get(name),
		Error: f.Error(name),
		Hint:  hint,
		Kind:  kind,
		Big:   big, Needed: f.needs[name],
	}
}
