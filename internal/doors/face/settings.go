package face

import (
	"bytes"
	"html/template"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Section is an area's part of the settings, a page of its own: a list of things of a sort,
// or a template called settings-NAME in the area's _settings.html, drawn from a SectionView.
type Section struct {
	Name         string
	Title, About say.Words
	Sort         things.Sort                     // the things that it lists; nil: it has a template
	View         func(*gin.Context) (any, error) // what there is; nil: its forms alone
	Forms        []SettingsForm
	May          who.Ability // 0: for the coordinator
	Picture      Picture     // of the thing that is being typed; nil: none
}

// SettingsForm is a form of a section, posted to /settings/NAME.
type SettingsForm struct {
	Name string
	Read func(*gin.Context, *Form) (keep func() error) // reads the form, and says how it is kept
	Send []string                                      // a sample of what is sent, as in a Route
	Says func() Outcome                                // what it leads to; nil: back to its section
}

func (x Section) may() who.Ability {
	if x.May == 0 {
		return who.Settings
	}
	return x.May
}

func (x Section) path() string { return "/settings/" + x.Name }

// SectionView is what a section is drawn from.
type SectionView struct {
	V      any
	P      say.Reader
	posted string
	form   *Form
}

// F is a form of the section: what was typed when it was refused, else what there is, in
// pairs of name and value.
func (v SectionView) F(form string, there ...string) *Form {
	if form == v.posted {
		return v.form.As(form)
	}
	return BlankForm(v.P, there...).As(form)
}

// settingsView is the list of sections.
type settingsView struct {
	Sections []sectionLink
	ToTell   []Told
	AllTold  bool
}

// sectionLink leads to a section.
type sectionLink struct {
	Path        string
	Name, About say.Words
}

// Told is something that a school tells about itself when it begins, in working order.
type Told struct {
	Name, Why say.Words
	Path      string
	Done      bool
}

func (settingsView) Title() say.Text { return say.T("Settings") }

// sectionPage is one section, with what it lists or its own form.
type sectionPage struct {
	Heading, About say.Words
	Path           string
	Sections       []sectionLink
	Rest           []string
	List           *listView
	Card           template.HTML
}

// Title is the section's.
func (v sectionPage) Title() say.Text { return say.T("%s · %s", v.Heading, say.T("Settings")) }

// settings are the routes of the pages that the sections make up, and of their forms.
func (s *Server) settings(sections []Section) []Route {
	routes := []Route{{On: "GET /settings", Answer: func(c *gin.Context) error { return s.showIndex(c, sections) }}}
	if s != nil { // without a server only the routes are asked for
		s.sections = sections
	}
	for _, x := range sections {
		again := func(c *gin.Context, status int, posted string, f *Form) error {
			return s.showSection(c, status, x, posted, f)
		}
		routes = append(routes, Route{On: "GET " + x.path(), Answer: func(c *gin.Context) error {
			return again(c, http.StatusOK, "", &Form{})
		}})
		if x.Sort != nil {
			routes = append(routes, s.thingRoutes(x)...)
		}
		for _, f := range x.Forms {
			routes = append(routes, Route{On: "POST /settings/" + f.Name, Send: f.Send, Answer: func(c *gin.Context) error {
				return s.saveSettings(c, x, f)
			}})
		}
	}
	return routes
}

func (s *Server) showIndex(c *gin.Context, sections []Section) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	page := settingsView{Sections: linksFor(w, sections)}
	if w.May(who.Settings) && s.cfg.ToTell != nil {
		var err error
		if page.ToTell, err = s.cfg.ToTell(ctx, s.Store, w); err != nil {
			return err
		}
		page.AllTold = true
		for _, t := range page.ToTell {
			page.AllTold = page.AllTold && t.Done
		}
	}
	s.Render(c, http.StatusOK, "settings", "", page)
	return nil
}

// Pages are the pages that somebody may go to: the areas', the settings' sections and
// one's own.
func (s *Server) Pages(w who.Who) []Link {
	all := append([]Link{{Name: "Your sign-in", Path: "/me"}, {Name: "What grows already", Path: "/adopt"}, {Name: "Sow", Path: "/sow"}}, s.links...)
	if w.May(who.Plan) {
		all = append(all, Link{Name: "Settings", Path: "/settings"})
	}
	if w.May(who.Settings) {
		all = append(all, Link{Name: "The log of changes", Path: "/trail"})
	}
	for _, x := range linksFor(w, s.sections) {
		all = append(all, Link{Name: x.Name, Path: x.Path})
	}
	return all
}

// linksFor are the sections that somebody may see.
func linksFor(w who.Who, sections []Section) (out []sectionLink) {
	for _, x := range sections {
		if w.May(x.may()) {
			out = append(out, sectionLink{x.path(), x.Title, x.About})
		}
	}
	return out
}

func (s *Server) saveSettings(c *gin.Context, x Section, form SettingsForm) (err error) {
	_, w := s.Me(c)
	f := ReadForm(c, w.Prefs)
	if keep := form.Read(c, f); !f.Any() {
		err = keep()
	}
	return s.Settle(c, f, err, func(status int) error { return s.showSection(c, status, x, form.Name, f) }, func() Outcome {
		if form.Says != nil {
			return form.Says()
		}
		return Outcome{Says: say.T("Saved."), To: x.path()}
	})
}

func (s *Server) showSection(c *gin.Context, status int, x Section, posted string, f *Form) error {
	_, w := s.Me(c)
	if err := w.Must(x.may()); err != nil {
		return err
	}
	f.told = map[string]bool{}
	page := sectionPage{Heading: x.Title, About: x.About, Path: x.path(), Sections: linksFor(w, s.sections)}
	if x.Sort != nil {
		list, err := s.list(c, x, posted, f)
		if err != nil {
			return err
		}
		page.List = list
	}
	if x.View != nil || x.Sort == nil {
		v := SectionView{P: w.Prefs, posted: posted, form: f}
		if x.View != nil {
			var err error
			if v.V, err = x.View(c); err != nil {
				return err
			}
		}
		var out bytes.Buffer
		if err := s.draw(&out, w.Prefs.Language(), "section", "settings-"+x.Name, v); err != nil {
			return err
		}
		page.Card = template.HTML(out.String()) // #nosec G203 -- a template of ours made it
	}
	for field := range f.Errors {
		if !f.told[field] {
			page.Rest = append(page.Rest, f.Errors[field])
		}
	}
	s.Render(c, status, "section", "", page)
	return nil
}
