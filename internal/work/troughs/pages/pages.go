// Package pages is vessels with fish, as people see and keep them.
package pages

import (
	"context"
	"embed"
	"math"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"ulpa/core/fish"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/notebook"
	notebookview "ulpa/internal/work/notebook/view"
	"ulpa/internal/work/troughs"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "fish", Title: troughs.Kind.Title, About: troughs.Kind.About, Sort: troughs.Kind, May: who.Settings}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /fish", Answer: p.list},
		{On: "GET /fish/:id", Answer: p.page, Ask: "/fish/{trough}"},
		{On: "POST /fish/:id/fed", Answer: p.fed, Ask: "/fish/{trough}/fed", Send: []string{"fed_g", "5"}},
		{On: "POST /fish/:id/read", Answer: p.read, Ask: "/fish/{trough}/read", Send: []string{"tan", "0.4"}},
		{On: "POST /fish/:id/stock", Answer: p.stock, Ask: "/fish/{trough}/stock", Send: []string{"why", "died", "fish", "1"}},
		{On: "POST /fish/:id/weigh", Answer: p.weigh, Ask: "/fish/{trough}/weigh", Send: []string{"sampled", "5", "grams", "400"}},
		{On: "POST /fish/:id/water", Answer: p.water, Ask: "/fish/{trough}/water", Send: []string{"change_l", "50"}},
	}
}

// lineView is a vessel with fish in the list.
type lineView struct{ Name, Path, Place, Says, Mark string }

// listView is every vessel with fish.
type listView struct{ Troughs []lineView }

func (listView) Title() say.Text { return say.T("Fish") }

func (s Pages) list(c *gin.Context) error {
	ctx, w := s.Me(c)
	all, err := troughs.All(ctx, s.Store, w)
	if err != nil {
		return err
	}
	v := listView{}
	for _, t := range all {
		l := lineView{Name: t.Name, Path: "/fish/" + t.ID.String(), Place: t.PlaceName, Mark: "none", Says: w.Prefs.Say(swimming(t))}
		if a := t.Trough().Alarms(t.State, s.Store.Now()); len(a) > 0 {
			l.Says, l.Mark = w.Prefs.Say(a[0].Says), "today"
			if a[0].Now {
				l.Mark = "now"
			}
		}
		v.Troughs = append(v.Troughs, l)
	}
	s.Render(c, http.StatusOK, "fish", "Solution", v)
	return nil
}

// swimming is who swims there.
func swimming(t troughs.Trough) say.Text {
	if t.State.Fish == 0 {
		return say.T("no fish yet")
	}
	return say.T("%d fish of about %s", t.State.Fish, say.Of(math.Round(t.State.MassG), unit.Gram))
}

// alarmView is something that is wrong with the water.
type alarmView struct {
	Says string
	Now  bool
}

// fishView is the page of fish: alarms, what to do, feed, and the forms.
type fishView struct {
	ID, Name, Path, Meta    string
	Alarms                  []alarmView
	Acts                    []string
	Feed, FeedWhy, FedToday string
	Facts                   []factView
	Day                     []string
	Steps                   []face.StepView
	Cycle                   string
	Cycles                  []cycleView
	Never, Cautions         []string
	Form                    *face.Form
	Forms                   []formView
	Lines                   []notebookview.EntryView
	Away                    string
}

// factView is a figure of the water, when it was read, and what these fish want.
type factView struct{ Name, Value, On, Wants string }

// cycleView is a day of a new filter.
type cycleView struct{ Day, Ammonia, Nitrite, Nitrate string }

// formView is one of the forms of the page.
type formView struct {
	Path, Title, Do string
	Inputs          []face.InputView
	Open, Big       bool
	Rest            []string
	Caution         string
	P               say.Reader
	Dated           *face.Form
}

func (v fishView) Title() say.Text { return say.Name(v.Name) }

func (s Pages) page(c *gin.Context) error {
	_, w := s.Me(c)
	return s.show(c, http.StatusOK, face.BlankForm(w.Prefs), "")
}

