package pages

import (
	"cmp"
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	batchesview "ulpa/internal/work/batches/view"
	"ulpa/internal/work/site"
	sumsview "ulpa/internal/work/sums/view"
	"ulpa/internal/work/trays"
	traysview "ulpa/internal/work/trays/view"
)

// inTray is one batch of a tray with its judgement.
type inTray struct {
	Code, Path, Crop, Variety string
	Tint                      int
	Up, Sown                  int
	Headline, Why             string
	Behind                    bool
	Curve                     batchesview.CurveView
	Steps                     []face.StepView
	Move                      string
	Germinating               bool
	Sums                      []sumsview.SumLink
	Hands                     []string // who sowed what of this tray
	Rooting                   bool     // cuttings
}

// trayView is the page of a tray: its cells, its batches, its care, and what is kept free.
type trayView struct {
	ID               string
	Name, Meta, Path string
	Grid             face.GridView
	Batches          []inTray
	Form             *face.Form
	Seen             string
	Causes           []face.ChoiceView
	Clash            string
	Place            string
	Failed           int // cells that are empty or lost
	Gaps             []gapView
	Closing          int // plants that would close up
	Crops            []face.ChoiceView
	Caution          string
	Care             careView
	Rooting          bool   // it holds cuttings and the like only
	Several          string // how many batches there are, and of how many some are up; "": one
	Walk             *traysview.Walk
	WalkSays         string
	Sections         []sectionView // of an open tray
	Ended            string        // those of which no more come up, as the page shows them
	Cells            bool          // some of it are cells that are tapped
}

func (v trayView) Title() say.Text { return say.Name(v.Name) }

func (s Pages) trayPage(c *gin.Context) error {
	_, w := s.Me(c)
	return s.showTray(c, http.StatusOK, face.BlankForm(w.Prefs), "")
}

func (s Pages) showTray(c *gin.Context, status int, f *face.Form, clash string) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	t, err := trays.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := trayView{
		ID: id.String(), Name: t.Name, Path: "/trays/" + id.String(), Form: f, Causes: face.ChoicesOf(w.Prefs, site.Gone()), Clash: clash, Place: t.Place.Name,
		Meta: w.Prefs.T("%s · %s, %d × %d, each %s", t.Place.Name, tray.KindOf(t.Kind).Name, t.Rows, t.Columns, w.Prefs.Format(t.CellML, unit.Millilitre)),
		Grid: traysview.TrayGrid(w.Prefs, t, "tray-grid", "mark"),
	}
	var seen []string
	for _, x := range t.Cells {
		seen = append(seen, tray.Cell{Row: x.Row, Col: x.Col}.Name()+":"+string(x.State))
		if x.State == batch.Empty || x.State == batch.Lost {
			v.Failed++
		}
	}
	v.Seen = strings.Join(seen, " ")
	v.Sections = sectionsOf(t, f, w.Prefs)
	for _, x := range v.Sections {
		if x.Over {
			v.Ended += x.Cell + " "
		}
	}
	v.Cells = len(v.Sections) < len(t.Cells)
	if !t.Drains {
		v.Caution = w.Prefs.T("It has no holes: water it only a little, and tip out any water left standing.")
	}
	v.Care = careOf(t, f, w.Prefs)
	if v.Walk = traysview.WalkOf(cmp.Or(f.Get("walk"), c.Query("walk"))); v.Walk != nil {
		v.WalkSays = v.Walk.Says(w.Prefs)
	}
	if v.Gaps, v.Crops, err = s.gapViews(c, t); err != nil {
		return err
	}
	for _, b := range t.Batches {
		from, _ := b.State.Gaps(id.String())
		v.Closing += len(from)
	}
	for _, b := range t.Batches {
		x := inTrayOf(b, w, v.Grid.Sections)
		v.Rooting = (v.Rooting || len(v.Batches) == 0) && x.Rooting
		x.Hands = handsIn(b, id, w.Prefs)
		v.Batches = append(v.Batches, x)
	}
	v.Several = severalSay(v.Batches, v.Rooting, w.Prefs)
	s.Render(c, status, "tray", "Nursery", v)
	return nil
}

// severalSay says how many batches of a tray there are, and of how many something is up.
func severalSay(list []inTray, rooting bool, r say.Reader) string {
	up := 0
	for _, b := range list {
		if b.Up > 0 {
			up++
		}
	}
	switch {
	case len(list) < 2:
		return ""
	case up == 0:
		return r.T("%d batches, nothing up yet.", len(list))
	case rooting:
		return r.T("%d batches, %d of them have rooted.", len(list), up)
	}
	return r.T("%d batches, seedlings of %d are up.", len(list), up)
}

