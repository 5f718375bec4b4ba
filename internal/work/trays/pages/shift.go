package pages

import (
	"net/http"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
	traysview "ulpa/internal/work/trays/view"
)

// shiftView asks which plants of a tray go into which cells of this or another.
type shiftView struct {
	Called, Path string
	Form         *face.Form
	From         face.GridView
	To           face.GridView
	Trays        []face.ChoiceView // into which they may go
	Own          []string
	Sections     []sectionView // of an open tray, from which so many are taken
	Cells        bool
}

func (v shiftView) Title() say.Text { return say.T("Into other cells: %s", say.Name(v.Called)) }

func (s Pages) shiftPage(c *gin.Context) error {
	return s.showShift(c, http.StatusOK, face.BlankForm(s.Reader(c), "into", c.Param("id")))
}

func (s Pages) showShift(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	t, err := trays.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := shiftView{Called: t.Name, Path: "/trays/" + id.String(), Form: f, From: traysview.FromGrid(w.Prefs, t, f.Get("from"))}
	v.Sections = sectionsOf(t, f, w.Prefs)
	v.Cells = len(v.Sections) < len(t.Cells)
	shelf, err := sowing.GetShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	into := t
	for _, x := range shelf.Trays {
		choice := face.ChoiceView{Value: x.ID.String(), Name: w.Prefs.T("%s, %d free", say.Name(x.Name), x.Cells()-x.Used)}
		if x.ID == id {
			v.Trays = append([]face.ChoiceView{{Value: choice.Value, Name: w.Prefs.T("this tray")}}, v.Trays...)
			continue
		}
		v.Trays = append(v.Trays, choice)
		if choice.Value == f.Get("into") {
			if into, err = trays.Get(ctx, s.Store, w, x.ID); err != nil {
				return err
			}
		}
	}
	v.To = traysview.IntoGrid(w.Prefs, into, f.Get("to"))
	own := []string{"from", "into", "to"}
	for _, x := range v.Sections {
		own = append(own, x.Count)
	}
	v.Own = f.Rest(own...)
	s.Render(c, status, "shift", "Nursery", v)
	return nil
}

// shift puts plants into other cells, or closes a tray's gaps.
func (s Pages) shift(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	if f.Get("show") != "" { // another tray was chosen: show it, store nothing
		f.Values.Del("to")
		return s.showShift(c, http.StatusOK, f)
	}
	r := trays.ShiftRequest{ID: act.ID, Tray: act.On, Closing: f.Get("close") != "", At: act.At}
	if !r.Closing {
		t, err := trays.Get(ctx, s.Store, w, act.On)
		if err != nil {
			return err
		}
		r.From, r.Some, r.Into, r.To = f.Cells("from", 40, 40), readHandfuls(f, t), f.ID("into"), nil
		r.Extra = f.Get("extra") != ""
		if f.Text("to") != "" {
			r.To = f.Cells("to", 40, 40)
		}
	}
	if !f.Any() {
		err = trays.Shift(ctx, s.Store, w, r)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showShift(c, status, f) }, func() face.Outcome {
		to := act.On
		if r.Into != uuid.Nil {
			to = r.Into
		}
		return face.Outcome{Says: say.T("They are there now. Firm them, and water."), Back: undoVisit(act), To: "/trays/" + to.String()}
	})
}
