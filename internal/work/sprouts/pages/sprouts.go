package pages

import (
	"net/http"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/core/sprout"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	batchesview "ulpa/internal/work/batches/view"
	"ulpa/internal/work/crops"
	seedsview "ulpa/internal/work/seeds/view"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/sprouts"
)

// sproutView asks for a run of sprouts, and shows what each of its days asks for.
type sproutView struct {
	Form     *face.Form
	Own      []string
	Lots     []face.ChoiceView
	Places   []face.ChoiceView
	Answer   *runView
	Cautions []string
	Running  []batchesview.BatchLine
}

func (sproutView) Title() say.Text { return say.T("Sprouts and shoots") }

// runView is a run, day by day.
type runView struct {
	Big, Why string
	Days     []runDay
	Nobody   string
	Hazard   string
}

// runDay is a day of a run, and what it asks for.
type runDay struct {
	Day, Says       string
	Nobody, Missing bool
}

func (s Pages) sproutsPage(c *gin.Context) error {
	f := face.BlankForm(s.Reader(c), "vessels", "1")
	f.Values.Set("lot", c.Query("lot"))
	return s.showSprouts(c, http.StatusOK, f)
}

func (s Pages) sproutsAnswer(c *gin.Context) error {
	return s.showSprouts(c, http.StatusOK, face.ReadForm(c, s.Reader(c)))
}

func (s Pages) showSprouts(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	shelf, err := sowing.GetShelf(ctx, s.Store, w)
	if err != nil {
		return err
	}
	book, err := crops.Get(ctx, s.Store, w)
	if err != nil {
		return err
	}
	places, err := site.ReadPlaces(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := sproutView{Form: f}
	for _, l := range shelf.Packets {
		if book.Find(l.Crop).Sprout() {
			v.Lots = append(v.Lots, seedsview.PacketOf(l, w.Prefs))
		}
	}
	for _, p := range places {
		if site.Indoors(p.Kind) && !p.HasPorts() {
			v.Places = append(v.Places, face.ChoiceView{Value: p.ID.String(), Name: p.Name})
		}
	}
	v.Cautions = w.Prefs.All(sprout.Cautions)
	if err := s.runsOf(c, &v); err != nil {
		return err
	}
	if lot, err := uuid.Parse(f.Get("lot")); err == nil {
		long, wide := f.Number("long", unit.Centimetre), f.Number("wide", unit.Centimetre)
		q := sprouts.SoakQuestion{Lot: lot, Vessels: f.Int("vessels", 1)}
		if long != nil && wide != nil {
			q.AreaCM2 = *long * *wide
		}
		switch a, err := sprouts.AskSoak(ctx, s.Store, w, q); {
		case err == nil:
			v.Answer = runOf(a, w.Prefs)
			if a.Grams > 0 {
				v.Answer.Why = w.Prefs.T("%s on %s by %s, %s.", say.Of(a.Crop.SowGM2, unit.Gram+"/m²"),
					say.Of(*long, unit.Centimetre), say.Of(*wide, unit.Centimetre), say.Plural(q.Vessels, "vessel"))
			}
		case f.Refuse(err):
		default:
			return err
		}
	}
	v.Own = f.Rest("lot", "vessels", "long", "wide", "grams", "place", "purpose", "sure")
	s.Render(c, status, "sprouts", "Nursery", v)
	return nil
}

// runsOf are the runs that stand now.
func (s Pages) runsOf(c *gin.Context, v *sproutView) error {
	ctx, w := s.Me(c)
	o, err := batches.ReadOverview(ctx, s.Store, w)
	if err != nil {
		return err
	}
	names := map[uuid.UUID]string{}
	for _, p := range o.Places {
		names[p.ID] = p.Name
	}
	for i := range o.Lines {
		if l := &o.Lines[i]; l.Care != nil {
			v.Running = append(v.Running, batchesview.LineOf(l, o.Today, names, w.Prefs))
		}
	}
	return nil
}

func runOf(a sprouts.SoakAnswer, p say.Reader) *runView {
	v := &runView{}
	if a.Way.WaterDays > 0 { // of those in jars the cautions say it
		v.Hazard = p.Say(a.Crop.Hazard)
	}
	last := a.Run[len(a.Run)-1].On
	v.Big = p.T("Started today, they are cut on %s.", last.Long())
	if a.Grams > 0 {
		v.Big = p.T("%s of dry seed. %s", say.Of(a.Grams, unit.Gram), say.Name(v.Big))
	}
	for _, d := range a.Run {
		v.Days = append(v.Days, runDay{p.Say(d.On.Short()), p.Say(dayWords(d, a.Way)), d.Nobody, d.Missing})
	}
	if says := a.Nobody(); says != nil {
		v.Nobody = p.Say(says)
	}
	return v
}

// dayWords are what a day of a run asks for.
func dayWords(d sprout.Day, way sprout.Way) say.Text {
	var list []say.Text
	add := func(w say.Words, args ...any) { list = append(list, say.T(w, args...)) }
	switch {
	case d.Soak && way.SoakHours > 0:
		add("soak for about %.3g hours, starting last thing in the day", way.SoakHours)
	case d.Soak:
		add("spread it dry onto the wet mat")
	}
	if d.Drain {
		add("drain first thing")
	}
	if d.Rinses == 1 {
		add("rinse and drain")
	} else if d.Rinses > 1 {
		add("rinse and drain %d times", d.Rinses)
	}
	if d.Water {
		add("fresh water under the tray")
	}
	if d.Light {
		add("cover off, into the light")
	}
	if d.Cut {
		add("rinse, cut, weigh, put in the fridge")
	}
	if list == nil {
		add("look, and keep them damp")
	}
	return say.Capital(say.Join(", ", list...))
}

func (s Pages) soak(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	f := face.ReadForm(c, w.Prefs)
	r := sprouts.SoakRequest{
		ID: f.ID("id"), Lot: f.ID("lot"), Place: f.ID("place"), Vessels: f.Int("vessels", 0), Grams: f.Amount("grams", unit.Gram),
		Purpose: f.Text("purpose"), At: f.When(w, s.Store.Now()), Sure: f.Get("sure") != "",
	}
	if f.Error("lot") != "" {
		f.Wrong("lot", "choose a seed lot")
	}
	var sown sowing.Sown
	var err error
	if !f.Any() {
		sown, err = sprouts.Soak(ctx, s.Store, w, r)
	}
	return s.Settle(c, f, err, func(status int) error { return s.showSprouts(c, status, f) }, func() face.Outcome {
		says := say.T("Started. Write %s and the day on each vessel now; from now on the round asks for each rinse.", sown.Code)
		return face.Outcome{Says: says, Back: face.UndoThen(sown.Batch, "/nursery"), To: "/batches/" + sown.Batch.String()}
	})
}
