package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/internal/nursery"
	"ulpa/internal/season"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

type batchLine struct {
	Code, Path, Crop, Variety, Where, Purpose string
	Says, Mark                                string
	Count                                     string
}

type nurseryView struct {
	Growing, Moved cutList[batchLine]
	Closed         []batchLine
	Trays          cutList[trayLine]
	Planned        []plannedView
}

func (nurseryView) Title() string { return "Nursery" }

func (s *Server) nurseryPage(c *gin.Context) error {
	ctx, w := s.me(c)
	o, err := nursery.Around(ctx, s.store, w)
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
	var growing, moved []batchLine
	var trays []trayLine
	for _, l := range o.Lines {
		b := lineView(l, o.Today, names)
		if l.Raising() {
			growing = append(growing, b)
		} else {
			moved = append(moved, b)
		}
	}
	for _, r := range o.Closed {
		v.Closed = append(v.Closed, batchLine{Code: r.Code, Path: "/batches/" + r.ID.String(), Crop: cropName(r.Crop), Variety: r.Variety, Says: "closed"})
	}
	for _, t := range o.Trays {
		free := t.Rows*t.Columns - t.Used
		trays = append(trays, trayLine{t.Name, "/trays/" + t.ID.String(), names[t.PlaceID], fmt.Sprintf("%d × %d, %d free", t.Rows, t.Columns, free)})
	}
	path, all := whole(c.Request.URL)
	most := fewer(fewLines, all)
	v.Growing, v.Moved, v.Trays = cut(growing, most, path), cut(moved, most, path), cut(trays, most, path)
	s.render(c, http.StatusOK, "nursery", "Nursery", v)
	return nil
}

func lineView(l nursery.Line, today calendar.Day, names map[uuid.UUID]string) batchLine {
	b := batchLine{Code: l.Code, Path: "/batches/" + l.ID.String(), Crop: l.Crop.Name, Variety: l.Variety, Purpose: l.Purpose}
	for i, x := range l.Where {
		if i > 0 {
			b.Where += ", "
		}
		b.Where += names[x.PlaceID]
	}
	switch {
	case !l.Raising():
		b.Says, b.Mark = fmt.Sprintf("%d standing", l.InPorts()+l.InStands()), "none"
	case l.State.Sprouted == 0:
		b.Says, b.Mark = fmt.Sprintf("sown %s", l.Sown.Short()), "none"
	default:
		b.Says, b.Mark = raisedWords(l.Crop, l.Sown, today, l.Verdict)
	}
	b.Count = fmt.Sprintf("%d of %d", l.State.Sprouted, l.State.Sown)
	return b
}

type sowView struct {
	Form   form
	Lots   []lotChoice
	Trays  []db.ListTraysRow
	Answer *answerView
	Tray   *gridView
	Own    []string // refusals without a field
}

// lotChoice is a packet in the list.
type lotChoice struct{ ID, Says string }

func lotChoiceOf(l db.ListLotsRow) lotChoice {
	says := fmt.Sprintf("%s, %s: %s, %d", cropName(l.Crop), l.Variety, l.Name, l.Packed)
	if l.SeedsLeft != nil {
		says += fmt.Sprintf(", %d seeds", *l.SeedsLeft)
	}
	return lotChoice{l.ID.String(), says}
}

func (sowView) Title() string { return "Sow" }

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
	Steps             []stepView
	Best              int
	BestCells         int
}

func (s *Server) sowPage(c *gin.Context) error {
	_, w := s.me(c)
	f := blankForm(w.Prefs, "confidence", "90")
	for _, name := range []string{"lot", "wanted", "tray", "seeds", "confidence", "ready_by", "planned"} {
		if v := c.Query(name); v != "" {
			f.values.Set(name, v)
		}
	}
	return s.showSow(c, http.StatusOK, f)
}

