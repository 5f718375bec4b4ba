package pages

import (
	"cmp"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	batchesview "ulpa/internal/work/batches/view"
	"ulpa/internal/work/site"
	traysview "ulpa/internal/work/trays/view"
)

// nurseryView is what grows, what has moved on, the trays, and the sowings to come.
type nurseryView struct {
	Growing, Moved face.CutList[batchesview.BatchLine]
	Closed         []batchesview.BatchLine
	Trays          face.CutList[traysview.TrayLine]
	Planned        []plannedView
	Crops, Whats   []face.ChoiceView // to show some of them only
	Orders         []face.ChoiceView
	Crop, What     string
	Order          string
	Count          string // where the trays that are shown begin to be counted, one after the other
	CountMany      int
}

// orders in which batches are listed.
var orders = []struct {
	id   string
	name say.Words
}{{"", "in order of sowing"}, {"ready", "ready ones first"}, {"crop", "by crop"}}

// choose keeps those of a crop and a purpose, in an order, and says what there is to choose.
func (v *nurseryView) choose(c *gin.Context, lines []batches.Line, p say.Reader) (out []*batches.Line) {
	v.Crop, v.What, v.Order = c.Query("crop"), c.Query("for"), c.Query("order")
	offer := func(list *[]face.ChoiceView, value, name string) {
		if value != "" && !slices.ContainsFunc(*list, func(o face.ChoiceView) bool { return o.Value == value }) {
			*list = append(*list, face.ChoiceView{Value: value, Name: name})
		}
	}
	for i := range lines {
		l := &lines[i]
		offer(&v.Crops, l.Crop.ID, p.Say(l.Crop.Name))
		offer(&v.Whats, l.Purpose, l.Purpose)
		if (v.Crop == "" || v.Crop == l.Crop.ID) && (v.What == "" || v.What == l.Purpose) {
			out = append(out, l)
		}
	}
	for _, o := range orders {
		v.Orders = append(v.Orders, face.ChoiceView{Value: o.id, Name: p.Say(o.name)})
	}
	say.Sort(p, v.Crops, face.ChoiceView.Called)
	say.Sort(p, v.Whats, face.ChoiceView.Called)
	rank := map[ready.Word]int{ready.Late: 0, ready.Ready: 1, ready.Look: 2}
	of := func(l *batches.Line) int {
		if n, ok := rank[l.Verdict.Word]; ok {
			return n
		}
		return len(rank)
	}
	switch v.Order {
	case "ready":
		slices.SortStableFunc(out, func(a, b *batches.Line) int {
			return cmp.Or(of(a)-of(b), cmp.Compare(a.Verdict.About, b.Verdict.About))
		})
	case "crop":
		say.Sort(p, out, func(l *batches.Line) string { return p.Say(l.Crop.Name) })
	}
	return out
}

func (nurseryView) Title() say.Text { return say.T("Nursery") }

func (s Pages) nurseryPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	o, err := batches.ReadOverview(ctx, s.Store, w)
	if err != nil {
		return err
	}
	planned, err := s.plannedViews(ctx, w)
	if err != nil {
		return err
	}
	names := map[uuid.UUID]string{}
	for _, p := range o.Places {
		names[p.ID] = p.Name
	}
	v := nurseryView{Planned: planned}
	var growing, moved []*batches.Line
	for _, l := range v.choose(c, o.Lines, w.Prefs) {
		if l.Raising() {
			growing = append(growing, l)
		} else {
			moved = append(moved, l)
		}
	}
	v.Count, v.CountMany = traysview.Through(growing, o.Trays, o.In)
	for _, r := range o.Closed {
		v.Closed = append(
			v.Closed,
			batchesview.BatchLine{
				Code:    r.Code,
				Path:    "/batches/" + r.ID.String(),
				Crop:    w.Prefs.Say(face.CropName(r.Crop)),
				Variety: r.Variety,
				Says:    w.Prefs.T("closed"),
			},
		)
	}
	path, all := face.Whole(c.Request.URL)
	most := face.Fewer(face.FewLines, all)
	line := func(l *batches.Line) batchesview.BatchLine { return batchesview.LineOf(l, o.Today, names, w.Prefs) }
	v.Growing, v.Moved = face.CutAs(growing, most, path, line), face.CutAs(moved, most, path, line)
	v.Trays = face.CutAs(o.Trays, most, path, func(t site.Tray) traysview.TrayLine {
		says := w.Prefs.T("%d × %d, %d free", t.Rows, t.Columns, t.Cells()-t.Used)
		return traysview.TrayLine{Name: t.Name, Path: "/trays/" + t.ID.String(), Place: names[t.Place], Says: says}
	})
	s.Render(c, http.StatusOK, "nursery", "Nursery", v)
	return nil
}
