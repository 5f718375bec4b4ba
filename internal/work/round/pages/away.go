package pages

import (
	"errors"
	"math"
	"net/http"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"

	core "ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/round"
	solutionview "ulpa/internal/work/solution/view"
)

// whatWords are what happens to a thing while nobody is there.
var whatWords = map[string]say.Words{
	core.Dry: "dry", core.Band: "out of range", core.Cold: "cold", core.Late: "outgrown", core.Ripe: "over",
	core.Unrinsed: "unrinsed", core.Unfed: "unfed", core.Unknown: "unknown",
}

// spanView is one of the stretches of days that can be looked at.
type spanView struct {
	Path, Name string
	Here       bool
}

// lastView is something to do on the last day.
type lastView struct {
	Place, Do, Litres string
	Names             face.CutList[nameView]
	Minutes           int
	litres            float64
	names             []nameView
}

// nameView is a thing by its name, and where it is looked at.
type nameView struct{ Name, Path string }

// fareView is how one thing fares: the bar is as long as the days nobody is there.
type fareView struct {
	Name, Place, Path, Says, When, Word string
	Mark                                string // now, soon or done
	Sure, Risk                          float64
	Chance                              string
	Steps                               []face.StepView
}

// visitView is a day on which somebody must come.
type visitView struct {
	Day  string
	What []string
}

// cameView is what was forecast of a tank beside what was found.
type cameView struct {
	solutionview.FoundRow
	Name, Path string
}

// pastView is a closure that is over, with what was found.
type pastView struct {
	Name  string
	Tanks []cameView
}

// awayPage is how everything fares while nobody is there.
type awayPage struct {
	Lead, On string
	Spans    []spanView
	Day      []lastView
	Sum      string
	Visits   []visitView
	Whys     []string
	Fares    face.CutList[fareView] // that do not last, those first that fail first
	Lasts    face.CutList[fareView]
	Ticks    []tickView
	Past     []pastView
	Refused  string
}

// tickView is a midnight on the bars.
type tickView struct {
	X    float64
	Name string
}

// thingPage is where a thing is looked at.
func thingPage(t core.Thing) string {
	switch {
	case t.Tank != "":
		return "/tanks/" + t.Tank
	case t.Trough != "":
		return "/fish/" + t.Trough
	case t.Tray != "" && t.What != core.Late:
		return "/trays/" + t.Tray
	case t.What == core.Late:
		return "/batches/" + t.Batch + "/move"
	}
	return "/batches/" + t.Batch
}

func (s Pages) awayPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	var from calendar.Day
	status, refused := http.StatusOK, ""
	if text := c.Query("from"); text != "" {
		d, err := calendar.ParseDay(text)
		if err != nil {
			status, refused = http.StatusUnprocessableEntity, w.Prefs.Say(say.Why(err))
		}
		from = d
	}
	a, err := round.Away(ctx, s.Store, w, from)
	var wrong field.Errors
	if errors.As(err, &wrong) {
		status, refused = http.StatusUnprocessableEntity, w.Prefs.Say(say.Why(err))
	} else if err != nil {
		return err
	}
	v := awayOf(a, w.Prefs, c.Request.URL)
	v.Refused = refused
	s.Render(c, status, "away", "Round", v)
	return nil
}

func awayOf(a round.Absence, p say.Reader, here *url.URL) awayPage {
	v := awayPage{}
	whole, asked := face.Whole(here)
	for _, x := range a.Coming {
		v.Spans = append(v.Spans, spanView{"/away?from=" + x.From.String(), p.T("%s to %s", x.From.Short(), x.Back.Short()), x.From == a.From})
	}
	if a.Closed < 1 {
		v.Lead = p.T("Somebody is here every day of the weeks ahead.")
		return v
	}
	litres, minutes := a.Litres()
	v.On = p.Say(a.From.Long())
	v.Lead = p.Say(leadAway(a.Plan))
	if a.From > calendar.Of(a.Now.In(a.Leave.Location()))+1 {
		v.Lead = p.T("%s This assumes tanks are kept full until then, and the rest stays as it is today.", v.Lead)
	}
	if litres > 0 {
		v.Sum = p.T("%d minutes, and %s to carry: %s of %s.", minutes, say.Of(litres, unit.Litre),
			say.Plural(int(math.Ceil(litres/10)), "can"), say.Of(10, unit.Litre))
	} else if minutes > 0 {
		v.Sum = p.T("%d minutes.", minutes)
	}
	for _, x := range a.Day() { // what is done alike at one place is one line
		if n := len(v.Day); n == 0 || v.Day[n-1].Place != x.Place || v.Day[n-1].Do != p.Say(x.Do) {
			v.Day = append(v.Day, lastView{Place: x.Place, Do: p.Say(x.Do)})
		}
		l := &v.Day[len(v.Day)-1]
		l.names = append(l.names, nameView{x.Name, thingPage(x)})
		l.Minutes += x.Minutes
		if l.litres += x.Litres; l.litres > 0 {
			l.Litres = p.Format(l.litres, unit.Litre)
		}
	}
	for i := range v.Day {
		v.Day[i].Names = face.Cut(v.Day[i].names, face.Fewer(face.FewTasks, asked), whole)
	}
	days, what := a.Visits()
	for _, d := range days {
		x := visitView{Day: p.Say(d.Long())}
		at := map[string][]string{}
		var places []string
		for _, t := range what[d] {
			if at[t.Place] == nil {
				places = append(places, t.Place)
			}
			at[t.Place] = append(at[t.Place], t.Name)
		}
		for _, place := range places {
			if list := at[place]; len(list) > fewNames {
				x.What = append(x.What, p.T("%d at %s", len(list), say.Name(place)))
			} else {
				x.What = append(x.What, list...)
			}
		}
		v.Visits = append(v.Visits, x)
	}
	var whys []string
	names := map[string][]string{}
	for _, t := range a.Things {
		if len(t.Comes) > 0 && t.Why != nil {
			why := p.Say(t.Why)
			if names[why] == nil {
				whys = append(whys, why)
			}
			names[why] = append(names[why], t.Name)
		}
	}
	for _, why := range whys {
		who := say.List(say.Names(names[why]...)...)
		if n := len(names[why]); n > face.FewTasks && !asked {
			who = say.T("%d of them", n)
		}
		v.Whys = append(v.Whys, p.T("%s: %s", who, say.Name(why)))
	}
	var fails, lasts []core.Thing
	for _, t := range a.Things {
		if t.Lasts() {
			lasts = append(lasts, t)
		} else {
			fails = append(fails, t)
		}
	}
	fare := func(t core.Thing) fareView { return fareOf(t, a.Span, p) }
	v.Fares = face.CutAs(fails, face.Fewer(face.FewLines, asked), whole, fare)
	v.Lasts = face.CutAs(lasts, face.Fewer(face.FewLines, asked), whole, fare)
	v.Ticks = ticksOf(a.Span, p)
	for _, x := range a.Past {
		v.Past = append(v.Past, pastView{p.T("%s to %s", x.From.Short(), x.Back.Short()), foundOf(x, p)})
	}
	return v
}