// fillPlanned takes what was planned into the form, where nothing was typed, with
// the freshest packet of its crop.
func (s *Server) fillPlanned(ctx context.Context, w who.Who, id uuid.UUID, f form, shelf nursery.Shelf) error {
	p, err := season.GetPlanned(ctx, s.store, w, id)
	if err != nil {
		return err
	}
	lot := ""
	if l, ok := shelf.Freshest(p.Crop); ok {
		lot = l.ID.String()
	}
	for name, v := range map[string]string{"wanted": strconv.Itoa(p.Wanted), "ready_by": p.ReadyBy.String(), "lot": lot} {
		if f.Get(name) == "" {
			f.values.Set(name, v)
		}
	}
	return nil
}

// sowAnswer is asked again whenever a field changes: the sum and the tray.
func (s *Server) sowAnswer(c *gin.Context) error {
	_, w := s.me(c)
	f := readForm(c, w.Prefs)
	return s.showSow(c, http.StatusOK, f)
}

func (s *Server) showSow(c *gin.Context, status int, f form) error {
	ctx, w := s.me(c)
	shelf, err := nursery.GetShelf(ctx, s.store, w)
	if err != nil {
		return err
	}
	v := sowView{Form: f, Trays: shelf.Trays}
	if id, err := uuid.Parse(f.Get("planned")); err == nil {
		if err := s.fillPlanned(ctx, w, id, f, shelf); err != nil {
			return err
		}
	}
	for _, l := range shelf.Lots {
		v.Lots = append(v.Lots, lotChoiceOf(l))
	}
	cells, warm := 24, (*float64)(nil)
	if id, err := uuid.Parse(f.Get("tray")); err == nil {
		switch t, err := nursery.GetTray(ctx, s.store, w, id); {
		case err == nil:
			g := pickGrid(t, f.Get("cells"))
			v.Tray, cells, warm = &g, t.Row.Rows*t.Row.Columns, &t.Place.TemperatureC
		case !errors.Is(err, store.ErrNotFound):
			return err
		}
	}
	if lot, err := uuid.Parse(f.Get("lot")); err == nil && f.Text("wanted") != "" {
		wanted := f.Int("wanted", 0)
		share := f.Int("confidence", 90)
		a, err := nursery.HowMuch(ctx, s.store, w, nursery.SowQuestion{Lot: lot, Wanted: wanted, Confidence: float64(share) / 100, CellsPerTray: cells, TempC: warm})
		switch {
		case err == nil:
			v.Answer = answerOf(a, w.Prefs)
			if f.Get("seeds") == "" && v.Answer.Best > 0 {
				f.values.Set("seeds", strconv.Itoa(v.Answer.Best))
			}
		case f.Refuse(err):
			if m := f.errors["plants_wanted"]; m != "" {
				f.errors["wanted"] = m
			}
		default:
			return err
		}
	}
	v.Own = f.Rest("lot", "wanted", "confidence", "tray", "cells", "seeds", "ready_by", "purpose", "plants_wanted")
	s.render(c, status, "sow", "Nursery", v)
	return nil
}

func (s *Server) sow(c *gin.Context) error {
	ctx, w := s.me(c)
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	f := readForm(c, w.Prefs)
	r := nursery.SowRequest{ID: f.ID("id"), Lot: f.ID("lot"), Tray: f.ID("tray"), Wanted: f.Int("wanted", 0), SeedsPerCell: f.Int("seeds", 0), Purpose: f.Text("purpose")}
	if f.Error("lot") != "" {
		f.errors["lot"] = "choose a seed lot"
	}
	if f.Error("tray") != "" {
		f.errors["tray"] = "choose a tray"
	}
	if s := f.Text("ready_by"); s != "" {
		d, err := calendar.ParseDay(s)
		if err != nil {
			f.errors["ready_by"] = err.Error()
		}
		r.ReadyBy = &d
	}
	if id, err := uuid.Parse(f.Get("planned")); err == nil {
		r.Planned = &id
	}
	r.Cells = f.Cells("cells", 40, 40)
	if f.Any() {
		return s.showSow(c, http.StatusUnprocessableEntity, f)
	}
	sown, err := nursery.Sow(ctx, s.store, w, r)
	return s.settle(c, f, err, func(status int) error { return s.showSow(c, status, f) }, func() outcome {
		says := fmt.Sprintf("Sown. Write %s on the stick now: seedlings without a label cannot be told apart.", sown.Code)
		return outcome{says: says, to: "/batches/" + sown.Batch.String()}
	})
}
