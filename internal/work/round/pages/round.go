package pages

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"

	"github.com/gin-gonic/gin"

	"ulpa/core/away"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	batchesview "ulpa/internal/work/batches/view"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
)

// taskView is a task as it is shown, with the page where it is done.
type taskView struct {
	Key, Before, Code, After, What, Why string
	When                                string // now, today, soon
	Minutes                             int
	Acts                                bool // a page writes down what was done
	Path, Do                            string
	Place                               string
	For                                 string // to whom it is given, when it is not the whole stop's
	Mine                                bool   // to whoever looks at it
}

// doneView is a task that was ticked off or put off today.
type doneView struct {
	Entry, Says, Person, At string
	Skip                    bool
}

// stopView is a place on the walk, with its tasks.
type stopView struct {
	Place, Name, Path string
	Minutes           int
	Now               string // the most urgent word, "" when nothing is due
	Tasks             face.CutList[taskView]
	Done              face.CutList[doneView]
	Summary           string
	Costs             string // what it costs when it waits
	Below             bool   // the period has no time for it
	Line              bool   // it is the first of those
	For               string // who looks after it
	Mine              int    // so many of its tasks are given to whoever looks at it
	Gifts             []giftView
}

// nightView is a night to come, and what it means outside.
type nightView struct {
	Day, Low               string
	X, Top, Bottom, LabelY float64
	Frost                  bool
}

// readyView is something that can be harvested.
type readyView struct {
	Code, Path, Says string
}

// roundView is today's walk.
type roundView struct {
	Period        int // minutes that there are today
	Goals         []courseView
	Day           say.Text
	Lead          string
	Stop          *stopView
	Number, Count int
	Next          *stopView
	Then          []stopView
	Away          string
	AwayTasks     face.CutList[awayView]
	Nights        []nightView
	Zero          float64
	Freezing      string
	Ready         face.CutList[readyView]
	Print         []printedStop
	Minutes       int
	Took          []string // what was learned of how long things take
}

// printedStop is a stop on paper.
type printedStop struct {
	Name  string
	Lines []string
}

// awayView is how long things last until somebody comes again.
type awayView struct{ Word, Mark, Says, Path string }

// courseView is a goal of the season in a line.
type courseView struct{ Name, Says, Mark, Word string }

// courses are the nearest goals, and whether they are on course.
func (s Pages) courses(c *gin.Context, w who.Who) (out []courseView, err error) {
	ctx, _ := s.Me(c)
	list, err := goals.Courses(ctx, s.Store, w, face.FewTasks)
	for _, x := range list {
		out = append(out, courseView{x.Goal.Name, w.Prefs.T("%s, by %s", x.Goal.Wants(), x.Next.Short()), x.Mark, w.Prefs.Say(x.Says)})
	}
	return out, err
}

func (v roundView) Title() say.Text { return say.T("%s’s round", v.Day) }

func (s Pages) roundPage(c *gin.Context) error {
	ctx, w := s.Me(c)
	walk, err := round.Today(ctx, s.Store, w)
	if err != nil {
		return err
	}
	face.SetStrip(c, face.Strip{Today: walk.Today, Marks: walkMarks(walk, c.Request.URL, w.Prefs)})
	v := roundView{Day: say.Date(walk.Today.UTC(), "Monday"), Minutes: walk.Minutes()}
	var stops []stopView
	due, mine := 0, 0
	_, all := face.Whole(c.Request.URL)
	ordered := core.Order(walk.Stops)
	for _, x := range ordered {
		st := stopOf(x, walk, w, all)
		mine += st.Mine
		if len(x.Tasks) > 0 {
			due++
			v.Print = append(v.Print, printed(x, face.Fewer(onPaper, all), w.Prefs))
		}
		stops = append(stops, st)
	}
	v.choose(stops, c.Query("stop"), core.Fits(ordered, walk.Period))
	v.Lead = w.Prefs.Say(leadSentence(due, len(stops), mine, v.Minutes, walk.Period))
	if v.Stop != nil && w.May(who.Plan) {
		i := slices.IndexFunc(ordered, func(x core.Stop) bool { return x.Place == v.Stop.Place })
		v.Stop.Gifts = gifts(walk, ordered[i], face.Fewer(face.FewTasks, all), w.Prefs)
	}
	v.Period = walk.Period
	if v.Goals, err = s.courses(c, w); err != nil {
		return err
	}
	v.Took = tookWords(ordered, w.Prefs)
	v.away(walk, w.Prefs)
	v.nights(walk, w.Prefs)
	raised, err := batches.ReadOverview(ctx, s.Store, w)
	if err != nil {
		return err
	}
	var near []*batches.Line
	for i := range raised.Lines {
		if l := &raised.Lines[i]; l.InTrays() > 0 {
			near = append(near, l)
		}
	}
	v.Ready = face.CutAs(near, face.FewTasks, "/nursery?all=1", func(l *batches.Line) readyView {
		says, _ := batchesview.RaisedWords(l.Crop, l.Sown, walk.Today, l.Verdict)
		return readyView{l.Code, "/batches/" + l.ID.String(), w.Prefs.Say(says)}
	})
	s.Render(c, http.StatusOK, "round", "Round", v)
	return nil
}

