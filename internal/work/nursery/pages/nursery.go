package pages

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/sprout"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/nursery"
	nurseryview "ulpa/internal/work/nursery/view"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

type batchLine struct {
	Code, Path, Crop, Variety, Where, Purpose string
	Says, Mark                                string
	Count                                     string
}

type nurseryView struct {
	Growing, Moved face.CutList[batchLine]
	Closed         []batchLine
	Trays          face.CutList[nurseryview.TrayLine]
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
}{{"", "as they were sown"}, {"ready", "the readiest first"}, {"crop", "by crop"}}

// choose keeps those of a crop and a purpose, in an order, and says what there is to choose.
func (v *nurseryView) choose(c *gin.Context, lines []nursery.Line, p say.Reader) (out []*nursery.Line) {
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
	byName := func(a, b face.ChoiceView) int { return cmp.Compare(a.Name, b.Name) }
	slices.SortStableFunc(v.Crops, byName)
	slices.SortStableFunc(v.Whats, byName)
	rank := map[ready.Word]int{ready.Late: 0, ready.Ready: 1, ready.Look: 2}
	of := func(l *nursery.Line) int {
		if n, ok := rank[l.Verdict.Word]; ok {
			return n
		}
		return len(rank)
	}
	switch v.Order {
	case "ready":
		slices.SortStableFunc(out, func(a, b *nursery.Line) int {
			return cmp.Or(of(a)-of(b), cmp.Compare(a.Verdict.About, b.Verdict.About))
		})
	case "crop":
		slices.SortStableFunc(out, func(a, b *nursery.Line) int { return cmp.Compare(p.Say(a.Crop.Name), p.Say(b.Crop.Name)) })
	}
	return out
}

func (nurseryView) Title() say.Text { return say.T("Nursery") }

