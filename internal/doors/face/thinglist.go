package face

import (
	"html/template"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/things"
)

// listView is a list of things, and the form of one of them when it is asked for.
type listView struct {
	Called  things.Called
	Items   []thingLine
	Retired []thingLine
	Form    *thingForm
}

// thingLine is a thing in the list of a section.
type thingLine struct{ ID, Name, Says, Page string }

// thingForm changes one thing, or adds one.
type thingForm struct {
	Path, ID, Was, Like string
	Heading             string
	Inputs, More        []InputView // More are folded until somebody asks, or one of them is wrong
	Open                bool
	Asks                string
	Units               say.Reader
	Alters              []string
	New, Retired        bool
	Picture             template.HTML
	Drawn               bool
	Name                string
}

// Picture draws a thing as it is typed so far.
type Picture func(p say.Reader, typed map[string]any) template.HTML

// thingRoutes are what a list of things answers.
func (s *Server) thingRoutes(x Section) []Route {
	base, called := x.path(), x.Sort.Called()
	id := []string{"id", "{new}"}
	routes := []Route{{On: "POST " + base, Answer: func(c *gin.Context) error { return s.keepThing(c, x) }}}
	act := func(name string, do func(*gin.Context, uuid.UUID, *Form) error, says say.Words, send ...string) {
		routes = append(routes, Route{On: "POST " + base + "/" + name, Send: append(id, send...), Answer: func(c *gin.Context) error {
			_, w := s.Me(c)
			f := ReadForm(c, w.Prefs)
			one := f.ID("id")
			var err error
			if !f.Any() {
				err = do(c, one, f)
			}
			return s.Settle(c, f, err, func(status int) error { return s.showSection(c, status, x, name, f) },
				func() Outcome { return Outcome{Says: say.T(says), To: base} })
		}})
	}
	if called.Retires {
		act("retire", func(c *gin.Context, one uuid.UUID, _ *Form) error {
			ctx, w := s.Me(c)
			return x.Sort.Retire(ctx, s.Store, w, one, true)
		}, "Retired: it is off the lists and stays in the records.")
		act("back", func(c *gin.Context, one uuid.UUID, _ *Form) error {
			ctx, w := s.Me(c)
			return x.Sort.Retire(ctx, s.Store, w, one, false)
		}, "Restored.")
	}
	if called.Deletes {
		act("delete", func(c *gin.Context, one uuid.UUID, f *Form) error {
			ctx, w := s.Me(c)
			return x.Sort.Delete(ctx, s.Store, w, one, f.Get("was"))
		}, "Deleted.")
	}
	if called.Orders {
		act("move", func(c *gin.Context, one uuid.UUID, f *Form) error {
			ctx, w := s.Me(c)
			return x.Sort.Move(ctx, s.Store, w, one, f.Int("by", 0))
		}, "The order is changed.", "by", "1")
		routes = append(routes, Route{On: "POST " + base + "/order", Answer: func(c *gin.Context) error { return s.arrange(c, x) }})
	}
	if x.Picture != nil {
		routes = append(routes, Route{On: "POST " + base + "/picture", Answer: func(c *gin.Context) error {
			_, w := s.Me(c)
			f := ReadForm(c, w.Prefs)
			picture := x.Picture(w.Prefs, f.TypedIn(x.Sort.Inputs(), nil))
			c.Data(http.StatusOK, "text/html; charset=utf-8", []byte(`<div class="picture" id="picture">`+picture+`</div>`))
			return nil
		}})
	}
	return routes
}