// fewNames are said one by one.
const fewNames = 3

func leadAway(a core.Plan) say.Text {
	lead := say.T("Nobody is here for %s, from the evening of %s to %s.", say.Plural(a.Closed, "day"), a.From.Long(), a.Back.Long())
	fails, unsafe := a.Fails(), 0
	for _, x := range fails {
		if !x.Safe() {
			unsafe++
		}
	}
	switch {
	case len(fails) == 0:
		return say.T("%s Everything will last.", lead)
	case unsafe == 0:
		return say.T("%s %d of %d things will not last as they are; all will once the list is done.", lead, len(fails), len(a.Things))
	}
	return say.T("%s %d of %d things will not last as they are; %d of them still need somebody, or stay a risk.", lead, len(fails), len(a.Things), unsafe)
}

// ticksOf are the midnights, so many that their names have room.
func ticksOf(s core.Span, p say.Reader) (out []tickView) {
	every := max(1, int(s.Hours()/24/5))
	for d := s.From + 1; d <= s.Back; d++ {
		if int(d-s.From-1)%every != 0 {
			continue
		}
		if x := along(s, d.At(0, 0, s.Leave.Location())); x > 4 && x < 96 {
			out = append(out, tickView{x, p.Say(say.Date(d.UTC(), "Mon 2"))})
		}
	}
	return out
}

// along is how far along a bar a time is, in percent.
func along(s core.Span, at time.Time) float64 {
	return 100 * math.Min(1, math.Max(0, at.Sub(s.Leave).Hours()/s.Hours()))
}

func fareOf(t core.Thing, s core.Span, p say.Reader) fareView {
	v := fareView{Name: t.Name, Place: t.Place, Path: thingPage(t), Says: p.Say(t.Says), Sure: 100, Risk: 100, Steps: face.StepsOf(t.Steps, p)}
	if t.In5 != nil {
		v.Sure = along(s, *t.In5)
	}
	if t.In50 != nil {
		v.Risk = along(s, *t.In50)
	}
	if t.In5 == nil && t.In50 != nil {
		v.Sure = v.Risk
	}
	if t.What == core.Unknown {
		v.Sure, v.Risk = 0, 100
	}
	switch {
	case t.What == core.Unknown:
		v.When = p.T("Nobody can say")
	case t.In5 != nil && t.In50 != nil && *t.In5 != *t.In50:
		v.When = p.T("One time in twenty by %s, one in two by %s", say.Date(*t.In5, "Mon 2 Jan"), say.Date(*t.In50, "Mon 2 Jan"))
	case t.In50 != nil:
		v.When = p.T("From about %s", say.Date(*t.In50, "Mon 2 Jan"))
	}
	switch {
	case t.Lasts():
		v.Mark, v.Word = "done", p.T("lasts")
	case t.Safe():
		v.Mark, v.Word = "today", p.T("will last once that is done")
	default:
		v.Mark, v.Word = "now", p.Say(whatWords[t.What])
	}
	if t.What == core.Dry || t.What == core.Band || t.What == core.Cold {
		v.Chance = p.T("chance %s", say.Chance(t.Chance))
		if t.Act != "" && t.After < t.Chance-0.005 {
			v.Chance = p.T("chance %s, then %s", say.Chance(t.Chance), say.Chance(t.After))
		}
	}
	return v
}

// foundOf are the figures of tanks after some days without anybody.
func foundOf(x round.Came, p say.Reader) (out []cameView) {
	for _, t := range x.Tanks {
		for _, r := range solutionview.FoundRows(t.Stretch, p) {
			out = append(out, cameView{r, t.Name, "/tanks/" + t.Tank})
		}
	}
	return out
}
