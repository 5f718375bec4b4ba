package pages

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	notebookview "ulpa/internal/work/notebook/view"
	siteview "ulpa/internal/work/site/view"
	"ulpa/internal/work/solution"
	solutionview "ulpa/internal/work/solution/view"
	sumsview "ulpa/internal/work/sums/view"
)

// wallLink is a place with jars.
type wallLink struct{ Path, Name string }

// solutionView is every tank with what it needs.
type solutionView struct {
	Tanks, Jars []solutionview.TankLine
	Walls       []wallLink // places with jars
	Unit        string
}

func (solutionView) Title() say.Text { return say.T("Solution") }

func (s Pages) solutionPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	all, err := solution.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := solutionView{Unit: w.Prefs.Name(unit.MS)}
	for _, g := range all {
		l := solutionview.TankLineOf(g.Tank, &g.Advice, w.Prefs)
		l.Place = g.Place
		if l.Passive {
			wall := wallLink{"/jars/" + g.Tank.Place.String(), g.Place}
			if v.Jars = append(v.Jars, l); !slices.Contains(v.Walls, wall) {
				v.Walls = append(v.Walls, wall)
			}
		} else {
			v.Tanks = append(v.Tanks, l)
		}
	}
	s.Render(c, http.StatusOK, "solution", "Solution", v)
	return nil
}

// spanLink is a stretch of time that the trends may show.
type spanLink struct {
	Name, Path string
	Here       bool
}

// doStep is one act of the advice in words.
type doStep struct {
	Big, Rest string
	Adult     bool
}

// tankView is the page of a tank: what to do, what is in it, its forms and its past.
type tankView struct {
	ID                         uuid.UUID
	Name, Path, Meta, LastRead string
	Jar                        bool
	FedWith                    string            // the field of its feed
	Inputs                     []face.InputView  // of a reading
	Meters                     []face.ChoiceView // that read pH
	Depth                      *face.FieldView   // where one is read
	Cards                      []face.ChoiceView // two neighbouring fields of a colour card each
	Drawn                      tankDrawing
	Trends, More               []trendView
	Figures                    face.CutList[figureLine]
	All                        bool // every one of them was asked for
	Form, TreatForm            *face.Form
	Doubts                     []face.Doubt
	Headline                   string
	Why                        []string
	Sure                       string
	Do                         []doStep
	Cautions                   []string
	Adult, Needs, Pours, Alarm bool
	Steps                      []face.StepView
	MayDose                    bool
	TreatDoubts                []face.Doubt
	Acid, Base                 string
	AcidAgent, BaseAgent       string
	Expect                     string
	Plants                     []siteview.PlaceStand
	Windows                    *solutionview.WindowsView
	Course                     courseView
	Strip                      *stripView
	Lines                      []notebookview.EntryView
	TreatOpen                  bool
	Sums                       []sumsview.SumLink
	Spans                      []spanLink
	Keys                       []string // of the number pad, as they lie on a calculator
}

func (v tankView) Title() say.Text { return say.Name(v.Name) }

func (s Pages) tankPage(c *gin.Context) error { return s.showTank(c, http.StatusOK, refused{}) }

// refused is a form of the page that was refused or is asked about; at most one is there.
type refused struct {
	reading, treatment *face.Form
	asked              solution.Asked
}

// showTank shows a tank as it is at one moment, with what was refused.
func (s Pages) showTank(c *gin.Context, status int, x refused) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	days, _ := strconv.Atoi(c.Query("days"))
	now, err := solution.ReadScreen(ctx, s.Store, w, id, solution.SpanOf(days))
	if err != nil {
		return err
	}
	v := tankOf(now.Page, w)
	v.MayDose = w.May(who.Dose)
	v.more(now, c.Query("all") != "", w)
	v.forms(now, x, c.Request.URL.Query(), w.Prefs)
	s.Render(c, status, "tank", "Solution", v)
	return nil
}