func leadSentence(due, stops, mine, minutes, period int) say.Text {
	if due == 0 {
		return say.T("Nothing is due anywhere. A good day to look at what grows.")
	}
	lead := say.T("There is work at %d of %d places: %d minutes in all, and this period has %d. What cannot wait comes first.", due, stops, minutes, period)
	if minutes <= period {
		lead = say.T("There is work at %d of %d places: %d minutes, and this period has %d.", due, stops, minutes, period)
	}
	if mine > 0 {
		lead = say.T("%s Given to you: %s.", lead, say.Plural(mine, "task"))
	}
	return lead
}

func stopOf(x core.Stop, walk round.Walk, w who.Who, all bool) stopView {
	p := w.Prefs
	st := stopView{Place: x.Place, Name: x.Name, Path: "/?stop=" + x.Place, Minutes: x.Minutes, For: x.For, Mine: x.GivenTo(w.Name)}
	st.Tasks = face.CutAs(x.Tasks, face.Fewer(face.FewTasks, all), st.Path+"&all=1", func(t core.Task) taskView {
		path, do := round.PageOf(t)
		v := taskView{
			Key: t.Key.String(), Before: p.Say(t.Before), Code: t.Code, After: p.Say(t.After), What: p.Say(t.What()), Why: p.Say(t.Why),
			When: t.Urgency.Word(), Minutes: t.Minutes, Acts: t.Acts(), Path: path, Do: p.Say(do), Place: x.Place, Mine: t.For == w.Name,
		}
		if t.For != x.For {
			v.For = t.For
		}
		return v
	})
	if u, ok := x.Urgency(); ok {
		st.Now = u.Word()
		st.Summary, st.Costs = p.Say(x.Tasks[0].What()), p.Say(x.Tasks[0].Why)
		if n := len(x.Tasks); n > 1 {
			st.Summary = p.T("%s, and %d more", st.Summary, n-1)
		}
	}
	st.Done = face.CutAs(walk.Done[x.Place], face.Fewer(face.FewTasks, all), "/notebook?about="+x.Place, func(d round.Done) doneView {
		return doneView{d.Entry.String(), p.Say(d.Says), d.Person, face.Clock(d.At, w), d.Skip}
	})
	return st
}

// whens are the words of the urgencies.
var whens = map[string]say.Words{"now": "now", "today": "today", "soon": "soon"}

// onPaper are the tasks of a stop that are printed where the whole page was not asked for: paper
// has no more to press, and nobody does as many in a walk.
const onPaper = 60

// printed is a stop on paper.
func printed(x core.Stop, most int, r say.Reader) printedStop {
	p, few := printedStop{Name: x.Name}, face.Cut(x.Tasks, most, "")
	for _, t := range few.Shown {
		line := fmt.Sprintf("☐ %s (%s, %d min). %s", r.Say(t.What()), r.Say(whens[t.Urgency.Word()]), t.Minutes, r.Say(t.Why))
		if t.For != "" {
			line = r.T("%s For %s.", line, say.Name(t.For))
		}
		p.Lines = append(p.Lines, line)
	}
	if few.Hidden > 0 {
		p.Lines = append(p.Lines, r.T("%d more on the screen", few.Hidden))
	}
	return p
}

// tookWords are the minutes of today's tasks that were learned, a kind of task each.
func tookWords(stops []core.Stop, r say.Reader) (out []string) {
	said := map[string]bool{}
	for _, x := range stops {
		for _, t := range x.Tasks {
			if t.Times > 0 && !said[t.Timing()] {
				said[t.Timing()] = true
				out = append(out, r.T("%s: %s, the middle of %d times written down.", t.What(), say.Plural(t.Minutes, "minute"), t.Times))
			}
		}
	}
	return out
}

// choose picks the stop that was asked for, or the first where something is given to whoever
// looks, or where something is due, in the order to walk; fits is how many of those the period has time for.
func (v *roundView) choose(stops []stopView, asked string, fits int) {
	at := slices.IndexFunc(stops, func(st stopView) bool { return st.Place == asked })
	if at < 0 {
		at = slices.IndexFunc(stops, func(st stopView) bool { return st.Mine > 0 })
	}
	if at < 0 {
		at = slices.IndexFunc(stops, func(st stopView) bool { return st.Now != "" })
	}
	if at < 0 {
		return
	}
	v.Stop = &stops[at]
	var before []stopView
	for i, st := range stops {
		if st.Now == "" && i != at {
			continue
		}
		v.Count++
		st.Below = i >= fits
		switch {
		case i == at:
			v.Number = v.Count
		case i < at:
			before = append(before, st)
		default:
			v.Then = append(v.Then, st)
		}
	}
	if len(v.Then) > 0 {
		v.Next = &v.Then[0]
	}
	v.Then = append(v.Then, before...)
	if v.Next == nil && len(v.Then) > 0 {
		v.Next = &v.Then[0]
	}
	if i := slices.IndexFunc(v.Then, func(st stopView) bool { return st.Below }); i >= 0 {
		v.Then[i].Line = true
	}
}

