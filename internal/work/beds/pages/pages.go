// Package pages is the beds over the years, as people see them.
package pages

import (
	"embed"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/beds"
	"ulpa/internal/work/crops"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "bed-sections", Title: beds.SectionKind.Title, About: beds.SectionKind.About, Sort: beds.SectionKind, May: who.Settings}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /season/beds", Line: bound.Plans, Answer: p.beds},
		{On: "POST /season/beds/grew", Line: bound.Plans, Answer: p.grew, Send: []string{"section", "{new}", "year", "2026", "crop", "lettuce"}},
		{On: "POST /season/beds/forget", Line: bound.Plans, Answer: p.forget, Send: []string{"id", "{new}"}},
		{On: "POST /season/beds/rule", Line: bound.Plans, Answer: p.rule, Send: []string{"years", "3", "way", "advise"}},
	}
}

func (s Pages) beds(c *gin.Context) error {
	return s.show(c, http.StatusOK, face.FormOf(nil, s.Reader(c)))
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	a := beds.Asked{Wants: wantsOf(c, book)}
	a.Year, _ = strconv.Atoi(c.Query("year"))
	if a.Year < 1990 || a.Year > 2200 {
		a.Year = 0
	}
	o, err := beds.Look(ctx, s.Store, w, a)
	if err != nil {
		return err
	}
	s.Render(c, status, "beds", "Season", viewOf(o, book, w, f))
	return nil
}

// wantsOf are the crops that are asked for, with how many sections; nil: nothing was asked.
func wantsOf(c *gin.Context, book crops.Book) (out []beds.Want) {
	q := c.Request.URL.Query()
	sections := q["sections"]
	for i, id := range q["crop"] {
		n := 1
		if i < len(sections) {
			n, _ = strconv.Atoi(sections[i])
		}
		known := false
		for _, w := range out {
			known = known || w.Crop.ID == id
		}
		if book.Has(id) && n >= 1 && n <= 50 && len(out) < 30 && !known {
			out = append(out, beds.Want{Crop: book.Find(id), Sections: n})
		}
	}
	return out
}

func (s Pages) settle(c *gin.Context, f *face.Form, err error, says say.Text, undo *face.Back) error {
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: says, Back: undo, To: "/season/beds?year=" + strconv.Itoa(f.Int("year", 0))}
	})
}

func (s Pages) grew(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	var put []beds.Put
	ids, list := f.Values["section"], f.Values["crop"]
	for i, id := range ids {
		if x, err := uuid.Parse(id); err == nil && i < len(list) {
			p := beds.Put{Section: x, Crop: list[i], How: f.Get("how")}
			if f.Get("from") != "" {
				p.From = f.Day("from")
			}
			put = append(put, p)
		}
	}
	added, err := beds.Grew(ctx, s.Store, w, f.Int("year", 0), put)
	undo := face.BackTo("/season/beds/forget", "year", f.Get("year"))
	for _, id := range added {
		undo.Fields.Add("id", id.String())
	}
	if len(added) == 0 {
		undo = nil
	}
	return s.settle(c, f, err, say.T("Written down."), undo)
}

func (s Pages) forget(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	var ids []uuid.UUID
	for _, text := range f.Values["id"] {
		if id, err := uuid.Parse(text); err == nil {
			ids = append(ids, id)
		}
	}
	undo, err := s.grewAgain(c, f.Int("year", 0), ids)
	if err == nil {
		err = beds.Forget(ctx, s.Store, w, ids...)
	}
	return s.settle(c, f, err, say.T("Removed."), undo)
}

// grewAgain is the form that writes down again what is about to be removed, of one crop.
func (s Pages) grewAgain(c *gin.Context, year int, ids []uuid.UUID) (*face.Back, error) {
	ctx, w := s.Me(c)
	if len(ids) != 1 || year == 0 {
		return nil, nil
	}
	o, err := beds.Look(ctx, s.Store, w, beds.Asked{Year: year, Wants: []beds.Want{}})
	for _, g := range o.Grown {
		if g.ID == ids[0] {
			undo := face.BackTo("/season/beds/grew", "year", strconv.Itoa(g.Year), "section", g.Section.String(), "crop", g.Crop.ID, "how", g.How)
			if g.From > 0 {
				undo.Fields.Set("from", g.From.String())
			}
			return undo, err
		}
	}
	return nil, err
}

func (s Pages) rule(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	err := beds.SetRule(ctx, s.Store, w, beds.Rule{YearsApart: f.Int("years", -1), Way: f.Get("way")})
	return s.settle(c, f, err, say.T("Saved. The beds are worked out with it from now on."), nil)
}