func (s Pages) show(c *gin.Context, status int, f *face.Form, which string) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	t, err := troughs.Get(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	v := fishOf(t, w, s.Store.Now())
	v.Form = f
	blank := face.BlankForm(w.Prefs)
	of := func(name string) *face.Form {
		if name == which {
			return f
		}
		return blank
	}
	fed := of("fed")
	if x, known := t.Trough().Day(t.State, s.Store.Now()); known && which != "fed" {
		fed.Values.Set("fed_g", w.Prefs.Figure(math.Round(10*x.FeedTodayG)/10, unit.Gram))
	}
	add := func(name, kind string, title, do say.Words, form *face.Form, caution say.Words, named ...string) {
		x := formView{
			Path: v.Path + "/" + name, Title: w.Prefs.Say(title), Do: w.Prefs.Say(do), Inputs: form.As(name).Inputs(kind, named...),
			Open: name == which, Big: name == "fed", Caution: w.Prefs.Say(caution),
			P: w.Prefs, Dated: f,
		}
		x.Rest = form.Rest(form.Own(kind)...)
		v.Forms = append(v.Forms, x)
	}
	add("fed", troughs.FedFish.Name, "Feed them", "Fed", fed, "Wash hands before and after.")
	add("read", troughs.Read.Name, "Read the water", "Save", of("read"), "")
	change := []string{"change_l"}
	if w.May(who.Dose) {
		change = append(change, "base_g")
	}
	add("water", troughs.Changed.Name, "Water changed", "This was done", of("water"),
		"Use dechlorinated water, as warm as theirs. An adult adds alkali: dissolve it first, and spread it over days.", change...)
	add("weigh", troughs.Weighed.Name, "Weigh some of them", "Save", of("weigh"), "Wet hands and a wet net; cover cuts.")
	add("stock", troughs.Stocked.Name, "Fish that came or went", "Save", of("stock"),
		"Ask first which fish may be kept, killed or given away where you are, and by whom.")
	if v.Lines, err = notebookview.LinesAbout(ctx, s.Store, w, notebook.Filter{About: &id, Most: notebook.Few}); err != nil {
		return err
	}
	s.Render(c, status, "trough", "Solution", v)
	return nil
}

func fishOf(t troughs.Trough, w who.Who, now time.Time) fishView {
	p, k, l := w.Prefs, fish.KindOf(t.Kind), t.State.Last
	v := fishView{ID: t.ID.String(), Name: t.Name, Path: "/fish/" + t.ID.String(), Meta: p.T("%s · %s, %s", say.Name(t.PlaceName), swimming(t), k.Name)}
	for _, a := range t.Trough().Alarms(t.State, now) {
		v.Alarms = append(v.Alarms, alarmView{p.Say(a.Says), a.Now})
	}
	v.Acts = p.All(t.Trough().Acts(t.State, now))
	for _, n := range fish.Never {
		v.Never = append(v.Never, p.Say(n))
	}
	fact := func(name say.Words, x *float64, u string, at *time.Time, wants string) {
		if x != nil {
			v.Facts = append(v.Facts, factView{p.Say(name), p.Format(*x, u), p.Say(w.Day(*at).Short()), wants})
		}
	}
	when := t.State.When
	watch, _ := k.NitriteLimits(l.Chloride)
	fact("Total ammonia, as N", l.TAN, "mg/L", when.TAN, p.T("the less the better"))
	fact("Nitrite, as N", l.Nitrite, "mg/L", when.Nitrite, p.T("under %.2g", watch))
	fact("Nitrate, as N", l.Nitrate, "mg/L", when.Nitrate, p.T("under %.0f", k.NitrateMost))
	fact("pH", l.PH, "pH", when.PH, p.T("%.1f to %.1f", k.PHLow, k.PHHigh))
	fact("Oxygen", l.Oxygen, "mg/L", when.Oxygen, p.T("%.0f at least", k.OxygenLeast))
	fact("Temperature", l.TempC, unit.Celsius, when.TempC, p.T("%s to %s", say.Figure(k.ColdestC, unit.Celsius), say.Figure(k.WarmestC, unit.Celsius)))
	fact("Alkalinity", l.Alkalinity, "mg/L", when.Alkalinity, p.T("%.0f at least", k.AlkalinityLeast))
	fact("Chloride", l.Chloride, "mg/L", when.Chloride, p.T("the more, the less nitrite harms"))
	if t.State.Fish == 0 {
		v.cycle(t, w, now)
		return v
	}
	x, known := t.Trough().Day(t.State, now)
	if !known {
		v.Feed = p.T("Read the water first.")
		v.FeedWhy = p.T("How much they get depends on it: %s.", say.Join(", ", t.State.Missing(now)...))
		if len(t.State.Missing(now)) == 0 {
			v.FeedWhy = p.T("How much they get depends on what they weigh: weigh some of them.")
		}
		return v
	}
	v.feed(t, x, now, w)
	v.Steps, v.Cautions = face.StepsOf(x.Steps, p), p.All(x.Cautions)
	return v
}