// more fills in what stands around a tank: figures, windows, its course, meters and the notebook.
func (v *tankView) more(now solution.Screen, all bool, w who.Who) {
	v.All = all
	v.Figures = figuresOf(now.Page, w, v.Path, all)
	v.Windows, v.Course = windowsOf(now.Page, now.Others, w), courseOf(now.Page, w, all)
	for _, m := range now.Meters {
		if fields := m.Fields(); fields != nil {
			v.Cards = append(v.Cards, cardsOf(m, fields, w.Prefs)...)
		}
		if m.Kind.ReadsPH() && m.Kind != gauge.Card {
			v.Meters = append(v.Meters, face.ChoiceView{Value: m.ID.String(), Name: w.Prefs.T("%s (%s)", say.Name(m.Name), m.Worth(w.Day(now.Now)))})
		}
	}
	for _, l := range now.Lines {
		v.Lines = append(v.Lines, notebookview.LineOf(l, w))
	}
}

// forms fills in the page's two forms: as they were sent, as a sum came to, or as advised.
func (v *tankView) forms(now solution.Screen, x refused, q url.Values, p say.Reader) {
	v.Form, v.TreatForm = x.reading, x.treatment
	if v.Form == nil {
		v.Form = face.BlankForm(p)
	}
	if v.TreatOpen = x.treatment != nil || q.Has("units"); x.treatment == nil {
		if v.TreatForm = adviceForm(now.Page, p); v.TreatOpen {
			v.TreatForm = fromSum(q, p)
		}
	}
	v.Depth, v.Inputs = depthField(now.Tank.Spec, v.Form), v.Form.BigInputs(solution.Read.Name, readFields(now.Tank.Spec)...)
	on, of := &v.Doubts, v.Form
	if x.treatment != nil {
		on, of = &v.TreatDoubts, v.TreatForm
	}
	for _, d := range x.asked {
		doubt := face.Doubt{Field: d.Field, Message: p.Say(d.Message())}
		if d.Maybe != nil {
			doubt.Maybe = p.Figure(*d.Maybe, d.Unit)
		}
		*on = append(*on, doubt)
		of.Errors[d.Field] = doubt.Message
	}
}

// readFields are what is read of a tank.
func readFields(s tank.Spec) []string {
	if s.Passive {
		return []string{"level", "ph", "ec", "temp", "roots"}
	}
	return []string{"ph", "ec", "temp", "level"}
}

// fedWith is the field of a treatment in which the feed is typed.
func fedWith(s tank.Spec) string {
	if s.Feed == tank.BySpoon {
		return "spoons"
	}
	return "stock"
}

// depthField asks for a depth where one can be read.
func depthField(s tank.Spec, f *face.Form) *face.FieldView {
	if !s.ReadsDepth() {
		return nil
	}
	hint := ""
	if full, ok := s.DepthAt(s.FillToL); ok {
		hint = f.Prefs.T("full at %s", say.Of(full, unit.Centimetre))
	}
	field := face.MakeField(f, "depth", f.Prefs.T("or depth on the stick"), f.Prefs.Name(unit.Centimetre), "big", hint)
	return &field
}

func tankOf(page solution.Page, w who.Who) tankView {
	p, t := w.Prefs, page.Tank
	v := tankView{
		ID: t.ID, Name: t.Name, Path: "/tanks/" + t.ID.String(), Jar: t.Spec.Passive, Drawn: drawTank(t, page.Advice.Jar, page.Now, p),
		Acid: p.T(
			"%s of %s",
			t.Spec.Acid.Unit(),
			t.Spec.Acid.Name(),
		), Base: p.T("%s of %s", t.Spec.Base.Unit(), t.Spec.Base.Name()), AcidAgent: string(t.Spec.Acid.Agent), BaseAgent: string(t.Spec.Base.Agent),
		FedWith: fedWith(t.Spec),
		Plants:  siteview.StandsOf(p, page.Plants, len(page.Plants), "").Shown, Sums: sumsview.TankSums(page, w),
	}
	plants := 0
	for _, x := range page.Plants {
		plants += x.Plants
	}
	v.Meta = p.T("%s · %s, %s", page.Place.Name, say.Plural(plants, "plant"), page.Stand.State.Drinks(t.Spec, page.Stand.Plants))
	if t.Spec.Passive {
		v.Meta = p.T("%s, a jar without a pump", v.Meta)
	}
	v.LastRead = p.T("Not read yet.")
	if t.State.ReadAt != nil {
		v.LastRead = p.T("Last read %s at %s.", w.Day(*t.State.ReadAt).Long(), face.Clock(*t.State.ReadAt, w))
	}
	v.Keys = strings.Split("7894561230"+p.Mark("."), "")
	v.advice(page, p)
	v.trends(page, p)
	v.Strip = stripOf(page, w)
	return v
}

