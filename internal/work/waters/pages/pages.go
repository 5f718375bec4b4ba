// Package pages is the waters that go in, as people see them.
package pages

import (
	"context"
	"embed"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/core/water"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/sums"
	"ulpa/internal/work/waters"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "waters", Title: waters.Kind.Title, About: waters.Kind.About, Sort: waters.Kind, May: who.Settings}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /waters", Answer: p.list},
		{On: "GET /waters/:id", Answer: p.page, Ask: "/waters/{water}"},
		{On: "POST /waters/:id", Answer: p.analyse, Ask: "/waters/{water}", Send: []string{"by", "guess", "alkalinity", "200"}},
	}
}

// figureView is something known of a water.
type figureView struct{ Name, Value, When string }

// waterLine is a water in the list.
type waterLine struct {
	Name, Path, Kind string
	Figures          []figureView
	High             []string
	Tanks            []face.ChoiceView
}

// listView is every water.
type listView struct{ Waters []waterLine }

func (listView) Title() say.Text { return say.T("Waters") }

func lineOf(x waters.Water, p say.Reader) waterLine {
	k, _ := water.KindOf(x.Kind)
	v := waterLine{Name: x.Name, Path: "/waters/" + x.ID.String(), Kind: p.Say(k.Name), High: p.All(x.Facts.High())}
	for _, q := range x.Facts.Told() {
		f := x.Facts[q.ID]
		v.Figures = append(v.Figures, figureView{p.Say(q.Name), p.Say(waters.Of(q, f.Value)), p.T("%s, %s", f.On.Short(), water.WayName(f.By))})
	}
	for _, t := range x.Tanks {
		v.Tanks = append(v.Tanks, face.ChoiceView{Value: "/tanks/" + t.ID.String(), Name: t.Name})
	}
	return v
}

func (s Pages) list(c *gin.Context) error {
	ctx, w := s.Me(c)
	all, err := waters.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := listView{}
	for _, x := range all {
		v.Waters = append(v.Waters, lineOf(x, w.Prefs))
	}
	s.Render(c, http.StatusOK, "waters", "Solution", v)
	return nil
}

// pageView is the page of a water, with the form of an analysis.
type pageView struct {
	waterLine
	Form         *face.Form
	Ways, Units  []face.ChoiceView
	Plain        []quantityView // beside alkalinity and hardness
	Lines        []notebookview.EntryView
	Chlorine     string // the sum that says what to do about it
	Other        []differView
	May, Guessed bool
	Jar          jarView
	MayDose      bool
	Rest         []string
}

// quantityView is something that an analysis may say.
type quantityView struct{ ID, Name, Unit string }

// differView is another water, and in what it differs from this one.
type differView struct{ Name, Says string }

func (v pageView) Title() say.Text { return say.Name(v.Name) }

func (s Pages) page(c *gin.Context) error {
	_, w := s.Me(c)
	f := face.FormOf(c.Request.URL.Query(), w.Prefs)
	f.Values.Set("by", water.Drops)
	f.Values.Set("unit", "caco3")
	return s.show(c, http.StatusOK, f)
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	x, err := waters.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	p := w.Prefs
	v := pageView{waterLine: lineOf(x, p), Form: f, May: w.May(who.Record)}
	_, v.Guessed = x.Facts.MgL()
	own := []string{"by", "unit"}
	for _, y := range water.Ways {
		v.Ways = append(v.Ways, face.ChoiceView{Value: y.ID, Name: p.Say(y.Name)})
	}
	for _, u := range water.HardnessUnits {
		v.Units = append(v.Units, face.ChoiceView{Value: u.ID, Name: p.Say(u.Name)})
	}
	for _, q := range water.Quantities {
		if own = append(own, q.ID); q.ID != "alkalinity" && q.ID != "hardness" {
			v.Plain = append(v.Plain, quantityView{q.ID, p.Say(q.Name), p.Name(q.Unit)})
		}
	}
	v.Jar, v.MayDose = jarOf(f, p), w.May(who.Dose)
	if v.Rest = f.Rest(own...); v.Jar.Open {
		v.Rest = nil
	}
	if cl, told := x.Facts["chlorine"]; told && cl.Value > 0 {
		told := map[string]any{"volume_l": 20.0, "kind": chemistry.FreeChlorine, "mg_l": cl.Value, "limit_mg_l": chemistry.ChlorineForRoots}
		v.Chlorine = sums.Link("dechlorinate", told, p)
	}
	if v.Other, err = s.differ(ctx, w, x); err != nil {
		return err
	}
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{About: &id, Most: notebook.Few}); err != nil {
		return err
	}
	s.Render(c, status, "water", "Solution", v)
	return nil
}

// differ says what would change with each other water.
func (s Pages) differ(ctx context.Context, w who.Who, x waters.Water) (out []differView, err error) {
	all, err := waters.All(ctx, s.Store, w)
	for _, y := range all {
		changed := water.Changed(x.Facts, y.Facts)
		if y.ID == x.ID || len(changed) == 0 {
			continue
		}
		var parts []say.Text
		for _, q := range changed {
			a, b := x.Facts[q.ID], y.Facts[q.ID]
			if a.By != "" && b.By != "" {
				parts = append(parts, say.T("%s %s instead of %s", say.Lower(q.Name), waters.Of(q, b.Value), waters.Of(q, a.Value)))
			}
		}
		if parts != nil {
			out = append(out, differView{y.Name, w.Prefs.Say(say.Join("; ", parts...))})
		}
	}
	return out, err
}

func (s Pages) analyse(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	a := water.Analysis{By: f.Get("by"), Values: map[string]float64{}}
	for _, q := range water.Quantities {
		v := f.Number(q.ID, q.Unit)
		if v == nil {
			continue
		}
		if slices.Contains([]string{"alkalinity", "hardness"}, q.ID) {
			mgL, fits := water.CaCO3(*v, f.Get("unit"), q.ID == "alkalinity")
			if !fits {
				f.Wrong(q.ID, "is not given in that unit")
			}
			*v = mgL
		}
		a.Values[q.ID] = *v
	}
	if !f.Any() {
		err = waters.Analyse(ctx, s.Store, w, act, a)
	}
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Saved. From now on its tanks use these figures."), Undo: act.ID, To: "/waters/" + act.On.String()}
	})
}
