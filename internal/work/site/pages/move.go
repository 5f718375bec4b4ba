package pages

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/batch"
	"ulpa/core/crop"
	"ulpa/core/rotation"
	"ulpa/core/say"
	"ulpa/core/tower"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	batchesview "ulpa/internal/work/batches/view"
	"ulpa/internal/work/site"
	solutionview "ulpa/internal/work/solution/view"
	"ulpa/internal/work/trays"
	traysview "ulpa/internal/work/trays/view"
)

// source is where plants can be taken from: a drawing with an input, or a number.
type source struct {
	Input, Name string
	Kind        string
	Grid        *face.GridView
	Plants      int
	Says        string
	Error       string
	Value       string
	Cells       string // where its plants can be put into cells instead
}

// moveView asks which plants go where, and says what speaks for and against it.
type moveView struct {
	Code, Crop, Path string
	Headline, Why    string
	Sources          []source
	Places           []placeChoice
	To               *placeChoice
	Ports            *face.GridView
	Form             *face.Form
	Causes           []face.ChoiceView
	Rest             []string
	Notes            []string // of the crop in that place
	Windows          *solutionview.WindowsView
	Tiers            string // of a tower, from 0 at the top, best first
	Boards           []boardChoice
	OnTiers          bool // its ports are on tiers, one above the other
	Potting          *pottingView
	Warned           []string // what speaks against it; shown once, then asked about
}

// boardChoice is a board of a raft that has room: its rows and columns, as the drawing
// counts them.
type boardChoice struct {
	Number, Free  int
	Rows, Columns string
}

// boardsOf are those of a raft with room, from the planting end on.
func boardsOf(p site.Contents) (out []boardChoice) {
	taken := map[int]int{}
	for _, x := range p.Ports {
		taken[p.Raft.Board(x.Col)]++
	}
	list := func(from, n int) string {
		var words []string
		for i := range n {
			words = append(words, fmt.Sprint(from+i))
		}
		return strings.Join(words, " ")
	}
	for _, n := range p.Raft.Order() {
		if free := p.Raft.Rows*p.Raft.Wide() - taken[n]; free > 0 {
			out = append(out, boardChoice{n, free, list(0, p.Raft.Rows), list((n-1)*p.Raft.Wide(), p.Raft.Wide())})
		}
	}
	return out
}

// placeChoice is a place to which plants can go.
type placeChoice struct {
	ID, Name, Kind string
	Ported         bool
	Says           string
}

// Cells tells whether plants leave a tray.
func (v moveView) Cells() bool {
	return slices.ContainsFunc(v.Sources, func(s source) bool { return s.Kind == "cell" })
}

func (v moveView) Title() say.Text { return say.T("Move %s", v.Code) }

func (s Pages) movePage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showMove(c, http.StatusOK, face.BlankForm(w.Prefs, "to", c.Query("to"), "fresh", "1"), nil)
}

func (s Pages) showMove(c *gin.Context, status int, f *face.Form, warned site.Warned) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	b, err := batches.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	places, err := site.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	with, err := site.ReadPotting(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := moveView{
		Code:   b.Code,
		Crop:   w.Prefs.Say(b.Crop.Name),
		Path:   "/batches/" + id.String(),
		Form:   f,
		Causes: face.ChoicesOf(w.Prefs, site.Causes()),
		Warned: w.Prefs.All(warned),
	}
	headline, why, _ := batchesview.Headline(b)
	v.Headline, v.Why = w.Prefs.Say(headline), w.Prefs.Say(why)
	var to *site.Summary
	for i, p := range places {
		k := p.Kind
		if site.Indoors(k) && len(b.Stands) == 0 && len(with.Pots) == 0 {
			continue // plants in cells stand there already
		}
		choice := placeChoice{ID: p.ID.String(), Name: p.Name, Kind: k, Ported: p.HasPorts(), Says: w.Prefs.Say(roomIn(p))}
		v.Places = append(v.Places, choice)
		if choice.ID == f.Get("to") {
			v.To, to = &choice, &places[i]
		}
	}
	if v.Sources, err = s.sources(c, b, f, w); err != nil {
		return err
	}
	if to != nil {
		if err := s.goTo(c, &v, b, *to, places); err != nil {
			return err
		}
		if !to.HasPorts() && to.Kind != "bed" && len(with.Pots) > 0 {
			v.Potting = s.potting(b, with, to.Place, f, w)
		}
	}
	own := []string{"to", "ports", "ramp", "cause", "lost", "pot", "mix"}
	for _, x := range v.Sources {
		own = append(own, x.Input)
	}
	for i, x := range v.Sources {
		v.Sources[i].Says = w.Prefs.Say(say.Plural(x.Plants, "plant"))
	}
	v.Rest = f.Rest(own...)
	s.Render(c, status, "move", "Nursery", v)
	return nil
}

