package pages

import (
	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/trays"
)

// careView is how a tray is kept from day to day, and what is to be done to it.
type careView struct {
	Advice []adviceView
	Is     []string // how it is now
	Doings []face.TickView
	Form   *face.Form
	Open   bool
	Inputs []face.InputView
}

// adviceView is something to do to a tray, and why.
type adviceView struct{ Says, Why, Mark string }

func careOf(t trays.Tray, f *face.Form, p say.Reader) careView {
	c, s := t.Care, t.Stage
	v := careView{Form: f, Open: f.Error("did") != ""}
	due := map[string]bool{}
	for _, a := range c.Advise(s) {
		mark := "soon"
		if a.Today {
			mark = "today"
		}
		due[a.ID] = true
		v.Advice = append(v.Advice, adviceView{p.Say(a.Says), p.Say(a.Why), mark})
	}
	add := func(x say.Text) {
		if x != nil {
			v.Is = append(v.Is, p.Say(x))
		}
	}
	if c.Cover {
		add(say.T("Its cover is on."))
	}
	if c.Heat {
		add(say.T("Heat comes from below."))
	}
	add(c.Lamp())
	if c.LampHours != nil {
		add(say.T("Lamps on for %.3g hours a day.", *c.LampHours))
	}
	if ml, left, known := c.Water(t.Drains); known {
		add(say.T("On %s it still held %.0f\u00a0%% of its water; %s would have filled it.", c.Weighed.Short(), 100*left, say.Of(ml, unit.Millilitre)))
	}
	if s.LightMol > 0 && s.WantsMol > 0 {
		add(lightWords(s.LightMol, s.WantsMol))
	}
	for _, d := range tray.Doings {
		skip := map[string]bool{tray.Covered: c.Cover, tray.Uncovered: !c.Cover, tray.Heated: c.Heat, tray.Unheated: !c.Heat}
		if !skip[d.ID] {
			v.Doings = append(v.Doings, face.TickView{ID: d.ID, Name: p.Say(say.Capital(d.Name)), On: due[d.ID]})
		}
	}
	v.Inputs = f.As("care").Inputs(trays.CaredFor.Name)
	return v
}

// lightWords say how much light there is on a usual day, against what the seedlings want.
func lightWords(mol, wanted float64) say.Text {
	says := say.T("Light on a usual day of this season: about %.0f mol/m².", mol)
	switch {
	case mol < tray.LeastLight*wanted:
		return say.T("%s They stretch below %.0f: lamps, or a lighter place.", says, tray.LeastLight*wanted)
	case mol < wanted:
		return say.T("%s They grow best from about %.0f on.", says, wanted)
	}
	return say.T("%s Plenty for them.", says)
}

func (s Pages) care(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	d := face.Entered(f, trays.CaredFor)
	d.Did = f.Values["did"]
	water := 0.0
	if !f.Any() {
		water, err = trays.Care(ctx, s.Store, w, act, d)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showTray(c, status, f, "") }, func() face.Outcome {
		out := face.Outcome{Says: say.T("Written down."), Undo: act.ID, To: "/trays/" + act.On.String()}
		if water > 0 {
			out.Says = say.T("It needs %s of water.", say.Of(water, unit.Millilitre))
		}
		return out
	})
}
