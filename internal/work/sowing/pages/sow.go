package pages

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/season"
	seedsview "ulpa/internal/work/seeds/view"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
	traysview "ulpa/internal/work/trays/view"
)

// sowView asks what is sown into which cells, and answers how much seed that takes.
type sowView struct {
	Form   *face.Form
	Lots   []face.ChoiceView
	Trays  []site.Tray
	Answer *answerView
	Tray   *face.GridView
	Open   bool     // the tray is open, and its sections are chosen
	Before []string // what to do with the tray first
	Own    []string // refusals without a field
}

func (sowView) Title() say.Text { return say.T("Sow") }

// TrayOptions are the trays to choose from, written in one go: there may be hundreds.
func (v sowView) TrayOptions(r say.Reader) template.HTML {
	var b strings.Builder
	chosen := v.Form.Get("tray")
	for _, t := range v.Trays {
		selected := ""
		if t.ID.String() == chosen {
			selected = " selected"
		}
		fmt.Fprintf(&b, "<option value=%q%s>%s: %s</option>\n", t.ID, selected, template.HTMLEscapeString(t.Name), r.T("%d × %d, %d in use",
			t.Rows, t.Columns, t.Used))
	}
	return template.HTML(b.String()) // #nosec G203 -- what people wrote is escaped above
}

// optionView is so many seeds a cell, with what comes of it.
type optionView struct {
	Seeds, Cells, Total, Trays int
	Chance                     string
	Best, Reached, Enough      bool
}

// answerView is how much to sow, with its working.
type answerView struct {
	Big, Because, Lot string
	Taste, Notes      string // of its variety
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
func (s Pages) fillPlanned(ctx context.Context, w who.Who, id uuid.UUID, f *face.Form, shelf sowing.Shelf) error {
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
	shelf, err := sowing.GetShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := sowView{Form: f.Need("wanted", "cells", "seeds"), Trays: shelf.Trays}
	if id, err := uuid.Parse(f.Get("planned")); err == nil {
		if err := s.fillPlanned(ctx, w, id, f, shelf); err != nil {
			return err
		}
	}
	for _, l := range shelf.Packets {
		v.Lots = append(v.Lots, seedsview.PacketOf(l, w.Prefs))
	}
	var into site.Tray
	cells, warm := 24, (*float64)(nil)
	if id, err := uuid.Parse(f.Get("tray")); err == nil {
		switch t, err := trays.Get(ctx, s.Store, w, id); {
		case err == nil:
			g := traysview.PickGrid(w.Prefs, t, f.Get("cells"))
			v.Before = w.Prefs.All(tray.Steps(t.Medium, t.Drains))
			v.Tray, cells, warm, into = &g, t.Tray.Cells(), &t.Place.TemperatureC, t.Tray
			v.Open = into.Open()
		case !errors.Is(err, store.ErrNotFound):
			return err
		}
	}
	if lot, err := uuid.Parse(f.Get("lot")); err == nil && f.Text("wanted") != "" {
		wanted := f.Int("wanted", 0)
		share := f.Int("confidence", 90)
		a, err := sowing.HowMuch(
			ctx,
			s.Store,
			w,
			sowing.SowQuestion{Lot: lot, Wanted: wanted, Confidence: float64(share) / 100, CellsPerTray: cells, Open: v.Open, TempC: warm},
		)
		switch {
		case err == nil:
			v.Answer = answerOf(a, w.Prefs)
			if v.Open {
				chosen, _ := tray.ParseList(f.Get("cells"), into.Rows, into.Columns)
				v.Answer.inSections(best(a), cmp.Or(len(chosen), into.Cells()), into, w.Prefs)
			}
			if v.Answer.Best > 0 && (f.Get("seeds") == "" || v.Open && f.Get("seeds") == f.Get("advised")) {
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
	r := sowing.SowRequest{
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
	sown, err := sowing.Sow(ctx, s.Store, w, r)
	return s.Settle(c, f, err, func(status int) error { return s.showSow(c, status, f) }, func() face.Outcome {
		says := say.T("Sown. Write %s on the stick now: nobody can tell unlabelled seedlings apart.", sown.Code)
		return face.Outcome{Says: says, Back: face.UndoThen(sown.Batch, "/nursery"), To: "/batches/" + sown.Batch.String()}
	})
}
