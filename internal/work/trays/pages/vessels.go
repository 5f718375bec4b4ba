package pages

import (
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/site"
	"ulpa/internal/work/trays"
	traysview "ulpa/internal/work/trays/view"
)

// vesselsView is what there is to sow in, alike ones together.
type vesselsView struct {
	Lead                   string
	Kinds                  []vesselView
	Form                   *face.Form
	Places, Types, Mediums []face.ChoiceView
	Own                    []string
	May                    bool
}

func (vesselsView) Title() say.Text { return say.T("Trays") }

// vesselView is trays of one kind.
type vesselView struct {
	Name, Size, Free string
	Trays            face.CutList[vesselOne]
}

// vesselOne is a tray in the list.
type vesselOne struct{ Path, Name, Says string }

func (s Pages) vessels(c *gin.Context) error {
	return s.showVessels(c, http.StatusOK, face.BlankForm(s.Reader(c), "drains", "1"))
}

func (s Pages) showVessels(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	o, err := batches.ReadOverview(ctx, s.Store, w)
	if err != nil {
		return err
	}
	r := w.Prefs
	v := vesselsView{Form: f, May: w.May(who.Plan), Own: f.Rest("many", "place", "rows", "columns", "cell_ml", "kind", "medium", "height_cm")}
	place := map[uuid.UUID]string{}
	for _, p := range o.Places {
		place[p.ID] = p.Name
		v.Places = append(v.Places, face.ChoiceView{Value: p.ID.String(), Name: p.Name})
	}
	for _, k := range tray.Kinds {
		v.Types = append(v.Types, face.ChoiceView{Value: k.ID, Name: r.Say(k.Name)})
	}
	for _, m := range tray.Mediums {
		v.Mediums = append(v.Mediums, face.ChoiceView{Value: m.ID, Name: r.Say(m.Name)})
	}
	index := map[string]int{}
	var list [][]vesselOne
	clean, free := map[string]int{}, 0
	for _, t := range o.Trays {
		size := r.T("%d × %d, each %s", t.Rows, t.Columns, say.Of(t.CellML, unit.Millilitre))
		if !t.Drains {
			size = r.T("%s, without holes", size)
		}
		key := t.Kind + size
		if _, ok := index[key]; !ok {
			index[key] = len(v.Kinds)
			list = append(list, nil)
			v.Kinds = append(v.Kinds, vesselView{Name: r.Say(say.Capital(tray.KindOf(t.Kind).Name)), Size: size})
		}
		at := index[key]
		says := r.T("%s, %d in use", place[t.Place], t.Used)
		if t.Used == 0 {
			says = r.T("%s, free", place[t.Place])
			clean[key]++
			free++
		}
		list[at] = append(list[at], vesselOne{"/trays/" + t.ID.String(), t.Name, says})
		v.Kinds[at].Free = r.T("%d of %d free", clean[key], len(list[at]))
	}
	path, all := face.Whole(c.Request.URL)
	for i := range list {
		v.Kinds[i].Trays = face.CutAs(list[i], face.Fewer(face.FewLines, all), path, func(x vesselOne) vesselOne { return x })
	}
	v.Lead = r.T("%s, %d of them free.", say.Plural(len(o.Trays), "tray"), free)
	s.Render(c, status, "vessels", "Nursery", v)
	return nil
}

func (s Pages) addTrays(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	like := site.TraySetup{
		Place: f.ID("place"), Rows: f.Int("rows", 0), Columns: f.Int("columns", 0), CellML: f.Amount("cell_ml", unit.Millilitre),
		Kind: f.Get("kind"), Medium: f.Get("medium"), Drains: f.Get("drains") != "",
	}
	many := f.Int("many", 0)
	var err error
	if !f.Any() {
		err = site.AddTrays(ctx, s.Store, w, f.ID("id"), like, many)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showVessels(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Added: %s. Write their names on them.", say.Plural(many, "tray")), To: "/trays"}
	})
}

// gapView is cells that are kept free for a sowing.
type gapView struct{ ID, Says, Sow string }

func (s Pages) gapViews(c *gin.Context, t trays.Tray) (out []gapView, choices []face.ChoiceView, err error) {
	ctx, w := s.Me(c)
	for _, g := range t.Gaps {
		cells := tray.Format(g.Cells)
		out = append(out, gapView{
			ID: g.ID.String(), Says: w.Prefs.T("%s for %s on %s", say.Name(cells), say.Lower(g.Crop.Name), g.On.Short()),
			Sow: "/sow?tray=" + t.ID.String() + "&cells=" + url.QueryEscape(cells),
		})
	}
	book, err := crops.Get(ctx, s.Store, w)
	for _, x := range book.Listed(w.Prefs) {
		choices = append(choices, face.ChoiceView{Value: x.ID, Name: w.Prefs.Say(x.Name)})
	}
	return out, choices, err
}

