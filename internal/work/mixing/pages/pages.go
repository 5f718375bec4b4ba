// Package pages is the mixing sheet, as people see it.
package pages

import (
	"embed"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/labels"
	"ulpa/internal/work/mixing"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{
			{Name: "salts", Title: mixing.SaltKind.Title, About: mixing.SaltKind.About, Sort: mixing.SaltKind, May: who.Settings},
			{Name: "stocks", Title: mixing.StockKind.Title, About: mixing.StockKind.About, Sort: mixing.StockKind, May: who.Settings},
			{Name: "recipes", Title: mixing.RecipeKind.Title, About: mixing.RecipeKind.About, Sort: mixing.RecipeKind, May: who.Settings},
		}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /mix", Answer: p.page, Ask: "/mix?recipe={recipe}&water={water}&litres=2&ratio=100"},
		{On: "GET /mix/label.pdf", Line: bound.Papers, Answer: p.label, Ask: "/mix/label.pdf?recipe={recipe}&water={water}&litres=2&ratio=100"},
		{On: "POST /mix/done", Answer: p.mixed, Send: []string{"recipe", "{recipe}", "water", "{water}", "litres", "20", "exact", "1"}},
	}
}

// asked are what a sheet is asked by.
var asked = []string{"recipe", "water", "litres", "ratio", "strength", "ec", "stock"}

// mixView asks what is to be mixed, and holds the sheet for it.
type mixView struct {
	Form            *face.Form
	Recipes, Waters []face.ChoiceView
	Strengths       []face.ChoiceView // what it can be made to, mS/cm
	Stocks          []face.ChoiceView // pairs of bottles
	Levels          []face.ChoiceView // what is left in each
	NoSalts         bool
	Sheet           *sheetView
	Rest            []string
}

func (mixView) Title() say.Text { return say.T("Mix a solution") }

// within so many percent a target counts as met.
const within = 5

// soon is for how many more sheets the shelf still holds when it is said.
const soon = 3

// lineView is a salt to weigh.
type lineView struct {
	Input, Name, Grams, Spoons, Bottle string
	Value, Error                       string
	Tags                               []string
}

// sheetView is the mixing sheet: what to weigh, in order, and what comes of it.
type sheetView struct {
	Big, Fits, Brings  string
	Lines              []lineView
	Steps              []string
	Warnings, Cautions []string
	Stocks, May        bool
	Label              string
}

func (s Pages) page(c *gin.Context) error {
	_, w := s.Me(c)
	return s.show(c, http.StatusOK, face.FormOf(c.Request.URL.Query(), w.Prefs))
}

func questionOf(f *face.Form) (q mixing.Question) {
	q.Recipe, q.Water = f.ID("recipe"), f.ID("water")
	q.Stock, _ = uuid.Parse(f.Get("stock"))
	if v := f.Number("litres", unit.Litre); v != nil {
		q.Litres = *v
	}
	if v := f.Number("ratio", ""); v != nil {
		q.Ratio = *v
	}
	if x, err := strconv.ParseFloat(f.Get("strength"), 64); err == nil {
		q.ECMS = x
	}
	if v := f.Number("ec", unit.MS); v != nil {
		q.ECMS = *v
	}
	return q
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	shelf, err := mixing.GetShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := mixView{Form: f, NoSalts: len(shelf.Salts) == 0}
	for _, r := range shelf.Recipes {
		v.Recipes = append(v.Recipes, face.ChoiceView{Value: r.ID.String(), Name: r.Name})
	}
	for _, x := range shelf.Waters {
		v.Waters = append(v.Waters, face.ChoiceView{Value: x.ID.String(), Name: x.Name})
	}
	levels, err := mixing.Levels(ctx, s.Store, w)
	if err != nil {
		return err
	}
	for _, l := range levels {
		v.Stocks = append(v.Stocks, face.ChoiceView{Value: l.ID.String(), Name: l.Name})
		v.Levels = append(v.Levels, face.ChoiceView{Name: l.Name, Value: w.Prefs.Say(l.Says(s.Store.Now()))})
	}
	if v.Strengths, err = s.strengths(c); err != nil {
		return err
	}
	if f.Text("recipe") != "" && f.Text("litres") != "" {
		q := questionOf(f)
		switch sheet, err := mixing.Work(ctx, s.Store, w, q); {
		case err == nil:
			v.Sheet = sheetOf(sheet, q, f, w)
		case f.Refuse(err):
		default:
			return err
		}
	}
	own := slices.Clone(asked)
	if v.Sheet != nil {
		for _, l := range v.Sheet.Lines {
			own = append(own, l.Input)
		}
	}
	v.Rest = f.Rest(own...)
	s.Render(c, status, "mix", "Solution", v)
	return nil
}

// again is the query that asks for the same sheet.
func again(f *face.Form) string {
	q := url.Values{}
	for _, name := range asked {
		q.Set(name, f.Get(name))
	}
	return q.Encode()
}

