package pages

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/site"
	siteview "ulpa/internal/work/site/view"
	solutionview "ulpa/internal/work/solution/view"
	traysview "ulpa/internal/work/trays/view"
)

// placeView is the page of a place: what is there, its tanks, its air and its lists.
type placeView struct {
	ID, Name, Meta, Path string
	Kind                 string
	Grid                 *face.GridView
	Standing             face.CutList[siteview.PlaceStand]
	Trays                face.CutList[traysview.TrayLine]
	Tanks                []solutionview.TankLine
	Lines                []notebookview.EntryView
	Bed                  *bedView
	Jars                 string // the page of its jars, cut open
	Boards               string // the page of its boards
	Pump                 *pumpView
	Lists                []listView
	MayDose              bool
	Air                  airView
	Form                 *face.Form
}

func (v placeView) Title() say.Text { return say.Name(v.Name) }

// bedView is a bed or frame to scale, with what stands in it side by side.
type bedView struct {
	W, H   float64
	BlockH float64
	Length string
	Blocks []bedBlock
}

// bedBlock is a section of a bed, to scale.
type bedBlock struct {
	X, W float64
	Code string
	Tint int
	Says string
}

// placesView is every place, in walking order.
type placesView struct{ Places []placeLine }

func (placesView) Title() say.Text { return say.T("Places") }

// placeLine is a place in the list.
type placeLine struct {
	Name, Path, Kind, Says string
	Standing               face.CutList[siteview.PlaceStand]
}

func (s Pages) placesPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	places, err := site.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	var v placesView
	for _, p := range places {
		l := placeLine{Name: p.Name, Path: "/places/" + p.ID.String(), Kind: w.Prefs.Say(site.KindWords(p.Kind)), Says: w.Prefs.Say(roomIn(p))}
		if len(p.Trays) > 0 && !p.HasPorts() {
			l.Says = w.Prefs.Say(say.Plural(len(p.Trays), "tray"))
		}
		l.Standing = siteview.StandsOf(w.Prefs, p.Standing, 2*face.FewTasks, l.Path)
		v.Places = append(v.Places, l)
	}
	s.Render(c, http.StatusOK, "places", "Places", v)
	return nil
}

func (s Pages) placePage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showPlace(c, http.StatusOK, face.BlankForm(w.Prefs))
}

func (s Pages) showPlace(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	p, err := site.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := placeView{ID: id.String(), Name: p.Name, Kind: p.Kind, Path: "/places/" + id.String(), Form: f, MayDose: w.May(who.Dose)}
	page, all := face.Whole(c.Request.URL)
	most := face.Fewer(face.FewLines, all)
	v.Standing = siteview.StandsOf(w.Prefs, p.ByBatch(), most, page)
	v.Meta = w.Prefs.Say(placeMeta(p.Place))
	if p.HasPorts() {
		g := portGrid(w.Prefs, p, "ports", "show")
		v.Grid = &g
	} else if p.Kind == "bed" || p.Kind == "frame" {
		v.Bed = bedOf(p, w)
	}
	v.Trays = face.CutAs(p.Trays, most, page, func(t site.Tray) traysview.TrayLine {
		return traysview.TrayLine{Name: t.Name, Path: "/trays/" + t.ID.String(), Says: w.Prefs.T("%d × %d, %d in use", t.Rows, t.Columns, t.Used)}
	})
	plants := 0
	for _, x := range p.ByBatch() {
		plants += x.Plants
	}
	switch p.Kind {
	case "jars":
		v.Jars = "/jars/" + id.String()
	case "tower", "raft":
		if p.Raft.Parted() {
			v.Boards = "/rafts/" + id.String()
		}
		v.Pump = pumpOf(p, plants, w.Prefs)
		all, err := site.Lists(ctx, s.Store, w, id)
		if err != nil {
			return err
		}
		v.Lists = listsOf(all, w.Prefs)
	}
	climate, err := site.ClimateOf(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v.Air = airOf(climate, p, f, w, int(w.Day(s.Store.Now())))
	for _, t := range p.Tanks {
		v.Tanks = append(v.Tanks, solutionview.TankLineOf(t, nil, w.Prefs))
	}
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{About: &id, Most: notebook.Few}); err != nil {
		return err
	}
	s.Render(c, status, "place", "Places", v)
	return nil
}

func placeMeta(p site.Place) say.Text {
	kind, about := site.KindWords(p.Kind), say.T("about %s", say.Of(p.TemperatureC, unit.Celsius))
	switch {
	case p.Measured:
		about = say.T("%s by its meter, the mean of a week", say.Of(p.TemperatureC, unit.Celsius))
	case p.Guessed:
		about = say.T("nobody said how warm")
	}
	switch {
	case p.Kind == "raft":
		holes := say.T("%d rows of %d holes", p.Tiers, p.Columns)
		if p.Boards > 1 {
			holes = say.Join(" · ", holes, say.Plural(p.Boards, "board"))
		}
		return say.Join(" · ", kind, holes, about)
	case p.HasPorts():
		return say.Join(" · ", kind, say.T("%s of %d ports", say.Plural(p.Tiers, "tier"), p.Columns), about)
	case p.LengthCM > 0:
		return say.Join(" · ", kind, say.T("%s × %s", say.Of(p.LengthCM, unit.Centimetre), say.Of(p.WidthCM, unit.Centimetre)), about)
	}
	return say.Join(" · ", kind, about)
}

func bedOf(p site.Contents, w who.Who) *bedView {
	v := &bedView{W: 640, H: 640 * p.WidthCM / max(1, p.LengthCM), Length: w.Prefs.Format(p.LengthCM, "cm")}
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
		v.Blocks = append(v.Blocks, bedBlock{at, width - 4, x.Code, i % 6, w.Prefs.Say(say.Many(x.Plants, say.Lower(x.Crop.Name)))})
		at += width
	}
	return v
}