// fewAway are named on the round; their own page has all.
const fewAway = 6

// away says what will not last until somebody is back.
func (v *roundView) away(walk round.Walk, p say.Reader) {
	if walk.Away().Closed < 1 {
		return
	}
	fails := walk.Away().Fails()
	v.AwayTasks = face.CutAs(fails, fewAway, "/away", func(t away.Thing) awayView {
		mark := "today"
		if !t.Safe() {
			mark = "now"
		}
		return awayView{p.Say(whatWords[t.What]), mark, t.Name, thingPage(t)}
	})
	says := say.T("Nobody is here for %s, from the evening of %s to %s.",
		say.Plural(walk.Away().Closed, "day"), walk.Away().From.Short(), walk.Away().Back.Short())
	switch n := len(fails); n {
	case 0:
		says = say.T("%s Everything will last.", says)
	case 1:
		says = say.T("%s One thing will not last.", says)
	default:
		says = say.T("%s %d things will not last.", says, n)
	}
	v.Away = p.Say(says)
}

func (v *roundView) nights(walk round.Walk, p say.Reader) {
	if len(walk.Nights) == 0 {
		return
	}
	low, high := 0.0, 0.0
	for _, n := range walk.Nights {
		low, high = math.Min(low, n.MinC), math.Max(high, n.MinC)
	}
	scale := 52 / math.Max(4, high-low)
	v.Zero = 20 + high*scale
	v.Freezing = p.Format(0, unit.Celsius)
	for i, n := range walk.Nights {
		y := 20 + (high-n.MinC)*scale
		x := nightView{Day: p.Say(say.Date(n.Day.UTC(), "Mon")), Low: p.Figure(n.MinC, unit.Celsius), X: 58 + 35*float64(i), Frost: n.MinC <= 0}
		if p.US { // a forecast in whole °C is one in whole °F
			x.Low = fmt.Sprintf("%.0f", p.Out(n.MinC, unit.Celsius))
		}
		x.Top, x.Bottom = math.Min(y, v.Zero), math.Max(y, v.Zero)
		x.LabelY = y - 5
		if n.MinC < 0 {
			x.LabelY = y + 15
		}
		v.Nights = append(v.Nights, x)
	}
}

func (s Pages) tick(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	r := round.TickRequest{ID: f.ID("id"), Task: f.Get("task"), Skip: f.Get("skip") != "", Unwritten: f.Get("unwritten") != ""}
	said, err := round.Tick(ctx, s.Store, w, r)
	if err != nil {
		return err
	}
	word := say.Words("Done: %s")
	switch {
	case r.Skip:
		word = "Not today: %s"
	case r.Unwritten:
		word = "Ticked off, what was done is not written down: %s"
	}
	if said.What == nil { // kept before, and settled since
		c.Redirect(http.StatusSeeOther, "/")
		return nil
	}
	return s.Lead(c, face.Outcome{Says: say.T(word, said.What), Undo: r.ID, To: "/?stop=" + said.Place.String()})
}

// StripOf is what stands beside every page of somebody.
func StripOf(ctx context.Context, s *store.Store, w who.Who, at *url.URL) (face.Strip, error) {
	walk, err := round.Today(ctx, s, w)
	return face.Strip{Today: walk.Today, Marks: walkMarks(walk, at, w.Prefs)}, err
}

// walkMarks is the strip of places that stands beside every page.
func walkMarks(walk round.Walk, at *url.URL, p say.Reader) []face.WalkMark {
	here := at.Query().Get("stop")
	var out []face.WalkMark
	for _, st := range walk.Stops {
		m := face.WalkMark{Name: st.Name, Path: "/?stop=" + st.Place, Says: p.T("nothing today"), Mark: "none", Here: at.Path == "/" && here == st.Place}
		if u, ok := st.Urgency(); ok {
			m.Mark = u.Word()
			m.Says = p.Say(st.Tasks[0].What())
			if n := len(st.Tasks); n > 1 {
				m.Says = p.T("%d to do", n)
			}
		} else if len(walk.Done[st.Place]) > 0 {
			m.Mark, m.Says = "done", p.T("all done")
		}
		if at.Path == "/places/"+st.Place {
			m.Here = true
		}
		out = append(out, m)
	}
	return out
}

// undo removes an entry and returns to the page it was undone from.
func (s Pages) undo(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	entry, err := face.PathID(c)
	if err != nil {
		return err
	}
	undo := notebook.Undo
	if f.Get("visit") != "" {
		undo = notebook.UndoVisit
	}
	if err := undo(ctx, s.Store, w, ledger.Act{ID: f.ID("id"), On: entry}); err != nil {
		return err
	}
	return s.Lead(c, face.Outcome{Says: say.T("Undone. The notebook keeps both."), To: face.LocalPath(f.Get("back"))})
}