// goTo fills in what is asked and said of the place that was chosen.
func (s Pages) goTo(c *gin.Context, v *moveView, b batches.Batch, to site.Summary, places []site.Summary) error {
	ctx, w := s.Me(c)
	if v.To.Ported {
		full, err := site.Get(ctx, s.Store, w, to.ID)
		if err != nil {
			return err
		}
		g := portGrid(w.Prefs, full, "ports-grid", "pick")
		g.Input = "f-ports"
		g.Pick(v.Form.Get("ports"))
		v.Ports, v.OnTiers = &g, to.Kind == "tower"
		if full.Raft.Parted() {
			v.Boards = boardsOf(full)
		}
	}
	shared := solutionOf(to.Contents)
	if v.Windows = windowsAt(to, places, b, w); v.Windows != nil {
		shared = nil // the windows say it
	}
	v.Notes = w.Prefs.All(b.Crop.AtMoving(systemOf[to.Kind], shared, int(b.Today-b.Sown)))
	if to.Kind == "bed" {
		v.Notes = append(v.Notes, w.Prefs.All(neighbours(b, to))...)
	}
	if to.Kind == "tower" {
		a := tower.Where(b.Crop, to.Tiers)
		v.Tiers = strings.Trim(fmt.Sprint(a.Tiers), "[]")
		v.Notes = append(v.Notes, w.Prefs.T("Best in tier %s. %s", tray.Cell{Row: a.Tiers[0]}.Name()[:1], a.Why))
	}
	return nil
}

// neighbours are what those that stand in a bed mean for a batch that is planted there.
func neighbours(b batches.Batch, to site.Summary) (out []say.Text) {
	var standing []crop.Crop
	for _, x := range to.Standing {
		if x.Batch != b.ID {
			standing = append(standing, x.Crop)
		}
	}
	for _, n := range rotation.NeighboursOf(b.Crop, standing) {
		out = append(out, say.T("%s (%s.)", n.Why, n.Evidence))
	}
	return out
}

// systemOf is what the catalogue calls growing in a kind of place.
var systemOf = map[string]string{"tower": "tower", "raft": "raft", "jars": "jar", "bed": "bed"}

// windowsAt are the windows of those who would share a solution at a place; nil where no
// tank with a pump stands.
func windowsAt(to site.Summary, places []site.Summary, b batches.Batch, w who.Who) *solutionview.WindowsView {
	if len(to.Tanks) == 0 || to.Tanks[0].Spec.Passive {
		return nil
	}
	list := []solutionview.Drinker{{Code: b.Code, Path: "/batches/" + b.ID.String(), Wants: b.Crop.Wants(int(b.Today - b.Sown)), New: true}}
	for _, x := range to.Standing {
		if x.Batch != b.ID {
			list = append(list, solutionview.Drinker{Code: x.Code, Path: "/batches/" + x.Batch.String(), Wants: x.Crop.Wants(int(b.Today - w.Day(x.Sown)))})
		}
	}
	var tanks []ledger.Tank
	for _, p := range places {
		tanks = append(tanks, p.Tanks...)
	}
	return solutionview.WindowsOf(solutionview.KeptAt(to.Tanks[0]), list, solutionview.Others(tanks, to.Tanks[0].ID), w.Prefs)
}

// solutionOf is what the plants of a place share; nil where nothing is shared.
func solutionOf(in site.Contents) *crop.Solution {
	if len(in.Tanks) == 0 {
		return nil
	}
	kept := solutionview.KeptAt(in.Tanks[0])
	return &kept
}

func roomIn(p site.Summary) say.Text {
	n := 0
	for _, x := range p.Standing {
		n += x.Plants
	}
	if p.HasPorts() {
		return say.T("%d of %d ports free", p.Tiers*p.Columns-n, p.Tiers*p.Columns)
	}
	return say.T("%s there", say.Plural(n, "plant"))
}