func (v *tankView) advice(page solution.Page, p say.Reader) {
	a := page.Advice
	v.Needs, v.Adult, v.Alarm, v.Cautions, v.Why, v.Sure = a.Needs, a.Adult, a.Alarm, p.All(a.Cautions), p.All(a.Why), p.Say(a.Sure)
	v.Headline, v.Pours = p.Say(solutionview.AdviceHeadline(a)), !a.Plan.Empty()
	v.Steps = face.StepsOf(a.Steps, p)
	for _, x := range a.Acts {
		big, rest := say.Of(x.Amount, x.Unit), say.Text(nil)
		d := doStep{Adult: x.Do == tank.DoDose}
		switch x.Do {
		case tank.DoPump:
			big, rest = say.T("Stop the pump"), say.T("at the plug, with dry hands")
		case tank.DoLift:
			big, rest = say.T("Lift out"), x.What
		case tank.DoDrain:
			rest = say.T("drained off, onto soil or lawn where local rules allow")
		case tank.DoWater:
			rest = say.T("tap water")
			if j := a.Jar; j != nil {
				rest = say.T("poured in, up to the line at %s", say.Of(j.LevelAfterCM, unit.Centimetre))
			}
		case tank.DoStock:
			if rest = say.T("of %s, one after the other, stirring between", x.What); x.Unit == unit.Teaspoons {
				rest = say.T("of %s, stirred in until it is dissolved; no dust, wash your hands", x.What)
			}
		case tank.DoDose:
			rest = say.T("%s, stirred in slowly", x.What)
		case tank.DoWait:
			if rest = say.T("for it to mix"); x.What != nil {
				rest = say.T("for it to mix %s", x.What)
			}
		case tank.DoRead:
			big, rest = say.T("Read"), say.T("before anything more goes in")
		case tank.DoCool:
			big, rest = say.T("Cool it"), say.T("shade, a wet cloth, a closed bottle of ice; keep the pump running")
		}
		d.Big, d.Rest = p.Say(big), p.Say(rest)
		v.Do = append(v.Do, d)
	}
	e := a.Expect
	switch {
	case a.ExpectPH != nil:
		v.Expect = p.T("Expect pH %s: between %.1f and %.1f, nine times in ten.", p.Figure(a.ExpectPH.P50, "pH"), a.ExpectPH.P5, a.ExpectPH.P95)
	case !a.Plan.Empty() && e.LevelL != nil && e.ECMS != nil:
		v.Expect = p.T("Expect %s of water and a strength of %s.", say.Of(*e.LevelL, unit.Litre), say.Of(*e.ECMS, unit.MS))
	}
}

// adviceForm offers the advice as what was done, to be changed to the truth.
func adviceForm(page solution.Page, p say.Reader) *face.Form {
	plan := page.Advice.Plan
	f := face.BlankForm(p)
	set := func(name string, v float64, u string) {
		if v > 0.005 {
			f.Values.Set(name, p.Figure(v, u))
		}
	}
	set("drain", plan.DrainL, unit.Litre)
	set("water", plan.WaterL, unit.Litre)
	set("stock", plan.StockML, unit.Millilitre)
	set("spoons", plan.Spoons, unit.Teaspoons)
	set("amount", plan.Amount, "")
	f.Values.Set("agent", string(page.Tank.Spec.Acid.Agent))
	if plan.Agent != "" {
		f.Values.Set("agent", string(plan.Agent))
	}
	return f
}

// fromSum offers what a sum came to as what was done.
func fromSum(q url.Values, p say.Reader) *face.Form {
	asked := face.FormOf(q, p)
	f := face.BlankForm(p, "agent", asked.Get("agent"))
	for name, u := range map[string]string{"drain": unit.Litre, "water": unit.Litre, "stock": unit.Millilitre, "amount": ""} {
		if v := asked.Number(name, u); v != nil {
			f.Values.Set(name, p.Figure(*v, u))
		}
	}
	return f
}
