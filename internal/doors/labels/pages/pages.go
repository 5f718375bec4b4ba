// Package pages is labels to print, and what their codes lead to.
package pages

import (
	"embed"
	"io"
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/label"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/labels"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Routes: routes}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /labels", Answer: p.choose},
		{On: "GET /labels.pdf", Line: bound.Papers, Answer: p.print},
		{On: "POST /labels/printed", Answer: p.printed, Send: []string{"of", "{new}"}},
		{On: "GET /b/:code", Answer: p.batch, Ask: "/b/LET-01"},
		{On: "GET /s/:short", Answer: p.thing, Ask: "/s/AAAAAAAAAAAAAAAAAAAAAA"},
	}
}

// sheets are the usual ones, by their sizes in mm.
var sheets = []struct {
	ID   string
	Name say.Words
	label.Sheet
}{
	{"a4-24", "A4, 3 × 8 labels of 70 × 37 mm", label.Sheet{
		PageW: 210, PageH: 297, Columns: 3, Rows: 8, W: 70, H: 37, Top: 0.5,
	}},
	{"a4-14", "A4, 2 × 7 labels of 99 × 38 mm", label.Sheet{
		PageW: 210, PageH: 297, Columns: 2, Rows: 7, W: 99.1, H: 38.1, Left: 4.65, Top: 15.1, GapX: 2.5,
	}},
	{"a4-65", "A4, 5 × 13 labels of 38 × 21 mm", label.Sheet{
		PageW: 210, PageH: 297, Columns: 5, Rows: 13, W: 38.1, H: 21.2, Left: 4.75, Top: 10.7, GapX: 2.5,
	}},
	{"us-30", "Letter, 3 × 10 labels of 67 × 25 mm", label.Sheet{
		PageW: 215.9, PageH: 279.4, Columns: 3, Rows: 10, W: 66.7, H: 25.4, Left: 4.8, Top: 12.7, GapX: 3.1,
	}},
	{"sticks", "A4 to cut: 12 sticks of 190 × 22 mm", label.Sheet{
		PageW: 210, PageH: 297, Columns: 1, Rows: 12, W: 190, H: 22, Left: 10, Top: 16, Cut: true,
	}},
	{"plain", "A4 to cut: 2 × 8 of 95 × 34 mm", labels.Plain},
	{"roll", "Roll of 57 × 32 mm", label.Sheet{
		PageW: 57, PageH: 32, Columns: 1, Rows: 1, W: 57, H: 32,
	}},
	{"band", "Roll of 100 × 20 mm, for sticks", label.Sheet{
		PageW: 100, PageH: 20, Columns: 1, Rows: 1, W: 100, H: 20,
	}},
}

// own is the sheet of which every size is typed.
const own = "own"

// chooseView asks for what labels are wanted, on which sheet.
type chooseView struct {
	Sorts, Sheets []face.ChoiceView
	Sort, Sheet   string
	List          face.CutList[oneView]
	Count         int
	Days          []face.ChoiceView
	Day           string
	Form          *face.Form
	Own           []string
	Sizes         []sizeView
}

func (chooseView) Title() say.Text { return say.T("Labels") }

// oneView is a label that can be chosen.
type oneView struct {
	ID, Code, Says string
	On             bool
}

// sizeView is a size of one's own sheet.
type sizeView struct{ Name, Label, Value, Error string }

var sizes = []struct {
	Name  string
	Label say.Words
	of    func(*label.Sheet) *float64
}{
	{"page_w", "Page width", func(s *label.Sheet) *float64 { return &s.PageW }},
	{"page_h", "Page height", func(s *label.Sheet) *float64 { return &s.PageH }},
	{"w", "Label width", func(s *label.Sheet) *float64 { return &s.W }},
	{"h", "Label height", func(s *label.Sheet) *float64 { return &s.H }},
	{"left", "Left edge to the first label", func(s *label.Sheet) *float64 { return &s.Left }},
	{"top", "Top edge to the first label", func(s *label.Sheet) *float64 { return &s.Top }},
	{"gap_x", "Gap between labels in a row", func(s *label.Sheet) *float64 { return &s.GapX }},
	{"gap_y", "Gap between rows of labels", func(s *label.Sheet) *float64 { return &s.GapY }},
}