// label is what the bucket says, or each of the two bottles; its code opens the same sheet again.
func (s Pages) label(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.FormOf(c.Request.URL.Query(), w.Prefs)
	q := questionOf(f)
	x, err := mixing.Work(ctx, s.Store, w, q)
	if f.Any() || f.Refuse(err) {
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	if err != nil {
		return err
	}
	p, now := w.Prefs, s.Store.Now().In(w.Zone)
	on := p.T("mixed %s, %s", say.Date(now, "2 Jan 2006"), say.Name(x.Water.Name))
	danger := p.T("Not for drinking. Keep closed, dark and out of reach.")
	list := []labels.Label{{Code: x.Recipe.Name, Lines: []string{p.T("%s, about %s", say.Of(q.Litres, unit.Litre), say.Of(x.ECMS, unit.MS)), on, danger}}}
	if q.Ratio > 0 {
		list = nil
		for i, bottle := range []string{"A", "B"} {
			list = append(list, labels.Label{
				Code:  x.Recipe.Name + " " + bottle,
				Lines: []string{p.T("1 to %.4g, always the same amount of %s", q.Ratio, say.Name([]string{"B", "A"}[i])), on, danger},
			})
		}
	}
	for i := range list {
		list[i].Address = "/mix?" + again(f)
	}
	print := labels.Print{First: 1, Copies: 1, Address: s.AddressOf(c), Title: p.T("Labels")}
	return s.Send(c, face.File{Type: face.PDF, Name: "solution.pdf", Shown: true}, func(to io.Writer) error {
		return labels.Write(ctx, to, labels.Plain, list, print)
	})
}

func sheetOf(x mixing.Sheet, q mixing.Question, f *face.Form, w who.Who) *sheetView {
	p := w.Prefs
	v := &sheetView{
		Big: p.T("%s of %s, about %s.", say.Of(q.Litres, unit.Litre), say.Name(x.Recipe.Name), say.Of(x.ECMS, unit.MS)), Stocks: q.Ratio > 0,
		Warnings: p.All(x.Warnings), Cautions: p.All(x.Cautions), May: w.May(who.Dose),
	}
	if v.Stocks {
		v.Big = p.T("Two bottles of %s, 1 to %.4g, of %s: about %s.", say.Of(q.Litres, unit.Litre), q.Ratio, say.Name(x.Recipe.Name), say.Of(x.ECMS, unit.MS))
	}
	var off []say.Text
	for _, el := range recipe.Targets {
		if d, told := x.Off[el]; told && (d > within || d < -within) {
			off = append(off, say.T("%s %+.0f\u00a0%%", say.Name(el), d))
		}
	}
	v.Fits = p.T("Every target is met to within %d\u00a0%%.", within)
	if off != nil {
		v.Fits = p.T("Off by more than %d %%: %s.", within, say.Join(", ", off...))
	}
	var brings []say.Text
	for _, el := range recipe.Targets {
		if b := x.Brings[el]; b > 0.1*x.Recipe.Targets[el] && x.Recipe.Targets[el] > 0 {
			brings = append(brings, say.T("%s %.0f\u00a0%%", say.Name(el), 100*b/x.Recipe.Targets[el]))
		}
	}
	if brings != nil {
		v.Brings = p.T("Share of each target that the water already gives: %s.", say.Join(", ", brings...))
	}
	if x.Guessed {
		v.Warnings = append(v.Warnings, p.T("The water’s calcium and magnesium are estimated from its hardness."))
	}
	for _, l := range x.Lines {
		in := "g-" + l.Salt.ID.String()
		y := lineView{Input: in, Name: l.Salt.Name, Grams: p.Format(l.Grams, unit.Gram), Bottle: l.Bottle, Value: f.Get(in), Error: f.Error(in)}
		if l.Spoons > 0 {
			y.Spoons = p.T("about %.2g level spoons", l.Spoons)
		}
		if recipe.Oxidiser(l.Salt.Chemical) {
			y.Tags = append(y.Tags, p.T("oxidiser"))
		}
		if l.Grams < 0.1 {
			y.Tags = append(y.Tags, p.T("too little for most kitchen scales: weigh out a stock instead"))
		}
		switch {
		case l.Short > 0:
			y.Tags = append(y.Tags, p.T("%s are missing", say.Of(l.Short, unit.Gram)))
		case l.More == 0:
			y.Tags = append(y.Tags, p.T("the shelf is nearly empty after this"))
		case l.More > 0 && l.More <= soon:
			y.Tags = append(y.Tags, p.T("enough for %d more like this", l.More))
		}
		v.Lines = append(v.Lines, y)
	}
	v.Label = "/mix/label.pdf?" + again(f)
	v.Steps = p.All(steps(v.Stocks))
	return v
}

// steps are how it is mixed, in order.
func steps(stocks bool) []say.Text {
	if stocks {
		return []say.Text{
			say.T("Two bottles, labelled A and B before anything goes in. Three quarters of the water in each."),
			say.T("Calcium and iron go into A, sulfates and phosphate into B. Never mix A and B undiluted: they set like plaster."),
			say.T("One salt after the other, each dissolved before the next. Then fill up, shake, close."),
			say.T("From now on always put the same amount of A and of B into the tank, one after the other, and stir in between."),
		}
	}
	return []say.Text{
		say.T("Most of the water first, then one salt after the other, each dissolved before the next."),
		say.T("Fill up, stir, wait a quarter of an hour, then read the strength. pH comes last."),
	}
}

func (s Pages) mixed(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	d := mixing.Done{ID: f.ID("id"), Question: questionOf(f), Grams: map[uuid.UUID]float64{}, Each: f.Get("exact") == "", At: f.When(w, s.Store.Now())}
	for name := range f.Values {
		text, weighed := strings.CutPrefix(name, "g-")
		id, err := uuid.Parse(text)
		if !weighed || err != nil {
			continue
		}
		if v := f.Number(name, unit.Gram); v != nil {
			d.Grams[id] = *v
		}
	}
	var err error
	if !f.Any() {
		err = mixing.Mix(ctx, s.Store, w, d)
	}
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Written down, and taken off the shelf. Label it now."), Undo: d.ID, To: "/mix"}
	})
}
