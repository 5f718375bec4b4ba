package pages

import (
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/face"
	"ulpa/internal/notebook"
	notebookview "ulpa/internal/notebook/view"
	nurseryview "ulpa/internal/nursery/view"
	"ulpa/internal/site"
	siteview "ulpa/internal/site/view"
	solutionview "ulpa/internal/solution/view"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

type placeView struct {
	ID, Name, Meta, Path string
	Kind                 string
	Grid                 *face.GridView
	Standing             face.CutList[siteview.PlaceStand]
	Trays                face.CutList[nurseryview.TrayLine]
	Tanks                []solutionview.TankLine
	Lines                []notebookview.EntryView
	Bed                  *bedView
}

func (v placeView) Title() string { return v.Name }

// bedView is a bed or frame to scale, with what stands in it side by side.
type bedView struct {
	W, H   float64
	BlockH float64
	Length string
	Blocks []bedBlock
}

type bedBlock struct {
	X, W float64
	Code string
	Tint int
	Says string
}

type placesView struct{ Places []placeLine }

func (placesView) Title() string { return "Places" }

type placeLine struct {
	Name, Path, Kind, Says string
	Standing               face.CutList[siteview.PlaceStand]
}

func kindName(k string) string {
	for _, x := range site.Kinds {
		if x.ID == k {
			return x.Name
		}
	}
	return k
}

func (s Pages) placesPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	places, err := site.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	var v placesView
	for _, p := range places {
		l := placeLine{Name: p.Row.Name, Path: "/places/" + p.Row.ID.String(), Kind: kindName(p.Row.Kind), Says: roomIn(p)}
		if len(p.Trays) > 0 && !site.HasPorts(p.Row) {
			l.Says = say.Plural(len(p.Trays), "tray")
		}
		l.Standing = face.Cut(siteview.StandsOf(p.Standing), 2*face.FewTasks, l.Path)
		v.Places = append(v.Places, l)
	}
	s.Render(c, http.StatusOK, "places", "Places", v)
	return nil
}

func (s Pages) placePage(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	p, err := site.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := placeView{ID: id.String(), Name: p.Row.Name, Kind: p.Row.Kind, Path: "/places/" + id.String()}
	page, all := face.Whole(c.Request.URL)
	most := face.Fewer(face.FewLines, all)
	v.Standing = face.Cut(siteview.StandsOf(p.ByBatch()), most, page)
	v.Meta = placeMeta(p.Row, w)
	if site.HasPorts(p.Row) {
		g := portGrid(p, "ports", "show")
		v.Grid = &g
	} else if p.Row.Kind == "bed" || p.Row.Kind == "frame" {
		v.Bed = bedOf(p, w)
	}
	var trays []nurseryview.TrayLine
	for _, t := range p.Trays {
		trays = append(trays, nurseryview.TrayLine{Name: t.Name, Path: "/trays/" + t.ID.String(), Place: "", Says: fmt.Sprintf("%d × %d, %d in use", t.Rows, t.Columns, t.Used)})
	}
	v.Trays = face.Cut(trays, most, page)
	for _, t := range p.Tanks {
		v.Tanks = append(v.Tanks, solutionview.TankLineOf(t, nil, w.Prefs))
	}
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{Place: &id, Most: notebookview.Few}); err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "place", "Places", v)
	return nil
}

func placeMeta(p db.Place, w who.Who) string {
	m := kindName(p.Kind)
	if site.HasPorts(p) {
		m += fmt.Sprintf(" · %d tiers of %d ports", p.Tiers, p.Columns)
	} else if p.LengthCm > 0 {
		m += fmt.Sprintf(" · %s by %s", w.Prefs.Format(p.LengthCm, "cm"), w.Prefs.Format(p.WidthCm, "cm"))
	}
	return m + " · about " + w.Prefs.Format(p.TemperatureC, "°C")
}

func bedOf(p site.Place, w who.Who) *bedView {
	v := &bedView{W: 640, H: 640 * p.Row.WidthCm / max(1, p.Row.LengthCm), Length: w.Prefs.Format(p.Row.LengthCm, "cm")}
	v.H = min(240, max(90, v.H))
	v.BlockH = v.H - 16
	total := 0
	list := p.ByBatch()
	for _, x := range list {
		total += x.Plants
	}
	at := 6.0
	for i, x := range list {
		width := (v.W - 12) * float64(x.Plants) / float64(max(total, 20))
		v.Blocks = append(v.Blocks, bedBlock{at, width - 4, x.Code, i % 6, fmt.Sprintf("%d %s", x.Plants, strings.ToLower(x.Crop.Name))})
		at += width
	}
	return v
}
