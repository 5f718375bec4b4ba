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
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/unit"
	"ulpa/internal/who"
)

//go:embed view/*.html
var viewFiles embed.FS

// views holds a template set for each page: the layout, every part, and the page.
type views struct{ pages map[string]*template.Template }

// loadViews reads the layout and the parts of every page, and the areas' pages.
func loadViews(a *assets, areas []fs.FS) (*views, error) {
	funcs := template.FuncMap{
		"asset":    a.url,
		"newid":    NewID,
		"field":    MakeField,
		"markword": markWord,
	}
	base, err := template.New("").Funcs(funcs).ParseFS(viewFiles, "view/_*.html")
	if err != nil {
		return nil, err
	}
	v := &views{map[string]*template.Template{}}
	own, err := fs.Sub(viewFiles, "view")
	if err != nil {
		return nil, err
	}
	for _, files := range append([]fs.FS{own}, areas...) {
		pages, err := fs.Glob(files, "[a-z]*.html")
		if err != nil {
			return nil, err
		}
		for _, p := range pages {
			t, err := base.Clone()
			if err != nil {
				return nil, err
			}
			if t, err = t.ParseFS(files, p); err != nil {
				return nil, err
			}
			name := strings.TrimSuffix(path.Base(p), ".html")
			if v.pages[name] != nil {
				return nil, fmt.Errorf("two pages are called %s", name)
			}
			v.pages[name] = t
		}
	}
	return v, nil
}

// markWord says a mark to those who do not see it.
func markWord(mark string) string {
	if mark == "none" || mark == "" {
		return "nothing due"
	}
	return mark
}

// NewID is the id of an entry that a form may write: made when the form is
// shown, so that sending the form twice writes once.
func NewID() (string, error) {
	id, err := uuid.NewV7()
	return id.String(), err
}

// Area is an entry of the navigation.
type Area struct {
	Name, Path, Key string
	Icon            string
}

// Page is what the layout needs; V is the page's own view model.
type Page struct {
	Title   string
	Area    string
	Areas   []Area
	Who     who.Who
	P       unit.Prefs
	Signed  bool
	Notice  string
	Today   calendar.Day
	Walk    []WalkMark
	Flash   string
	Undo    string
	Path    string
	MayPlan bool
	MaySet  bool
	MayDose bool
	V       any
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
func (s *Server) Render(c *gin.Context, status int, name, areaName string, v any) {
	p := Page{Area: areaName, Areas: s.cfg.Areas, Notice: s.cfg.Notice, V: v, Path: c.Request.URL.RequestURI()}
	if w, ok := s.who(c); ok {
		p.Signed, p.Who, p.P = true, w, w.Prefs
		p.MayPlan, p.MaySet, p.MayDose = w.May(who.Plan), w.May(who.Settings), w.May(who.Dose)
		strip, ok := c.Get(stripKey)
		if !ok && status < 500 {
			if fresh, err := s.cfg.Strip(c.Request.Context(), s.Store, w, c.Request.URL); err == nil {
				strip = fresh
			}
		}
		if x, ok := strip.(Strip); ok {
			p.Today, p.Walk = x.Today, x.Marks
		}
		ctx := c.Request.Context()
		p.Flash, p.Undo = s.sessions.PopString(ctx, "flash"), s.sessions.PopString(ctx, "undo")
	}
	if t, ok := v.(interface{ Title() string }); ok {
		p.Title = t.Title()
	}
	s.Write(c, status, name, "layout", p)
}

// draw runs the part of a page's templates.
func (v *views) draw(w io.Writer, page, part string, data any) error {
	t, ok := v.pages[page]
	if !ok {
		return fmt.Errorf("there is no page %q", page)
	}
	return t.ExecuteTemplate(w, part, data)
}

// Write runs a template into a buffer first, so that a fault in it is an error
// page and not half a page.
func (s *Server) Write(c *gin.Context, status int, name, part string, data any) {
	var buf bytes.Buffer
	if err := s.draw(&buf, name, part, data); err != nil {
		s.Log.Error("view", "name", name, "error", err)
		c.String(http.StatusInternalServerError, "This page cannot be shown. Number "+c.GetString(RequestID))
		return
	}
	c.Data(status, "text/html; charset=utf-8", buf.Bytes())
}

// FieldView is one input with its label, unit, what was typed and what is wrong with it.
type FieldView struct {
	ID, Name, Label, Unit, Value, Error, Hint, Kind string
	Big                                             bool
}

// MakeField is used by templates: field FORM NAME LABEL UNIT KIND HINT.
func MakeField(f Form, name, label, unit, kind, hint string) FieldView {
	big := strings.HasPrefix(kind, "big")
	kind = strings.TrimPrefix(kind, "big")
	if kind == "" {
		kind = "decimal"
	}
	return FieldView{ID: "f-" + f.prefix + name, Name: name, Label: label, Unit: unit, Value: f.Get(name), Error: f.Error(name), Hint: hint, Kind: kind, Big: big}
}
