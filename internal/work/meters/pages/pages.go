// Package pages is the meters, as people see and calibrate them.
package pages

import (
	"embed"
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "meters", Title: meters.Kind.Title, About: meters.Kind.About, Sort: meters.Kind, May: who.Settings}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /meters", Answer: p.list},
		{On: "GET /meters/:id", Answer: p.page, Ask: "/meters/{meter}"},
		{On: "POST /meters/:id", Answer: p.calibrate, Ask: "/meters/{meter}", Send: []string{"buffer0", "7.00"}},
	}
}

// meterLine is a meter in the list, with what it is worth.
type meterLine struct {
	Name, Path, Kind, Place string
	Says, Worth, Mark       string
}

// listView is the meters that are in use.
type listView struct{ Meters []meterLine }

func (listView) Title() say.Text { return say.T("Meters") }

func (s Pages) lineOf(m meters.Meter, w who.Who) meterLine {
	p, today := w.Prefs, w.Day(s.Store.Now())
	v := meterLine{Name: m.Name, Path: "/meters/" + m.ID.String(), Kind: p.Say(meters.SortName(m.Kind)), Place: m.PlaceName, Mark: "none"}
	if m.Kind.ReadsPH() {
		v.Worth = p.Say(m.Worth(today))
	}
	if !m.Kind.Calibrated() {
		return v
	}
	last, ok := m.Last()
	switch {
	case !ok:
		v.Says = p.T("not calibrated yet")
	case last.PH == gauge.Replace || last.PH == gauge.Repeat || last.EC == gauge.Repeat:
		v.Says, v.Mark = p.T("calibrated %s: %s", last.On.Short(), verdictOf(last)), "now"
	default:
		v.Says = p.T("calibrated %s: %s", last.On.Short(), verdictOf(last))
	}
	if m.Due > 0 && m.Due <= today && v.Mark == "none" {
		v.Mark, v.Says = "today", p.T("%s; due", say.Name(v.Says))
	}
	return v
}

func verdictOf(d meters.Dated) say.Text {
	if d.PH != "" {
		return meters.VerdictWord(d.PH)
	}
	return meters.VerdictWord(d.EC)
}

func (s Pages) list(c *gin.Context) error {
	ctx, w := s.Me(c)
	all, err := meters.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := listView{}
	for _, m := range all {
		v.Meters = append(v.Meters, s.lineOf(m, w))
	}
	s.Render(c, http.StatusOK, "meters", "Solution", v)
	return nil
}

// rows of a calibration: buffers, and standards.
const (
	mostBuffers   = 3
	mostStandards = 2
)

// rowView is a buffer as the form asks for it.
type rowView struct{ Buffer, Shown, Temp string }

// pageView is the page of a meter, with the form of its calibration.
type pageView struct {
	meterLine
	Form              *face.Form
	PH, EC, May       bool
	Buffers           []string
	Points, Standards []rowView
	Last              []face.ChoiceView
	Lines             []notebookview.EntryView
	Rest              []string
}

func (v pageView) Title() say.Text { return say.Name(v.Name) }