func (s Pages) nurseryPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	o, err := nursery.ReadOverview(ctx, s.Store, w)
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
	var growing, moved []*nursery.Line
	for _, l := range v.choose(c, o.Lines, w.Prefs) {
		if l.Raising() {
			growing = append(growing, l)
		} else {
			moved = append(moved, l)
		}
	}
	v.Count, v.CountMany = walkThrough(growing, o.Trays, o.In)
	for _, r := range o.Closed {
		v.Closed = append(
			v.Closed,
			batchLine{
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
	line := func(l *nursery.Line) batchLine { return lineView(l, o.Today, names, w.Prefs) }
	v.Growing, v.Moved = face.CutAs(growing, most, path, line), face.CutAs(moved, most, path, line)
	v.Trays = face.CutAs(o.Trays, most, path, func(t site.Tray) nurseryview.TrayLine {
		says := w.Prefs.T("%d × %d, %d free", t.Rows, t.Columns, t.Cells()-t.Used)
		return nurseryview.TrayLine{Name: t.Name, Path: "/trays/" + t.ID.String(), Place: names[t.Place], Says: says}
	})
	s.Render(c, http.StatusOK, "nursery", "Nursery", v)
	return nil
}

func lineView(l *nursery.Line, today calendar.Day, names map[uuid.UUID]string, p say.Reader) batchLine {
	b := batchLine{Code: l.Code, Path: "/batches/" + l.ID.String(), Crop: p.Say(l.Crop.Name), Variety: l.Variety, Purpose: l.Purpose}
	for i, x := range l.Where {
		if i > 0 {
			b.Where += ", "
		}
		b.Where += names[x.Place]
	}
	var says say.Text
	switch {
	case l.Care != nil:
		says, b.Mark = say.T("day %d of about %d", today-l.Sown, sprout.WayOf(l.Crop).CutDay), "none"
	case !l.Raising():
		says, b.Mark = say.T("%d standing", l.InPorts()+l.InStands()), "none"
	case l.State.Start == batch.Struck && l.State.Sprouted == 0:
		says, b.Mark = say.T("struck %s", l.Sown.Short()), "none"
	case l.State.Sprouted == 0:
		says, b.Mark = say.T("sown %s", l.Sown.Short()), "none"
	default:
		says, b.Mark = nurseryview.RaisedWords(l.Crop, l.Sown, today, l.Verdict)
	}
	b.Says, b.Count = p.Say(says), p.T("%d of %d", l.State.Sprouted, l.State.Sown)
	return b
}

type sowView struct {
	Form   *face.Form
	Lots   []lotChoice
	Trays  []site.Tray
	Answer *answerView
	Tray   *face.GridView
	Before []string // what to do with the tray first
	Own    []string // refusals without a field
}

// lotChoice is a packet in the list.
type lotChoice struct{ ID, Says string }

func lotChoiceOf(l seeds.Packet, p say.Reader) lotChoice {
	says := p.T("%s, %s: %s, %d", face.CropName(l.Crop), l.Variety, l.Name, l.Packed)
	if l.SeedsLeft != nil {
		says = p.T("%s, %d seeds", says, *l.SeedsLeft)
	}
	return lotChoice{l.ID.String(), says}
}

func (sowView) Title() say.Text { return say.T("Sow") }

type optionView struct {
	Seeds, Cells, Total, Trays int
	Chance                     string
	Best, Reached, Enough      bool
}

type answerView struct {
	Big, Because, Lot string
	Warn, Wrong       string // of the seed; of the place
	How               []string
	Options           []optionView
	Steps             []face.StepView
	Best              int
	BestCells         int
}

func (s Pages) sowPage(c *gin.Context) error {
	_, w := s.Me(c)
	f := face.BlankForm(w.Prefs, "confidence", "90")
	for _, name := range []string{"lot", "wanted", "tray", "cells", "seeds", "confidence", "ready_by", "planned"} {
		if v := c.Query(name); v != "" {
			f.Values.Set(name, v)
		}
	}
	return s.showSow(c, http.StatusOK, f)
}

// fillPlanned takes what was planned into the form, where nothing was typed, with
// the freshest packet of its crop, and of the variety that its goal asks for.
func (s Pages) fillPlanned(ctx context.Context, w who.Who, id uuid.UUID, f *face.Form, shelf nursery.Shelf) error {
	p, err := season.GetPlanned(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	variety, err := season.VarietyOf(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	lot := ""
	if l, ok := shelf.Freshest(p.Crop, variety); ok {
		lot = l.ID.String()
	}
	for name, v := range map[string]string{"wanted": strconv.Itoa(p.Wanted), "ready_by": p.ReadyBy.String(), "lot": lot} {
		if f.Get(name) == "" {
			f.Values.Set(name, v)
		}
	}
	return nil
}

// sowAnswer is asked again whenever a field changes: the sum and the tray.
func (s Pages) sowAnswer(c *gin.Context) error {
	_, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	return s.showSow(c, http.StatusOK, f)
}

func (s Pages) showSow(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	shelf, err := nursery.GetShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := sowView{Form: f, Trays: shelf.Trays}
	if id, err := uuid.Parse(f.Get("planned")); err == nil {
		if err := s.fillPlanned(ctx, w, id, f, shelf); err != nil {
			return err
		}
	}
	for _, l := range shelf.Packets {
		v.Lots = append(v.Lots, lotChoiceOf(l, w.Prefs))
	}
	cells, warm := 24, (*float64)(nil)
	if id, err := uuid.Parse(f.Get("tray")); err == nil {
		switch t, err := nursery.GetTray(ctx, s.Store, w, id); {
		case err == nil:
			g := nurseryview.PickGrid(w.Prefs, t, f.Get("cells"))
			v.Before = w.Prefs.All(tray.Steps(t.Medium, t.Drains))
			v.Tray, cells, warm = &g, t.Tray.Cells(), &t.Place.TemperatureC
		case !errors.Is(err, store.ErrNotFound):
			return err
		}
	}
	if lot, err := uuid.Parse(f.Get("lot")); err == nil && f.Text("wanted") != "" {
		wanted := f.Int("wanted", 0)
		share := f.Int("confidence", 90)
		a, err := nursery.HowMuch(
			ctx,
			s.Store,
			w,
			nursery.SowQuestion{Lot: lot, Wanted: wanted, Confidence: float64(share) / 100, CellsPerTray: cells, TempC: warm},
		)
		switch {
		case err == nil:
			v.Answer = answerOf(a, w.Prefs)
			if f.Get("seeds") == "" && v.Answer.Best > 0 {
				f.Values.Set("seeds", strconv.Itoa(v.Answer.Best))
			}
		case f.Refuse(err):
			if m := f.Errors["plants_wanted"]; m != "" {
				f.Errors["wanted"] = m
			}
		default:
			return err
		}
	}
	v.Own = f.Rest("lot", "wanted", "confidence", "tray", "cells", "seeds", "ready_by", "purpose", "hands", "plants_wanted")
	s.Render(c, status, "sow", "Nursery", v)
	return nil
}

func (s Pages) sow(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	r := nursery.SowRequest{
		At:           f.When(w, s.Store.Now()),
		ID:           f.ID("id"),
		Lot:          f.ID("lot"),
		Tray:         f.ID("tray"),
		Wanted:       f.Int("wanted", 0),
		SeedsPerCell: f.Int("seeds", 0),
		Purpose:      f.Text("purpose"),
	}
	r.Hands = strings.FieldsFunc(f.Text("hands"), func(x rune) bool { return x == ',' || x == ';' })
	if f.Error("lot") != "" {
		f.Wrong("lot", "choose a seed lot")
	}
	if f.Error("tray") != "" {
		f.Wrong("tray", "choose a tray")
	}
	if f.Text("ready_by") != "" {
		d := f.Day("ready_by")
		r.ReadyBy = &d
	}
	if id, err := uuid.Parse(f.Get("planned")); err == nil {
		r.Planned = &id
	}
	r.Cells = f.Cells("cells", 40, 40)
	if f.Any() {
		return s.showSow(c, http.StatusUnprocessableEntity, f)
	}
	sown, err := nursery.Sow(ctx, s.Store, w, r)
	return s.Settle(c, f, err, func(status int) error { return s.showSow(c, status, f) }, func() face.Outcome {
		says := say.T("Sown. Write %s on the stick now: seedlings without a label cannot be told apart.", sown.Code)
		return face.Outcome{Says: says, To: "/batches/" + sown.Batch.String()}
	})
}
