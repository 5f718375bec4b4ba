package pages

import (
	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

// airView is the air and the light of a place, beside what the crops there want.
type airView struct {
	Facts  []face.ChoiceView
	From   string
	Crops  []airLine
	Steps  []face.StepView
	Inputs []face.InputView
	Open   bool
}

// airLine is what was read of the air at a place.
type airLine struct {
	Code, Path, Light, Air string
	Dark, Dry              bool // or too damp
}

func airOf(c site.Climate, p site.Contents, f *face.Form, w who.Who, today int) airView {
	r := w.Prefs
	v := airView{Inputs: f.As("air").Inputs(site.AirRead.Name)}
	for _, in := range v.Inputs {
		v.Open = v.Open || in.Error != ""
	}
	fact := func(name say.Words, value string) {
		v.Facts = append(v.Facts, face.ChoiceView{Name: r.Say(name), Value: value})
	}
	fact("Air", r.Format(c.TempC, unit.Celsius))
	if c.Air != nil {
		fact("Humidity", r.Format(*c.Humidity, "%"))
		fact("Vapour pressure deficit (VPD) of the air", r.Format(c.Air.VPDKPa, "kPa"))
		v.Steps = face.StepsOf(c.Air.Steps, r)
	}
	if c.LightMol > 0 {
		fact("Light of a day", r.T("about %s", say.Of(c.LightMol, "mol/m²")))
	}
	if c.Hours != nil {
		fact("Light, a day", r.Format(*c.Hours, "hours"))
	}
	v.From = r.T("As its meter shows, or as is usual there.")
	if c.ByHand != nil {
		v.From = r.T("Last read by hand on %s.", w.Day(*c.ByHand).Long())
	}
	for _, x := range p.ByBatch() {
		want := x.Crop.Comforts(today - int(w.Day(x.Sown)))
		l := airLine{Code: x.Code, Path: "/batches/" + x.Batch.String()}
		if c.LightMol > 0 && want.LightMol > 0 {
			says, suits := want.Light(c.LightMol)
			l.Light, l.Dark = r.T("%s; it wants about %s", says, say.Of(want.LightMol, "mol/m²")), !suits
		}
		if c.Air != nil {
			says, suits := want.Air(c.Air.VPDKPa)
			l.Air = r.T("%s; it wants %s to %s", says, say.Figure(want.VPD.Low, "kPa"), say.Of(want.VPD.High, "kPa"))
			l.Dry = !suits
		}
		if l.Light != "" || l.Air != "" {
			v.Crops = append(v.Crops, l)
		}
	}
	return v
}

func (s Pages) readAir(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	a := face.Entered(f, site.AirRead)
	if !f.Any() {
		err = site.ReadAir(ctx, s.Store, w, act, a)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showPlace(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Written down."), Undo: act.ID, To: "/places/" + act.On.String() + "#air"}
	})
}
