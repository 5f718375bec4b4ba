package pages

import (
	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/tower"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

// pumpView is what it means when a place's pump stops, and whether its timer will do.
type pumpView struct {
	Says, Timer string
	Bad         bool
	Steps       []face.StepView
}

// stepView is a step of a list.
type stepView struct {
	ID, Says, Why, Done string
	Adult               bool
}

// listView is a list of a place, with what was ticked of it.
type listView struct {
	ID, Name, Says string
	Steps          []stepView
	Open           bool
}

// pumpOf is that of a place whose plants drink from a tank with a pump; nil elsewhere.
func pumpOf(p site.Contents, plants int, r say.Reader) *pumpView {
	for _, t := range p.Tanks {
		if t.Spec.Passive || plants == 0 {
			continue
		}
		each := t.State.Uses(t.Spec, plants).Demand(1).Mean / float64(plants)
		x := tower.PumpStops(each, tower.CubeML)
		if x.DayHours == 0 {
			continue
		}
		v := &pumpView{Steps: face.StepsOf(x.Steps, r)}
		if p.Kind == "raft" {
			v.Says = r.T("If the pump stops, roots are in still water: they run out of oxygen within a day, sooner above %s.", say.Of(tank.WarmC, unit.Celsius))
			return v
		}
		v.Says = r.T(
			"If the pump stops, cubes of %.0f mL last about %.1f hours by day, and through a night. Then pour a cup of solution over each, top tier first.",
			tower.CubeML, x.DayHours,
		)
		if says, ok := tower.Timer(t.Spec.PumpOnMin, t.Spec.PumpEveryMin, x); says != nil {
			v.Timer, v.Bad = r.Say(says), !ok
		}
		return v
	}
	return nil
}

func listsOf(all []tower.Running, r say.Reader) (out []listView) {
	for _, l := range all {
		v := listView{ID: l.ID, Name: r.Say(l.Name)}
		switch n := len(l.Done); {
		case l.Whole():
			v.Says = r.T("all done on %s", l.Ended.Long())
		case n > 0:
			v.Says, v.Open = r.T("%d of %d done", n, len(l.Steps)), true
		}
		for _, s := range l.Steps {
			x := stepView{ID: s.ID, Says: r.Say(s.Says), Why: r.Say(s.Why), Adult: s.Adult}
			if day, done := l.Done[s.ID]; done && !l.Whole() {
				x.Done = r.Say(day.Short())
			}
			v.Steps = append(v.Steps, x)
		}
		out = append(out, v)
	}
	return out
}

func (s Pages) check(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	if !f.Any() {
		err = site.Check(ctx, s.Store, w, act, tower.Ticks{List: f.Get("list"), Steps: f.Values["steps"]})
	}
	return s.Settle(c, f, err, func(status int) error { return s.showPlace(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Written down."), Undo: act.ID, To: "/places/" + act.On.String() + "#list-" + f.Get("list")}
	})
}