func (s Pages) choose(c *gin.Context) error {
	return s.show(c, http.StatusOK, face.FormOf(c.Request.URL.Query(), s.Reader(c)))
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	r := w.Prefs
	for _, name := range []string{"first", "copies"} {
		if f.Get(name) == "" {
			f.Values.Set(name, "1")
		}
	}
	v := chooseView{Form: f, Sort: f.Get("sort"), Sheet: f.Get("sheet"), Day: f.Get("day")}
	if !slices.ContainsFunc(labels.Sorts, func(x labels.Sort) bool { return x.ID == v.Sort }) {
		v.Sort = labels.Without
	}
	list, err := labels.Of(ctx, s.Store, w, v.Sort)
	if err != nil {
		return err
	}
	for _, x := range labels.Sorts {
		v.Sorts = append(v.Sorts, face.ChoiceView{Value: x.ID, Name: r.Say(x.Name)})
	}
	for _, x := range sheets {
		v.Sheets = append(v.Sheets, face.ChoiceView{Value: x.ID, Name: r.Say(x.Name)})
	}
	v.Sheets = append(v.Sheets, face.ChoiceView{Value: own, Name: r.T("Another: I type the sizes")})
	for _, x := range sizes {
		v.Sizes = append(v.Sizes, sizeView{x.Name, r.Say(x.Label), f.Get(x.Name), f.Error(x.Name)})
	}
	v.Own = f.Rest("first", "copies", "columns", "rows", "page_w", "page_h", "w", "h", "left", "top", "gap_x", "gap_y")
	var shown []labels.Label
	for _, l := range list {
		day := ""
		if l.On > 0 {
			day = l.On.String()
			if !slices.ContainsFunc(v.Days, func(o face.ChoiceView) bool { return o.Value == day }) {
				v.Days = append(v.Days, face.ChoiceView{Value: day, Name: r.Say(l.On.Long())})
			}
		}
		if v.Day == "" || v.Day == day {
			shown = append(shown, l)
		}
	}
	asked := f.Values["of"]
	path, all := face.Whole(c.Request.URL)
	v.Count = len(shown)
	v.List = face.CutAs(shown, face.Fewer(60, all), path, func(l labels.Label) oneView {
		x := oneView{ID: l.ID.String(), Code: l.Code, On: len(asked) == 0 && v.Sort == labels.Without || slices.Contains(asked, l.ID.String())}
		for i, line := range l.Lines {
			if i > 0 {
				x.Says += ", "
			}
			x.Says += line
		}
		return x
	})
	s.Render(c, status, "labels", "Nursery", v)
	return nil
}

// sheetOf is the sheet that was chosen or typed.
func sheetOf(f *face.Form) (label.Sheet, error) {
	for _, x := range sheets {
		if x.ID == f.Get("sheet") {
			return x.Sheet, nil
		}
	}
	if f.Get("sheet") != own {
		return sheets[0].Sheet, nil
	}
	s := label.Sheet{Columns: f.Int("columns", 1), Rows: f.Int("rows", 1), Cut: f.Get("cut") != ""}
	for _, x := range sizes {
		if v := f.Number(x.Name, ""); v != nil {
			*x.of(&s) = *v
		}
	}
	return s, s.Check()
}

func (s Pages) print(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.FormOf(c.Request.URL.Query(), w.Prefs)
	sheet, err := sheetOf(f)
	if err != nil && !f.Refuse(err) {
		return err
	}
	p := labels.Print{First: f.Int("first", 1), Copies: f.Int("copies", 1), Address: s.AddressOf(c), Title: w.Prefs.T("Labels")}
	var list []labels.Label
	if !f.Any() {
		if list, err = labels.Of(ctx, s.Store, w, f.Get("sort")); err != nil && !f.Refuse(err) {
			return err
		}
		list = slices.DeleteFunc(list, func(l labels.Label) bool { return !slices.Contains(f.Values["of"], l.ID.String()) })
		f.Refuse(p.Check(sheet, len(list)))
	}
	if f.Any() {
		return s.show(c, http.StatusUnprocessableEntity, f)
	}
	return s.Send(c, face.File{Type: face.PDF, Name: "labels-" + strconv.Itoa(len(list)) + ".pdf", Shown: true}, func(to io.Writer) error {
		return labels.Write(ctx, to, sheet, list, p)
	})
}

func (s Pages) printed(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	var ids []uuid.UUID
	for _, x := range f.Values["of"] {
		if id, err := uuid.Parse(x); err == nil {
			ids = append(ids, id)
		}
	}
	err := labels.Printed(ctx, s.Store, w, ids)
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Noted: %s labelled.", say.Plural(len(ids), "thing")), To: "/labels"}
	})
}

func (s Pages) batch(c *gin.Context) error {
	ctx, w := s.Me(c)
	path, err := labels.Follow(ctx, s.Store, w, c.Param("code"))
	if err == nil {
		c.Redirect(http.StatusSeeOther, path)
	}
	return err
}

func (s Pages) thing(c *gin.Context) error {
	ctx, w := s.Me(c)
	path, err := labels.FollowShort(ctx, s.Store, w, c.Param("short"))
	if err == nil {
		c.Redirect(http.StatusSeeOther, path)
	}
	return err
}
