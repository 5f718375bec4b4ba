package face

import (
	"bytes"
	"html/template"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/who"
)

// Section is an area's part of the settings: a card with forms. Its template, called
// settings-NAME, stands in the area's _settings.html and is drawn from a SectionView.
type Section struct {
	Name  string
	View  func(*gin.Context) (any, error) // what there is; nil: its forms alone
	Forms []SettingsForm
}

// SettingsForm is a form of a section, posted to /settings/NAME.
type SettingsForm struct {
	Name string
	Read func(*gin.Context, Form) (keep func() error) // reads the form, and says how it is kept
	Send []string                                     // a sample of what is sent, as in a Route
}

// SectionView is what a section is drawn from.
type SectionView struct {
	V      any
	P      say.Reader
	posted string
	form   Form
}

// F is a form of the section: what was typed when it was refused, else what there is, in
// pairs of name and value.
func (v SectionView) F(form string, there ...string) Form {
	if form == v.posted {
		return v.form.As(form)
	}
	return BlankForm(v.P, there...).As(form)
}

type settingsView struct{ Sections []sectionCard }

// sectionCard is a section as it is drawn, and what was refused beside none of its fields.
type sectionCard struct {
	Rest []string
	Card template.HTML
}

func (settingsView) Title() say.Text { return say.T("Settings") }

// settings are the routes of the page that the sections make up, and of their forms.
func (s *Server) settings(sections []Section) []Route {
	routes := []Route{{On: "GET /settings", Answer: func(c *gin.Context) error {
		return s.showSettings(c, http.StatusOK, sections, "", Form{})
	}}}
	for _, x := range sections {
		for _, f := range x.Forms {
			routes = append(routes, Route{On: "POST /settings/" + f.Name, Send: f.Send, Answer: func(c *gin.Context) error {
				return s.saveSettings(c, sections, x, f)
			}})
		}
	}
	return routes
}

func (s *Server) saveSettings(c *gin.Context, sections []Section, x Section, form SettingsForm) (err error) {
	_, w := s.Me(c)
	f := ReadForm(c, w.Prefs)
	if keep := form.Read(c, f); !f.Any() {
		err = keep()
	}
	return s.Settle(c, f, err, func(status int) error { return s.showSettings(c, status, sections, form.Name, f) },
		func() Outcome { return Outcome{Says: say.T("Kept."), To: "/settings#" + x.Name} })
}

func (s *Server) showSettings(c *gin.Context, status int, sections []Section, posted string, f Form) error {
	_, w := s.Me(c)
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var page settingsView
	f.told = map[string]bool{}
	for _, x := range sections {
		v := SectionView{P: w.Prefs, posted: posted, form: f}
		if x.View != nil {
			var err error
			if v.V, err = x.View(c); err != nil {
				return err
			}
		}
		var out bytes.Buffer
		if err := s.draw(&out, w.Prefs.Language(), "settings", "settings-"+x.Name, v); err != nil {
			return err
		}
		card := sectionCard{Card: template.HTML(out.String())} // #nosec G203 -- a template of ours made it
		if slices.ContainsFunc(x.Forms, func(own SettingsForm) bool { return own.Name == posted }) {
			for field := range f.Errors {
				if !f.told[field] {
					card.Rest = append(card.Rest, f.Errors[field])
				}
			}
		}
		page.Sections = append(page.Sections, card)
	}
	s.Render(c, status, "settings", "", page)
	return nil
}