// list reads the things of a section, and the form that is asked for: the one that was
// refused, or by its address ?add, ?edit=ID, ?like=ID.
func (s *Server) list(c *gin.Context, x Section, posted string, f *Form) (*listView, error) {
	ctx, w := s.Me(c)
	add, edit, like := c.Query("add") != "", c.Query("edit"), c.Query("like")
	if posted == x.Name {
		add, edit, like = f.Get("was") == things.New, "", f.Get("like")
		if !add {
			edit = f.Get("id")
		}
	}
	from, err := uuid.Parse(edit + like)
	asked := add || err == nil
	look, err := x.Sort.Look(ctx, s.Store, w, from)
	if err != nil {
		return nil, err
	}
	v := &listView{Called: x.Sort.Called()}
	v.Called.Path = x.path()
	for _, item := range look.Items {
		line := thingLine{item.ID.String(), item.Name, w.Prefs.Say(item.Says), item.Page}
		if item.Retired {
			v.Retired = append(v.Retired, line)
		} else {
			v.Items = append(v.Items, line)
		}
	}
	if asked {
		v.Form, err = s.thingForm(x, look, edit != "", like, posted, f, w.Prefs)
	}
	return v, err
}

func (s *Server) thingForm(x Section, look things.Look, edit bool, like, posted string, f *Form, p say.Reader) (*thingForm, error) {
	inputs := x.Sort.Inputs()
	form := &thingForm{Path: x.path(), Units: p, Like: like, New: !edit, Retired: look.One.Retired, Drawn: x.Picture != nil, Name: look.One.Name}
	if edit {
		form.ID, form.Was, form.Heading, form.Alters = look.One.ID.String(), look.Tag, p.T("Change %s", look.One.Name), p.All(look.Alters)
	} else {
		id, err := NewID()
		if err != nil {
			return nil, err
		}
		form.ID, form.Heading = id, p.Say(x.Sort.Called().Add)
	}
	shown := Filled(inputs, look.Values, p)
	if like != "" {
		shown.Values.Del("name")
	}
	if posted == x.Name {
		shown = f
		form.ID, form.Was, form.Units = f.Get("id"), f.Get("was"), f.Prefs
	}
	if form.New {
		shown.needs = look.Needed
	}
	for i, view := range shown.As(x.Name).Show(inputs, "", look.Options) {
		if !inputs[i].Folded {
			form.Inputs = append(form.Inputs, view)
			continue
		}
		form.More, form.Open = append(form.More, view), form.Open || view.Error != ""
	}
	if posted == x.Name {
		form.Asks = f.Errors[asksKey]
	}
	if x.Picture != nil {
		quiet := &Form{Values: shown.Values, Errors: map[string]string{}, Prefs: shown.Prefs}
		form.Picture = x.Picture(p, quiet.TypedIn(inputs, nil))
	}
	return form, nil
}

// keepThing keeps what the form of one thing says.
func (s *Server) keepThing(c *gin.Context, x Section) error {
	ctx, w := s.Me(c)
	f := ReadForm(c, w.Prefs)
	id, was := f.ID("id"), f.Get("was")
	look := things.Look{}
	from, err := uuid.Parse(f.Get("like"))
	if like := err == nil; like && !f.Any() {
		if look, err = x.Sort.Look(ctx, s.Store, w, from); err != nil {
			return err
		}
	}
	err = nil
	if !f.Any() {
		err = x.Sort.Change(ctx, s.Store, w, id, was, f.Get("keep") != "", func(now map[string]any) map[string]any {
			if look.Values != nil { // another like it: what was not changed is as exact as there
				now = look.Values
			}
			typed := f.TypedIn(x.Sort.Inputs(), now)
			if f.Any() {
				return nil
			}
			return typed
		})
	}
	return s.Settle(c, f, err, func(status int) error { return s.showSection(c, status, x, x.Name, f) },
		func() Outcome { return Outcome{Says: say.T("Saved."), To: x.path()} })
}

// arrange puts the things in the order in which their ids are sent.
func (s *Server) arrange(c *gin.Context, x Section) error {
	ctx, w := s.Me(c)
	f := ReadForm(c, w.Prefs)
	var ids []uuid.UUID
	for _, one := range strings.Fields(f.Get("ids")) {
		id, err := uuid.Parse(one)
		if err != nil {
			f.Wrong("ids", "is missing; load the page again")
			break
		}
		ids = append(ids, id)
	}
	var err error
	if !f.Any() {
		err = x.Sort.Arrange(ctx, s.Store, w, ids)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showSection(c, status, x, "order", f) },
		func() Outcome { return Outcome{Says: say.T("The order is changed."), To: x.path()} })
}
