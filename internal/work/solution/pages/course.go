package pages

import (
	"math"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/solution"
	solutionview "ulpa/internal/work/solution/view"
)

// courseView is how a tank runs by itself: where it will be, what it did beside what was
// forecast, and what has built up in it.
type courseView struct {
	Ahead, Runs  string
	Doses        []doseLine
	Stretches    face.CutList[stretchLine]
	Built        []string
	Change       string // what to drain, when it is due
	Read         string // readings taken together, and whether they agree
	ReadDisagree bool
}

// doseLine is a dose, with what was forecast of it and found.
type doseLine struct{ When, Dose, Was, Foretold, Found, Water, Says string }

// stretchLine is the time between two readings, with what was forecast of it and found.
type stretchLine struct {
	solutionview.FoundRow
	When string
}

func courseOf(page solution.Page, w who.Who, all bool) courseView {
	p, s := w.Prefs, page.Stand.State
	v := courseView{}
	var ahead []say.Text
	spec := page.Tank.Spec
	if o := page.Outlook.Level; o != nil {
		low, high := o.Range()
		ahead = append(ahead, say.T("%s (%s to %s)", say.Of(o.Mean, unit.Litre), say.Figure(math.Max(0, low), unit.Litre), say.Of(math.Max(0, high), unit.Litre)))
	}
	if o := page.Outlook.PH; o != nil {
		low, high := o.Range()
		ahead = append(ahead, say.T("pH %.1f (%.1f to %.1f)", o.Mean, low, high))
	}
	if o := page.Outlook.EC; o != nil {
		ahead = append(ahead, say.T("strength %s", say.Of(o.Mean, unit.MS)))
	}
	if len(ahead) > 0 {
		v.Ahead = p.T("On %s, left alone: %s.", page.Next.On, say.Join(", ", ahead...))
	}
	if !spec.Passive && len(s.Course.Stretches) > 0 {
		creep, creepSD := s.Creep()
		eats, eatsSD := s.Eats()
		v.Runs = p.T(
			"Its own readings show that its pH moves by %.2f a day (± %.2f), and that plants take up %.0f\u00a0%% (± %.0f) of the salts in the water they "+
				"drink.",
			creep, creepSD, 100*eats, 100*eatsSD,
		)
	}
	for _, d := range page.Doses {
		x := doseLine{
			When: p.T("%s, %s", w.Day(d.At).Short(), face.Clock(d.At, w)), Dose: p.T("%s of %s", say.Of(d.Amount, d.Product.Unit()), d.Product.Name()),
			Was: p.Figure(d.Was, "pH"), Found: p.Figure(d.Found, "pH"), Says: p.T("as forecast"),
			Foretold: p.T("%s to %s", say.Figure(d.Foretold.P5, "pH"), say.Figure(d.Foretold.P95, "pH")),
			Water:    p.T("%.0f to %.0f mg/L", d.Alkalinity.P5, d.Alkalinity.P95),
		}
		switch {
		case d.Inside:
		case d.Found > d.Foretold.P95:
			x.Says = p.T("it had less effect than forecast")
		default:
			x.Says = p.T("it had more effect than forecast")
		}
		v.Doses = append(v.Doses, x)
	}
	var lines []stretchLine
	for i := len(s.Course.Stretches) - 1; i >= 0; i-- {
		x := s.Course.Stretches[i]
		for _, r := range solutionview.FoundRows(x, p) {
			lines = append(lines, stretchLine{r, p.Say(w.Day(x.To).Short())})
		}
	}
	v.Stretches = face.CutAs(lines, face.Fewer(fewStretches, all), "?all=1#found", func(l stretchLine) stretchLine { return l })
	v.built(page, p)
	if j := page.Stand.Judged.Whether; len(j.Doubts) > 0 || j.Disagree {
		v.ReadDisagree = true
		v.Read = p.T(
			"The readings do not agree: together they give pH %.2f ± %.2f. Check the pen in its buffers before anything goes in.",
			j.Value, j.Error,
		)
	} else if page.Stand.Judged.Known && page.Together > 1 {
		v.Read = p.T("%d readings together give pH %.2f ± %.2f.", page.Together, j.Value, j.Error)
	}
	return v
}

// fewStretches are shown before somebody asks for all.
const fewStretches = 9

// built says what has built up, and whether to change the solution for it.
func (v *courseView) built(page solution.Page, p say.Reader) {
	c, s := page.Changing, page.Stand.State
	add := func(says say.Text) { v.Built = append(v.Built, p.Say(says)) }
	if !s.Piled.Known {
		return
	}
	if c.Times > 1.05 {
		add(say.T("Salts that plants do not take up are about %.1f times as strong as in its source water: plants drink the water and leave them behind.", c.Times))
	}
	if c.Sodium != nil {
		add(say.T("Sodium about %s.", say.Of(*c.Sodium, "mg/L")))
	}
	if c.Chloride != nil {
		add(say.T("Chloride about %s.", say.Of(*c.Chloride, "mg/L")))
	}
	if brought := s.Brought["P"]; brought > 1 {
		add(say.T("The acid has added %s of phosphorus.", say.Of(brought, "mg/L")))
	}
	switch {
	case c.Days != nil:
		add(say.T("All changed %s ago, and topped up %.1f times over since.", say.Plural(int(*c.Days), "day"), c.Replaced))
	case c.Replaced > 0.1:
		add(say.T("Topped up %.1f times over since records began; nobody wrote down that all of it was ever changed.", c.Replaced))
	}
	if !c.Due {
		return
	}
	if c.Share == 1 {
		v.Change = p.T("Change all of it. %s", c.Why)
	} else {
		level := page.Stand.State.LevelOn(page.Tank.Spec, page.Now)
		v.Change = p.T("Drain %s, then top up again. %s", say.Of(c.Share*level, unit.Litre), c.Why)
	}
	add(say.T("Use the drained solution on beds or a lawn, spread wide. Never pour it into a stream, pond or ditch."))
}

// windowsOf are the windows of who drinks from a tank.
func windowsOf(page solution.Page, others []solution.Glance, w who.Who) *solutionview.WindowsView {
	var list []solutionview.Drinker
	for _, x := range page.Plants {
		list = append(list, solutionview.Drinker{
			Code: x.Code, Path: "/batches/" + x.Batch.String(), Wants: x.Crop.Wants(int(w.Day(page.Now) - w.Day(x.Sown))),
		})
	}
	var tanks []ledger.Tank
	for _, g := range others {
		tanks = append(tanks, g.Tank)
	}
	return solutionview.WindowsOf(solutionview.KeptAt(page.Tank), list, solutionview.Others(tanks, page.Tank.ID), w.Prefs)
}