func inTrayOf(b batches.Batch, w who.Who, sections []face.SectionLabel) inTray {
	x := inTray{
		Code: b.Code, Path: "/batches/" + b.ID.String(), Crop: w.Prefs.Say(b.Crop.Name), Variety: b.Variety,
		Up: b.State.Sprouted, Sown: b.State.Sown, Germinating: b.State.Waiting() > 0 && b.State.Start == "", Rooting: b.State.Start == batch.Struck,
	}
	for _, sec := range sections {
		if sec.Code == x.Code {
			x.Tint = sec.Tint
		}
	}
	x.Curve, x.Sums = batchesview.CurveOf(b.Curve, w.Prefs), sumsview.BatchSums(b, w)
	headline, why, behind := batchesview.GerminationSays(b)
	x.Behind = behind
	if !x.Germinating || b.State.InTrays() > 0 && b.Verdict.Word != ready.Early {
		var mark string
		headline, why, mark = batchesview.Headline(b)
		x.Behind = mark == "now"
	}
	x.Headline, x.Why = w.Prefs.Say(headline), w.Prefs.Say(why)
	if b.State.InTrays() > 0 {
		x.Move = x.Path + "/move"
	}
	x.Steps = batchesview.GerminationSteps(b, w.Prefs)
	return x
}

// marked lists the form's inputs for a visit's marks, and the state each means.
var marked = []struct {
	Name  string
	State batch.CellState
}{{"sprouted", batch.Sprouted}, {"thinned", batch.Thinned}, {"empty", batch.Empty}, {"lost", batch.Lost}, {"sown", batch.Sown}}

func (s Pages) count(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	t, err := trays.Get(ctx, s.Store, w, act.On)
	if err != nil {
		return err
	}
	r := trays.CountRequest{ID: act.ID, Tray: act.On, Marks: append(readMarks(f, t), readSections(f, t)...), At: act.At, Whole: f.Get("whole") != ""}
	if f.Any() {
		return s.showTray(c, http.StatusUnprocessableEntity, f, "")
	}
	err = trays.Count(ctx, s.Store, w, r)
	var clash trays.Clashes
	if errors.As(err, &clash) {
		return s.showTray(c, http.StatusConflict, f, w.Prefs.Say(clash.Why()))
	}
	return s.Settle(c, f, err, func(status int) error { return s.showTray(c, status, f, "") },
		func() face.Outcome {
			return face.Outcome{
				Says: say.T("Count saved: %s.", say.Plural(len(r.Marks), "change")), Back: undoVisit(act),
				To: traysview.WalkOf(f.Get("walk")).After("/trays/" + act.On.String()),
			}
		})
}

// wash frees the cells that failed.
func (s Pages) wash(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	if !f.Any() {
		err = trays.Wash(ctx, s.Store, w, act)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showTray(c, status, f, f.Error("cells")) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Washed: the cells that failed are free."), Back: undoVisit(act), To: "/trays/" + act.On.String()}
	})
}

// readMarks turns the lists of cells into marks, each with what the page had shown.
func readMarks(f *face.Form, t trays.Tray) []batch.Mark {
	was := map[string]batch.CellState{}
	for _, x := range strings.Fields(f.Get("seen")) {
		if name, state, ok := strings.Cut(x, ":"); ok {
			was[name] = batch.CellState(state)
		}
	}
	var marks []batch.Mark
	saw := map[tray.Cell]batch.CellState{}
	for _, m := range marked {
		for _, at := range f.Cells(m.Name, t.Rows, t.Columns) {
			if s, twice := saw[at]; twice {
				f.Wrong(m.Name, "%s cannot be both %s and %s", at.Name(), s.Words(), m.State.Words())
				continue
			}
			saw[at] = m.State
			if was[at.Name()] == m.State && m.State != batch.Lost {
				continue
			}
			marks = append(marks, batch.Mark{Row: at.Row, Col: at.Col, State: m.State, Cause: batch.CauseOf(f.Get("cause")), Was: was[at.Name()]})
		}
	}
	return marks
}

// undoVisit undoes a visit to a tray: what it wrote of each batch there.
func undoVisit(visit ledger.Act) *face.Back {
	return face.BackTo("/entries/"+visit.ID.String()+"/undo", "visit", "whole")
}

// handsIn are those who sowed a batch, with their cells of a tray.
func handsIn(b batches.Batch, trayID uuid.UUID, r say.Reader) (out []string) {
	for _, h := range b.Hands {
		if h.Tray == trayID.String() && len(h.Cells) > 0 {
			out = append(out, r.T("%s: %s", say.Name(h.Name), say.Name(tray.Format(h.Cells))))
		}
	}
	return out
}