func (s Pages) page(c *gin.Context) error {
	_, w := s.Me(c)
	return s.show(c, http.StatusOK, face.BlankForm(w.Prefs, "buffer0", "7.00", "buffer1", "4.01"))
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	m, err := meters.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := pageView{
		meterLine: s.lineOf(m, w), Form: f, May: w.May(who.Measure) && m.Kind.Calibrated(), Buffers: gauge.Buffers(),
		PH: m.Kind == gauge.PHOnly || m.Kind == gauge.Both, EC: m.Kind == gauge.ECOnly || m.Kind == gauge.Both,
	}
	var own []string
	for i := range mostBuffers {
		v.Points = append(v.Points, rowView{fmt.Sprint("buffer", i), fmt.Sprint("shown", i), fmt.Sprint("temp", i)})
	}
	for i := range mostStandards {
		v.Standards = append(v.Standards, rowView{fmt.Sprint("true", i), fmt.Sprint("ec", i), fmt.Sprint("ectemp", i)})
	}
	for _, r := range append(v.Points, v.Standards...) {
		own = append(own, r.Buffer, r.Shown, r.Temp)
	}
	v.Rest = f.Rest(append(own, "settle")...)
	if last, ok := m.Last(); ok {
		p := w.Prefs
		if last.PH != "" {
			v.Last = append(v.Last, face.ChoiceView{Name: p.T("Slope"), Value: p.T("%.0f\u00a0%%", last.Slope)},
				face.ChoiceView{Name: p.T("Offset"), Value: p.T("%.0f mV", last.OffsetMV)})
		}
		if last.EC != "" {
			v.Last = append(v.Last, face.ChoiceView{Name: p.T("Factor of conductivity"), Value: p.T("%.3g", last.Factor)})
		}
	}
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{About: &id, Most: notebook.Few}); err != nil {
		return err
	}
	s.Render(c, status, "meter", "Solution", v)
	return nil
}

func (s Pages) calibrate(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	b := meters.Buffers{}
	at := map[string]string{} // the form's names, by the refusal's
	for i := range mostBuffers {
		shown, temp := f.Number(fmt.Sprint("shown", i), "pH"), f.Number(fmt.Sprint("temp", i), unit.Celsius)
		if f.Get(fmt.Sprint("buffer", i)) == "" || shown == nil {
			continue
		}
		n := fmt.Sprintf("points.%d.", len(b.Points))
		at[n+"buffer"], at[n+"temperature_c"] = fmt.Sprint("buffer", i), fmt.Sprint("temp", i)
		p := gauge.Point{Buffer: f.Get(fmt.Sprint("buffer", i)), Shown: *shown, TemperatureC: 20}
		if temp != nil {
			p.TemperatureC = *temp
		}
		b.Points = append(b.Points, p)
	}
	bare := 0 // standards without a temperature: the pen brings its figure to 25 °C itself
	for i := range mostStandards {
		really, shown := f.Number(fmt.Sprint("true", i), unit.MS), f.Number(fmt.Sprint("ec", i), unit.MS)
		if really == nil || shown == nil {
			continue
		}
		n := fmt.Sprintf("standards.%d.", len(b.Standards))
		at[n+"true25_ms_cm"], at[n+"shown_ms_cm"], at[n+"temperature_c"] = fmt.Sprint("true", i), fmt.Sprint("ec", i), fmt.Sprint("ectemp", i)
		x := gauge.Standard{TrueMS: *really, ShownMS: *shown, TemperatureC: 25}
		if temp := f.Number(fmt.Sprint("ectemp", i), unit.Celsius); temp != nil {
			x.TemperatureC = *temp
		} else {
			bare++
		}
		b.Standards = append(b.Standards, x)
	}
	if b.Compensated = bare > 0; b.Compensated && bare < len(b.Standards) {
		f.Wrong("ectemp0", "is given for each standard, or for none if the pen corrects for temperature itself")
	}
	if settle := f.Number("settle", "s"); settle != nil {
		b.SettleSeconds = *settle
	}
	var done meters.Calibration
	if !f.Any() {
		done, err = meters.Calibrate(ctx, s.Store, w, act, b)
	}
	return s.Settle(c, f, err, func(status int) error {
		for from, to := range at {
			if says, refused := f.Errors[from]; refused {
				f.Errors[to] = says
				delete(f.Errors, from)
			}
		}
		return s.show(c, status, f)
	}, func() face.Outcome {
		says := say.T("Saved.")
		if v := meters.VerdictWord(done.PH); done.PH != "" {
			says = say.T("Saved: slope %.0f\u00a0%%, offset %.0f mV, %s.", done.Slope, done.OffsetMV, v)
		}
		return face.Outcome{Says: says, Undo: act.ID, To: "/meters/" + act.On.String()}
	})
}