// sources lists where the batch's plants stand, each with its own input.
func (s Pages) sources(c *gin.Context, b batches.Batch, f *face.Form, w who.Who) ([]source, error) {
	ctx := c.Request.Context()
	var out []source
	seen := map[string]bool{}
	for _, x := range b.Cells {
		key := x.TrayID.String()
		if seen[key] || b.Closed {
			continue
		}
		seen[key] = true
		t, err := trays.Get(ctx, s.Store, w, x.TrayID)
		if err != nil {
			return nil, err
		}
		out = s.openSources(out, b, t, f)
		g := traysview.TrayGrid(w.Prefs, t, "from-"+key, "pick")
		src := source{Input: "from_cell_" + key, Name: t.Name, Kind: "cell"}
		var all []string
		for r := range g.Rows {
			for i := range g.Rows[r].Cells {
				cell := &g.Rows[r].Cells[i]
				cell.Open = cell.Code == b.Code && cell.Tally == "" && batch.CellState(cell.State).Alive()
				if cell.Open {
					all = append(all, cell.Name)
				}
			}
		}
		src.Plants = len(all)
		if len(all) == 0 {
			continue
		}
		s.prefill(&src, &g, f, strings.Join(all, ", "))
		out = append(out, src)
	}
	for _, x := range b.Ports {
		key := x.PlaceID.String()
		if seen[key] {
			continue
		}
		seen[key] = true
		p, err := site.Get(ctx, s.Store, w, x.PlaceID)
		if err != nil {
			return nil, err
		}
		g := portGrid(w.Prefs, p, "from-"+key, "pick")
		src := source{Input: "from_port_" + key, Name: p.Name, Kind: "port"}
		for r := range g.Rows {
			for i := range g.Rows[r].Cells {
				cell := &g.Rows[r].Cells[i]
				cell.Open = cell.Code == b.Code
				if cell.Open {
					src.Plants++
				}
			}
		}
		s.prefill(&src, &g, f, "")
		out = append(out, src)
	}
	for _, x := range b.Stands {
		src := source{Input: "from_stand_" + batch.StandKey(x.PlaceID.String(), x.PotID), Name: x.Place, Kind: "stand", Plants: x.Plants}
		if x.Pot != "" {
			src.Name = w.Prefs.T("%s, in %s", say.Name(x.Place), say.Name(x.Pot))
		}
		src.Value, src.Error = f.Get(src.Input), f.Error(src.Input)
		if f.Get("fresh") != "" {
			src.Value = fmt.Sprint(x.Plants)
		}
		out = append(out, src)
	}
	return out, nil
}

// openSources adds the sections of an open tray in which plants of a batch stand, each with a number.
func (s Pages) openSources(out []source, b batches.Batch, t trays.Tray, f *face.Form) []source {
	for _, x := range t.Cells {
		if x.Batch != b.ID || x.Plants == 0 {
			continue
		}
		name := tray.Cell{Row: x.Row, Col: x.Col}.Name()
		src := source{Input: "from_open_" + t.ID.String() + "/" + name, Name: t.Name + ", " + name, Kind: "stand", Plants: x.Plants}
		src.Value, src.Error, src.Cells = f.Get(src.Input), f.Error(src.Input), "/trays/"+t.ID.String()+"/shift"
		out = append(out, src)
	}
	return out
}

// prefill chooses every plant the first time, and what was chosen afterwards.
func (s Pages) prefill(src *source, g *face.GridView, f *face.Form, all string) {
	src.Value, src.Error = f.Get(src.Input), f.Error(src.Input)
	if f.Get("fresh") != "" {
		src.Value = all
	}
	g.Input = "f-" + src.Input
	g.Pick(src.Value)
	src.Grid = g
}

func (s Pages) move(c *gin.Context) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	r := readMove(f, id, f.When(w, s.Store.Now()))
	if f.Get("show") != "" { // the place was changed: show its ports, store nothing
		f.Values.Del("ports")
		for k := range f.Errors {
			delete(f.Errors, k)
		}
		return s.showMove(c, http.StatusOK, f, nil)
	}
	r.Sure = f.Get("sure") != ""
	if !f.Any() {
		err = site.Move(ctx, s.Store, w, r)
	}
	var warned site.Warned
	if errors.As(err, &warned) {
		return s.showMove(c, http.StatusUnprocessableEntity, f, warned)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showMove(c, status, f, nil) }, func() face.Outcome {
		return face.Outcome{
			Says: say.T("Moved %s. Water them in.", say.Plural(batch.PlantsIn(r.From), "plant")),
			Undo: r.ID,
			To:   "/places/" + r.To.String(),
		}
	})
}
