package web

import (
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/seed"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/core/working"
	"ulpa/internal/nursery"
	"ulpa/internal/who"
)

// inTray is one batch of a tray with its judgement.
type inTray struct {
	Code, Path, Crop, Variety string
	Tint                      int
	Up, Sown                  int
	Headline, Why             string
	Behind                    bool
	Curve                     curveView
	Steps                     []stepView
	Move                      string
	Germinating               bool
	Sums                      []sumLink
}

type trayView struct {
	Name, Meta, Path string
	Grid             gridView
	Batches          []inTray
	Form             form
	Seen             string
	Causes           []string
	Clash            string
	Place            string
}

func (v trayView) Title() string { return v.Name }

func (s *Server) trayPage(c *gin.Context) {
	_, w := s.me(c)
	s.showTray(c, http.StatusOK, blankForm(w.Prefs), "")
}

func (s *Server) showTray(c *gin.Context, status int, f form, clash string) {
	ctx, w := s.me(c)
	id, err := pathID(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	t, err := nursery.GetTray(ctx, s.store, w, id)
	if err != nil {
		s.fail(c, err)
		return
	}
	v := trayView{
		Name: t.Row.Name, Path: "/trays/" + id.String(), Form: f, Causes: batch.Causes, Clash: clash, Place: t.Place.Name,
		Meta: fmt.Sprintf("%s · %d × %d cells, %s", t.Place.Name, t.Row.Rows, t.Row.Columns, w.Prefs.Format(t.Row.CellMl, unit.Millilitre)),
		Grid: trayGrid(t, "tray-grid", "mark"),
	}
	var seen []string
	for _, x := range t.Cells {
		seen = append(seen, tray.Cell{Row: x.Row, Col: x.Col}.Name()+":"+x.State)
	}
	v.Seen = strings.Join(seen, " ")
	for _, b := range t.Batches {
		v.Batches = append(v.Batches, inTrayOf(b, w, v.Grid.Sections))
	}
	s.render(c, status, "tray", "Nursery", v)
}

func inTrayOf(b nursery.Batch, w who.Who, sections []sectionLabel) inTray {
	x := inTray{
		Code: b.Row.Code, Path: "/batches/" + b.Row.ID.String(), Crop: b.Crop.Name, Variety: b.Row.Variety,
		Up: b.State.Sprouted, Sown: b.State.Sown, Germinating: b.State.Waiting() > 0,
	}
	for _, sec := range sections {
		if sec.Code == x.Code {
			x.Tint = sec.Tint
		}
	}
	x.Curve, x.Sums = curveOf(b.Curve), batchSums(b, w)
	x.Headline, x.Why, x.Behind = germinationSays(b, w.Prefs)
	if !x.Germinating || b.Verdict.Word != "early" {
		x.Headline, _ = verdictWords(b.Verdict, b.Today)
		x.Headline = strings.ToUpper(x.Headline[:1]) + x.Headline[1:] + "."
		x.Why, x.Behind = b.Verdict.Why+".", b.Verdict.Word == "late"
	}
	if b.State.InTrays() > 0 {
		x.Move = x.Path + "/move"
	}
	x.Steps = germinationSteps(b, w.Prefs)
	return x
}

// germinationSays judges the last count against what was usual when it was made.
func germinationSays(b nursery.Batch, p unit.Prefs) (headline, why string, behind bool) {
	c := b.Curve
	at, counted := p.Format(b.TempC, unit.Celsius), fmt.Sprintf("%d up on day %d", c.Sprouted, c.JudgedDay)
	switch {
	case !c.Known:
		return fmt.Sprintf("%d of %d up on day %d.", c.Sprouted, c.Sown, c.JudgedDay), fmt.Sprintf("No figure for %s at %s, so nothing to compare with.", b.Crop.Name, at), false
	case !c.Counted():
		return fmt.Sprintf("Not counted yet: day %d, about %.0f of %d usual at %s.", c.Day, c.Mid, c.Sown, at), fmt.Sprintf("Half of what comes is up by about day %.0f.", c.DaysToHalf), false
	case c.Behind():
		return fmt.Sprintf("Behind: %s, about %.0f would be usual at %s.", counted, c.Mid, at),
			fmt.Sprintf("Nine trays in ten would show at least %.0f. Is it warm and moist enough? There is still time to sow more.", c.Low), true
	case float64(c.Sprouted) > c.High:
		return fmt.Sprintf("Ahead: %s, about %.0f would be usual at %s.", counted, c.Mid, at), "Give light as soon as half are up, or they stretch.", false
	}
	return fmt.Sprintf("On course: %s, about %.0f is usual at %s.", counted, c.Mid, at), fmt.Sprintf("Nine trays in ten show %.0f to %.0f by then.", c.Low, c.High), false
}

func germinationSteps(b nursery.Batch, p unit.Prefs) []stepView {
	c := b.Curve
	if !c.Known {
		return nil
	}
	low, high := seed.Wilson(c.Sprouted, c.Sown, 0.95)
	steps := stepsOf([]working.Step{
		{Name: "Half up at " + p.Format(b.TempC, unit.Celsius), Formula: "from the table of days to emergence", Value: c.DaysToHalf, Unit: "days", Source: seed.SourceOf(b.Crop)},
		{Name: "Cells that fill in the end", Formula: "1 − (1 − p)^seeds, from the lot", Value: 100 * c.Rate, Unit: "%"},
		{Name: fmt.Sprintf("Share of those after %.1f days", c.Age), Formula: "1 ÷ (1 + (half ÷ days)⁵)", Value: 100 * seed.ExpectedShare(c.Age, c.DaysToHalf), Unit: "%"},
		{Name: "Usual by then", Formula: fmt.Sprintf("%d cells × both", c.Sown), Value: c.Mid},
	}, p)
	return append(steps, stepView{Name: "Sprouted so far, 95 %", Value: fmt.Sprintf("%.0f–%.0f %%", 100*low, 100*high), Source: "Wilson (1927)"})
}

// marked lists the form's inputs for a visit's marks, and the state each means.
var marked = []struct {
	Name  string
	State batch.CellState
}{{"sprouted", batch.Sprouted}, {"thinned", batch.Thinned}, {"empty", batch.Empty}, {"lost", batch.Lost}, {"sown", batch.Sown}}

func (s *Server) count(c *gin.Context) {
	ctx, w := s.me(c)
	id, err := pathID(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	f := readForm(c, w.Prefs)
	r := nursery.CountRequest{ID: f.ID("id"), Tray: id, Marks: readMarks(f)}
	if f.Any() {
		s.showTray(c, http.StatusUnprocessableEntity, f, "")
		return
	}
	err = nursery.Count(ctx, s.store, w, r)
	var clash nursery.Clashes
	switch {
	case errors.As(err, &clash):
		s.showTray(c, http.StatusConflict, f, clash.Error())
		return
	case err != nil && f.Refuse(err):
		s.showTray(c, http.StatusUnprocessableEntity, f, "")
		return
	case err != nil:
		s.fail(c, err)
		return
	}
	s.say(c, "Count kept: "+seed.Plural(len(r.Marks), "change")+".", undoOfVisit(s, c, r))
	c.Redirect(http.StatusSeeOther, "/trays/"+id.String())
}

// readMarks turns the lists of cells into marks, each with what the page had shown.
func readMarks(f form) []batch.Mark {
	was := map[string]batch.CellState{}
	for _, x := range strings.Fields(f.Get("seen")) {
		if name, state, ok := strings.Cut(x, ":"); ok {
			was[name] = batch.CellState(state)
		}
	}
	var marks []batch.Mark
	for _, m := range marked {
		for _, at := range f.Cells(m.Name, 40, 40) {
			if was[at.Name()] == m.State && m.State != batch.Lost {
				continue
			}
			marks = append(marks, batch.Mark{Row: at.Row, Col: at.Col, State: m.State, Cause: f.Get("cause"), Was: was[at.Name()]})
		}
	}
	return marks
}

// undoOfVisit is the entry that undoes a visit when it was one entry; a visit
// to several batches is taken back in the notebook.
func undoOfVisit(s *Server, c *gin.Context, r nursery.CountRequest) uuid.UUID {
	ctx, w := s.me(c)
	t, err := nursery.GetTray(ctx, s.store, w, r.Tray)
	if err != nil || len(t.Batches) != 1 {
		return uuid.Nil
	}
	return r.ID
}
