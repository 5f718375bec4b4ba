package pages

import (
	"cmp"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/crops"
	cropsview "ulpa/internal/work/crops/view"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
)

// adoptView asks for what grows already.
type adoptView struct {
	Form        *face.Form
	Rest        []string
	Crops       []face.ChoiceView
	Places      []face.ChoiceView
	Trays       []site.Tray
	Varieties   []string
	Starts      []face.ChoiceView
	Signs       []face.TickView
	OfTest      string // the packet whose seedlings they are
	NowhereToBe bool
}

func (adoptView) Title() say.Text { return say.T("What grows already") }

func (s Pages) adoptPage(c *gin.Context) error {
	f := face.BlankForm(s.Reader(c))
	for _, name := range []string{"lot", "test", "start"} {
		f.Values.Set(name, c.Query(name))
	}
	return s.showAdopt(c, http.StatusOK, f)
}

func (s Pages) showAdopt(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	places, err := site.ReadPlaces(ctx, s.Store, w)
	if err != nil {
		return err
	}
	shelf, err := sowing.GetShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := adoptView{Form: f, Trays: shelf.Trays, NowhereToBe: len(places) == 0}
	v.Rest = f.Rest("crop", "variety", "since", "plants", "place", "ports", "tray", "cells", "purpose", "start", "signs", "dead", "sure")
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v.Crops = cropsview.ToName(book, w.Prefs)
	for _, p := range places {
		says := p.Name
		if p.HasPorts() {
			says = w.Prefs.T("%s, %d × %d ports", p.Name, p.Tiers, p.Columns)
		}
		v.Places = append(v.Places, face.ChoiceView{Value: p.ID.String(), Name: says})
	}
	for _, x := range batch.Starts {
		if x.ID != batch.FromTest && x.ID != batch.Soaked { // each has a page of its own
			v.Starts = append(v.Starts, face.ChoiceView{Value: x.ID, Name: w.Prefs.Say(x.Name)})
		}
	}
	for _, x := range batch.Signs {
		v.Signs = append(v.Signs, face.TickView{ID: string(x.ID), Name: w.Prefs.Say(x.Name), On: slices.Contains(f.Values["signs"], string(x.ID))})
	}
	if f.Get("lot") != "" {
		for _, p := range shelf.Packets {
			if p.ID.String() == f.Get("lot") {
				v.OfTest = w.Prefs.T("%s, %s", say.Name(p.Name), say.Name(p.Variety))
			}
		}
	}
	seen := map[string]bool{}
	for _, p := range shelf.Packets {
		if !seen[p.Variety] {
			seen[p.Variety] = true
			v.Varieties = append(v.Varieties, p.Variety)
		}
	}
	s.Render(c, status, "adopt", "Nursery", v)
	return nil
}

func (s Pages) adopt(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	r := sowing.AdoptRequest{
		ID: f.ID("id"), Crop: f.Get("crop"), Variety: cmp.Or(f.Text("variety"), w.Prefs.T("variety unknown")), Purpose: f.Get("purpose"), Plants: f.Int("plants", 0),
	}
	if r.Since = w.Day(s.Store.Now()); f.Text("since") != "" || f.Text("lot") == "" && f.Get("start") == "" {
		r.Since = f.Day("since")
	}
	r.Rooted, r.Sure = f.Get("rooted") != "", f.Get("sure") != ""
	r.Start, r.Dead = f.Get("start"), f.Int("dead", 0)
	for _, x := range f.Values["signs"] {
		r.Signs = append(r.Signs, batch.SignOf(x))
	}
	if f.Text("lot") != "" {
		r.Lot, r.Test = f.ID("lot"), f.ID("test")
	}
	if f.Text("tray") != "" {
		r.Tray = f.ID("tray")
		r.Cells = f.Cells("cells", 40, 40)
	} else {
		r.Place = f.ID("place")
		r.Ports = f.Cells("ports", 60, 60)
	}
	var out sowing.Sown
	var err error
	if !f.Any() {
		out, err = sowing.Adopt(ctx, s.Store, w, r)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showAdopt(c, status, f) }, func() face.Outcome {
		return face.Outcome{
			Says: say.T("Write %s on the stick now: it is saved.", say.Name(out.Code)), Back: face.UndoThen(out.Batch, "/nursery"), To: "/batches/" + out.Batch.String(),
		}
	})
}