func (s Pages) keepGap(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	k := trays.Keep{ID: f.ID("id"), Tray: id, Cells: f.Cells("cells", 40, 40), Crop: f.Get("crop"), On: f.Day("on")}
	if !f.Any() {
		err = trays.KeepGap(ctx, s.Store, w, k)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showTray(c, status, f, "") }, func() face.Outcome {
		return face.Outcome{
			Says: say.T("Reserved. The round asks for the sowing on its day."), To: "/trays/" + id.String(),
			Back: face.BackTo("/trays/"+id.String()+"/unkeep", "gap", k.ID.String()),
		}
	})
}

func (s Pages) dropGap(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	gap := f.ID("gap")
	t, err := trays.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	var undo *face.Back
	for _, g := range t.Gaps {
		if g.ID == gap {
			undo = face.BackTo("/trays/"+id.String()+"/keep", "cells", tray.Format(g.Cells), "crop", g.Crop.ID, "on", g.On.String())
		}
	}
	if !f.Any() {
		err = trays.DropGap(ctx, s.Store, w, gap)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showTray(c, status, f, "") }, func() face.Outcome {
		return face.Outcome{Says: say.T("Those cells are free again."), Back: undo, To: "/trays/" + id.String()}
	})
}

// sheetView is a tray on one printed page, to work from at the bench.
type sheetView struct {
	Called, Where, Path string
	Grid                face.GridView
	Parts               []sheetPart
	Before              []string
	Labels              string // where its batches’ labels are
}

func (v sheetView) Title() say.Text { return say.T("%s on a sheet", say.Name(v.Called)) }

// sheetPart is one kind of the tray: which cells, what goes in, how deep.
type sheetPart struct {
	Code, Crop, Variety, Cells, Says string
	How                              []string
	Later                            bool
}

func (s Pages) sheet(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	t, err := trays.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	r := w.Prefs
	v := sheetView{
		Labels: "/labels?sort=batches",
		Called: t.Name, Path: "/trays/" + id.String(), Grid: traysview.TrayGrid(r, t, "sheet-grid", "show"), Before: r.All(tray.Steps(t.Medium, t.Drains)),
		Where: r.T("%s · %s, %d × %d, each %s", t.Place.Name, tray.KindOf(t.Kind).Name, t.Rows, t.Columns, r.Format(t.CellML, unit.Millilitre)),
	}
	for _, b := range t.Batches {
		var cells []tray.Cell
		open := 0 // seedlings in sections, and seeds that may still come up there
		for _, x := range b.Cells {
			if x.TrayID == id {
				cells = append(cells, tray.Cell{Row: x.Row, Col: x.Col})
				if x.Open {
					open += x.Standing() + x.Waiting()
				}
			}
		}
		each := b.State.Seeds / max(1, b.State.Sown)
		p := sheetPart{Code: b.Code, Crop: r.Say(b.Crop.Name), Variety: b.Variety, Cells: tray.Format(cells)}
		p.Says = r.T("%s, sown %s", say.Plural(len(cells), "cell"), b.Sown.Short())
		if open > 0 {
			p.Says = r.T("%s, about %d seeds or seedlings, sown %s", say.Plural(len(cells), "section"), open, b.Sown.Short())
			p.How = r.All(b.Crop.AtSowing(open, false))[:1]
		} else if each > 0 {
			p.Says = r.T("%s, %s in each, sown %s", say.Plural(len(cells), "cell"), say.Plural(each, "seed"), b.Sown.Short())
			p.How = r.All(b.Crop.AtSowing(each*len(cells), false))[:1]
		}
		p.How = append(p.How, handsIn(b, id, r)...)
		v.Parts = append(v.Parts, p)
		v.Labels += "&of=" + b.ID.String()
	}
	for _, g := range t.Gaps {
		v.Parts = append(v.Parts, sheetPart{
			Crop: r.Say(g.Crop.Name), Cells: tray.Format(g.Cells), Later: true,
			Says: r.T("%s reserved, to be sown on %s", say.Plural(len(g.Cells), "cell"), g.On.Short()),
		})
	}
	s.Render(c, http.StatusOK, "sheet", "Nursery", v)
	return nil
}