// feed says what to feed today, and what follows from it.
func (v *fishView) feed(t troughs.Trough, x fish.Answer, now time.Time, w who.Who) {
	p := w.Prefs
	switch x.Advice {
	case fish.Nothing:
		v.Feed, v.FeedWhy = p.T("Feed nothing today."), p.T("Better hungry than in worse water.")
	case fish.Half:
		v.Feed, v.FeedWhy = p.T("Feed half: %s.", say.Of(x.FeedTodayG, unit.Gram)), p.T("The water is half-way to a limit: see above.")
	default:
		v.Feed = p.T("Feed %s.", say.Of(x.FeedTodayG, unit.Gram))
		v.FeedWhy = p.T("As much as they eat in ten minutes, in two meals; take out what is left.")
		if t.State.Left {
			v.FeedWhy = p.T("A fifth less than usual, because some was left last time. Take out any food still lying there.")
		}
	}
	if t.State.FedAt != nil && w.Day(*t.State.FedAt) == w.Day(now) {
		v.FedToday = p.T("Fed today: %s.", say.Of(t.State.FedG, unit.Gram))
	}
	add := func(words say.Words, args ...any) { v.Day = append(v.Day, p.T(words, args...)) }
	add("That makes %s of ammonia nitrogen a day; without a filter it would rise by %.2g mg/L a day.", say.Of(x.TANG, unit.Gram), x.TANRiseMgL)
	if x.FilterEnough != nil {
		if *x.FilterEnough {
			add("The filter of %s is enough: %s would do.", say.Of(t.FilterM2, "m²"), say.Of(x.FilterM2Needed, "m²"))
		} else {
			add("The filter of %s is too small: %s are wanted. Feed less, or add surface.", say.Of(t.FilterM2, "m²"), say.Of(x.FilterM2Needed, "m²"))
		}
	}
	add("The feed is enough for %s to %s of leafy plants; here there are %s.",
		say.Figure(x.PlantM2Low, "m²"), say.Of(x.PlantM2High, "m²"), say.Of(t.PlantM2, "m²"))
	add("The filter uses up %s of alkalinity a day: %s of potassium bicarbonate replaces it.", say.Of(x.AlkalinityG, unit.Gram), say.Of(x.BicarbonateG,
		unit.Gram))
	add("Un-ionised ammonia %.3f mg/L; at this pH and temperature fish tolerate %.2g mg/L of total ammonia.", x.UnionisedMgL, x.TANLimitMgL)
	if t.State.Died > 0 {
		add("Of %d fish that were put in %d have died.", t.State.PutIn, t.State.Died)
	}
	v.Away = p.T(
		"Unfed they go without for about %.0f days. Over longer ones somebody feeds a weighed bag a day; never twice as much on the last day.",
		t.Trough().Bears(t.State),
	)
}

// cycle is how far a new filter has come, day by day.
func (v *fishView) cycle(t troughs.Trough, w who.Who, now time.Time) {
	p := w.Prefs
	v.Cycle = p.Say(t.State.Cycle(now).Says)
	figure := func(x *float64) string {
		if x == nil {
			return "–"
		}
		return p.Figure(*x, "mg/L")
	}
	list := t.State.Readings
	for i := len(list) - 1; i >= max(0, len(list)-fewReadings); i-- {
		r := list[i]
		v.Cycles = append(v.Cycles, cycleView{p.Say(w.Day(r.At).Short()), figure(r.TAN), figure(r.Nitrite), figure(r.Nitrate)})
	}
}

// fewReadings of a new filter are shown.
const fewReadings = 20

// act answers one of the page's forms.
func act[T any](
	s Pages,
	which string,
	read func(*face.Form) T,
	do func(context.Context, *store.Store, who.Who, ledger.Act, T) error,
) func(*gin.Context) error {
	return func(c *gin.Context) error {
		ctx, w := s.Me(c)
		f, act, err := s.ReadAct(c)
		if err != nil {
			return err
		}
		if x := read(f); !f.Any() {
			err = do(ctx, s.Store, w, act, x)
		}
		return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f, which) }, func() face.Outcome {
			return face.Outcome{Says: say.T("Written down."), Undo: act.ID, To: "/fish/" + act.On.String()}
		})
	}
}

func (s Pages) fed(c *gin.Context) error {
	return act(s, "fed", func(f *face.Form) fish.Fed { return face.Entered(f, troughs.FedFish) }, troughs.Feed)(c)
}

func (s Pages) read(c *gin.Context) error {
	return act(s, "read", func(f *face.Form) fish.Reading { return face.Entered(f, troughs.Read) }, troughs.LogReading)(c)
}

func (s Pages) stock(c *gin.Context) error {
	return act(s, "stock", func(f *face.Form) fish.Stock { return face.Entered(f, troughs.Stocked) }, troughs.Restock)(c)
}

func (s Pages) weigh(c *gin.Context) error {
	return act(s, "weigh", func(f *face.Form) fish.Sample { return face.Entered(f, troughs.Weighed) }, troughs.Weigh)(c)
}

func (s Pages) water(c *gin.Context) error {
	return act(s, "water", func(f *face.Form) fish.Added { return face.Entered(f, troughs.Changed) }, troughs.Change)(c)
}
